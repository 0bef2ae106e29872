"""What a class's own numbers of one cell say about it: oxygen at the plate, wetted area, oxide, own ions.

Weighted least squares on open voltage, voltages across resistors, short-circuit currents and voltages in time, with what the
model may be off at rest as one more unknown. Of each quantity the whole range is tried, the others fitted anew each time
(profile likelihood; D. J. Venzon, S. H. Moolgavkar, Appl. Stat. 37 (1988) 87): its 95 % interval is where the sum of squares
stays within 3.84 of the best (chi-squared, one degree of freedom). An end of the range is ruled out where it is 6.63 above
the best (99 %), so that what seldom can be told is not told by chance; where no end is, the data cannot tell, and say so.
All tries go on at once (Levenberg–Marquardt on many guesses).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.curves import left_of
from galvanic.chemistry.many_cells import Asked, ManyCells
from galvanic.chemistry.plates import Array
from galvanic.chemistry.polarisation import FIRST_S, Geometry
from galvanic.errors import within
from galvanic.reference.catalogue import kept
from galvanic.words import say

CHI_95, CHI_99 = 3.8415, 6.6349  # of chi-squared with one degree of freedom
# How far each quantity may lie from what the model takes, as factors; ions in mol/L.
RANGES = {"oxygen": (1 / 30, 10.0), "area": (0.1, 4.0), "oxide": (0.01, 30.0), "ions": (1e-9, 0.03)}
TRIES, ROUNDS, DELTA, FREE = 9, 12, 0.02, -1
CLOSE, STUCK = 1e-2, 1e4  # less of a sum of squares is not worth a round; so much damping finds nothing better
MOVES = 0.02  # a quantity that moves no weighted value by more than this over its whole range is not looked for
U_MODEL_V = 0.06  # how far the rest potential of a cell nobody fitted lies from the model (`bench/accuracy.py`)
# Of a class's mean, and of a current that falls while it is read: common practice, no source.
LEAST_U_V, LEAST_U_LOG = 0.005, 0.08
SHARED = 0.8  # of the variance of a value of a run, what all of its values have in common: common practice, no source
TELLS = 0.6  # an interval over more of a quantity's range than this says nothing
MOST_MEASURED = 40
LEAST_A = 1e-9

Verdict = Literal["known", "at least", "at most", "cannot tell"]


@dataclass(frozen=True, slots=True)
class Measured:
    """One value of a class: V across `load_ohm` (infinite: open) or A at 0 Ω, `after_s` s after joining, with its standard
    uncertainty in V, of a current as a part of it. `trace`: values of one run share what it is off."""

    load_ohm: float
    after_s: float
    value: float
    u: float
    trace: str = ""


@dataclass(frozen=True, slots=True)
class Found:
    """One quantity: the best multiple of what the model takes (ions: mol/L), its 95 % interval, and whether there is one."""

    knob: str
    best: float
    low: float
    high: float
    verdict: Verdict


@dataclass(frozen=True, slots=True)
class HeldOut:
    """A value that was left out: what was measured, what the rest foretells with the fit, and what the model alone says."""

    measured: Measured
    fitted: float
    plain: float


@dataclass(frozen=True)
class ClassFit:
    """A class's own fit of a cell. `shift_v`: what was added at rest; `misfit`: weighted squares left for each value."""

    cell: Cell
    found: tuple[Found, ...]
    shift_v: float
    misfit: float
    held_out: tuple[HeldOut, ...]
    next_best: tuple[float, float] | None

    @property
    def helps(self) -> bool:
        """Whether values that were left out are foretold better than without the fit."""
        off = [(abs(_residual(one.measured, one.fitted)), abs(_residual(one.measured, one.plain))) for one in self.held_out]
        return bool(off) and sum(fitted for fitted, _ in off) < sum(plain for _, plain in off)


def fit_cell(cell: Cell, measured: Sequence[Measured], geometry: Geometry | None = None) -> ClassFit:
    """The fit. Raises OutOfRange for more than `MOST_MEASURED` values, or fewer than two."""
    within("measured", len(measured), 2, MOST_MEASURED, say("A fit takes 2 to {n} values of a cell.", n=MOST_MEASURED))
    return _fitted(cell, tuple(measured), geometry or Geometry())


