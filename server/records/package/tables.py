"""Which tables a package holds, and how each column is written as text and read again."""

from __future__ import annotations

import json
import math
import uuid
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.contrib.postgres.fields import ArrayField
from django.core.exceptions import ValidationError
from django.db import models
from django.db.models import Q

from galvanic.bench.table_rows import as_written
from galvanic.words import say
from server.base.incoming import clean, cleaned
from server.base.spreadsheet import plain_text
from server.entries.models import (
    Actual,
    AskedAgain,
    KeptTrace,
    MeterCheck,
    Observation,
    Photo,
    PhotoRemoved,
    Prediction,
    Question,
    QuestionAnswer,
    Reading,
    SetAside,
    UnderLoad,
)
from server.findings.models import Answer, Claim, Elsewhere, Meant, OwnTest
from server.labs.models import Lab, PlannedCell
from server.notebook.models import HandedIn, Returned, Words
from server.people.models import Group, Teacher
from server.power.models import Chain, ChainEntry, Pack, PackEntry, RunFile

Columns = dict[str, Any]
NewId = Callable[[str], uuid.UUID]


@dataclass(frozen=True, slots=True)
class Table:
    """A table of a package: its name, its model, the ways from its rows to their group, and columns that stay here.

    `of_class`: it is the class's, so a group's own package is without it.
    """

    name: str
    model: type[models.Model]
    to_group: tuple[str, ...]
    without: tuple[str, ...] = ()
    of_class: bool = False

    @property
    def fields(self) -> list[models.Field[Any, Any]]:
        """The columns: all of the model's, without who did it, and numbers that mean nothing elsewhere."""
        return [
            field
            for field in self.model._meta.concrete_fields
            if field.name not in self.without
            and not isinstance(field, models.AutoField | models.BigAutoField)
            and field.related_model is not Teacher
            and field.related_model is not Lab
        ]

    def rows(self, groups: Sequence[Group]) -> Iterable[models.Model]:
        """The rows of some groups of a lab, in the order in which they are read again."""
        ids = [group.id for group in groups]
        any_way = Q(*((f"{way}__in", ids) for way in self.to_group), _connector=Q.OR)
        order = [*(self.model._meta.ordering or ()), "pk"]
        return self.model._default_manager.filter(any_way).distinct().order_by(*order)


TABLES = (
    Table("groups", Group, ("id",), ("pin", "meter_address", "changes")),
    Table("cells", PlannedCell, ("group",)),
    Table("meter_checks", MeterCheck, ("group",)),
    Table("predictions", Prediction, ("cell__group",)),
    Table("readings", Reading, ("cell__group",)),
    Table("asked_again", AskedAgain, ("cell__group",)),
    Table("set_aside", SetAside, ("group", "reading__cell__group")),
    Table("under_load", UnderLoad, ("cell__group",)),
    Table("notes", Observation, ("cell__group",)),
    Table("questions", Question, ("cell__group",)),
    Table("questions_answered", QuestionAnswer, ("question__cell__group",)),
    Table("settings_measured", Actual, ("cell__group",)),
    Table("traces", KeptTrace, ("cell__group",)),
    Table("photographs", Photo, ("cell__group",)),
    Table("photographs_removed", PhotoRemoved, ("photo__cell__group",)),
    Table("packs", Pack, ("group",)),
    Table("pack_entries", PackEntry, ("group",)),
    Table("run_files", RunFile, ("group",)),
    Table("chains", Chain, ("lab__groups",)),
    Table("chain_entries", ChainEntry, ("group",)),
    Table("claims", Claim, ("group",)),
    Table("answers", Answer, ("claim__group",)),
    Table("own_tests", OwnTest, ("group",)),
    Table("meant", Meant, ("group",)),
    Table("words", Words, ("group",)),
    Table("handed_in", HandedIn, ("group",)),
    Table("given_back", Returned, ("group",)),
    Table("elsewhere", Elsewhere, ("lab__groups",), of_class=True),
)

UNITS = {"_v": "V", "_a": "A", "_ohm": "Ω", "_s": "s", "_ml": "mL"}
TOLD = {
    "volts_v": "as the meter showed it: potential of the red lead’s plate less that of the black lead’s",
    "offset_v": "what the meter showed with its leads together; volts_v − offset_v is the corrected value",
    "resolution_v": "the step of the meter’s last digit",
    "resolution": "the step of the meter’s last digit, in V or A",
    "value": "in V or A (or a place in an order)",
    "negative": "the plate that the table makes negative, by its key",
    "positive": "the plate that the table makes positive, by its key",
    "electrolyte": "the liquid, by its key",
    "corrects": "the entry that this one replaces; that one stays and no longer counts",
    "received_at": "when it came to the server",
    "taken_at": "when it was typed, by the server’s clock",
    "device_at": "when it was typed, by the device’s own clock",
    "after_closing": "typed in time, came in after the lab had closed",
}


