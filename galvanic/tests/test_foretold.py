"""Predictions against what the group then measured."""

from __future__ import annotations

import unittest

from galvanic.foretold import Foretold, in_words


class Predictions(unittest.TestCase):
    def test_the_plate_is_judged_by_the_sign_and_the_size_by_the_difference(self) -> None:
        self.assertTrue(Foretold(1.10, 0.94).right_plate)
        self.assertAlmostEqual(Foretold(1.10, 0.94).off_v, 0.16)
        self.assertFalse(Foretold(0.90, -0.36).right_plate)
        self.assertTrue(Foretold(-0.40, -0.36).right_plate)

    def test_a_class_in_a_sentence(self) -> None:
        found = [Foretold(1.10, 0.94), Foretold(0.90, -0.36), Foretold(0.50, 0.52)]
        self.assertEqual(
            in_words(found),
            "2 of 3 predictions named the right negative plate. Half of them were within 0.16\u202fV of what the group "
            "then measured.",
        )
        self.assertEqual(in_words([]), "")