@kept(64)
def _fitted(cell: Cell, measured: tuple[Measured, ...], geometry: Geometry) -> ClassFit:
    many = ManyCells.of(cell, geometry)
    problem = _Problem(many, measured)
    knobs = len(many.knobs)
    starts = problem.starts()
    none_out = np.zeros((1, len(measured)), dtype=bool)
    ends, squares = problem.descend(starts, np.full(len(starts), FREE), np.repeat(none_out, len(starts), axis=0))
    best = ends[int(np.argmin(squares))]
    tried, held = problem.profile_starts(best)
    # The profile, and every value left out in turn, go down together.
    without = np.concatenate([np.repeat(none_out, len(tried), axis=0), problem.out_in_turn()])
    begin = np.concatenate([tried, np.tile(best, (len(measured), 1))])
    ends, squares_of = problem.descend(begin, np.concatenate([held, np.full(len(measured), FREE)]), without)
    ends, profile, left_out = ends[: len(tried)], squares_of[: len(tried)], problem.own_answers(ends[len(tried) :])
    least = float(squares.min())
    if len(profile) and profile.min() < least:  # a profile may come upon a better place
        best, least = ends[int(np.argmin(profile))], float(profile.min())
    found = tuple(
        _found(many.knobs[k], tried[held == k, k], profile[held == k] - least, float(best[k]))
        if (held == k).any()
        else Found(many.knobs[k], math.exp(best[k]), *RANGES[many.knobs[k]], "cannot tell")
        for k in range(knobs)
    )
    plain = many.answers(many.usual()[None], problem.asked)[0]
    out = tuple(HeldOut(one, float(f), float(p)) for one, f, p in zip(measured, left_out, plain, strict=True))
    return ClassFit(cell, found, float(best[knobs]), least / len(measured), out, problem.next_best(best, found))


def _residual(measured: Measured, answer: float) -> float:
    """Weighted: volts by their difference, currents by the logarithm of their ratio."""
    if measured.load_ohm == 0.0:
        return float(_log_ratio(answer, measured.value)) / math.hypot(measured.u, LEAST_U_LOG)
    return (answer - measured.value) / volts_u_v(measured)


def _log_ratio(answers: Array | float, values: Array | float) -> Array:
    """Of currents, the logarithm of their ratio; a nanoampere stands for none."""
    return np.asarray(np.log(np.maximum(answers, LEAST_A) / np.maximum(values, LEAST_A)))


def volts_u_v(measured: Measured) -> float:
    """The standard uncertainty of a voltage, V: as stated, of the meter, and of what falls while it is read."""
    joined = 0.0 if math.isinf(measured.load_ohm) else LEAST_U_LOG * abs(measured.value)
    return math.sqrt(measured.u**2 + LEAST_U_V**2 + joined**2)


