"""Sums of exponentials through a trace: a level and one or two parts that fall or climb at rates of their own.

y = level + Σ aₖ·exp(−t/τₖ). For given times the rest is linear, so only the times are searched (G. H. Golub, V. Pereyra,
SIAM J. Numer. Anal. 10 (1973) 413), from many starts, and polished by least squares. None, one or two parts: the number with
the smaller Akaike criterion for small samples wins (K. P. Burnham, D. R. Anderson). Intervals are those of the profile
likelihood: all values at which the best fit with that value held is not worse than an F test allows (D. M. Bates, D. G.
Watts, Nonlinear Regression Analysis, chapter 6), for as many readings as count by themselves and no less than a last digit's
own scatter (`bench/fits.py`: how often they hold).
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from galvanic.errors import NotEnoughData, OutOfRange
from galvanic.statistics.repeats import coverage
from galvanic.words import say

Array = NDArray[np.float64]
LEAST_POINTS, MOST_POINTS = 5, 4000
STARTS = 30  # times tried on a logarithmic grid, for each part
SHORTEST, LONGEST = 0.3, 20.0  # of the smallest step and of the whole length: times outside say nothing
LEVEL = 0.95
GAIN = 2.0  # a further part must lower the criterion by this much
WALK = 1.25  # steps of the profile in a time, as a factor
LEAST_TO_REMEMBER, MOST_ALIKE, CHANCE, LEAST_COUNTED = 12, 0.95, 1.0, 2.0  # points; correlation; of 1/√n; points
HALVINGS, ROUGH = 12, 1e-7  # of a profile: an end to a hundredth of a step, each point of it to a ten millionth


@dataclass(frozen=True, slots=True)
class Interval:
    """A fitted value with the ends of its 95 % interval; an end is None where the data do not bound it."""

    value: float
    low: float | None
    high: float | None


@dataclass(frozen=True, slots=True)
class Part:
    """One exponential: how much of y goes with it, and its time (half of it is gone after `half_s`)."""

    amount: Interval
    time: Interval

    @property
    def half(self) -> float:
        """The time after which half of it is gone."""
        return self.time.value * math.log(2.0)


@dataclass(frozen=True, slots=True)
class Decay:
    """A fitted trace: fast part first; `s` is the residual standard deviation, `rss` the sum of squares, n the points."""

    level: Interval
    parts: tuple[Part, ...]
    s: float
    rss: float
    n: int
    criterion: float

    def at(self, t: Array) -> Array:
        """The fitted curve."""
        return np.asarray(self.level.value + sum(p.amount.value * np.exp(-t / p.time.value) for p in self.parts))


def _basis(t: Array, times: Sequence[float]) -> Array:
    return np.stack([np.ones_like(t), *(np.exp(-t / time) for time in times)], axis=1)


def _left(basis: Array, y: Array) -> Array:
    """What a linear fit leaves of y, by orthogonal columns."""
    q, _ = np.linalg.qr(basis)
    return np.asarray(y - q @ (q.T @ y))


def _linear(t: Array, y: Array, times: Sequence[float]) -> tuple[Array, float]:
    basis = _basis(t, times)
    amounts = np.asarray(np.linalg.lstsq(basis, y, rcond=None)[0], dtype=float)
    return amounts, float(((y - basis @ amounts) ** 2).sum())


def fit_decay(t: Sequence[float], y: Sequence[float], parts: int | None = None, intervals: bool = True) -> Decay:
    """Fit a trace; `parts` 0, 1 or 2, or None to let the criterion choose. `t` rises, in any unit; times come back in it.

    Raises NotEnoughData below LEAST_POINTS points (more for two parts), OutOfRange for times that do not rise or values that
    are no numbers. More than MOST_POINTS are thinned evenly.
    """
    at, value = np.asarray(t, dtype=float), np.asarray(y, dtype=float)
    if len(at) != len(value) or len(at) < LEAST_POINTS:
        raise NotEnoughData(
            say("A fit needs at least {least_points} points, each with a time and a value.", least_points=LEAST_POINTS)
        )
    if not (np.isfinite(at).all() and np.isfinite(value).all() and (np.diff(at) > 0.0).all()):
        raise OutOfRange(say("Times must rise from line to line, and every value must be a number."), field="t")
    if len(at) > MOST_POINTS:
        some = np.linspace(0, len(at) - 1, MOST_POINTS).round().astype(int)
        at, value = at[some], value[some]
    at = at - at[0]
    candidates = [parts] if parts is not None else [k for k in (0, 1, 2) if len(at) >= 2 * k + 4]
    best: tuple[float, list[float]] | None = None
    for k in candidates:
        times = _search(at, value, k)
        rss = _linear(at, value, times)[1]
        criterion = _criterion(len(at), rss, 2 * k + 2, value)
        if best is None or criterion < best[0] - GAIN:
            best = criterion, times
    assert best is not None
    return _described(at, value, best[1], best[0], intervals)


def _criterion(n: int, rss: float, parameters: int, y: Array) -> float:
    floor = n * (1e-12 * max(float(np.abs(y).max()), 1e-12)) ** 2  # of exact data rounding is left
    if n <= parameters + 1:
        return math.inf
    return n * math.log(max(rss, floor) / n) + 2.0 * parameters * n / (n - parameters - 1)


def _search(t: Array, y: Array, parts: int, held: Sequence[float] = ()) -> list[float]:
    """Times of `parts` exponentials in rising order, of which `held` are given."""
    free = parts - len(held)
    if free == 0:
        return sorted(held)
    grid = np.geomspace(SHORTEST * np.diff(t).min(), LONGEST * t[-1], STARTS)
    starts = [(a,) for a in grid] if free == 1 else [(a, b) for i, a in enumerate(grid) for b in grid[i + 1 :]]
    rated = sorted(starts, key=lambda times: _linear(t, y, [*held, *times])[1])
    best = min((_polished(t, y, list(start), held) for start in rated[:3]), key=lambda pair: pair[0])
    return sorted([*held, *best[1]])


def _polished(
    t: Array, y: Array, start: list[float], held: Sequence[float], tolerance: float = 1e-14
) -> tuple[float, list[float]]:
    """Least squares in the logarithm of the free times, by Gauss–Newton with the step halved until it helps."""
    times = np.log(np.array(start))
    low, high = math.log(SHORTEST * np.diff(t).min()), math.log(LONGEST * t[-1])

    def residual(logs: Array) -> Array:
        return _left(_basis(t, [*held, *np.exp(logs)]), y)

    now = residual(times)
    for _ in range(60):
        slopes = np.stack([(residual(times + step) - now) / 1e-5 for step in 1e-5 * np.eye(len(times))], axis=1)
        move = np.linalg.lstsq(slopes, -now, rcond=None)[0]
        length = 1.0
        while length > 1e-4:
            tried = np.clip(times + np.clip(length * move, -1.5, 1.5), low, high)
            then = residual(tried)
            if then @ then < now @ now:
                break
            length *= 0.5
        else:
            break
        done = now @ now - then @ then < tolerance * (now @ now)
        times, now = tried, then
        if done:
            break
    return float(now @ now), [float(x) for x in np.exp(times)]


def _described(t: Array, y: Array, times: list[float], criterion: float, intervals: bool) -> Decay:
    linear, rss = _linear(t, y, times)
    k = len(times)
    dof = len(t) - (2 * k + 1)
    s = math.sqrt(rss / dof) if dof > 0 else 0.0
    if not intervals or dof < 1 or rss <= 0.0:
        ends: list[tuple[float | None, float | None]] = [(None, None)] * (2 * k + 1)
    else:
        left = y - _basis(t, times) @ linear
        times_fewer = remembers(left, 2 * k + 1)
        counts = max(len(t) / times_fewer - (2 * k + 1), LEAST_COUNTED)
        spread = max(rss / dof, last_digit(y) ** 2 / 12.0)
        bound = rss + spread * times_fewer * coverage(counts, LEVEL) ** 2
        ends = [_profile_linear(t, y, times, slot, bound) for slot in range(k + 1)]
        ends[0] = _widened(float(linear[0]), ends[0], coverage(counts, LEVEL) * hidden_by_rounding(last_digit(y), s))
        ends += [_profile_time(t, y, times, slot, bound) for slot in range(k)]
    parts = tuple(Part(Interval(float(linear[1 + j]), *ends[1 + j]), Interval(times[j], *ends[1 + k + j])) for j in range(k))
    return Decay(Interval(float(linear[0]), *ends[0]), parts, s, rss, len(t), criterion)


def remembers(left: Array, parameters: int) -> float:
    """How many readings count for one, because each takes after the one before: (1 + ρ)/(1 − ρ), ρ the residuals'
    correlation at a lag of one (M. S. Bartlett, J. R. Stat. Soc. 98 (1935) 536), put right for what the fit took out."""
    n, total = len(left), float(left @ left)
    if n < LEAST_TO_REMEMBER or total <= 0.0:
        return 1.0
    alike = float(left[1:] @ left[:-1]) / total
    alike = min(max(alike + (1.0 + parameters * (1.0 + max(alike, 0.0))) / n, 0.0), MOST_ALIKE)
    chance = CHANCE / math.sqrt(n)
    return 1.0 if alike < chance else (1.0 + alike) / (1.0 - alike)


def hidden_by_rounding(digit: float, s: float) -> float:
    """How far the mean of rounded readings may be off, however many there are, one standard uncertainty: without noise that
    makes the last digit jump they all read the same (B. Widrow's theorem; the first harmonic of the rounding's sawtooth)."""
    if digit == 0.0:
        return 0.0
    noise2 = max(s * s - digit**2 / 12.0, 0.0)
    return digit / (math.pi * math.sqrt(2.0)) * math.exp(-2.0 * math.pi**2 * noise2 / digit**2)


def _widened(value: float, ends: tuple[float | None, float | None], by: float) -> tuple[float | None, float | None]:
    low, high = ends
    return (
        None if low is None else value - math.hypot(value - low, by),
        None if high is None else value + math.hypot(high - value, by),
    )


def last_digit(y: Array) -> float:
    """The step in which values were read: the largest power of ten of which all are multiples; 0 if none is found."""
    for power in range(1, -8, -1):
        step = 10.0**power
        if np.abs(y / step - np.round(y / step)).max() < 1e-6:
            return step
    return 0.0


def _profile_time(t: Array, y: Array, times: list[float], slot: int, bound: float) -> tuple[float | None, float | None]:
    """Where the best fit with this time held crosses the bound, either way."""

    def rss(value: float) -> float:
        others = [time for j, time in enumerate(times) if j != slot]
        if not others:
            return _linear(t, y, [value])[1]
        return _polished(t, y, others, [value], ROUGH)[0]

    least, most = SHORTEST * np.diff(t).min(), LONGEST * t[-1]
    return _walk(rss, times[slot], bound, 1.0 / WALK, least), _walk(rss, times[slot], bound, WALK, most)


def _walk(rss: Callable[[float], float], start: float, bound: float, factor: float, end: float) -> float | None:
    inside = start
    while True:
        outside = inside * factor
        if outside < min(start, end) or outside > max(start, end):
            return None
        if rss(outside) > bound:
            break
        inside = outside
    for _ in range(HALVINGS):
        middle = math.sqrt(inside * outside)
        if rss(middle) > bound:
            outside = middle
        else:
            inside = middle
    return math.sqrt(inside * outside)


def _profile_linear(t: Array, y: Array, times: list[float], slot: int, bound: float) -> tuple[float | None, float | None]:
    """The same for the level (slot 0) or an amount: held, the others and the times are fitted again."""
    basis = _basis(t, times)
    covariance = np.linalg.pinv(basis.T @ basis)
    best = float((covariance @ basis.T @ y)[slot])
    rss0 = float(((y - basis @ (covariance @ basis.T @ y)) ** 2).sum())
    step = math.sqrt(max(covariance[slot, slot], 1e-300) * max(bound - rss0, 1e-300))

    def rss(value: float) -> float:
        return _held_linear(t, y, times, slot, value)

    ends: list[float | None] = []
    for sign in (-1.0, 1.0):
        inside, length, outside = best, step, None
        for _ in range(24):
            if rss(best + sign * length) > bound:
                outside = best + sign * length
                break
            inside, length = best + sign * length, 1.5 * length
        if outside is None:
            ends.append(None)
            continue
        for _ in range(HALVINGS):
            middle = 0.5 * (inside + outside)
            inside, outside = (inside, middle) if rss(middle) > bound else (middle, outside)
        ends.append(0.5 * (inside + outside))
    return ends[0], ends[1]


def _held_linear(t: Array, y: Array, times: list[float], slot: int, value: float) -> float:
    """Least sum of squares with one linear parameter held at a value, the times free."""
    low, high = math.log(SHORTEST * np.diff(t).min()), math.log(LONGEST * t[-1])

    def residual(logs: Array) -> Array:
        basis = _basis(t, list(np.exp(logs)))
        left = y - value * basis[:, slot]
        rest = np.delete(basis, slot, axis=1)
        return _left(rest, left) if rest.size else np.asarray(left)

    logs = np.log(np.array(times))
    now = residual(logs)
    for _ in range(20 if len(times) else 0):
        slopes = np.stack([(residual(logs + step) - now) / 1e-5 for step in 1e-5 * np.eye(len(logs))], axis=1)
        move = np.linalg.lstsq(slopes, -now, rcond=None)[0]
        tried = np.clip(logs + np.clip(move, -0.5, 0.5), low, high)
        then = residual(tried)
        if not then @ then < now @ now * (1.0 - ROUGH):
            break
        logs, now = tried, then
    return float(now @ now)
