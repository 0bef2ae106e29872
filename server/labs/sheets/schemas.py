"""What goes in and out of the sheets of a plan."""

from __future__ import annotations

import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, StringConstraints

from galvanic.level import Level
from server.labs.schemas import PlannedCellOut


class KitLine(BaseModel):
    """One thing to have; `per_group` is None where groups differ, `there`, `price` and `cost` where not known."""

    key: str
    name: str
    kind: str
    per_group: float | None
    groups: int
    spare: int
    total: int
    there: int | None
    short: int
    price: float | None
    cost: float | None
    why: str


class IngredientOut(BaseModel):
    """Something that goes into a solution; `up_to`: it fills up to the amount."""

    name: str
    amount: float
    unit: str
    up_to: bool


class BatchOut(BaseModel):
    """One electrolyte for the whole class."""

    electrolyte: str
    name: str
    volume_l: float
    ingredients: list[IngredientOut]
    method: str
    day_before: bool


class GroupKit(BaseModel):
    """What lies on one group's tray beside the bench things."""

    group: str
    things: list[str]


class ShortOut(BaseModel):
    """What labs to come need more of than there is: pieces, or litres, and for which labs."""

    key: str
    needed: float
    there: float
    labs: list[str]


class KitOut(BaseModel):
    """Kit and mixing."""

    plates: list[KitLine]
    vessels: list[KitLine]
    bench: list[KitLine]
    batches: list[BatchOut]
    groups: list[GroupKit]
    day_before: list[str]
    cost: float | None
    cup_ml: float


class SafetyEntry(BaseModel):
    """One rule on the sheet, and what it applies to here."""

    key: str
    severity: Literal["caution", "warning"]
    refused: bool
    because: list[str]
    text: str
    do: str
    dispose: str
    first_aid: str
    source: str


class SignOffOut(BaseModel):
    """A signature; `current` if it covers the sheet as it is now."""

    at: datetime.datetime
    teacher: str
    current: bool


class SafetyOut(BaseModel):
    """The safety sheet with its history."""

    age: str
    local_rules: str
    used_liquid: str
    entries: list[SafetyEntry]
    fingerprint: str
    refused: bool
    signed: bool
    history: list[SignOffOut]


class SignOffIn(BaseModel):
    """The fingerprint of the sheet that was read."""

    fingerprint: Annotated[str, StringConstraints(max_length=64)]


class Card(BaseModel):
    """One group's card; `steps`: how its fruit, card or paste is prepared, by the name of the liquid."""

    group: str
    pin: str
    cells: list[PlannedCellOut]
    steps: list[StepsOfOut]
    cautions: list[str]


class StepsOfOut(BaseModel):
    """How one fruit, card or paste is prepared, in sentences."""

    electrolyte: str
    text: str


class JoinLink(BaseModel):
    """What a group's device opens to join: whole, as it is shown, and as the path of a square code in a box of that side.

    `here_only`: no other computer can open it.
    """

    address: str
    shown: str
    qr_path: str
    qr_size: int
    here_only: bool


class CardsOut(BaseModel):
    """All cards. `qr_path` is an SVG path in a box of `qr_size`; it says `address`."""

    title: str
    date: datetime.date
    code: str
    address: str
    qr_path: str
    qr_size: int
    wanted: int
    predict: bool
    level: Level
    offline: str
    cards: list[Card]
