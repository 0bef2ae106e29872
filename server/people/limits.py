"""How long the next try at a door has to wait after wrong ones: longer each time, and never for good.

Wrong tries slow down whoever makes them. A device that has its cookie answers for itself, so a phone in a class is not
slowed by another's wrong PINs, though both come from one address. All strangers together have one budget at a teacher's name
and one at a lab's code: fresh devices do not refill it. Devices that were let in there before are not slowed by strangers;
at a code they have a budget of their own together, since whoever may join can make ever new ones. What is tried while
waiting is not looked at and does not count.
"""

from __future__ import annotations

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
NO_COOKIE_FREE = 30  # PINs of all at one address that have no cookie: every browser has one
CODE_FREE = 40  # wrong PINs of all strangers' devices together at one lab's code in an hour: a class that mistypes every one
CODE_MOST_S = 300.0  # then one try now and then: at four digits and eight groups it takes a day to find one by guessing
CODE_TOLD = 20  # from then on the teacher is told, and again after as many
ANSWERS_FREE = 1500  # of all devices behind one address to one question or homework in an hour
DEVICES_FREE = 120  # that are new to it: what a school sends at once


@dataclass(frozen=True, slots=True)
class Try:
    """Who tries what: `account` is a teacher's name or a lab's code; `own`: this device was let in there before."""

    door: str
    account: str
    address: str
    device: Device
    own: bool = False


def wait_s(count: int, free: int, last: datetime | None, now: datetime, most_s: float = MOST_S) -> float:
    """Seconds still to wait after `count` wrong tries of which the first `free` cost nothing; doubles with each."""
    if count < free or last is None:
        return 0.0
    return max(0.0, min(most_s, FIRST_S * 2.0 ** min(count - free, 10)) - (now - last).total_seconds())


def check(what: Try) -> None:
    """Let a try go on. Raises Problem too_many_tries with the seconds to wait."""
    now = timezone.now()
    joins = what.door == WrongTry.Door.JOIN
    mine = _by(what.device, what.address) & (Q(account=what.account) if what.own else Q())
    mine &= Q(at__gt=now - WINDOW)
    here = Q(account=what.account, own=what.own, at__gt=now - (KEPT if joins else WINDOW))
    tries = WrongTry.objects.filter(door=what.door, at__gt=now - KEPT).aggregate(
        mine=Count("id", filter=mine),
        mine_last=Max("at", filter=mine),
        all=Count("id", filter=here),
        all_last=Max("at", filter=here),
    )
    free = OWN_DEVICE_FREE if what.own else NO_COOKIE_FREE if joins and not what.device.key else DEVICE_FREE
    longest = wait_s(tries["mine"], free, tries["mine_last"], now)
    if joins or not what.own:
        free, most_s = (CODE_FREE, CODE_MOST_S) if joins else (ACCOUNT_FREE, MOST_S)
        longest = max(longest, wait_s(tries["all"], free, tries["all_last"], now, most_s))
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
    _keep(what.door, what.account, what.address, what.device.key, what.own)


def wrong_pins(code: str) -> int:
    """Wrong PINs at a lab's code within the last hour."""
    return WrongTry.objects.filter(door=WrongTry.Door.JOIN, account=code, at__gt=timezone.now() - KEPT).count()


def guessed_pins(code: str) -> int:
    """Those of the last hour where there are so many that somebody may be guessing, else 0."""
    wrong = wrong_pins(code)
    return wrong if wrong >= CODE_TOLD else 0


def room_for_answer(code: str, address: str, device: str) -> None:
    """Count an answer of a device that has no name, to what a class opens by a code: made-up devices behind one address do
    not fill it. Raises Problem too_many_tries with the seconds to wait."""
    now = timezone.now()
    answers = WrongTry.objects.filter(door=WrongTry.Door.ANSWER, account=code, address=address, at__gt=now - KEPT)
    seen = answers.aggregate(
        all=Count("id"), devices=Count("device", distinct=True), known=Count("id", filter=Q(device=device)), last=Max("at")
    )
    count = max(seen["all"] - ANSWERS_FREE, -1 if seen["known"] else seen["devices"] - DEVICES_FREE)
    longest = wait_s(count, 0, seen["last"], now, CODE_MOST_S)
    if longest > 0.0:
        text = say(
            "Very many answers came from this connection. Wait {value} seconds, then send it again.",
            value=max(1, round(longest)),
        )
        raise Problem(429, "too_many_tries", text, wait_s=longest)
    _keep(WrongTry.Door.ANSWER, code, address, device)


def _keep(door: str, account: str, address: str, device: str, own: bool = False) -> None:
    WrongTry.objects.filter(at__lt=timezone.now() - KEPT).delete()
    WrongTry.objects.create(door=door, account=account, address=address, device=device, own=own)


def succeeded(what: Try) -> None:
    """Forget this device's wrong tries at this account."""
    WrongTry.objects.filter(_by(what.device, what.address), door=what.door, account=what.account).delete()
