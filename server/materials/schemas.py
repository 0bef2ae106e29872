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
    supplied: str
    table_v: float | None
    prepare: str
    usual: bool
    own: bool
    retired: bool
    shelf: OnShelf


class ElectrolyteOut(BaseModel):
    """An electrolyte of the catalogue, pH as a range."""

    key: str
    name: str
    form: str
    ph_low: float
    ph_high: float
    usual: bool
    own: bool
    retired: bool
    shelf: OnShelf


class NamedOut(BaseModel):
    """A key with its words."""

    key: str
    name: str


class TemplateOut(BaseModel):
    """A starting point for a plan."""

    key: str
    name: str
    about: str
    varies: str
    question: str
    kept: str
    against: str
    electrodes: list[str]
    electrolytes: list[str]
    conditions: list[str]


class MaterialsOut(BaseModel):
    """The catalogue, what own materials are made of, activities for the safety sheet, and plan templates."""

    edition: str
    electrodes: list[ElectrodeOut]
    electrolytes: list[ElectrolyteOut]
    couples: list[NamedOut]
    surfaces: list[NamedOut]
    forms: list[NamedOut]
    activities: list[NamedOut]
    templates: list[TemplateOut]
    symptoms: list[SymptomOut]


class SymptomOut(BaseModel):
    """What a group sees when something is off, what it may be, and what to try, in order."""

    key: str
    seen: str
    means: str
    tries: list[str]


MaterialsOut.model_rebuild()
