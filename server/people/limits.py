"""How long the next try at a door has to wait after wrong ones: longer each time, and never for good.

Wrong tries slow down whoever makes them. A device that has its cookie answers for itself, so a phone in a class is not
slowed by another's wrong PINs, though both come from one address. A teacher's own device (one they have signed in on before)
is not slowed by what others try at the account. What is tried while waiting is not looked at and does not count.
"""

from __future__ import annotations

import time
from dataclasses import dataclass
from datetime import datetime, timedelta

from django.db.models import Count, Max, Q
from django.utils import timezone

from galvanic.words import say
from server.base.problems import Problem
from server.people.device import Device
from server.people.models import WrongTry

WINDOW = timedelta(minutes=10)
KEPT = timedelta(hours=1)
FIRST_S, MOST_S = 2.0, 60.0
DEVICE_FREE = 5  # wrong tries of one device before its first wait
OWN_DEVICE_FREE = 10
ACCOUNT_FREE = 20  # of all strangers' devices together at one teacher's name
NO_COOKIE_FREE = 60  # PINs of all at one address that have no cookie: every browser has one
CODE_STORM = 200  # wrong tries at one lab's code: somebody is guessing with ever new devices
STORM_AGE_S = 60.0  # then a device has to have been here for as long


@dataclass(frozen=True, slots=True)
class Try:
    """Who tries what: `account` is a teacher's name or a lab's code; `own`: the teacher has signed in on this device."""

    door: str
    account: str
    address: str
    device: Device
    own: bool = False


def wait_s(count: int, free: int, last: datetime | None, now: datetime) -> float:
    """Seconds still to wait after `count` wrong tries of which the first `free` cost nothing; doubles with each."""
    if count < free or last is None:
        return 0.0
    return max(0.0, min(MOST_S, FIRST_S * 2.0 ** min(count - free, 10)) - (now - last).total_seconds())


def check(what: Try) -> None:
    """Let a try go on. Raises Problem too_many_tries with the seconds to wait."""
    now = timezone.now()
    joins = what.door == WrongTry.Door.JOIN
    mine = _by(what.device, what.address) & (Q(account=what.account) if what.own else Q())
    tries = WrongTry.objects.filter(door=what.door, at__gt=now - WINDOW).aggregate(
        mine=Count("id", filter=mine),
        mine_last=Max("at", filter=mine),
        all=Count("id", filter=Q(account=what.account)),
        all_last=Max("at", filter=Q(account=what.account)),
    )
    free = OWN_DEVICE_FREE if what.own else NO_COOKIE_FREE if joins and not what.device.key else DEVICE_FREE
    longest = wait_s(tries["mine"], free, tries["mine_last"], now)
    if joins and tries["all"] >= CODE_STORM:
        longest = max(longest, what.device.since + STORM_AGE_S - time.time())
    elif not joins and not what.own:
        longest = max(longest, wait_s(tries["all"], ACCOUNT_FREE, tries["all_last"], now))
    if longest > 0.0:
        raise too_many(longest)


def _by(device: Device, address: str) -> Q:
    """The tries of a device; of all at its address that have no cookie, if it has none."""
    return Q(device=device.key) if device.key else Q(device="", address=address)


def too_many(seconds: float) -> Problem:
    """The refusal of a try that comes too early."""
    text = say(
        "Too many wrong tries. Wait {value} seconds, then try again. Nothing is locked.", value=max(1, round(seconds))
    )
    return Problem(429, "too_many_tries", text, wait_s=seconds)


def failed(what: Try) -> None:
    """Keep a wrong try; old ones go."""
    WrongTry.objects.filter(at__lt=timezone.now() - KEPT).delete()
    WrongTry.objects.create(door=what.door, account=what.account, address=what.address, device=what.device.key)


def succeeded(what: Try) -> None:
    """Forget this device's wrong tries at this account."""
    WrongTry.objects.filter(_by(what.device, what.address), door=what.door, account=what.account).delete()