class _Problem:
    """Residuals of many guesses and the way down. A guess is the knobs' logarithms, then the shift at rest in V."""

    def __init__(self, many: ManyCells, measured: Sequence[Measured]) -> None:
        self.many, self.measured = many, measured
        self.asked = [Asked(one.load_ohm, one.after_s) for one in measured]
        self.low = np.array([math.log(RANGES[knob][0]) for knob in many.knobs] + [-1.0])
        self.high = np.array([math.log(RANGES[knob][1]) for knob in many.knobs] + [1.0])
        self.current = np.array([one.load_ohm == 0.0 for one in measured])
        self.value = np.array([one.value for one in measured])
        self.whiten = _whitening(measured)

    def predicted(self, guesses: Array, asked: Sequence[Asked]) -> Array:
        """Answers with the shift at rest, less of it the further a load pulls the cell down (`curves.Anchor`)."""
        answers = self.many.answers(guesses[:, :-1], [*asked, Asked(math.inf, FIRST_S)])
        answers, opened = answers[:, :-1], answers[:, -1:]
        loads = np.array([one.load_ohm for one in asked])
        left = np.where(np.isinf(loads), 1.0, left_of(answers, opened))
        return np.asarray(answers + np.where(loads == 0.0, 0.0, left * guesses[:, -1:]))

    def residuals(self, guesses: Array) -> Array:
        """(guesses, values and one): weighted, the shift's own at the end."""
        answers = self.predicted(guesses, self.asked)
        off = np.where(self.current, _log_ratio(answers, self.value), answers - self.value)
        return np.concatenate([off @ self.whiten.T, guesses[:, -1:] / U_MODEL_V], axis=1)

    def descend(self, starts: Array, held: Array, without: Array) -> tuple[Array, Array]:
        """All guesses downhill at once, the knob `held` of each (FREE: none) as it is; `without` (guesses, values): what it
        leaves out. Returns guesses and their sums of squares."""
        guesses = np.clip(starts, self.low, self.high)
        keep = np.concatenate([np.where(without, 0.0, 1.0), np.ones((len(guesses), 1))], axis=1)
        now = self.residuals(guesses) * keep
        squares, damping = (now**2).sum(axis=1), np.full(len(guesses), 1e-2)
        going = np.arange(len(guesses))
        for _ in range(ROUNDS):
            if not len(going):
                break
            here = guesses[going]
            move = self._move(here, now[going], keep[going], held[going], damping[going])
            tried = np.clip(here + np.clip(move, -2.0, 2.0), self.low, self.high)
            then = self.residuals(tried) * keep[going]
            less = squares[going] - (then**2).sum(axis=1)
            better = less > 0.0
            won = going[better]
            guesses[won], now[won], squares[won] = tried[better], then[better], squares[won] - less[better]
            damping[going] *= np.where(better, 0.2, 8.0)
            going = going[np.where(better, less > CLOSE, damping[going] < STUCK)]
        return guesses, squares

    def _move(self, guesses: Array, now: Array, keep: Array, held: Array, damping: Array) -> Array:
        """One step of Levenberg and Marquardt for each guess; what is held, or pushes against its limit, stays."""
        n, size = guesses.shape
        step = np.where(guesses + DELTA > self.high, -DELTA, DELTA) * np.where(np.arange(size) == size - 1, 0.1, 1.0)
        beside = np.repeat(guesses, size, axis=0) + (np.eye(size)[None] * step[:, None, :]).reshape(-1, size)
        jacobian = (self.residuals(beside).reshape(n, size, -1) * keep[:, None] - now[:, None]) / step[:, :, None]
        gradient = np.einsum("nkr,nr->nk", jacobian, now)
        stuck = ((guesses <= self.low) & (gradient > 0.0)) | ((guesses >= self.high) & (gradient < 0.0))
        free = (np.arange(size)[None] != held[:, None]) & ~stuck
        jacobian, gradient = jacobian * free[:, :, None], gradient * free
        normal = np.einsum("nkr,nlr->nkl", jacobian, jacobian)
        scale = np.einsum("nkk->nk", normal) + 1e-3
        normal += np.eye(size) * (damping[:, None] * scale + 1e-9)[:, :, None]
        return np.asarray(-np.linalg.solve(normal, gradient[..., None])[..., 0])

    def starts(self) -> Array:
        """From what the model takes, and with more and less of each."""
        usual = np.concatenate([self.many.usual(), [0.0]])
        if "ions" in self.many.knobs:
            usual[self.many.knobs.index("ions")] = math.log(1e-6)
        middle = np.tile(usual, (2 * len(self.many.knobs) + 1, 1))
        for k in range(len(self.many.knobs)):
            middle[2 * k, k] = usual[k] + 0.6 * (self.high[k] - usual[k])
            middle[2 * k + 1, k] = usual[k] + 0.6 * (self.low[k] - usual[k])
        return middle

    def profile_starts(self, best: Array) -> tuple[Array, Array]:
        """Every knob over its range with the others where they are best, and which knob each guess holds."""
        felt = [k for k in range(len(self.many.knobs)) if self._felt(best, k)]
        tried = np.tile(best, (len(felt) * TRIES, 1))
        held = np.repeat(np.array(felt, dtype=int), TRIES)
        for k in felt:
            tried[held == k, k] = _denser(self.low[k], self.high[k], float(best[k]))
        return tried, held

    def _felt(self, best: Array, k: int) -> bool:
        """Whether any value moves where a knob goes over its whole range."""
        ends = np.tile(best, (3, 1))
        ends[:2, k] = self.low[k], self.high[k]
        return float(np.ptp(self.residuals(ends), axis=0).max()) > MOVES

    def out_in_turn(self) -> Array:
        """Which values are left out where each is in turn (values, values): of a run, all of it."""
        return np.array([[one is other or _of_one_run(one, other) for other in self.measured] for one in self.measured])

    def own_answers(self, guesses: Array) -> Array:
        """The first value as the first guess foretells it, the second as the second does, …"""
        return np.asarray(np.diagonal(self.predicted(guesses, self.asked)))

    def next_best(self, best: Array, found: Sequence[Found]) -> tuple[float, float] | None:
        """The load (Ω) and moment (s) whose one value would narrow most what is not known yet; None where none would."""
        open_ones = [k for k, one in enumerate(found) if one.verdict != "known"]
        if not open_ones:
            return None
        asked = [Asked(0.0, SHORT_S), *(Asked(ohm, at_s) for ohm in NEXT_OHM for at_s in NEXT_S)]
        tried = np.concatenate([best[None], best + np.eye(len(best)) * DELTA])
        answers = self.predicted(tried, asked)
        shorts = np.array([one.load_ohm == 0.0 for one in asked])
        u = np.where(shorts, LEAST_U_LOG, np.hypot(2.0 * LEAST_U_V, LEAST_U_LOG * answers[0]))
        answers = np.where(shorts, _log_ratio(answers, 1.0), answers)
        slopes = (answers[1:] - answers[0]) / DELTA / u
        known = (self.residuals(tried[1:]) - self.residuals(best[None])) / DELTA
        normal = known @ known.T + np.diag([*(12.0 / (self.high - self.low)[:-1] ** 2), 0.0])
        before = np.diagonal(np.linalg.inv(normal))[open_ones]
        after = [np.diagonal(np.linalg.inv(normal + np.outer(s, s)))[open_ones] for s in slopes.T]
        narrower = [float((now / before).min()) for now in after]
        pick = int(np.argmin(narrower))
        return (asked[pick].load_ohm, asked[pick].after_s) if narrower[pick] < WORTH_IT else None


