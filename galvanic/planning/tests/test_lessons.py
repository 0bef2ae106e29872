"""Lessons in words: they fit their minutes, in both languages."""

import unittest

from galvanic.cells import Cell
from galvanic.chemistry.accounts import predict
from galvanic.chemistry.varied import levels_of
from galvanic.condition import condition_of
from galvanic.planning.lessons import LESSONS, lesson
from galvanic.words import speaking


class Lessons(unittest.TestCase):
    def test_each_lesson_has_steps_questions_and_what_goes_wrong(self):
        for key, found in LESSONS.items():
            with self.subTest(key):
                self.assertTrue(all(step.minutes > 0 for step in found.steps))
                self.assertTrue(all(ask.endswith("?") for ask in found.asks))
                self.assertTrue(found.expect and found.wrong and found.early)

    def test_a_lesson_is_said_in_the_language_around(self):
        english = lesson("demonstration")
        with speaking("de"):
            german = lesson("demonstration")
        self.assertEqual(english.minutes, german.minutes)
        for one, other in zip(english.steps, german.steps, strict=True):
            self.assertNotEqual(one.what, other.what)
        self.assertIsNone(lesson("nothing"))


class WhatComesOut(unittest.TestCase):
    """What lessons say to expect is what the model has for zinc and copper in lemon juice."""

    cell = Cell("zinc", "lemon-juice", "copper")

    def found(self, *texts, cell=cell):
        levels = levels_of(cell, [condition_of(text) for text in texts])
        return [one.open_v for one in levels], [one.short_a for one in levels]

    def test_salt_raises_the_current_and_lowers_the_volts(self):
        volts, amps = self.found("0 g salt", "1 g salt", "4 g salt")
        self.assertEqual(volts, sorted(volts, reverse=True))
        self.assertTrue(0.05 < volts[0] - volts[-1] < 0.3)
        self.assertEqual(amps, sorted(amps))
        self.assertGreater(amps[-1], 1.5 * amps[0])

    def test_distance_and_depth_move_the_current_alone(self):
        for texts, grows in ((("spacing 1 cm", "spacing 4 cm"), False), (("1 cm deep", "4 cm deep"), True)):
            volts, amps = self.found(*texts)
            self.assertAlmostEqual(volts[0], volts[1], places=3)
            self.assertEqual(amps[1] > amps[0], grows)
            self.assertLessEqual(max(amps) / min(amps), 4.0 + 1e-6)  # at most in step

    def test_where_the_liquid_conducts_badly_distance_counts_more(self):
        falls = []
        for liquid in ("lemon-juice", "tap-water"):
            _, amps = self.found("spacing 1 cm", "spacing 8 cm", cell=Cell("zinc", liquid, "copper"))
            falls.append(amps[0] / amps[1])
        self.assertGreater(falls[1], 1.2 * falls[0])

    def test_a_hundred_times_weaker_moves_the_volts_by_hundredths(self):
        volts, amps = self.found("undiluted", "1 part in 100")
        self.assertLess(abs(volts[1] - volts[0]), 0.05)
        self.assertLess(amps[1], 0.5 * amps[0])

    def test_dull_copper_gives_more_at_first(self):
        _, (dull, rubbed) = self.found("as it was", "freshly rubbed")
        self.assertGreater(dull, 1.5 * rubbed)

    def test_sour_liquids_lie_close_and_salt_water_below(self):
        liquids = ("lemon-juice", "orange-juice", "vinegar", "soda-water", "potato", "salt-water")
        *sour, salt = [one["rest"].volts_v for one in predict([Cell("zinc", liquid, "copper") for liquid in liquids])]
        self.assertLess(max(sour) - min(sour), 0.1)
        self.assertTrue(0.05 < min(sour) - salt < 0.25)
