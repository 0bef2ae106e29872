"""What is known of one material: what it is good for, how to prepare it, what can hurt,
its numbers with their sources."""

from __future__ import annotations

from dataclasses import dataclass

from galvanic.cells import Cell
from galvanic.chemistry.accounts import predict, series
from galvanic.chemistry.fitting import SECOND, refusal
from galvanic.chemistry.junction import junction
from galvanic.chemistry.made import described
from galvanic.chemistry.oxidants import in_words
from galvanic.chemistry.shorted import shorted
from galvanic.notes import volts
from galvanic.planning.recipes import batch, recipes
from galvanic.planning.safety import Hazard, sheet
from galvanic.preparing import USUAL
from galvanic.reference.additions import Addition, additions, ions
from galvanic.reference.bridges import bridges
from galvanic.reference.catalogue import (
    Electrode,
    Electrolyte,
    electrodes,
    electrolytes,
    half_reactions,
    kept,
    shipped_electrolytes,
)
from galvanic.reference.preparations import preparations_of
from galvanic.reference.reader import Range, Value, sources
from galvanic.words import number, say

OLDEST = "16-18"  # rules are listed as for those whom least is refused
TRIED = ("lemon-juice", "salt-water")  # liquids in which a plate is shown
AGAINST = ("copper", "zinc")
A_LITRE = 1.0


@dataclass(frozen=True, slots=True)
class Fact:
    """A number as text with its unit, and where it is from; `checked` says how far that was looked up."""

    what: str
    value: str
    source: str
    locator: str
    checked: str


@dataclass(frozen=True, slots=True)
class About:
    """One material; `hazards` are rules of the safety sheet, `use` sentences on what it is good for."""

    key: str
    name: str
    what: str
    use: tuple[str, ...]
    prepare: tuple[str, ...]
    hazards: tuple[Hazard, ...]
    cautions: tuple[str, ...]
    facts: tuple[Fact, ...]


@kept(256)
def about(key: str) -> About | None:
    """What is known of a plate, a liquid or an addition, by its key; None for none of these."""
    if key in electrodes():
        return _plate(electrodes()[key])
    if key in electrolytes():
        return _liquid(electrolytes()[key])
    return _addition(additions()[key]) if key in additions() else None


def _fact(what: str, known: Value | Range, unit: str) -> Fact:
    source = sources().get(known.source)
    if isinstance(known, Range):
        shown = say(
            "{number} to {number2} {unit}", number=_number(known.low), number2=_number(known.high), unit=unit
        ).rstrip()
    else:
        spread = f" ± {_number(known.u)}" if known.u else ""
        shown = f"{_number(known.value)}{spread} {unit}".rstrip()
    cited = f"{source.title}, {source.year}" if source is not None else say("your own entry")
    return Fact(
        what, shown, cited, known.locator, say("from memory") if known.checked == "from memory" else known.checked or ""
    )


def _number(value: float) -> str:
    """Up to four digits, small ones as a power of ten, with a true minus sign."""
    return number(value, ".4g").replace("-", "\u2212")


def _hazards(plates: tuple[str, ...], liquids: tuple[str, ...]) -> tuple[Hazard, ...]:
    return tuple(entry.hazard for entry in sheet(plates, liquids, OLDEST).entries if entry.hazard.applies != "any")


def _plate(plate: Electrode) -> About:
    use = []
    if plate.key.endswith(SECOND):
        twin = electrodes()[plate.key.removesuffix(SECOND)].name
        use.append(say("Stands opposite {twin}: two solutions of one salt, or one metal treated in two ways.", twin=twin))
    for liquid in TRIED:
        other = next(one for one in AGAINST if one != plate.key)
        cell = Cell.of(plate.key, liquid, other)
        if not refusal(cell):
            use.append(_foretold(cell))
    if not plate.pure and plate.couple is not None:
        use.append(
            say("An alloy or a coating: the table’s line is that of its main metal, and the cell need not follow it.")
        )
    facts = []
    if plate.couple is not None:
        half = half_reactions()[plate.couple]
        facts.append(_fact(say("standard potential, {equation}", equation=half.equation), half.e_v, "V"))
        if half.de_dt_v_per_k is not None:
            facts.append(_fact(say("its slope with temperature"), half.de_dt_v_per_k, "V/K"))
    if plate.surface in series():
        facts.append(_fact(say("rest in flowing sea water"), series()[plate.surface], "V"))
    inert = (plate.inert,) if plate.inert else ()
    hazards = _hazards((plate.key,), ())
    return About(plate.key, plate.name, plate.supplied, (*use, *inert), (plate.prepare,), hazards, (), tuple(facts))


