"""`manage.py import_readings FILE.csv`: make a lab from a class's own table."""

from __future__ import annotations

from datetime import date
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from server.base.problems import Problem
from server.entries.models import Reading
from server.people.services import teacher_named
from server.records.file_text import decode
from server.records.services import import_readings


class Command(BaseCommand):
    """Columns: group, red, black, electrolyte, volts as typed. Bad rows are named; nothing is half imported."""

    help = __doc__ or ""

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)
        parser.add_argument("--teacher", help="whose lab it becomes; needed only if there are several teachers")
        parser.add_argument("--title", help="default: the file's name")
        parser.add_argument("--date", type=date.fromisoformat, default=None, help="YYYY-MM-DD; default: today")

    def handle(self, *args: Any, file: Path, teacher: str | None, title: str | None, **options: Any) -> None:
        try:
            data = file.read_bytes()
        except OSError as error:
            raise CommandError(f"{file} cannot be read: {error.strerror}. Nothing was imported.") from error
        try:
            brought = import_readings(
                actor=teacher_named(teacher),
                text=decode(data),
                title=title or file.stem.replace("_", " ").replace("-", " "),
                on=options["date"] or date.today(),
            )
        except Problem as problem:
            rows = "".join(f"\n  line {row.line}: {row.message}" for row in problem.rows)
            raise CommandError(f"{problem.message}{rows}") from problem
        lab = brought.lab
        if brought.unused:
            self.stderr.write(f"Not understood and not used: the columns {', '.join(brought.unused)}.")
        for sentence in brought.left_out:
            self.stderr.write(sentence)
        count = Reading.objects.filter(cell__group__lab=lab).count()
        self.stdout.write(f"Imported {count} readings of {lab.groups.count()} groups as “{lab.title}”.")
        self.stdout.write(f"/labs/{lab.id}/compare")
