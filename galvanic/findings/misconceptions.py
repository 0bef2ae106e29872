"""Misconceptions as groups write them, heard in their reasoning, each with its contradiction and a question back.

The rules (reference/misconceptions.toml, English) look for a few words together; beside them listens the trained ear
(`ear.py`, both languages). Both can miss and mishear: what they find is put as a question, never as a mark.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass

from galvanic.findings.class_accounts import electronegativity
from galvanic.findings.ear import hear, sentences_of
from galvanic.findings.liquid_notes import in_liquids
from galvanic.findings.verdicts import ClaimData
from galvanic.notes import volts
from galvanic.planning.lessons import LESSONS
from galvanic.reference.reader import Reader, read_table
from galvanic.words import once, say

DENIED = re.compile(
    r"\b(no|not|never|none|nothing|nobody|neither|nor|without|cannot|hardly|same|unlike)\b|n't\b|"
    r"\b(?:do|does|did|is|are|was|were|wo|ca|could|would|should|has|have)nt\b"  # as it is typed
)

Against = Callable[[ClaimData], str]


@dataclass(frozen=True, slots=True)
class Misconception:
    """One misconception: its name, the words that betray it (all, in any order; none where only the ear hears it) and those
    that take it back, what speaks against it, a question, and which contradiction to look for in the data."""

    key: str
    name: str
    words: tuple[str, ...]
    but_not: str
    against: str
    question: str
    data: str
    lab: str


@dataclass(frozen=True, slots=True)
class Heard:
    """A misconception in a text: its name, what speaks against it, the contradiction in this class's data, a question."""

    key: str
    name: str
    against: str
    in_data: str
    question: str


def _same_liquid(data: ClaimData) -> str:
    """In one liquid different pairs give different voltages."""
    result = next(r for r in data.results if r.electrolyte == data.cell.electrolyte and r.condition == data.cell.condition)
    cells = sorted(result.cells, key=lambda one: one.mean_v)
    if len(cells) < 2:
        return ""
    low, high = cells[0], cells[-1]
    return say(
        "In the same liquid {short} gave {mean_v} and {short2} {mean_v2}.",
        short=low.cell.short,
        mean_v=volts(low.mean_v),
        short2=high.cell.short,
        mean_v2=volts(high.mean_v),
    )


def _same_pair(data: ClaimData) -> str:
    """The same pair in several liquids."""
    for liquid in in_liquids(data.results):
        if (liquid.negative, liquid.positive) == data.cell.pair:
            low, high = min(liquid.volts_v.values()), max(liquid.volts_v.values())
            return say(
                "{short} gave {low} to {high} over {n_volts_v} liquids.",
                short=liquid.short,
                low=volts(low),
                high=volts(high),
                n_volts_v=len(liquid.volts_v),
            )
    return ""


def _wrong_order(data: ClaimData) -> str:
    """A cell whose order electronegativity gets wrong."""
    for result in data.results:
        for cell in result.cells:
            low, high = (electronegativity(plate) for plate in cell.cell.pair)
            if low is not None and high is not None and low != high and (high > low) != (cell.mean_v > 0.0):
                return say(
                    "{short} came out as {mean_v}, against that order.",
                    short=cell.cell.short,
                    mean_v=volts(cell.mean_v, signed=True),
                )
    return ""


def _minus(data: ClaimData) -> str:
    """A cell of the class with a minus sign."""
    for result in data.results:
        for cell in result.cells:
            if cell.mean_v < 0.0:
                return say(
                    "{short} is {mean_v} with red on the table’s positive plate: nothing broke.",
                    short=cell.cell.short,
                    mean_v=volts(cell.mean_v),
                )
    return ""


CONTRADICTIONS: dict[str, Against] = {
    "": lambda data: "",
    "same_liquid": _same_liquid,
    "same_pair": _same_pair,
    "wrong_order": _wrong_order,
    "minus": _minus,
}


def _row(r: Reader) -> Misconception:
    texts = {name: r.take(name, str) for name in ("key", "name", "but_not", "against", "question", "data", "lab")}
    misconception = Misconception(words=r.texts("words"), **texts)
    r.source(r.take("source", str))
    if misconception.lab and misconception.lab not in LESSONS:
        raise r.fail(f"no ready lab is called {misconception.lab!r}")
    if misconception.data not in CONTRADICTIONS:
        raise r.fail(f"no contradiction is called {misconception.data!r}")
    return misconception


@once
def misconceptions() -> Mapping[str, Misconception]:
    """All misconceptions by key. Raises BadTable for an unknown source or contradiction."""
    return read_table("misconceptions", "misconception", _row)


def keys_heard(text: str) -> list[str]:
    """Keys of the misconceptions that a text seems to hold, most specific first; a question holds none."""
    keys: list[tuple[int, str]] = []
    for sentence in sentences_of(text):
        if not sentence.endswith("?"):
            keys += [*by_rule(sentence), *((0, key) for key in hear(sentence))]
    return list(dict.fromkeys(key for _, key in sorted(keys, key=lambda item: -item[0])))


def by_rule(sentence: str) -> list[tuple[int, str]]:
    """What the rules find in a sentence, each with how many words of it they looked for; nothing in a denial."""
    small = sentence.casefold().replace("\u2019", "'")
    if DENIED.search(small):
        return []
    return [
        (len(row.words), row.key)
        for row in misconceptions().values()
        if row.words and all(re.search(word, small) for word in row.words) and not re.search(row.but_not, small)
    ]


def heard_in(text: str, data: ClaimData) -> list[Heard]:
    """Misconceptions that a text seems to hold, most specific first, at most three; empty where there is none."""
    rows = [misconceptions()[key] for key in keys_heard(text)[:3]]
    return [Heard(row.key, row.name, row.against, CONTRADICTIONS[row.data](data), row.question) for row in rows]
