"""Exponentials through traces, against certified values and against traces whose truth is known."""

import unittest

import numpy as np

from galvanic.errors import NotEnoughData, OutOfRange
from galvanic.statistics.decay import MOST_POINTS, fit_decay, last_digit, remembers

# NIST Statistical Reference Datasets, nonlinear regression, MGH17 (J. Moré, B. Garbow, K. Hillstrom; M. Osborne 1972):
# y = b1 + b2·exp(−x·b4) + b3·exp(−x·b5), x = 0, 10, …, 320. Data and certified values from memory; the certified sum of squares
# would not come out with a wrong digit.
MGH17_Y = [
    0.844, 0.908, 0.932, 0.936, 0.925, 0.908, 0.881, 0.850, 0.818, 0.784, 0.751, 0.718, 0.685, 0.658, 0.628, 0.603, 0.580,
    0.558, 0.538, 0.522, 0.506, 0.490, 0.478, 0.467, 0.457, 0.448, 0.438, 0.431, 0.424, 0.420, 0.414, 0.411, 0.406,
]  # fmt: skip
MGH17 = {"level": 3.7541005211e-01, "slow": 1.9358469127e00, "fast": -1.4646871366e00, "b4": 1.2867534640e-02, "b5": 2.2122699662e-02}  # fmt: skip
MGH17_RSS, MGH17_S = 5.4648946975e-05, 1.3970497866e-03
# Standard deviations of the estimates, certified too.
MGH17_U = {"level": 2.0723153551e-03, "b4": 4.4861358114e-04, "b5": 8.9471996575e-04}


class Certified(unittest.TestCase):
    def test_two_exponentials_and_a_level(self):
        found = fit_decay([10.0 * i for i in range(33)], MGH17_Y)
        fast, slow = found.parts
        self.assertAlmostEqual(found.level.value / MGH17["level"], 1.0, places=5)
        self.assertAlmostEqual(slow.amount.value / MGH17["slow"], 1.0, places=5)
        self.assertAlmostEqual(fast.amount.value / MGH17["fast"], 1.0, places=5)
        self.assertAlmostEqual(1.0 / slow.time.value / MGH17["b4"], 1.0, places=5)
        self.assertAlmostEqual(1.0 / fast.time.value / MGH17["b5"], 1.0, places=5)
        self.assertAlmostEqual(found.rss / MGH17_RSS, 1.0, places=6)
        self.assertAlmostEqual(found.s / MGH17_S, 1.0, places=6)

    def test_intervals_are_near_those_of_the_certified_standard_deviations(self):
        """Profile intervals are not symmetric; their width is that of two standard deviations either way within a fifth."""
        found = fit_decay([10.0 * i for i in range(33)], MGH17_Y)
        width = found.level.high - found.level.low
        self.assertAlmostEqual(width / (2 * 2.048 * MGH17_U["level"]), 1.0, delta=0.2)
        for part, name in zip(found.parts, ("b5", "b4"), strict=True):
            rate = 1.0 / part.time.low - 1.0 / part.time.high
            self.assertAlmostEqual(rate / (2 * 2.048 * MGH17_U[name]), 1.0, delta=0.2)


class Points(unittest.TestCase):
    def test_five_points_are_the_least_and_a_part_needs_six(self):
        t = np.arange(6.0)
        y = 0.5 + 0.3 * np.exp(-t / 1.5)
        with self.assertRaises(NotEnoughData):
            fit_decay(t[:4], y[:4])
        self.assertEqual(len(fit_decay(t[:5], y[:5], intervals=False).parts), 0)
        self.assertEqual(len(fit_decay(t, y, parts=1, intervals=False).parts), 1)

    def test_times_that_do_not_rise_and_values_that_are_none_are_refused(self):
        t = np.arange(8.0)
        for bad_t, bad_y in (
            (t[::-1], t), (np.where(t == 3.0, 2.0, t), t), (np.where(t == 3.0, np.nan, t), t), (t, np.where(t == 3.0, np.inf, t)),
        ):  # fmt: skip
            with self.assertRaises(OutOfRange) as refused:
                fit_decay(bad_t, bad_y)
            self.assertEqual(refused.exception.field, "t")

    def test_when_a_trace_begins_does_not_matter_and_times_come_back_in_its_unit(self):
        t = np.arange(0.0, 300.0, 10.0)
        y = 0.4 + 0.3 * np.exp(-t / 60.0) + 1e-4 * np.sin(t)
        seconds, later, minutes = (
            fit_decay(at, y, parts=1, intervals=False).parts[0].time.value for at in (t, t + 5000.0, t / 60.0)
        )
        self.assertAlmostEqual(seconds, later, places=5)
        self.assertAlmostEqual(seconds, 60.0 * minutes, places=4)
        self.assertAlmostEqual(seconds, 60.0, delta=0.5)

    def test_a_long_trace_is_thinned_and_keeps_its_first_and_last_point(self):
        t = np.arange(0.0, 3.0 * MOST_POINTS)
        y = 0.4 + 0.3 * np.exp(-t / 900.0)
        y[[0, -1]] += 0.002  # would be missed where they are left out
        found = fit_decay(t, y, parts=1, intervals=False)
        self.assertAlmostEqual(found.parts[0].time.value, 900.0, delta=9.0)
        # 0.002 at both ends, and next to nothing between them, is all the misfit there is.
        self.assertAlmostEqual(found.rss, 2 * 0.002**2, delta=0.1 * 2 * 0.002**2)


