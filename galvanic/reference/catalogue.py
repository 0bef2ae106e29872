"""The cited data tables, loaded once and checked on loading: a number without a source stops the program here."""

from __future__ import annotations

import tomllib
from collections.abc import Callable, Iterable, Iterator, Mapping
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from types import MappingProxyType
from typing import Any, TypeVar

from galvanic.errors import BadTable, NoTableEntry

REFERENCE = Path(__file__).parent
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


@dataclass(frozen=True, slots=True)
class HalfReaction:
    """A reduction: potential at 298.15 K in V against hydrogen, its slope in V/K, dissolved species by count."""

    key: str
    equation: str
    electrons: int
    oxidised: Mapping[str, float]
    reduced: Mapping[str, float]
    e_v: Value
    de_dt_v_per_k: Value | None
    spread_v: tuple[float, float] | None
    spread_source: str | None


@dataclass(frozen=True, slots=True)
class Electrode:
    """A plate as a teacher has it; exactly one of `couple` (a half-reaction's key) and `inert` (why none) is set.

    `surface` and `beneath` (under a coating) are keys of kinetics.toml; `usual` is what most school cupboards hold; `pure`
    is the metal of its couple all the way through, neither alloyed nor coated.
    """

    key: str
    symbol: str
    name: str
    supplied: str
    couple: str | None
    inert: str | None
    surface: str
    usual: bool
    pure: bool
    beneath: str | None
    price: str
    synonyms: tuple[str, ...]
    prepare: str

    def table_v(self) -> float:
        """Standard potential of the couple, V against hydrogen at 298.15 K. Raises NoTableEntry for an inert plate."""
        if self.couple is None:
            raise NoTableEntry(self.inert or f"{self.name} has no entry in the table.")
        return half_reactions()[self.couple].e_v.value

    def table_v_or_none(self) -> float | None:
        """The same, with None for an inert plate."""
        return None if self.couple is None else self.table_v()


@dataclass(frozen=True, slots=True)
class Electrolyte:
    """A liquid, fruit or soaked card, with pH, conductivity (S/m) and chloride (mol/L) as ranges.

    `acids_mol_per_l` and `ions_mol_per_l` are total concentrations by key; `negative_side` and `positive_side` name the
    solutions of a two-solution cell.
    """

    key: str
    name: str
    form: str
    usual: bool
    synonyms: tuple[str, ...]
    ph: Range
    conductivity_s_per_m: Range
    chloride_mol_per_l: Range
    ascorbate_mol_per_l: Range | None
    acids_mol_per_l: Mapping[str, float]
    ions_mol_per_l: Mapping[str, float]
    composition_source: str | None
    negative_side: str | None
    positive_side: str | None


M = TypeVar("M", Electrode, Electrolyte)


class Reader:
    """Reads the fields of one row and complains by table, row and field."""

    def __init__(self, table: str, row: Row) -> None:
        self.where = f"{table}: {row.get('key', 'a row without key')}"
        self.row = dict(row)

    def fail(self, message: str) -> BadTable:
        return BadTable(f"{self.where}: {message}")

    def take(self, field: str, kind: type | tuple[type, ...], default: Any = ...) -> Any:
        found = self.row.pop(field, default)
        if found is ...:
            raise self.fail(f"{field} is missing")
        if found is not default and (not isinstance(found, kind) or isinstance(found, bool) is not (kind is bool)):
            raise self.fail(f"{field} has the wrong type")
        return found

    def texts(self, field: str) -> tuple[str, ...]:
        found = self.take(field, list)
        if not all(isinstance(item, str) and item for item in found):
            raise self.fail(f"{field} must be a list of words")
        return tuple(found)

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
        found = Range(**self.cited(field, ("low", "high")))
        if found.low > found.high:
            raise self.fail(f"{field}: low is above high")
        return found

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
        reader = Reader(name, row)
        key = reader.take("key", str)
        if key in rows:
            raise BadTable(f"{name}: {key} stands twice")
        reader.row["key"] = key
        rows[key] = build(reader)
        reader.done()
    if not rows:
        raise BadTable(f"{name}: no rows")
    return MappingProxyType(rows)


def build_source(r: Reader) -> Source:
    """One row of sources.toml."""
    return Source(*(r.take(field, str) for field in ("key", "title", "year", "kind", "taken")))


def build_half_reaction(r: Reader) -> HalfReaction:
    """One row of half_reactions.toml."""
    spread = r.take("spread_v", list, None)
    spread_source = r.take("spread_source", str, None)
    if (spread is None) != (spread_source is None):
        raise r.fail("spread_v and spread_source go together")
    return HalfReaction(
        key=r.take("key", str),
        equation=r.take("equation", str),
        electrons=r.take("electrons", int),
        oxidised=MappingProxyType(r.take("oxidised", dict)),
        reduced=MappingProxyType(r.take("reduced", dict)),
        e_v=r.value("e_v"),
        de_dt_v_per_k=r.value("de_dt_v_per_k") if "de_dt_v_per_k" in r.row else None,
        spread_v=None if spread is None else (float(spread[0]), float(spread[1])),
        spread_source=None if spread_source is None else r.source(spread_source),
    )


