"""What a column of a class's own table holds, by its heading, in the words that people write there."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache

from galvanic.words import in_all_languages, mark

NEEDED = ("group", "red", "black", "electrolyte", "volts")
TYPED, UNIT, CONDITION, REALLY, COUNTS, WHY_NOT = "as typed", "unit", "condition", "really", "counts", "why not"
OFFSET, RESOLUTION, TYPED_AT = "offset taken off, v", "resolution, v", "typed at"
KNOWN = (*NEEDED, CONDITION, REALLY, TYPED, UNIT, OFFSET, RESOLUTION, COUNTS, WHY_NOT, TYPED_AT)
TOLD = ("origin", "edition of the data", "standing", "why")  # in exports, and of no use here: nobody needs to hear that

# As exports write them; in a workbook in its reader's language, and known in any of them here.
WRITTEN = (
    mark("group"), mark("red"), mark("black"), mark("electrolyte"), mark("volts"), mark("condition"), mark("really"),
    mark("as typed"), mark("unit"), mark("offset taken off, V"), mark("resolution, V"), mark("origin"), mark("typed at"),
    mark("counts"), mark("why not"), mark("standing"), mark("why"), mark("negative"), mark("positive"), mark("kind"),
    mark("load, Ω"), mark("value, V or A"), mark("edition of the data"),
)  # fmt: skip

# Other words for the same, lower case, some in German, French and Spanish; common practice, no source.
ALSO = {
    "group": "team, bench, table, students, group name, gruppe, groupe, grupo",
    "red": "red lead, red on, red plate, positive, positive plate, positive electrode, +, plus, cathode, metal 2, plate 2,"
    " electrode 2, rot, pluspol, positif, positivo",
    "black": "black lead, black on, black plate, negative, negative plate, negative electrode, -, −, minus, anode, metal 1,"
    " plate 1, electrode 1, schwarz, minuspol, négatif, negativo",
    "electrolyte": "liquid, solution, juice, fruit, electrolyte solution, elektrolyt, lösung, flüssigkeit, électrolyte,"
    " líquido",
    "volts": "voltage, reading, emf, e.m.f., potential difference, pd, p.d., u, e, v, spannung, tension, voltaje, tensión",
    "condition": "setting, variable, bedingung",
    "unit": "units, einheit, unité, unidad",
    "typed at": "time, at, date, when",
}
_MEANS = {word: name for name, words in ALSO.items() for word in (part.strip() for part in words.split(","))}
UNIT_AT_END = re.compile(r"^(.*?)\s*(?:[(\[/,]\s*|\bin\s+)(m?v|millivolts?|volts?)\s*[)\]]?$", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class Heading:
    """A heading as typed, what its column holds (empty: not understood), and the unit that it names for volts."""

    text: str
    means: str
    unit: str | None = None


def plain(name: str) -> str:
    """A heading without what people write differently: spaces and case. Those of Pipette's own workbooks become English."""
    tidy = _tidy(name)
    return _english().get(tidy, tidy)


def _tidy(name: str) -> str:
    return " ".join(name.split()).casefold()


@cache
def _english() -> Mapping[str, str]:
    return {_tidy(other): _tidy(one) for one in WRITTEN for other in in_all_languages(one)}


def heading(text: str) -> Heading:
    """What a heading says: “Voltage (mV)”, “red”, “Metal 1”; what is not known has no meaning, and nothing is guessed."""
    name = plain(text)
    if name in KNOWN:
        return Heading(text, name)
    if name in TOLD:
        return Heading(text, "")
    if name in _MEANS:
        return Heading(text, _MEANS[name])
    if found := UNIT_AT_END.match(name):
        inner = found[1].strip() or "volts"
        means = inner if inner in KNOWN else _MEANS.get(inner, "")
        if means == "volts":
            return Heading(text, means, "mV" if found[2].startswith("m") else "V")
    if name in ("mv", "millivolts"):
        return Heading(text, "volts", "mV")
    return Heading(text, "")
