"""Predictions against what the group then measured."""

from __future__ import annotations

import unittest

from galvanic.bench.foretold import Foretold, in_words, remark
from galvanic.bench.loading import remark as under_load


class Predictions(unittest.TestCase):
    def test_the_plate_is_judged_by_the_sign_and_the_size_by_the_difference(self) -> None:
        self.assertTrue(Foretold(True, 1.10, 0.94).right_plate)
        self.assertAlmostEqual(Foretold(True, 1.10, 0.94).off_v, 0.16)
        self.assertFalse(Foretold(True, 0.90, -0.36).right_plate)
        self.assertTrue(Foretold(False, -0.40, -0.36).right_plate)

    def test_a_class_in_a_sentence(self) -> None:
        found = [Foretold(True, 1.10, 0.94), Foretold(True, 0.90, -0.36), Foretold(True, 0.50, 0.52)]
        self.assertEqual(
            in_words(found),
            "2 of 3 predictions named the right negative plate. Half of them were within 0.16\u202fV of what the group "
            "then measured.",
        )
        self.assertEqual(in_words([]), "")


class Remarks(unittest.TestCase):
    def test_what_no_two_plates_give_is_remarked_on_and_what_they_could_is_not(self) -> None:
        self.assertIn("did you mean millivolts?", remark(880.0))
        self.assertEqual([remark(v) for v in (0.0, 1.1, -2.7, 3.2)], [""] * 4)


class UnderLoad(unittest.TestCase):
    def test_more_volts_or_amperes_than_the_cell_has_are_remarked_on(self) -> None:
        self.assertIn("more than the 0.95", under_load("load", 1.5, 0.95))
        self.assertIn("other way round", under_load("load", -0.5, 0.95))
        self.assertIn("far more than a cell", under_load("short", 5.0, None))
        for kind, value, open_v in (("load", 0.5, 0.95), ("load", 0.5, None), ("short", 0.02, 0.95), ("load", -0.5, -0.95)):
            self.assertEqual(under_load(kind, value, open_v), "", (kind, value, open_v))
