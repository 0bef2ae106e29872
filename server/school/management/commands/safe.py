"""`manage.py safe`: says what is not safe where others can reach this server, and fails if anything is."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError

from server.base.safe import unsafe


class Command(BaseCommand):
    """Fails with each finding on a line of its own."""

    help = __doc__ or ""

    def handle(self, *args: Any, **options: Any) -> None:
        if said := unsafe():
            raise CommandError("\n".join(said))