SHORT_S = 3.0  # nobody shorts a cell for longer than it takes to read
NEXT_OHM, NEXT_S = (10.0, 47.0, 100.0, 470.0, 1000.0, 4700.0, 10_000.0), (10.0, 60.0, 600.0)
WORTH_IT = 0.8  # of a variance: less of a gain is not worth a measurement (common practice, no source)


def _of_one_run(one: Measured, other: Measured) -> bool:
    return bool(one.trace) and one.trace == other.trace


def _whitening(measured: Sequence[Measured]) -> Array:
    """What makes the values' errors independent and of one size: values of one run share most of what they are off."""
    u = np.array([math.hypot(one.u, LEAST_U_LOG) if one.load_ohm == 0.0 else volts_u_v(one) for one in measured])
    alike = np.array([[_of_one_run(a, b) for b in measured] for a in measured])
    same = np.where(np.eye(len(u)) > 0.0, 1.0, np.where(alike, SHARED, 0.0))
    return np.asarray(np.linalg.inv(np.linalg.cholesky(same * np.outer(u, u))))


def _denser(low: float, high: float, best: float) -> Array:
    """Places to try over a range, closer together near the best."""
    away = np.linspace(-1.0, 1.0, TRIES)
    bent = np.sign(away) * away**2
    return np.asarray(np.where(bent < 0.0, best + bent * (best - low), best + bent * (high - best)))


def _found(knob: str, at: Array, above: Array, best: float) -> Found:
    """The interval where the profile stays under its limit, read off along it."""
    low_edge, high_edge = float(at[0]), float(at[-1])
    middle = int(np.argmin(above))
    low = _crossing(at[: middle + 1][::-1], above[: middle + 1][::-1], low_edge)
    high = _crossing(at[middle:], above[middle:], high_edge)
    left, right = above[0] > CHI_99, above[-1] > CHI_99
    verdict: Verdict = "known" if left and right else "at least" if left else "at most" if right else "cannot tell"
    if (high - low) > TELLS * (high_edge - low_edge):
        verdict = "cannot tell"
    return Found(knob, math.exp(best), math.exp(low), math.exp(high), verdict)


def _crossing(at: Array, above: Array, edge: float) -> float:
    for (x, y), (x2, y2) in zip(zip(at, above, strict=True), zip(at[1:], above[1:], strict=True), strict=False):
        if y <= CHI_95 < y2:
            # A profile is nearly a parabola: its root rises evenly.
            part = (math.sqrt(CHI_95) - math.sqrt(max(y, 0.0))) / (math.sqrt(y2) - math.sqrt(max(y, 0.0)))
            return float(x + part * (x2 - x))
    return edge
