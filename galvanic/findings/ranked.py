"""Which note speaks, and which is silent because a stronger one explains it.

One table says which finding explains which. A finding about groups explains what would be said of the same groups; one that
holds for everybody explains what would be said of the whole class.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from galvanic.notes import Note


@dataclass(frozen=True, slots=True)
class Ranked:
    """A note with its weight (the heavier stand first), whom it is about, and whether that is everybody.

    `groups` is empty where a note is about the class.
    """

    weight: int
    note: Note
    groups: frozenset[str] = frozenset()
    everybody: bool = False


OF_A_GROUP = frozenset({"outlier", "offset", "plate_changed", "scale", "repeated"})
OF_READINGS = frozenset(f"left_out_{code}" for code in ("reversed", "millivolts", "comma", "too_high", "beyond"))
OF_THE_LADDER = frozenset(
    {"swapped", "more_swaps", "plate_shift", "loop", "loops_too_few", "closes", "next", "widest_gap", "order", "anchor"}
    | {"no_check", "scatter", "no_drift", "drift", "order_drift", "what_matters", "ph", "loose"}
)
WHOLE_LIST = OF_A_GROUP | OF_READINGS | {"same_numbers", "turned"}

EXPLAINS: Mapping[str, frozenset[str]] = {
    "nothing_read": WHOLE_LIST | {"constant", "copied"},
    "constant": WHOLE_LIST,
    "copied": WHOLE_LIST,
    "noise": WHOLE_LIST,
    "scale": (OF_A_GROUP - {"scale"}) | {"left_out_too_high"},
    "same_numbers": frozenset({"outlier", "left_out_too_high", "plate_changed"}),
    "plate_changed": frozenset({"offset"}),
    "left_out_reversed": frozenset({"turned", "outlier", "offset", "plate_changed"}),
    "left_out_millivolts": frozenset({"left_out_too_high", "left_out_beyond", "left_out_comma", "offset"}),
    "drift": frozenset({"order_drift"}),
    "order_drift": frozenset({"no_drift"}),
}
"""The codes that a finding makes silent, of the groups it is about; of what is about the class, see `unexplained`."""

FALSIFIES = frozenset({"nothing_read", "constant", "copied", "noise", "left_out_reversed", "left_out_millivolts", "turned"})
"""Findings after which, if they hold for everybody, nothing that the ladder says of plates is worth saying."""

NO_MEASUREMENT = frozenset({"nothing_read", "constant", "copied", "noise", "same_numbers"})
"""Findings after which a group's list is no witness of what goes with its order."""


def notes(found: Iterable[Ranked]) -> list[Note]:
    """The notes alone, as they stand."""
    return [one.note for one in found]


def unexplained(found: Iterable[Ranked]) -> list[Ranked]:
    """The findings that no stronger one explains, the heaviest first."""
    every = sorted(found, key=lambda one: -one.weight)
    spoken: list[Ranked] = []
    for one in every:
        if not any(explains(stronger, one) for stronger in spoken):
            spoken.append(one)
    return spoken


def explains(stronger: Ranked, other: Ranked) -> bool:
    """Whether a finding makes another one silent."""
    if stronger is other:
        return False
    if stronger.everybody and stronger.note.code in FALSIFIES and other.note.code in OF_THE_LADDER:
        return True
    if other.note.code not in EXPLAINS.get(stronger.note.code, frozenset()):
        return False
    return stronger.everybody or not other.groups or other.groups <= stronger.groups


def is_explained(code: str, group: str, found: Iterable[Ranked]) -> bool:
    """Whether what would be said of one group is explained by a finding about it."""
    return any(group in one.groups and code in EXPLAINS.get(one.note.code, frozenset()) for one in found)
