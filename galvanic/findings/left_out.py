"""What is said of readings that do not count, by the one verdict on each: who, which cell, and what most likely happened."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

from galvanic.bench.standing import Standing
from galvanic.cells import Cell
from galvanic.findings.ranked import Ranked
from galvanic.notes import Note
from galvanic.words import mark, say, say_n

MOST_LINES = 8
WEIGHTS = {"reversed": 95, "millivolts": 95, "comma": 95, "too_high": 92, "beyond": 92}
WHOLE = 0.5  # of a class's readings: then it is everybody's
TITLES = {
    "reversed": mark("{who}: leads the other way round?"),
    "millivolts": mark("{who}: millivolts written as volts?"),
    "comma": mark("{who}: a decimal point lost?"),
    "too_high": mark("{who}: more than these plates can give"),
    "beyond": mark("{who}: no cell gives that"),
}
DO = {
    "reversed": mark("Turned round, they fit. Ask for a correction, or let them count."),
    "millivolts": mark("Divided by a thousand, they fit. Ask for a correction, or let them count."),
    "comma": mark("With the point back in its place, they fit. Ask for a correction, or let them count."),
    "too_high": mark("Look at the reading and its meter. Ask for a new one, or let it count."),
    "beyond": mark("Look at the reading and its meter. Ask for a new one, or let it count."),
}


@dataclass(frozen=True, slots=True)
class LeftOutValue:
    """A reading that does not count: whose, of which cell, as typed with its unit, and the verdict."""

    group: str
    cell: Cell
    typed: str
    standing: Standing


def left_out_notes(values: Sequence[LeftOutValue], groups: int, readings: int) -> list[Ranked]:
    """One note for each thing that most likely happened; `groups` is how many groups have read anything, `readings` how
    many readings there are, those that do not count among them."""
    by_code: dict[str, list[LeftOutValue]] = defaultdict(list)
    for value in values:
        by_code[value.standing.code].append(value)
    return [
        Ranked(
            weight, _note(code, by_code[code], groups), frozenset(value.group for value in by_code[code]),
            len(by_code[code]) >= WHOLE * readings,
        )
        for code, weight in WEIGHTS.items()
        if code in by_code
    ]  # fmt: skip


def _note(code: str, values: Sequence[LeftOutValue], groups: int) -> Note:
    who = list(dict.fromkeys(value.group for value in values))
    named = say("All groups") if len(who) == groups > 1 else ", ".join(who)
    n = say_n("{n} reading does not count until you say so.", "{n} readings do not count until you say so.", len(values))
    by_cell: dict[tuple[str, Cell], list[LeftOutValue]] = defaultdict(list)
    for value in values:
        by_cell[value.group, value.cell].append(value)
    rows = tuple(
        say(
            "{group}, {short}: {typed}. {why}",
            group=group,
            short=cell.short,
            typed="; ".join(one.typed for one in found[:MOST_LINES]),
            why=found[0].standing.why,
        )
        for (group, cell), found in list(by_cell.items())[:MOST_LINES]
    )
    return Note(f"left_out_{code}", "wrong", say(TITLES[code], who=named), f"{n} {say(DO[code])}", evidence=rows)
