"""What a teacher's password must not be, besides short or among the usual ones."""

from __future__ import annotations

from django.contrib.auth.models import AbstractBaseUser
from django.core.exceptions import ValidationError

from galvanic.words import say

BESIDES = 8  # letters beyond the name: without them whoever knows the name tries it first


def _plain(text: str) -> str:
    return "".join(letter for letter in text.casefold() if letter.isalnum())


class NotTheName:
    """Refuses a password that is the name with a little around it."""

    def validate(self, password: str, user: AbstractBaseUser | None = None) -> None:
        """Raises ValidationError."""
        name, tried = _plain(user.get_username() if user else ""), _plain(password)
        if name and name in tried and len(tried.replace(name, "")) < BESIDES:
            raise ValidationError(say("The password is your name with a little around it. Take another one."))

    def get_help_text(self) -> str:
        """What is asked for."""
        return say("It is not your name with a little around it.")
