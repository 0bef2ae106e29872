"""Who is there: teachers with accounts, groups without."""

from __future__ import annotations

import uuid

from django.contrib.auth.models import AbstractUser
from django.db import models


class Teacher(AbstractUser):
    """A teacher signs in with a name and a password."""


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

    class Meta:
        ordering = ["position"]
        constraints = [
            models.UniqueConstraint(fields=["lab", "pin"], name="group_pin_once_in_lab"),
            models.UniqueConstraint(fields=["lab", "name"], name="group_name_once_in_lab"),
        ]

    def __str__(self) -> str:
        return self.name


class FailedJoin(models.Model):
    """A wrong code or PIN, kept for an hour to slow down guessing."""

    at = models.DateTimeField(auto_now_add=True)
    address = models.GenericIPAddressField()
    code = models.CharField(max_length=20)

    class Meta:
        indexes = [models.Index(fields=["address", "at"]), models.Index(fields=["code", "at"])]

    def __str__(self) -> str:
        return f"{self.code} from {self.address}"
