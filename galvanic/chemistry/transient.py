"""A cell, or cells in a row, in time: one model for climb, sag, decay and return.

Each plate has its double layer, the oxide it carries as a finite charge per area, on carbon the charge of its groups, and
next to it a still layer through which acid, oxygen, its own ions and foreign ones diffuse (`layer`). The currents are those
of `currents`; in every step what a reaction uses lowers its own supply at the surface, so that the step is one equation for
the potentials and the current: a plate's currents and its double layer's give the row's, and the voltages add up to the
load's. It is solved by Newton's method on all plates at once. When nothing changes any more, the plates stand where `rest`
and `polarisation` put them. Potentials in V, currents in A, times in s, charges in C/m² of real area.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from galvanic.chemistry.currents import Fixed, fix, net
from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.demand import Demand
from galvanic.chemistry.plate_row import Row, State
from galvanic.chemistry.plates import Array
from galvanic.chemistry.rubbing import CAPACITY_F_PER_M2
from galvanic.errors import GalvanicError, OutOfRange, within
from galvanic.words import say

FIRST_STEP_S, LEAST_STEP_S = 2e-3, 1e-7
MOVES_V, LEAST_GROWTH, MOST_GROWTH = 0.07, 0.5, 2.5  # how far a plate may go in a step; how much longer the next one is
CLOSE_V = 3e-4  # after a move so small Newton’s method is within microvolts of the root
MOST_ROUNDS, MOST_MOVE_V, DELTA_V = 40, 0.15, 1e-4
MOST_S, MOST_EVENTS = 30 * 86_400.0, 500
LEAST_STIR, MOST_STIR = 0.1, 50.0

Kind = Literal["open", "load", "short", "stir"]


class NoStep(GalvanicError):
    """A step of a run cannot be solved."""

    code = "no_step"


@dataclass(frozen=True, slots=True)
class Event:
    """Something done to the cell at a time: opened, joined to a load, shorted, or stirred (`times` as much from then on)."""

    at_s: float
    kind: Kind
    load: Demand | None = None
    times: float = 1.0

    def __post_init__(self) -> None:
        within("at_s", self.at_s, 0.0, MOST_S, say("Times run from 0 to {most_s:.0f} days.", most_s=MOST_S / 86400))
        within(
            "times",
            self.times,
            LEAST_STIR,
            MOST_STIR,
            say("Stirred {least_stir:g} to {most_stir:g} times as much.", least_stir=LEAST_STIR, most_stir=MOST_STIR),
        )


@dataclass(frozen=True)
class Trace:
    """What happened: times, voltage at the ends of the row, current, each plate's potential (times, plates).

    `starts_s`: when things were done, 0 first: just after them much happens, so times are close.
    """

    t_s: Array
    volts_v: Array
    current_a: Array
    plates_v: Array
    starts_s: Array

    def _along(self, t_s: Array) -> Array:
        """Times on a scale that is logarithmic in the time since whatever was done last."""
        which = np.clip(np.searchsorted(self.starts_s, t_s, side="left") - 1, 0, len(self.starts_s) - 1)
        lengths = np.log1p(np.diff(self.starts_s) / FIRST_STEP_S)
        before = np.concatenate([[0.0], np.cumsum(lengths)])
        return np.asarray(before[which] + np.log1p(np.maximum(t_s - self.starts_s[which], 0.0) / FIRST_STEP_S))

    def at(self, t_s: Array) -> tuple[Array, Array]:
        """Voltage and current at other times, read off between those that were computed."""
        at, known = self._along(np.asarray(t_s, dtype=float)), self._along(self.t_s)
        return np.interp(at, known, self.volts_v), np.interp(at, known, self.current_a)


def simulate(
    cells: Sequence[PackCell],
    events: Sequence[Event],
    until_s: float,
    celsius: float = 25.0,
    dull: bool = False,
    moves_v: float = MOVES_V,
) -> Trace:
    """A run of cells in a row from the moment of dipping in, with what is done to it, in order of time.

    `dull`: plates as they lay, not rubbed. `moves_v`: how far a plate should go in one step; less is finer.
    Raises OutOfRange for events out of order, too many, or a length that is none.
    """
    within(
        "until_s",
        until_s,
        FIRST_STEP_S,
        MOST_S,
        say("A run lasts from {first_step_s:g} s to {most_s:.0f} days.", first_step_s=FIRST_STEP_S, most_s=MOST_S / 86400),
    )
    within("events", len(events), 0, MOST_EVENTS, say("A run has {most_events} events at most.", most_events=MOST_EVENTS))
    times = [event.at_s for event in events]
    if times != sorted(times):
        raise OutOfRange(say("Events stand in the order of their times; one runs back."), field="events")
    return run(Row.of(cells, celsius, dull), events, until_s, moves_v)


def run(row: Row, events: Sequence[Event], until_s: float, moves_v: float = MOVES_V) -> Trace:
    """`simulate` of a row that is put together already."""
    fixed = fix(row.half.plates, row.half.liquids, row.half.pairing)
    state, load, times = row.start(), None, [event.at_s for event in events]
    joined = False
    at_s, out = 0.0, [_point(row, 0.0, state)]
    for event, end_s in zip([None, *events], [*times, until_s], strict=True):
        if event is not None and event.kind == "stir":
            state = replace(state, layer=state.layer.thinned(event.times / row.stirred))
            row = replace(row, stirred=event.times)
        elif event is not None:
            joined, load = event.kind != "open", event.load
        step, first = FIRST_STEP_S, True
        while at_s < min(end_s, until_s) - 1e-9:
            left = min(end_s, until_s) - at_s
            length = left if step > 0.7 * left else step
            before = state
            try:
                state = _step(row, fixed, state, length, joined, load, first)
            except NoStep:
                step = length / 4.0
                if step < LEAST_STEP_S:
                    raise
                continue
            moved = max(float(np.abs(state.e_v - before.e_v).max()), 1e-9)
            step = length * min(max((moves_v / moved) ** 0.5, LEAST_GROWTH), MOST_GROWTH)
            at_s, first = at_s + length, False
            out.append(_point(row, at_s, state))
    t_s, volts_v, current_a, plates = zip(*out, strict=True)
    starts = np.array(sorted({0.0, *(time for time in times if time < until_s)}))
    return Trace(np.array(t_s), np.array(volts_v), np.array(current_a), np.array(plates), starts)


def _point(row: Row, at_s: float, state: State) -> tuple[float, float, float, Array]:
    volts = float((row.gives * state.e_v).sum()) + row.shift_v - state.current_a * row.inside_ohm
    return at_s, volts, state.current_a, state.e_v


def _step(row: Row, fixed: Fixed, state: State, step_s: float, joined: bool, load: Demand | None, first: bool) -> State:
    """One step by Newton's method: every plate's currents with its double layer's are the row's, and the load takes it."""
    ahead = state.layer.ahead(step_s, first)
    half = row.moment(state, ahead, step_s)
    # The double layer by backward differences of second order (one step back where something was just done).
    ratio = 0.0 if first or state.before_v is None else step_s / state.stepped_s
    charging = CAPACITY_F_PER_M2 / step_s * (1.0 + 2.0 * ratio) / (1.0 + ratio)
    past_v = state.e_v
    if ratio and state.before_v is not None:
        past_v = ((1.0 + ratio) ** 2 * state.e_v - ratio**2 * state.before_v) / (1.0 + 2.0 * ratio)
    e_v, current = state.e_v.copy(), state.current_a
    for _ in range(MOST_ROUNDS):
        tried = np.stack([e_v, e_v + DELTA_V])[:, :, None, None]
        now, beside = net(tried, half.plates, half.liquids, half.pairing, fixed)[..., 0, 0]
        slope = charging + np.maximum(beside - now, 0.0) / DELTA_V
        wanted = e_v - (charging * (e_v - past_v) + now) / slope
        if joined:
            source_v = float((row.gives * wanted).sum()) + row.shift_v
            ohm = float((1.0 / (row.wetted_m2 * slope)).sum()) + row.inside_ohm
            current = source_v / ohm if load is None else load.takes.behind(source_v, ohm)
        else:
            current = 0.0
        move = np.clip(wanted - row.gives * current / (row.wetted_m2 * slope) - e_v, -MOST_MOVE_V, MOST_MOVE_V)
        e_v = e_v + move
        if np.abs(move).max() < CLOSE_V:
            return row.after(state, ahead, half, fixed, e_v, current, step_s)
    raise NoStep(say("This run cannot be computed further: a potential does not settle."))
