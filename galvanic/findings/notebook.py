"""What a notebook has and what is still missing from it. It is said, and never written for anybody."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from galvanic.words import mark, say

LEAST_READINGS = 2  # one number cannot show its own scatter: common practice, no source


@dataclass(frozen=True, slots=True)
class Part:
    """Something a group writes in its own words: a key for programs, its heading, and what it is asked."""

    key: str
    name: str
    asks: str


PARTS = (
    Part("question", mark("Our question"), mark("What did you want to find out?")),
    Part("expectation", mark("What we expected"), mark("What did you think would happen, and why?")),
    Part(
        "discussion",
        mark("What we found, and why"),
        mark("What do your numbers show? Where do they differ from the table, and why?"),
    ),
    Part("conclusion", mark("Conclusion"), mark("What is your answer to the question, and how sure are you?")),
    Part("next", mark("What we would do next"), mark("What would you change or measure next, and what would it tell you?")),
)
LACKS = {
    "question": mark("No question yet."),
    "expectation": mark("Nothing yet on what you expected."),
    "discussion": mark("No discussion yet."),
    "conclusion": mark("No conclusion yet."),
    "next": mark("Nothing yet on what you would do next."),
}


@dataclass(frozen=True, slots=True)
class CellInBook:
    """A cell as far as a notebook is complete: how it is written, readings that count, and groups that measured it (None:
    not known)."""

    short: str
    readings: int
    groups: int | None


@dataclass(frozen=True, slots=True)
class Book:
    """What there is of a notebook: words by part, whether anything is cited, cells, and whether the meter was checked."""

    words: Mapping[str, str]
    cites: bool
    cells: Sequence[CellInBook]
    meter_checked: bool


def missing(book: Book) -> tuple[str, ...]:
    """What a group's notebook still lacks, first its own words, then its numbers; a sentence each."""
    says = [say(LACKS[part.key]) for part in PARTS if not book.words.get(part.key, "").strip()]
    if not book.cites and any(text.strip() for text in book.words.values()):
        says.append(say("No reading is cited as evidence."))
    if not book.meter_checked:
        says.append(say("The meter was never checked."))
    return (*says, *missing_numbers(book.cells))


def missing_numbers(cells: Sequence[CellInBook]) -> tuple[str, ...]:
    """What is missing from the numbers of a group, or of a class (its cells once each)."""
    none = [cell.short for cell in cells if cell.readings == 0]
    alone = [cell.short for cell in cells if 0 < cell.readings < LEAST_READINGS]
    single = [cell.short for cell in cells if cell.groups == 1 and cell.readings > 0]
    return (
        *_said(none, say("has no reading"), say("have no reading")),
        *_said(alone, say("was read once only"), say("were read once only")),
        *_said(single, say("was measured by one group only"), say("were measured by one group only")),
    )


def _said(cells: Sequence[str], one: str, many: str) -> tuple[str, ...]:
    if not cells:
        return ()
    return (f"{', '.join(cells)} {one if len(cells) == 1 else many}.",)
