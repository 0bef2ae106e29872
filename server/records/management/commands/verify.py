"""`manage.py verify [PACKAGE.zip …] [--head N-HEAD]`: are labs' histories what packages and notebooks say they were?"""

from __future__ import annotations

import csv
import io
from pathlib import Path
from typing import Any
from uuid import UUID

from django.core.management.base import BaseCommand, CommandError, CommandParser

from server.labs.models import Lab
from server.records.history import MOST_SAID, SHOWN, broken_at, deeds_of, difference, entries_of, head_at, head_of
from server.records.package.opened import Opened, opened


class Command(BaseCommand):
    """Reads only. Ends with 1 where something differs."""

    help = __doc__ or ""

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("packages", nargs="*", type=Path, help="packages of labs, as they were given out")
        parser.add_argument("--head", default="", help="as it stands on a notebook: 214-3f9a12cc04b1")

    def handle(self, *args: Any, packages: list[Path], head: str, **options: Any) -> None:
        if head:
            self._head(head)
        elif packages:
            failed = [file.name for file in packages if not self._package(file)]
            if failed:
                raise CommandError(f"Not as it was given out: {', '.join(failed)}.")
        else:
            lines = []
            for lab in Lab.objects.order_by("created_at"):
                entries, deeds = head_of(entries_of(lab)), head_of(deeds_of(lab))
                lines.append(f"{entries.shown}\t{deeds.shown}\t{lab.date}\t{lab.title}")
            self.stdout.write("\n".join(lines))

    def _head(self, text: str) -> None:
        """Find the lab whose chain of entries had this head."""
        n, _, letters = text.partition("-")
        if not n.isdigit() or len(letters) < SHOWN:
            raise CommandError(f"{text}: a head is written as on a notebook, for example 214-3f9a12cc04b1.")
        for lab in Lab.objects.order_by("created_at"):
            steps = entries_of(lab)
            at = head_at(steps, int(n))
            if at is not None and at.startswith(letters.lower()):
                since = len(steps) - int(n)
                self.stdout.write(f"{lab.title}, {lab.date}: its first {n} entries are as they were; {since} came since.")
                return
        raise CommandError("No lab here has that history: entries were changed or are gone, or it is from elsewhere.")

    def _package(self, file: Path) -> bool:
        """Lay a package's history beside the lab's; whether all is as it was."""
        try:
            with file.open("rb") as content:
                package = opened(content, file.stat().st_size)
                kept = {name: _rows(package, name) for name in ("history", "deeds_history")}
                about = package.described["pipette"].get("history") or {}
        except OSError as error:
            raise CommandError(f"{file} cannot be read: {error.strerror}.") from error
        if not about:
            raise CommandError(f"{file.name} holds no history: it is a group's own part, or older than these.")
        lab = Lab.objects.filter(id=UUID(str(about["lab"]))).first()
        whole = True
        for name, rows in kept.items():
            if (row := broken_at(rows)) is not None:
                self.stdout.write(f"{file.name}: {name} in it was changed from row {row} on.")
                whole = False
        if lab is None:
            self.stdout.write(f"{file.name}: the lab is not here (any more).")
            return False
        for name, steps in (("history", entries_of(lab)), ("deeds_history", deeds_of(lab))):
            found = difference(kept[name], steps)
            whole = whole and found.whole
            for what, those in (("gone", found.gone), ("changed", found.changed), ("put in among the old", found.put_in)):
                for one in those[:MOST_SAID]:
                    self.stdout.write(f"{file.name}: {what}: {one}")
                if len(those) > MOST_SAID:
                    self.stdout.write(f"{file.name}: {what}: {len(those) - MOST_SAID} more")
            if found.whole:
                what = "entries" if name == "history" else "deeds"
                self.stdout.write(f"{lab.title}: {len(kept[name])} {what} as they were, {found.since} since.")
        return whole


def _rows(package: Opened, name: str) -> list[dict[str, str]]:
    if not package.has(f"{name}.csv"):
        return []
    text = package.zipped.read(f"{name}.csv").decode()
    return list(csv.DictReader(io.StringIO(text)))
