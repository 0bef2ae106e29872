"""Taking back the latest changes of a draft's plan, one after the other."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict, dataclass, replace

from galvanic.cells import Cell
from galvanic.planning.design import Plan, Shared, Task, judge
from galvanic.planning.replan import Change
from galvanic.planning.schedule import Steps
from server.labs.models import EarlierPlan, Lab, PlannedCell
from server.labs.planning.tasks import wish_in

MOST_EARLIER = 20


@dataclass(frozen=True, slots=True)
class TakenBack:
    """A plan as it was before a change, and what that change had done; the minutes of then where it changed those."""

    task: Task
    plan: Plan
    said: str
    steps: Steps | None


def keep_earlier(lab: Lab, hands: Sequence[Sequence[PlannedCell]], change: Change) -> None:
    """Keep a lab's plan that is about to be changed, with what the change does; the oldest beyond 20 go."""
    rows = [[asdict(cell.cell) | {"pinned": cell.pinned, "shared": cell.shared} for cell in hand] for hand in hands]
    steps = lab.steps if change.steps else None
    EarlierPlan.objects.create(lab=lab, said=" ".join(change.said), wished=list(lab.wished), hands=rows, steps=steps)
    old = EarlierPlan.objects.filter(lab=lab).values_list("id", flat=True)[MOST_EARLIER:]
    EarlierPlan.objects.filter(id__in=list(old)).delete()


def last_change(lab: Lab) -> str | None:
    """What the latest change that can be taken back did; None where there is none."""
    if lab.state != Lab.State.DRAFT:
        return None
    return EarlierPlan.objects.filter(lab=lab).values_list("said", flat=True).first()


def take_back(lab: Lab, task: Task) -> TakenBack | None:
    """The plan before the latest change, which is forgotten; `task` is the plan's of now. None where there is none."""
    row = EarlierPlan.objects.filter(lab=lab).first()
    if row is None or len(row.hands) != task.groups:
        return None
    cells = [[(_cell(one), one) for one in hand] for hand in row.hands]
    shared = next((cell for hand in cells for cell, one in hand if one["shared"]), None)
    pinned = {g: tuple(cell for cell, one in hand if one["pinned"] and not one["shared"]) for g, hand in enumerate(cells)}
    before = replace(task, wished=dict(map(wish_in, row.wished)), pinned=pinned, held=Shared(shared))
    steps = None if row.steps is None else Steps(**row.steps)
    row.delete()
    return TakenBack(before, judge(before, [[cell for cell, _ in hand] for hand in cells]), row.said, steps)


def forget_earlier(lab: Lab) -> None:
    """Nothing can be taken back any more: the lab is about something else now."""
    EarlierPlan.objects.filter(lab=lab).delete()


def _cell(row: dict[str, str]) -> Cell:
    return Cell(row["negative"], row["electrolyte"], row["positive"], row["condition"])
