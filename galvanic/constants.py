"""Exact constants of the International System of Units (2019) and the temperature limits of the core."""

from __future__ import annotations

ELEMENTARY_CHARGE_C = 1.602176634e-19
AVOGADRO_PER_MOL = 6.02214076e23
BOLTZMANN_J_PER_K = 1.380649e-23

FARADAY_C_PER_MOL = ELEMENTARY_CHARGE_C * AVOGADRO_PER_MOL
GAS_CONSTANT_J_PER_MOL_K = BOLTZMANN_J_PER_K * AVOGADRO_PER_MOL

ROOM_K = 298.15
COLDEST_K = 273.15
HOTTEST_K = 333.15
