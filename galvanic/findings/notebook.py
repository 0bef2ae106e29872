"""What a notebook has and what is still missing from it. It is said, and never written for anybody."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

LEAST_READINGS = 2  # one number cannot show its own scatter: common practice, no source


@dataclass(frozen=True, slots=True)
class Part:
    """Something a group writes in its own words: a key for programs, its heading, and what it is asked."""

    key: str
    name: str
    asks: str


PARTS = (
    Part("question", "Our question", "What did you want to find out?"),
    Part("expectation", "What we expected", "What did you think would happen, and why?"),
    Part("discussion", "What we found, and why", "What do your numbers show? Where do they differ from the table, and why?"),
    Part("conclusion", "Conclusion", "What is your answer to the question, and how sure are you?"),
    Part("next", "What we would do next", "What would you change or measure next, and what would it tell you?"),
)
LACKS = {
    "question": "No question yet.",
    "expectation": "Nothing yet on what you expected.",
    "discussion": "No discussion yet.",
    "conclusion": "No conclusion yet.",
    "next": "Nothing yet on what you would do next.",
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
    says = [LACKS[part.key] for part in PARTS if not book.words.get(part.key, "").strip()]
    if not book.cites and any(text.strip() for text in book.words.values()):
        says.append("No reading is cited as evidence.")
    if not book.meter_checked:
        says.append("The meter was never checked.")
    return (*says, *missing_numbers(book.cells))


def missing_numbers(cells: Sequence[CellInBook]) -> tuple[str, ...]:
    """What is missing from the numbers of a group, or of a class (its cells once each)."""
    none = [cell.short for cell in cells if cell.readings == 0]
    alone = [cell.short for cell in cells if 0 < cell.readings < LEAST_READINGS]
    single = [cell.short for cell in cells if cell.groups == 1 and cell.readings > 0]
    return (
        *_said(none, "has no reading", "have no reading"),
        *_said(alone, "was read once only", "were read once only"),
        *_said(single, "was measured by one group only", "were measured by one group only"),
    )


def _said(cells: Sequence[str], one: str, many: str) -> tuple[str, ...]:
    if not cells:
        return ()
    return (f"{', '.join(cells)} {one if len(cells) == 1 else many}.",)
