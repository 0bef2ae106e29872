"""`manage.py backup FILE`: database and photographs into one file, read back after writing."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from server.records.backup import NAMED, BadBackup, backup


class Command(BaseCommand):
    """Runs as the owner of the tables."""

    help = __doc__ or ""

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: Any, file: Path, **options: Any) -> None:
        try:
            manifest = backup(file.absolute())
        except BadBackup as error:
            raise CommandError(str(error)) from error
        except OSError as error:
            raise CommandError(f"{file} cannot be written: {error.strerror}.") from error
        readings, pictures = manifest.rows.get("bench_reading", 0), len(manifest.sha256) - 1
        self.stdout.write(
            f"{file.name}, {NAMED[manifest.data]}: {readings} readings, {pictures} photographs; read back and whole."
        )
        if manifest.missing:
            self.stdout.write(f"{len(manifest.missing)} photographs have no file any more; their rows are in the backup.")
