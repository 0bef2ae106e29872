"""A flood at the doors: how long a reading takes while 200 connections try to sign in, or to join.

Forty devices post readings, one each in eight seconds (a class in a rush); the same again while 200 connections send wrong
passwords as fast as they are answered, half of them with ever new devices' cookies; and again with wrong PINs. All in one
run on one server. Target: p95 of a reading at most three times what it is without the flood.  bench/flood.py [--seconds N]
"""

from __future__ import annotations

import argparse
import asyncio
import contextlib
import os
import random
import statistics
import subprocess
import sys
import time
import urllib.request
import uuid
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))
from django.conf import settings
from django.db import connection, connections
from django.test.runner import DiscoverRunner

from bench.classes import GROUPS, PLATES
from bench.line import Line, cookies_of, p95
from e2e.process import SECRET, free_port
from server.base.roles import grant
from server.labs.models import PlannedCell
from server.tests.support import as_group, as_teacher, lab_of, teacher

DEVICES, FLOODERS, EVERY_S, MOST_RATIO = 40, 200, 8.0, 3.0
TOKEN = "f" * 32


async def post_readings(port: int, members: list[tuple[str, list[tuple[str, str, str]]]], seconds: float) -> list[float]:
    """Milliseconds of every reading that was posted."""
    took: list[float] = []

    async def device(n: int) -> None:
        cookies, cells = members[n % len(members)]
        line, rng, until = Line(port, cookies), random.Random(n), time.perf_counter() + seconds  # noqa: S311
        await asyncio.sleep(rng.uniform(0.0, EVERY_S))
        while time.perf_counter() < until:
            cell, red, black = rng.choice(cells)
            body = {"id": str(uuid.uuid4()), "cell_id": cell, "red": red, "black": black, "text": "0.94", "unit": "V"}
            start = time.perf_counter()
            await line.ask("POST", "/api/bench/readings", body)
            took.append(1000.0 * (time.perf_counter() - start))
            await asyncio.sleep(rng.uniform(0.6, 1.4) * EVERY_S)

    await asyncio.gather(*(device(n) for n in range(DEVICES)))
    return took


async def flooder(port: int, n: int, path: str, body: dict[str, str], count: list[int]) -> None:
    """Try for ever; every second one comes as a new device each time."""
    while True:
        cookies = f"csrftoken={TOKEN}"
        with contextlib.suppress(OSError, IndexError, asyncio.IncompleteReadError, KeyError):
            if n % 2:
                page = Line(port, "")
                await page.send("GET", "/join")
                _, headers = await page.head()
                device = headers.get("set-cookie", "")
                cookies += "; " + device.partition(";")[0] if device.startswith("pipette_device") else ""
                if page.writer:
                    page.writer.close()
            line = Line(port, cookies)
            for _ in range(6):
                await line.ask("POST", path, body)
                count[0] += 1
            if line.writer:
                line.writer.close()


async def play(port: int, members: list[tuple[str, list[tuple[str, str, str]]]], seconds: float, code: str) -> bool:
    """Without a flood, with one of each kind; returns whether the target holds."""
    await post_readings(port, members, 4.0)
    quiet = await post_readings(port, members, seconds)
    sys.stdout.write(f"quiet            median {statistics.median(quiet):6.1f} ms   p95 {p95(quiet):6.1f} ms\n")
    holds = True
    for name, path, body in (
        ("signing in", "/api/sign-in", {"username": "ada", "password": "guess"}),
        ("joining", "/api/join", {"code": code, "pin": "0000"}),
    ):
        tries = [0]
        flood = [asyncio.create_task(flooder(port, n, path, body, tries)) for n in range(FLOODERS)]
        await asyncio.sleep(2.0)
        took = await post_readings(port, members, seconds)
        for task in flood:
            task.cancel()
        await asyncio.gather(*flood, return_exceptions=True)
        ratio = p95(took) / p95(quiet)
        holds &= ratio <= MOST_RATIO
        sys.stdout.write(
            f"{FLOODERS} {name:<12} median {statistics.median(took):6.1f} ms   p95 {p95(took):6.1f} ms   {ratio:.1f} times; "
            f"{tries[0] / (seconds + 2.0):.0f} tries a second\n"
        )
        await asyncio.sleep(3.0)
    return holds


@dataclass(frozen=True)
class Served:
    """A server in a process of its own: its port and process, a lab, each group's cookies and cells, and its teacher's."""

    port: int
    pid: int
    lab: str
    code: str
    members: list[tuple[str, list[tuple[str, str, str]]]]
    desk: str


@contextlib.contextmanager
def served() -> Iterator[Served]:
    """A lab of many groups on a database of its own, and a server for it, as the server's own role; both gone afterwards."""
    runner = DiscoverRunner(verbosity=0, interactive=False)
    runner.setup_test_environment()
    databases = runner.setup_databases()
    process = None
    try:
        os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"
        settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.ScryptPasswordHasher"]
        ada = teacher("ada")
        lab = lab_of(ada, [f"Group {n + 1}" for n in range(GROUPS)], minutes=64, electrodes=PLATES)
        members = [
            (
                cookies_of(as_group(group), TOKEN),
                [(str(c.id), c.positive, c.negative) for c in PlannedCell.objects.filter(group=group)],
            )
            for group in lab.groups.all()
        ]
        desk = cookies_of(as_teacher(ada), TOKEN)
        to, port, role = connection.settings_dict, free_port(), "pipette_bench_server"
        grant(SECRET, role)
        connections.close_all()
        process = subprocess.Popen(  # noqa: S603
            [sys.executable, "-m", "uvicorn", "server.config.asgi:application", "--port", str(port), "--lifespan", "off",
             "--log-level", "critical", "--no-access-log", "--timeout-graceful-shutdown", "1"],
            env={
                **os.environ,
                "DATABASE_URL": f"postgresql://{role}:{SECRET}@{to['HOST']}:{to['PORT']}/{to['NAME']}",
                "PIPETTE_SECRET_KEY": settings.SECRET_KEY,
            },
            stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
        )  # fmt: skip
        for _ in range(300):
            with contextlib.suppress(OSError):
                urllib.request.urlopen(f"http://127.0.0.1:{port}/api/who", timeout=5).close()
                break
            time.sleep(0.1)
        yield Served(port, process.pid, str(lab.id), lab.join_code or "", members, desk)
    finally:
        if process is not None:
            process.terminate()
            process.wait(10)
        connections.close_all()
        with connection.cursor() as cursor:
            cursor.execute("SET pipette.retention = 'on'")
        runner.teardown_databases(databases)


def main() -> None:
    """Set up, play, print."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--seconds", type=float, default=15.0)
    options = parser.parse_args()
    with served() as it:
        holds = asyncio.run(play(it.port, it.members, options.seconds, it.code))
        sys.stdout.write(f"target (at most {MOST_RATIO:.0f} times): {'holds' if holds else 'MISSED'}\n")


if __name__ == "__main__":
    main()
