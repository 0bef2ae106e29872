"""Ten classes at once: what one reading costs the server, and how long a board waits. Targets in docs/scale.md.

Each class has 40 devices that post a reading every minute, 4 boards and 36 benches that listen and fetch. The server runs in
one, two or four processes on a database of its own; the load runs in processes of its own, so that it does not starve it.
Groups read what the rest account gives, with the scatter of plates and readings. Where the proxy of a checkout sends all of
a class to one process, so does the load.
`--against DIR` plays the same against another checkout, in turns in one run: machines are noisy, so compare pairs.
    bench/classes.py [--classes 10] [--processes 1] [--seconds 60] [--rounds 2] [--against DIR]
"""

from __future__ import annotations

import argparse
import asyncio
import json
import os
import random
import statistics
import subprocess
import sys
import tempfile
import time
import urllib.request
import uuid
import zlib
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.config.settings")
os.environ["PIPETTE_LOG"] = "plain"
os.environ.setdefault("PIPETTE_SECRET_KEY", "only-for-this-benchmark-0123456789-0123456789")

from bench.line import Line, cookies_of, p95  # noqa: E402

GROUPS, DEVICES, BOARDS, BENCHES, EVERY_S, SETTLE_S, LOADS = 10, 40, 4, 36, 60.0, 8.0, 2
PLATE_U_V, READING_U_V = 0.015, 0.005  # of a group's plates, and from dip to dip; common practice, no source
PLATES = ["magnesium", "aluminium", "zinc", "steel", "nickel", "tin", "copper", "graphite"]
TICKS = os.sysconf("SC_CLK_TCK")


class Seen:
    """What one load process saw: times of posts, and when each reading was first on a board of its class."""

    def __init__(self) -> None:
        self.posted: dict[str, float] = {}
        self.post_ms: list[float] = []
        self.seen_ms: dict[str, float] = {}
        self.refused = 0
        self.fetched = 0
        self.bytes = 0

    async def device(self, line: Line, cells: list[list[Any]], until: float, rng: random.Random) -> None:
        """Post a reading about every minute."""
        await asyncio.sleep(rng.uniform(0.0, min(EVERY_S, until - time.perf_counter())))
        while time.perf_counter() < until:
            cell, red, black, volts_v = rng.choice(cells)
            key = str(uuid.UUID(int=rng.getrandbits(128), version=4))
            body = {
                "id": key,
                "cell_id": cell,
                "red": red,
                "black": black,
                "text": f"{rng.gauss(volts_v, READING_U_V):.3f}",
                "unit": "V",
            }
            self.posted[key] = start = time.perf_counter()
            status, _ = await line.ask("POST", "/api/bench/readings", body)
            self.post_ms.append(1000.0 * (time.perf_counter() - start))
            self.refused += status != 200
            await asyncio.sleep(rng.uniform(0.6, 1.4) * EVERY_S)

    async def watcher(self, ports: list[int], cookies: str, events: str, path: str, board: bool) -> None:
        """Listen, and at every change show what comes with it or fetch it, as a page does."""
        listening, fetching = (Line(port, cookies) for port in ports)
        await listening.send("GET", f"{events}?whole=1")
        await listening.head()
        version = await self.fetch(fetching, path, "", board)
        while True:
            line = await listening.reader.readline()
            if line.startswith(b"data: {"):  # what is to be shown comes with the news
                self.bytes += len(line)
                self.look(line, board)
            elif line.startswith(b"data: "):
                version = await self.fetch(fetching, path, version, board)

    def look(self, body: bytes, board: bool) -> None:
        """Note which readings a board shows for the first time."""
        now = time.perf_counter()
        for key, start in self.posted.items() if board else ():
            if key not in self.seen_ms and key.encode() in body:
                self.seen_ms[key] = 1000.0 * (now - start)

    async def fetch(self, line: Line, path: str, version: str, board: bool) -> str:
        """Fetch as a browser does: it says which version it has; returns the one it has now."""
        status, body, headers = await line.ask_whole("GET", path, None, {"If-None-Match": version} if version else {})
        self.fetched += 1
        self.bytes += len(body)
        self.look(body, board and status == 200)
        return headers.get("etag", "")


