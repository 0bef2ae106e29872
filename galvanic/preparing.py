"""How a cell is built, in sentences for cards and benches: cups and bridge, what its setting asks for, how fruit, card or
paste is prepared, and each plate."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from galvanic.cells import Cell
from galvanic.condition import Condition, condition_of
from galvanic.conditions import Surface, setting, surface_of
from galvanic.notes import capital
from galvanic.reference.bridges import bridges
from galvanic.reference.catalogue import electrodes, electrolytes
from galvanic.reference.preparations import Preparation, preparations_of
from galvanic.words import mark, say

NOTHING_TOUCHES = mark("The plates must not touch. Clips stay above the liquid.")
USUAL = {"spacing": mark("2 cm"), "depth": mark("3 cm")}


def steps(cell: Cell) -> tuple[str, ...]:
    """The steps of the cell's form, with its own spacing and depth where these are set."""
    condition = condition_of(cell.condition)
    values = dict(USUAL)
    if condition is not None and condition.variable in values:
        values[condition.variable] = say("{value:g} cm", value=condition.value)
    return _said(cell, values)


def usual_steps(cell: Cell) -> tuple[str, ...]:
    """The same at the usual spacing and depth: what a card says once for all its cells, at whichever word of a setting."""
    condition = condition_of(cell.condition)
    if condition is None or condition.row.kind == "number":
        return _said(cell, USUAL)
    at_each = [replace(cell, condition=str(Condition(condition.variable, word))) for word in condition.row.words]
    first, *others = (_said(one, USUAL) for one in at_each)
    return tuple(step for step in first if all(step in other for other in others))


def _said(cell: Cell, values: Mapping[str, str]) -> tuple[str, ...]:
    every = preparations(cell)
    return tuple(one.text.format(**values) for one in every if one.at_bench)


def skipped(cell: Cell) -> tuple[str, ...]:
    """What to ask where a reading is low: the steps that may have been skipped, in order."""
    return tuple(one.asks for one in preparations(cell))


def preparations(cell: Cell) -> tuple[Preparation, ...]:
    """The steps by which a cell's liquid, fruit, card or paste is prepared."""
    condition = condition_of(cell.condition)
    at = condition.value if condition is not None and isinstance(condition.value, str) else ""
    return preparations_of(electrolytes()[cell.electrolyte].form, cell.electrolyte, at)


SAID_BEFORE = frozenset({"surface", "dilution"})  # which have sentences of their own in conditions.py


def set_up(cell: Cell) -> str:
    """What a card says of a cell besides its name, in sentences: both cups, what its condition asks for, and steps that are
    not the usual; empty where there is nothing to say."""
    own = [step for step in steps(cell) if step not in usual_steps(cell)]
    return " ".join(one for one in (two_cups(cell, drawn=False), _condition_set(cell), *own) if one)


def _condition_set(cell: Cell) -> str:
    condition = condition_of(cell.condition)
    if condition is None or condition.variable in SAID_BEFORE:
        return setting(cell)
    return f"{capital(condition.said)}. {condition.row.set_up} {condition.row.hazard}".strip()


def two_cups(cell: Cell, drawn: bool) -> str:
    """How two solutions are set up, in sentences: which plate stands in which (unless it is `drawn` beside), and what joins
    them; empty for one liquid."""
    row = electrolytes()[cell.electrolyte]
    if row.negative_side is None or row.positive_side is None or row.bridge is None:
        return ""
    bridge = bridges()[row.bridge]
    left, right = (electrolytes()[side].name for side in (row.negative_side, row.positive_side))
    low, high = (electrodes()[plate].symbol for plate in cell.pair)
    which = (
        say("Two cups") if drawn else say("{low} in {left}, {high} in {right};", low=low, left=left, high=high, right=right)
    )
    return say("{which} joined by a {long}. {prepare}", which=which, long=bridge.long, prepare=bridge.prepare)


def preparation(cell: Cell) -> str:
    """How to build a cell, in sentences for the bench: what its setting asks for, and each plate's own preparation."""
    dull = surface_of(cell.condition) is Surface.DULL
    plates = [] if dull else [f"{electrodes()[key].symbol}: {electrodes()[key].prepare}" for key in cell.pair]
    said = (two_cups(cell, drawn=True), _condition_set(cell), *steps(cell), *plates, say(NOTHING_TOUCHES))
    return " ".join(sentence for sentence in said if sentence)
