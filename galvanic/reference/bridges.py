"""What joins two solutions: bridges.toml."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from galvanic.reference.reader import Range, Reader, read_table
from galvanic.words import once


@dataclass(frozen=True, slots=True)
class Bridge:
    """A bridge: the ions it is filled with (mol/L; empty: the two solutions meet in it), its resistance in Ω, how to use it.

    `long` is what the kit lists, `synonyms` are there so that it is found like any material.
    """

    key: str
    name: str
    long: str
    salt: Mapping[str, float]
    ohm: Range
    prepare: str
    synonyms: tuple[str, ...] = ()


def _bridge(r: Reader) -> Bridge:
    return Bridge(
        r.take("key", str),
        r.take("name", str),
        r.take("long", str),
        MappingProxyType(r.take("salt", dict)),
        r.range("ohm"),
        r.take("prepare", str),
    )


@once
def bridges() -> Mapping[str, Bridge]:
    """Bridges by key."""
    return read_table("bridges", "bridge", _bridge)
