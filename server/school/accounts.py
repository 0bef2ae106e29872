"""What the head of the school's accounts decides: who heads them too, who may sign in, whose cupboard is the school's."""

from __future__ import annotations

from django.contrib.sessions.models import Session
from django.db import transaction

from galvanic.words import say
from server.base.problems import Problem, not_found
from server.materials.models import SchoolCupboard
from server.people.deeds import keep_deed
from server.people.models import SignedIn, Teacher
from server.people.services import LAST_HEAD, tell_rights
from server.school.links import need_head

MOST_TEACHERS = 500


def teachers() -> list[Teacher]:
    """The school's teachers, ended accounts too, without those who deleted theirs."""
    return list(Teacher.objects.filter(deleted_at__isnull=True).order_by("username")[:MOST_TEACHERS])


def _colleague(actor: Teacher, teacher_id: int) -> Teacher:
    need_head(actor)
    row = Teacher.objects.select_for_update().filter(id=teacher_id, deleted_at__isnull=True).first()
    if row is None:
        raise not_found("colleague")
    return row


@transaction.atomic
def set_head(*, actor: Teacher, teacher_id: int, head: bool) -> None:
    """Let a teacher head the school's accounts, or no more. Raises Problem: only_head, not_found, or last_head."""
    teacher = _colleague(actor, teacher_id)
    others = Teacher.objects.here().filter(is_head=True).exclude(id=teacher.id)
    if not head and not others.exists():
        raise LAST_HEAD()
    if teacher.is_head != head:
        teacher.is_head = head
        teacher.save(update_fields=["is_head"])
        keep_deed(actor, "made_head" if head else "no_head", about=teacher.username)


@transaction.atomic
def set_active(*, actor: Teacher, teacher_id: int, active: bool) -> None:
    """End a colleague's account, with all their sign-ins, or let them in again; labs and readings stay.

    Raises Problem: only_head, not_found, or own_account.
    """
    teacher = _colleague(actor, teacher_id)
    if teacher.id == actor.id:
        raise Problem(409, "own_account", say("Your own account you can delete under “Your account”."))
    if teacher.is_active == active:
        return
    teacher.is_active = active
    teacher.is_head = teacher.is_head and active
    teacher.save(update_fields=["is_active", "is_head"])
    if not active:
        keys = list(SignedIn.objects.filter(teacher=teacher).values_list("session_key", flat=True))
        Session.objects.filter(session_key__in=keys).delete()
        SignedIn.objects.filter(teacher=teacher).delete()
        tell_rights()
    keep_deed(actor, "restored_account" if active else "ended_account", about=teacher.username)


@transaction.atomic
def set_cupboard(*, actor: Teacher, teacher_id: int | None) -> None:
    """Choose whose cupboard is the school's, or that everybody has their own. Raises Problem: only_head, or not_found."""
    need_head(actor)
    teacher = None if teacher_id is None else _colleague(actor, teacher_id)
    if cupboard_of() == teacher_id:
        return
    SchoolCupboard.objects.all().delete()
    if teacher is not None:
        SchoolCupboard.objects.create(owner=teacher)
    keep_deed(
        actor,
        "cupboard",
        about=say("everybody’s own") if teacher is None else say("that of {username}", username=teacher.username),
    )


def cupboard_of() -> int | None:
    """Whose cupboard is the school's, if somebody's is."""
    return SchoolCupboard.objects.values_list("owner_id", flat=True).first()
