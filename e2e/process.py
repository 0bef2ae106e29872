"""The server as a process of its own, so that a test can let it crash."""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Mapping
from pathlib import Path

from django.db import connection

from e2e.live import BrowserTestCase
from server.base.roles import grant

SECRET = "kept-over-the-crash-and-only-for-this-test-0123456789"


def free_port() -> int:
    """A free loopback port."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


class ProcessTestCase(BrowserTestCase):
    """As BrowserTestCase, with the server in a process that can be killed and started again."""

    @classmethod
    def start_server(cls, port: int = 0) -> None:
        """Start the server on the test's database; `port` 0 takes a free one."""
        cls.process, cls.port = cls.start_process(port or free_port(), {})
        cls.url = f"http://127.0.0.1:{cls.port}"

    @classmethod
    def start_process(
        cls, port: int, settings: Mapping[str, str], says: Path = Path(os.devnull)
    ) -> tuple[subprocess.Popen[bytes], int]:
        """A process of the server on a port, with these settings besides the usual; waits until it answers. What it says,
        each request among it, goes to the file `says`."""
        to = connection.settings_dict
        role = f"{to['NAME']}_server"  # the server has no more rights here than in use
        grant(SECRET, role)
        database = f"postgresql://{role}:{SECRET}@{to['HOST']}:{to['PORT']}/{to['NAME']}"
        command = [sys.executable, "-m", "uvicorn", "server.config.asgi:application", "--port", str(port)]
        said = says.open("ab")
        cls.addClassCleanup(said.close)
        process = subprocess.Popen(  # noqa: S603
            [*command, "--lifespan", "off", "--log-level", "critical", "--no-proxy-headers"],
            env={**os.environ, "DATABASE_URL": database, "PIPETTE_SECRET_KEY": SECRET, "PIPETTE_LOG": "plain", **settings},
            cwd=Path(__file__).resolve().parents[1],
            stdout=subprocess.DEVNULL,
            stderr=said,
        )
        cls.addClassCleanup(cls.stop, process)
        end = time.monotonic() + 90  # a loaded machine takes its time
        while True:
            try:
                urllib.request.urlopen(f"http://127.0.0.1:{port}/api/health", timeout=2).close()
                return process, port
            except OSError:
                if process.poll() is not None or time.monotonic() > end:
                    raise RuntimeError("the server did not start") from None
                time.sleep(0.1)

    @classmethod
    def crash(cls) -> None:
        """Kill the server as it stands: no goodbye, no clean-up."""
        cls.process.send_signal(signal.SIGKILL)
        cls.process.wait(10)

    @staticmethod
    def stop(process: subprocess.Popen[bytes]) -> None:
        """Stop a process of the server; stopping twice is fine."""
        if process.poll() is None:
            process.terminate()
            try:
                process.wait(10)
            except subprocess.TimeoutExpired:
                process.kill()
                process.wait(10)

    @classmethod
    def stop_server(cls) -> None:
        """Stop the server."""
        cls.stop(cls.process)
