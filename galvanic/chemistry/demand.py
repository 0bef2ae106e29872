"""What a load takes at a voltage: LED, resistor, device with a least voltage, motor or buzzer.

An LED follows Shockley's equation with a series resistance, V = n·(kT/q)·ln(1 + I/I₀) + I·R (S. M. Sze, K. K. Ng, Physics
of Semiconductor Devices), solved for I by the Wright omega function, ω(x) = W(eˣ). I₀ and R are such that the curve goes
through the two practice points of loads.toml. Parameters are arrays (n, 1): one row, or one a draw; in A and V.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from galvanic.chemistry.nernst import thermal_v
from galvanic.chemistry.plates import Array
from galvanic.errors import OutOfRange, UnknownMaterial, within
from galvanic.reference.further_tables import Load, loads
from galvanic.reference.names import find
from galvanic.words import say

LEAST_OHM, MOST_OHM = 0.0, 1e9
SIGMAS = 2.0  # the ends of a practice range are taken as two standard deviations either way


@dataclass(frozen=True)
class Diode:
    """An LED the right way round; against its direction it takes nothing."""

    n_vt_v: float
    i0_a: float
    series_ohm: float
    shift_v: Array

    def current_a(self, volts_v: Array) -> Array:
        """Current at a voltage across it, A."""
        forward = volts_v - self.shift_v
        if self.series_ohm <= 0.0:
            return np.asarray(self.i0_a * np.expm1(np.minimum(forward / self.n_vt_v, 60.0)).clip(0.0))
        from scipy.special import wrightomega  # SciPy takes a second to start, and not everything needs an LED

        ratio = self.i0_a * self.series_ohm / self.n_vt_v
        omega = wrightomega(math.log(ratio) + ratio + forward / self.n_vt_v)
        return np.asarray(np.maximum(self.n_vt_v / self.series_ohm * omega - self.i0_a, 0.0))

    def behind(self, source_v: float, ohm: float) -> float:
        """The current when a source drives it through a resistance."""
        return float(replace(self, series_ohm=self.series_ohm + ohm).current_a(np.array([[source_v]]))[0, 0])


@dataclass(frozen=True)
class Resistor:
    """A plain resistor; 0 Ω is a short circuit."""

    ohm: float

    def current_a(self, volts_v: Array) -> Array:
        """Ohm's law; a short circuit takes whatever there is."""
        return np.asarray(volts_v / max(self.ohm, 1e-9))

    def behind(self, source_v: float, ohm: float) -> float:
        """The current when a source drives it through a resistance."""
        return source_v / (self.ohm + ohm)


@dataclass(frozen=True)
class Device:
    """A device that draws its current from its least voltage on, and in proportion below."""

    least_v: Array
    draws_a: Array

    def current_a(self, volts_v: Array) -> Array:
        """Current at a voltage across it, A."""
        return np.asarray(self.draws_a * np.minimum(volts_v / self.least_v, 1.0))

    def behind(self, source_v: float, ohm: float) -> float:
        """The current when a source drives it through a resistance."""
        least_v, draws_a = float(self.least_v[0, 0]), float(self.draws_a[0, 0])
        return min(source_v / (ohm + least_v / draws_a), draws_a)


@dataclass(frozen=True)
class Winding:
    """A motor or a buzzer: ohmic up to its least voltage (a motor stands still), straight on through its working range."""

    low_v: Array
    low_a: float
    siemens: float

    def current_a(self, volts_v: Array) -> Array:
        """Current at a voltage across it, A."""
        below = volts_v * self.low_a / self.low_v
        return np.asarray(np.where(volts_v < self.low_v, below, self.low_a + (volts_v - self.low_v) * self.siemens))

    def behind(self, source_v: float, ohm: float) -> float:
        """The current when a source drives it through a resistance."""
        low_v = float(self.low_v[0, 0])
        below = source_v / (ohm + low_v / self.low_a)
        return below if below < self.low_a else (source_v - low_v + self.low_a / self.siemens) / (ohm + 1.0 / self.siemens)


Takes = Diode | Resistor | Device | Winding


