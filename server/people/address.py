"""The address a request comes from, trusting X-Forwarded-For only as far as our own proxies reach."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest


def client_address(request: HttpRequest) -> str:
    """The client's address; with `PIPETTE_TRUSTED_PROXIES=n`, the n-th from the right of X-Forwarded-For."""
    proxies: int = settings.TRUSTED_PROXIES
    hops = [hop.strip() for hop in request.META.get("HTTP_X_FORWARDED_FOR", "").split(",") if hop.strip()]
    if proxies and len(hops) >= proxies:
        return str(hops[-proxies])
    return str(request.META.get("REMOTE_ADDR") or "0.0.0.0")  # noqa: S104
