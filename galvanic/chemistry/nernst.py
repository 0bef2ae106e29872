"""The Nernst equation for any half-reaction of the catalogue.

E = E°(T) − (RT/zF) ln Q, with Q the product of the reduced species' activities over the oxidised ones'; solids and
the solvent count as 1. E°(T) = E°(298.15 K) + (T − 298.15 K)·dE°/dT, which holds to about a millivolt between 0 and
60 °C, the range allowed here. Source: any physical chemistry text, for example Atkins, “Physical Chemistry”.
"""

from __future__ import annotations

import math
from collections.abc import Mapping

from galvanic.constants import COLDEST_K, FARADAY_C_PER_MOL, GAS_CONSTANT_J_PER_MOL_K, HOTTEST_K, ROOM_K
from galvanic.errors import OutOfRange, within
from galvanic.reference.catalogue import HalfReaction
from galvanic.words import say


def thermal_v(temperature_k: float = ROOM_K) -> float:
    """RT/F in V: 25.69 mV at 25 °C. Raises OutOfRange outside 0 to 60 °C."""
    said = say(
        "{temperature_k:.1f} °C is outside 0 to 60 °C, where the table's slopes hold.", temperature_k=temperature_k - 273.15
    )
    within("temperature_k", temperature_k, COLDEST_K, HOTTEST_K, said)
    return GAS_CONSTANT_J_PER_MOL_K * temperature_k / FARADAY_C_PER_MOL


def standard_v(half: HalfReaction, temperature_k: float = ROOM_K) -> float:
    """E° at a temperature, V against hydrogen.

    Raises OutOfRange outside 0 to 60 °C, and away from 25 °C when the catalogue has no temperature coefficient.
    """
    thermal_v(temperature_k)
    if temperature_k == ROOM_K:
        return half.e_v.value
    if half.de_dt_v_per_k is None:
        raise OutOfRange(
            say("The catalogue has no temperature coefficient for {key}, so only 25 °C is possible.", key=half.key)
        )
    return half.e_v.value + (temperature_k - ROOM_K) * half.de_dt_v_per_k.value


def potential_v(half: HalfReaction, activities: Mapping[str, float], temperature_k: float = ROOM_K) -> float:
    """Equilibrium potential, V against hydrogen.

    `activities`: by species, solutes as activity on the mol/L scale, gases as fugacity in bar; every species of the
    half-reaction is needed, none is assumed. Raises OutOfRange for a missing or non-positive activity.
    """
    ln_q = 0.0
    for side, sign in ((half.reduced, 1.0), (half.oxidised, -1.0)):
        for species, count in side.items():
            activity = activities.get(species)
            if activity is None or not (0.0 < activity < math.inf):
                raise OutOfRange(say("{key} needs an activity above zero for {species}.", key=half.key, species=species))
            ln_q += sign * count * math.log(activity)
    return standard_v(half, temperature_k) - thermal_v(temperature_k) / half.electrons * ln_q
