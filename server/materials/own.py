"""A teacher's own materials beside the shipped ones, for everything that runs on behalf of that teacher or their groups."""

from __future__ import annotations

import logging
from collections.abc import Callable, Iterable
from contextlib import AbstractContextManager
from typing import Any

from django.db import InterfaceError, OperationalError
from django.http import HttpRequest, HttpResponseBase

from galvanic.chemistry.kinetics import surfaces
from galvanic.chemistry.made import own_liquid
from galvanic.errors import BadTable
from galvanic.reference import catalogue
from galvanic.reference.catalogue import Electrode, Electrolyte, build_electrode
from galvanic.reference.reader import Reader
from galvanic.words import say
from server.base.composed import SOME_ID, SOME_UUID, Composed
from server.materials.models import OwnMaterial
from server.people.auth import Member, member_behind
from server.people.models import Teacher

log = logging.getLogger("pipette.materials")
Handler = Callable[[HttpRequest], HttpResponseBase]


def electrode_row(key: str, name: str, data: dict[str, Any]) -> dict[str, Any]:
    """A row of electrodes.toml from what a teacher entered."""
    couple = (
        {"couple": data["couple"]}
        if data.get("couple")
        else {"inert": say("{name} has no entry in the metal table.", name=name)}
    )
    return {
        "key": key,
        "symbol": data["symbol"],
        "name": name,
        "supplied": name,
        "surface": data["surface"],
        "price": "own",
        "synonyms": [],
        "prepare": data.get("prepare") or say("Clean, rinse, dry."),
        **couple,
    }


def build(kind: str, key: str, name: str, data: dict[str, Any]) -> Electrode | Electrolyte:
    """The material as the core knows it. Raises BadTable, also for what the rest-potential model could not take."""
    if kind == OwnMaterial.Kind.ELECTROLYTE:
        return own_liquid(key, name, data)
    reader = Reader("own", electrode_row(key, name, data))
    plate = build_electrode(reader)
    if plate.surface not in surfaces():
        raise reader.fail(f"there is no surface {plate.surface!r}")
    reader.done()
    return plate


def _built(rows: Iterable[OwnMaterial]) -> tuple[list[Electrode], list[Electrolyte]]:
    """Own materials as the core knows them, without those that no longer fit."""
    plates: list[Electrode] = []
    liquids: list[Electrolyte] = []
    for row in rows:
        try:
            made = build(row.kind, row.key, row.name, row.data)
        except (BadTable, KeyError, TypeError, ValueError) as error:
            log.warning("own material %s no longer fits the tables: %s", row.key, error)
            continue
        if isinstance(made, Electrode):
            plates.append(made)
        else:
            liquids.append(made)
    return plates, liquids


_FOR_DESKS = Composed(lambda teacher: OwnMaterial.objects.known_to(Teacher(id=teacher)), {"teacher": SOME_ID})
_AT_BENCHES = Composed(lambda group: OwnMaterial.objects.at_bench(Member(group, group, "", 0)), {"group": SOME_UUID})


def known_rows(who: Teacher | Member) -> list[OwnMaterial]:
    """Own materials, retired ones too, that somebody at a desk or a bench has to know; every answer asks for them."""
    return _AT_BENCHES.rows(group=who.group_id) if isinstance(who, Member) else _FOR_DESKS.rows(teacher=who.id)


def materials_of(who: Teacher | Member) -> AbstractContextManager[None]:
    """Let what `known_rows` gives stand in the catalogue, for what is made outside a request."""
    return catalogue.also(lambda: _built(known_rows(who)))


def own_materials(get_response: Handler) -> Handler:
    """Middleware: each API request that asks for materials sees its teacher's own, or those of its group's teacher."""

    def handle(request: HttpRequest) -> HttpResponseBase:
        with catalogue.also(lambda: _built(_visible(request))):
            return get_response(request)

    return handle


def _visible(request: HttpRequest) -> list[OwnMaterial]:
    """Own materials for whoever asks; none while the database is away, which the endpoint will say in its own words."""
    try:
        here = (request.user if isinstance(request.user, Teacher) else None, member_behind(request))
        return list({row.key: row for who in here if who is not None for row in known_rows(who)}.values())
    except (OperationalError, InterfaceError):
        return []
