"""Whom to go and see, in order of how much it matters. Weights are common practice, no source."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass

from galvanic.bench.checks import Finding
from galvanic.bench.class_reference import GroupCell
from galvanic.cells import Cell
from galvanic.notes import Tone
from galvanic.words import lower, say

SILENT_MIN = 8.0
BEHIND_CELLS = 1.0
SHARED_U_V = 0.03  # how far groups' values of one cell lie apart without anything being wrong
FAULT, SHARED, BEHIND, SILENT, UNCHECKED = 100, 80, 50, 40, 10
POSSIBLE = 60
LEAST_OTHERS = 2  # groups, before one is told that its shared cell is off


@dataclass(frozen=True, slots=True)
class GroupState:
    """Where a group is: minutes since the lab opened and since its last entry, cells done and cells due by now.

    `findings`: the latest findings by short name of the cell, of cells whose last reading has any; `shared_off_v` how far
    the group's shared cell lies from the others', V (None: not known).
    """

    group: str
    silent_min: float
    done: int
    due: float
    findings: Sequence[tuple[str, Finding]]
    shared_off_v: float | None
    checked: bool
    finished: bool


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
    silent_min: float,
    checked: bool,
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
    return GroupState(group, silent_min, done, float(due), findings, off, checked, done >= len(work))


@dataclass(frozen=True, slots=True)
class Visit:
    """One reason to go and see a group; `cell` is the short name of a cell, where it is about one."""

    group: str
    code: str
    tone: Tone
    text: str
    weight: int
    cell: str = ""


def visits(states: Sequence[GroupState], most: int = 6) -> list[Visit]:
    """At most one visit a group, the weightiest, and the heaviest first."""
    visits_now = [best for state in states if (best := _of(state)) is not None]
    return sorted(visits_now, key=lambda v: (-v.weight, v.group))[:most]


def _of(state: GroupState) -> Visit | None:
    options = []
    for cell, finding in state.findings:
        weight = FAULT if finding.sure == "likely" else POSSIBLE
        tone: Tone = "wrong" if finding.sure == "likely" else "caution"
        options.append(
            Visit(
                state.group,
                finding.code,
                tone,
                f"{cell}: {lower(finding.title.rstrip('?'))}. {finding.text}",
                weight,
                cell,
            )
        )
    if state.shared_off_v is not None and abs(state.shared_off_v) > 3.0 * SHARED_U_V:
        text = say(
            "The shared cell is {shared_off_v:+.2f} V from the other groups: meter or plates?",
            shared_off_v=state.shared_off_v,
        ).replace("-", "\u2212")
        options.append(Visit(state.group, "shared_off", "caution", text, SHARED))
    behind = state.due - state.done
    if behind > BEHIND_CELLS and not state.finished:
        text = say("{done} cells done, {due:.0f} due by now.", done=state.done, due=state.due)
        options.append(Visit(state.group, "behind", "caution", text, BEHIND + min(20, int(5 * behind))))
    if state.silent_min > SILENT_MIN and not state.finished:
        text = say("No entry for {silent_min:.0f} minutes.", silent_min=state.silent_min)
        options.append(Visit(state.group, "silent", "caution", text, SILENT + min(20, int(state.silent_min))))
    if not state.checked and state.done > 0:
        options.append(Visit(state.group, "unchecked", "plain", say("Measures without a meter check."), UNCHECKED))
    return max(options, key=lambda v: v.weight, default=None)


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
