"""Liquids that a teacher makes: what they would come to before anything is kept, and keeping them."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

from django.db import transaction

from galvanic.cells import Cell, negative_first
from galvanic.chemistry.accounts import predict
from galvanic.chemistry.fitting import refusal
from galvanic.chemistry.junction import junction
from galvanic.chemistry.made import (
    WATER,
    amount_of,
    composition,
    described,
    made_fields,
    name_of,
    own_liquid,
    strength_of,
    two_fields,
)
from galvanic.chemistry.oxidants import in_words, oxidising
from galvanic.chemistry.shorted import shorted
from galvanic.errors import OutOfRange
from galvanic.reference import catalogue
from galvanic.reference.catalogue import Electrolyte, Made
from galvanic.words import say
from server.base.problems import Problem
from server.materials.making_schemas import MadeIn, MadePreview, PairForetold, SideIn, TwoIn, TwoPreview
from server.materials.models import OwnMaterial
from server.materials.services import add_material
from server.people.models import Teacher

BASE_ML = 100.0
NEW, SIDES = "own-new", ("own-left", "own-right")
KIND = OwnMaterial.Kind.ELECTROLYTE


def recipe_of(data: MadeIn) -> Made:
    """The recipe as the core has it. Raises Problem with the core's sentence."""
    try:
        steps = [(step.what, amount_of(step.what, step.amount, step.unit, BASE_ML, data.base_parts)) for step in data.steps]
    except OutOfRange as error:
        raise refused(error) from error
    if data.base != WATER and data.base not in catalogue.electrolytes():
        raise Problem(422, "unknown_material", say("There is no such liquid."), field="base")
    return Made(data.base, BASE_ML, tuple(steps))


def refused(error: OutOfRange) -> Problem:
    """What the core refuses, as it is sent: nothing was kept."""
    return Problem(422, error.code, str(error), field="steps")


def preview_made(data: MadeIn) -> MadePreview:
    """What a recipe comes to, and what it does to a pair of plates. Raises Problem."""
    made = recipe_of(data)
    try:
        found, fields = composition(made), made_fields(made)
    except OutOfRange as error:
        raise refused(error) from error
    foretold: list[PairForetold] = []
    plates = catalogue.electrodes()
    with catalogue.beside(own_liquid(NEW, "with it", fields)):
        oxidant = in_words(NEW)
        if data.negative in plates and data.positive in plates and data.negative != data.positive:
            before = [] if data.base == WATER else [("before", data.base)]
            for when, liquid in (*before, ("after", NEW)):
                foretold.append(_foretold(when, Cell.of(data.negative, liquid, data.positive)))
    return MadePreview(
        name=name_of(made),
        described=described(made),
        ph=found.ph,
        conductivity_s_per_m=found.conductivity_s_per_m,
        chloride_mol_per_l=found.chloride_mol_per_l,
        foam_ml=24_000.0 * found.foamed_mol,
        oxidant=oxidant,
        foretold=foretold,
    )


def _foretold(when: str, cell: Cell) -> PairForetold:
    by_rest = predict([cell])[0]["rest"]
    return PairForetold(
        when=when, short=cell.short, volts_v=by_rest.volts_v or 0.0, u_v=by_rest.u_v,
        short_a=shorted(cell).first_a, oxidant=bool(oxidising(cell.electrolyte)),
    )  # fmt: skip


def keep_made(actor: Teacher, data: MadeIn) -> OwnMaterial:
    """Keep a liquid made by recipe. Raises Problem."""
    made = recipe_of(data)
    try:
        fields = made_fields(made)
    except OutOfRange as error:
        raise refused(error) from error
    return add_material(actor=actor, kind=KIND, name=data.name or name_of(made), data=fields, replaces=data.replaces)


@dataclass(frozen=True, slots=True)
class Side:
    """One of two solutions: a liquid that is there, or a salt's solution with its name and numbers."""

    key: str
    name: str
    fields: dict[str, object] | None


