"""A long afternoon: does the server's memory stay flat?  bench/soak.py [--requests N]

Mixed requests as a class and its teacher make them (readings, benches, boards, results), refusals of many kinds with large
bodies, and streams that open and close. The first fifth warms up: what is kept fills. Target: from then on the server's
memory (resident, as the kernel tells it) grows by less than 8 MB in 20,000 requests.
"""

from __future__ import annotations

import argparse
import asyncio
import contextlib
import os
import random
import sys
import uuid
from collections import Counter
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from bench.flood import served
from bench.line import Line

REQUESTS, DEVICES, MOST_GROWTH_MB, WARM = 20_000, 24, 8.0, 0.2
LARGE = "x" * 200_000
STREAM_S = 0.4


def resident_mb(pid: int) -> float:
    """Resident memory of a process, MB."""
    for line in Path(f"/proc/{pid}/status").read_text(encoding="ascii").splitlines():
        if line.startswith("VmRSS:"):
            return int(line.split()[1]) / 1024.0
    raise RuntimeError("the server is gone")


Asked = tuple[str, str, object]


def some_request(rng: random.Random, lab: str, cells: list[tuple[str, str, str]]) -> tuple[str, Asked]:
    """What is asked next and by whom: a group or its teacher."""
    cell, red, black = rng.choice(cells)
    entry = {"id": str(uuid.UUID(int=rng.getrandbits(128), version=4)), "cell_id": cell}
    reading = entry | {"red": red, "black": black, "text": f"0.{rng.randrange(900, 999)}", "unit": "V"}
    return rng.choice(
        [
            ("group", ("GET", "/api/bench", None)),
            ("group", ("POST", "/api/bench/readings", reading)),
            ("teacher", ("GET", f"/api/labs/{lab}/board", None)),
            ("teacher", ("GET", f"/api/labs/{lab}/compare", None)),
            # refusals: nothing there, not theirs, unreadable, too long, too much, pressed too late
            ("group", ("POST", "/api/bench/readings", reading | {"cell_id": str(uuid.uuid4())})),
            ("group", ("POST", "/api/bench/readings", reading | {"text": "lots"})),
            ("group", ("POST", "/api/bench/observations", entry | {"text": LARGE})),
            ("group", ("POST", "/api/bench/packs", entry | {"load": LARGE[:100]})),
            ("group", ("POST", "/api/bench/words", entry | {"part": "question", "text": LARGE[:5000]})),
            ("teacher", ("POST", f"/api/cells/{uuid.uuid4()}/ask-again", {})),
            ("teacher", ("POST", f"/api/labs/{lab}/delete", {"title": LARGE[:190]})),
            ("teacher", ("PUT", f"/api/labs/{lab}", {"title": LARGE})),
            ("group", ("GET", f"/api/labs/{lab}/board", None)),
            ("group", ("STREAM", "/api/bench/events", None)),
        ]
    )


async def device(
    port: int, n: int, many: int, cookies: dict[str, str], lab: str, cells: list[tuple[str, str, str]], told: Counter[int]
) -> None:
    """One device's requests, one after the other."""
    rng = random.Random(n)  # noqa: S311
    lines = {who: Line(port, jar) for who, jar in cookies.items()}
    for _ in range(many):
        who, (verb, path, body) = some_request(rng, lab, cells)
        if verb == "STREAM":
            stream = Line(port, cookies[who])
            with contextlib.suppress(OSError, asyncio.IncompleteReadError, asyncio.TimeoutError):
                await stream.send("GET", path)
                status, _ = await stream.head()
                told[status] += 1
                await asyncio.sleep(STREAM_S * rng.random())
            if stream.writer:
                stream.writer.close()
            continue
        try:
            told[(await lines[who].ask(verb, path, body))[0]] += 1
        except (OSError, IndexError, asyncio.IncompleteReadError):
            lines[who] = Line(port, cookies[who])
            told[0] += 1


def main() -> None:
    """Set up, soak, print; exit 1 where memory grows."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--requests", type=int, default=REQUESTS)
    options = parser.parse_args()
    with served() as it:
        cookies = [{"group": jar, "teacher": it.desk} for jar, _ in it.members]
        told: Counter[int] = Counter()

        async def some(part: float) -> None:
            many = int(part * options.requests / DEVICES)
            await asyncio.gather(
                *(
                    device(it.port, n, many, cookies[n % len(cookies)], it.lab, it.members[n % len(cookies)][1], told)
                    for n in range(DEVICES)
                )
            )

        asyncio.run(some(WARM))
        start = resident_mb(it.pid)
        sizes = [start]
        for _ in range(4):
            asyncio.run(some((1.0 - WARM) / 4.0))
            sizes.append(resident_mb(it.pid))
        growth = (sizes[-1] - start) / (1.0 - WARM) / options.requests * REQUESTS
    sys.stdout.write(
        f"{sum(told.values())} requests ({', '.join(f'{n} × {status}' for status, n in sorted(told.items()))})\n"
        f"resident MB: {', '.join(f'{size:.1f}' for size in sizes)}; {growth:+.1f} MB in {REQUESTS} requests"
        f" (target: less than {MOST_GROWTH_MB:g})\n"
    )
    if growth > MOST_GROWTH_MB or told[500] or told[0]:
        sys.exit(1)


if __name__ == "__main__":
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.config.settings")
    main()
