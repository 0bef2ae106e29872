"""The next level is where a quadratic would gain most, and one that can be set."""

import itertools
import math
import unittest

import numpy as np

from galvanic.planning.next_level import next_level
from galvanic.reference.variables import variables


def determinant(levels):
    x = np.array(levels)
    columns = np.column_stack([np.ones(len(x)), x, x**2])
    return np.linalg.det(columns.T @ columns)


class Next(unittest.TestCase):
    def test_between_two_ends_it_is_the_middle_of_the_scale_of_the_fit(self):
        # the D-optimal design for a quadratic has the two ends and the middle (Atkinson et al. 2007, ch. 11)
        spacing = variables()["spacing"]
        self.assertAlmostEqual(next_level(spacing, lambda cm: cm, [1.0, 8.0]), 4.5, delta=0.6)
        self.assertAlmostEqual(next_level(spacing, math.log, [1.0, 8.0]), 2.8, delta=0.9)

    def test_of_what_can_be_proposed_no_other_level_has_a_larger_determinant(self):
        temperature = variables()["temperature"]
        for there in itertools.combinations((5.0, 10.0, 20.0, 30.0, 40.0), 3):
            found = next_level(temperature, lambda c: c, there)
            middles = [0.5 * (a + b) for a, b in zip(there, there[1:], strict=False)]
            others = {*temperature.levels, *middles} - set(there)
            self.assertGreaterEqual(determinant([*there, found]) * (1 + 0.1), max(determinant([*there, c]) for c in others))

    def test_counts_are_whole_words_have_none_and_one_level_asks_for_nothing(self):
        self.assertEqual(next_level(variables()["pairs"], lambda n: n, [1.0, 3.0]), 2.0)
        self.assertIsNone(next_level(variables()["pairs"], lambda n: n, [1.0, 2.0, 3.0]))
        self.assertIsNone(next_level(variables()["stirring"], lambda n: n, [0.0, 1.0]))
        self.assertIsNone(next_level(variables()["spacing"], lambda n: n, [2.0]))
