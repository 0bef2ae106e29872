"""What is wrong with the numbers of a sentence as they stand on the page, whatever they were before they were printed."""

from __future__ import annotations

import re
from collections.abc import Iterator

THIN = "\u202f"
MOST_V = 20.0  # nothing at a bench shows more; what was typed wrongly is quoted where it is left out
NUMBER = r"[+−]?\d+(?:[.,]\d+)?"
PLURALS = (
    "neighbours|groups|readings|cells|plates|values|liquids|pairs|classes|loops|predictions|Nachbarn|Gruppen|Ablesungen|Zellen|"
    "Platten|Werte|Flüssigkeiten|Paare|Klassen|Vorhersagen"
)
WRONG = {
    "a power of ten of programs": r"\d[eE][+-]?\d",
    "no number": r"\b(?:nan|inf)\b",
    "a hyphen as minus": r"(?<![\w\u2009/])-\d",
    "an interval of nothing": r"± 0(?:[.,]0*)?(?![.,\d])",
    "minus nothing": r"−0(?:[.,]0*)?(?![.,\d])",
    "one of many": rf"(?<![\d.,])1 (?:{PLURALS})\b",
    "a part of a thing that is counted": rf"\d[.,]\d+ (?:of|von) \d+ (?:{PLURALS})\b",
}


def faults(text: str, language: str) -> Iterator[str]:
    """What is wrong with the numbers of a text, each with the place."""
    for name, pattern in WRONG.items():
        for found in re.finditer(pattern, text):
            yield f"{name}: {_around(text, found)}"
    point = r"\d\.\d" if language == "de" else r"\d,\d"
    for found in re.finditer(point, text):
        yield f"a decimal sign of the other language: {_around(text, found)}"
    for found in re.finditer(rf"({NUMBER})(?:{THIN}V)? ± ({NUMBER})", text):
        if decimals(found[1]) != decimals(found[2]):
            yield f"other digits than its interval: {_around(text, found)}"
    for found in re.finditer(rf"(?:from|von) ({NUMBER})(?:{THIN}V)? (?:to|bis) ({NUMBER})", text):
        if value(found[1]) > value(found[2]) or decimals(found[1]) != decimals(found[2]):
            yield f"an interval the wrong way round: {_around(text, found)}"
    for found in re.finditer(rf"({NUMBER}){THIN}V\b", text):
        if abs(value(found[1])) > MOST_V:
            yield f"more than any meter shows: {_around(text, found)}"
    yield from _differences(text)


def _differences(text: str) -> Iterator[str]:
    """Where a table's value, the class's and their difference stand in one sentence, they agree as printed."""
    pattern = rf"(?:The table gives|Die Tabelle gibt) ({NUMBER}){THIN}V, (?:the class|die Klasse) ({NUMBER}){THIN}V: ({NUMBER}){THIN}V"
    for found in re.finditer(pattern, text):
        table, mean, gap = (value(part) for part in found.groups())
        if abs(abs(table - mean) - gap) > 1e-9:
            yield f"a difference that is none of its numbers: {_around(text, found)}"


def decimals(printed: str) -> int:
    """How many decimals a printed number has."""
    return len(re.split("[.,]", printed)[1]) if re.search("[.,]", printed) else 0


def value(printed: str) -> float:
    """A printed number."""
    return float(printed.replace("−", "-").replace(",", "."))


def _around(text: str, found: re.Match[str]) -> str:
    return f"…{text[max(0, found.start() - 30) : found.end() + 30]}…"
