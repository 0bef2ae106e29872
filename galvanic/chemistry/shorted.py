"""What an ammeter across a cell shows: in the first seconds, after a minute, and when all is steady.

The first two are read off a run (`transient`): the double layer, what the plates carry, the layers that grow next to them
and the liquid's resistance decide together, so that more salt gives more until something else limits it.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.demand import demand
from galvanic.chemistry.plate_row import Row
from galvanic.chemistry.polarisation import MINUTE_S, Geometry, LoadedCell
from galvanic.chemistry.transient import Event, run
from galvanic.reference.catalogue import kept

READ_S = 5.0  # what a hand reads off at once: the figure has stopped racing
RESTED_S = 30.0  # between dipping and joining
COARSE_V = 0.3  # how far a plate may go in a step of the run: 3 % of the current at the worst
NEGLIGIBLE_A = 1e-9


@dataclass(frozen=True, slots=True)
class ShortCircuit:
    """Short-circuit current, A: in the first seconds, after a minute, and steady. It falls as oxides are used up."""

    first_a: float
    minute_a: float
    steady_a: float


def short_circuit(loaded: LoadedCell, rest_v: tuple[float, float] | None = None) -> ShortCircuit:
    """The current of a short circuit; `rest_v`: what `rest` gave, if it is known."""
    return joined(loaded, 0.0, rest_v)


def joined(loaded: LoadedCell, load_ohm: float, rest_v: tuple[float, float] | None = None) -> ShortCircuit:
    """The current into a resistor, in size, at the same three times. Raises OutOfRange below zero ohms."""
    steady_a = loaded.steady_a(load_ohm, rest_v)
    event = Event(RESTED_S, "load", demand(load_ohm)) if load_ohm else Event(RESTED_S, "short")
    trace = run(Row.loaded(loaded), [event], RESTED_S + MINUTE_S, COARSE_V)
    first_a, minute_a = (abs(float(a)) for a in trace.at(RESTED_S + np.array([READ_S, MINUTE_S]))[1])
    return ShortCircuit(first_a, minute_a, steady_a)


@kept(256)
def shorted(cell: Cell, geometry: Geometry | None = None) -> ShortCircuit:
    """The current of a short circuit of a cell as the catalogue describes it."""
    return short_circuit(LoadedCell.of(cell, geometry))
