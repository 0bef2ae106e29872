"""A package that comes in becomes a lab of its own: the same numbers under new ids, all or nothing."""

from __future__ import annotations

import json
import re
import uuid
from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from typing import IO, Any

from django.core.exceptions import ValidationError as FieldError
from django.db import IntegrityError, models, transaction
from django.utils.dateparse import parse_date, parse_datetime
from pydantic import ValidationError

from galvanic.errors import BadTable, GalvanicError
from galvanic.level import Level
from galvanic.reference import catalogue
from galvanic.words import say
from server.base.incoming import cleaned
from server.base.problems import Problem, RowFault
from server.claims.schemas import RubricIn
from server.entries.models import Photo, Reading
from server.entries.photos import remove, store
from server.entries.services import MAX_READINGS_PER_CELL
from server.findings.services import PARTS, compare_lab
from server.labs.models import Lab
from server.labs.services import keep_new, tidy_names, tidy_title, untaken
from server.labs.settings import LabSettings
from server.materials.models import OwnMaterial
from server.materials.own import build, materials_of
from server.people.codes import pins
from server.people.deeds import keep_deed
from server.people.models import Teacher
from server.records.file_text import MAX_ROWS
from server.records.package.meaning import odd
from server.records.package.opened import Opened, opened, refused
from server.records.package.tables import TABLES, Table, read

MOST_FAULTS, MOST_MATERIALS, MOST_MATERIAL = 50, 60, 20_000
OWN_KEY = re.compile(r"own-[0-9a-f]{12}")
PLATES, LIQUIDS = frozenset({"negative", "positive", "red", "black"}), frozenset({"electrolyte"})


@dataclass(frozen=True, slots=True)
class BroughtLab:
    """The lab that was made, how many rows came in by table, and the edition of the tables it was made with."""

    lab: Lab
    rows: Mapping[str, int]
    edition: str


def import_package(*, actor: Teacher, file: IO[bytes], size: int) -> BroughtLab:
    """Make a lab from a package.

    Raises Problem naming what is wrong, faulty rows by table and line; then nothing is kept.
    """
    package = opened(file, size)
    stored: list[uuid.UUID] = []
    try:
        with transaction.atomic():
            return _bring(actor, package, stored)
    except BaseException as error:
        for photo in stored:
            remove(photo)
        if isinstance(error, IntegrityError):
            raise refused(say("Its tables contradict each other.")) from error
        raise


def _bring(actor: Teacher, package: Opened, stored: list[uuid.UUID]) -> BroughtLab:
    lab = _lab(actor, package)
    _bring_materials(actor, package)
    with materials_of(actor):  # anew: what has just come in is known by now
        plates, liquids = set(catalogue.electrodes()), set(catalogue.electrolytes())
        strange = ({*lab.electrodes} - plates) | ({*lab.electrolytes} - liquids)
        if strange:
            raise refused(say("It uses “{strange}”, which is not in the tables here.", strange=min(strange)[:40]))
        made: dict[str, dict[uuid.UUID, models.Model]] = {}
        for table in TABLES:
            made[table.name] = _rows(actor, lab, package, table, made, (plates, liquids))
            _bring_pictures(package, table, made[table.name], stored)
            table.model._default_manager.bulk_create(made[table.name].values(), batch_size=1000)
        try:
            compare_lab(lab)
        except GalvanicError as error:
            raise refused(say("Its readings cannot be compared: {error}", error=error)) from error
    counts = {name: len(rows) for name, rows in made.items() if rows}
    keep_deed(actor, "brought_package", lab, f"{counts.get('readings', 0)} readings")
    return BroughtLab(lab, counts, package.edition)


