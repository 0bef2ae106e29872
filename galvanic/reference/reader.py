"""Reading the cited tables: a number without a source, an unknown field or a wrong type stops the program here."""

from __future__ import annotations

import tomllib
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from types import MappingProxyType
from typing import Any, TypeVar

from galvanic.errors import BadTable
from galvanic.words import once, say

REFERENCE = Path(__file__).parent
SAID: Mapping[str, tuple[str, ...]] = {
    "addition": ("name", "hazard"),
    "acid": ("name",),
    "bridge": ("name", "long", "prepare"),
    "electrode": ("name", "supplied", "prepare", "inert"),
    "electrolyte": ("name",),
    "fault": ("name", "tries", "mend", "why"),
    "form": ("name",),
    "hazard": ("text", "do", "short", "dispose", "first_aid"),
    "load": ("name",),
    "misconception": ("name", "against", "question"),
    "recipe": ("from", "what", "piece", "divider", "method"),
    "source": ("taken",),
    "step": ("text", "kit", "asks"),
    "symptom": ("seen", "means"),
    "variable": ("set_up", "keep", "hazard"),
}
"""Which fields of which rows are sentences or names, given in the language around. A variable's name and words are not: they
are written into plans and tables, so they are said where they are shown."""
LATER: Mapping[str, tuple[str, ...]] = {"recipe": ("parts", "stock"), "variable": ("name", "words", "unit")}
"""Fields that are said where they are shown: they stand in the catalogues too."""
Row = Mapping[str, Any]
T = TypeVar("T")


@dataclass(frozen=True, slots=True)
class Source:
    """Where numbers come from: title, year, kind (published, definition, estimate, practice), and what is taken."""

    key: str
    title: str
    year: str
    kind: str
    taken: str


@dataclass(frozen=True, slots=True)
class Value:
    """One published number; `u` is one standard uncertainty, 0 if exact, None if the source states none."""

    value: float
    u: float | None
    source: str
    locator: str
    checked: str | None


@dataclass(frozen=True, slots=True)
class Range:
    """A number known as a range, with where the range comes from."""

    low: float
    high: float
    source: str
    locator: str
    checked: str | None


class Reader:
    """Reads the fields of one row and complains by table, row and field."""

    def __init__(self, table: str, row: Row) -> None:
        self.where = f"{table}: {row.get('key', 'a row without key')}"
        self.row = dict(row)

    def fail(self, message: str) -> BadTable:
        return BadTable(f"{self.where}: {message}")

    def take(self, field: str, kind: type | tuple[type, ...], default: Any = ...) -> Any:
        value = self.row.pop(field, default)
        if value is ...:
            raise self.fail(f"{field} is missing")
        if value is not default and (not isinstance(value, kind) or isinstance(value, bool) is not (kind is bool)):
            raise self.fail(f"{field} has the wrong type")
        return value

    def texts(self, field: str) -> tuple[str, ...]:
        values = self.take(field, list)
        if not all(isinstance(item, str) and item for item in values):
            raise self.fail(f"{field} must be a list of words")
        return tuple(values)

    def cited(self, field: str, numbers: tuple[str, ...]) -> dict[str, Any]:
        cited = dict(self.take(field, dict))
        for needed in (*numbers, "source", "locator"):
            if cited.get(needed) in (None, ""):
                raise self.fail(f"{field} has no {needed}")
        unknown = set(cited) - {*numbers, "source", "locator", "checked"}
        if unknown:
            raise self.fail(f"{field} has unknown keys {sorted(unknown)}")
        self.source(cited["source"])
        return {"checked": None, **cited}

    def source(self, key: str) -> str:
        if key not in sources():
            raise self.fail(f"source {key!r} is not in sources.toml")
        return key

    def value(self, field: str) -> Value:
        cited = self.cited(field, ("value", "u"))
        u = None if cited["u"] == "not stated" else cited["u"]
        if u is not None and not (isinstance(u, int | float) and u >= 0):
            raise self.fail(f"{field}: u must be a number from 0 up, or 'not stated'")
        return Value(**{**cited, "u": u})

    def range(self, field: str) -> Range:
        limits = Range(**self.cited(field, ("low", "high")))
        if limits.low > limits.high:
            raise self.fail(f"{field}: low is above high")
        return limits

    def done(self) -> None:
        if self.row:
            raise self.fail(f"unknown keys {sorted(self.row)}")


def read_table(name: str, kind: str, build: Callable[[Reader], T], text: str | None = None) -> Mapping[str, T]:
    """Read `reference/<name>.toml` (or `text`, for tests) into rows by key.

    Raises BadTable on a missing or unknown field, a missing source, a wrong type or a duplicate key.
    """
    document = tomllib.loads(text if text is not None else (REFERENCE / f"{name}.toml").read_text(encoding="utf-8"))
    if not document.get("edition"):
        raise BadTable(f"{name}: edition is missing")
    if "words_source" in document and document["words_source"] not in sources():
        raise BadTable(f"{name}: source {document['words_source']!r} is not in sources.toml")
    rows: dict[str, T] = {}
    for row in document.get(kind, []):
        reader = Reader(name, row | {field: _said(row[field]) for field in SAID.get(kind, ()) if field in row})
        key = reader.take("key", str)
        if key in rows:
            raise BadTable(f"{name}: {key} stands twice")
        reader.row["key"] = key
        rows[key] = build(reader)
        reader.done()
    if not rows:
        raise BadTable(f"{name}: no rows")
    return MappingProxyType(rows)


def _said(value: Any) -> Any:
    if isinstance(value, list):
        return [_said(item) for item in value]
    return say(value) if isinstance(value, str) and value else value


def build_source(r: Reader) -> Source:
    """One row of sources.toml."""
    return Source(*(r.take(field, str) for field in ("key", "title", "year", "kind", "taken")))


@once
def sources() -> Mapping[str, Source]:
    """Every source by key."""
    return read_table("sources", "source", build_source)


@cache
def edition() -> str:
    """The edition of the tables, to be stored with results. Raises BadTable if the files disagree."""
    editions = {tomllib.loads(path.read_text(encoding="utf-8"))["edition"] for path in sorted(REFERENCE.glob("*.toml"))}
    if len(editions) != 1:
        raise BadTable(f"the tables are of different editions: {sorted(editions)}")
    return str(editions.pop())
