"""What a teacher sends from the board."""

from __future__ import annotations

import uuid
from typing import Annotated

from pydantic import BaseModel, Field, StringConstraints


class ReasonIn(BaseModel):
    """Why something is set aside; empty takes it back."""

    reason: Annotated[str, StringConstraints(max_length=200)]


class GiveIn(BaseModel):
    """The group a cell is given to."""

    group: uuid.UUID


class SwitchIn(BaseModel):
    """On or off."""

    on: bool


class MinutesIn(BaseModel):
    """Minutes to add to a period (below zero: to take off)."""

    minutes: Annotated[int, Field(ge=-120, le=120)]


class AddressIn(BaseModel):
    """Where a group's meter listens; empty for none."""

    address: Annotated[str, StringConstraints(max_length=60)]
