"""Weak acids: how far they are dissociated, the pH they give, the complexes they form.

Charge balance over weak polyprotic acids, strong ions and water, solved by bisection on pH, with activity corrections by
Davies on request. Constants: acids.toml. Source of the method: J. N. Butler, “Ionic Equilibrium” (1998).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache

from galvanic.activity import davies_log10
from galvanic.catalogue import Reader, read_table
from galvanic.errors import OutOfRange

PKW_25C = 13.995


@dataclass(frozen=True, slots=True)
class Acid:
    """A weak acid with its pKa at 25 °C, first proton first."""

    key: str
    name: str
    pka: tuple[float, ...]
    source: str
    locator: str


@dataclass(frozen=True, slots=True)
class Complex:
    """log10 stability constants of one metal with one ligand: ML, ML2, MHL; None where it does not matter."""

    key: str
    metal: str
    ligand: str
    log_beta_ml: float
    log_beta_ml2: float | None
    log_beta_mhl: float | None
    source: str
    locator: str
    checked: str


def _acid(r: Reader) -> Acid:
    pka = tuple(float(value) for value in r.take("pka", list))
    if not pka or list(pka) != sorted(pka):
        raise r.fail("pka must rise")
    return Acid(r.take("key", str), r.take("name", str), pka, r.source(r.take("source", str)), r.take("locator", str))


def _complex(r: Reader) -> Complex:
    number = (int, float)
    return Complex(
        r.take("key", str),
        r.take("metal", str),
        r.take("ligand", str),
        r.take("log_beta_ml", number),
        r.take("log_beta_ml2", number, None),
        r.take("log_beta_mhl", number, None),
        r.source(r.take("source", str)),
        r.take("locator", str),
        r.take("checked", str),
    )


@cache
def acids() -> Mapping[str, Acid]:
    """Weak acids by key."""
    return read_table("acids", "acid", _acid)


@cache
def complexes() -> Mapping[str, Complex]:
    """Complexes by `metal ligand`."""
    return read_table("acids", "complex", _complex)


def fractions(acid: Acid, ph: float) -> tuple[float, ...]:
    """Share of each form at a pH, fully protonated first, fully dissociated last; they add up to 1."""
    weights, log_weight = [1.0], 0.0
    for pka in acid.pka:
        log_weight += ph - pka
        weights.append(10.0**log_weight)
    total = sum(weights)
    return tuple(weight / total for weight in weights)


def ph_of(
    acids_mol_per_l: Mapping[str, float], strong_charge_mol_per_l: float = 0.0, activity: bool = False
) -> tuple[float, float]:
    """pH and ionic strength (mol/L) at 25 °C of weak acids (total, by key) with strong ions.

    `strong_charge_mol_per_l`: charge of strong cations less strong anions (sodium hydroxide 0.1 mol/L: +0.1). With
    `activity`, Davies' equation corrects the constants. Raises OutOfRange for a negative amount or outside pH −1 to 15.
    """
    if any(amount < 0.0 for amount in acids_mol_per_l.values()):
        raise OutOfRange("An amount of acid cannot be below zero.")
    strength = 0.0
    ph = _balance(acids_mol_per_l, strong_charge_mol_per_l, 0.0)
    for _ in range(60):
        before = strength
        strength = _ionic_strength(acids_mol_per_l, strong_charge_mol_per_l, ph, strength if activity else 0.0)
        if not activity:
            break
        strength = 0.5 * (strength + before)
        ph = _balance(acids_mol_per_l, strong_charge_mol_per_l, strength)
        if abs(strength - before) < 1e-10:
            break
    return ph, strength


def _shifted(acid: Acid, strength: float) -> Acid:
    """The acid with concentration constants: pKa' for activities of H+ and concentrations of the rest."""
    if strength == 0.0:
        return acid
    steps = tuple(pka + davies_log10(step + 1, strength) - davies_log10(step, strength) for step, pka in enumerate(acid.pka))
    return Acid(acid.key, acid.name, steps, acid.source, acid.locator)


def _water(ph: float, strength: float) -> tuple[float, float]:
    """Concentrations of H+ and OH- at a pH (which is an activity)."""
    gamma = 10.0 ** davies_log10(1, strength) if strength else 1.0
    return 10.0**-ph / gamma, 10.0 ** (ph - PKW_25C) / gamma


def _balance(amounts: Mapping[str, float], strong: float, strength: float) -> float:
    shifted = [(_shifted(acids()[key], strength), amount) for key, amount in amounts.items()]

    def charge(ph: float) -> float:
        h, oh = _water(ph, strength)
        negative = sum(
            amount * sum(step * share for step, share in enumerate(fractions(acid, ph))) for acid, amount in shifted
        )
        return h - oh + strong - negative

    low, high = -1.0, 15.0
    if charge(low) < 0.0 or charge(high) > 0.0:
        raise OutOfRange("This mixture lies outside pH −1 to 15.")
    for _ in range(80):
        middle = 0.5 * (low + high)
        if charge(middle) > 0.0:
            low = middle
        else:
            high = middle
    return 0.5 * (low + high)


def _ionic_strength(amounts: Mapping[str, float], strong: float, ph: float, strength: float) -> float:
    h, oh = _water(ph, strength)
    total = h + oh + abs(strong)
    for key, amount in amounts.items():
        shares = fractions(_shifted(acids()[key], strength), ph)
        total += amount * sum(step**2 * share for step, share in enumerate(shares))
    return 0.5 * total


def complexation(metal: str, acids_mol_per_l: Mapping[str, float], chloride_mol_per_l: float, ph: float) -> float:
    """Total dissolved metal over free ion, at least 1; the ligands are taken to be in excess of the metal.

    `metal`: for example `Cu2+`; pairs without a constant count as not complexed.
    """
    alpha = 1.0
    for found in complexes().values():
        if found.metal != metal:
            continue
        if found.ligand == "chloride":
            ligand = chloride_mol_per_l
        else:
            ligand = acids_mol_per_l.get(found.ligand, 0.0) * fractions(acids()[found.ligand], ph)[-1]
        alpha += 10.0**found.log_beta_ml * ligand
        if found.log_beta_ml2 is not None:
            alpha += 10.0**found.log_beta_ml2 * ligand**2
        if found.log_beta_mhl is not None:
            alpha += 10.0 ** (found.log_beta_mhl - ph) * ligand
    return alpha
