"""What is wrong with a pack, from single voltages and from the sum at every step.

A cell that is joined should add what it gives alone. A sum that was measured before something was mended is out of date: the
newest whole counts, and where it fits the single cells, or the single cells with the last one turned, what was wrong before
has been put right. Many steps that are a little short are no bridges: then cells have fallen since they were measured alone.
Limits are common practice, no source.
"""

from __future__ import annotations

from dataclasses import replace
from statistics import median

from galvanic.bench.pack_record import NOTHING_V, PackFinding, PackRecord, at_place
from galvanic.notes import volts
from galvanic.words import say

STEP_V = 0.09  # a step that is off by less is the meter, the drift of a fresh cell, and hands
TURNED = 0.6  # of a cell's own voltage, taken away instead of added
WHOLE = 0.75  # of a cell's own voltage lost: more than a film of liquid does
MANY, A_LITTLE = 3, 0.35  # steps that are all short by so much of their own cells at most
MISSING = 0.15  # of what the single cells make: as much may be lost on a whole pack


def sum_findings(record: PackRecord) -> list[PackFinding]:
    """What the sums say; empty where all is as it should be."""
    found = _steps(record)
    if not found:
        return _whole(record)
    turned_leads = _steps(replace(record, sums_v=tuple(None if v is None else -v for v in record.sums_v)))
    return found if turned_leads else [_leads()]


def _leads() -> PackFinding:
    return PackFinding(
        "leads",
        "likely",
        say("The meter’s leads the other way round?"),
        say("All sums have the opposite sign of the cells."),
        (say("Black lead to the minus of cell 1, red lead to the plus of the last cell."), say("Measure again.")),
    )


def _steps(record: PackRecord) -> list[PackFinding]:
    """Step by step. Where an earlier step was off and the newest whole fits the single cells, that was mended."""
    found: list[PackFinding] = []
    singles: float | None = 0.0
    for k, now in enumerate(record.sums_v):
        alone, due = at_place(record.alone_v, k), singles
        singles = None if singles is None or alone is None else singles + alone
        if found and now is not None and alone is not None and due is not None:
            before = record.sums_v[k - 1]
            persists = before is not None and abs(now - before - alone) <= STEP_V
            if not persists and abs(now - due - alone) <= STEP_V * (k + 1) ** 0.5:
                found = []
                continue
            if not persists and abs(now - due + alone) <= STEP_V * (k + 1) ** 0.5:
                found = [_turned_cell(k, alone, now - due)]
                continue
        step = _step(record, k)
        if step is not None:
            found.append(step)
    return _a_little_each(record, found)


def _a_little_each(record: PackRecord, found: list[PackFinding]) -> list[PackFinding]:
    """Many steps that are all short by a little of their own cells: one finding, and no bridges."""
    if len(found) < MANY or {one.code for one in found} != {"bridged"}:
        return found
    short = []
    for one in found:
        k = (one.cell or 1) - 1
        alone, now, before = at_place(record.alone_v, k), record.sums_v[k], 0.0 if k == 0 else record.sums_v[k - 1]
        if alone is None or now is None or before is None or alone - (now - before) > A_LITTLE * alone:
            return found
        short.append(alone - (now - before))
    text = say(
        "{n} cells each add about {short} less than they gave alone. That many bridges are not likely.",
        n=len(found),
        short=volts(median(short)),
    )
    tries = (
        say("Measure cell 1 alone again: has it fallen since?"),
        say("Rub the plates, wet what has dried, press the stack together."),
        say("Measure the whole again."),
    )
    return [PackFinding("each_a_little", "possible", say("All cells give a little less than alone"), text, tries)]


