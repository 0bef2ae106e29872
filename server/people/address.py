"""The address a request comes from, trusting X-Forwarded-For only as far as our own proxies reach."""

from __future__ import annotations

import ipaddress

from django.conf import settings
from django.http import HttpRequest


def client_address(request: HttpRequest) -> str:
    """The client's address; with `PIPETTE_TRUSTED_PROXIES=n`, the n-th from the right of X-Forwarded-For."""
    hop = _forwarded(request)
    return hop if hop and _is_address(hop) else str(request.META.get("REMOTE_ADDR") or "0.0.0.0")  # noqa: S104


def believed(request: HttpRequest) -> bool:
    """Whether what our own proxies say of the client can be so; what others say is not looked at."""
    if not settings.TRUSTED_PROXIES:
        return True
    hop, scheme = _forwarded(request), request.META.get("HTTP_X_FORWARDED_PROTO", "")
    return (not hop or _is_address(hop)) and scheme in ("", "http", "https")


def _forwarded(request: HttpRequest) -> str:
    proxies: int = settings.TRUSTED_PROXIES
    hops = [hop.strip() for hop in request.META.get("HTTP_X_FORWARDED_FOR", "").split(",") if hop.strip()]
    return hops[-proxies] if proxies and len(hops) >= proxies else ""


def _is_address(text: str) -> bool:
    try:
        ipaddress.ip_address(text)
    except ValueError:
        return False
    return True


def site_address(request: HttpRequest) -> str:
    """What devices open: as the start says (PIPETTE_ADDRESS), or as this browser has it."""
    return settings.ADDRESS or request.build_absolute_uri("/").rstrip("/")
