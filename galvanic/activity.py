"""Activity coefficients: Davies for dilute solutions, measured tables for copper and zinc sulfate.

Davies (1962): log10 γ = −A z² (√I/(1+√I) − 0.3 I), good to about 10 % up to I = 0.5 mol/L for ions of charge 1 and
2 that do not pair; above that it is refused. A from the permittivity and density of water.
"""

from __future__ import annotations

import math

from galvanic.constants import COLDEST_K, HOTTEST_K, ROOM_K
from galvanic.errors import OutOfRange

HIGHEST_I = 0.5

# Mean activity coefficients at 25 °C by molality, mol/kg. R. A. Robinson, R. H. Stokes, “Electrolyte Solutions” (1959),
# appendix 8.10; recalled from memory, good to about 3 %.
MEAN = {
    "CuSO4": (
        (0.001, 0.74), (0.005, 0.53), (0.01, 0.41), (0.05, 0.209), (0.1, 0.150), (0.2, 0.104), (0.5, 0.062), (1.0, 0.0423),
    ),
    "ZnSO4": (
        (0.001, 0.734), (0.005, 0.477), (0.01, 0.387), (0.05, 0.202), (0.1, 0.150), (0.2, 0.104), (0.5, 0.063),
        (1.0, 0.0435), (2.0, 0.0357),
    ),
}  # fmt: skip


def debye_huckel_a(temperature_k: float = ROOM_K) -> float:
    """A of the Debye–Hückel law on the log10, molar scale: 0.511 at 25 °C. Raises OutOfRange outside 0 to 60 °C.

    From the relative permittivity of water (Archer and Wang, 1990, as a quadratic fit recalled from memory:
    87.90 at 0 °C, 78.38 at 25 °C, 66.8 at 60 °C).
    """
    if not COLDEST_K <= temperature_k <= HOTTEST_K:
        raise OutOfRange(f"{temperature_k - 273.15:.1f} °C is outside 0 to 60 °C.")
    celsius = temperature_k - 273.15
    permittivity = 87.90 - 0.4050 * celsius + 9.6e-4 * celsius**2
    return float(1.8246e6 / (permittivity * temperature_k) ** 1.5)


def davies_log10(charge: int, ionic_strength: float, temperature_k: float = ROOM_K) -> float:
    """log10 of the activity coefficient of one ion; `ionic_strength` in mol/L. Raises OutOfRange above 0.5 mol/L."""
    if not 0.0 <= ionic_strength <= HIGHEST_I:
        raise OutOfRange(f"Davies’ equation holds up to {HIGHEST_I} mol/L ionic strength, not at {ionic_strength:.3g}.")
    root = math.sqrt(ionic_strength)
    return -debye_huckel_a(temperature_k) * charge**2 * (root / (1.0 + root) - 0.3 * ionic_strength)


def mean_activity(salt: str, molality: float) -> float:
    """Mean activity coefficient of CuSO4 or ZnSO4 at 25 °C, between the table's ends. Raises OutOfRange outside them.

    These salts pair their ions, so that Davies would be about twice too high at 0.1 mol/kg.
    """
    if salt not in MEAN:
        raise OutOfRange(f"There is a table for {' and '.join(MEAN)} only.")
    table = MEAN[salt]
    if not table[0][0] <= molality <= table[-1][0]:
        raise OutOfRange(f"The table of {salt} runs from {table[0][0]} to {table[-1][0]} mol/kg.")
    for (m0, g0), (m1, g1) in zip(table, table[1:], strict=False):
        if molality <= m1:
            part = (math.log(molality) - math.log(m0)) / (math.log(m1) - math.log(m0))
            return math.exp(math.log(g0) + part * (math.log(g1) - math.log(g0)))
    return table[-1][1]


def ion_activity(ion: str, molarity: float) -> float:
    """Activity of Cu2+ or Zn2+ in its sulfate, taken as the mean coefficient times the molarity; other ions as ideal."""
    salt = {"Cu2+": "CuSO4", "Zn2+": "ZnSO4"}.get(ion)
    if salt is None:
        return molarity
    table = MEAN[salt]
    return molarity * mean_activity(salt, min(max(molarity, table[0][0]), table[-1][0]))
