"""Records listens for labs that are opened: earlier classes then say what they foretell."""

from __future__ import annotations

from django.apps import AppConfig


class RecordsConfig(AppConfig):
    """What stays of labs."""

    name = "server.records"

    def ready(self) -> None:
        """Connect what is done when a lab opens."""
        from server.labs.opening import opened
        from server.records.years import foretell

        opened.connect(foretell, dispatch_uid="foretell")
