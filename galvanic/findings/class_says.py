"""All that is said of a class's results, in one order: what explains something else speaks, and that is silent."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass

from galvanic.findings.bath_notes import bath_notes
from galvanic.findings.class_notes import class_notes
from galvanic.findings.compare import ClassReading, ElectrolyteResult
from galvanic.findings.group_lists import group_lists, visits
from galvanic.findings.left_out import LeftOutValue, left_out_notes
from galvanic.findings.liquid_notes import liquid_notes
from galvanic.findings.list_notes import list_notes
from galvanic.findings.order_notes import order_notes
from galvanic.findings.ranked import NO_MEASUREMENT, Ranked, is_explained, unexplained
from galvanic.notes import Note
from galvanic.statistics.drift import Shared

OF_LIQUIDS = 11  # after what is said of each liquid by itself


@dataclass(frozen=True)
class ClassSays:
    """The notes of a class, most weighty first: of the class as a whole, and of each result (in the results' order)."""

    of_class: Sequence[Note]
    of_baths: Sequence[Sequence[Note]]
    in_order: Sequence[Note]


def class_says(
    every: Sequence[ClassReading],
    counting: Sequence[ClassReading],
    left_out: Sequence[LeftOutValue],
    results: Sequence[ElectrolyteResult],
    shared: Iterable[Shared] = (),
    checked_v: Mapping[str, float | None] | None = None,
) -> ClassSays:
    """What is to be said of a class.

    `every`: all readings, in the order in which each group took them; `counting`: those that count, likewise; `left_out`:
    the others; `results`: what those that count make; `shared` and `checked_v` as for `class_notes`.
    """
    lists = group_lists(every)
    of_lists = list_notes(lists)
    no_measurement = {group for one in of_lists if one.note.code in NO_MEASUREMENT for group in one.groups}
    of_lists = [*of_lists, *order_notes(lists, visits(counting), results, no_measurement)]
    no_measurement |= {group for one in of_lists if one.note.code == "scale" for group in one.groups}
    open_values = [one for one in left_out if not is_explained(f"left_out_{one.standing.code}", one.group, of_lists)]
    groups = len({one.group for one in every})
    of_class = [
        *of_lists,
        *left_out_notes(open_values, groups, len(every)),
        *class_notes(results, shared, checked_v),
        *(Ranked(OF_LIQUIDS, note) for note in liquid_notes(results)),
    ]
    of_baths: list[Sequence[Ranked]] = [bath_notes(result) for result in results]
    if no_measurement:  # who else is odd is told by the others, once these are put right
        of_class = [one for one in of_class if one.note.code != "offset"]
        of_baths = [
            [one for one in found if one.note.code != "outlier"] if _holds(result, no_measurement) else found
            for found, result in zip(of_baths, results, strict=True)
        ]
    spoken = unexplained([*of_class, *(one for found in of_baths for one in found)])
    said = {id(one) for one in spoken}

    def kept(found: Iterable[Ranked]) -> list[Note]:
        return [one.note for one in sorted(found, key=lambda one: -one.weight) if id(one) in said]

    return ClassSays(kept(of_class), [kept(found) for found in of_baths], [one.note for one in spoken])


def _holds(result: ElectrolyteResult, groups: Collection[str]) -> bool:
    """Whether any of these groups has measured in a result's liquid."""
    return any(group.group in groups for cell in result.cells for group in cell.groups)
