"""Slopes, two-way analysis, random effects and settling, against NIST, statsmodels and closed forms."""

import math
import re
import unittest
import warnings
from pathlib import Path

import numpy as np
import scipy.stats
import statsmodels.api as sm
import statsmodels.formula.api as smf
from pandas import DataFrame

from galvanic.bench.settling import settling
from galvanic.errors import NotEnoughData
from galvanic.statistics.effects import slope, two_way
from galvanic.statistics.repeats import one_way

LINES = Path(scipy.stats.__file__).parent / "tests" / "data" / "nist_linregress" / "Norris.dat"


class Slopes(unittest.TestCase):
    def test_a_line_agrees_with_nist(self):
        # NIST StRD, linear regression, Norris (in the SciPy wheel).
        text = LINES.read_text()
        b0, u0 = map(float, re.search(r"B0\s+(-?\d\S*)\s+(\S+)", text).groups())
        b1, u1 = map(float, re.search(r"B1\s+(-?\d\S*)\s+(\S+)", text).groups())
        s = float(re.search(r"Residual\s+Standard Deviation\s+(\d\S*)", text)[1])
        rows = [line.split() for line in text.splitlines()[60:] if len(line.split()) == 2]
        y, x = zip(*((float(a), float(b)) for a, b in rows), strict=True)
        found = slope(x, y)
        for got, certified in [
            (found.intercept, b0), (found.slope, b1), (found.u_intercept, u0), (found.u_slope, u1), (found.s, s),
        ]:  # fmt: skip
            self.assertLess(abs(got / certified - 1), 1e-9)

    def test_three_liquids_give_an_honestly_wide_interval(self):
        found = slope([2.3, 4.0, 6.5], [0.95, 0.93, 0.90])
        outside = sm.OLS([0.95, 0.93, 0.90], sm.add_constant([2.3, 4.0, 6.5])).fit().conf_int()[1]
        self.assertAlmostEqual(found.low, outside[0], places=9)
        self.assertAlmostEqual(found.high, outside[1], places=9)

    def test_too_few_or_all_at_one_place_is_refused(self):
        for x in ([1.0, 2.0], [1.0, 1.0, 1.0]):
            with self.assertRaises(NotEnoughData):
                slope(x, [0.1] * len(x))


class PairAndElectrolyte(unittest.TestCase):
    def data(self, seed, unbalanced):
        rng = np.random.default_rng(seed)
        rows = [
            (p, q, 0.3 * i - 0.1 * j + 0.05 * i * j + rng.normal(0, 0.02))
            for i, p in enumerate("xyz")
            for j, q in enumerate("uvw")
            for _ in range(1 + (i + 2 * j) % 3 if unbalanced else 3)
        ]
        return [list(column) for column in zip(*rows, strict=True)]

    def test_sums_of_squares_agree_with_statsmodels_balanced_and_not(self):
        for unbalanced in (False, True):
            with self.subTest(unbalanced=unbalanced):
                p, q, v = self.data(1, unbalanced)
                model = smf.ols("v ~ C(p) * C(q)", DataFrame({"p": p, "q": q, "v": v})).fit()
                outside = sm.stats.anova_lm(model, typ=2)
                found = two_way(p, q, v)
                for effect, row in [
                    (found.pair, "C(p)"), (found.electrolyte, "C(q)"), (found.interaction, "C(p):C(q)"),
                ]:  # fmt: skip
                    self.assertAlmostEqual(effect.ss_v2, outside.loc[row, "sum_sq"], places=10)
                    self.assertAlmostEqual(effect.f, outside.loc[row, "F"], places=6)
                    self.assertAlmostEqual(effect.p, outside.loc[row, "PR(>F)"], places=8)
                self.assertEqual(found.residual.dof, int(outside.loc["Residual", "df"]))

    def test_with_one_reading_a_cell_the_interaction_is_the_residual(self):
        found = two_way(["x", "x", "y", "y"], ["u", "v", "u", "v"], [0.1, 0.2, 0.4, 0.5])
        self.assertIsNone(found.interaction)
        self.assertEqual(found.residual.dof, 1)

    def test_too_little_is_refused(self):
        for p, q in ((["x", "x"], ["u", "v"]), (["x", "y"], ["u", "u"]), (["x", "y"], ["u", "v"])):
            with self.assertRaises(NotEnoughData):
                two_way(p, q, [0.1, 0.2])


class RandomEffects(unittest.TestCase):
    def test_balanced_variances_agree_with_statsmodels_mixedlm(self):
        # REML and moments agree where the design is balanced and the estimate is inside the allowed range.
        rng = np.random.default_rng(4)
        groups = [list(0.95 + shift + rng.normal(0, 0.01, 4)) for shift in rng.normal(0, 0.04, 8)]
        frame = DataFrame({"v": [x for g in groups for x in g], "g": [i for i, g in enumerate(groups) for _ in g]})
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # it warns that variances cannot be negative
            outside = smf.mixedlm("v ~ 1", frame, groups=frame["g"]).fit(reml=True)
        found = one_way(groups)
        self.assertAlmostEqual(found.within_v2, outside.scale, delta=0.01 * outside.scale)
        between = float(outside.cov_re.iloc[0, 0])
        self.assertAlmostEqual(found.between_v2, between, delta=0.02 * between)


class Settling(unittest.TestCase):
    def trace(self, tau, end=0.94, start=0.70, seconds=60, noise=0.0, seed=1):
        t = np.arange(0.0, seconds, 1.0)
        return t, end + (start - end) * np.exp(-t / tau) + np.random.default_rng(seed).normal(0, noise, len(t))

    def test_the_drift_of_an_exponential_and_the_time_still_to_wait(self):
        t, v = self.trace(30.0)
        found = settling(t, v)
        self.assertFalse(found.steady)
        self.assertAlmostEqual(found.drift_v_per_s, 0.24 / 30 * math.exp(-54.5 / 30), delta=1e-4)
        self.assertAlmostEqual(found.end_v, 0.94, delta=0.003)
        self.assertAlmostEqual(found.wait_s, 30 * math.log(0.24 / 30 / 2e-4) - 59, delta=4)

    def test_a_settled_trace_is_steady_and_waits_no_longer(self):
        found = settling(*self.trace(5.0, noise=0.0003))
        self.assertTrue(found.steady)
        self.assertEqual(found.wait_s, 0.0)
        self.assertAlmostEqual(found.scatter_v, 0.0003, delta=0.0002)

    def test_a_steady_climb_has_no_end_to_wait_for(self):
        t = np.arange(30.0)
        found = settling(t, 0.5 + 0.001 * t)
        self.assertEqual((found.steady, found.wait_s), (False, None))
        self.assertAlmostEqual(found.drift_v_per_s, 0.001)

    def test_traces_that_say_nothing_are_refused(self):
        for t, v in (([], []), ([0, 1], [0, 1]), ([0, 0, 1], [1, 1, 1]), ([0, 1, 2], [1, 1])):
            with self.assertRaises(NotEnoughData):
                settling(t, v)
