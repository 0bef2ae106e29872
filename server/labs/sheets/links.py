"""The address that a device opens, as it can be reached from outside."""

from __future__ import annotations

from urllib.parse import urlsplit

from django.http import HttpRequest

from server.base.square_code import qr_path
from server.labs.sheets.schemas import JoinLink
from server.people.address import site_address


def link_to(request: HttpRequest, page: str, code: str | None) -> JoinLink:
    """What a device opens with a code, and a square to scan; and whether any other computer can open it."""
    base = site_address(request)
    address = f"{base}/{page}?code={code or ''}"
    path, size = qr_path(address)
    host = urlsplit(base).hostname or ""
    here_only = host == "localhost" or host.startswith("127.") or host == "::1"
    return JoinLink(
        address=address, shown=f"{base.partition('://')[2]}/{page}", qr_path=path, qr_size=size, here_only=here_only
    )