def _side(data: SideIn, new_key: str) -> Side:
    if data.liquid:
        if data.liquid not in catalogue.electrolytes():
            raise Problem(422, "unknown_material", say("There is no such liquid."), field="sides")
        return Side(data.liquid, catalogue.electrolytes()[data.liquid].name, None)
    try:
        made = Made(WATER, BASE_ML, ((data.salt, amount_of(data.salt, data.mol_per_l, "mol/L", BASE_ML)),))
        fields, name = made_fields(made), strength_of(made)
    except OutOfRange as error:
        raise refused(error) from error
    there = next((row for row in catalogue.electrolytes().values() if row.made == made or _same_salt(row, fields)), None)
    return Side(new_key, name, fields) if there is None else Side(there.key, there.name, None)


def _same_salt(row: Electrolyte, fields: dict[str, Any]) -> bool:
    """Whether a liquid is the solution of one metal's salt that a recipe comes to."""
    ions, wanted = row.ions_mol_per_l, fields["ions_mol_per_l"]
    return (
        bool(wanted)
        and row.bridge is None
        and row.anion == fields["anion"]
        and ions.keys() == wanted.keys()
        and all(math.isclose(ions[key], wanted[key], rel_tol=1e-3) for key in wanted)
    )


def _sides(data: TwoIn) -> tuple[Side, Side]:
    one, other = _side(data.negative_side, SIDES[0]), _side(data.positive_side, SIDES[1])
    if one.fields is not None and one.fields == other.fields:
        other = one
    return one, other


def ordered(data: TwoIn) -> TwoIn:
    """The same with the plate that the table makes negative on the left, as cells are written. Raises Problem."""
    plates = catalogue.electrodes()
    if data.negative == data.positive or not {data.negative, data.positive} <= set(plates):
        raise Problem(
            422, "plates", say("Choose two plates; for one metal on both sides, take its second plate."), field="positive"
        )
    if negative_first(data.negative, data.positive) == (data.negative, data.positive):
        return data
    return data.model_copy(
        update={
            "negative_side": data.positive_side, "positive_side": data.negative_side,
            "negative": data.positive, "positive": data.negative,
        }
    )  # fmt: skip


def preview_two(data: TwoIn) -> TwoPreview:
    """What two solutions with these plates would give, or why they cannot be. Raises Problem."""
    data = ordered(data)
    one, other = _sides(data)
    fresh = {side.key: own_liquid(side.key, side.name, side.fields) for side in (one, other) if side.fields is not None}
    with catalogue.beside(*fresh.values()):
        try:
            pair = own_liquid(NEW, "two", two_fields(one.key, other.key, data.bridge))
        except OutOfRange as error:
            raise refused(error) from error
        with catalogue.beside(pair):
            cell = Cell(data.negative, NEW, data.positive)
            why = refusal(cell)
            return TwoPreview(
                name=_name(one, other),
                refusal=why,
                foretold=None if why else _foretold("now", cell),
                table_v=cell.table_v,
                junction_v=junction(cell).volts_v,
            )


def _name(side: Side, other: Side) -> str:
    return f"{side.name} ‖ {other.name}"[:60]


@transaction.atomic
def keep_two(actor: Teacher, data: TwoIn) -> OwnMaterial:
    """Keep two solutions and their bridge, with solutions that are not there yet. Raises Problem; then nothing is kept."""
    data = ordered(data)
    one, other = _sides(data)
    made: dict[str, OwnMaterial] = {}
    for side in dict.fromkeys((one.key, other.key)):
        row = one if side == one.key else other
        if row.fields is not None:
            made[side] = add_material(actor=actor, kind=KIND, name=row.name, data=row.fields)
    keys = [made[side.key].key if side.key in made else side.key for side in (one, other)]
    fresh = [own_liquid(row.key, row.name, row.data) for row in made.values()]
    with catalogue.beside(*fresh):
        try:
            fields = two_fields(keys[0], keys[1], data.bridge)
        except OutOfRange as error:
            raise refused(error) from error
        return add_material(actor=actor, kind=KIND, name=data.name or _name(one, other), data=fields, replaces=data.replaces)