def _lab(actor: Teacher, package: Opened) -> Lab:
    given = cleaned(package.json("lab.json"))
    given = given.get("planned") if isinstance(given, dict) else None
    if not isinstance(given, dict):
        raise refused(say("lab.json in it is damaged."))
    try:
        kept = {"level": Level.UPPER.value} | given  # a package from before there were levels shows all that it did
        settings = LabSettings.model_validate({k: kept[k] for k in LabSettings.model_fields if k in kept})
        rubric = RubricIn.model_validate({"rows": given.get("rubric") or []}).model_dump()["rows"]
    except ValidationError as error:
        first = error.errors()[0]
        raise refused(say("lab.json: {map}: {first}.", map=".".join(map(str, first["loc"])), first=first["msg"])) from error
    state = Lab.State.DRAFT if given.get("state") == Lab.State.DRAFT else Lab.State.CLOSED
    on = parse_date(str(given.get("date", "")))
    if on is None:
        raise refused(say("lab.json: its date is none."))
    title = untaken(actor, tidy_title(str(given.get("title", ""))))
    lab = Lab(
        owner=actor, title=title, date=on, state=state, edition=package.edition,
        simulated=bool(given.get("simulated")), rubric=rubric, wished=_wished(given.get("wished")),
        released=[part for part in PARTS if part in (given.get("released") or [])],
        show_values=bool(given.get("show_values")), paused_s=_seconds(given.get("paused_s")),
        opened_at=_moment(given.get("opened_at")), closed_at=_moment(given.get("closed_at")),
        **settings.columns(),
    )  # fmt: skip
    lab.conditions = lab.conditions or [""]
    return keep_new(lab)


def _seconds(value: Any) -> float:
    return float(value) if isinstance(value, int | float) and 0.0 <= value < 1e7 else 0.0


def _moment(value: Any) -> Any:
    at = parse_datetime(value) if isinstance(value, str) else None
    return at if at is not None and at.tzinfo is not None else None


def _wished(value: Any) -> list[Any]:
    return value if isinstance(value, list) and len(json.dumps(value)) < 10_000 else []


def _bring_materials(actor: Teacher, package: Opened) -> None:
    """Keep the teacher's own plates and liquids that a package brings, under their own keys; those that are here stay."""
    given = cleaned(package.json("materials.json")) if package.has("materials.json") else []
    if not isinstance(given, list) or len(given) > MOST_MATERIALS:
        raise refused(say("materials.json in it is damaged."))
    here = {row.key: row for row in OwnMaterial.objects.filter(key__in=[str(one.get("key")) for one in _objects(given)])}
    for one in _objects(given):
        key, kind, name = (str(one.get(field, "")) for field in ("key", "kind", "name"))
        data = one.get("data")
        known = here.get(key)
        if known is not None and (known.kind, known.data) == (kind, data):
            continue
        if known is not None or not OWN_KEY.fullmatch(key) or len(json.dumps(data)) > MOST_MATERIAL:
            raise refused(say("materials.json: “{key}” cannot be kept here.", key=key[:20]))
        row = OwnMaterial(key=key, owner=actor, kind=kind, name=name, data=data)
        try:
            row.clean_fields(exclude=["owner"])
            row.save(force_insert=True)
            with materials_of(actor):
                build(row.kind, f"{row.key}-try", row.name, row.data)
        except (FieldError, BadTable, KeyError, TypeError, ValueError, AttributeError) as error:
            raise refused(
                say("materials.json: the numbers of “{name}” do not fit the tables here.", name=name[:40])
            ) from error


def _objects(given: Sequence[Any]) -> list[dict[str, Any]]:
    if not all(isinstance(one, dict) for one in given):
        raise refused(say("materials.json in it is damaged."))
    return list(given)


Made = dict[uuid.UUID, models.Model]


