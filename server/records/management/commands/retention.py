"""`manage.py retention`: remove for good what was deleted 30 days ago, and what is over: photographs, notes, sessions."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from server.records.retention import purge


class Command(BaseCommand):
    """Runs as the owner of the tables; prints what was removed."""

    help = __doc__ or ""

    def handle(self, *args: Any, **options: Any) -> None:
        purged = purge()
        self.stdout.write(
            f"Removed for good: {purged.labs} labs, {purged.teachers} accounts, {purged.photographs} photographs, "
            f"{purged.notes} notes, words on request in {purged.words} places, "
            f"{purged.sessions} sessions, {purged.tries} wrong tries."
        )
