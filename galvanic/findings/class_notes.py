"""What a class's results say together: meters that are off, and drift. See `bath_notes` for one electrolyte.

Limits are chosen so that on sound simulated classes fewer than one note in twenty says something that is not so.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace

from galvanic.errors import NotEnoughData
from galvanic.findings.compare import ElectrolyteResult
from galvanic.findings.ranked import Ranked
from galvanic.notes import Note, digits, spread, volts
from galvanic.planning.tell_apart import plate_potentials
from galvanic.reference.catalogue import kept
from galvanic.statistics.drift import Shared, shared_cell_drift
from galvanic.statistics.ladder import Difference
from galvanic.statistics.ladder_checks import Offset, group_offsets
from galvanic.words import say

CLEAR_V = 0.25  # a sign is clear where the model expects so much, its own uncertainty being about 0.1 V
LEAST_TURNED, MOST_RIGHT = 2, 0.2  # cells of a group; share of its signs that may be right
LEAST_OFFSET_V, LEAST_DRIFT_V, LEAST_HELD_V = 0.03, 0.02, 0.05
LEAST_MINUTES = 10.0  # less says nothing about a lesson


def class_notes(
    results: Sequence[ElectrolyteResult],
    shared: Iterable[Shared] = (),
    checked_v: Mapping[str, float | None] | None = None,
) -> list[Ranked]:
    """Notes on the class as a whole: leads the other way round everywhere, meters that are off, drift of the shared cell.

    `shared`: readings of the shared cell with their minutes; `checked_v`: each group's offset by its own meter check, V, as
    taken off already, None for a group without one.
    """
    ranked = [*_turned(results), *_offsets(results, checked_v or {}), *_drift(list(shared))]
    return sorted(ranked, key=lambda one: -one.weight)


def joint_differences(results: Sequence[ElectrolyteResult]) -> list[Difference]:
    """All baths' values as one set: plates of different baths are different rungs, groups are the same."""
    differences = []
    for result in results:
        scatter = result.ladder.scatter if result.ladder else None
        extra = (result.tau_v or 0.0) if scatter is None else scatter.cell_v
        for d in result.fitted:
            if result.bears_out(d.group, (d.red, d.black)):
                rough = () if scatter is None else (scatter.rough.get(d.red, 0.0), scatter.rough.get(d.black, 0.0))
                u_v = math.hypot(d.u_v, extra, *rough)
                differences.append(replace(d, red=_rung(result, d.red), black=_rung(result, d.black), u_v=u_v))
    return differences


def _rung(result: ElectrolyteResult, plate: str) -> str:
    return f"{plate}@{result.electrolyte}|{result.condition}"


def class_offsets(results: Sequence[ElectrolyteResult]) -> tuple[Offset, ...]:
    """Each group's offset against the class, largest first; none where it cannot be told from the plates."""
    return _offsets_of(tuple(results))


@kept(64)  # results are kept too: the same objects while nothing is new
def _offsets_of(results: tuple[ElectrolyteResult, ...]) -> tuple[Offset, ...]:
    kept_v = {
        _rung(result, plate): result.ladder.scatter.plates_v
        for result in results
        if result.ladder is not None and result.ladder.scatter is not None
        for plate in result.ladder.electrodes
    }
    try:
        return tuple(group_offsets(joint_differences(results), kept_v))
    except NotEnoughData:
        return ()


def turned_groups(results: Sequence[ElectrolyteResult]) -> tuple[list[str], int]:
    """Groups whose leads were the other way round in nearly all their cells, and how many groups could be told.

    Each value is held against the rest-potential model, which knows nothing of the class: so all groups may be turned.
    """
    right: dict[str, list[bool]] = {}
    plates = tuple(sorted({plate for result in results for cell in result.cells for plate in cell.cell.pair}))
    known = plate_potentials(plates, tuple(sorted({result.electrolyte for result in results})))
    for result in results:
        for cell in result.cells:
            high, low = (known[result.electrolyte][plate] for plate in (cell.cell.positive, cell.cell.negative))
            if high is None or low is None or abs(high - low) < CLEAR_V:
                continue
            for group in cell.groups:
                if abs(group.summary.mean_v) > CLEAR_V / 2.0:
                    right.setdefault(group.group, []).append(group.summary.mean_v * (high - low) > 0.0)
    told = {group: values for group, values in right.items() if len(values) >= LEAST_TURNED}
    return [group for group, values in told.items() if sum(values) <= MOST_RIGHT * len(values)], len(told)


