"""Whom to go and see, in order of what a visit saves.

What it saves is counted in readings: how many are at stake, times how likely the visit puts them right. The shares are
common practice, no source.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass

from galvanic.bench.checks import Finding
from galvanic.bench.class_reference import GroupCell
from galvanic.cells import Cell
from galvanic.notes import Tone
from galvanic.words import lower, mark, say

SILENT_MIN = 8.0
BEHIND_CELLS = 1.0
SHARED_U_V = 0.03  # how far groups' values of one cell lie apart without anything being wrong
LEAST_OTHERS = 2  # groups, before one is told that its shared cell is off
SHOWN = 6  # visits at a time: more than that nobody can make
# Of the readings at stake, what a visit puts right.
LIKELY, POSSIBLE, GOES_ON = 0.9, 0.4, 0.5  # GOES_ON: of the cells to come, those that would have the same fault
METER_FAILED, METER_POOR, UNCHECKED = 0.9, 0.3, 0.05
SHARED, BEHIND, SILENT = 0.35, 0.8, 0.5


OF_CLASS = {
    "behind": mark(
        "{n} of {groups} groups have fewer cells than are due by now: the time is short for all. Give minutes, or leave out "
        "the last cell."
    ),
    "silent": mark(
        "{n} of {groups} groups have sent nothing for a while. Is the network there, and is everybody still measuring?"
    ),
    "unchecked": mark("{n} of {groups} groups measure without a meter check. It takes a minute: leads together, dry cell."),
}


@dataclass(frozen=True, slots=True)
class GroupState:
    """Where a group is: minutes since its last entry, cells done, left to do and due by now, and readings wanted of each.

    `cell_min`: what a cell takes by the plan; `findings`: the latest findings by what its cell is called, of cells whose
    last reading has any; `shared_off_v`: how far the group's shared cell lies from the others', V (None: not known);
    `meter`: tone and verdict of its latest check (None: not checked).
    """

    group: str
    silent_min: float
    done: int
    left: int
    due: float
    wanted: int
    cell_min: float
    findings: Sequence[tuple[str, Finding]]
    shared_off_v: float | None
    meter: tuple[Tone, str] | None


@dataclass(frozen=True, slots=True)
class Work:
    """One cell on a group's list: how many of its readings count, their mean in V (None without one), and whether every
    group has it."""

    cell: Cell
    readings: int
    mean_v: float | None
    shared: bool


def state_of(
    group: str,
    work: Sequence[Work],
    *,
    wanted: int,
    due: int,
    cell_min: float,
    silent_min: float,
    meter: tuple[Tone, str] | None,
    findings: Sequence[tuple[str, Finding]],
    values: Sequence[GroupCell],
    expected_v: Callable[[Cell], float],
) -> GroupState:
    """Where a group is. `values`: the groups' sound values; `group` is its name among them; `expected_v` of its cells."""
    done = sum(step.readings >= wanted for step in work)
    shared = next((step for step in work if step.shared), None)
    off = None
    if shared is not None and shared.mean_v is not None:
        others = sum(value.cell == shared.cell and value.group != group for value in values)
        off = shared.mean_v - expected_v(shared.cell) if others >= LEAST_OTHERS else None
    return GroupState(group, silent_min, done, len(work) - done, float(due), wanted, cell_min, findings, off, meter)


@dataclass(frozen=True, slots=True)
class Reason:
    """One reason to go and see a group, and the readings that a visit saves; `cell`: what its cell is called, if it is about
    one."""

    code: str
    tone: Tone
    text: str
    saves: float
    cell: str = ""


@dataclass(frozen=True, slots=True)
class Visit:
    """A group to go and see, and why: the weightiest reason first."""

    group: str
    reasons: tuple[Reason, ...]

    @property
    def saves(self) -> float:
        """Readings that the visit saves: what one reason has at stake the others have, too."""
        return self.reasons[0].saves


def visits(states: Sequence[GroupState]) -> list[Visit]:
    """One visit for each group that there is a reason to see; the one that saves the most first."""
    all_reasons = {state.group: tuple(sorted(_reasons(state), key=lambda one: -one.saves)) for state in states}
    found = [Visit(group, reasons) for group, reasons in all_reasons.items() if reasons]
    return sorted(found, key=lambda visit: (-visit.saves, visit.group))


