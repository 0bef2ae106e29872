"""The certificate of the school's own authority, where it has one (PIPETTE_AUTHORITY)."""

from __future__ import annotations

from functools import cache
from pathlib import Path
from typing import TYPE_CHECKING

from django.conf import settings

if TYPE_CHECKING:
    from cryptography.x509 import Certificate


def _loaded() -> Certificate | None:
    if not settings.AUTHORITY or not Path(settings.AUTHORITY).is_file():
        return None
    from cryptography.x509 import load_pem_x509_certificate  # few installations need it, and none at the start

    return load_pem_x509_certificate(Path(settings.AUTHORITY).read_bytes())


@cache
def der() -> bytes:
    """The certificate as devices take it in; empty where there is none."""
    from cryptography.hazmat.primitives.serialization import Encoding

    found = _loaded()
    return b"" if found is None else found.public_bytes(Encoding.DER)


@cache
def fingerprint() -> str:
    """Its SHA-256 fingerprint, as people compare it; empty where there is none."""
    from cryptography.hazmat.primitives.hashes import SHA256

    found = _loaded()
    return "" if found is None else found.fingerprint(SHA256()).hex(":").upper()
