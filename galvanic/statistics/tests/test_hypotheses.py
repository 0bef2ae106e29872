"""Weights of hypotheses and what a further value tells, against closed forms, against an integral, and against drawing."""

import math
import unittest

import numpy as np
from scipy import integrate, stats

from galvanic.statistics.hypotheses import (
    DECIDED,
    FREEDOM,
    SHARED_V,
    USUAL_SHARED_V,
    Hypothesis,
    further_of,
    mixed,
    shared_prior,
    telling,
    weigh,
)
from galvanic.statistics.scoring import Values


def few(n: int = 5, seed: int = 3) -> tuple[Values, list[Hypothesis]]:
    """Some values of cells of three rungs, and three hypotheses about them."""
    rng = np.random.default_rng(seed)
    made = np.array([[1.0, -1.0, 0.0], [0.0, 1.0, -1.0], [1.0, 0.0, -1.0], [1.0, -1.0, 0.0], [0.0, 1.0, -1.0]])[:n]
    values = Values(rng.normal(0.5, 0.2, n), made, 0.02**2 * np.eye(n) + 0.01**2, 3)
    at = rng.normal(0.5, 0.2, (3, n))
    return values, [Hypothesis(f"h{k}", at[k], (0.05 * (k + 1)) ** 2 * made @ made.T) for k in range(3)]


class Weights(unittest.TestCase):
    """`weigh`."""

    def test_the_first_values_weigh_as_if_they_were_all(self) -> None:
        values, hypotheses = few()
        whole = weigh(values, hypotheses)
        self.assertTrue(np.allclose(whole.after[0], 1.0 / 3.0))
        for n in range(1, 6):
            part = Values(values.measured_v[:n], values.made_of[:n], values.covariance_v2[:n, :n], 3)
            np.testing.assert_allclose(weigh(part, [one.first(n) for one in hypotheses]).after[-1], whole.after[n])

    def test_what_plates_share_is_integrated_over_its_prior(self) -> None:
        """The density of a scaled inverse chi-square (Gelman and others, “Bayesian Data Analysis”, app. A), by SciPy."""
        scale, off, own = FREEDOM * USUAL_SHARED_V**2 / 2.0, 0.1, 0.03

        def likely(says: float) -> float:
            def part(variance: float) -> float:
                prior = stats.invgamma.pdf(variance, FREEDOM / 2.0, scale=scale)
                return float(prior * stats.norm.pdf(off, says, math.sqrt(own**2 + 2.0 * variance)))

            return float(integrate.quad(part, 0.0, 1.0, points=[0.001, 0.01, 0.1], limit=400)[0])

        values = Values(np.array([off]), np.array([[1.0, -1.0]]), np.array([[own**2]]), 1)
        found = weigh(
            values, [Hypothesis("a", np.zeros(1), np.zeros((1, 1))), Hypothesis("b", np.ones(1) * 0.4, np.zeros((1, 1)))]
        )
        due = likely(0.0) / (likely(0.0) + likely(0.4))
        self.assertAlmostEqual(found.now["a"], due, delta=0.01)

    def test_the_prior_is_of_the_variance_that_is_named(self) -> None:
        scale = FREEDOM * USUAL_SHARED_V**2 / 2.0
        below = shared_prior()[SHARED_V < 2.0 * USUAL_SHARED_V].sum()
        self.assertAlmostEqual(below, stats.invgamma.cdf(4.0 * USUAL_SHARED_V**2, FREEDOM / 2.0, scale=scale), delta=0.05)

    def test_no_values_leave_all_alike(self) -> None:
        values, hypotheses = few(0)
        self.assertEqual(set(weigh(values, hypotheses).now.values()), {1.0 / 3.0})


