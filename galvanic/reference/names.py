"""From the name a person typed to a key of the catalogue."""

from __future__ import annotations

from collections.abc import Mapping
from difflib import get_close_matches
from typing import Protocol, TypeVar

from galvanic.errors import UnknownMaterial


class Named(Protocol):
    """Anything with a key, a name and other names."""

    @property
    def key(self) -> str: ...
    @property
    def name(self) -> str: ...
    @property
    def synonyms(self) -> tuple[str, ...]: ...


Thing = TypeVar("Thing", bound=Named)


def _plain(name: str) -> str:
    return " ".join(name.casefold().replace("-", " ").replace("_", " ").split())


def find(name: str, table: Mapping[str, Thing], what: str) -> Thing:
    """Find a material by key, name or synonym, without regard to case, hyphens or spaces.

    `what` names the kind of thing for the message ("electrode"). Raises UnknownMaterial with the nearest three names.
    """
    known: dict[str, Thing] = {}
    for thing in table.values():
        for word in (thing.key, thing.name, *thing.synonyms):
            known.setdefault(_plain(word), thing)
    match = known.get(_plain(name))
    if match is not None:
        return match
    nearest: dict[str, None] = {}
    for word in get_close_matches(_plain(name), known, n=9, cutoff=0.3):
        nearest.setdefault(known[word].name)
    names = tuple(nearest)[:3]
    hint = f" Nearest: {', '.join(names)}." if names else ""
    shown = name.strip()[:40]
    raise UnknownMaterial(f"No {what} called “{shown}” is in the catalogue.{hint}", names, shown)
