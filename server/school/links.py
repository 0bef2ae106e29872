"""Letting somebody in once: the first teacher by a code from the terminal, colleagues and new passwords by a link."""

from __future__ import annotations

import hashlib
import secrets
import uuid
from datetime import timedelta

from django.contrib.auth import login
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import IntegrityError, transaction
from django.http import HttpRequest
from django.utils import timezone

from galvanic.words import mark, say
from server.base import mail
from server.base.problems import Problem, Refusal, not_found
from server.people import second, signing
from server.people.deeds import keep_deed
from server.people.models import Teacher
from server.people.services import tell_rights
from server.school.models import Link

LASTS = {
    Link.Kind.FIRST: timedelta(days=1),
    Link.Kind.INVITE: timedelta(days=7),
    Link.Kind.RESET: timedelta(days=1),
    Link.Kind.MAIL: timedelta(hours=1),
}
MOST_OPEN = 100
OVER = Refusal(404, "link_over", mark("This link was used, withdrawn, or is too old. Ask for a new one."), passing=False)
ONLY_HEAD = Refusal(
    403, "only_head", mark("Only the head of the school’s accounts can do that. Nothing was changed."), passing=False
)


def need_head(actor: Teacher) -> None:
    """Raises Problem only_head."""
    if not actor.is_head:
        raise ONLY_HEAD()


def _made(kind: Link.Kind, secret: str, **what: object) -> Link:
    return Link.objects.create(kind=kind, token_hash=_hash(secret), ends_at=timezone.now() + LASTS[kind], **what)


def _hash(secret: str) -> str:
    return hashlib.sha256(secret.strip().casefold().replace("-", "").replace(" ", "").encode()).hexdigest()


def _secret() -> str:
    """128 random bits, in small letters and digits: a link is not changed by what forgives capitals."""
    return secrets.token_hex(16)


@transaction.atomic
def first_code() -> str | None:
    """A new code for the terminal that makes the first teacher, or None where there is one; an earlier code is over."""
    if Teacher.objects.exists():
        return None
    Link.objects.filter(kind=Link.Kind.FIRST).delete()
    code = "-".join(secrets.token_hex(2) for _ in range(4))
    _made(Link.Kind.FIRST, code)
    return code


@transaction.atomic
def begin_school(*, request: HttpRequest, code: str, username: str, password: str) -> Teacher:
    """Make the school's first teacher, who heads its accounts, and sign them in.

    Raises Problem: not_first, wrong_code, name, or weak_password; then nothing is made and the code still counts.
    """
    if Teacher.objects.exists():
        raise Problem(
            409, "not_first", say("This school has its first account. Sign in, or ask its head for an invitation.")
        )
    link = Link.objects.open().select_for_update().filter(kind=Link.Kind.FIRST, token_hash=_hash(code)).first()
    if link is None:
        raise Problem(
            404, "wrong_code", say("That is not the code in the terminal. A new start makes a new one."), field="code"
        )
    teacher = _new_teacher(username, password, is_head=True)
    _use(link)
    _sign_in(request, teacher, "began_school")
    return teacher


def _new_teacher(username: str, password: str, is_head: bool = False) -> Teacher:
    name = " ".join(username.split())
    if not name:
        raise Problem(422, "name", say("Type the name you will sign in with."), field="username")
    if Teacher.objects.filter(username__iexact=name).exists():
        raise _taken(name)
    teacher = Teacher(username=name, is_head=is_head)
    _set_password(teacher, password, "password")
    try:
        teacher.save()
    except IntegrityError as error:
        raise _taken(name) from error
    return teacher


def _taken(name: str) -> Problem:
    return Problem(
        409, "name_taken", say("There is a teacher {name} already. Take another name.", name=name), field="username"
    )


def _set_password(teacher: Teacher, password: str, field: str) -> None:
    try:
        validate_password(password, teacher)
    except ValidationError as error:
        raise Problem(422, "weak_password", " ".join(error.messages), field=field) from error
    teacher.set_password(password)


def _use(link: Link) -> None:
    link.used_at = timezone.now()
    link.save(update_fields=["used_at"])


def _sign_in(request: HttpRequest, teacher: Teacher, deed: str) -> None:
    login(request, teacher, "django.contrib.auth.backends.ModelBackend")
    signing.keep(request, teacher)
    keep_deed(teacher, deed)


