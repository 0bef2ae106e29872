"""The safety sheet by rule: what can hurt with these materials at this age, what to do, and what refuses the plan outright.

Rules are data (hazards.toml), common practice without a published source. They never replace a school's own rules and risk
assessment, and every sheet says so first.
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from typing import Literal, get_args

from galvanic.errors import OutOfRange
from galvanic.notes import Note
from galvanic.planning.asked import ASKED, WORDS, Asked
from galvanic.reference.additions import additions, metal_ions
from galvanic.reference.catalogue import electrodes, electrolytes, shipped_electrodes, shipped_electrolytes
from galvanic.reference.reader import Range, Reader, edition, read_table
from galvanic.words import mark, once, say, speaking

AgeBand = Literal["11-13", "14-15", "16-18"]
AGE_BANDS: tuple[AgeBand, ...] = get_args(AgeBand)
LOCAL_RULES = mark(
    "Your school’s own rules and risk assessment come first. This sheet helps to write one; it does not replace it."
)
NOT_FOR_STUDENTS = mark("It is not for students of any age.")
NO_SIGN = mark("The sheet of such a plan cannot be signed off.")
NOTHING = Asked()
Severity = Literal["caution", "warning"]
SEVERITIES: tuple[Severity, ...] = get_args(Severity)
ACTIVITIES: Mapping[str, str] = {
    "cutting": mark("students cut fruit themselves"),
    "flame": mark("a flame in the room"),
    "grinding": mark("metal is filed or ground"),
    "supply": mark("a power supply or battery joined to a cell"),
    "open-battery": mark("a bought battery is opened for its parts"),
}


@dataclass(frozen=True, slots=True)
class Hazard:
    """One rule. `to` is a key, or a pH for `ph-above` and `ph-below`; `refuse` are the age bands that must not.

    For `gas`, `to` is a surface, and the rule holds in liquids below `ph_below` or above `ph_above` where one is given.
    `collect`: used liquid does not go down the drain.
    """

    key: str
    applies: str
    to: str | float
    severity: Severity
    text: str
    short: str
    do: str
    dispose: str
    first_aid: str
    refuse: tuple[str, ...]
    source: str
    ph_below: float | None = None
    ph_above: float | None = None
    collect: bool = False


@dataclass(frozen=True, slots=True)
class Entry:
    """One line of a sheet: a rule, the names of what it applies to here, and whether it refuses the plan."""

    hazard: Hazard
    because: tuple[str, ...]
    refused: bool


@dataclass(frozen=True, slots=True)
class Sheet:
    """A safety sheet: refusals first, then warnings, then cautions; `used_liquid`: where it goes, one answer for the whole
    sheet. `fingerprint` changes when anything on it changes, so that an old signature does not cover a new plan; it is the
    same in every language."""

    age: str
    entries: tuple[Entry, ...]
    used_liquid: str
    fingerprint: str

    @property
    def refusals(self) -> tuple[Entry, ...]:
        """What forbids this plan with students of this age."""
        return tuple(entry for entry in self.entries if entry.refused)


def _known() -> dict[str, set[str]]:
    plates, liquids = shipped_electrodes().values(), shipped_electrolytes().values()
    return {
        "any": {"any"},
        "electrode": {e.key for e in plates},
        "electrolyte": {e.key for e in liquids},
        "surface": {e.surface for e in plates},
        "gas": {e.surface for e in plates},
        "form": {e.form for e in liquids},
        "food": {"food"},
        "ion": {ion for e in liquids for ion in e.ions_mol_per_l} | set(metal_ions()),
        "oxidant": {addition.oxidant for addition in additions().values() if addition.oxidant},
        "activity": set(ACTIVITIES),
        "asked": set(ASKED),
    }


def build_hazard(r: Reader) -> Hazard:
    """One row of hazards.toml. Raises BadTable for an unknown kind, key, severity or age band."""
    applies, to = r.take("applies", str), r.take("to", (str, int, float))
    if applies.startswith("ph-"):
        if applies not in ("ph-above", "ph-below") or isinstance(to, str):
            raise r.fail("a rule by pH is ph-above or ph-below a number")
    elif to not in _known().get(applies, set()):
        raise r.fail(f"there is no {applies} {to!r}")
    refuse, severity = r.take("refuse", list), r.take("severity", str)
    if severity not in SEVERITIES or not set(refuse) <= set(AGE_BANDS):
        raise r.fail("severity or age band is unknown")
    below, above = (float(r.take(name, (int, float))) if name in r.row else None for name in ("ph_below", "ph_above"))
    if (applies == "gas") != ((below is None) != (above is None)):
        raise r.fail("a rule on gas, and no other, has ph_below or ph_above")
    words = {field: r.take(field, str) for field in ("key", "text", "short", "do", "dispose", "first_aid")}
    return Hazard(
        applies=applies,
        to=to,
        severity=severity,
        refuse=tuple(refuse),
        source=r.source(r.take("source", str)),
        ph_below=below,
        ph_above=above,
        collect=r.take("collect", bool, False),
        **words,
    )


@once
def hazards() -> Mapping[str, Hazard]:
    """Rules by key."""
    return read_table("hazards", "hazard", build_hazard)


def _gassy(rule: Hazard, ph: Range) -> bool:
    if rule.ph_below is not None:
        return ph.low < rule.ph_below
    return rule.ph_above is not None and ph.high > rule.ph_above


def _because(
    rule: Hazard, plates: Sequence[str], liquids: Sequence[str], activities: Sequence[str], asked: Asked
) -> list[str]:
    """Names of what a rule applies to."""
    if rule.applies == "any":
        return [say("every lab")]
    if rule.applies == "asked":
        return [say(WORDS[key]) for key in asked.keys if key == rule.to]
    if rule.applies == "activity":
        return [say(ACTIVITIES[key]) for key in activities if key == rule.to]
    if rule.applies in ("electrode", "surface"):
        rows = [electrodes()[key] for key in plates]
        return [e.name for e in rows if rule.to in ((e.key,) if rule.applies == "electrode" else (e.surface, e.beneath))]
    if rule.applies == "gas":
        metals = [e.name for e in (electrodes()[key] for key in plates) if rule.to in (e.surface, e.beneath)]
        met = [electrolytes()[key] for key in liquids]
        return [
            say("{metal} in {name}", metal=metal, name=liquid.name)
            for metal in metals
            for liquid in met
            if _gassy(rule, liquid.ph)
        ]
    reasons = []
    for liquid in (electrolytes()[key] for key in liquids):
        sides = [electrolytes()[key] for key in (liquid.negative_side, liquid.positive_side) if key] or [liquid]
        hit = {
            "electrolyte": liquid.key == rule.to,
            "form": liquid.form == rule.to,
            "food": liquid.food,
            "oxidant": any(rule.to in side.oxidants_mol_per_l for side in sides),
            "ion": any(rule.to in side.ions_mol_per_l for side in sides),
            "ph-above": any(side.ph.high > float(rule.to) for side in sides) if rule.applies == "ph-above" else False,
            "ph-below": any(side.ph.low < float(rule.to) for side in sides) if rule.applies == "ph-below" else False,
        }
        if hit[rule.applies]:
            reasons.append(liquid.name)
    return reasons


def sheet(
    plates: Sequence[str], liquids: Sequence[str], age: str, activities: Sequence[str] = (), asked: Asked = NOTHING
) -> Sheet:
    """The sheet for these materials (keys), this age band, these activities and what is asked besides open voltages.

    Raises OutOfRange for an unknown band or activity.
    """
    if age not in AGE_BANDS or not set(activities) <= set(ACTIVITIES):
        raise OutOfRange(say("The age band is one of {age_bands}.", age_bands=", ".join(AGE_BANDS)), field="age", value=age)
    entries = _entries(plates, liquids, age, activities, asked)
    with speaking("en"):
        plain = _entries(plates, liquids, age, activities, asked)
        drain = _used_liquid(plain)
    content = json.dumps([edition(), age, drain, [asdict(entry) for entry in plain]], sort_keys=True)
    return Sheet(age, entries, _used_liquid(entries), hashlib.sha256(content.encode()).hexdigest())


def _used_liquid(entries: Sequence[Entry]) -> str:
    """Drain or no drain, by what was in the cups with these plates."""
    because = list(dict.fromkeys(name for entry in entries if entry.hazard.collect for name in entry.because))
    if not because:
        return say(
            "Used liquid may go down the drain with much water, if your school allows it: with these plates nothing in "
            "it harms water."
        )
    return say(
        "All used liquid of this lab is collected in one labelled bottle, because of {because}. Nothing of it goes down the "
        "drain; your school says how it is disposed of.",
        because=", ".join(because),
    )


def _entries(
    plates: Sequence[str], liquids: Sequence[str], age: str, activities: Sequence[str], asked: Asked
) -> tuple[Entry, ...]:
    entries = []
    for rule in hazards().values():
        because = _because(rule, plates, liquids, activities, asked)
        if because:
            entries.append(Entry(rule, tuple(dict.fromkeys(because)), age in rule.refuse))
    order = {"warning": 0, "caution": 1}
    return tuple(sorted(entries, key=lambda e: (not e.refused, order[e.hazard.severity])))


def bench_cautions(plates: Sequence[str], liquids: Sequence[str], asked: Asked = NOTHING) -> list[str]:
    """The short lines a group reads for these materials, the usual ones first."""
    rules = [rule for rule in hazards().values() if rule.short and _because(rule, plates, liquids, (), asked)]
    return list(dict.fromkeys(rule.short for rule in sorted(rules, key=lambda rule: rule.applies != "any")))


def set_up_notes(plates: Sequence[str], liquids: Sequence[str], age: str, activities: Sequence[str] = ()) -> list[Note]:
    """What has to be said while a lab is set up: what is not for this age, which pairs make much gas, and what each activity
    asks for."""
    notes = []
    for entry in sheet(plates, liquids, age, activities).entries:
        rule = entry.hazard
        if entry.refused:
            others = [band for band in AGE_BANDS if band not in rule.refuse]
            who = (
                say("With this age band it is not for students; {others} may.", others=say(" or ").join(others))
                if others
                else say(NOT_FOR_STUDENTS)
            )
            because = ", ".join(entry.because)
            notes.append(
                Note(
                    f"refused-{rule.key}",
                    "wrong",
                    say("Not with this class: {because}", because=because),
                    f"{rule.text} {who} {say(NO_SIGN)}",
                )
            )
        elif (
            rule.refuse
            or rule.applies == "activity"
            or (rule.severity == "warning" and rule.applies in ("gas", "ph-above", "ph-below"))
        ):
            notes.append(Note(f"warning-{rule.key}", "caution", ", ".join(entry.because), f"{rule.text} {rule.do}"))
    return notes
