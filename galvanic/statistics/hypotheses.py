"""Which of several hypotheses a class's values bear out, and what one more value would tell.

Each hypothesis says a mean and a covariance of the values. Beside it stand what groups add (`Values.covariance_v2`) and what
all of a class's plates of one metal share, whose variance τ² is not known: a scaled inverse chi-square prior, integrated
over. The weight of a hypothesis is its marginal likelihood times its prior (A. Gelman and others, “Bayesian Data Analysis”,
ch. 7). The factor of a covariance in the order of the values gives the likelihood of every first so many of them, so the
weights after each value come with those after the last. What a further value would tell is the mutual information of value
and hypothesis (D. V. Lindley, “On a measure of the information provided by an experiment”, 1956), by the trapezoidal rule
over that value. `bench/deciding.py` prints how often stated weights are right.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from galvanic.statistics.scoring import Values

Array = NDArray[np.float64]
USUAL_SHARED_V, FREEDOM = 0.06, 4.0  # what plates of one metal share, and how well that is known; common practice, no source
SHARED_V: Array = np.geomspace(0.004, 0.5, 15)
DECIDED = 0.95
POINTS, REACH = 241, 6.0  # of the integral over a value, and how many standard deviations it goes
LOG_2PI = math.log(2.0 * math.pi)


@dataclass(frozen=True)
class Hypothesis:
    """What one hypothesis says of the values in their order: V, and the covariance of what it leaves open, V²."""

    name: str
    says_v: Array
    covariance_v2: Array

    def first(self, n: int) -> Hypothesis:
        """The same of the first n values."""
        return Hypothesis(self.name, self.says_v[:n], self.covariance_v2[:n, :n])


@dataclass(frozen=True)
class Further:
    """Values of which one could be measured next (rows): what each hypothesis (columns) says of it, V, its variance under it
    and, along a third axis, its covariance with the values so far, V²; what it is made of, and what groups add to it, V²."""

    says_v: Array
    variance_v2: Array
    with_values_v2: Array
    made_of: Array
    noise_v2: Array


@dataclass(frozen=True)
class Telling:
    """What a further value tells of the hypotheses: nats, and how likely one then has DECIDED of the weight."""

    nats: float
    decides: float


@dataclass(frozen=True)
class Weighed:
    """Weights after 0, 1, 2, … values (a row each, a column for each hypothesis), and what further values need."""

    names: tuple[str, ...]
    after: Array
    joint: Array  # (hypotheses, τ): of all values
    roots: Array  # (hypotheses, τ, n, n)
    left: Array  # (hypotheses, τ, n): the standardised rest of each value
    values: Values

    @property
    def now(self) -> dict[str, float]:
        """The weights after all values, by name."""
        return dict(zip(self.names, map(float, self.after[-1]), strict=True))


def shared_prior() -> Array:
    """The prior weights of `SHARED_V`."""
    log = -FREEDOM * (np.log(SHARED_V) + 0.5 * (USUAL_SHARED_V / SHARED_V) ** 2)
    weights = np.exp(log - log.max())
    return np.asarray(weights / weights.sum(), dtype=np.float64)


def weigh(values: Values, hypotheses: Sequence[Hypothesis]) -> Weighed:
    """Weigh the hypotheses on values in their order, each as likely as any other before the first."""
    n = len(values.measured_v)
    shared = values.made_of @ values.made_of.T
    spread = np.stack([one.covariance_v2 for one in hypotheses])[:, None] + values.covariance_v2
    spread = spread + SHARED_V[:, None, None] ** 2 * shared
    roots: Array = np.zeros(spread.shape)
    if n:
        roots = np.asarray(np.linalg.cholesky(spread), dtype=np.float64)
    rest = np.stack([values.measured_v - one.says_v for one in hypotheses])
    left = _solved(roots, np.broadcast_to(rest[:, None], (*roots.shape[:2], n)))
    each = -0.5 * (LOG_2PI + left**2) - np.log(np.diagonal(roots, axis1=2, axis2=3))
    log = np.concatenate([np.zeros((*each.shape[:2], 1)), np.cumsum(each, axis=2)], axis=2)
    log += (np.log(shared_prior()) - math.log(len(hypotheses)))[:, None]
    likely = np.exp(log - log.max(axis=(0, 1)))
    joint = likely / likely.sum(axis=(0, 1))
    after = joint.sum(axis=1).T
    return Weighed(tuple(one.name for one in hypotheses), after, joint[..., -1], roots, left, values)


def _solved(roots: Array, right: Array) -> Array:
    """The lower triangular systems solved, one right side each."""
    if not right.shape[-1]:
        return np.zeros(right.shape)
    return np.asarray(np.linalg.solve(roots, right[..., None])[..., 0], dtype=np.float64)


def further_of(whole: Sequence[Hypothesis], n: int, made_of: Array, noise_v2: Array) -> Further:
    """What hypotheses say of values so far (the first n) and of others: the others, as values that could come next."""
    return Further(
        np.stack([one.says_v[n:] for one in whole], axis=1),
        np.stack([np.diag(one.covariance_v2)[n:] for one in whole], axis=1),
        np.stack([one.covariance_v2[n:, :n] for one in whole], axis=1),
        made_of[n:],
        noise_v2,
    )


def telling(weighed: Weighed, further: Further) -> list[Telling]:
    """What each further value would tell, given those so far, if it were the next."""
    shared = further.made_of @ weighed.values.made_of.T  # (further, n)
    with_values = further.with_values_v2[:, :, None, :] + SHARED_V[:, None] ** 2 * shared[:, None, None, :]
    gain: Array = np.zeros(with_values.shape)
    if with_values.size:
        by_value = np.linalg.solve(weighed.roots, with_values.transpose(1, 2, 3, 0))
        gain = np.asarray(by_value.transpose(3, 0, 1, 2), dtype=np.float64)
    mean = further.says_v[:, :, None] + (gain * weighed.left).sum(axis=3)
    own = further.variance_v2[:, :, None] + further.noise_v2[:, None, None]
    own = own + SHARED_V**2 * (further.made_of**2).sum(axis=1)[:, None, None]
    sd = np.sqrt(np.maximum(own - (gain**2).sum(axis=3), further.noise_v2[:, None, None]))
    return [mixed(weighed.joint, *one) for one in zip(mean, sd, strict=True)]


def foreseen(values: Values, hypotheses: Sequence[Hypothesis], draws: int, seed: int = 1) -> Array:
    """The largest weight after values that are still to come, in each of so many draws of them (its mean is how often the
    likeliest hypothesis will be right); `values.measured_v` is of no account."""
    rng, n, h = np.random.default_rng(seed), len(values.made_of), len(hypotheses)
    holds, tau = rng.integers(h, size=draws), rng.choice(len(SHARED_V), size=draws, p=shared_prior())
    shared = values.made_of @ values.made_of.T
    spread = np.stack([one.covariance_v2 for one in hypotheses])[:, None] + values.covariance_v2
    roots = np.linalg.cholesky(spread + SHARED_V[:, None, None] ** 2 * shared)
    says = np.stack([one.says_v for one in hypotheses])
    came = says[holds] + np.einsum("dij,dj->di", roots[holds, tau], rng.normal(size=(draws, n)))
    left = np.linalg.solve(roots, (came[None] - says[:, None])[:, None].transpose(0, 1, 3, 2))  # (h, τ, n, draws)
    log = -0.5 * (left**2).sum(axis=2) - np.log(np.diagonal(roots, axis1=2, axis2=3)).sum(axis=2)[:, :, None]
    log = log + np.log(shared_prior())[:, None]
    likely = np.exp(log - log.max(axis=(0, 1))).sum(axis=1)
    return np.asarray((likely / likely.sum(axis=0)).max(axis=0), dtype=np.float64)


def mixed(joint: Array, mean: Array, sd: Array) -> Telling:
    """The same of a value that is normal about `mean`, V, by hypothesis and part of it, with these weights (same shapes)."""
    low, high = float((mean - REACH * sd).min()), float((mean + REACH * sd).max())
    at = np.unique(np.concatenate([np.linspace(low, high, POINTS), _near(joint, mean, sd)]))
    dense = np.exp(-0.5 * ((at[:, None, None] - mean) / sd) ** 2) / (sd * math.sqrt(2.0 * math.pi))
    by = (joint * dense).sum(axis=2)  # (points, hypotheses)
    every = by.sum(axis=1)
    prior = joint.sum(axis=1)
    with np.errstate(divide="ignore", invalid="ignore"):
        posterior = np.where(every[:, None] > 0.0, by / every[:, None], prior)
        ratio = np.where(posterior > 0.0, posterior * np.log(posterior / np.where(prior > 0.0, prior, 1.0)), 0.0)
    told = np.trapezoid(every * ratio.sum(axis=1), at)
    decides = np.trapezoid(every * (posterior.max(axis=1) >= DECIDED), at)
    return Telling(max(0.0, float(told)), min(1.0, float(decides)))


def _near(joint: Array, mean: Array, sd: Array) -> Array:
    """Points about the narrow parts, which an even grid would miss."""
    counts = joint > 1e-3
    steps = np.linspace(-REACH, REACH, 17)
    return np.asarray((mean[counts][:, None] + sd[counts][:, None] * steps).ravel(), dtype=np.float64)
