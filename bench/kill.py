"""Nothing lost: 8 groups with 2 devices each post 3,200 readings while server and database are killed again and again.

A database cluster of its own that waits for the disk, as in use. The server runs as the role it has in use and is started
again when it ends, as `./pipette serve` does. A device sends its entries in order, each until it is acknowledged, as the
page's outbox does. Then every reading must be there once, as typed, and in each device's order.  bench/kill.py [--each N]
"""

from __future__ import annotations

import argparse
import http.client
import json
import os
import random
import signal
import subprocess
import sys
import tempfile
import threading
import time
import uuid
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))
GROUPS, DEVICES_EACH, EVERY_KILL_S = 8, 2, 3.0
PLATES = ["magnesium", "aluminium", "zinc", "steel", "nickel", "tin", "copper", "graphite"]
TOKEN = "f" * 32
PASSWORD = uuid.uuid4().hex


class Cluster:
    """PostgreSQL in a folder of its own."""

    def __init__(self, folder: str) -> None:
        self.folder = Path(folder)
        self.env = {**os.environ, "PG_RUN_DIR": str(self.folder)}
        self.env.pop("PG_FAST", None)
        self.start()

    def start(self) -> None:
        """Start it, or start it again after a kill."""
        subprocess.run([ROOT / "tools/local-postgres", "start"], env=self.env, check=True, capture_output=True)  # noqa: S603

    def url(self, user: str = "", password: str = "") -> str:
        """Its address for the owner, or for another role."""
        kept = dict(line.split("=", 1) for line in (self.folder / "env").read_text().split())
        who = f"{user or kept['PGUSER']}:{password or kept['PGPASSWORD']}"
        return f"postgresql://{who}@{kept['PGHOST']}:{kept['PGPORT']}/pipette_kill"

    def kill(self) -> None:
        """End the postmaster as a crash does."""
        os.kill(int((self.folder / "data/postmaster.pid").read_text().split()[0]), signal.SIGKILL)


class Device:
    """One device: its entries in order, each until it is acknowledged."""

    def __init__(self, port: int, cookies: str, cells: list[tuple[str, str, str]], seed: int, entries: int) -> None:
        self.port, self.cookies, rng = port, cookies, random.Random(seed)  # noqa: S311
        self.entries = [
            {"id": str(uuid.UUID(int=rng.getrandbits(128), version=4)), "cell_id": cell, "red": red, "black": black,
             "text": f"{rng.uniform(0.1, 2.0):.3f}", "unit": "V"}
            for cell, red, black in (cells[k % len(cells)] for k in range(entries))
        ]  # fmt: skip
        self.tries = 0

    def run(self) -> None:
        """Send everything."""
        for entry in self.entries:
            while not self.sent(entry):
                time.sleep(0.2)

    def sent(self, entry: dict[str, str]) -> bool:
        """Whether the server has acknowledged an entry."""
        self.tries += 1
        line = http.client.HTTPConnection("127.0.0.1", self.port, timeout=5)
        try:
            headers = {"Cookie": self.cookies, "X-CSRFToken": TOKEN, "Content-Type": "application/json"}
            line.request("POST", "/api/bench/readings", json.dumps(entry), headers)
            answer = line.getresponse()
            answer.read()
        except (OSError, http.client.HTTPException):
            return False
        finally:
            line.close()
        if answer.status not in (200, 408, 429) and answer.status < 500:
            raise RuntimeError(f"refused with {answer.status}")
        return answer.status == 200


class Server:
    """The server, started again whenever it ends, as `./pipette serve` does."""

    def __init__(self, port: int, url: str, secret: str) -> None:
        self.command = [
            sys.executable, "-m", "uvicorn", "server.config.asgi:application", "--port", str(port), "--lifespan", "off",
            "--log-level", "critical", "--no-access-log", "--no-proxy-headers",
        ]  # fmt: skip
        self.env = {**os.environ, "DATABASE_URL": url, "PIPETTE_SECRET_KEY": secret}
        self.over, self.starts = False, 0
        self.process: subprocess.Popen[bytes]
        self.start()
        threading.Thread(target=self.keep, daemon=True).start()

    def start(self) -> None:
        """Start it."""
        self.starts += 1
        self.process = subprocess.Popen(  # noqa: S603
            self.command, env=self.env, cwd=ROOT, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
        )

    def keep(self) -> None:
        """Start it again when it ends."""
        while not self.over:
            self.process.wait()
            if not self.over:
                self.start()

    def stop(self) -> None:
        """End it for good."""
        self.over = True
        self.process.terminate()
        self.process.wait(10)


