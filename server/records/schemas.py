"""What import answers."""

from __future__ import annotations

import uuid

from pydantic import BaseModel


class Imported(BaseModel):
    """The lab that was made and how many readings it holds."""

    id: uuid.UUID
    title: str
    readings: int
    groups: int