def _turned(results: Sequence[ElectrolyteResult]) -> list[Ranked]:
    """Leads the other way round in nearly all cells of a group, or of every group: told before anything else."""
    turned, told = turned_groups(results)
    if not turned:
        return []
    everybody = len(turned) == told and told > 1
    who = say("All groups") if everybody else say(" and ").join(sorted(turned))
    title = say("{who}: red and black the other way round?", who=who)
    text = say(
        "In nearly all {those} the sign is the opposite of what these plates do in these liquids. "
        "Turned round, the values would fit. Correct the readings, or set them aside; nothing is "
        "changed for you.",
        those=say("cells") if everybody else say("their cells"),
    )
    evidence = tuple(
        say("{group}: at least {least_turned} cells whose sign is clear", group=group, least_turned=LEAST_TURNED)
        for group in sorted(turned)[:8]
    )
    return [Ranked(95, Note("turned", "wrong", title, text, evidence=evidence), frozenset(turned), everybody)]


def _offsets(results: Sequence[ElectrolyteResult], checked_v: Mapping[str, float | None]) -> list[Ranked]:
    """A group whose every reading lies off by the same amount: a meter that is off."""
    differences, offsets = joint_differences(results), class_offsets(results)
    ranked = []
    for offset in offsets:
        cells = sum(d.group == offset.group for d in differences)
        if abs(offset.volts_v) < LEAST_OFFSET_V or not offset.sure or cells < 3:
            continue
        high = offset.volts_v > 0.0
        checked = checked_v.get(offset.group)
        if offset.group not in checked_v or checked is None:
            check = say("They have no meter check: their leads were never held together.")
        elif abs(checked) > 0.005:
            check = say(
                "Their meter check of {checked} is taken off already, so look at the plates too.",
                checked=volts(checked, 3, signed=True),
            )
        else:
            check = say("Their meter check showed no offset, so look at the plates too.")
        ranked.append(
            Ranked(
                84,
                Note(
                    "offset",
                    "caution",
                    say("{group} reads high", group=offset.group) if high else say("{group} reads low", group=offset.group),
                    say(
                        "By {volts_v} ± {u_v} in all its {cells} cells, whichever way the plates stand. A meter that "
                        "is off does that. {check}",
                        volts_v=volts(abs(offset.volts_v), digits(offset.u_v)),
                        u_v=spread(offset.u_v),
                        cells=cells,
                        check=check,
                    ),
                    evidence=(
                        say(
                            "fitted together with the ladder from {n_differences} values of all groups",
                            n_differences=len(differences),
                        ),
                        *(f"{other.group}: {volts(other.volts_v, 3, signed=True)}" for other in offsets[:8]),
                    ),
                ),
                frozenset({offset.group}),
            )
        )
    return ranked[:3]


def _drift(shared: list[Shared]) -> list[Ranked]:
    """The slope of the shared cell, with its interval: does it move for everybody?"""
    try:
        drift = shared_cell_drift(shared, level=0.99)
    except NotEnoughData:
        return []
    minutes = max(one.minute for one in shared) - min(one.minute for one in shared)
    if minutes < LEAST_MINUTES:
        return []
    over = drift.v_per_hour * minutes / 60.0
    low, high = (volts(v, 3, signed=True) for v in (drift.low_v_per_hour, drift.high_v_per_hour))
    span = say("99 % from {low} to {high}", low=low, high=high)
    if drift.shown and abs(over) > LEAST_DRIFT_V:
        rises = say("rose") if over > 0.0 else say("fell")
        text = say(
            "Over {minutes:.0f} minutes it {rises} by {over}: one slope for all groups, {v_per_hour} an "
            "hour ({span}). Early and late cells are not quite comparable.",
            minutes=minutes,
            rises=rises,
            over=volts(abs(over)),
            v_per_hour=volts(drift.v_per_hour, signed=True),
            span=span,
        )
        return [
            Ranked(
                87,
                Note("drift", "caution", say("The shared cell drifts"), text, evidence=_drift_rows(drift.n, drift.groups)),
            )
        ]
    most = max(abs(drift.low_v_per_hour), abs(drift.high_v_per_hour)) * minutes / 60.0
    text = say(
        "One slope for all groups, {v_per_hour} an hour ({span}): over {minutes:.0f} minutes at most {most}.",
        v_per_hour=volts(drift.v_per_hour, 3, signed=True),
        span=span,
        minutes=minutes,
        most=volts(most, 3),
    )
    tone, title = ("good", say("The shared cell holds still")) if most < LEAST_HELD_V else ("plain", say("No drift is seen"))
    note = Note("no_drift", tone, title, text, evidence=_drift_rows(drift.n, drift.groups))  # type: ignore[arg-type]
    return [Ranked(14, note)]


def _drift_rows(n: int, groups: int) -> tuple[str, ...]:
    return (say("{n} readings of the shared cell by {groups} groups, one slope for all", n=n, groups=groups),)
