"""How long the rest-potential model takes, on one core: `python bench/rest.py`. Target: under 2 s for 24 × 40 plates."""

from __future__ import annotations

import os
import sys
import time
from collections.abc import Callable
from pathlib import Path

os.environ.setdefault("OMP_NUM_THREADS", "1")
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from galvanic.cells import Cell
from galvanic.chemistry.accounts import predict
from galvanic.chemistry.gap import explain
from galvanic.chemistry.rest import rest_potentials
from galvanic.reference.catalogue import electrodes, electrolytes


def timed(what: str, job: Callable[[], object], times: int = 3) -> None:
    """Print the best of a few runs."""
    best = min(_once(job) for _ in range(times))
    sys.stdout.write(f"{best * 1000:9.1f} ms  {what}\n")


def _once(job: Callable[[], object]) -> float:
    start = time.perf_counter()
    job()
    return time.perf_counter() - start


def main() -> None:
    """Central values, with uncertainty, a class's cells, one gap."""
    plates = list(electrodes())
    liquids = [key for key, row in electrolytes().items() if row.negative_side is None]
    pairs = len(plates) * (len(plates) - 1) // 2 * len(liquids)
    timed(f"{len(plates)} plates in {len(liquids)} liquids: all {pairs} cells", lambda: rest_potentials(plates, liquids))
    timed("the same with 64 draws for the uncertainty", lambda: rest_potentials(plates, liquids, draws=64), 1)
    cells = [Cell("zinc", liquid, plate) for liquid in liquids[:5] for plate in plates[:12]]
    timed(f"all four accounts for {len(cells)} cells with uncertainty", lambda: predict(cells))
    timed("where the volts of one cell went", lambda: explain(Cell("aluminium", "rhubarb-juice", "copper"), 0.6))


if __name__ == "__main__":
    main()