def _foretold(cell: Cell) -> str:
    by_rest = predict([cell])[0]["rest"]
    amps = shorted(cell).first_a
    where = electrolytes()[cell.electrolyte].name
    return say(
        "{short} in {where}: about {value} ± {value2}, {amps:.2g} mA in the first seconds of a short circuit (the model).",
        short=cell.short,
        where=where,
        value=volts(by_rest.volts_v or 0.0),
        value2=volts(by_rest.u_v or 0.0),
        amps=1e3 * amps,
    )


def _liquid(row: Electrolyte) -> About:
    use, prepare = [], []
    if row.bridge is None:
        use.append(_foretold(Cell("zinc", row.key, "copper")))
    if oxidants := in_words(row.key):
        use.append(oxidants)
    what = row.form
    if row.made is not None:
        what = described(row.made)
    elif row.negative_side is not None and row.positive_side is not None and row.bridge is not None:
        left, right = (electrolytes()[side].name for side in (row.negative_side, row.positive_side))
        what = say(
            "two cups: {left} and {right}, joined by a {long}", left=left, right=right, long=bridges()[row.bridge].long
        )
        across = junction(Cell("zinc", row.key, "copper"))
        use.append(
            say("The bridge adds {volts_v:+.1f} mV to the plates’ own (Henderson).", volts_v=1e3 * across.volts_v).replace(
                "-", "\u2212"
            )
        )
        prepare.append(bridges()[row.bridge].prepare)
    prepare += [preparation.text.format(**USUAL) for preparation in preparations_of(row.form, row.key)]
    recipe = recipes().get(row.key)
    if row.bridge is None and (recipe is None or recipe.kind not in ("whole", "card", "two")):
        made = batch(row.key, A_LITRE)
        parts = ", ".join(f"{one.name} {number(one.amount, '.4g')} {say(one.unit)}" for one in made.ingredients)
        prepare.append(say("For one litre: {parts}. {method}", parts=parts, method=made.method))
    facts = [
        _fact("pH", row.ph, ""),
        _fact(say("conductivity"), row.conductivity_s_per_m, "S/m"),
        _fact(say("chloride"), row.chloride_mol_per_l, "mol/L"),
    ]
    if row.ascorbate_mol_per_l is not None:
        facts.append(_fact(say("vitamin C"), row.ascorbate_mol_per_l, "mol/L"))
    cited = sources().get(row.composition_source or "")
    by = say("your own entry") if cited is None else cited.title
    for name, amount in (*row.acids_mol_per_l.items(), *row.ions_mol_per_l.items()):
        facts.append(
            Fact(
                name, say("{amount:.3g} mol/L", amount=amount), by, "", "" if row.key in shipped_electrolytes() else "recipe"
            )
        )
    cautions = tuple(
        dict.fromkeys(additions()[key].hazard for key, _ in (row.made.steps if row.made else ()) if key in additions())
    )
    return About(
        row.key, row.name, what, tuple(use), tuple(prepare), _hazards((), (row.key,)),
        tuple(caution for caution in cautions if caution), tuple(facts),
    )  # fmt: skip


def _addition(what: Addition) -> About:
    facts = [] if what.most_g_per_l is None else [_fact(say("dissolves up to"), what.most_g_per_l, "g/L")]
    facts += [
        _fact(say("molar conductivity of {key}", key=key), ions()[key].s_cm2_per_mol, "S·cm²/mol") for key in what.ions
    ]
    metal = next((ions()[key].metal for key in what.ions if ions()[key].metal), None)
    stirred = say("Stirred into a liquid, to see what it changes.")
    if what.oxidant is not None:
        half = half_reactions()[what.oxidant]
        facts.append(_fact(say("standard potential, {equation}", equation=half.equation), half.e_v, "V"))
        stirred = say("An oxidant beside the air’s: what it does is compared with the same cell without it, not foretold.")
    use = [say("For a solution in which a plate of its own metal stands.")] if metal else [stirred]
    bag = f"{what.formula.replace('.', '·')}, {what.unit}"
    return About(what.key, what.name, bag, tuple(use), (), (), (what.hazard,) if what.hazard else (), tuple(facts))