def build_electrode(r: Reader) -> Electrode:
    """One row of electrodes.toml."""
    couple, inert = r.take("couple", str, None), r.take("inert", str, None)
    if (couple is None) == (inert is None):
        raise r.fail("exactly one of couple and inert is needed")
    if couple is not None and couple not in half_reactions():
        raise r.fail(f"couple {couple!r} is not in half_reactions.toml")
    return Electrode(
        couple=couple,
        inert=inert,
        beneath=r.take("beneath", str, None),
        usual=r.take("usual", bool, False),
        pure=r.take("pure", bool, False),
        synonyms=r.texts("synonyms"),
        **{field: r.take(field, str) for field in ("key", "symbol", "name", "supplied", "surface", "price", "prepare")},
    )


def build_electrolyte(r: Reader) -> Electrolyte:
    """One row of electrolytes.toml."""
    acids, ions = r.take("acids_mol_per_l", dict, {}), r.take("ions_mol_per_l", dict, {})
    composition = r.take("composition_source", str, None)
    if (acids or ions) and r.source(composition or "") is None:
        raise r.fail("a composition needs its source")
    return Electrolyte(
        usual=r.take("usual", bool, False),
        synonyms=r.texts("synonyms"),
        ph=r.range("ph"),
        conductivity_s_per_m=r.range("conductivity_s_per_m"),
        chloride_mol_per_l=r.range("chloride_mol_per_l"),
        ascorbate_mol_per_l=r.range("ascorbate_mol_per_l") if "ascorbate_mol_per_l" in r.row else None,
        acids_mol_per_l=MappingProxyType(acids),
        ions_mol_per_l=MappingProxyType(ions),
        composition_source=composition,
        negative_side=r.take("negative_side", str, None),
        positive_side=r.take("positive_side", str, None),
        **{field: r.take(field, str) for field in ("key", "name", "form")},
    )


@cache
def sources() -> Mapping[str, Source]:
    """Every source by key."""
    return read_table("sources", "source", build_source)


@cache
def half_reactions() -> Mapping[str, HalfReaction]:
    """Standard reduction potentials by key, for example `Zn2+/Zn`."""
    return read_table("half_reactions", "half_reaction", build_half_reaction)


@cache
def shipped_electrodes() -> Mapping[str, Electrode]:
    """Electrodes that come with the program, by key, in the order of the file."""
    return read_table("electrodes", "electrode", build_electrode)


@cache
def shipped_electrolytes() -> Mapping[str, Electrolyte]:
    """Electrolytes that come with the program, by key, in the order of the file."""
    return read_table("electrolytes", "electrolyte", build_electrolyte)


Tables = tuple[Mapping[str, Electrode], Mapping[str, Electrolyte]]
Own = tuple[Iterable[Electrode], Iterable[Electrolyte]]
_tables: ContextVar[Callable[[], Tables] | None] = ContextVar("tables", default=None)


def electrodes() -> Mapping[str, Electrode]:
    """Electrodes by key: those shipped, then those of the `also` around."""
    tables = _tables.get()
    return shipped_electrodes() if tables is None else tables()[0]


def electrolytes() -> Mapping[str, Electrolyte]:
    """Electrolytes by key: those shipped, then those of the `also` around."""
    tables = _tables.get()
    return shipped_electrolytes() if tables is None else tables()[1]


@contextmanager
def also(own: Callable[[], Own]) -> Iterator[None]:
    """Let electrodes and electrolytes of one's own stand beside the shipped ones, for what runs inside.

    `own` is called when the catalogue is first asked; asking raises BadTable for a key in use.
    """

    @cache
    def tables() -> Tables:
        plates, liquids = own()
        return _with_own(shipped_electrodes(), plates), _with_own(shipped_electrolytes(), liquids)

    token = _tables.set(tables)
    try:
        yield
    finally:
        _tables.reset(token)


def _with_own(shipped: Mapping[str, M], own: Iterable[M]) -> Mapping[str, M]:
    merged = dict(shipped)
    for material in own:
        if material.key in merged:
            raise BadTable(f"{material.key} stands twice")
        merged[material.key] = material
    return MappingProxyType(merged)


@cache
def edition() -> str:
    """The edition of the tables, to be stored with results. Raises BadTable if the files disagree."""
    found = {tomllib.loads(path.read_text(encoding="utf-8"))["edition"] for path in sorted(REFERENCE.glob("*.toml"))}
    if len(found) != 1:
        raise BadTable(f"the tables are of different editions: {sorted(found)}")
    return str(found.pop())
