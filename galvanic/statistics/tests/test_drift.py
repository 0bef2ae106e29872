"""The shared cell over time."""

import unittest

import numpy as np
import statsmodels.formula.api as smf
from pandas import DataFrame

from galvanic.errors import NotEnoughData
from galvanic.statistics.drift import Shared, shared_cell_drift


def room(rate_v_per_hour=0.0, s_v=0.004, seed=3):
    """Three readings first and last by six groups with levels of their own; one group left early."""
    rng = np.random.default_rng(seed)
    return [
        Shared(group, minute, 0.95 + 0.02 * i + rate_v_per_hour * minute / 60 + rng.normal(0, s_v))
        for i, group in enumerate("abcdef")
        for minute in ((6, 7, 8) if group == "f" else (6, 7, 8, 44, 45, 47 + i))
    ]


class TheSharedCell(unittest.TestCase):
    def test_slope_uncertainty_and_interval_agree_with_an_analysis_of_covariance(self):
        readings = room(-0.03)
        data = DataFrame([(r.group, r.minute / 60, r.volts_v) for r in readings], columns=["g", "t", "v"])
        outside = smf.ols("v ~ t + C(g)", data).fit()
        found = shared_cell_drift(readings)
        self.assertAlmostEqual(found.v_per_hour, outside.params["t"], places=9)
        self.assertAlmostEqual(found.u_v_per_hour, outside.bse["t"], places=9)
        self.assertAlmostEqual(found.low_v_per_hour, outside.conf_int()[0]["t"], places=9)
        self.assertEqual((found.groups, found.n), (6, 33))

    def test_a_drift_is_shown_when_there_is_one_and_rarely_when_there_is_none(self):
        self.assertTrue(shared_cell_drift(room(-0.04)).shown)
        false = sum(shared_cell_drift(room(0.0, seed=seed)).shown for seed in range(200))
        self.assertLess(false, 20)  # 5 % of 200 are expected; 20 would be seen less than once in ten thousand

    def test_levels_of_groups_are_no_drift(self):
        found = shared_cell_drift([Shared(g, t, v) for g, v in [("a", 0.9), ("b", 1.1)] for t in (5.0, 45.0)])
        self.assertAlmostEqual(found.v_per_hour, 0.0, places=12)

    def test_one_time_or_nothing_to_spare_is_refused(self):
        for readings in ([], [Shared("a", 5, 0.9), Shared("b", 9, 0.9)], [Shared("a", 5, 0.9), Shared("a", 45, 0.8)]):
            with self.subTest(readings=readings), self.assertRaises(NotEnoughData):
                shared_cell_drift(readings)