class Known(unittest.TestCase):
    AT = np.arange(0.0, 600.0, 15.0)

    def noisy(self, y, seed=1, s=0.003):
        return y + np.random.default_rng(seed).normal(0.0, s, len(y))

    def test_one_two_or_no_part_is_chosen_by_what_is_there(self):
        t = self.AT
        for parts, y in (
            (0, 0.5 + 0.0 * t),
            (1, 0.32 + 0.30 * np.exp(-t / 60.0)),
            (2, 0.32 + 0.25 * np.exp(-t / 20.0) + 0.15 * np.exp(-t / 200.0)),
        ):
            chosen = [len(fit_decay(t, self.noisy(y, seed), intervals=False).parts) for seed in range(12)]
            self.assertGreaterEqual(chosen.count(parts), 10, chosen)

    def test_intervals_hold_the_truth(self):
        held, t = 0, self.AT
        for seed in range(40):
            found = fit_decay(t, self.noisy(0.32 + 0.30 * np.exp(-t / 60.0), seed), parts=1)
            held += found.parts[0].time.low <= 60.0 <= found.parts[0].time.high
        self.assertGreaterEqual(held, 34)  # 95 % of 40; fewer than 34 comes by chance once in 300

    def test_a_trace_that_ends_too_soon_does_not_bound_its_level(self):
        t = np.arange(0.0, 30.0, 1.0)
        found = fit_decay(t, self.noisy(0.3 + 0.4 * np.exp(-t / 300.0)), parts=1)
        self.assertIsNone(found.parts[0].time.high)

    def test_the_curve_is_the_sum_of_its_parts(self):
        y = 0.9 - 0.3 * np.exp(-self.AT / 80.0)
        np.testing.assert_allclose(fit_decay(self.AT, y).at(self.AT), y, atol=1e-6)

    def test_too_little_or_disordered_is_refused(self):
        with self.assertRaises(NotEnoughData):
            fit_decay([0, 1, 2], [1, 2, 3])
        for t, y in (([0, 1, 1, 2, 3], [1] * 5), ([0, 1, 2, 3, 4], [1, 2, float("nan"), 3, 4])):
            with self.assertRaises(OutOfRange):
                fit_decay(t, y)


class Rounded(unittest.TestCase):
    """Traces that a meter rounds, and noise that remembers: `bench/fits.py` has the figures, this keeps them."""

    def held(self, noise_v, digit_v, memory, count=40):
        rng, held, at = np.random.default_rng(11), 0, np.arange(0.0, 240.1, 5.0)
        for _ in range(count):
            noise = rng.normal(0.0, noise_v, len(at))
            for k in range(1, len(at)):
                noise[k] = memory * noise[k - 1] + (1.0 - memory**2) ** 0.5 * noise[k]
            level = 0.83 + rng.uniform(0.0, 0.01)
            found = fit_decay(at, np.round((level + 0.12 * np.exp(-at / 40.0) + noise) / digit_v) * digit_v, parts=1)
            held += (found.level.low or -9.0) <= level <= (found.level.high or 9.0)
        return held / count

    def test_the_level_of_a_rounded_trace_is_held_where_its_digits_hardly_change(self):
        self.assertGreaterEqual(self.held(0.001, 0.01, 0.0), 0.93)
        self.assertGreaterEqual(self.held(0.003, 0.01, 0.0), 0.93)

    def test_noise_that_remembers_counts_for_less(self):
        self.assertGreaterEqual(self.held(0.003, 1e-5, 0.7), 0.87)
        plain, after = np.random.default_rng(5).normal(size=200), np.zeros(200)
        for k in range(1, 200):
            after[k] = 0.8 * after[k - 1] + plain[k]
        self.assertEqual(remembers(plain, 3), 1.0)
        self.assertAlmostEqual(remembers(after, 3), 9.0, delta=5.0)

    def test_the_last_digit_is_found(self):
        for digit in (0.01, 0.001, 1.0):
            self.assertAlmostEqual(last_digit(np.round(np.linspace(3.1234567, 47.0, 17) / digit) * digit), digit)
        self.assertEqual(last_digit(np.array([0.1, 1.0 / 3.0])), 0.0)
