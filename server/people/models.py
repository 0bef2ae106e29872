"""Who is there: teachers with accounts, groups without; their devices' sessions, wrong tries, and what teachers did."""

from __future__ import annotations

import uuid
from datetime import timedelta

from django.contrib.auth.models import AbstractUser
from django.db import models
from django.utils import timezone

SESSION = timedelta(hours=12)


class GroupQuerySet(models.QuerySet["Group"]):
    """Groups."""

    def visible_to(self, actor: Teacher) -> GroupQuerySet:
        """A teacher sees the groups of their labs."""
        return self.filter(lab__owner=actor, lab__deleted_at__isnull=True)


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
        """A teacher sees their own."""
        return self.filter(teacher=actor)


class Teacher(AbstractUser):
    """A teacher signs in with a name and a password. `deleted_at`: wants to be forgotten; gone for good 30 days later."""

    deleted_at = models.DateTimeField(null=True, blank=True)


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
    """A wrong password, code or PIN, kept for an hour to slow down guessing. `device`: by its cookie, if it has one."""

    class Door(models.TextChoices):
        """Where it was tried."""

        SIGN_IN = "sign_in"
        JOIN = "join"

    at = models.DateTimeField(auto_now_add=True)
    door = models.CharField(max_length=7, choices=Door.choices)
    account = models.CharField(max_length=150)
    address = models.GenericIPAddressField()
    device = models.CharField(max_length=36, blank=True)

    class Meta:
        indexes = [models.Index(fields=["door", "at"])]

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
