"""Kinetic parameters of surfaces and forms, each with its plausible range, from kinetics.toml."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cache
from typing import Any

import numpy as np

from galvanic.chemistry.posterior import calibrated
from galvanic.reference.catalogue import half_reactions
from galvanic.reference.reader import Reader, read_table
from galvanic.words import once

ALKALI_PH = 9.0
RANGE_SIGMAS = 2.0  # a plausible range is taken as two standard deviations either way


@dataclass(frozen=True, slots=True)
class Parameter:
    """A value with its plausible range and source; the field's name carries the unit. `factor`: how far one standard
    deviation of each common direction moves it, where it was calibrated; its range is then two deviations either way."""

    value: float
    low: float
    high: float
    source: str
    locator: str
    checked: str | None
    logarithmic: bool
    factor: tuple[float, ...] = ()

    def moved(self, value: float, factor: tuple[float, ...]) -> Parameter:
        """The same where calibration has put it."""
        half = RANGE_SIGMAS * math.hypot(*factor)
        low, high = (value * math.exp(-half), value * math.exp(half)) if self.logarithmic else (value - half, value + half)
        return replace(self, value=value, low=low, high=high, factor=factor)

    def along(self, z: np.ndarray[Any, np.dtype[np.float64]]) -> np.ndarray[Any, np.dtype[np.float64]]:
        """Values at standard deviations z, (directions, n)."""
        away = np.asarray(self.factor) @ z
        return np.asarray(self.value * np.exp(away) if self.logarithmic else self.value + away)

    @property
    def middle(self) -> float:
        """The middle of the plausible range, geometric where it spreads logarithmically: what nobody chose."""
        return math.sqrt(self.low * self.high) if self.logarithmic else 0.5 * (self.low + self.high)

    def draw(self, rng: np.random.Generator, n: int) -> np.ndarray[Any, np.dtype[np.float64]]:
        """n values from the range, log-normal or normal, cut off at the ends of the range."""
        z = np.clip(rng.standard_normal(n), -RANGE_SIGMAS, RANGE_SIGMAS) / RANGE_SIGMAS
        if self.logarithmic:
            up, down = math.log(self.high / self.value), math.log(self.value / self.low)
            return self.value * np.exp(np.where(z > 0, z * up, z * down))
        return self.value + np.where(z > 0, z * (self.high - self.value), z * (self.value - self.low))


@dataclass(frozen=True, slots=True)
class Dissolution:
    """One anodic reaction: metal to an ion, or to a solid or complex with `chloride` or `hydroxide` of the solution.

    `steps`: how often the step that decides runs for the reaction as it is written (its stoichiometric number).
    `stock_c_per_m2`, `dull_c_per_m2`: how much of a solid a plate carries, as charge, freshly rubbed or as it lay.
    """

    couple: str
    i0_a_per_m2: Parameter
    slope_v: Parameter
    chloride: int
    hydroxide: int
    hydroxide_order: Parameter | None
    reference_ph: float
    ion: str | None
    stock_c_per_m2: Parameter | None
    dull_c_per_m2: Parameter | None
    steps: int = 1

    def matters_at(self, ph: float) -> bool:
        """Whether a plate can be said to dissolve this way: a hydroxide complex is spoken of in alkali only; below it the
        metal's hydroxide would settle, or the liquid at the plate is more acid than the rest."""
        return self.solid or not self.hydroxide or ph >= ALKALI_PH

    @property
    def solid(self) -> bool:
        """Whether the product is a solid, whose activity is 1."""
        half = half_reactions()[self.couple]
        return not set(half.oxidised) - {"Cl-", "OH-", "H+"}


@dataclass(frozen=True, slots=True)
class Film:
    """A film that lets only a passive current through until it breaks down in chloride.

    `alkali_a_per_m2`: what passes because 1 mol/L of hydroxide dissolves the film.
    """

    current_a_per_m2: Parameter
    at_v: Parameter
    slope_v: Parameter
    acid_order: Parameter
    acid_below_ph: Parameter
    alkali_order: Parameter
    alkali_above_ph: Parameter
    pit_v: Parameter | None
    pit_chloride_slope_v: Parameter | None
    alkali_a_per_m2: Parameter | None


@dataclass(frozen=True, slots=True)
class Surface:
    """What the liquid meets: hydrogen and oxygen kinetics, dissolution, film; `peroxide_…` for inert plates only.

    `oxygen_share`: the part of the area on which oxygen reacts; `oxygen_bared`: by how many decades a unit of pH that part
    grows in acid, which dissolves the oxide in its way. `oxygen_order`: of hydrogen ions in the reduction of oxygen at one
    potential against hydrogen; about one half where none is given (as far as the equilibrium moves with pH), less where the
    first electron alone decides.
    """

    key: str
    hydrogen_i0_a_per_m2: Parameter
    oxygen_i0_a_per_m2: Parameter
    oxygen_share: Parameter | None
    oxygen_bared: Parameter | None
    oxygen_order: Parameter | None
    peroxide_i0_a_per_m2: Parameter | None
    hydrogen_alkali_i0_a_per_m2: Parameter | None
    groups_i0_a_per_m2: Parameter | None
    groups_v: Parameter | None
    groups_c_per_m2: Parameter | None
    film: Film | None
    dissolution: tuple[Dissolution, ...]


