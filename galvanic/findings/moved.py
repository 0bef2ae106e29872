"""What moved that should have stayed: other things that groups noted, and time, held against what was changed on purpose."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from galvanic.cells import Cell
from galvanic.condition import Condition
from galvanic.findings.by_variable import Changed
from galvanic.notes import Note, capital
from galvanic.reference.variables import variables
from galvanic.words import say

IN_STEP = 0.7  # a rank correlation from which two things cannot be told apart by eye: common practice, no source
LEAST = 4  # values, below which no correlation is spoken of
LEAST_GROUPS = 2

Place = tuple[str, Cell, Condition]  # group, cell without its condition, level


@dataclass(frozen=True, slots=True)
class Noted:
    """What a group found of another variable (by key) at a level: a number or a word's place."""

    place: Place
    variable: str
    value: float


def moved(changed: Changed, noted: Sequence[Noted], times: Mapping[Place, float]) -> list[Note]:
    """Notes on what went along with the levels; `times`: when each cell was read on average, in seconds of any one clock."""
    level_of = {(tick.group, changed.cell, tick.condition): tick.at for tick in changed.ticks}
    out = []
    for key in dict.fromkeys(row.variable for row in noted if row.variable != changed.variable.key):
        here = [(row.place, row.value) for row in noted if row.variable == key and row.place in level_of]
        values = [value for _, value in here]
        row = variables()[key]
        if len(set(values)) < 2:
            continue
        ends = min(values), max(values)
        low, high = (Condition(key, row.words[round(end)] if row.words else end).said for end in ends)
        span = say("{low} to {high}", low=low, high=high.removeprefix(f"{row.said} "))
        rho = _in_step([(place[0], level_of[place], value) for place, value in here])
        if rho is not None and abs(rho) >= IN_STEP:
            text = say("Groups noted {span}, in step with the levels. What you see may be its doing.", span=span)
            out.append(Note("moved", "caution", say("{name} moved too", name=capital(row.said)), text))
        else:
            out.append(
                Note(
                    "not_steady",
                    "plain",
                    say("{name} did not stay", name=capital(row.said)),
                    say("Noted: {span}.", span=span),
                )
            )
    groups = {place[0] for place in times if place in level_of}
    rho = _in_step([(place[0], level_of[place], at) for place, at in times.items() if place in level_of])
    if rho is not None and abs(rho) >= IN_STEP and len(groups) >= LEAST_GROUPS and changed.variable.key != "time":
        text = say(
            "Nearly every group went through the levels in the same order, so what time does is in it. Mix the order."
        )
        out.append(Note("order", "caution", say("Time went along"), text))
    return out


def _in_step(values: Sequence[tuple[str, float, float]]) -> float | None:
    """Spearman's correlation of the second with the third inside the groups, pooled; None with too little."""
    by_group: dict[str, list[tuple[float, float]]] = defaultdict(list)
    for group, level, value in values:
        by_group[group].append((level, value))
    xy = xx = yy = 0.0
    count = 0
    for own in by_group.values():
        if len(own) < 2:
            continue
        x, y = (_ranks([pair[place] for pair in own]) for place in (0, 1))
        xy, xx, yy = xy + float(x @ y), xx + float(x @ x), yy + float(y @ y)
        count += len(own)
    if count < LEAST or xx == 0.0 or yy == 0.0:
        return None
    return xy / math.sqrt(xx * yy)


def _ranks(values: Sequence[float]) -> np.ndarray:
    """Ranks about their middle, ties shared."""
    at = np.array([[(other < value) + 0.5 * (other == value) for other in values] for value in values]).sum(axis=1)
    return np.asarray(at - at.mean(), dtype=float)
