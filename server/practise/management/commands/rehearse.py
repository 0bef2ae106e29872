"""`manage.py rehearse LAB`: play a copy of a lab through the running server, with faults, to watch its board."""

from __future__ import annotations

from typing import Any
from urllib.error import URLError

from django.core.management.base import BaseCommand, CommandError, CommandParser

from server.base.problems import Problem
from server.materials.own import materials_of
from server.practise.rehearsal import find_lab, play, prepare


class Command(BaseCommand):
    """LAB is a title, a join code or an id. The lab itself is not touched: a copy marked simulated is played."""

    help = __doc__ or ""

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("lab")
        parser.add_argument("--url", default="http://127.0.0.1:8321", help="the running server")
        parser.add_argument("--speed", type=float, default=20.0, help="minutes of the lab in one minute; default 20")
        parser.add_argument("--seed", type=int, default=1, help="another number is another class")

    def handle(self, *args: Any, lab: str, url: str, speed: float, seed: int, **options: Any) -> None:
        if not 0.1 <= speed <= 10_000:
            raise CommandError("The speed lies between 0.1 and 10000.")
        try:
            original = find_lab(lab)
            with materials_of(original.owner):
                made = prepare(actor=original.owner, lab=original)
                self.stdout.write(f"Watch it at {url}/labs/{made.lab_id}/board")
                self.stdout.flush()
                kept, refused = play(made, url.rstrip("/"), seed, speed, self._say)
        except Problem as problem:
            raise CommandError(problem.message) from problem
        except URLError as error:
            raise CommandError(f"The server at {url} does not answer: {error.reason}.") from error
        self.stdout.write(f"Played: {kept} readings kept, {refused} refused.")

    def _say(self, text: str) -> None:
        self.stdout.write(text)
        self.stdout.flush()
