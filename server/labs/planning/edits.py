"""Changing the plan of a draft by hand, and its minutes at any time; the core repairs and says what it changed."""

from __future__ import annotations

import uuid
from collections.abc import Callable, Mapping
from dataclasses import asdict, dataclass, replace

from django.db import transaction

from galvanic.cells import Cell
from galvanic.errors import OutOfRange
from galvanic.planning import replan
from galvanic.planning.decide import decided, made_to_decide
from galvanic.planning.design import Plan, Shared, Task, improve
from galvanic.planning.plan_changes import Laid, what_moved
from galvanic.planning.replan import CannotChange, Change
from galvanic.planning.schedule import Steps
from galvanic.words import number, say, say_n
from server.base.problems import Problem
from server.labs.changes import announce
from server.labs.models import Lab, PlannedCell
from server.labs.planning.history import keep_earlier, take_back
from server.labs.planning.tasks import planned, steps_of, stock_of, wish_out
from server.labs.schemas import EditIn
from server.labs.services import designed, draft_of, groups_with_cells, lab_to_change, replace_cells
from server.people.deeds import keep_deed
from server.people.models import Group, Teacher

MOST_ROUNDS = 20
UNDO, SHORTER = "undo", "shorter"


@dataclass(frozen=True, slots=True)
class Edited:
    """A draft after a change, as it is kept."""

    lab: Lab
    groups: list[Group]
    hands: list[list[PlannedCell]]
    change: Change


@transaction.atomic
def edit_plan(*, actor: Teacher, lab_id: uuid.UUID, edit: EditIn) -> Edited:
    """Change the plan of a draft; returns it with what changed, in sentences.

    Raises Problem: not_found, not_a_draft, or cannot_change with the reason; then nothing is changed.
    """
    lab = draft_of(actor, lab_id)
    groups, hands = groups_with_cells(lab)
    task, plan = planned(lab, groups, hands, stock_of(actor, lab.electrodes))
    names = [group.name for group in groups]
    try:
        if edit.kind == UNDO:
            done = _taken_back(lab, task)
        elif edit.kind == SHORTER:
            done = _shorter(lab, task, plan, edit, names)
        else:
            done = _CHANGES[edit.kind](task, plan, edit, names)
    except CannotChange as error:
        raise Problem(409, error.code, str(error)) from error
    if edit.kind != UNDO and (done.task, done.plan.hands) != (task, plan.hands):
        keep_earlier(lab, hands, done)
    lab.wished = [wish_out(cell, count) for cell, count in done.task.wished.items()]
    if done.steps is not None:
        lab.steps = asdict(done.steps)
    lab.save(update_fields=["wished", "steps"])
    kept = replace_cells(groups, hands, done.task, done.plan)
    return Edited(lab, groups, kept, done)


def _taken_back(lab: Lab, task: Task) -> Change:
    change = take_back(lab, task)
    if change is None:
        raise CannotChange(say("There is no change to take back."))
    return Change(change.task, change.plan, (say("Taken back: {said}", said=change.said),), change.steps)


def _shorter(lab: Lab, task: Task, plan: Plan, edit: EditIn, names: list[str]) -> Change:
    places = edit.places or 0
    if max(map(len, plan.hands), default=0) <= places:
        return Change(task, plan, (say("No list is longer than that."),))  # pressed twice
    steps = steps_of(lab).with_places(places, lab.minutes)
    spare = say("{n} minutes of the period are left for slower groups.", n=number(steps.spare, "g"))
    done = replan.shorter(task, plan, places, names)
    return replace(done, said=(*done.said, spare), steps=steps)


def _cell(task: Task, edit: EditIn) -> Cell:
    """The cell of an edit, its plates in either order. Raises Problem for a cell that is none of this plan's."""
    asked = edit.cell and edit.cell.cell
    cells = [c for c in task.cells if asked and c.bath == asked.bath and set(c.pair) == set(asked.pair)]
    if not cells:
        raise Problem(422, "no_cell", say("That cell does not belong to this plan. Nothing was changed."), field="cell")
    return cells[0]


def _group(number: int | None, names: list[str]) -> int:
    if number is None or not 0 <= number < len(names):
        raise Problem(422, "no_group", say("Say which group."), field="group")
    return number


def _more(task: Task, plan: Plan, edit: EditIn, names: list[str]) -> Change:
    said: tuple[str, ...] = ()
    done = Change(task, plan, said)
    for _ in range(edit.times):
        done = replan.more(done.task, done.plan, _cell(task, edit), names)
        said += done.said
    return replace(done, said=said)


def _fewer(task: Task, plan: Plan, edit: EditIn, names: list[str]) -> Change:
    return replan.fewer(task, plan, _cell(task, edit), names, None if edit.group is None else _group(edit.group, names))


def _move(task: Task, plan: Plan, edit: EditIn, names: list[str]) -> Change:
    return replan.move(task, plan, _cell(task, edit), _group(edit.group, names), _group(edit.to, names), names)


def _ban(task: Task, plan: Plan, edit: EditIn, names: list[str]) -> Change:
    return replan.ban(task, plan, _cell(task, edit))