@dataclass(frozen=True, slots=True)
class Form:
    """How oxygen reaches the plates (share of air saturation) and how thick the still layer is.

    `exposed_long`: plates are read when all has become steady, after weeks, not a minute or two after dipping.
    """

    key: str
    name: str
    oxygen_share: Parameter
    layer_m: Parameter
    hydrogen_bar: Parameter | None
    exposed_long: bool


def parameter(r: Reader, field: str) -> Parameter:
    """A cited value with its range; currents, lengths and shares spread logarithmically, potentials do not."""
    cited = r.cited(field, ("value", "low", "high"))
    if not cited["low"] <= cited["value"] <= cited["high"]:
        raise r.fail(f"{field}: the value lies outside its range")
    logarithmic = field.endswith(("_a_per_m2", "_c_per_m2", "_m", "_share", "_bar"))
    if logarithmic and cited["low"] <= 0:
        raise r.fail(f"{field} must be above zero")
    return Parameter(**cited, logarithmic=logarithmic)


def _optional(r: Reader, field: str) -> Parameter | None:
    return parameter(r, field) if field in r.row else None


def _dissolution(where: str, row: Mapping[str, Any]) -> Dissolution:
    r = Reader(where, row)
    couple = r.take("couple", str)
    if couple not in half_reactions():
        raise r.fail(f"couple {couple!r} is not in half_reactions.toml")
    dissolution = Dissolution(
        couple,
        parameter(r, "i0_a_per_m2"),
        parameter(r, "slope_v"),
        r.take("chloride", int, 0),
        r.take("hydroxide", int, 0),
        _optional(r, "hydroxide_order"),
        r.take("reference_ph", (int, float), 0.0),
        r.take("ion", str, None),
        _optional(r, "stock_c_per_m2"),
        _optional(r, "dull_c_per_m2"),
        r.take("steps", int, 1),
    )
    r.done()
    return dissolution


def _film(where: str, row: Mapping[str, Any]) -> Film:
    r = Reader(where, row)
    film = Film(
        current_a_per_m2=parameter(r, "current_a_per_m2"),
        at_v=parameter(r, "at_v"),
        slope_v=parameter(r, "slope_v"),
        acid_order=parameter(r, "acid_order"),
        acid_below_ph=parameter(r, "acid_below_ph"),
        alkali_order=parameter(r, "alkali_order"),
        alkali_above_ph=parameter(r, "alkali_above_ph"),
        pit_v=_optional(r, "pit_v"),
        pit_chloride_slope_v=_optional(r, "pit_chloride_slope_v"),
        alkali_a_per_m2=_optional(r, "alkali_a_per_m2"),
    )
    r.done()
    return film


def _surface(r: Reader) -> Surface:
    key = r.take("key", str)
    film = r.take("film", dict, None)
    dissolution = r.take("dissolution", list, [])
    return Surface(
        key,
        parameter(r, "hydrogen_i0_a_per_m2"),
        parameter(r, "oxygen_i0_a_per_m2"),
        _optional(r, "oxygen_share"),
        _optional(r, "oxygen_bared"),
        _optional(r, "oxygen_order"),
        _optional(r, "peroxide_i0_a_per_m2"),
        _optional(r, "hydrogen_alkali_i0_a_per_m2"),
        _optional(r, "groups_i0_a_per_m2"),
        _optional(r, "groups_v"),
        _optional(r, "groups_c_per_m2"),
        None if film is None else _film(f"kinetics: {key} film", film),
        tuple(_dissolution(f"kinetics: {key} dissolution", row) for row in dissolution),
    )


def _form(r: Reader) -> Form:
    return Form(
        r.take("key", str),
        r.take("name", str),
        parameter(r, "oxygen_share"),
        parameter(r, "layer_m"),
        _optional(r, "hydrogen_bar"),
        r.take("exposed_long", bool, False),
    )


def priors() -> tuple[Mapping[str, Surface], Mapping[str, Form]]:
    """Surfaces and forms by key as they are published, before calibration."""
    return read_table("kinetics", "surface", _surface), read_table("kinetics", "form", _form)


@cache
def surfaces() -> Mapping[str, Surface]:
    """Surfaces by key, calibrated."""
    return {key: calibrated(row, key) for key, row in read_table("kinetics", "surface", _surface).items()}


@once
def forms() -> Mapping[str, Form]:
    """Forms of electrolytes by key, calibrated."""
    return {key: calibrated(row, f"form {key}") for key, row in read_table("kinetics", "form", _form).items()}