def main() -> None:
    """Set up, kill, count."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--each", type=int, default=200, help="readings a device")
    options = parser.parse_args()
    base = "/var/tmp" if os.geteuid() == 0 else None  # noqa: S108  (where root's postgres user can reach it)
    folder = tempfile.mkdtemp(prefix="pipette-kill-", dir=base)
    os.chmod(folder, 0o755)  # noqa: S103
    cluster = Cluster(str(Path(folder) / "cluster"))
    server = None
    try:
        server = _play(cluster, options.each)
    finally:
        if server is not None:
            server.stop()
        subprocess.run([ROOT / "tools/local-postgres", "destroy"], env=cluster.env, check=False, capture_output=True)  # noqa: S603
        Path(folder).rmdir()


def _play(cluster: Cluster, each: int) -> Server:
    subprocess.run(  # noqa: S603
        [ROOT / "tools/local-postgres", "psql", "-Xqc", "CREATE DATABASE pipette_kill"], env=cluster.env, check=True
    )
    os.environ |= {"DATABASE_URL": cluster.url(), "PIPETTE_SECRET_KEY": uuid.uuid4().hex * 2, "PIPETTE_LOG": "plain"}
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.config.settings")
    import django

    django.setup()
    from django.core.management import call_command
    from django.db import connections

    from bench.line import cookies_of
    from e2e.process import free_port
    from server.base.roles import ROLE, grant
    from server.entries.models import Reading
    from server.labs.models import PlannedCell
    from server.tests.support import as_group, lab_of, teacher

    call_command("migrate", verbosity=0)
    grant(PASSWORD)
    lab = lab_of(teacher("ada"), [f"Group {n + 1}" for n in range(GROUPS)], minutes=90, electrodes=PLATES)
    port, devices = free_port(), []
    for group in lab.groups.all():
        cells = [(str(c.id), c.positive, c.negative) for c in PlannedCell.objects.filter(group=group).order_by("position")]
        for half in range(DEVICES_EACH):
            own = cells[half::DEVICES_EACH]
            devices.append(Device(port, cookies_of(as_group(group), TOKEN), own, len(devices), each))
    server = Server(port, cluster.url(ROLE, PASSWORD), os.environ["PIPETTE_SECRET_KEY"])
    threads = [threading.Thread(target=device.run) for device in devices]
    start, kills = time.monotonic(), {"server": 0, "database": 0}
    for thread in threads:
        thread.start()
    while any(thread.is_alive() for thread in threads):
        time.sleep(EVERY_KILL_S)
        if not any(thread.is_alive() for thread in threads):
            break
        if kills["server"] <= kills["database"]:
            server.process.kill()
            kills["server"] += 1
        else:
            cluster.kill()
            time.sleep(0.5)
            cluster.start()
            kills["database"] += 1
    took = time.monotonic() - start
    connections.close_all()  # ours were killed too
    kept = {str(one.id): one for one in Reading.objects.all()}
    typed = [entry for device in devices for entry in device.entries]
    lost = [entry for entry in typed if entry["id"] not in kept]
    wrong = [entry for entry in typed if entry["id"] in kept and kept[entry["id"]].text != entry["text"]]
    disorder = 0
    for device in devices:
        times = [kept[entry["id"]].received_at for entry in device.entries if entry["id"] in kept]
        disorder += sum(b < a for a, b in zip(times, times[1:], strict=False))
    sys.stdout.write(
        f"{len(typed)} readings by {len(devices)} devices of {GROUPS} groups in {took:.0f} s; server killed "
        f"{kills['server']} times, database {kills['database']} times; {sum(one.tries for one in devices)} sendings\n"
        f"kept {len(kept)}, lost {len(lost)}, doubled {len(kept) - len(typed) + len(lost)}, changed {len(wrong)}, "
        f"out of order {disorder}: {'holds' if not (lost or wrong or disorder or len(kept) != len(typed)) else 'MISSED'}\n"
    )
    return server


if __name__ == "__main__":
    main()
