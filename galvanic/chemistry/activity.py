"""Activity coefficients: Davies for dilute solutions, measured tables for copper and zinc sulfate.

Davies (1962): log10 γ = −A z² (√I/(1+√I) − 0.3 I), good to about 10 % up to I = 0.5 mol/L for ions of charge 1 and
2 that do not pair; above that it is refused. A from the permittivity and density of water.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache

import numpy as np

from galvanic.constants import COLDEST_K, HOTTEST_K, ROOM_K
from galvanic.errors import OutOfRange, within
from galvanic.reference.reader import Reader, read_table
from galvanic.words import say

HIGHEST_I = 0.5


@dataclass(frozen=True, slots=True)
class Salt:
    """Mean activity coefficients at 25 °C of a salt by molality, mol/kg, rising."""

    key: str
    ion: str
    molality: tuple[float, ...]
    gamma: tuple[float, ...]
    source: str
    locator: str
    checked: str


def _salt(r: Reader) -> Salt:
    molality, gamma = (tuple(float(x) for x in r.take(field, list)) for field in ("molality", "gamma"))
    if len(molality) != len(gamma) or list(molality) != sorted(molality):
        raise r.fail("molality must rise and have a coefficient each")
    key, ion, source = r.take("key", str), r.take("ion", str), r.source(r.take("source", str))
    return Salt(key, ion, molality, gamma, source, r.take("locator", str), r.take("checked", str))


@cache
def salts() -> Mapping[str, Salt]:
    """Salts with measured coefficients, by formula."""
    return read_table("activity", "salt", _salt)


def debye_huckel_a(temperature_k: float = ROOM_K) -> float:
    """A of the Debye–Hückel law on the log10, molar scale: 0.511 at 25 °C. Raises OutOfRange outside 0 to 60 °C.

    From the relative permittivity of water (Archer and Wang, 1990, as a quadratic fit recalled from memory:
    87.90 at 0 °C, 78.38 at 25 °C, 66.8 at 60 °C).
    """
    said = say("{temperature_k:.1f} °C is outside 0 to 60 °C.", temperature_k=temperature_k - 273.15)
    within("temperature_k", temperature_k, COLDEST_K, HOTTEST_K, said)
    celsius = temperature_k - 273.15
    permittivity = 87.90 - 0.4050 * celsius + 9.6e-4 * celsius**2
    return float(1.8246e6 / (permittivity * temperature_k) ** 1.5)


def davies_log10(charge: int, ionic_strength: float, temperature_k: float = ROOM_K) -> float:
    """log10 of the activity coefficient of one ion; `ionic_strength` in mol/L. Raises OutOfRange above 0.5 mol/L."""
    if not 0.0 <= ionic_strength <= HIGHEST_I:
        raise OutOfRange(
            say(
                "Davies’ equation holds up to {highest_i} mol/L ionic strength, not at {ionic_strength:.3g}.",
                highest_i=HIGHEST_I,
                ionic_strength=ionic_strength,
            )
        )
    root = math.sqrt(ionic_strength)
    return -debye_huckel_a(temperature_k) * charge**2 * (root / (1.0 + root) - 0.3 * ionic_strength)


def mean_activity(salt: str, molality: float) -> float:
    """Mean activity coefficient of CuSO4 or ZnSO4 at 25 °C, between the table's ends. Raises OutOfRange outside them.

    These salts pair their ions, so that Davies would be about twice too high at 0.1 mol/kg.
    """
    if salt not in salts():
        raise OutOfRange(say("There is a table for {salts} only.", salts=say(" and ").join(salts())))
    row = salts()[salt]
    if not row.molality[0] <= molality <= row.molality[-1]:
        raise OutOfRange(
            say(
                "The table of {salt} runs from {molality} to {molality2} mol/kg.",
                salt=salt,
                molality=row.molality[0],
                molality2=row.molality[-1],
            )
        )
    logs = np.interp(math.log(molality), np.log(row.molality), np.log(row.gamma))
    return math.exp(float(logs))


SULFATE = "SO4--"


def ion_activity(ion: str, molarity: float, anion: str | None = SULFATE) -> float:
    """Activity of a metal ion (“Zn2+”) in its salt: in sulfates of copper and zinc the table's mean coefficient times the
    molarity; in other salts by Davies, as far as it goes; ideal where the anion is not known (None)."""
    row = next((salt for salt in salts().values() if salt.ion == ion), None)
    if row is not None and anion == SULFATE:
        return molarity * mean_activity(row.key, min(max(molarity, row.molality[0]), row.molality[-1]))
    if anion is None:
        return molarity
    charge, other = int(ion.strip("+")[-1]) if ion.strip("+")[-1].isdigit() else 1, anion.count("-")
    strength = 0.5 * molarity * (charge**2 + charge * other)
    return molarity * float(10.0 ** davies_log10(charge, min(strength, HIGHEST_I)))
