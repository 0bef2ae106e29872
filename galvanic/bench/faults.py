"""The one list of faults and what is seen of them (faults.toml): for the sheet “Something is off”, for the checks, for the
simulator."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from galvanic.reference.reader import Reader, read_table
from galvanic.words import once

OF = ("cell", "meter", "pack")


@dataclass(frozen=True, slots=True)
class Symptom:
    """What a group sees, and what it may mean."""

    key: str
    seen: str
    means: str


@dataclass(frozen=True, slots=True)
class Fault:
    """What is the matter: of a cell, a meter or a pack; its symptom, the findings that name it, what to try in order, what
    mends it, and why the number is as it is."""

    key: str
    name: str
    of: str
    symptom: str
    codes: tuple[str, ...]
    tries: tuple[str, ...]
    mend: str
    why: str


def _symptom(r: Reader) -> Symptom:
    return Symptom(r.take("key", str), r.take("seen", str), r.take("means", str))


def _fault(r: Reader) -> Fault:
    of, symptom = r.take("of", str), r.take("symptom", str)
    if of not in OF or symptom not in symptoms():
        raise r.fail("a fault is of a cell, a meter or a pack, and has a symptom of this table")
    return Fault(
        r.take("key", str),
        r.take("name", str),
        of,
        symptom,
        r.texts("codes"),
        r.texts("tries"),
        r.take("mend", str),
        r.take("why", str),
    )


@once
def symptoms() -> Mapping[str, Symptom]:
    """Symptoms by key, in the order of the sheet."""
    return read_table("faults", "symptom", _symptom)


@once
def faults() -> Mapping[str, Fault]:
    """Faults by key."""
    return read_table("faults", "fault", _fault)


@once
def tries_for(code: str) -> tuple[str, ...]:
    """What to try when a check of a single cell finds this: of all faults that the finding is made for, in order."""
    named = [fault for fault in faults().values() if fault.of != "pack" and fault.codes[:1] == (code,)]
    return tuple(dict.fromkeys(tried for one in named for tried in one.tries))


@once
def tries_of(symptom: str) -> tuple[str, ...]:
    """What to try when this is seen: of all faults with the symptom, in order."""
    return tuple(dict.fromkeys(tried for fault in faults().values() if fault.symptom == symptom for tried in fault.tries))
