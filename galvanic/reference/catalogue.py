"""What the chemistry speaks of: half-reactions, plates and liquids, those shipped and those of the teacher around."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass, field
from functools import cache, lru_cache, wraps
from hashlib import sha256
from types import MappingProxyType
from typing import ParamSpec, TypeVar

from galvanic.errors import BadTable, NoTableEntry
from galvanic.reference.bridges import bridges
from galvanic.reference.reader import Range, Reader, Value, read_table
from galvanic.words import language, once, say

P = ParamSpec("P")
R = TypeVar("R")


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
            raise NoTableEntry(self.inert or say("{name} has no entry in the table.", name=self.name))
        return half_reactions()[self.couple].e_v.value

    def table_v_or_none(self) -> float | None:
        """The same, with None for an inert plate."""
        return None if self.couple is None else self.table_v()


@dataclass(frozen=True, slots=True)
class Made:
    """How an own liquid is made: so many mL of a liquid of the catalogue (“water” for none), and what is stirred in, as keys
    of additions or liquids with their g or mL."""

    base: str
    base_ml: float
    steps: tuple[tuple[str, float], ...]


@dataclass(frozen=True, slots=True)
class Electrolyte:
    """A liquid, fruit or soaked card, with pH, conductivity (S/m) and chloride (mol/L) as ranges.

    `acids_mol_per_l` and `ions_mol_per_l` (metal ions, with the `anion` they came with) are total concentrations by key;
    `negative_side` and `positive_side` name the solutions of a two-solution cell, `bridge` what joins them. `made`: the
    recipe of a teacher's own, `oxidants_mol_per_l` by half-reaction.
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
    anion: str | None = None
    bridge: str | None = None
    made: Made | None = None
    oxidants_mol_per_l: Mapping[str, float] = field(default_factory=lambda: MappingProxyType({}))
    eaten: bool = False

    @property
    def food(self) -> bool:
        """Whether somebody might eat or drink it; of what a class has made, nobody can say."""
        return self.eaten or self.form in FOOD_FORMS or self.made is not None


FOOD_FORMS = ("juice", "whole", "card", "acid-card", "paste")
M = TypeVar("M", Electrode, Electrolyte)


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
    sides = [r.take(field, str, None) for field in ("negative_side", "positive_side")]
    bridge = r.take("bridge", str, None)
    if (bridge is None) != (sides == [None, None]) or (bridge is not None and (None in sides or bridge not in bridges())):
        raise r.fail("two solutions need both sides and a bridge of bridges.toml")
    made = r.take("made", dict, None)
    return Electrolyte(
        usual=r.take("usual", bool, False),
        eaten=r.take("eaten", bool, False),
        synonyms=r.texts("synonyms"),
        ph=r.range("ph"),
        conductivity_s_per_m=r.range("conductivity_s_per_m"),
        chloride_mol_per_l=r.range("chloride_mol_per_l"),
        ascorbate_mol_per_l=r.range("ascorbate_mol_per_l") if "ascorbate_mol_per_l" in r.row else None,
        acids_mol_per_l=MappingProxyType(acids),
        ions_mol_per_l=MappingProxyType(ions),
        composition_source=composition,
        negative_side=sides[0],
        positive_side=sides[1],
        anion=r.take("anion", str, None),
        bridge=bridge,
        oxidants_mol_per_l=MappingProxyType(r.take("oxidants_mol_per_l", dict, {})),
        made=None if made is None else Made(made["base"], made["base_ml"], tuple(map(tuple, made["steps"]))),
        **{field: r.take(field, str) for field in ("key", "name", "form")},
    )


@cache
def half_reactions() -> Mapping[str, HalfReaction]:
    """Standard reduction potentials by key, for example `Zn2+/Zn`."""
    return read_table("half_reactions", "half_reaction", build_half_reaction)


@once
def shipped_electrodes() -> Mapping[str, Electrode]:
    """Electrodes that come with the program, by key, in the order of the file."""
    return read_table("electrodes", "electrode", build_electrode)


