"""Who is there: teachers with accounts, groups without; their devices' sessions, wrong tries, and what teachers did."""

from __future__ import annotations

import uuid
from datetime import timedelta
from typing import ClassVar

from django.contrib.auth.models import AbstractUser, UserManager
from django.db import models
from django.utils import timezone

SESSION = timedelta(hours=12)


def of_teacher(actor: Teacher, lab: str = "", work: bool = False) -> models.Q:
    """What is in a teacher's own labs and in those shared with them (`work`: shared to work in), not in deleted ones.

    `lab` is the way to the lab in the model that is asked for, for example `cell__group__lab`; empty for the lab itself.
    """
    shares = Share.objects.filter(teacher=actor, **({"work": True} if work else {})).values("lab")
    way = f"{lab}__" if lab else ""
    theirs = models.Q(**{f"{way}owner": actor}) | models.Q(**{f"{lab or 'pk'}__in": shares})
    return theirs & models.Q(**{f"{way}deleted_at__isnull": True})


class GroupQuerySet(models.QuerySet["Group"]):
    """Groups."""

    def visible_to(self, actor: Teacher) -> GroupQuerySet:
        """A teacher sees the groups of their labs and of those shared with them."""
        return self.filter(of_teacher(actor, "lab"))

    def changed_by(self, actor: Teacher) -> GroupQuerySet:
        """Those of labs in which the teacher may work."""
        return self.filter(of_teacher(actor, "lab", work=True))


class GroupSessionQuerySet(models.QuerySet["GroupSession"]):
    """Devices that have joined."""

    def alive(self) -> GroupSessionQuerySet:
        """Those that have neither left nor grown old."""
        return self.filter(ended_at__isnull=True, joined_at__gt=timezone.now() - SESSION)

    def end(self) -> int:
        """End them now."""
        return self.filter(ended_at__isnull=True).update(ended_at=timezone.now())


class DeedQuerySet(models.QuerySet["Deed"]):
    """What teachers did."""

    def visible_to(self, actor: Teacher) -> DeedQuerySet:
        """A teacher sees their own, and what colleagues did in labs that are theirs."""
        return self.filter(models.Q(teacher=actor) | models.Q(lab__in=actor.labs.values("id")))

    def of_school(self, actor: Teacher) -> DeedQuerySet:
        """The head of the school's accounts sees what was done with accounts, whoever did it; others see nothing."""
        return self.filter(lab__isnull=True) if actor.is_head else self.none()


class TeacherManager(UserManager["Teacher"]):
    """A school's teachers."""

    def here(self) -> models.QuerySet[Teacher]:
        """Those who may sign in."""
        return self.filter(is_active=True, deleted_at__isnull=True)

    def colleagues_of(self, actor: Teacher) -> models.QuerySet[Teacher]:
        """The others of the school who may sign in."""
        return self.here().exclude(id=actor.id)


class Teacher(AbstractUser):
    """A teacher signs in with a name and a password. `deleted_at`: wants to be forgotten; gone for good 30 days later.
    `forgotten`: gone, but for what it did in a colleague's lab.

    `is_head`: keeps the school's accounts (invites, resets, ends them) and sees what was done in the school. `language`: the
    code of the one they chose; empty for their browser's.
    """

    is_head = models.BooleanField(default=False)
    deleted_at = models.DateTimeField(null=True, blank=True)
    forgotten = models.BooleanField(default=False, db_default=False)
    language = models.CharField(max_length=5, blank=True, default="", db_default="")

    objects: ClassVar[TeacherManager] = TeacherManager()


