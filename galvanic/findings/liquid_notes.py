"""The same pair in several liquids: does acid set the voltage, do ions, and does the pair matter more than the liquid?

Slopes are said with their intervals in words, so that three liquids never sound like a law.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from galvanic.errors import NotEnoughData
from galvanic.findings.compare import ElectrolyteResult
from galvanic.notes import MINUS, Note, volts
from galvanic.reference.catalogue import electrodes, electrolytes
from galvanic.statistics.effects import Effect, LiquidEffect, Slope, TwoWay, liquid_effect, two_way
from galvanic.words import number, say, say_n

NERNST_MV = 59.2
SEEN_P = 0.01


@dataclass(frozen=True, slots=True)
class PairInLiquids:
    """One pair's class value in V by electrolyte, with the slopes against pH and log conductivity and what they say."""

    negative: str
    positive: str
    volts_v: Mapping[str, float]
    effect: LiquidEffect
    ph_says: str
    conductivity_says: str

    @property
    def short(self) -> str:
        """`Zn | Cu`."""
        return f"{electrodes()[self.negative].symbol} | {electrodes()[self.positive].symbol}"


def _mv(value_v: float) -> str:
    return number(1000.0 * value_v, "+.0f").replace("-", MINUS)


def slope_in_words(found: Slope | None, per: str, n: int) -> str:
    """A slope with its 95 % interval, and whether it says anything."""
    if found is None:
        return say_n(
            "With {n} liquid there is no telling; three different ones are needed.",
            "With {n} liquids there is no telling; three different ones are needed.",
            n,
        )
    reach = say(
        "{mv} mV {per}, 95 % from {mv2} to {mv3}, {n} liquids",
        mv=_mv(found.slope),
        per=per,
        mv2=_mv(found.low),
        mv3=_mv(found.high),
        n=found.n,
    )
    if found.low > 0.0 or found.high < 0.0:
        return say("It rises: {reach}.", reach=reach) if found.slope > 0.0 else say("It falls: {reach}.", reach=reach)
    return say("No slope can be told from none: {reach}.", reach=reach)


def in_liquids(results: Sequence[ElectrolyteResult]) -> list[PairInLiquids]:
    """Every pair measured in two or more liquids, most liquids first."""
    by_pair: dict[tuple[str, str], dict[str, float]] = {}
    for result in results:
        if result.condition:
            continue
        for cell in result.cells:
            by_pair.setdefault(cell.cell.pair, {})[result.electrolyte] = cell.mean_v
    pairs = []
    for (negative, positive), values in by_pair.items():
        if len(values) < 2:
            continue
        effect = liquid_effect(values)
        pairs.append(
            PairInLiquids(
                negative,
                positive,
                values,
                effect,
                slope_in_words(effect.per_ph, say("for each unit of pH"), effect.n),
                slope_in_words(effect.per_decade, say("for ten times the conductivity"), effect.n),
            )
        )
    return sorted(pairs, key=lambda one: (-len(one.volts_v), one.negative, one.positive))


def middles(electrolyte: str) -> tuple[float, float]:
    """Middle pH and middle conductivity (geometric, S/m) of a liquid."""
    row = electrolytes()[electrolyte]
    kappa = row.conductivity_s_per_m
    return 0.5 * (row.ph.low + row.ph.high), (kappa.low * kappa.high) ** 0.5


def what_matters(results: Sequence[ElectrolyteResult]) -> TwoWay | None:
    """Two-way analysis of variance pair × electrolyte over the groups' means; None where there is too little."""
    rows = [
        ("|".join(cell.cell.pair), result.electrolyte, group.summary.mean_v)
        for result in results
        if not result.condition
        for cell in result.cells
        for group in cell.groups
        if result.bears_out(group.group, cell.cell.pair)
    ]
    try:
        return two_way([p for p, *_ in rows], [q for _, q, _ in rows], [v for *_, v in rows])
    except NotEnoughData:
        return None


def _seen(term: Effect, spare: int) -> bool:
    """Whether an effect stands out of the scatter between groups, at one in a hundred."""
    from scipy.special import fdtrc

    return bool(term.f is not None and spare > 0 and float(fdtrc(term.dof, spare, term.f)) < SEEN_P)


def liquid_notes(results: Sequence[ElectrolyteResult]) -> list[Note]:
    """What the liquids do, with the numbers."""
    notes = []
    table = what_matters(results)
    if table is not None and table.pair.f is not None and table.electrolyte.f is not None:
        total = table.pair.ss_v2 + table.electrolyte.ss_v2 + table.residual.ss_v2
        total += table.interaction.ss_v2 if table.interaction else 0.0
        share = 100.0 * table.pair.ss_v2 / total if total else 0.0
        evidence = [say("pair: F = {f:.1f} with {dof} degrees of freedom", f=table.pair.f, dof=table.pair.dof)]
        evidence.append(say("liquid: F = {f:.1f} with {dof}", f=table.electrolyte.f, dof=table.electrolyte.dof))
        if table.interaction and table.interaction.f is not None:
            evidence.append(say("both together: F = {f:.1f} with {dof}", f=table.interaction.f, dof=table.interaction.dof))
        scatter = math.sqrt(table.residual.ss_v2 / table.residual.dof) if table.residual.dof else 0.0
        evidence.append(say("scatter between groups that neither explains: {scatter}", scatter=volts(scatter, 3)))
        seen = {
            name: _seen(term, table.residual.dof) for name, term in (("pair", table.pair), ("liquid", table.electrolyte))
        }
        if not any(seen.values()):
            title, text = (
                say("Pairs and liquids differ no more than groups do"),
                say("The scatter between groups hides both."),
            )
        else:
            title = (
                say("The pair matters more than the liquid")
                if share > 50.0
                else say("The liquid matters as much as the pair")
            )
            part = say("more than 99") if share > 99.0 else f"{share:.0f}"
            text = say("Of all that differs between the cells, {part} % goes with which two plates they have.", part=part)
            if not seen["liquid"]:
                text += say(" The liquids differ no more than groups do, by {scatter}.", scatter=volts(scatter, 3))
        notes.append(Note("what_matters", "plain", title, text, evidence=tuple(evidence)))
    pairs = [in_liquid for in_liquid in in_liquids(results) if in_liquid.effect.per_ph is not None]
    if pairs:
        best = pairs[0]
        values = [f"{electrolytes()[key].name}: {volts(value)}" for key, value in best.volts_v.items()]
        notes.append(
            Note(
                "ph",
                "plain",
                say("{short} against pH", short=best.short),
                say(
                    "{ph_says} Acid moves a plate that hydrogen decides by {nernst_mv:.0f} mV for each unit of "
                    "pH; a skin, or strong alkali, can make it more.",
                    ph_says=best.ph_says,
                    nernst_mv=NERNST_MV,
                ),
                evidence=tuple(values),
            )
        )
    return notes
