"""The proxy as it is deployed (deploy/nginx/pipette.conf), on loopback, in front of processes of the server."""

from __future__ import annotations

import re
import shutil
import socket
import subprocess
import tempfile
import time
from collections.abc import Sequence
from pathlib import Path

CONFIGURATION = Path(__file__).resolve().parents[1] / "deploy" / "nginx" / "pipette.conf"


def configured(folder: Path, ports: Sequence[int], plain: int, secure: int, certificates: Path) -> str:
    """A whole configuration of nginx from the site that is shipped, with these ports and paths in the place of its own."""
    site = CONFIGURATION.read_text(encoding="utf-8")
    servers = "".join(f"    server 127.0.0.1:{port} max_fails=1 fail_timeout=2s;\n" for port in ports)
    site = re.sub(r"(    server unix:[^\n]*\n)+", servers, site)
    site = site.replace("listen 80;", f"listen 127.0.0.1:{plain};").replace("listen 443 ", f"listen 127.0.0.1:{secure} ")
    site = site.replace("/etc/pipette/certificate.pem", str(certificates / "server.pem"))
    site = site.replace("/etc/pipette/certificate-key.pem", str(certificates / "server-key.pem"))
    site = site.replace("/var/log/nginx/", f"{folder}/")
    paths = "".join(f"{kind}_temp_path {folder}/{kind};\n" for kind in ("client_body", "proxy", "fastcgi", "uwsgi", "scgi"))
    return (
        f"worker_processes 1;\npid {folder}/pid;\nerror_log {folder}/error.log;\n"
        f"events {{ worker_connections 4096; }}\nhttp {{\n{paths}{site}\n}}\n"
    )


class Proxy:
    """nginx as a process of its own; `stop` ends it and removes its folder."""

    def __init__(self, ports: Sequence[int], plain: int, secure: int, certificates: Path) -> None:
        program = shutil.which("nginx", path="/usr/sbin:/usr/bin:/sbin:/bin")
        if program is None:
            raise RuntimeError("nginx is not installed; ./pipette test installs it.")
        self.folder = Path(tempfile.mkdtemp(prefix="pipette-proxy-"))
        (self.folder / "nginx.conf").write_text(
            configured(self.folder, ports, plain, secure, certificates), encoding="utf-8"
        )
        command = [program, "-p", str(self.folder), "-c", str(self.folder / "nginx.conf"), "-g", "daemon off;"]
        self.process = subprocess.Popen(command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)  # noqa: S603

        end = time.monotonic() + 10
        while True:
            try:
                socket.create_connection(("127.0.0.1", secure), 1).close()
                return
            except OSError:
                if self.process.poll() is not None or time.monotonic() > end:
                    said = (self.folder / "error.log").read_text() if (self.folder / "error.log").exists() else ""
                    raise RuntimeError(f"the proxy did not start: {said}") from None
                time.sleep(0.05)

    def stop(self) -> None:
        """End it."""
        self.process.terminate()
        self.process.wait(10)
        shutil.rmtree(self.folder, ignore_errors=True)
