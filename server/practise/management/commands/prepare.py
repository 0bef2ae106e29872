"""`manage.py prepare [--demo]`: bring the database up to date, with a dump before; with --demo load the demo once.

Runs as the owner of the tables; with PIPETTE_ROLE_PASSWORD it gives the server's own role its rights.
"""

from __future__ import annotations

import os
from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandParser
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

from server.base.roles import grant
from server.labs.models import Lab
from server.practise.services import PASSWORD, TEACHER, make_demo
from server.records.backup import before_change


class Command(BaseCommand):
    """Prints how to get in."""

    help = __doc__ or ""

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--demo", action="store_true")

    def handle(self, *args: Any, demo: bool, **options: Any) -> None:
        executor = MigrationExecutor(connection)
        if executor.migration_plan(executor.loader.graph.leaf_nodes()) and (kept := before_change(settings.BACKUP_DIR)):
            self.stderr.write(f"The database changes; a dump of it as it was is kept: {kept.name}")
        call_command("migrate", verbosity=0)
        if password := os.environ.get("PIPETTE_ROLE_PASSWORD"):
            grant(password)
        if not demo:
            return
        make_demo()
        self.stdout.write(f"Teacher: {TEACHER}   password: {PASSWORD}")
        lab = Lab.objects.filter(owner__username=TEACHER, state=Lab.State.OPEN).first()
        group = lab.groups.first() if lab else None
        if lab and group:
            self.stdout.write(f"Group {group.name}: code {lab.join_code}   PIN {group.pin}")
