"""Packs as groups build and measure them, sound or with one fault, for testing what finds faults. Sizes: common practice, no
source."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from galvanic.bench.faults import faults
from galvanic.bench.pack_faults import pack_findings
from galvanic.bench.pack_record import PackRecord
from galvanic.chemistry.circuit import Curves, Pack, in_a_row
from galvanic.chemistry.curves import Anchor, PackCell
from galvanic.chemistry.demand import Demand, demand

READ_V, DRIFT_V = 0.01, 0.012  # last digit of a school meter, and what a cell moves between two measurements
SCATTER_V, SCATTER = 0.03, 0.2

# Of the list of faults: which of packs are simulated.
PACK_FAULTS = ("turned", "pack_bridge", "touching", "pack_joint", "worn_cell", "wrong_socket", "led_turned")


@dataclass(frozen=True, slots=True)
class BuiltPack:
    """A pack with what is wrong with it (empty: nothing), where (cell from 1), and what its group wrote down."""

    fault: str
    cell: int | None
    record: PackRecord


def build(cell: PackCell, n: int, load: str | float, fault: str, rng: np.random.Generator) -> BuiltPack:
    """Build, measure and try one pack of n cells like `cell` with a fault of PACK_FAULTS, or none. Raises KeyError."""
    if fault and fault not in PACK_FAULTS:
        raise KeyError(fault)
    cells = [replace(cell, anchor=_apart(cell.anchor, rng)) for _ in range(n)]
    lamp = demand(load)
    at = int(rng.integers(1, n)) if fault == "pack_bridge" else int(rng.integers(0, n))
    sound = list(cells)
    if fault == "turned":
        cells[at] = replace(cells[at], turned=True)
    elif fault == "pack_bridge":
        ohm = float(np.exp(rng.uniform(np.log(30.0), np.log(3000.0))))
        cells[at - 1] = replace(cells[at - 1], bridge_ohm=ohm)
    elif fault == "touching":
        cells[at] = replace(cells[at], touching_ohm=float(np.exp(rng.uniform(np.log(0.3), np.log(20.0)))))
    elif fault == "pack_joint":
        cells[at] = replace(cells[at], contact_ohm=float(np.exp(rng.uniform(np.log(2e5), np.log(5e6)))))
    elif fault == "worn_cell":
        cells[at] = replace(cells[at], left=float(rng.uniform(0.01, 0.05)))
    return BuiltPack(
        fault, at + 1 if fault not in ("", "wrong_socket", "led_turned") else None, _measured(sound, cells, lamp, fault, rng)
    )


def _apart(anchor: Anchor, rng: np.random.Generator) -> Anchor:
    """How one cell differs from others built alike."""
    times = anchor.times * float(np.exp(rng.normal(0.0, SCATTER)))
    return replace(anchor, shift_v=anchor.shift_v + float(rng.normal(0.0, SCATTER_V)), times=times)


def _measured(
    sound: list[PackCell], cells: list[PackCell], lamp: Demand, fault: str, rng: np.random.Generator
) -> PackRecord:
    def read(value: float) -> float:
        return round((value + float(rng.normal(0.0, DRIFT_V))) / READ_V) * READ_V

    def open_v(row: list[PackCell]) -> float:
        return float(Curves.of(Pack((tuple(row),))).crossing_v(None)[0, 0])

    alone = tuple(read(open_v([one])) for one in sound)
    sums = tuple(read(open_v(cells[: k + 1])) for k in range(len(cells)))
    blocked = fault == "led_turned"
    met = Curves.of(in_a_row(cells)).meet(demand(1e9) if blocked else lamp)
    # Across its plates a cell shows what it gives before its dry clip takes it away.
    under = tuple(
        read(share.volts_v + share.current_a * one.contact_ohm * (-1.0 if one.turned else 1.0))
        for share, one in zip(met.cells, cells, strict=True)
    )
    current = 0.0 if blocked or fault == "wrong_socket" else round(met.current_a / 1e-6) * 1e-6
    lit = not blocked and lamp.level(met.volts_v, met.current_a) not in ("dark", "nothing")
    return PackRecord(alone, sums, lamp, read(met.volts_v), current, under, lit)


def found(pack: BuiltPack) -> bool:
    """Whether what is said names the fault, and at its cell where it has one."""
    codes, beside = faults()[pack.fault].codes, 1 if pack.fault == "pack_bridge" else 0
    said = [finding for finding in pack_findings(pack.record) if finding.code in codes]
    return any(pack.cell is None or finding.cell is None or abs(finding.cell - pack.cell) <= beside for finding in said)