@once
def shipped_electrolytes() -> Mapping[str, Electrolyte]:
    """Electrolytes that come with the program, by key, in the order of the file."""
    return read_table("electrolytes", "electrolyte", build_electrolyte)


def plate_of(couple: str) -> Electrode | None:
    """The shipped plate that stands for a couple's metal: a pure one where there is one (iron has none: its steel)."""
    every = [plate for plate in shipped_electrodes().values() if plate.couple == couple]
    return min(every, key=lambda plate: (not plate.pure, not plate.usual), default=None)


@dataclass(frozen=True, slots=True)
class Catalogue:
    """The plates and liquids that a computation knows; `own` tells apart catalogues with different own materials."""

    electrodes: Mapping[str, Electrode]
    electrolytes: Mapping[str, Electrolyte]
    own: str


Own = tuple[Iterable[Electrode], Iterable[Electrolyte]]
_around: ContextVar[Callable[[], Catalogue] | None] = ContextVar("catalogue", default=None)


@once
def shipped() -> Catalogue:
    """What comes with the program."""
    return Catalogue(shipped_electrodes(), shipped_electrolytes(), "")


def catalogue() -> Catalogue:
    """What comes with the program and the materials of the `also` around."""
    around = _around.get()
    return shipped() if around is None else around()


def electrodes() -> Mapping[str, Electrode]:
    """Electrodes by key: those shipped, then those of the `also` around."""
    return catalogue().electrodes


def electrolytes() -> Mapping[str, Electrolyte]:
    """Electrolytes by key: those shipped, then those of the `also` around."""
    return catalogue().electrolytes


@contextmanager
def also(own: Callable[[], Own]) -> Iterator[None]:
    """Let electrodes and electrolytes of one's own stand beside the shipped ones, for what runs inside.

    `own` is called when the catalogue is first asked; asking raises BadTable for a key in use.
    """

    @once
    def with_own() -> Catalogue:
        plates, liquids = own()
        plates, liquids = tuple(plates), tuple(liquids)
        return Catalogue(
            _merged(shipped_electrodes(), plates), _merged(shipped_electrolytes(), liquids), _told_apart(*plates, *liquids)
        )

    token = _around.set(with_own)
    try:
        yield
    finally:
        _around.reset(token)


@contextmanager
def beside(*liquids: Electrolyte) -> Iterator[None]:
    """Let liquids that nobody keeps yet stand beside all that is around, for what runs inside. Raises BadTable for a key in
    use."""
    now = catalogue()
    with_them = Catalogue(now.electrodes, _merged(now.electrolytes, liquids), now.own + _told_apart(*liquids))
    token = _around.set(lambda: with_them)
    try:
        yield
    finally:
        _around.reset(token)


def _told_apart(*own: Electrode | Electrolyte) -> str:
    return sha256(repr(own).encode()).hexdigest() if own else ""


def _merged(shipped: Mapping[str, M], own: Iterable[M]) -> Mapping[str, M]:
    merged = dict(shipped)
    for material in own:
        if material.key in merged:
            raise BadTable(f"{material.key} stands twice")
        merged[material.key] = material
    return MappingProxyType(merged)


def kept(maxsize: int) -> Callable[[Callable[P, R]], Callable[P, R]]:
    """Keep the last `maxsize` answers of a function that reads the catalogue: it and the language are part of what is asked.

    Arguments must be hashable. Without own materials all callers share what is kept.
    """

    def around(function: Callable[P, R]) -> Callable[P, R]:
        @lru_cache(maxsize)
        def answers(_own: tuple[str, str], /, *args: P.args, **kwargs: P.kwargs) -> R:
            return function(*args, **kwargs)

        @wraps(function)
        def ask(*args: P.args, **kwargs: P.kwargs) -> R:
            return answers((catalogue().own, language()), *args, **kwargs)  # type: ignore[arg-type]  # what is not hashable raises

        return ask

    return around
