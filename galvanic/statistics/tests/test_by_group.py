"""Slopes with intervals by group: against statsmodels' MixedLM, and by what they cover on simulated classes."""

import unittest

import numpy as np
from statsmodels.regression.mixed_linear_model import MixedLM

from galvanic.errors import NotEnoughData
from galvanic.simulated.one_changed import a_class
from galvanic.statistics.by_group import slope_by_group

CLASSES = 600


class Slopes(unittest.TestCase):
    def test_it_agrees_with_a_mixed_model_where_all_groups_have_all_levels(self):
        """MixedLM with random intercept and slope, REML: the same slope, and with a random slope about the same uncertainty."""
        rng = np.random.default_rng(5)
        names, x, y = a_class(rng, groups=12, each=4, slope=0.03, differ=0.02, noise=0.005)
        ours = slope_by_group(names, x, y)
        design = np.column_stack([np.ones(len(x)), x])
        outside = MixedLM(np.array(y), design, groups=np.array(names), exog_re=design).fit(reml=True)
        self.assertAlmostEqual(ours.slope, outside.fe_params[1], places=6)
        self.assertAlmostEqual(ours.u / outside.bse_fe[1], 1.0, delta=0.15)

    def test_no_effect_is_seen_where_there_is_none_in_all_but_one_class_in_twenty(self):
        for groups, each, differ in ((4, 3, 0.0), (8, 3, 0.0), (6, 2, 0.01)):
            rng = np.random.default_rng(11)
            seen = sum(slope_by_group(*a_class(rng, groups, each, 0.0, differ)).shown for _ in range(CLASSES))
            with self.subTest(groups=groups, each=each):
                self.assertLessEqual(seen / CLASSES, 0.07)  # 5 %, and two standard errors of counting 600

    def test_intervals_hold_the_truth(self):
        rng = np.random.default_rng(3)
        held = 0
        for _ in range(CLASSES):
            found = slope_by_group(*a_class(rng, 8, 3, 0.03, 0.01))
            held += found.low <= 0.03 <= found.high
        self.assertGreaterEqual(held / CLASSES, 0.93)
        self.assertLessEqual(held / CLASSES, 0.97)

    def test_what_a_group_has_for_itself_drops_out(self):
        names, x = ["a", "a", "b", "b", "c", "c"], [1.0, 2.0, 2.0, 4.0, 4.0, 8.0]
        y = [shift + 0.1 * at for shift, at in zip((0.0, 0.0, 5.0, 5.0, -3.0, -3.0), x, strict=True)]
        found = slope_by_group(names, x, y)
        self.assertAlmostEqual(found.slope, 0.1)
        self.assertTrue(found.within)

    def test_one_level_each_is_group_against_group_and_too_few_are_refused(self):
        found = slope_by_group(["a", "b", "c", "d"], [1.0, 2.0, 3.0, 4.0], [1.0, 2.1, 2.9, 4.0])
        self.assertFalse(found.within)
        for names, x in ((["a", "b"], [1.0, 2.0]), ([], []), (["a", "b", "c"], [2.0, 2.0, 2.0])):
            with self.assertRaises(NotEnoughData):
                slope_by_group(names, x, [1.0] * len(x))
