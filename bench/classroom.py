"""A class at work: devices post readings, watchers listen and fetch. Part of `./pipette bench`.

The server runs as one process on a database of its own. 40 devices of 10 groups post; 40 watchers hold an event stream open
and fetch what they are told of: 4 boards and 36 benches. Each device posts every 60 s, twice as often as a group that takes
three readings of a cell in six minutes; `--every 20` shows a rush. Target: nothing lost, p95 under 100 ms for a post and
under 300 ms from a post to a board that shows it.  bench/classroom.py [--every SECONDS] [--seconds N]
"""

from __future__ import annotations

import argparse
import asyncio
import os
import random
import statistics
import subprocess
import sys
import time
import urllib.request
import uuid
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.config.settings")
os.environ["PIPETTE_LOG"] = "plain"
os.environ.setdefault("PIPETTE_SECRET_KEY", "only-for-this-benchmark-0123456789-0123456789")

import django

django.setup()

from django.conf import settings  # noqa: E402
from django.db import connection, connections  # noqa: E402
from django.test.runner import DiscoverRunner  # noqa: E402

from bench.line import Line, cookies_of, p95  # noqa: E402
from e2e.process import free_port  # noqa: E402
from server.entries.models import Reading  # noqa: E402
from server.labs.models import PlannedCell  # noqa: E402
from server.tests.support import as_group, as_teacher, lab_of, teacher  # noqa: E402

DEVICES, BOARDS, BENCHES, GROUPS = 40, 4, 36, 10
PLATES = ["magnesium", "aluminium", "zinc", "steel", "nickel", "tin", "copper", "graphite"]


class Room:
    """What happened: times of posts, and when each reading was first seen on a board."""

    def __init__(self) -> None:
        self.posted: dict[str, float] = {}
        self.post_ms: list[float] = []
        self.seen_ms: dict[str, float] = {}
        self.refused = 0

    async def device(
        self, line: Line, cells: list[tuple[str, str, str]], every: float, until: float, rng: random.Random
    ) -> None:
        """Post a reading about every `every` seconds."""
        await asyncio.sleep(rng.uniform(0.0, every))
        while time.perf_counter() < until:
            cell, red, black = rng.choice(cells)
            key = str(uuid.UUID(int=rng.getrandbits(128), version=4))
            text = f"{rng.uniform(0.4, 1.2):.3f}"
            body = {"id": key, "cell_id": cell, "red": red, "black": black, "text": text, "unit": "V"}
            self.posted[key] = start = time.perf_counter()
            status, _ = await line.ask("POST", "/api/bench/readings", body)
            self.post_ms.append(1000.0 * (time.perf_counter() - start))
            self.refused += status != 200
            await asyncio.sleep(rng.uniform(0.6, 1.4) * every)

    async def watcher(self, port: int, cookies: str, events: str, path: str, board: bool) -> None:
        """Listen, and fetch at every change, as a page does."""
        listening, fetching = Line(port, cookies), Line(port, cookies)
        await listening.send("GET", events)
        await listening.head()
        await fetching.ask("GET", path)  # as a page does when it opens
        while True:
            line = (await listening.reader.readline()).decode().strip()
            if line != "event: changed":
                continue
            _, body = await fetching.ask("GET", path)
            if board:
                self.look(body)

    def look(self, board: bytes) -> None:
        """Note which readings a board shows for the first time."""
        now = time.perf_counter()
        for key, start in self.posted.items():
            if key not in self.seen_ms and key.encode() in board:
                self.seen_ms[key] = 1000.0 * (now - start)


async def play(port: int, lab: object, ada: object, token: str, every: float, seconds: float) -> Room:
    """Let the class work for some seconds."""
    room = Room()
    groups = list(lab.groups.order_by("position"))  # type: ignore[attr-defined]
    cells = {g.id: [(str(c.id), c.positive, c.negative) for c in PlannedCell.objects.filter(group=g)] for g in groups}
    members = {g.id: cookies_of(as_group(g), token) for g in groups}
    owner = cookies_of(as_teacher(ada), token)  # type: ignore[arg-type]
    connections.close_all()
    watchers = [
        asyncio.create_task(
            room.watcher(port, owner, f"/api/labs/{lab.id}/events", f"/api/labs/{lab.id}/board", board=True)  # type: ignore[attr-defined]
        )
        for _ in range(BOARDS)
    ]
    watchers += [
        asyncio.create_task(
            room.watcher(port, members[groups[n % GROUPS].id], "/api/bench/events", "/api/bench", board=False)
        )
        for n in range(BENCHES)
    ]
    await asyncio.sleep(6.0)
    until = time.perf_counter() + seconds
    devices = [
        room.device(Line(port, members[g.id]), cells[g.id], every, until, random.Random(n))  # noqa: S311
        for n in range(DEVICES)
        for g in [groups[n % GROUPS]]
    ]
    await asyncio.gather(*devices)
    await asyncio.sleep(2.0)
    for task in watchers:
        task.cancel()
    await asyncio.gather(*watchers, return_exceptions=True)
    return room


def main() -> None:
    """Set up, play, print."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--every", type=float, default=60.0, help="seconds between two readings of one device")
    parser.add_argument("--seconds", type=float, default=60.0)
    options = parser.parse_args()
    runner = DiscoverRunner(verbosity=0, interactive=False)
    runner.setup_test_environment()
    databases = runner.setup_databases()
    process = None
    try:
        os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"
        ada = teacher("ada")
        lab = lab_of(ada, [f"Group {n + 1}" for n in range(GROUPS)], minutes=64, electrodes=PLATES)
        to, port = connection.settings_dict, free_port()
        database = f"postgresql://{to['USER']}:{to['PASSWORD']}@{to['HOST']}:{to['PORT']}/{to['NAME']}"
        process = subprocess.Popen(  # noqa: S603
            [sys.executable, "-m", "uvicorn", "server.config.asgi:application", "--port", str(port), "--lifespan", "off",
             "--log-level", "critical", "--no-access-log", "--timeout-graceful-shutdown", "1"],
            env={**os.environ, "DATABASE_URL": database, "PIPETTE_SECRET_KEY": settings.SECRET_KEY},
            stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
        )  # fmt: skip
        for _ in range(300):
            try:
                with urllib.request.urlopen(f"http://127.0.0.1:{port}/join", timeout=5) as answer:
                    cookies = "; ".join(answer.headers.get_all("Set-Cookie", []))
                    token = cookies.partition("csrftoken=")[2].partition(";")[0]
                break
            except OSError:
                time.sleep(0.1)
        room = asyncio.run(play(port, lab, ada, token, options.every, options.seconds))
        kept = Reading.objects.count()
        seen = list(room.seen_ms.values())
        sys.stdout.write(
            f"{len(room.posted)} readings by {DEVICES} devices in {options.seconds:.0f} s, {BOARDS + BENCHES} watching: "
            f"{kept} kept, {room.refused} refused, {len(seen)} seen on a board\n"
            f"post           median {statistics.median(room.post_ms):6.1f} ms   p95 {p95(room.post_ms):6.1f} ms\n"
            f"post to board  median {statistics.median(seen):6.1f} ms   p95 {p95(seen):6.1f} ms\n"
        )
    finally:
        if process is not None:
            process.terminate()
            process.wait(10)
        connections.close_all()
        with connection.cursor() as cursor:
            cursor.execute("SET pipette.retention = 'on'")
        runner.teardown_databases(databases)


if __name__ == "__main__":
    main()
