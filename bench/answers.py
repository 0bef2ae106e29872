"""How long the server takes to answer with a class of 12 groups: `./pipette bench`. Target: every answer under 100 ms.

Runs on a test database of its own, through Django's test client: the time of the server's work without the network.
"""

from __future__ import annotations

import os
import statistics
import sys
import time
import uuid
from collections.abc import Callable
from datetime import date
from itertools import count
from pathlib import Path
from typing import Any

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.config.settings")
os.environ["PIPETTE_LOG"] = "plain"

import django

django.setup()

from django.test.runner import DiscoverRunner  # noqa: E402

from galvanic.bench.class_reference import Reference  # noqa: E402
from server.labs.changes import announce  # noqa: E402
from server.tests.support import as_group, as_teacher, lab_of, record, send, teacher  # noqa: E402

PLATES = ["magnesium", "aluminium", "zinc", "steel", "nickel", "tin", "copper", "graphite"]
LIQUIDS = ["rhubarb-juice", "kelp-brine", "soda-water", "beet-brine", "kcl-0.10"]
ROUNDS = 30


def timed(what: str, job: Callable[[], Any]) -> None:
    """Median and slowest of some rounds."""
    assert job().status_code == 200, what
    times = []
    for _ in range(ROUNDS):
        start = time.perf_counter()
        job()
        times.append((time.perf_counter() - start) * 1000)
    sys.stdout.write(f"{statistics.median(times):8.1f} ms median {max(times):8.1f} ms slowest  {what}\n")


def changed(lab: Any) -> None:
    """One of its groups has recorded something, so what was kept of it is old."""
    announce(lab.id, lab.groups.first().id)


def main() -> None:
    """12 groups, 8 cells each, three readings a cell."""
    import logging

    logging.getLogger("pipette").setLevel(logging.CRITICAL)
    runner = DiscoverRunner(verbosity=0, interactive=False)
    runner.setup_test_environment()
    databases = runner.setup_databases()
    try:
        ada = teacher("ada")
        names = [f"Group {i + 1}" for i in range(12)]
        lab = lab_of(ada, names, minutes=64, electrodes=PLATES, electrolytes=LIQUIDS)
        cells = [cell for group in lab.groups.prefetch_related("cells") for cell in group.cells.all()]
        account = Reference(PLATES, LIQUIDS, [], "")  # groups read what the account gives, with the scatter of plates
        for number, cell in enumerate(cells):
            for nth in range(3):
                record(cell, f"{account.of(cell.cell).volts_v + 0.004 * (number % 13 - 6) + nth * 0.002:.3f}")
        client, device = as_teacher(ada), as_group(lab.groups.first())
        own = cells[0]
        plan = {"title": "x", "date": str(date(2026, 5, 4)), "minutes": 64, "groups": names}
        plan |= {"electrodes": PLATES, "electrolytes": LIQUIDS}
        sys.stdout.write(f"{len(cells)} cells, {3 * len(cells)} readings\n")
        timed("list of labs", lambda: client.get("/api/labs/list"))
        timed("one lab", lambda: client.get(f"/api/labs/{lab.id}"))
        draft = send(client, "/labs", plan).json()
        edits = f"/labs/{draft['id']}/plan"
        free = next(c for c in draft["plan"]["counts"] if c["count"] == 0)
        cell = {key: free[key] for key in ("negative", "electrolyte", "positive", "condition")}

        def more_and_fewer() -> Any:
            send(client, edits, {"kind": "more", "cell": cell})
            return send(client, edits, {"kind": "fewer", "cell": cell})

        timed("two edits of the plan", more_and_fewer)
        timed("kit", lambda: client.get(f"/api/labs/{draft['id']}/kit"))
        timed("safety sheet", lambda: client.get(f"/api/labs/{draft['id']}/safety"))
        timed("cards", lambda: client.get(f"/api/labs/{draft['id']}/cards"))
        timed("design of a plan", lambda: send(client, "/labs/preview", plan))
        timed("board after a change", lambda: changed(lab) or client.get(f"/api/labs/{lab.id}/board"))
        timed("board, nothing new", lambda: client.get(f"/api/labs/{lab.id}/board"))
        timed("compare after a change", lambda: changed(lab) or client.get(f"/api/labs/{lab.id}/compare"))
        about = {"negative": own.negative, "electrolyte": own.electrolyte, "positive": own.positive}
        oxygen = (0.01 * n for n in count())
        timed("explain a cell after a change", lambda: changed(lab) or client.get(f"/api/labs/{lab.id}/explain", about))
        timed("what if", lambda: send(client, "/what-if", {"cell": about, "oxygen": next(oxygen)}))
        kind, areas = f"{own.negative}|{own.electrolyte}|{own.positive}", (1.0 + 0.013 * n for n in count())
        path = f"/api/labs/{lab.id}/power"

        def thought_of(part: str, n: int) -> Any:
            return client.get(f"{path}/{part}", {"load": "led-red", "cell": [kind] * n, "area_cm2": next(areas)})

        timed("power page", lambda: changed(lab) or client.get(path))
        for n in (3, 6):
            timed(f"a pack of {n}, never asked before (with its distribution)", lambda n=n: thought_of("pack", n))
        timed("advice on a pack of 3, never asked before", lambda: thought_of("advice", 3))
        timed("accounts after a change", lambda: changed(lab) or client.get(f"/api/labs/{lab.id}/accounts"))
        timed("claims", lambda: client.get(f"/api/labs/{lab.id}/claims"))
        timed("bench of a group after a change", lambda: changed(lab) or device.get("/api/bench"))
        timed("bench of a group, nothing new", lambda: device.get("/api/bench"))
        entry = {"cell_id": str(own.id), "red": own.positive, "black": own.negative, "text": "0.94", "unit": "V"}
        timed("record a reading", lambda: send(device, "/bench/readings", {**entry, "id": str(uuid.uuid4())}))
    finally:
        runner.teardown_databases(databases)
        runner.teardown_test_environment()


if __name__ == "__main__":
    main()
