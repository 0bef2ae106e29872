"""How often the faults of packs are found, how often a sound one is blamed, and how fast a pack is worked out.

Targets: found in 90 % of packs with each fault, false in less than 5 % of sound packs; a pack of 12 cells under 20 ms, with
its distribution under 300 ms; an hour's run under 100 ms (CPU seconds, first and kept).
"""

from __future__ import annotations

import sys
import time
from collections import Counter
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

import numpy as np

from galvanic.bench.faults import faults as the_list
from galvanic.bench.pack_faults import pack_findings
from galvanic.cells import Cell
from galvanic.chemistry.circuit import Curves, Pack
from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.demand import demand
from galvanic.chemistry.expected import expect
from galvanic.chemistry.polarisation import Geometry
from galvanic.chemistry.transient import Event, simulate
from galvanic.simulated.packs import PACK_FAULTS, build, found

PACKS = 200
KINDS = (
    (Cell("zinc", "lemon-juice", "copper"), Geometry(5e-4, 0.02), "led-red"),
    (Cell("zinc", "rhubarb-juice", "copper"), Geometry(4e-4, 0.02), "led-red"),
    (Cell("magnesium", "salt-water", "copper"), Geometry(4e-4, 0.02), "led-green"),
    (Cell("aluminium-foil", "salt-water", "copper"), Geometry(20e-4, 0.01), "led-red"),
)


def faults() -> None:
    """Found and false, each fault."""
    for fault in (*PACK_FAULTS, ""):
        rng = np.random.default_rng(7)
        hits, false, codes = 0, 0, Counter[str]()
        for k in range(PACKS):
            cell, geometry, load = KINDS[k % len(KINDS)]
            pack = build(PackCell(cell, geometry), int(rng.integers(3, 7)), load, fault, rng)
            said = pack_findings(pack.record)
            codes.update(finding.code for finding in said)
            if fault:
                hits += found(pack)
            false += bool(said) if not fault else bool({finding.code for finding in said} - set(the_list()[fault].codes))
        name = fault or "sound"
        first = f"found {100 * hits / PACKS:5.1f} %" if fault else " " * 13
        said = f"{name:11s} {first}  other faults named in {100 * false / PACKS:5.1f} %  {dict(codes)}"
        sys.stdout.write(f"{said}\n")


def speed() -> None:
    """CPU milliseconds of a pack of 12 kinds, of its distribution, and of an hour's run."""
    plates, liquids = ("zinc", "magnesium", "steel", "tin"), ("lemon-juice", "salt-water", "vinegar")
    pack = Pack((tuple(PackCell(Cell(plate, liquid, "copper")) for plate in plates for liquid in liquids),))
    events = [Event(120.0, "load", demand(470.0)), Event(720.0, "open")]
    simulate([pack.rows[0][0]], events, 60.0)
    tasks = (
        ("12 kinds of cell, a meeting point", lambda: Curves.of(pack).meet(demand("led-red"))),
        ("12 kinds of cell, the distribution", lambda: expect.__wrapped__(pack, "led-red")),  # type: ignore[attr-defined]
        ("an hour's run", lambda: simulate([pack.rows[0][0]], events, 3600.0)),
    )
    for name, task in tasks:
        times = []
        for _ in range(4):
            start = time.process_time()
            task()
            times.append(1e3 * (time.process_time() - start))
        sys.stdout.write(f"{name:36s} first {times[0]:6.1f} ms, then {min(times[1:]):6.1f} ms\n")


if __name__ == "__main__":
    faults()
    speed()
