"""The browsers in which a teacher is signed in: kept, listed, ended."""

from __future__ import annotations

import uuid

from django.contrib.sessions.models import Session
from django.http import HttpRequest
from django.utils import timezone

from server.people.models import SignedIn, Teacher

BROWSERS = (("Edg", "Edge"), ("OPR", "Opera"), ("Firefox", "Firefox"), ("Chrome", "Chrome"), ("Safari", "Safari"))
SYSTEMS = (
    ("Windows", "Windows"), ("Android", "Android"), ("iPhone", "an iPhone"), ("iPad", "an iPad"), ("Mac OS", "a Mac"),
    ("CrOS", "a Chromebook"), ("Linux", "Linux"),
)  # fmt: skip


def browser_of(agent: str) -> str:
    """What a browser calls itself, in a few words: “Firefox on Windows”."""
    browser = next((name for mark, name in BROWSERS if mark in agent), "A browser")
    system = next((name for mark, name in SYSTEMS if mark in agent), "")
    return f"{browser} on {system}" if system else browser


def keep(request: HttpRequest, teacher: Teacher) -> None:
    """Keep that the teacher is signed in in this browser now."""
    key = request.session.session_key
    if key is not None:
        browser = browser_of(request.headers.get("User-Agent", ""))
        SignedIn.objects.update_or_create(session_key=key, defaults={"teacher": teacher, "browser": browser})


def alive(teacher: Teacher) -> list[SignedIn]:
    """Those that are still signed in, the newest first; two queries."""
    rows = list(SignedIn.objects.visible_to(teacher))
    keys = [row.session_key for row in rows]
    there = Session.objects.filter(session_key__in=keys, expire_date__gt=timezone.now())
    known = set(there.values_list("session_key", flat=True))
    return [row for row in rows if row.session_key in known]


def end(teacher: Teacher, sign_in_id: uuid.UUID) -> bool:
    """End one; whether there was one."""
    row = SignedIn.objects.visible_to(teacher).filter(id=sign_in_id).first()
    if row is None:
        return False
    Session.objects.filter(session_key=row.session_key).delete()
    row.delete()
    return True


def end_others(request: HttpRequest, teacher: Teacher) -> None:
    """End all of them; this browser's is kept anew by its caller."""
    rows = SignedIn.objects.visible_to(teacher)
    others = rows.exclude(session_key=request.session.session_key)
    Session.objects.filter(session_key__in=list(others.values_list("session_key", flat=True))).delete()
    rows.delete()