def _pin(task: Task, plan: Plan, edit: EditIn, names: list[str]) -> Change:
    cell, group = _cell(task, edit), _group(edit.group, names)
    if cell not in plan.hands[group]:
        raise CannotChange(say("{names} does not measure {short}.", names=names[group], short=cell.short))
    kept = tuple(c for c in task.pinned.get(group, ()) if c != cell)
    adding = cell not in task.pinned.get(group, ())
    pinned = {**task.pinned, group: (*kept, cell) if adding else kept}
    said = (
        say("{short} stays with {group}.", short=cell.short, group=names[group])
        if adding
        else say("{short} may move from {group}.", short=cell.short, group=names[group])
    )
    return Change(replace(task, pinned=pinned), plan, (said,))


def _unwish(task: Task, plan: Plan, edit: EditIn, names: list[str]) -> Change:
    cell = _cell(task, edit)
    wished = {c: n for c, n in task.wished.items() if c != cell}
    return Change(
        replace(task, wished=wished), plan, (say("How often {short} is measured is free again.", short=cell.short),)
    )


def _fill(task: Task, plan: Plan, edit: EditIn, names: list[str]) -> Change:
    return replan.fill_free(task, plan, names)


def _anew(task: Task, plan: Plan, edit: EditIn, names: list[str]) -> Change:
    settled = task.resettled()
    made = designed(settled)
    kept = sum(len(cells) for cells in task.pinned.values()) + len(task.wished)
    around = say_n(" around {n} pinned or wished cell", " around {n} pinned or wished cells", kept) if kept else ""
    moved = what_moved(Laid(task, plan, names), Laid(settled, made, names))
    return Change(
        settled,
        made,
        (say("The plan is made anew{around}.", around=around), *(moved or (say("It is the same as before."),))),
    )


def _apart(task: Task, plan: Plan, edit: EditIn, names: list[str]) -> Change:
    if plan.shared is None:
        return Change(task, plan, (say("This plan has no cell that every group measures."),))  # pressed twice
    parted = replace(task, held=Shared(None))
    said = say("No cell is everybody’s any more. “Plan anew” brings {short} back.", short=plan.shared.short)
    return Change(parted, designed(parted), (said,))


def _decide(task: Task, plan: Plan, edit: EditIn, names: list[str]) -> Change:
    before, made = decided(plan.hands), made_to_decide(task, plan)
    if before is None:
        raise CannotChange(say("No two accounts answer these cells, so there is nothing to decide between."))
    if made is None:
        return Change(task, plan, (say("No plan of these plates decides more often: in {n} of 100.", n=round(before)),))
    asked, plan_then = made
    cells = ", ".join(cell.short for cell in asked.wished if asked.wished[cell] != task.wished.get(cell))
    after = decided(plan_then.hands) or 0.0
    said = say(
        "The accounts part most on {cells}: with those, {after} of 100 classes decide instead of {before}.",
        cells=cells, after=round(after), before=round(before),
    )  # fmt: skip
    return Change(asked, plan_then, (said, *what_moved(Laid(task, plan, names), Laid(asked, plan_then, names))))


def _clear(task: Task, plan: Plan, edit: EditIn, names: list[str]) -> Change:
    n = len(task.wished)
    if not n:
        raise CannotChange(say("You have asked for no numbers."))
    pinned = sum(len(cells) for cells in task.pinned.values())
    said = say_n("{n} number you asked for is free again.", "{n} numbers you asked for are free again.", n)
    if pinned:
        stay = say_n("{n} pinned cell stays where it is.", "{n} pinned cells stay where they are.", pinned)
        said = f"{said} {stay}"
    return Change(replace(task, wished={}), plan, (said,))


def _improve(task: Task, plan: Plan, edit: EditIn, names: list[str]) -> Change:
    better = improve(task, plan, max(1, min(edit.round, MOST_ROUNDS)))
    if better is plan:
        return Change(task, plan, ())
    gain = (
        say("variance {variance:.1f} % lower", variance=100.0 * (1.0 - better.variance / plan.variance))
        if better.variance < plan.variance
        else ""
    )
    changes = say("{changes} changes fewer", changes=plan.changes - better.changes) if better.changes < plan.changes else ""
    moved = what_moved(Laid(task, plan, names), Laid(task, better, names))
    return Change(task, better, (say("A better plan: ") + ", ".join(one for one in (gain, changes) if one) + ".", *moved))


_CHANGES: Mapping[str, Callable[[Task, Plan, EditIn, list[str]], Change]] = {
    "more": _more,
    "fewer": _fewer,
    "drop": _fewer,
    "move": _move,
    "ban": _ban,
    "pin": _pin,
    "unwish": _unwish,
    "clear": _clear,
    "fill": _fill,
    "anew": _anew,
    "apart": _apart,
    "decide": _decide,
    "improve": _improve,
}


@transaction.atomic
def set_times(*, actor: Teacher, lab_id: uuid.UUID, minutes: int, steps: Mapping[str, float]) -> Lab:
    """Set the minutes of a lab, also of an open one (a late start, a break); its cells stay, and the notes say what fits.

    Raises Problem: not_found, or out_of_range.
    """
    lab = lab_to_change(actor, lab_id)
    try:
        lab.steps = asdict(Steps(**steps))
    except OutOfRange as error:
        raise Problem(422, error.code, str(error), field="steps") from error
    lab.minutes = minutes
    lab.save(update_fields=["minutes", "steps"])
    keep_deed(actor, "minutes", lab, f"{lab.minutes}")
    announce(lab.id)
    return lab
