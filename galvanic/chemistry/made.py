"""Liquids a teacher makes: a base with something stirred in, or two liquids and a bridge; their numbers."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Any

from galvanic.chemistry.blending import Composition, Step, blend, liquid, water
from galvanic.chemistry.fitting import falls_out
from galvanic.chemistry.kinetics import forms
from galvanic.errors import OutOfRange
from galvanic.reference.additions import additions, metal_ions
from galvanic.reference.bridges import bridges
from galvanic.reference.catalogue import Electrolyte, Made, build_electrolyte, electrolytes
from galvanic.reference.reader import Range, Reader
from galvanic.words import mark, say

WATER = mark("water")
NOT_POURED = ("whole", "card", "acid-card")  # forms that are no liquid in a cup
PH_HALF, PART = 0.2, 1.25  # how well a recipe is known beside its base: pH, and a factor: common practice, no source
STRONG = 0.5  # mol/L of a metal's salt, from which oxygen dissolves badly in it (kinetics.toml, “sulfate”)
TRACE_CHLORIDE = (5e-5, 2e-3)  # traces from tap water, as the catalogue has them
SILVER_CHLORIDE = 1.8e-10  # solubility product, (mol/L)², 25 °C: any general chemistry text, from memory
LEAST = 1e-9
SOUR_FORMS, SOUR_PH, BUFFER_MOL_PER_L = ("juice", "whole"), 5.0, 0.05


def composition(made: Made) -> Composition:
    """What a recipe comes to. Raises OutOfRange for amounts that are none or do not dissolve, or a two-solution base."""
    base = water(1e-3 * made.base_ml) if made.base == WATER else liquid(made.base, 1e-3 * made.base_ml)
    steps: list[Step] = [(additions().get(key, key), amount) for key, amount in made.steps]
    for key, _ in made.steps:
        if key not in additions() and key not in electrolytes() and key != WATER:
            raise OutOfRange(say("There is nothing called “{key}” to add.", key=key[:40]), field="steps")
    return blend(base, steps)


def made_fields(made: Made) -> dict[str, Any]:
    """A recipe's numbers as the catalogue keeps them: form, pH, conductivity (S/m) and chloride (mol/L) from low to high,
    its acids, its metal ions and the anion they came with. Raises OutOfRange."""
    composed = composition(made)
    amounts = composed.per_l(composed.ions_mol)
    metals = {metal: amounts[key] for metal, key in metal_ions().items() if amounts.get(key, 0.0) > LEAST}
    row = electrolytes().get(made.base)
    half = max(PH_HALF, 0.0 if row is None else 0.5 * (row.ph.high - row.ph.low))
    ratio = max(PART, 1.0 if row is None else _spread(row.conductivity_s_per_m))
    chloride = composed.chloride_mol_per_l
    salty = (TRACE_CHLORIDE[0], max(TRACE_CHLORIDE[1], chloride)) if chloride < TRACE_CHLORIDE[1] else None
    if metals.get("Ag+", 0.0) > LEAST:  # silver leaves as much chloride in the water as its chloride dissolves
        left = SILVER_CHLORIDE / metals["Ag+"]
        salty = (0.5 * left, 2.0 * left)
    spread = max(PART, 1.0 if row is None else _spread(row.chloride_mol_per_l))
    form = "liquid" if row is None or row.form in ("whole", "sulfate") else row.form
    anion = max(("SO4--", "NO3-"), key=lambda key: amounts.get(key, 0.0)) if metals else None
    return {
        "form": "sulfate" if math.fsum(metals.values()) >= STRONG else form,
        "ph": (max(-1.0, composed.ph - half), min(15.0, composed.ph + half)),
        "conductivity_s_per_m": (composed.conductivity_s_per_m / ratio, composed.conductivity_s_per_m * ratio),
        "chloride_mol_per_l": salty or (chloride / spread, chloride * spread),
        "acids_mol_per_l": {key: amount for key, amount in composed.per_l(composed.acids_mol).items() if amount > LEAST},
        "ions_mol_per_l": metals,
        "anion": anion if anion is not None and amounts.get(anion, 0.0) > LEAST else None,
        "oxidants_mol_per_l": _oxidants(made, composed.volume_l),
        "made": {"base": made.base, "base_ml": made.base_ml, "steps": [list(step) for step in made.steps]},
    }


# What only liquids made by recipe, or of two solutions, have.
OF_MADE = ("anion", "negative_side", "positive_side", "bridge", "made", "oxidants_mol_per_l")


def own_liquid(key: str, name: str, fields: Mapping[str, Any]) -> Electrolyte:
    """A teacher's own liquid from its numbers as they are kept: form, ranges from low to high, composition. Raises BadTable
    for what does not fit the tables, KeyError, TypeError or ValueError for what is no such row."""

    def span(field: str) -> dict[str, Any]:
        low, high = fields[field]
        return {"low": low, "high": high, "source": "teacher", "locator": name}

    reader = Reader(
        "own",
        {
            "key": key,
            "name": name,
            "form": fields["form"],
            "synonyms": [],
            **{field: span(field) for field in ("ph", "conductivity_s_per_m", "chloride_mol_per_l")},
            "acids_mol_per_l": fields.get("acids_mol_per_l", {}) or _buffer(fields),
            "ions_mol_per_l": fields.get("ions_mol_per_l", {}),
            "composition_source": "teacher",
            **{field: fields[field] for field in OF_MADE if fields.get(field)},
        },
    )
    made = build_electrolyte(reader)
    if made.form not in forms():
        raise reader.fail(f"there is no form {made.form!r}")
    if made.conductivity_s_per_m.low <= 0.0:
        raise reader.fail("conductivity_s_per_m must be above zero")
    reader.done()
    return made


def _buffer(fields: Mapping[str, Any]) -> dict[str, float]:
    """Weak acid of a sour food of which only numbers are known, mol/L: juices hold 0.02 to 0.3 mol/L of it (an estimate);
    without any a drop of soda would turn them."""
    low, high = fields["ph"]
    sour_food = fields["form"] in SOUR_FORMS and not fields.get("made") and 0.5 * (float(low) + float(high)) < SOUR_PH
    return {"citric": BUFFER_MOL_PER_L} if sour_food else {}


def _oxidants(made: Made, volume_l: float) -> dict[str, float]:
    """Oxidants that are stirred in, and those of an own base, mol/L by half-reaction."""
    row = electrolytes().get(made.base)
    share = 1e-3 * made.base_ml / volume_l
    amounts = {} if row is None else {key: amount * share for key, amount in row.oxidants_mol_per_l.items()}
    for key, amount in made.steps:
        what = additions().get(key)
        if what is not None and what.oxidant is not None:
            mol = amount * what.mol_per_unit * what.oxidant_mol
            amounts[what.oxidant] = amounts.get(what.oxidant, 0.0) + mol / volume_l
    return amounts


def _spread(range_: Range) -> float:
    """From the middle of a range to its end, as a factor."""
    return math.sqrt(range_.high / range_.low)


def two_fields(negative_side: str, positive_side: str, bridge: str) -> dict[str, Any]:
    """Two liquids and a bridge as the catalogue keeps them. Raises OutOfRange for what cannot be, with its reason."""
    for side in (negative_side, positive_side):
        if side not in electrolytes():
            raise OutOfRange(say("There is no liquid “{side}”.", side=side[:40]), field="sides")
        if electrolytes()[side].negative_side or electrolytes()[side].form in NOT_POURED:
            raise OutOfRange(say("{name} cannot be one of two cups.", name=electrolytes()[side].name), field="sides")
    if bridge not in bridges():
        raise OutOfRange(
            say("Two solutions need a bridge: {values}.", values=", ".join(one.name for one in bridges().values())),
            field="bridge",
        )
    if why := falls_out(negative_side, positive_side):
        raise OutOfRange(say("{why} Take nitrates or sulfates that both dissolve.", why=why), field="sides")
    rows = [electrolytes()[side] for side in (negative_side, positive_side)]

    def both(field: str) -> tuple[float, float]:
        ranges = [getattr(row, field) for row in rows]
        return min(one.low for one in ranges), max(one.high for one in ranges)

    return {
        "form": "liquid",
        **{field: both(field) for field in ("ph", "conductivity_s_per_m", "chloride_mol_per_l")},
        "negative_side": negative_side,
        "positive_side": positive_side,
        "bridge": bridge,
    }


def grams_for(addition: str, mol_per_l: float, volume_l: float) -> float:
    """Grams of a solid for so many mol/L of its formula. Raises OutOfRange for a bottle, or nothing."""
    what = additions()[addition]
    if what.unit != "g" or not 0.0 < mol_per_l <= 10.0:
        raise OutOfRange(
            say("A strength lies above 0 and is 10 mol/L at most, of something that is weighed."), field="amount"
        )
    return mol_per_l * volume_l / what.mol_per_unit


def strength_of(made: Made) -> str:
    """“zinc sulfate 0.5 mol/L” for one salt in water; empty for anything else."""
    if made.base != WATER or len(made.steps) != 1 or made.steps[0][0] not in additions():
        return ""
    key, amount = made.steps[0]
    what = additions()[key]
    if what.unit != "g":
        return ""
    return say(
        "{name} {float:g} mol/L", name=what.name, float=float(f"{amount * what.mol_per_unit / (1e-3 * made.base_ml):.3g}")
    )


def amount_of(what: str, value: float, unit: str, base_ml: float, base_parts: float = 100.0) -> float:
    """An amount as a recipe has it (g of a solid, mL of a liquid, in `base_ml` of the base) from how it is written.

    mol/L are of the formula that is weighed, its water counted, and take the base for the volume; mass % and volume % are
    of the whole; parts stand to `base_parts` of the base, by mass for solids and by volume for liquids, whatever they add
    up to. A mL of the base is taken as a gram. Raises OutOfRange for a unit that does not suit, or a value that is none.
    """
    weighed = what in additions() and additions()[what].unit == "g"
    if not 0.0 < value <= 1e4 or not 0.0 < base_parts <= 1e4:
        raise OutOfRange(say("An amount lies above zero."), field="amount", value=value, limit=0.0)
    if unit == "mol/L":
        if what not in additions():
            raise OutOfRange(say("mol/L are for something that is weighed."), field="unit")
        return grams_for(what, value, 1e-3 * base_ml)
    if unit == "parts":
        return base_ml * value / base_parts
    if unit in ("mass %", "volume %"):
        if (unit == "mass %") != weighed:
            raise OutOfRange(
                say("mass % are for solids.") if unit == "mass %" else say("volume % are for liquids."), field="unit"
            )
        if not value < 100.0:
            raise OutOfRange(say("A percentage lies below 100."), field="amount", value=value, limit=100.0)
        return base_ml * value / (100.0 - value)
    if unit != ("g" if weighed else "mL"):
        raise OutOfRange(say("That is measured in {unit}.", unit="g" if weighed else "mL"), field="unit")
    return value


MOST_NAME = 60


def name_of(made: Made) -> str:
    """What a recipe is called where nobody names it."""
    return strength_of(made) or described(made)[:MOST_NAME].rstrip()


def described(made: Made) -> str:
    """“lemon juice 100 mL + table salt 2 g”."""
    base = say(WATER) if made.base == WATER else electrolytes()[made.base].name
    more = [f"{_name(key)} {float(f'{amount:.3g}'):g} {'g' if _weighed(key) else 'mL'}" for key, amount in made.steps]
    return " + ".join([say("{base} {base_ml:g} mL", base=base, base_ml=made.base_ml), *more])


def _weighed(key: str) -> bool:
    return key in additions() and additions()[key].unit == "g"


def _name(key: str) -> str:
    return additions()[key].name if key in additions() else say(key) if key == WATER else electrolytes()[key].name