class Group(models.Model):
    """A student group of one lab: a bench name and a PIN that the teacher can read out. Nothing personal is kept.

    `changes` counts what has happened to its work.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    lab = models.ForeignKey("labs.Lab", on_delete=models.CASCADE, related_name="groups")
    name = models.CharField(max_length=40)
    pin = models.CharField(max_length=4)
    position = models.PositiveSmallIntegerField()
    meter_address = models.CharField(max_length=60, blank=True)
    changes = models.PositiveIntegerField(default=0)

    objects = GroupQuerySet.as_manager()

    class Meta:
        ordering = ["position"]
        constraints = [
            models.UniqueConstraint(fields=["lab", "pin"], name="group_pin_once_in_lab"),
            models.UniqueConstraint(fields=["lab", "name"], name="group_name_once_in_lab"),
        ]

    def __str__(self) -> str:
        return self.name


class Share(models.Model):
    """A lab that its owner shares with a colleague: to look at it, or to work in it as the owner does."""

    lab = models.ForeignKey("labs.Lab", on_delete=models.CASCADE, related_name="shares")
    teacher = models.ForeignKey(Teacher, on_delete=models.CASCADE, related_name="shares")
    work = models.BooleanField()
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["lab", "teacher"], name="one_share_a_colleague")]

    def __str__(self) -> str:
        return f"{self.lab_id} with {self.teacher_id}"


class GroupSession(models.Model):
    """A device that has joined as a group, until it leaves, the group gets a new PIN, or 12 hours have gone by."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    group = models.ForeignKey(Group, on_delete=models.CASCADE, related_name="sessions")
    joined_at = models.DateTimeField(auto_now_add=True)
    ended_at = models.DateTimeField(null=True, blank=True)

    objects = GroupSessionQuerySet.as_manager()

    class Meta:
        indexes = [models.Index(fields=["joined_at"])]

    def __str__(self) -> str:
        return f"{self.group_id} since {self.joined_at:%H:%M}"


class SignedInQuerySet(models.QuerySet["SignedIn"]):
    """Browsers in which teachers signed in."""

    def visible_to(self, actor: Teacher) -> SignedInQuerySet:
        """A teacher sees their own."""
        return self.filter(teacher=actor)


class SignedIn(models.Model):
    """A browser in which a teacher signed in: its session's key, when, what kind of browser; until it is ended."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    teacher = models.ForeignKey(Teacher, on_delete=models.CASCADE, related_name="sign_ins")
    session_key = models.CharField(max_length=40, unique=True)
    at = models.DateTimeField(auto_now_add=True)
    browser = models.CharField(max_length=60, blank=True)

    objects = SignedInQuerySet.as_manager()

    class Meta:
        ordering = ["-at"]

    def __str__(self) -> str:
        return f"{self.browser} since {self.at:%Y-%m-%d %H:%M}"


class WrongTry(models.Model):
    """A wrong password, code or PIN, kept for an hour to slow down guessing; or an answer of a device without a name, to
    slow down made-up ones. `device`: by its cookie, if it has one; `own`: who tried was let in there on it before."""

    class Door(models.TextChoices):
        """Where it was tried."""

        SIGN_IN = "sign_in"
        JOIN = "join"
        ANSWER = "answer"

    at = models.DateTimeField(auto_now_add=True)
    door = models.CharField(max_length=7, choices=Door.choices)
    account = models.CharField(max_length=150)
    address = models.GenericIPAddressField()
    device = models.CharField(max_length=36, blank=True)
    own = models.BooleanField(default=False)

    class Meta:
        indexes = [models.Index(fields=["door", "at"]), models.Index(fields=["door", "account", "at"])]

    def __str__(self) -> str:
        return f"{self.account} from {self.address}"


class Pulse(models.Model):
    """One row that is written to find out whether anything can be."""

    at = models.DateTimeField()

    def __str__(self) -> str:
        return f"{self.at:%H:%M:%S}"


class Deed(models.Model):
    """What a teacher did, for the teacher to look up; never changed. The title is the lab's as it was then."""

    teacher = models.ForeignKey(Teacher, on_delete=models.CASCADE, related_name="deeds")
    at = models.DateTimeField(auto_now_add=True)
    what = models.CharField(max_length=30)
    lab = models.UUIDField(null=True)
    title = models.CharField(max_length=120, blank=True)
    about = models.CharField(max_length=240, blank=True)

    objects = DeedQuerySet.as_manager()

    class Meta:
        ordering = ["-at", "-id"]
        indexes = [models.Index(fields=["teacher", "at"]), models.Index(fields=["lab", "at"])]

    def __str__(self) -> str:
        return f"{self.what} {self.title}"


class DoneOnce(models.Model):
    """A change that a teacher's page asked for under a number of its own, with its answer: asked again, nothing is done.

    `asked`: a digest of what was asked. Kept for a day.
    """

    id = models.UUIDField(primary_key=True, editable=False)
    teacher = models.ForeignKey(Teacher, on_delete=models.CASCADE, related_name="+")
    asked = models.CharField(max_length=64)
    status = models.PositiveSmallIntegerField(default=0)
    answer = models.TextField(blank=True)
    at = models.DateTimeField(default=timezone.now, editable=False)

    class Meta:
        indexes = [models.Index(fields=["at"])]

    def __str__(self) -> str:
        return f"{self.id}: {self.status}"
