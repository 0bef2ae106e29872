"""What is said of readings that do not count, by the one verdict on each: who, which cell, and what most likely happened."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

from galvanic.bench.standing import Standing
from galvanic.cells import Cell
from galvanic.notes import Note
from galvanic.words import mark, say, say_n

MOST_LINES = 8
ORDER = ("reversed", "millivolts", "too_high", "beyond")
TITLES = {
    "reversed": mark("{who}: leads the other way round?"),
    "millivolts": mark("{who}: millivolts written as volts?"),
    "too_high": mark("{who}: more than these plates can give"),
    "beyond": mark("{who}: no cell gives that"),
}
DO = {
    "reversed": mark("Turned round, they fit. Ask for a correction, or let them count."),
    "millivolts": mark("Divided by a thousand, they fit. Ask for a correction, or let them count."),
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


def left_out_notes(values: Sequence[LeftOutValue], groups: int) -> list[Note]:
    """One note for each thing that most likely happened; `groups` is how many groups have read anything."""
    by_code: dict[str, list[LeftOutValue]] = defaultdict(list)
    for value in values:
        by_code[value.standing.code].append(value)
    return [_note(code, by_code[code], groups) for code in ORDER if code in by_code]


def _note(code: str, values: Sequence[LeftOutValue], groups: int) -> Note:
    who = list(dict.fromkeys(value.group for value in values))
    named = say("All groups") if len(who) == groups > 1 else ", ".join(who)
    n = say_n("{n} reading does not count until you say so.", "{n} readings do not count until you say so.", len(values))
    return Note(
        f"left_out_{code}", "wrong", say(TITLES[code], who=named), f"{n} {say(DO[code])}",
        evidence=tuple(
            say(
                "{group}, {short}: {typed}. {why}",
                group=one.group, short=one.cell.short, typed=one.typed, why=one.standing.why,
            )
            for one in values[:MOST_LINES]
        ),
    )  # fmt: skip