class Tells(unittest.TestCase):
    """`mixed` and `telling`."""

    def test_two_that_are_far_apart_tell_all(self) -> None:
        found = mixed(np.full((2, 1), 0.5), np.array([[0.0], [1.0]]), np.full((2, 1), 0.01))
        self.assertAlmostEqual(found.nats, math.log(2.0), places=3)
        self.assertAlmostEqual(found.decides, 1.0, places=3)

    def test_two_that_say_the_same_tell_nothing(self) -> None:
        found = mixed(np.full((2, 1), 0.5), np.zeros((2, 1)), np.full((2, 1), 0.1))
        self.assertAlmostEqual(found.nats, 0.0, places=6)
        self.assertEqual(found.decides, 0.0)

    def test_two_near_each_other_tell_an_eighth_of_their_squared_distance(self) -> None:
        """The second order of the mutual information of a weak binary signal in Gaussian noise (T. M. Cover, J. A. Thomas,
        “Elements of Information Theory”, ch. 9, from memory)."""
        for apart in (0.1, 0.3):
            found = mixed(np.full((2, 1), 0.5), np.array([[0.0], [apart]]), np.ones((2, 1)))
            self.assertAlmostEqual(found.nats / (apart**2 / 8.0), 1.0, delta=0.03)

    def test_a_normal_quantity_in_normal_noise_tells_half_a_logarithm(self) -> None:
        """Lindley 1956; the capacity of the Gaussian channel, ½ ln(1 + s²/σ²)."""
        at = np.linspace(-6.0, 6.0, 1201)
        weights = np.exp(-0.5 * at**2)
        weights = (weights / weights.sum())[:, None]
        for noise in (0.5, 1.0, 3.0):
            found = mixed(weights, at[:, None], np.full((len(at), 1), noise))
            self.assertAlmostEqual(found.nats, 0.5 * math.log1p(1.0 / noise**2), places=3)

    def test_what_is_told_is_what_drawing_finds(self) -> None:
        """Brute force: the value is drawn from all hypotheses, and the weights are worked out anew with it."""
        values, hypotheses = few()
        n, made = 4, values.made_of
        now = weigh(
            Values(values.measured_v[:n], made[:n], values.covariance_v2[:n, :n], 3), [h.first(n) for h in hypotheses]
        )
        noise = 0.03**2
        (found,) = telling(now, further_of(hypotheses, n, made, np.array([noise])))
        covariance = np.pad(values.covariance_v2[:n, :n], (0, 1))
        covariance[n, n] = noise

        def after(value: float) -> np.ndarray:
            row = Values(np.array([*values.measured_v[:n], value]), made, covariance, 3)
            return weigh(row, hypotheses).after[-1]

        at = np.linspace(-0.5, 1.5, 2001)
        # The predictive density of the value, by the ratio of joint to weights: from what each hypothesis then has.
        dense = np.zeros((3, len(at)))
        for k, one in enumerate(hypotheses):
            for weight, sd in zip(now.joint[k], SHARED_V, strict=True):
                spread = one.covariance_v2 + covariance + sd**2 * made @ made.T
                gain = np.linalg.solve(spread[:n, :n], spread[:n, n])
                middle = one.says_v[n] + gain @ (values.measured_v[:n] - one.says_v[:n])
                dense[k] += weight * stats.norm.pdf(at, middle, math.sqrt(spread[n, n] - gain @ spread[:n, n]))
        posterior = np.array([after(float(value)) for value in at[::50]])
        np.testing.assert_allclose(posterior, (dense / dense.sum(axis=0)).T[::50], atol=1e-6)
        share = dense / dense.sum(axis=0)
        prior = np.array(list(now.now.values()))[:, None]
        with np.errstate(divide="ignore", invalid="ignore"):
            nats = np.trapezoid(np.where(dense > 0.0, dense * np.log(share / prior), 0.0).sum(axis=0), at)
        self.assertAlmostEqual(found.nats, nats, places=3)
        decides = np.trapezoid(dense.sum(axis=0) * (share.max(axis=0) >= DECIDED), at)
        self.assertAlmostEqual(found.decides, decides, delta=0.02)
