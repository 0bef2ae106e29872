"""`manage.py add_teacher NAME`: make a teacher's account, or give it a new password."""

from __future__ import annotations

import getpass
import secrets
import sys
from typing import Any

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import connection

from server.base.incoming import clean
from server.people.models import Teacher


class Command(BaseCommand):
    """Asks for a password on a terminal; otherwise, or on an empty answer, makes one and prints it once."""

    help = __doc__ or ""

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("name")
        parser.add_argument("--new-password", action="store_true", help="give a teacher who is there a new password")

    def handle(self, *args: Any, name: str, **options: Any) -> None:
        if not clean(name).strip() or len(name) > 150:
            raise CommandError("A teacher's name has 1 to 150 letters.")
        typed = getpass.getpass("Password (empty: make one): ") if sys.stdin.isatty() else ""
        password = typed or secrets.token_urlsafe(12)
        try:
            validate_password(password, Teacher(username=name))
        except ValidationError as error:
            raise CommandError(" ".join(error.messages)) from error
        name = " ".join(clean(name).split())
        teacher = Teacher.objects.filter(username__iexact=name).first() or Teacher(username=name)
        if teacher.pk is not None and not options["new_password"]:
            raise CommandError(f"There is a teacher {teacher.username} already. For a new password add --new-password.")
        teacher.is_head = teacher.is_head or not Teacher.objects.exists()
        teacher.set_password(password)
        teacher.save()
        self.stdout.write(f"In the data {connection.settings_dict['NAME']}:")
        self.stdout.write(f"Teacher {teacher.username} can sign in." + ("" if typed else f" Password: {password}"))
