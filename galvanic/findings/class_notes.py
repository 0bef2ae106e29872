"""What a class's results say together: meters that are off, and drift. See `bath_notes` for one electrolyte.

Limits are chosen so that on sound simulated classes fewer than one note in twenty says something that is not so.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace

from galvanic.errors import NotEnoughData
from galvanic.findings.bath_notes import SURE_SIGMA, Ranked
from galvanic.findings.compare import ElectrolyteResult
from galvanic.notes import Note, spread, volts
from galvanic.statistics.drift import Shared, shared_cell_drift
from galvanic.statistics.ladder import Difference
from galvanic.statistics.ladder_checks import group_offsets

LEAST_OFFSET_V, LEAST_DRIFT_V = 0.03, 0.02


def class_notes(
    results: Sequence[ElectrolyteResult],
    shared: Iterable[Shared] = (),
    checked_v: Mapping[str, float | None] | None = None,
) -> list[Note]:
    """Notes on the class as a whole: meters that are off, drift of the shared cell.

    `shared`: readings of the shared cell with their minutes; `checked_v`: each group's offset by its own meter check, V, as
    taken off already, None for a group without one.
    """
    found = [*_offsets(results, checked_v or {}), *_drift(list(shared))]
    return [one.note for one in sorted(found, key=lambda one: -one.weight)]


def joint_differences(results: Sequence[ElectrolyteResult]) -> list[Difference]:
    """All baths' values as one set: plates of different baths are different rungs, groups are the same."""
    found = []
    for result in results:
        bath = f"{result.electrolyte}|{result.condition}"
        for d in result.fitted:
            if result.bears_out(d.group, (d.red, d.black)):
                u_v = math.hypot(d.u_v, result.tau_v or 0.0)
                found.append(replace(d, red=f"{d.red}@{bath}", black=f"{d.black}@{bath}", u_v=u_v))
    return found


def _offsets(results: Sequence[ElectrolyteResult], checked_v: Mapping[str, float | None]) -> list[Ranked]:
    """A group whose every reading lies off by the same amount: a meter that is off."""
    differences = joint_differences(results)
    try:
        offsets = group_offsets(differences)
    except NotEnoughData:
        return []
    found = []
    for offset in offsets:
        cells = sum(d.group == offset.group for d in differences)
        if abs(offset.volts_v) < max(LEAST_OFFSET_V, SURE_SIGMA * offset.u_v) or cells < 3:
            continue
        high = offset.volts_v > 0.0
        checked = checked_v.get(offset.group)
        if offset.group not in checked_v or checked is None:
            check = "They have no meter check: their leads were never held together."
        elif abs(checked) > 0.005:
            check = f"Their meter check of {volts(checked, 3, signed=True)} is taken off already, so look at the plates too."
        else:
            check = "Their meter check showed no offset, so look at the plates too."
        found.append(
            Ranked(
                75,
                Note(
                    "offset",
                    "caution",
                    f"{offset.group} reads {'high' if high else 'low'}",
                    f"By {volts(abs(offset.volts_v))} ± {spread(offset.u_v)} in all its {cells} cells, whichever way the "
                    f"plates stand. A meter that is off does that. {check}",
                    evidence=(
                        f"fitted together with the ladder from {len(differences)} values of all groups",
                        *(f"{other.group}: {volts(other.volts_v, 3, signed=True)}" for other in offsets[:8]),
                    ),
                ),
            )
        )
    return found[:3]


def _drift(shared: list[Shared]) -> list[Ranked]:
    """The shared cell read first and last: does it move for everybody?"""
    try:
        drift = shared_cell_drift(shared, level=0.99)
    except NotEnoughData:
        return []
    minutes = max(one.minute for one in shared) - min(one.minute for one in shared)
    over = drift.v_per_hour * minutes / 60.0
    if drift.shown and abs(over) > LEAST_DRIFT_V:
        rises = "rose" if over > 0.0 else "fell"
        text = (
            f"From first to last it {rises} by {volts(abs(over))} for all groups together, "
            f"{volts(drift.v_per_hour, signed=True)} an hour. Early and late cells are not quite comparable."
        )
        return [
            Ranked(60, Note("drift", "caution", "The shared cell drifts", text, evidence=_drift_rows(drift.n, drift.groups)))
        ]
    text = (
        f"First and last agree within {volts(abs(drift.u_v_per_hour) * minutes / 60.0 * 2, 3)}: early and late cells can be "
        "compared."
    )
    return [
        Ranked(
            14, Note("no_drift", "good", "The shared cell holds still", text, evidence=_drift_rows(drift.n, drift.groups))
        )
    ]


def _drift_rows(n: int, groups: int) -> tuple[str, ...]:
    return (f"{n} readings of the shared cell by {groups} groups, one slope for all",)
