"""How people are sent."""

from __future__ import annotations

from django.http import HttpRequest

from server.people.auth import is_here
from server.people.schemas import WhoAmI


def who_out(request: HttpRequest, group: str | None) -> WhoAmI:
    """Who this browser is."""
    return WhoAmI(teacher=request.user.get_username() if is_here(request.user) else None, group=group)
