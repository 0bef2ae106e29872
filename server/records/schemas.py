"""What import answers."""

from __future__ import annotations

import uuid

from ninja import Schema


class Imported(Schema):
    """The lab that was made and how many readings it holds."""

    id: uuid.UUID
    title: str
    readings: int
    groups: int
