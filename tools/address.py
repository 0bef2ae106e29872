"""This computer's addresses on its networks, and one of them as a code that phones read. Used by tools/serve.sh.

`address.py list`: one IPv4 address a line, loopback left out. `address.py code TEXT`: a square code for the terminal.
"""

from __future__ import annotations

import ipaddress
import subprocess
import sys


def addresses() -> list[str]:
    """IPv4 addresses of this computer's networks, as the system names them."""
    listed = subprocess.run(["hostname", "-I"], capture_output=True, text=True, check=False).stdout.split()
    usable = []
    for text in listed:
        try:
            address = ipaddress.ip_address(text)
        except ValueError:
            continue
        if address.version == 4 and not address.is_loopback and not address.is_link_local:
            usable.append(text)
    return usable


def main() -> None:
    """List, or draw."""
    if sys.argv[1:2] == ["code"]:
        import segno

        segno.make(sys.argv[2], error="m", micro=False).terminal(compact=True)
    else:
        sys.stdout.write("".join(f"{address}\n" for address in addresses()))


if __name__ == "__main__":
    main()
