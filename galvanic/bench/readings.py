"""From what a person typed off a meter to volts and resolution.

The last digit typed is the resolution: `1.10` is 1.10 V to 0.01 V, not 1.1. A minus sign is evidence of which plate
is negative and is always kept.
"""

from __future__ import annotations

import math
import re
import unicodedata
from collections.abc import Mapping
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from galvanic.bench.loading import NO_OHM_RANGE
from galvanic.errors import UnreadableReading
from galvanic.words import say

MAX_TEXT = 32
MAX_DIGITS = 7
MOST_V = 10_000.0  # no meter that touches a bench shows more (common practice, no source)
MOST_A = 20.0  # the highest socket of a hand-held meter (common practice, no source)
UNITS = {"V": Decimal(1), "mV": Decimal("0.001")}
MINUS = "-\u2212\u2010\u2011\u2012\u2013\u2014\uff0d"
_NUMBER = re.compile(r"([+-]?)([0-9]*)(?:([.,])([0-9]*))?([a-z\u03bc\u03c9]*)", re.IGNORECASE)
OHMS = {"\u03c9", "ohm", "ohms", "k\u03c9", "kohm", "m\u03c9", "mohm"}
_VOLTS = {"v": "V", "volt": "V", "volts": "V", "mv": "mV", "millivolt": "mV", "millivolts": "mV"}
AMPERES = {"A": Decimal(1), "mA": Decimal("0.001"), "\u00b5A": Decimal("0.000001")}
_AMPERES = {"a": "A", "amp": "A", "amps": "A", "ma": "mA", "\u03bca": "\u00b5A", "ua": "\u00b5A"}


# For a page without network, in JavaScript's words too: what `parse` would take for one number, spaces taken out before.
READABLE = r"^[+\-\u2212\u2010-\u2014\uff0d]?(?:[0-9]{1,7}(?:[.,][0-9]{0,7})?|[.,][0-9]{1,7})(?:m?v|volts?|millivolts?)?$"


@dataclass(frozen=True, slots=True)
class ParsedReading:
    """A reading as understood: `volts_v` and `resolution_v` (the step of the last digit) in V, `unit` V or mV."""

    text: str
    volts_v: float
    resolution_v: float
    unit: str
    negative: bool


@dataclass(frozen=True, slots=True)
class ParsedCurrent:
    """A current as understood: `current_a` and `resolution_a` in A, `unit` A, mA or µA."""

    text: str
    current_a: float
    resolution_a: float
    unit: str


def parse(text: str, unit: str = "V") -> ParsedReading:
    """Read one voltage, with `unit` ("V" or "mV") unless the text names its own.

    Accepts a decimal comma, any kind of minus sign, stray spaces and a unit. Raises UnreadableReading, with a sentence
    that says what would be right, for words, two numbers, powers of ten, `nan` or too many digits.
    """
    value, resolution, unit, negative = _read(text, unit, UNITS, _VOLTS)
    _possible(text, abs(value) <= MOST_V, "10 kV", say("With mV instead of V, or a point in the right place?"))
    return ParsedReading(text, value, resolution, unit, negative)


def parse_current(text: str, unit: str = "mA") -> ParsedCurrent:
    """Read one current the same way, with `unit` ("A", "mA" or "µA") unless the text names its own."""
    value, resolution, unit, _ = _read(text, unit, AMPERES, _AMPERES)
    _possible(text, abs(value) <= MOST_A, "20 A", say("With mA instead of A, or a point in the right place?"))
    return ParsedCurrent(text, value, resolution, unit)


Kind = Literal["short", "load"]


@dataclass(frozen=True, slots=True)
class UnderLoad:
    """What a meter showed under load, as understood: `value` in A for a short circuit, in V across a resistor;
    `resolution` is the step of its last digit."""

    text: str
    value: float
    resolution: float
    unit: str


def read_under_load(kind: Kind, text: str, unit: str) -> UnderLoad:
    """Read what was typed of a measurement under load. Raises UnreadableReading."""
    if kind == "short":
        current = parse_current(text, unit)
        return UnderLoad(current.text.strip(), current.current_a, current.resolution_a, current.unit)
    volts = parse(text, unit)
    return UnderLoad(volts.text.strip(), volts.volts_v, volts.resolution_v, volts.unit)


def _possible(text: str, it_is: bool, most: str, ask: str) -> None:
    """Refuse what no meter shows: it cannot have been read off one."""
    if not it_is:
        raise UnreadableReading(
            say(
                "“{strip}” is beyond what any meter shows ({most}). {ask} It is still in the box.",
                strip=text.strip(),
                most=most,
                ask=ask,
            )
        )


def _read(text: str, unit: str, scales: Mapping[str, Decimal], named: Mapping[str, str]) -> tuple[float, float, str, bool]:
    if unit not in scales:
        raise UnreadableReading(say("The unit “{unit}” is not {scales}.", unit=unit[:8], scales=say(" or ").join(scales)))
    if not text.strip():
        raise UnreadableReading(say("Nothing was typed. Type the number on the meter, for example 0.94."))
    if len(text) > MAX_TEXT:
        raise UnreadableReading(
            say("That is longer than {max_text} characters. Type one number, for example 0.94.", max_text=MAX_TEXT)
        )
    plain = unicodedata.normalize("NFKC", text)
    plain = "".join("-" if mark in MINUS else mark for mark in plain).strip()
    if re.search(r"[0-9.,]\s+[0-9.,+-]", plain):
        raise UnreadableReading(say("“{strip}” looks like two numbers. Type one reading at a time.", strip=text.strip()))
    match = _NUMBER.fullmatch(re.sub(r"\s+", "", plain))
    if match is not None and match[5].casefold() in OHMS:
        raise UnreadableReading(say(NO_OHM_RANGE))
    if match is None or (match[5] and match[5].casefold() not in named):
        raise UnreadableReading(
            say("“{strip}” is not one number. Type it as on the meter, for example 0.94 or -0.46.", strip=text.strip())
        )
    sign, whole, mark, decimals, own = match.groups()
    digits = whole + (decimals or "")
    if not digits or (mark and not whole and not decimals):
        raise UnreadableReading(
            say("“{strip}” has no digits. Type the number on the meter, for example 0.94.", strip=text.strip())
        )
    if len(digits) > MAX_DIGITS:
        raise UnreadableReading(
            say("“{strip}” has more digits than a meter shows. Type it as on the meter.", strip=text.strip())
        )
    unit = named[own.casefold()] if own else unit
    size = Decimal(f"{whole or '0'}.{decimals or '0'}") * scales[unit]
    resolution = Decimal(1).scaleb(-len(decimals or "")) * scales[unit]
    negative = sign == "-"
    return float(-size if negative else size), float(resolution), unit, negative


def as_shown(value_v: float, resolution_v: float) -> str:
    """A voltage with as many digits as the resolution bears, as a person would type it."""
    decimals = max(0, round(-math.log10(resolution_v)))
    text = f"{value_v:.{decimals}f}"
    return text.lstrip("-") if float(text) == 0.0 else text