@transaction.atomic
def invite(*, actor: Teacher, name: str) -> str:
    """A link's secret that lets one colleague make an account within seven days. Raises Problem: only_head, too_many."""
    need_head(actor)
    if Link.objects.open().count() >= MOST_OPEN:
        raise Problem(409, "too_many", say("{most_open} links are open. Withdraw some first.", most_open=MOST_OPEN))
    secret, tidy = _secret(), " ".join(name.split())[:80]
    _made(Link.Kind.INVITE, secret, name=tidy, made_by=actor)
    keep_deed(actor, "invited", about=tidy)
    return secret


@transaction.atomic
def reset_link(*, actor: Teacher, teacher_id: int) -> str:
    """A link's secret with which a colleague sets a new password within a day; their second step is off by it.

    For who has asked the head in person. Raises Problem: only_head, or not_found.
    """
    need_head(actor)
    colleague = Teacher.objects.colleagues_of(actor).filter(id=teacher_id).first()
    if colleague is None:
        raise not_found("colleague")
    secret = _secret()
    Link.objects.open().filter(kind=Link.Kind.RESET, teacher=colleague).delete()
    _made(Link.Kind.RESET, secret, name=colleague.username, teacher=colleague, made_by=actor)
    keep_deed(actor, "reset_link", about=colleague.username)
    return secret


@transaction.atomic
def end_link(*, actor: Teacher, link_id: uuid.UUID) -> None:
    """Withdraw an open link. Raises Problem: only_head, or not_found."""
    need_head(actor)
    link = Link.objects.visible_to(actor).open().filter(id=link_id).first()
    if link is None:
        raise not_found("link")
    keep_deed(actor, "ended_link", about=link.name)
    link.delete()


def open_links(actor: Teacher) -> list[Link]:
    """Links that still let somebody in, for the head."""
    return list(Link.objects.visible_to(actor).open().select_related("made_by")[:MOST_OPEN])


def looked_at(secret: str) -> Link:
    """The open link of a secret. Raises Problem link_over."""
    links = Link.objects.open().exclude(kind=Link.Kind.FIRST).select_related("made_by", "teacher")
    link = links.filter(token_hash=_hash(secret)).first()
    if link is None or (link.teacher is not None and not link.teacher.is_active):
        raise OVER()
    return link


@transaction.atomic
def use_link(*, request: HttpRequest, secret: str, username: str, password: str) -> Teacher:
    """Make a colleague's account, or set a teacher's new password, and sign them in; all their other browsers are out.

    Raises Problem: link_over, name, name_taken, or weak_password; then the link still counts.
    """
    link = looked_at(secret)
    if not Link.objects.open().select_for_update().filter(id=link.id).exists():
        raise OVER()
    if link.teacher is None:
        teacher = _new_teacher(username, password)
        _use(link)
        _sign_in(request, teacher, "joined_school")
        return teacher
    teacher = link.teacher
    _set_password(teacher, password, "password")
    teacher.deleted_at = None
    teacher.save(update_fields=["password", "deleted_at"])
    signing.end_others(request, teacher)
    if link.kind == Link.Kind.RESET:
        second.end(teacher)
    _use(link)
    keep_deed(teacher, "reset_password")
    if not second.is_on(teacher):
        _sign_in(request, teacher, "signed_in")
    tell_rights()
    return teacher


def forgotten(*, username: str, base: str) -> None:
    """Send a link for a new password to the teacher's address, if there are both; nothing tells whether there are.

    `base` is the address of this site. Raises Problem no_mail where the server sends none.
    """
    if not mail.can_send():
        raise Problem(
            409, "no_mail", say("This server sends no mail. The head of your school’s accounts can make you a link.")
        )
    name = " ".join(username.split())
    teacher = Teacher.objects.here().filter(username__iexact=name).exclude(email="").first()
    if teacher is None:
        return
    lately = Link.objects.filter(kind=Link.Kind.MAIL, teacher=teacher, made_at__gt=timezone.now() - timedelta(minutes=5))
    if lately.exists():
        return
    secret = _secret()
    with transaction.atomic():
        _made(Link.Kind.MAIL, secret, name=teacher.username, teacher=teacher)
        keep_deed(teacher, "asked_mail")
    mail.send(
        teacher.email,
        say("A new password for Pipette"),
        say(
            "Somebody, we hope you, asked for a new password for {username}.\n\nOpen this within an hour: "
            "{base}/link#{secret}\n\nIf it was not you, leave it: nothing has changed.",
            username=teacher.username,
            base=base,
            secret=secret,
        ),
    )
