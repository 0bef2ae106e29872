"""Repeats against the GUM's arithmetic and NIST's certified analyses of variance."""

import math
import re
import unittest
from pathlib import Path

import numpy as np
import scipy.stats
from hypothesis import given
from hypothesis import strategies as st

from galvanic.errors import NotEnoughData
from galvanic.statistics.repeats import last_digit_v, one_way, pooled, summarise, unsteady

NIST = Path(scipy.stats.__file__).parent / "tests" / "data" / "nist_anova"
VOLTS = st.lists(st.floats(-3, 3), min_size=2, max_size=8)


def nist(name):
    """Groups, and certified between and within sums of squares and F, of one NIST StRD file (in the SciPy wheel)."""
    text = (NIST / name).read_text()
    certified = re.search(r"Between\s+\S+\s+\d+\s+(\S+)\s+\S+\s+(\S+)\nWithin\s+\S+\s+\d+\s+(\S+)", text)
    groups = {}
    for line in text.splitlines()[60:]:
        fields = line.split()
        if len(fields) == 2:
            groups.setdefault(fields[0], []).append(float(fields[1]))
    return list(groups.values()), float(certified[1]), float(certified[3]), float(certified[2])


class LastDigit(unittest.TestCase):
    def test_a_digit_left_out_says_nothing_of_the_meter(self):
        self.assertEqual(last_digit_v([0.1, 0.01, 1.0]), 0.1)
        self.assertEqual(last_digit_v([1.0, 1.0]), 1.0)
        self.assertEqual(last_digit_v([]), 0.0)


class Repeats(unittest.TestCase):
    def test_three_readings_by_hand(self):
        # mean 0.94, s = 0.01, u_A = 0.01/√3, u_B = 0.01/√12 (JCGM 100:2008, 4.2 and 4.3.7).
        found = summarise([0.93, 0.94, 0.95], 0.01)
        self.assertAlmostEqual(found.mean_v, 0.94)
        self.assertAlmostEqual(found.s_v, 0.01)
        self.assertAlmostEqual(found.u_v, math.sqrt(0.01**2 / 3 + 0.01**2 / 12))

    def test_degrees_of_freedom_are_welch_and_satterthwaites(self):
        # ν = u⁴ / (u_A⁴ / (n − 1)): JCGM 100:2008, G.4.1, with a resolution that has no end of them.
        for values in ([0.93, 0.94, 0.95], [0.9, 1.1], [0.5, 0.52, 0.53, 0.55, 0.51]):
            found = summarise(values, 0.01)
            u_a = np.std(values, ddof=1) / math.sqrt(len(values))
            u = math.hypot(u_a, 0.01 / math.sqrt(12))
            self.assertAlmostEqual(found.dof, (len(values) - 1) * u**4 / u_a**4)

    def test_the_interval_is_students(self):
        # t(0.975, 2) = 4.303: any table of Student's t.
        found = summarise([0.93, 0.94, 0.95], 0.0)
        self.assertAlmostEqual((found.high_v - found.low_v) / 2, 4.303 * 0.01 / math.sqrt(3), places=5)

    def test_equal_readings_still_carry_the_last_digit(self):
        found = summarise([0.94, 0.94, 0.94], 0.01)
        self.assertAlmostEqual(found.u_v, 0.01 / math.sqrt(12))
        self.assertGreater(found.high_v, found.low_v)

    def test_one_reading_has_no_interval_and_none_is_refused(self):
        self.assertIsNone(summarise([0.94], 0.01).low_v)
        with self.assertRaises(NotEnoughData):
            summarise([], 0.01)

    @given(VOLTS, st.floats(-1, 1))
    def test_shifting_all_readings_shifts_the_mean_alone(self, values, by):
        one, other = summarise(values, 0.01), summarise([v + by for v in values], 0.01)
        self.assertAlmostEqual(other.mean_v, one.mean_v + by, places=9)
        self.assertAlmostEqual(other.s_v, one.s_v, places=9)


