"""The application keeps the label its tables and migrations were made under."""

from __future__ import annotations

from django.apps import AppConfig


class EntriesConfig(AppConfig):
    """What groups record."""

    name = "server.entries"
    label = "bench"
