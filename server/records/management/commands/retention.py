"""`manage.py retention`: remove for good what was deleted 30 days ago, and what is over: photographs, notes, sessions."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from server.records.retention import purge


class Command(BaseCommand):
    """Runs as the owner of the tables; prints what was removed."""

    help = __doc__ or ""

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--even-so", action="store_true", help="erase also where unusually much is over at once")

    def handle(self, *args: Any, **options: Any) -> None:
        purged = purge(even_so=options["even_so"])
        self.stdout.write(
            f"Removed for good: {purged.labs} labs, {purged.teachers} accounts, {purged.photographs} photographs, "
            f"{purged.notes} notes, words on request in {purged.words} places, "
            f"{purged.sessions} sessions, {purged.tries} wrong tries."
        )
        if purged.held:
            raise CommandError(
                f"{purged.held} deleted labs are over and were not erased: that is unusually much for one run. Ask whether "
                "their teachers meant it (Your labs, Deleted), then run it again with --even-so."
            )
