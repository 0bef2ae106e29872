"""`manage.py first_code`: the code with which the first teacher is made in a browser; nothing where there is one."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from server.school.links import first_code


class Command(BaseCommand):
    """Prints the code alone, so that the start can put it into a sentence."""

    help = __doc__ or ""

    def handle(self, *args: Any, **options: Any) -> None:
        code = first_code()
        if code is not None:
            self.stdout.write(code)
