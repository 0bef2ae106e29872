"""Weak acids: how far they are dissociated, the pH they give, the complexes they form.

Charge balance over weak polyprotic acids, strong ions and water, solved by bisection on pH, with activity corrections by
Davies on request. Constants: acids.toml. Source of the method: J. N. Butler, “Ionic Equilibrium” (1998).
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cache

from galvanic.chemistry.activity import davies_log10
from galvanic.chemistry.nernst import thermal_v
from galvanic.constants import GAS_CONSTANT_J_PER_MOL_K, ROOM_K
from galvanic.errors import OutOfRange
from galvanic.reference.reader import Reader, read_table
from galvanic.words import once, say

PKW_25C, WATER_DH_J_PER_MOL = 13.995, 55_815.0  # OBIGT; enthalpy: Goldberg and others, see acids.toml, from memory
LISTED_AT = 0.1  # mol/L, the ionic strength that stability constants are listed for


@dataclass(frozen=True, slots=True)
class Acid:
    """A weak acid with its pKa at 25 °C and the enthalpy of each step in J/mol, first proton first."""

    key: str
    name: str
    pka: tuple[float, ...]
    dh_j_per_mol: tuple[float, ...]
    source: str
    locator: str

    def at(self, temperature_k: float) -> Acid:
        """The acid at another temperature, by van ’t Hoff with a constant enthalpy. Raises OutOfRange outside 0 to 60 °C."""
        shifts = (van_t_hoff(dh, temperature_k) for dh in self.dh_j_per_mol)
        return replace(self, pka=tuple(pka + shift for pka, shift in zip(self.pka, shifts, strict=True)))


def van_t_hoff(dh_j_per_mol: float, temperature_k: float) -> float:
    """Change of a pK from 25 °C to a temperature: ΔH/(R ln 10)·(1/T − 1/298.15 K). Raises OutOfRange outside 0 to 60 °C."""
    thermal_v(temperature_k)
    return dh_j_per_mol / (GAS_CONSTANT_J_PER_MOL_K * math.log(10.0)) * (1.0 / temperature_k - 1.0 / ROOM_K)


@dataclass(frozen=True, slots=True)
class Complex:
    """log10 stability constants of one metal with one ligand: ML, ML2, MHL, MH2L; None where it does not matter."""

    key: str
    metal: str
    ligand: str
    log_beta_ml: float
    log_beta_ml2: float | None
    log_beta_mhl: float | None
    log_beta_mh2l: float | None
    source: str
    locator: str
    checked: str


def _acid(r: Reader) -> Acid:
    pka = tuple(float(value) for value in r.take("pka", list))
    if not pka or list(pka) != sorted(pka):
        raise r.fail("pka must rise")
    enthalpies = tuple(1000.0 * value for value in r.take("dh_kj_per_mol", list))
    if len(enthalpies) != len(pka):
        raise r.fail("each pKa needs its enthalpy")
    r.source(r.take("dh_source", str))
    key, name, source = r.take("key", str), r.take("name", str), r.source(r.take("source", str))
    return Acid(key, name, pka, enthalpies, source, r.take("locator", str))


def _complex(r: Reader) -> Complex:
    number = (int, float)
    return Complex(
        r.take("key", str),
        r.take("metal", str),
        r.take("ligand", str),
        r.take("log_beta_ml", number),
        r.take("log_beta_ml2", number, None),
        r.take("log_beta_mhl", number, None),
        r.take("log_beta_mh2l", number, None),
        r.source(r.take("source", str)),
        r.take("locator", str),
        r.take("checked", str),
    )


@once
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


def fractions_at(acid: Acid, ph: float, strength: float, temperature_k: float = ROOM_K) -> tuple[float, ...]:
    """`fractions` in a solution of an ionic strength (mol/L), by Davies: pH as activity, the rest as concentrations."""
    if strength == 0.0:
        return fractions(acid, ph)
    logs = [davies_log10(charge, strength, temperature_k) for charge in range(len(acid.pka) + 1)]
    pka = tuple(value + logs[step + 1] - logs[step] for step, value in enumerate(acid.pka))
    return fractions(replace(acid, pka=pka), ph)


def ph_of(
    acids_mol_per_l: Mapping[str, float],
    strong_charge_mol_per_l: float = 0.0,
    activity: bool = False,
    temperature_k: float = ROOM_K,
) -> tuple[float, float]:
    """pH and ionic strength (mol/L) of weak acids (total, by key) with strong ions, between 0 and 60 °C.

    `strong_charge_mol_per_l`: charge of strong cations less strong anions (sodium hydroxide 0.1 mol/L: +0.1). With
    `activity`, Davies' equation corrects the constants. Raises OutOfRange for a negative amount, outside pH −1 to 15, or
    outside 0 to 60 °C.
    """
    if any(amount < 0.0 for amount in acids_mol_per_l.values()):
        raise OutOfRange(say("An amount of acid cannot be below zero."))
    mixture = _Mixture(
        tuple((acids()[key].at(temperature_k), amount) for key, amount in acids_mol_per_l.items()),
        strong_charge_mol_per_l,
        PKW_25C + van_t_hoff(WATER_DH_J_PER_MOL, temperature_k),
        temperature_k,
    )
    ph = mixture.balance(0.0)
    if not activity:
        return ph, mixture.ionic_strength(ph, 0.0)
    strength = 0.0
    for _ in range(60):
        before = strength
        strength = 0.5 * (mixture.ionic_strength(ph, strength) + before)
        ph = mixture.balance(strength)
        if abs(strength - before) < 1e-10:
            break
    return ph, strength


@dataclass(frozen=True)
class _Mixture:
    acids: tuple[tuple[Acid, float], ...]
    strong: float
    pkw: float
    temperature_k: float

    def shares(self, acid: Acid, ph: float, strength: float) -> tuple[float, ...]:
        """Forms of an acid with concentration constants."""
        return fractions_at(acid, ph, strength, self.temperature_k)

    def water(self, ph: float, strength: float) -> tuple[float, float]:
        """Concentrations of H+ and OH-."""
        gamma = 10.0 ** davies_log10(1, strength, self.temperature_k) if strength else 1.0
        return 10.0**-ph / gamma, 10.0 ** (ph - self.pkw) / gamma

    def balance(self, strength: float) -> float:
        """The pH at which charges cancel, by bisection."""

        def charge(ph: float) -> float:
            h, oh = self.water(ph, strength)
            forms = ((amount, self.shares(acid, ph, strength)) for acid, amount in self.acids)
            negative = sum(amount * sum(step * share for step, share in enumerate(shares)) for amount, shares in forms)
            return h - oh + self.strong - negative

        low, high = -1.0, 15.0
        if charge(low) < 0.0 or charge(high) > 0.0:
            raise OutOfRange(say("This mixture lies outside pH −1 to 15."))
        for _ in range(80):
            middle = 0.5 * (low + high)
            low, high = (middle, high) if charge(middle) > 0.0 else (low, middle)
        return 0.5 * (low + high)

    def ionic_strength(self, ph: float, strength: float) -> float:
        """Half the sum of concentration times charge squared, mol/L."""
        h, oh = self.water(ph, strength)
        total = h + oh + abs(self.strong)
        for acid, amount in self.acids:
            total += amount * sum(step**2 * share for step, share in enumerate(self.shares(acid, ph, strength)))
        return 0.5 * total


def complexation(metal: str, acids_mol_per_l: Mapping[str, float], chloride_mol_per_l: float, ph: float) -> float:
    """Total dissolved metal over free ion, at least 1; the ligands are taken to be in excess of the metal.

    Constants and acids both at the ionic strength that stability constants are listed for, 0.1 mol/L.

    `metal`: for example `Cu2+`; pairs without a constant count as not complexed.
    """
    alpha = 1.0
    for found in complexes().values():
        if found.metal != metal:
            continue
        if found.ligand == "chloride":
            ligand = chloride_mol_per_l
        else:
            ligand = acids_mol_per_l.get(found.ligand, 0.0) * fractions_at(acids()[found.ligand], ph, LISTED_AT)[-1]
        alpha += 10.0**found.log_beta_ml * ligand
        if found.log_beta_ml2 is not None:
            alpha += 10.0**found.log_beta_ml2 * ligand**2
        if found.log_beta_mhl is not None:
            alpha += 10.0 ** (found.log_beta_mhl - ph) * ligand
        if found.log_beta_mh2l is not None:
            alpha += 10.0 ** (found.log_beta_mh2l - 2.0 * ph) * ligand
    return alpha