def is_id(field: models.Field[Any, Any]) -> bool:
    """Whether a column holds ids, which are made anew where the package comes in."""
    return field.is_relation or isinstance(field, models.UUIDField)


def as_text(field: models.Field[Any, Any], row: models.Model) -> str:
    """A value as it stands in the CSV: numbers with all their digits, lists and objects as JSON, nothing for None."""
    value = getattr(row, field.attname)
    if value is None:
        return ""
    if isinstance(field, ArrayField | models.JSONField):
        return json.dumps(value, ensure_ascii=False, default=str)
    if isinstance(value, bool):
        return "true" if value else "false"
    if isinstance(value, datetime):
        return value.isoformat()
    if isinstance(value, float):
        return repr(value)
    return plain_text(str(value)) if isinstance(value, str) else str(value)


def read(field: models.Field[Any, Any], text: str, new_id: NewId) -> Any:
    """A value from the CSV, checked by its field. Raises ValueError with a sentence."""
    if text == "" and field.null:
        return None
    try:
        if is_id(field):
            return new_id(text)
        if isinstance(field, ArrayField | models.JSONField):
            return _listed(field, text, new_id)
        if isinstance(field, models.BooleanField):
            return {"true": True, "false": False}[text]
        value = field.clean(clean(as_written(text)), None) if text or not field.blank else ""
    except (ValidationError, ValueError, TypeError, KeyError, RecursionError) as error:
        raise ValueError(
            say("{field}: “{value}” is nothing that can stand there.", field=field.name, value=text[:30])
        ) from error
    if isinstance(value, float) and not math.isfinite(value):
        raise ValueError(say("{field}: “{value}” is no number.", field=field.name, value=text[:30]))
    return value


def _listed(field: models.Field[Any, Any], text: str, new_id: NewId) -> Any:
    value = cleaned(json.loads(text or "null", parse_constant=_no_number))
    if isinstance(field, ArrayField):
        if not isinstance(value, list):
            raise ValueError("no list")
        if is_id(field.base_field):
            return [new_id(str(one)) for one in value]
        numbers = isinstance(field.base_field, models.FloatField)
        if value or not numbers:  # a run without a current column has none
            field.clean(value, None)
        return [float(one) for one in value] if numbers else value
    if field.name == "cites":
        return [{"kind": str(one["kind"]), "id": str(new_id(str(one["id"])))} for one in value]
    return value


def _no_number(name: str) -> Any:
    raise ValueError(say("{name} is no number", name=name))


def schema_of(table: Table) -> dict[str, Any]:
    """The Frictionless table schema."""
    fields = [_described(field) for field in table.fields]
    keys = [
        {"fields": field.name, "reference": {"resource": other, "fields": "id"}}
        for field in table.fields
        if field.related_model is not None
        for other in [next((one.name for one in TABLES if one.model is field.related_model), None)]
        if other is not None
    ]
    for key in keys:
        if key["reference"]["resource"] == table.name:  # type: ignore[index]
            key["reference"]["resource"] = ""  # type: ignore[index]  # a table's own rows, in the standard's words
    schema: dict[str, Any] = {"fields": fields, "missingValues": [""]}
    if any(field.name == "id" for field in table.fields):
        schema["primaryKey"] = "id"
    return schema | ({"foreignKeys": keys} if keys else {})


def _described(field: models.Field[Any, Any]) -> dict[str, Any]:
    kinds: tuple[tuple[tuple[type, ...], str], ...] = (
        ((ArrayField,), "array"),
        ((models.JSONField,), "any"),
        ((models.BooleanField,), "boolean"),
        ((models.IntegerField,), "integer"),
        ((models.FloatField,), "number"),
        ((models.DateTimeField,), "datetime"),
    )
    kind = next((name for types, name in kinds if isinstance(field, types)), "string")
    out: dict[str, Any] = {"name": field.name, "type": kind}
    if kind == "datetime":
        out["format"] = "any"
    if is_id(field):
        out["format"] = "uuid"
    unit = next((unit for ending, unit in UNITS.items() if field.name.endswith(ending)), None)
    if unit is not None:
        out["unit"] = unit
    if field.name in TOLD:
        out["description"] = TOLD[field.name]
    if not field.null and not field.blank and kind not in ("any", "array"):
        out["constraints"] = {"required": True}
    return out
