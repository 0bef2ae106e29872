"""How people are sent."""

from __future__ import annotations

from django.http import HttpRequest
from django_otp.plugins.otp_totp.models import TOTPDevice

from galvanic.words import say
from server.base import mail
from server.base.square_code import qr_path
from server.people import second
from server.people.auth import is_here
from server.people.deeds import DEEDS
from server.people.lookups import nobody_yet
from server.people.models import Deed, Teacher
from server.people.schemas import AccountOut, DeedOut, SecondOut, WhoAmI


def who_out(request: HttpRequest, group: str | None) -> WhoAmI:
    """Who this browser is."""
    teacher = request.user.get_username() if is_here(request.user) else None
    return WhoAmI(teacher=teacher, group=group, first=teacher is None and group is None and nobody_yet())


def account_out(teacher: Teacher) -> AccountOut:
    """A teacher's account."""
    return AccountOut(
        name=teacher.username,
        email=teacher.email,
        head=teacher.is_head,
        second=second.is_on(teacher),
        recovery=second.recovery_left(teacher),
        mail=mail.can_send(),
    )


def second_out(device: TOTPDevice) -> SecondOut:
    """What an app for codes needs."""
    path, size = qr_path(device.config_url)
    return SecondOut(secret=second.secret_of(device), address=device.config_url, qr_path=path, qr_size=size)


def deed_out(deed: Deed) -> DeedOut:
    """What was done."""
    return DeedOut(
        at=deed.at, who=deed.teacher.username, what=say(DEEDS[deed.what]), lab=deed.lab, title=deed.title, about=deed.about
    )
