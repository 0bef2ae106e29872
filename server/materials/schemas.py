"""Materials as they are sent."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, StringConstraints

Key = Annotated[str, StringConstraints(max_length=60)]


class OnShelf(BaseModel):
    """How many pieces (litres) the teacher has and what one costs, where known."""

    count: float | None
    price: float | None


class ElectrodeOut(BaseModel):
    """An electrode of the catalogue; `table_v` in V against hydrogen, None for an inert plate; `own`: a teacher's own."""

    key: str
    symbol: str
    name: str
    synonyms: list[str]
    supplied: str
    table_v: float | None
    prepare: str
    usual: bool
    own: bool
    retired: bool
    shelf: OnShelf


class FactOut(BaseModel):
    """A number as text with its unit, where it is from, and how far that was looked up."""

    what: str
    value: str
    source: str
    locator: str
    checked: str


class HazardLine(BaseModel):
    """What can hurt, and what to do about it; `refuse`: ages that must not."""

    text: str
    do: str
    refuse: list[str]


class AboutOut(BaseModel):
    """All that is known of one material."""

    key: str
    name: str
    what: str
    use: list[str]
    prepare: list[str]
    hazards: list[HazardLine]
    facts: list[FactOut]


class SidesOut(BaseModel):
    """The two solutions of a cell, by key, and what joins them, by key and in words."""

    negative: str
    positive: str
    bridge: str
    joined: str


class ElectrolyteOut(BaseModel):
    """An electrolyte of the catalogue, pH as a range; `recipe`: how an own one is made (empty: it is not), `sides` of two
    solutions; `pours`: it can stand in a cup of its own and be added to."""

    key: str
    name: str
    synonyms: list[str]
    form: str
    ph_low: float
    ph_high: float
    recipe: str
    sides: SidesOut | None
    pours: bool
    usual: bool
    own: bool
    retired: bool
    shelf: OnShelf


class NamedOut(BaseModel):
    """A key with its words."""

    key: str
    name: str


class AdditionOut(BaseModel):
    """What can be stirred in: measured in g or mL; `metal`: a salt of a metal, by its plate's key; its hazard in a line."""

    key: str
    name: str
    unit: str
    metal: str
    hazard: str


class MaterialsOut(BaseModel):
    """The catalogue, what own materials are made of, and activities for the safety sheet."""

    edition: str
    electrodes: list[ElectrodeOut]
    electrolytes: list[ElectrolyteOut]
    couples: list[NamedOut]
    surfaces: list[NamedOut]
    forms: list[NamedOut]
    activities: list[NamedOut]
    additions: list[AdditionOut]
    bridges: list[NamedOut]
    symptoms: list[SymptomOut]
    settings: list[SettingWords]


class SettingWords(BaseModel):
    """What can be set: its name as it is kept (“spacing”), and how that, its words and its unit are read."""

    name: str
    said: str
    words: dict[str, str]


class SymptomOut(BaseModel):
    """What a group sees when something is off, what it may be, and what to try, in order."""

    key: str
    seen: str
    means: str
    tries: list[str]


MaterialsOut.model_rebuild()