@dataclass(frozen=True)
class Demand:
    """A load as the circuit meets it: what it takes, and from where on people say that it runs.

    `row` None: a plain resistor. `seen_a` (n, 1) is the current from which a group calls a lamp lit in a lit room.
    """

    name: str
    takes: Takes
    row: Load | None
    seen_a: Array

    def runs(self, volts_v: Array, current_a: Array) -> Array:
        """Whether it runs at these points (n, 1): a lamp by its current, a device by its voltage, a resistor always."""
        if self.row is None:
            return np.ones(np.shape(volts_v), dtype=bool)
        if isinstance(self.takes, Diode):
            return np.asarray(current_a >= self.seen_a)
        return np.asarray(volts_v >= (self.takes.least_v if isinstance(self.takes, Device) else self._starts_v()))

    def _starts_v(self) -> Array | float:
        return self.takes.low_v if isinstance(self.takes, Winding) else 0.0

    def level(self, volts_v: float, current_a: float) -> str:
        """In a word what is to be expected: dark, glows in the dark, glows by day, bright; nothing, runs; warms."""
        if self.row is None:
            return "takes its current"
        if self.row.by_day_a is None:
            return "runs" if bool(self.runs(np.array([[volts_v]]), np.array([[current_a]]))[0, 0]) else "nothing"
        if current_a < self.row.current_a.low:
            return "dark"
        if current_a < math.sqrt(self.row.by_day_a.low * self.row.by_day_a.high):
            return "glows in the dark"
        return "glows by day" if current_a < self.row.current_a.high else "bright"

    def harms(self, volts_v: float, current_a: float) -> str:
        """Why it must not be joined, in a sentence; empty where it may. What counts is what is left under its own current: a
        weak pack gives way."""
        if self.row is None:
            return ""
        if self.row.most_a is not None and current_a > self.row.most_a.value:
            most = say("{value:.0f} mA at most", value=1000 * self.row.most_a.value)
            return say(
                "{current_a:.2g} mA would go through the {name}; it takes {most}.",
                current_a=1000 * current_a,
                name=self.name,
                most=most,
            )
        if self.row.most_v is not None and volts_v > self.row.most_v.value:
            return say(
                "{meets_v:.2f} V would stand across the {name}; it takes {value:g} V at most.",
                meets_v=volts_v,
                name=self.name,
                value=self.row.most_v.value,
            )
        return ""


def shockley(load: Load) -> tuple[float, float, float]:
    """n·kT/q in V, I₀ in A and R in Ω of a diode whose curve goes through both practice points. A straight logarithm where
    the points leave nothing for a resistance."""
    assert load.ideality is not None
    n_vt = load.ideality.value * thermal_v()
    (v_low, v_high), (i_low, i_high) = (load.voltage_v.low, load.voltage_v.high), (load.current_a.low, load.current_a.high)
    series = max(0.0, (v_high - v_low - n_vt * math.log(i_high / i_low)) / (i_high - i_low))
    if series == 0.0:
        n_vt = (v_high - v_low) / math.log(i_high / i_low)
    i0 = i_low * math.exp(-(v_low - i_low * series) / n_vt)
    return n_vt, i0, series


def demand(load: str | float, rng: np.random.Generator | None = None, n: int = 1) -> Demand:
    """A load by its key or name, or a resistance in Ω; with `rng` n draws of what parts and people differ in.

    Raises UnknownMaterial for a name that is not in loads.toml, OutOfRange for a resistance below zero or no number.
    """
    if isinstance(load, float | int):
        within("load_ohm", float(load), LEAST_OHM, MOST_OHM, say("A load is a number of ohms, zero or more."))
        return Demand(f"{load:g} Ω", Resistor(float(load)), None, np.zeros((1, 1)))
    row = find(load, loads(), "load")
    z = (lambda: np.zeros((1, 1))) if rng is None else (lambda: rng.standard_normal((n, 1)).clip(-SIGMAS, SIGMAS))
    shift = row.u_v.value * z()
    if row.kind == "diode":
        assert row.by_day_a is not None
        n_vt, i0, series = shockley(row)
        return Demand(row.name, Diode(n_vt, i0, series, shift), row, _across(row.by_day_a.low, row.by_day_a.high, z()))
    if row.kind == "constant":
        draws = _across(row.current_a.low, row.current_a.high, z())
        return Demand(row.name, Device(row.voltage_v.low + shift, draws), row, draws)
    slope = (row.current_a.high - row.current_a.low) / (row.voltage_v.high - row.voltage_v.low)
    return Demand(row.name, Winding(row.voltage_v.low + shift, row.current_a.low, slope), row, np.zeros((1, 1)))


def _across(low: float, high: float, z: Array) -> Array:
    """From a range, evenly about its geometric middle; its ends are two standard deviations off."""
    return np.asarray(math.sqrt(low * high) * (high / low) ** (z / (2.0 * SIGMAS)))


def load_of(text: str) -> str | float:
    """A load as typed: ohms (`470`, `470 ohm`, `4.7k`) or a load's name. Raises UnknownMaterial, OutOfRange."""
    shown = text.strip().casefold().replace("ω", "").replace("ohms", "").replace("ohm", "").replace(",", ".").strip()
    times = {"k": 1e3, "m": 1e6}.get(shown[-1:], 1.0)
    try:
        ohm = float(shown[:-1] if times > 1.0 else shown) * times
    except ValueError:
        try:
            return find(text, loads(), "load").key
        except UnknownMaterial as error:
            raise UnknownMaterial(say("{error} Or type ohms, for example 470.", error=error), error.nearest, text) from error
    if not math.isfinite(ohm):
        raise OutOfRange(say("A load is a number of ohms, zero or more."), field="load_ohm", value=ohm, limit=LEAST_OHM)
    return ohm
