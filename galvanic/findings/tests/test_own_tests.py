"""Tests that groups do at the bench: what is offered moves the model, and the way of the reading decides."""

from __future__ import annotations

import unittest

from galvanic.cells import Cell
from galvanic.chemistry.half import Half
from galvanic.chemistry.rubbing import rubbed
from galvanic.findings.claims import CAUSES
from galvanic.findings.own_tests import CHANGES_V, STEPS, BenchTest, earlier, tests_of, weigh_test

JUICE = Cell("aluminium", "rhubarb-juice", "copper")


class Offered(unittest.TestCase):
    def test_each_is_of_a_cause_that_can_be_claimed_and_goes_the_way_of_the_model(self):
        self.assertLessEqual(set(STEPS), set(CAUSES))
        (skin,) = tests_of("film", JUICE)
        self.assertEqual((skin.key, skin.way), ("aluminium:film", "rises"))  # a negative plate that falls: the reading rises
        self.assertAlmostEqual(skin.moves_v, rubbed(Half.of("aluminium", "rhubarb-juice")).falls_v)
        (copper,) = tests_of("no_ions", Cell("zinc", "lemon-juice", "copper"))
        self.assertEqual((copper.key, copper.way), ("copper:traces", "rises"))

    def test_what_moves_nothing_and_what_is_no_cause_of_a_plate_is_not_offered(self):
        self.assertEqual(tests_of("film", Cell("zinc", "lemon-juice", "copper")), ())
        for cause in ("leads", "offset", "electronegativity"):
            self.assertEqual(tests_of(cause, JUICE), ())


class Weighed(unittest.TestCase):
    UP, DOWN = BenchTest("a", "zinc: stir", 0.07), BenchTest("b", "copper: stir", -0.03)

    def test_the_way_decides_and_not_the_size(self):
        for test, after, code in (
            (self.UP, 0.97, "fits"), (self.UP, 1.6, "fits"), (self.UP, 0.90, "contradicted"),
            (self.DOWN, 0.90, "fits"), (self.DOWN, 0.97, "contradicted"),
        ):  # fmt: skip
            self.assertEqual(weigh_test(test, 0.94, after).code, code, (test.key, after))

    def test_millivolts_typed_as_volts_and_what_the_model_no_longer_offers_are_kept_and_not_weighed(self):
        slip = weigh_test(self.UP, 940.0, 1010.0)
        self.assertEqual((slip.code, "millivolts" in slip.text), ("cannot_tell", True))
        old = weigh_test(earlier("copper:traces"), 0.94, 1.01)
        self.assertEqual((old.code, "Copper" in old.text, "+0.07" in old.text), ("cannot_tell", True, True))

    def test_what_a_last_digit_may_do_is_no_change(self):
        just = weigh_test(self.UP, 0.94, 0.94 + CHANGES_V)
        under = weigh_test(self.UP, 0.94, 0.94 + CHANGES_V - 0.001)
        self.assertEqual((just.code, under.code), ("fits", "contradicted"))
        self.assertIn("hardly moved", under.text)
        self.assertIn("rises", under.text)
        self.assertIn("falls", weigh_test(self.DOWN, 0.94, 0.94).text)