async def load(plan: dict[str, Any]) -> dict[str, Any]:
    """Play some classes."""
    seen, ports, rng = Seen(), plan["ports"], random.Random(plan["seed"])  # noqa: S311
    tasks = []
    for lab in plan["labs"]:
        for n in range(BOARDS + BENCHES):
            board = n < BOARDS
            cookies = lab["owner"] if board else lab["members"][n % GROUPS]
            events, path = ("/api/bench/events", "/api/bench")
            if board:
                events, path = (f"/api/labs/{lab['id']}/{what}" for what in ("events", "board"))
            at = [lab["port"] or rng.choice(ports) for _ in range(2)]
            tasks.append(asyncio.create_task(seen.watcher(at, cookies, events, path, board)))
        await asyncio.sleep(0.2)
    sys.stdout.write("ready\n")
    sys.stdout.flush()
    await asyncio.sleep(SETTLE_S)
    until = time.perf_counter() + plan["seconds"]
    devices = []
    for lab in plan["labs"]:
        for n in range(DEVICES):
            own = random.Random(f"{lab['id']} {n}")  # noqa: S311
            line = Line(lab["port"] or rng.choice(ports), lab["members"][n % GROUPS])
            devices.append(seen.device(line, lab["cells"][n % GROUPS], until, own))
    await asyncio.gather(*devices)
    await asyncio.sleep(4.0)
    broken = sum(task.done() for task in tasks)
    for task in tasks:
        task.cancel()
    await asyncio.gather(*tasks, return_exceptions=True)
    return {
        "post_ms": seen.post_ms, "seen_ms": list(seen.seen_ms.values()), "posted": len(seen.posted),
        "refused": seen.refused, "fetched": seen.fetched, "bytes": seen.bytes, "broken": broken,
    }  # fmt: skip


def cpu_s(pid: int) -> float:
    """CPU seconds of a process so far."""
    fields = Path(f"/proc/{pid}/stat").read_text(encoding="ascii").rpartition(")")[2].split()
    return (int(fields[11]) + int(fields[12])) / TICKS


def start(tree: Path, database: str, port: int) -> subprocess.Popen[bytes]:
    """A process of the server of a checkout."""
    return subprocess.Popen(  # noqa: S603
        [sys.executable, "-m", "uvicorn", "server.config.asgi:application", "--port", str(port), "--lifespan", "off",
         "--log-level", "critical", "--no-access-log", "--timeout-graceful-shutdown", "1"],
        cwd=tree, env={**os.environ, "DATABASE_URL": database}, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
    )  # fmt: skip


def token_of(port: int) -> str:
    """Wait for a process, and take a token of its forms."""
    for _ in range(300):
        try:
            with urllib.request.urlopen(f"http://127.0.0.1:{port}/join", timeout=5) as answer:
                cookies = "; ".join(answer.headers.get_all("Set-Cookie", []))
            return cookies.partition("csrftoken=")[2].partition(";")[0]
        except OSError:
            time.sleep(0.1)
    raise RuntimeError("the server did not start")


def cells_of(lab: Any, groups: list[Any], rng: random.Random) -> list[list[list[Any]]]:
    """Each group's cells: id, red, black, and what the group's own plates give, V."""
    from galvanic.planning.tell_apart import plate_potentials
    from server.labs.models import PlannedCell

    rest = plate_potentials(tuple(lab.electrodes), tuple(lab.electrolytes))
    found = []
    for group in groups:
        own = {plate: rng.gauss(0.0, PLATE_U_V) for plate in PLATES}
        found.append([
            [str(one.id), one.positive, one.negative, own[one.positive] - own[one.negative]
             + (rest[one.electrolyte][one.positive] or 0.0) - (rest[one.electrolyte][one.negative] or 0.0)]
            for one in PlannedCell.objects.filter(group=group)
        ])  # fmt: skip
    return found


def by_class(tree: Path) -> bool:
    """Whether a checkout's proxy sends all of a class to one process."""
    return "hash $" in (tree / "deploy" / "nginx" / "pipette.conf").read_text(encoding="utf-8")


