"""What must not be on a server that others can reach, each with what to do."""

from __future__ import annotations

import os
import stat
from pathlib import Path

from django.conf import settings

KNOWN_KEYS = ("secret", "changeme", "change-me", "insecure", "django-insecure", "password", "test", "key")
LEAST_KEY = 32


def unsafe() -> list[str]:
    """Settings and files that are not safe where others reach the server; empty where all is well."""
    said = []
    key = os.environ.get("PIPETTE_SECRET_KEY", "")
    if settings.DEBUG:
        said.append("PIPETTE_DEBUG is on: errors would show parts of the program and its data. Take it out.")
    if not key:
        said.append("PIPETTE_SECRET_KEY is missing: everybody would be signed out at each start. Set a long random one.")
    elif len(key) < LEAST_KEY or any(key.casefold().startswith(known) for known in KNOWN_KEYS):
        said.append(f"PIPETTE_SECRET_KEY can be guessed: it needs {LEAST_KEY} random letters or more.")
    if "*" in settings.ALLOWED_HOSTS:
        said.append("PIPETTE_ALLOWED_HOSTS is *: name the addresses devices open instead.")
    said += [
        f"Others on this computer can read {path}: run chmod -R go-rwx {path}"
        for path in (settings.PHOTO_DIR, settings.BACKUP_DIR, settings.BASE_DIR / ".run" / "secret-key")
        if open_to_others(path)
    ]
    return said


def open_to_others(path: Path) -> bool:
    """Whether users of this computer other than the owner and root can read what is at a path that exists."""
    return path.exists() and bool(stat.S_IMODE(path.stat().st_mode) & (stat.S_IRWXG | stat.S_IRWXO))