def _whole(record: PackRecord) -> list[PackFinding]:
    """A whole that is far below its single cells, with nothing measured on the way: halve it."""
    places = [k for k, v in enumerate(record.sums_v) if v is not None]
    last = places[-1] if places else 0
    if last == 0 or len(places) == last + 1:  # every step is measured, and none is off
        return []
    singles = [at_place(record.alone_v, k) for k in range(last + 1)]
    due, now = sum(v or 0.0 for v in singles), record.sums_v[last] or 0.0
    if any(v is None for v in singles) or due - now <= max(STEP_V * (last + 1) ** 0.5, MISSING * due):
        return []
    half = (last + 1) // 2
    text = say(
        "The cells alone make {due}, together they give {now}: {short} is missing, and nothing in between is measured.",
        due=volts(due),
        now=volts(now),
        short=volts(due - now),
    )
    tries = (
        say("Measure the cells 1 to {half} together: do they give what they make alone?", half=half),
        say("Halve again the part that gives too little, until one cell is left."),
    )
    return [PackFinding("halve", "likely", say("Somewhere {short} is lost", short=volts(due - now)), text, tries)]


def _gives(cell: int, alone: float, added: float) -> str:
    return say(
        "Cell {cell} alone gives {alone}, joined it adds {added}.",
        cell=cell,
        alone=volts(alone),
        added=volts(added, signed=True),
    )


def _turned_cell(k: int, alone: float, added: float) -> PackFinding:
    """A cell that takes away what it should add."""
    cell = k + 1
    follow = (
        say("Follow the wire: the plus of cell {k} goes to the minus of cell {cell}.", k=k, cell=cell)
        if k
        else say("Its minus is the end.")
    )
    tries = (follow, say("Change the two clips of cell {cell}, measure the whole again.", cell=cell))
    title = say("Cell {cell} the wrong way round?", cell=cell)
    text = say("{gives} It works against the others.", gives=_gives(cell, alone, added))
    return PackFinding("turned", "likely", title, text, tries, cell)


def _step(record: PackRecord, k: int) -> PackFinding | None:
    """What joining cell k + 1 added, against what it gives alone."""
    alone, now, before = at_place(record.alone_v, k), record.sums_v[k], 0.0 if k == 0 else record.sums_v[k - 1]
    if alone is None or now is None or before is None:
        return None
    added, cell = now - before, k + 1
    short = alone - added
    if abs(short) <= STEP_V:
        return None
    gives = _gives(cell, alone, added)
    if abs(alone) > STEP_V and added * alone < 0.0 and abs(added) > TURNED * abs(alone):
        return _turned_cell(k, alone, added)
    if short < 0.0:
        tries = (say("Measure the cell alone again."), say("Is a battery, or a cell of another group, in the row?"))
        title = say("More than cell {cell} has", cell=cell)
        text = say("{gives} A sum cannot be more than its cells.", gives=gives)
        return PackFinding("more_than_its_cell", "possible", title, text, tries, cell)
    return _taken(record, k, say("{gives} {short} is missing.", gives=gives, short=volts(short)), short > WHOLE * alone)


def _taken(record: PackRecord, k: int, text: str, whole: bool) -> PackFinding:
    """A step that adds too little: liquid between two cups, or plates that touch."""
    cell = k + 1
    own, before = at_place(record.across_v, k), at_place(record.across_v, k - 1)
    nothing = next((place for v, place in ((own, cell), (before, k)) if v is not None and abs(v) < NOTHING_V), None)
    if k == 0 or nothing is not None:
        title = say("Do the plates of cell {cell} touch?", cell=nothing or cell)
    elif whole and (own is None or before is None):
        title = say("Cell {cell} adds almost nothing: do its plates touch, or does liquid join the cups?", cell=cell)
    else:
        title = say("Cell {cell} adds too little: liquid between cup {k} and cup {cell}?", cell=cell, k=k)
    tell = say(
        "Leave all joined, measure across cell {cell}, then across cell {k}: one near zero means "
        "that its plates touch; both lower than alone means that liquid joins the cups.",
        cell=cell,
        k=k,
    )
    dry = say("Dry the table and the outside of the cups, lift wires and clips out of the liquid.")
    tries = (*((tell,) if k else ()), dry, say("Measure the whole again."))
    return PackFinding("bridged", "likely", title, text, tries, cell)