def play(tree: Path, options: argparse.Namespace, database: str, seed: int) -> str:
    """One round against one checkout; returns its line."""
    from django.db import connections

    from e2e.process import free_port
    from server.entries.models import Reading
    from server.tests.support import as_group, as_teacher, lab_of, teacher

    ports = [free_port() for _ in range(options.processes)]
    servers = [start(tree, database, port) for port in ports]
    try:
        token = [token_of(port) for port in ports][0]
        labs = []
        for number in range(options.classes):
            ada = teacher(f"teacher-{seed}-{number}")
            lab = lab_of(ada, [f"Group {n + 1}" for n in range(GROUPS)], minutes=64, electrodes=PLATES)
            groups = list(lab.groups.order_by("position"))
            cells = cells_of(lab, groups, random.Random(f"{seed} {number}"))  # noqa: S311
            members = [cookies_of(as_group(g), token) for g in groups]
            port = ports[zlib.crc32(lab.id.bytes) % len(ports)] if by_class(tree) else None
            labs.append(
                {
                    "id": str(lab.id),
                    "owner": cookies_of(as_teacher(ada), token),
                    "members": members,
                    "cells": cells,
                    "port": port,
                }
            )
        before = Reading.objects.count()
        connections.close_all()
        loads = []
        for part in range(LOADS):
            plan = {"labs": labs[part::LOADS], "ports": ports, "seconds": options.seconds, "seed": seed * 10 + part}
            file = tempfile.NamedTemporaryFile("w", suffix=".json", delete=False)  # noqa: SIM115
            json.dump(plan, file)
            file.close()
            command = [sys.executable, __file__, "--load", file.name]
            loads.append((subprocess.Popen(command, stdout=subprocess.PIPE, text=True), file.name))  # noqa: S603
        for process, _ in loads:
            assert process.stdout is not None
            process.stdout.readline()
        time.sleep(SETTLE_S / 2)
        spent = -sum(cpu_s(server.pid) for server in servers)
        results = []
        for process, name in loads:
            results.append(json.loads(process.communicate()[0].strip().splitlines()[-1]))
            os.unlink(name)
        spent += sum(cpu_s(server.pid) for server in servers)
        kept = Reading.objects.count() - before
        posts = [ms for result in results for ms in result["post_ms"]]
        seen = [ms for result in results for ms in result["seen_ms"]]
        posted, fetched = sum(r["posted"] for r in results), sum(r["fetched"] for r in results)
        return (
            f"{posted:5d} {kept - posted:5d} {sum(r['refused'] for r in results):7d} {posted - len(seen):7d} "
            f"{1000 * spent / posted:8.0f} {fetched / posted:8.1f} {sum(r['bytes'] for r in results) / posted / 1000:6.0f} "
            f"{statistics.median(posts):7.0f} {p95(posts):6.0f} {statistics.median(seen):8.0f} {p95(seen):6.0f}"
        )
    finally:
        for server in servers:
            server.terminate()
            server.wait(15)


def main() -> None:
    """Set up, play in turns, print; or be one of the load's processes."""
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("--classes", type=int, default=10)
    parser.add_argument("--processes", type=int, default=1)
    parser.add_argument("--seconds", type=float, default=60.0)
    parser.add_argument("--rounds", type=int, default=2)
    parser.add_argument("--against", type=Path, default=None)
    parser.add_argument("--load", default=None)
    options = parser.parse_args()
    if options.load:
        result = asyncio.run(load(json.loads(Path(options.load).read_text(encoding="utf-8"))))
        sys.stdout.write(json.dumps(result) + "\n")
        return
    import django

    django.setup()
    from django.db import connection, connections
    from django.test.runner import DiscoverRunner

    runner = DiscoverRunner(verbosity=0, interactive=False)
    runner.setup_test_environment()
    databases = runner.setup_databases()
    try:
        to = connection.settings_dict
        database = f"postgresql://{to['USER']}:{to['PASSWORD']}@{to['HOST']}:{to['PORT']}/{to['NAME']}"
        sys.stdout.write(f"{options.classes} classes, {options.processes} processes, {options.seconds:.0f} s a round\n")
        sys.stdout.write(
            "                posted  lost refused  unseen  CPU ms  fetched     kB    post    p95  to board   p95\n"
        )
        trees = [("this", ROOT), *([("other", options.against.resolve())] if options.against else [])]
        for round in range(options.rounds):
            for at, (name, tree) in enumerate(trees if round % 2 == 0 else trees[::-1]):
                row = play(tree, options, database, 100 * round + at)
                sys.stdout.write(f"{name:6s} round {round + 1}  {row}\n")
                sys.stdout.flush()
    finally:
        connections.close_all()
        with connection.cursor() as cursor:
            cursor.execute("SET pipette.retention = 'on'")
        runner.teardown_databases(databases)


if __name__ == "__main__":
    main()
