"""Liquids that are made, and two solutions, as they come in and go out."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, Field, StringConstraints

from server.materials.schemas import Key

Name = Annotated[str, StringConstraints(max_length=80)]
Unit = Literal["g", "mL", "mol/L", "mass %", "volume %", "parts"]


class StepIn(BaseModel):
    """What is stirred in, how much of it, and how that is written."""

    what: Key
    amount: Annotated[float, Field(gt=0, le=10_000)]
    unit: Unit = "g"


class MadeIn(BaseModel):
    """A liquid made from 100 mL of a base (“water” for none); `base_parts`: how many parts the base is, where parts are
    used. `negative` and `positive`: plates to foretell for."""

    name: Name = ""
    base: Key = "water"
    base_parts: Annotated[float, Field(gt=0, le=10_000)] = 100.0
    steps: Annotated[list[StepIn], Field(min_length=1, max_length=6)]
    negative: Key = ""
    positive: Key = ""
    replaces: Key = ""


class PairForetold(BaseModel):
    """What the model has for a pair of plates: open voltage with its standard uncertainty, V, and the current shorted, A;
    `oxidant`: whether the liquid holds one, whose own current is not in it."""

    when: str
    short: str
    volts_v: float
    u_v: float | None
    short_a: float
    oxidant: bool


class MadePreview(BaseModel):
    """What a recipe comes to: pH, conductivity (S/m), chloride (mol/L), carbon dioxide that foams away (mL), what is known
    of an oxidant in it (empty: none), and volts and current of the plates asked for before and after."""

    name: str
    described: str
    ph: float
    conductivity_s_per_m: float
    chloride_mol_per_l: float
    foam_ml: float
    oxidant: str
    foretold: list[PairForetold]


class SideIn(BaseModel):
    """One of two solutions: a liquid of the catalogue, or a salt at a strength in water."""

    liquid: Key = ""
    salt: Key = ""
    mol_per_l: Annotated[float, Field(gt=0, le=10)] = 1.0


class TwoIn(BaseModel):
    """Two solutions, the bridge between them, and the plates that stand in them."""

    name: Name = ""
    negative_side: SideIn
    positive_side: SideIn
    bridge: Key
    negative: Key
    positive: Key
    replaces: Key = ""


class TwoPreview(BaseModel):
    """What two solutions would give: why they cannot (empty: they can), the table's difference, V (None for an inert plate),
    the junction, V."""

    name: str
    refusal: str
    foretold: PairForetold | None
    table_v: float | None
    junction_v: float


class KeptOut(BaseModel):
    """An own material that was kept, by key."""

    key: str
