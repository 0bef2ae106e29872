"""`manage.py restore FILE`: a backup in the place of this database; the old one stays beside it."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from server.records.backup import NAMED, BadBackup, restore


class Command(BaseCommand):
    """Runs as the owner of the tables."""

    help = __doc__ or ""

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)
        parser.add_argument("--demo", action="store_true", help="take a backup of the demo for this database all the same")

    def handle(self, *args: Any, file: Path, demo: bool, **options: Any) -> None:
        try:
            manifest = restore(file.absolute(), demo)
        except BadBackup as error:
            raise CommandError(str(error)) from error
        except OSError as error:
            raise CommandError(f"{file} cannot be read: {error.strerror}.") from error
        readings, pictures = manifest.rows.get("bench_reading", 0), len(manifest.sha256) - 1
        whose = NAMED.get(manifest.data, NAMED[""])
        self.stdout.write(f"Restored {whose} as of {manifest.made_at[:16]}: {readings} readings, {pictures} photographs.")