def of_most(found: Sequence[Visit], groups: int) -> tuple[list[Reason], list[Visit]]:
    """What more than half of the groups have in common, said once of the class; and the visits without it."""
    have = Counter(one.code for visit in found for one in visit.reasons if one.code in OF_CLASS)
    common = {code: n for code, n in have.items() if 2 * n > groups > 1}
    said = [Reason(code, "caution", say(OF_CLASS[code], n=n, groups=groups), 0.0) for code, n in common.items()]
    left = (Visit(v.group, tuple(one for one in v.reasons if one.code not in common)) for v in found)
    return said, sorted((visit for visit in left if visit.reasons), key=lambda visit: (-visit.saves, visit.group))


def _reasons(state: GroupState) -> list[Reason]:
    every = (state.done + state.left) * state.wanted
    reasons = [*_faults(state)]
    if state.meter is not None and (tone := state.meter[0]) != "good":
        share = METER_FAILED if tone == "wrong" else METER_POOR
        reasons.append(Reason("meter", tone, say("Meter: {verdict}", verdict=state.meter[1]), share * every))
    if state.shared_off_v is not None and abs(state.shared_off_v) > 3.0 * SHARED_U_V:
        text = say(
            "The shared cell is {shared_off_v:+.2f} V from the other groups: meter or plates?",
            shared_off_v=state.shared_off_v,
        ).replace("-", "\u2212")
        reasons.append(Reason("shared_off", "caution", text, SHARED * every))
    behind = state.due - state.done
    if behind > BEHIND_CELLS and state.left:
        text = say("{done} cells done, {due:.0f} due by now.", done=state.done, due=state.due)
        reasons.append(Reason("behind", "caution", text, BEHIND * min(behind, state.left) * state.wanted))
    if state.silent_min > SILENT_MIN and state.left:
        text = say("No entry for {silent_min:.0f} minutes.", silent_min=state.silent_min)
        missed = min(state.silent_min / state.cell_min, state.left)
        reasons.append(Reason("silent", "caution", text, SILENT * missed * state.wanted))
    if state.meter is None and state.done > 0:
        reasons.append(Reason("unchecked", "plain", say("Measures without a meter check."), UNCHECKED * every))
    return reasons


def _faults(state: GroupState) -> list[Reason]:
    """What the checks say of the last readings. A fault at several cells is one fault, and likely to be at the next."""
    alike = Counter(finding.code for _, finding in state.findings)
    return [
        Reason(
            finding.code,
            "wrong" if finding.sure == "likely" else "caution",
            f"{cell}: {lower(finding.whole)}",
            (LIKELY if finding.sure == "likely" else POSSIBLE) * (alike[finding.code] + GOES_ON * state.left) * state.wanted,
            cell,
        )
        for cell, finding in state.findings
    ]


def sound_values(values: Sequence[GroupCell], wrong: Collection[tuple[str, Cell]]) -> list[GroupCell]:
    """The groups' values by which the others are judged, without those that are `wrong` (group, cell) by the account alone:
    a swapped lead in one group must not make another look wrong.

    Where more than half of a cell's groups are wrong by the account, the account is what is wrong, and all of them stay.
    """
    groups, bad = Counter(value.cell for value in values), Counter(cell for _, cell in set(wrong))
    return [value for value in values if (value.group, value.cell) not in wrong or 2 * bad[value.cell] > groups[value.cell]]


@dataclass(frozen=True, slots=True)
class Left:
    """One cell on a group's list, and whether the group has begun it; the shared cell stays with every group."""

    cell: Cell
    begun: bool
    shared: bool = False


def relief(behind: str, lists: Mapping[str, Sequence[Left]], late: Collection[str]) -> tuple[int, str] | None:
    """What would help a group that is behind: the place on its list of a cell to give away, and the group to give it to.

    It is its last cell that is not begun, and goes to whoever has the fewest cells to begin, is not `late` too and does not
    have this cell. `lists`: groups in order with their cells in order. None where there is nothing or nobody.
    """
    own = lists[behind]
    place = max((k for k, one in enumerate(own) if not one.shared and not one.begun), default=None)
    if place is None:
        return None
    free = {
        group: sum(not cell.begun for cell in cells)
        for group, cells in lists.items()
        if group not in late and all(cell.cell != own[place].cell for cell in cells)
    }
    return (place, min(free, key=free.__getitem__)) if free else None
