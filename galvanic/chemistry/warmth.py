"""What temperature does to rates, transport, solubilities and Nernst's slope; 1 and the usual values at 25 °C.

Rates by Arrhenius with one activation energy a kind of step, diffusion by the viscosity of water, gases by van ’t Hoff's
equation under moist air. A still cup that was just warmed gives off its oxygen slowly: at a bench it has hardly lost any
(`oxygen_dissolved`). Energies: transport.toml. Ranges: 5 to 60 °C.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

from galvanic.constants import FARADAY_C_PER_MOL, GAS_CONSTANT_J_PER_MOL_K, ROOM_K
from galvanic.errors import within
from galvanic.reference.quantities import quantity
from galvanic.words import say

COLDEST_C, WARMEST_C, ROOM_C = 5.0, 60.0, 25.0
ACTIVATION = {
    kind: quantity(f"activation_{kind}_j_per_mol") for kind in ("hydrogen", "oxygen", "metal", "film", "diffusion")
}
OXYGEN_J_PER_MOL, HYDROGEN_J_PER_MOL = quantity("oxygen_solution_j_per_mol"), quantity("hydrogen_solution_j_per_mol")
CONDUCTIVITY_PER_K = quantity("conductivity_per_k")
EXCHANGED = 1.0 - math.exp(-quantity("minutes_at_temperature") / quantity("reaeration_minutes"))


@dataclass(frozen=True, slots=True)
class Warmth:
    """Factors on values at 25 °C, and Nernst's slope ln(10)·RT/F in V."""

    celsius: float
    nernst_v: float
    slope: float
    hydrogen: float
    oxygen: float
    metal: float
    film: float
    diffusion: float
    oxygen_dissolved: float
    hydrogen_dissolved: float
    conductivity: float


@lru_cache(maxsize=64)
def warmth(celsius: float) -> Warmth:
    """The factors at a temperature. Raises OutOfRange outside 5 to 60 °C."""
    said = say(
        "The model's rates hold from {coldest_c:.0f} to {warmest_c:.0f} °C, not at {celsius:g} °C.",
        coldest_c=COLDEST_C,
        warmest_c=WARMEST_C,
        celsius=celsius,
    )
    within("celsius", celsius, COLDEST_C, WARMEST_C, said)
    kelvin = celsius + 273.15
    inverse = (1.0 / ROOM_K - 1.0 / kelvin) / GAS_CONSTANT_J_PER_MOL_K
    rates = {kind: math.exp(energy * inverse) for kind, energy in ACTIVATION.items()}
    return Warmth(
        celsius,
        math.log(10.0) * GAS_CONSTANT_J_PER_MOL_K * kelvin / FARADAY_C_PER_MOL,
        kelvin / ROOM_K,
        rates["hydrogen"],
        rates["oxygen"],
        rates["metal"],
        rates["film"],
        rates["diffusion"],
        1.0 + EXCHANGED * (oxygen_at_equilibrium(celsius) - 1.0),
        math.exp(HYDROGEN_J_PER_MOL * inverse),
        1.0 + CONDUCTIVITY_PER_K * (celsius - ROOM_C),
    )


def oxygen_at_equilibrium(celsius: float) -> float:
    """Oxygen dissolved under moist air, as a factor on what it is at 25 °C."""
    inverse = (1.0 / ROOM_K - 1.0 / (celsius + 273.15)) / GAS_CONSTANT_J_PER_MOL_K
    moist = (1.0 - _vapour_bar(celsius)) / (1.0 - _vapour_bar(ROOM_C))
    return moist * math.exp(OXYGEN_J_PER_MOL * inverse)


def _vapour_bar(celsius: float) -> float:
    """Vapour pressure of water by Magnus' formula (World Meteorological Organization's constants, from memory)."""
    return 6.112e-3 * math.exp(17.62 * celsius / (243.12 + celsius))
