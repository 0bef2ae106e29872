"""Signing in."""

from __future__ import annotations

import uuid

from django.contrib.auth import authenticate, login, logout, update_session_auth_hash
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.validators import validate_email
from django.db.models import F, Q
from django.http import HttpRequest
from django.utils import timezone
from django_otp.plugins.otp_totp.models import TOTPDevice

from galvanic.words import mark, say
from server.base.live import RIGHTS, notify
from server.base.problems import Problem, Refusal, not_found
from server.people import limits, second, signing
from server.people.address import client_address
from server.people.deeds import keep_deed
from server.people.device import device_of
from server.people.models import Group, Teacher, WrongTry

WRONG_PASSWORD = Refusal(
    401, "wrong_password", mark("That name and password do not go together."), field="password", passing=False
)

LAST_HEAD = Refusal(409, "last_head", mark("A school needs a head of its accounts. Name another one first, under “School”."))


def sign_in(*, request: HttpRequest, username: str, password: str, code: str = "") -> Teacher:
    """Open a teacher's session.

    Raises Problem: wrong_password, code_asked or wrong_code where the account has a second step, or too_many_tries with the
    seconds to wait.
    """
    device, name = device_of(request), " ".join(username.split())
    alike = list(Teacher.objects.filter(username__iexact=name).values_list("id", "username")[:2])
    known, name = alike[0] if len(alike) == 1 else (None, name)  # capitals matter only where two names differ by them
    what = limits.Try(WrongTry.Door.SIGN_IN, name.casefold(), client_address(request), device, own=known in device.teachers)
    limits.check(what)
    user = authenticate(request, username=name, password=password)
    if not isinstance(user, Teacher):
        limits.failed(what)
        raise WRONG_PASSWORD()
    if second.is_on(user):
        if not code.strip():
            raise second.CODE_ASKED()
        if not second.passes(user, code):
            limits.failed(what)
            raise second.WRONG_CODE()
    limits.succeeded(what)
    if user.deleted_at is not None:
        user.deleted_at = None
        user.save(update_fields=["deleted_at"])
        keep_deed(user, "undeleted_account")
    login(request, user)
    signing.keep(request, user)
    keep_deed(user, "signed_in")
    return user


def choose_language(*, request: HttpRequest, language: str) -> None:
    """Keep with the account of who is signed in, if anybody is, in which language they read."""
    if isinstance(request.user, Teacher):
        request.user.language = language
        request.user.save(update_fields=["language"])


def change_password(*, request: HttpRequest, actor: Teacher, old: str, new: str) -> None:
    """Give the teacher another password; this browser stays signed in, all others are signed out.

    Raises Problem: wrong_password, too_many_tries, or weak_password with the reason; then nothing is changed.
    """
    _check_password(request, actor, old)
    try:
        validate_password(new, actor)
    except ValidationError as error:
        raise Problem(422, "weak_password", " ".join(error.messages), field="new") from error
    actor.set_password(new)
    actor.save(update_fields=["password"])
    signing.end_others(request, actor)
    update_session_auth_hash(request, actor)
    signing.keep(request, actor)
    keep_deed(actor, "new_password")
    tell_rights()


def _check_password(request: HttpRequest, actor: Teacher, password: str) -> None:
    """Raises Problem: wrong_password, or too_many_tries."""
    what = limits.Try(
        WrongTry.Door.SIGN_IN, actor.username.casefold(), client_address(request), device_of(request), own=True
    )
    limits.check(what)
    if not actor.check_password(password):
        limits.failed(what)
        raise WRONG_PASSWORD()


def begin_second(*, request: HttpRequest, actor: Teacher, password: str) -> TOTPDevice:
    """A new secret for an app that shows codes. Raises Problem: wrong_password, too_many_tries, or second_on."""
    _check_password(request, actor, password)
    return second.begin(actor)


def end_second(*, request: HttpRequest, actor: Teacher, password: str) -> None:
    """Turn the second step of signing in off. Raises Problem: wrong_password, or too_many_tries."""
    _check_password(request, actor, password)
    second.end(actor)


def set_email(*, request: HttpRequest, actor: Teacher, email: str, password: str) -> None:
    """Keep an address for mail, or none. Raises Problem: wrong_password, too_many_tries, or bad_email."""
    _check_password(request, actor, password)
    tidy = email.strip()
    if tidy:
        try:
            validate_email(tidy)
        except ValidationError as error:
            raise Problem(
                422, "bad_email", say("That is no address for mail, for example name@school.org."), field="email"
            ) from error
    if actor.email != tidy:
        actor.email = tidy
        actor.save(update_fields=["email"])
        keep_deed(actor, "new_email")


def delete_account(*, request: HttpRequest, actor: Teacher, password: str) -> None:
    """Mark a teacher's account as deleted and end all its sessions; it goes for good 30 days later, with its labs.

    Signing in before then takes it back. Raises Problem: wrong_password, too_many_tries, or last_head where the school would
    be left without a head of its accounts.
    """
    _check_password(request, actor, password)
    others = Teacher.objects.colleagues_of(actor)
    if actor.is_head and others.exists() and not others.filter(is_head=True).exists():
        raise LAST_HEAD()
    actor.deleted_at = timezone.now()
    actor.save(update_fields=["deleted_at"])
    keep_deed(actor, "deleted_account")
    sign_out(request=request)


def sign_out(*, request: HttpRequest) -> None:
    """End the teacher's session; streams of it end too."""
    if isinstance(request.user, Teacher):
        keep_deed(request.user, "signed_out")
    logout(request)
    tell_rights()


def end_sign_in(*, actor: Teacher, sign_in_id: uuid.UUID) -> None:
    """Sign the teacher out in one browser. Raises Problem not_found."""
    if not signing.end(actor, sign_in_id):
        raise not_found("sign-in")
    keep_deed(actor, "ended_sign_in")
    tell_rights()


def tell_rights(lab_id: object = "-", group_id: object = "-") -> None:
    """Have open streams (of a lab's group, or all) look again whether they may still run."""
    notify(f"{lab_id} {group_id} {RIGHTS}")


def count_change(lab_id: uuid.UUID, group_id: uuid.UUID | None) -> None:
    """Count a change of a group, or of all groups of a lab."""
    changed = Group.objects.filter(lab_id=lab_id) if group_id is None else Group.objects.filter(lab_id=lab_id, id=group_id)
    changed.update(changes=F("changes") + 1)


def teacher_named(username: str | None) -> Teacher:
    """The teacher of that name; without a name, the only teacher there is. Raises Problem, naming those there are."""
    active = Teacher.objects.filter(is_active=True)
    teachers = list(active.filter(Q(username=username)) if username else active[:2])
    if len(teachers) == 1:
        return teachers[0]
    names = ", ".join(active.order_by("username").values_list("username", flat=True)[:10]) or say("none yet")
    raise Problem(
        404, "no_teacher", say("Say which teacher the lab belongs to. Teachers: {names}.", names=names), field="teacher"
    )