def _rows(
    actor: Teacher,
    lab: Lab,
    package: Opened,
    table: Table,
    made: Mapping[str, Made],
    keys: tuple[Collection[str], Collection[str]],
) -> Made:
    """The rows of a table, not kept yet, by their new ids. Raises Problem naming the faulty ones."""

    def new_id(text: str) -> uuid.UUID:
        return uuid.uuid5(lab.id, str(uuid.UUID(text)))

    rows, faults = dict[uuid.UUID, models.Model](), list[RowFault]()
    lines = package.rows(table.name)
    known = {one.model: made[one.name] for one in TABLES if one.name in made} | {table.model: rows}
    for line, texts in lines:
        try:
            row = _row(actor, lab, table, texts, new_id, keys)
            _check_references(table, row, known)
            if (says := odd(row)) is not None:
                raise ValueError(says)
            if row.pk in rows:
                raise ValueError(say("id: it stands there twice."))
            rows[row.pk if row.pk is not None else uuid.uuid4()] = row
        except ValueError as error:
            faults.append(RowFault(line, f"{table.name}.csv: {error}"))
            if len(faults) >= MOST_FAULTS:
                break
    if faults:
        raise refused(say("{n_faults} rows of {name}.csv are faulty.", n_faults=len(faults), name=table.name), faults)
    if table.model is Reading:
        _not_crowded(list(rows.values()))
    if table.name == "groups":
        _name_groups(lab, list(rows.values()))
    return rows


def _row(
    actor: Teacher,
    lab: Lab,
    table: Table,
    texts: Mapping[str, str],
    new_id: Any,
    keys: tuple[Collection[str], Collection[str]],
) -> models.Model:
    values: dict[str, Any] = {}
    for field in table.fields:
        if field.name not in texts:  # a package of an older Pipette may lack a column
            if field.has_default() or field.null or field.blank:
                continue
            raise ValueError(say("the column {field} is missing.", field=field.name))
        value = read(field, texts[field.name], new_id)
        values[field.attname] = value
        for names, table_keys in zip((PLATES, LIQUIDS), keys, strict=True):
            if field.name in names and value and value not in table_keys:
                raise ValueError(say("{field}: “{value}” is not in the tables here.", field=field.name, value=value[:40]))
    for field in table.model._meta.concrete_fields:
        if field.related_model is Teacher and not field.null:
            values[field.name] = actor
        elif field.related_model is Lab:
            values[field.name] = lab
    return table.model(**values)


def _not_crowded(readings: Sequence[Any]) -> None:
    """What a bench and a table can hold holds for packages, too. Raises Problem."""
    imported = [one for one in readings if one.origin == Reading.Origin.IMPORTED]
    at_cell = Counter(one.cell_id for one in readings if one.origin != Reading.Origin.IMPORTED)
    if at_cell and max(at_cell.values()) > MAX_READINGS_PER_CELL:
        raise refused(say("readings.csv: a cell holds {most} readings at most.", most=MAX_READINGS_PER_CELL))
    if len(imported) > MAX_ROWS:
        raise refused(say("readings.csv: at most {most} readings come from a table.", most=MAX_ROWS))


def _check_references(table: Table, row: models.Model, known: Mapping[Any, Made]) -> None:
    """Raises ValueError where a row names one of another table that is not in the package."""
    for field in table.fields:
        if field.related_model is not None and (wanted := getattr(row, field.attname)) is not None:
            if field.related_model is table.model:
                continue  # a later row may be named; the database looks at the end
            if wanted not in known.get(field.related_model, {}):
                raise ValueError(say("{field}: there is no such row in the package.", field=field.name))


def _name_groups(lab: Lab, groups: Sequence[Any]) -> None:
    """Give groups new PINs. Raises Problem for names that no lab can have."""
    try:
        names = tidy_names([group.name for group in groups])
    except Problem as problem:
        raise refused(problem.message) from problem
    if len(names) != len(groups):
        raise refused(say("groups.csv: a group has no name."))
    for group, pin in zip(groups, pins(len(groups)), strict=True):
        group.pin, group.lab = pin, lab


def _bring_pictures(package: Opened, table: Table, rows: Made, stored: list[uuid.UUID]) -> None:
    """Store the photographs of a package anew; one whose file is missing is left out by the page that shows it."""
    if table.model is not Photo:
        return
    for (_, texts), (key, row) in zip(package.rows(table.name), rows.items(), strict=True):
        name = f"photographs/{uuid.UUID(texts['id'])}.jpg"
        if package.has(name) and isinstance(row, Photo):
            kept = store(key, package.zipped.read(name))
            stored.append(key)
            row.width, row.height, row.size = kept.width, kept.height, kept.size
