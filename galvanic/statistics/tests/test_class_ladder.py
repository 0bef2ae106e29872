"""A class's ladder: intervals that hold when groups keep their plates and meters. Coverage in full: bench/coverage.py."""

import unittest
from itertools import combinations

import numpy as np

from galvanic.statistics.class_ladder import fit_class
from galvanic.statistics.ladder import Difference, fit

TRUE_V = {"a": 0.0, "b": 0.3, "c": 0.7, "d": 1.1}


def drawn(rng, groups=8, plates=0.0, meter=0.0, cell=0.005, rough=0.0):
    """Every pair by every group, with what a group keeps."""
    found = []
    for g in range(groups):
        own = {name: rng.normal(0.0, plates) for name in TRUE_V}
        offset = rng.normal(0.0, meter)
        for low, high in combinations(TRUE_V, 2):
            value = TRUE_V[high] + own[high] - TRUE_V[low] - own[low] + offset + rng.normal(0.0, cell)
            value += rng.normal(0.0, rough) if "b" in (low, high) else 0.0
            found.append(Difference(high, low, float(value), 0.002, f"g{g}"))
    return found


def share_covered(classes, **kinds):
    """How often the 95 % interval of d above a holds, and how often two standard uncertainties of the plain fit do."""
    rng = np.random.default_rng(7)
    inside = plain = 0
    for _ in range(classes):
        values = drawn(rng, **kinds)
        for fitted, reach in ((fit_class(values), None), (fit(values), 2.0)):
            by_v, u_v = fitted.difference_v("d", "a")
            held = abs(by_v - 1.1) <= (fitted.reach_v("d", "a") if reach is None else reach * u_v)
            inside, plain = (inside + held, plain) if reach is None else (inside, plain + held)
    return inside / classes, plain / classes


class Intervals(unittest.TestCase):
    def test_they_hold_when_groups_keep_their_plates_where_the_plain_fit_is_far_too_sure(self):
        covered, plain = share_covered(120, plates=0.02)
        self.assertTrue(0.9 <= covered <= 0.99, covered)
        self.assertLess(plain, 0.88)

    def test_they_hold_for_independent_values_and_for_few_groups(self):
        for kinds in ({"cell": 0.02}, {"cell": 0.02, "groups": 3}, {"meter": 0.02}):
            covered, _ = share_covered(100, **kinds)
            self.assertTrue(0.9 <= covered <= 1.0, (kinds, covered))

    def test_the_kinds_of_scatter_are_told_apart(self):
        rng = np.random.default_rng(3)
        kept = fit_class(drawn(rng, groups=30, plates=0.03, cell=0.005)).scatter
        off = fit_class(drawn(rng, groups=30, meter=0.03, cell=0.005)).scatter
        self.assertAlmostEqual(kept.plates_v, 0.03, delta=0.006)
        self.assertLess(kept.meter_v, 0.012)
        self.assertAlmostEqual(off.meter_v, 0.03, delta=0.008)
        self.assertLess(off.plates_v, 0.006)

    def test_a_rough_plate_gets_wider_bars_of_its_own(self):
        fitted = fit_class(drawn(np.random.default_rng(5), cell=0.004, rough=0.05))
        self.assertEqual(list(fitted.scatter.rough), ["b"])
        self.assertGreater(fitted.difference_v("b", "a")[1], 2.0 * fitted.difference_v("d", "c")[1])


class Unfinished(unittest.TestCase):
    def test_no_interval_is_wider_than_a_volt_however_little_there_is(self):
        widest = 0.0
        for seed in range(80):
            rng = np.random.default_rng(seed)
            values = drawn(rng, groups=int(rng.integers(2, 6)), plates=0.015, meter=0.01, cell=0.01)
            some = [values[i] for i in sorted(rng.permutation(len(values))[: int(rng.integers(2, 9))])]
            fitted = fit_class(some)
            if fitted.dof >= 1:
                widest = max([widest, *(fitted.reach_v(name, fitted.parts[0][0]) for name in fitted.parts[0])])
        self.assertLess(widest, 1.0)
        self.assertGreater(widest, 0.05)  # and what is hardly known is not called certain

    def test_a_class_that_says_nothing_of_its_scatter_has_the_usual_one(self):
        two = [Difference("b", "a", 0.3, 1e-6, "g0"), Difference("b", "a", 0.3, 1e-6, "g1")]
        scatter = fit_class([*two, Difference("c", "a", 0.7, 1e-6, "g0")]).scatter
        self.assertTrue(0.002 < scatter.cell_v < 0.03, scatter)


class AgainstOutside(unittest.TestCase):
    def test_one_value_a_group_is_the_plain_weighted_fit_with_its_extra_scatter(self):
        """Where nothing is kept from cell to cell, restricted maximum likelihood and Paule and Mandel nearly agree."""
        rng = np.random.default_rng(11)
        values = [
            Difference(high, low, TRUE_V[high] - TRUE_V[low] + float(rng.normal(0.0, 0.02)), 0.002, f"g{i}")
            for i, (low, high) in enumerate([*combinations(TRUE_V, 2)] * 6)
        ]
        ours, plain = fit_class(values), fit(values)
        self.assertAlmostEqual(ours.scatter.cell_v, plain.tau_v, delta=0.05 * plain.tau_v)
        for name in ("b", "c", "d"):
            self.assertAlmostEqual(ours.difference_v(name, "a")[0], plain.difference_v(name, "a")[0], places=6)
            self.assertAlmostEqual(ours.difference_v(name, "a")[1] / plain.difference_v(name, "a")[1], 1.0, delta=0.05)

    def test_balanced_random_groups_are_those_of_statsmodels(self):
        """One pair read twice by each group: a random intercept, as statsmodels' MixedLM (REML) finds it."""
        from statsmodels.regression.mixed_linear_model import MixedLM

        rng = np.random.default_rng(2)
        pairs = (("b", "a"), ("c", "a"))
        values, groups = [], []
        for g in range(14):
            offset = rng.normal(0.0, 0.03)
            for high, low in pairs * 2:
                values.append(
                    Difference(high, low, TRUE_V[high] - TRUE_V[low] + offset + rng.normal(0.0, 0.01), 1e-6, f"g{g}")
                )
                groups.append(g)
        design = np.array([[d.red == "b", d.red == "c"] for d in values], dtype=float)
        outside = MixedLM(np.array([d.volts_v for d in values]), design, groups=np.array(groups)).fit(reml=True)
        ours = fit_class(values)
        self.assertAlmostEqual(ours.difference_v("b", "a")[0], outside.fe_params[0], delta=1e-4)
        # What groups keep lies in their meter and in plate a alike here: together it is their intercept.
        kept = ours.scatter.meter_v**2 + ours.scatter.plates_v**2
        self.assertAlmostEqual(kept**0.5, float(outside.cov_re[0, 0]) ** 0.5, delta=0.15 * kept**0.5)

    def test_groups_in_another_order_give_the_same_ladder(self):
        values = drawn(np.random.default_rng(1), plates=0.02, meter=0.01)
        one, other = fit_class(values), fit_class(values[::-1])
        for name in ("b", "c", "d"):
            self.assertAlmostEqual(one.difference_v(name, "a")[0], other.difference_v(name, "a")[0], places=9)
            self.assertAlmostEqual(one.reach_v(name, "a"), other.reach_v(name, "a"), places=6)