class BetweenGroups(unittest.TestCase):
    def test_sums_of_squares_agree_with_nist(self):
        # NIST StRD, analysis of variance: SiRstv, AtmWtAg, SmLs01 and SmLs04 (numbers with a large constant part).
        for name, digits in [("SiRstv.dat", 8), ("AtmWtAg.dat", 6), ("SmLs01.dat", 10), ("SmLs04.dat", 7)]:
            with self.subTest(name):
                groups, between, within, f = nist(name)
                found = one_way(groups)
                for got, certified in [(found.ss_between_v2, between), (found.ss_within_v2, within), (found.f, f)]:
                    self.assertLess(abs(got / certified - 1), 10.0**-digits)

    def test_variances_of_a_balanced_case_by_hand(self):
        # Means 1 and 3, inside variance 2 (n = 2): MSB = 4, between = (4 − 2)/2 = 1.
        found = one_way([[0.0, 2.0], [2.0, 4.0]])
        self.assertAlmostEqual(found.within_v2, 2.0)
        self.assertAlmostEqual(found.between_v2, 1.0)
        self.assertAlmostEqual(found.reproducibility_v, math.sqrt(3.0))

    def test_groups_that_agree_better_than_their_repeats_give_zero_not_a_negative_variance(self):
        self.assertEqual(one_way([[0.0, 2.0], [0.1, 1.9]]).between_v2, 0.0)

    def test_too_little_is_refused(self):
        for groups in ([], [[1.0, 2.0]], [[1.0], [2.0]]):
            with self.assertRaises(NotEnoughData):
                one_way(groups)

    def test_pooled_scatter_ignores_single_readings(self):
        found = pooled([[0.0, 2.0], [5.0], [1.0, 1.0]])
        self.assertAlmostEqual(found.s_v, 1.0)  # (2 + 0) over 2 degrees of freedom
        self.assertEqual(found.dof, 2)
        self.assertIsNone(pooled([[1.0], [2.0]]))


class Unsteady(unittest.TestCase):
    """Cochran's critical values: ISO 5725-2:1994, table 4, three readings each, 1 % (from memory)."""

    def of(self, largest, groups):
        """Whether one variance of `largest` among others of 1 is told from them."""
        plain, odd = [-1.0, 0.0, 1.0], [-math.sqrt(largest), 0.0, math.sqrt(largest)]
        return unsteady([odd, *[plain] * (groups - 1)], 0.0) == {0}

    def test_the_critical_values_are_those_of_the_standard(self):
        for groups, critical in ((4, 0.864), (5, 0.788), (6, 0.722), (8, 0.615), (10, 0.536)):
            largest = critical * (groups - 1) / (1.0 - critical)
            self.assertFalse(self.of(0.95 * largest, groups), groups)
            self.assertTrue(self.of(1.05 * largest, groups), groups)

    def test_sound_classes_lose_a_series_about_once_in_a_hundred(self):
        rng = np.random.default_rng(3)
        lost = sum(bool(unsteady(list(rng.normal(0.9, 0.004, (12, 3))), 0.001)) for _ in range(1000))
        self.assertLess(lost, 25)

    def test_several_mistyped_readings_do_not_hide_each_other(self):
        rng = np.random.default_rng(4)
        series = [list(values) for values in rng.normal(0.9, 0.004, (20, 3))]
        for place, typed in ((2, 940.0), (7, 0.49), (11, 9.4)):
            series[place][1] = typed
        self.assertEqual(unsteady(series, 0.001), {2, 7, 11})

    def test_the_same_digit_thrice_makes_nobody_odd_and_two_series_are_not_judged(self):
        self.assertEqual(unsteady([[0.95, 0.95, 0.95]] * 9 + [[0.95, 0.95, 0.96]], 0.01), frozenset())
        self.assertEqual(unsteady([[0.9, 0.9, 0.9], [0.9, 940.0, 0.9]], 0.001), frozenset())
        self.assertEqual(unsteady([[0.9], [0.95]], 0.01), frozenset())
