"""What the software has to say about a result, in sentences a fifteen-year-old reads once; every note has a number."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Literal

from galvanic.cells import Cell
from galvanic.words import MINUS, THIN, number, say

__all__ = ["MINUS", "THIN", "Action", "Note", "Tone", "amps", "capital", "digits", "said", "spread", "volts"]
Tone = Literal["plain", "good", "caution", "wrong"]


def capital(text: str) -> str:
    """A text as a sentence begins, its other letters as they are: names of metals and alloys have capitals of their own."""
    return f"{text[:1].upper()}{text[1:]}"


@dataclass(frozen=True, slots=True)
class Action:
    """What a note offers to do: a kind for programs, words for the button, the cell concerned, how often, at which group."""

    kind: str
    label: str
    cell: Cell | None = None
    times: int = 1
    group: int | None = None


@dataclass(frozen=True, slots=True)
class Note:
    """One margin note: a code for programs, a tone (plain, good, caution, wrong), a title, a text, at most one action.

    `evidence` are the numbers behind it, a line each.
    """

    code: str
    tone: Tone
    title: str
    text: str
    action: Action | None = None
    evidence: tuple[str, ...] = ()


def said(note: Note) -> Note:
    """A note that is a constant, in the language around."""
    return replace(note, title=say(note.title), text=say(note.text))


def volts(value_v: float, decimals: int = 2, signed: bool = False) -> str:
    """A voltage for reading: true minus sign, the language's decimal sign, thin space before the unit."""
    text = number(value_v, f"{'+' if signed else ''}.{decimals}f")
    return f"{text.replace('-', MINUS)}{THIN}V"


def digits(u_v: float) -> int:
    """How many decimals an uncertainty has for reading, and with it the value it belongs to: two, or as many as say more
    than nothing."""
    return 2 if u_v >= 0.005 or u_v <= 0.0 else 3 if u_v >= 0.0005 else 4


def spread(u_v: float) -> str:
    """An uncertainty for reading."""
    return volts(u_v, digits(u_v))


LEAST_SHOWN_A = 5e-10


def amps(value_a: float) -> str:
    """A current for reading: two digits, in mA, or in µA below a tenth of one."""
    unit, shown = ("µA", 1e6 * value_a) if abs(value_a) < 1e-4 else ("mA", 1e3 * value_a)
    if abs(value_a) < LEAST_SHOWN_A:
        return f"0{THIN}mA"
    shown_digits = max(0, 1 - math.floor(math.log10(abs(shown))))
    text = number(round(shown, shown_digits), f".{min(shown_digits, 3)}f")
    return f"{text.replace('-', MINUS)}{THIN}{unit}"
