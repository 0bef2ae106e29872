"""`manage.py prepare [--demo]`: bring the database up to date; with --demo load the demo class once."""

from __future__ import annotations

from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandParser

from server.demo.services import PASSWORD, TEACHER, make_demo
from server.labs.models import Lab
from server.people.models import Teacher


class Command(BaseCommand):
    """Prints how to get in."""

    help = __doc__ or ""

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--demo", action="store_true")

    def handle(self, *args: Any, demo: bool, **options: Any) -> None:
        call_command("migrate", verbosity=0)
        if not demo:
            if not Teacher.objects.exists():
                self.stdout.write("There is no teacher yet: ./pipette add-teacher NAME")
            return
        make_demo()
        self.stdout.write(f"Teacher: {TEACHER}   password: {PASSWORD}")
        lab = Lab.objects.filter(owner__username=TEACHER, state=Lab.State.OPEN).first()
        group = lab.groups.first() if lab else None
        if lab and group:
            self.stdout.write(f"Group {group.name}: code {lab.join_code}   PIN {group.pin}")
