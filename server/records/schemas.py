"""What import answers."""

from __future__ import annotations

import uuid

from pydantic import BaseModel


class Imported(BaseModel):
    """The lab that was made, how many readings it holds, how many of them do not count, and columns not understood."""

    id: uuid.UUID
    title: str
    readings: int
    groups: int
    aside: int
    unused: list[str]


class ImportedPackage(BaseModel):
    """The lab that was made of a package, how many rows came in by table, and the tables' editions there and here."""

    id: uuid.UUID
    title: str
    rows: dict[str, int]
    edition: str
    edition_here: str


class ImportedPacks(BaseModel):
    """What came in of a table of packs, and how many packs of it were there already."""

    packs: int
    entries: int
    known: int
