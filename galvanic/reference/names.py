"""From the name a person typed to a key of the catalogue."""

from __future__ import annotations

from collections.abc import Mapping
from difflib import get_close_matches
from typing import Protocol, TypeVar

from galvanic.errors import UnknownMaterial
from galvanic.words import in_all_languages, mark, say

KINDS = (
    mark("electrode"), mark("electrolyte"), mark("load"), mark("metal"), mark("variable"), mark("addition"), mark("liquid"),
)  # fmt: skip
"""What is looked for, by the word in the code."""


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


def _in_other_words(name: str, table: Mapping[str, Thing]) -> Thing | None:
    """The thing that has this name in another language: a table made in one is read in all."""
    return next(
        (thing for thing in table.values() if any(_plain(other) == name for other in in_all_languages(thing.name))), None
    )


def find(name: str, table: Mapping[str, Thing], what: str) -> Thing:
    """Find a material by key, name or synonym, without regard to case, hyphens or spaces.

    `what` names the kind of thing for the message ("electrode"). Raises UnknownMaterial with the nearest three names.
    """
    known: dict[str, Thing] = {}
    for thing in table.values():
        for word in (thing.key, thing.name, *thing.synonyms):
            known.setdefault(_plain(word), thing)
    match = known.get(_plain(name)) or _in_other_words(_plain(name), table)
    if match is not None:
        return match
    nearest: dict[str, None] = {}
    for word in get_close_matches(_plain(name), known, n=9, cutoff=0.3):
        nearest.setdefault(known[word].name)
    names = tuple(nearest)[:3]
    hint = say(" Nearest: {names}.", names=", ".join(names)) if names else ""
    shown = name.strip()[:40]
    raise UnknownMaterial(
        say("No {what} called “{shown}” is in the catalogue.{hint}", what=say(what), shown=shown, hint=hint), names, shown
    )
