"""How labs and plans are sent."""

from __future__ import annotations

import uuid
from collections.abc import Mapping, Sequence
from dataclasses import asdict
from typing import Any

from django.http import HttpRequest

from galvanic.cells import Cell, standing
from galvanic.chemistry.varied import usual_levels
from galvanic.condition import condition_of
from galvanic.errors import NotEnoughData
from galvanic.notes import Note
from galvanic.planning.design import Plan, Task
from galvanic.planning.lessons import lesson
from galvanic.planning.level_notes import level_notes
from galvanic.planning.plan_notes import packs_note, plan_notes
from galvanic.planning.safety import set_up_notes
from galvanic.planning.schedule import Steps, timeline
from galvanic.preparing import set_up
from galvanic.reference.variables import variables
from galvanic.words import say
from server.labs import services
from server.labs.lookups import draft_for_teacher, lab_for_teacher
from server.labs.models import Lab, PlannedCell
from server.labs.planning.history import last_change
from server.labs.planning.revising import revision
from server.labs.planning.tasks import mark_of, planned, settings_of, steps_of, stock_of
from server.labs.policy import cautions, sheet_of, signed, stage_of
from server.labs.schemas import (
    ActionOut,
    BathOut,
    CellOut,
    CountOut,
    GroupPlan,
    LabOut,
    LessonOut,
    LevelSet,
    NoteOut,
    PlanDetail,
    PlannedCellOut,
    PreviewCell,
    PreviewOut,
    SegmentOut,
    TemplateOut,
    VariableOut,
    Way,
)
from server.labs.settings import NewLab, Varies
from server.people.auth import teacher_of
from server.people.models import Group, Teacher


def line(lab: Lab) -> dict[str, Any]:
    """What a list shows of a lab with counts."""
    return {
        "id": lab.id,
        "title": lab.title,
        "date": lab.date,
        "state": lab.state,
        "stage": stage_of(lab),
        "join_code": lab.join_code if lab.state == Lab.State.OPEN else None,
        "simulated": lab.simulated,
        "group_count": getattr(lab, "group_count", 0),
        "way": way_of(lab),
        "owner": lab.owner.username,
    }


def pin_for(lab: Lab, group: Group) -> str:
    """A group's PIN for whoever may work in the lab; empty for who may only look: with it one can record."""
    return "" if way_of(lab) == "look" else group.pin


def way_of(lab: Lab) -> Way:
    """How a lab fetched with_way is the asking teacher's: own, or shared with them to work in or to look at."""
    way: Way = lab.__dict__["way"]
    return way


def _cell(cell: Cell) -> dict[str, str]:
    return {
        "negative": cell.negative,
        "electrolyte": cell.electrolyte,
        "positive": cell.positive,
        "condition": cell.condition,
    }


def notes_out(notes: Sequence[Note]) -> list[NoteOut]:
    """Margin notes as they are sent."""
    out = []
    for n in notes:
        action = n.action and ActionOut(
            kind=n.action.kind,
            label=n.action.label,
            cell=CellOut(**_cell(n.action.cell)) if n.action.cell else None,
            times=n.action.times,
            group=n.action.group,
        )
        out.append(
            NoteOut.model_validate(
                {
                    "code": n.code,
                    "tone": n.tone,
                    "title": n.title,
                    "text": n.text,
                    "action": action,
                    "evidence": list(n.evidence),
                }
            )
        )
    return out


def level_out(condition: str) -> LevelSet | None:
    """What a cell is set to, where a variable fits its condition."""
    setting = condition_of(condition)
    if setting is None:
        return None
    return LevelSet(
        variable=setting.variable, name=say(setting.row.name), text=setting.said.removeprefix(f"{say(setting.row.name)} ")
    )


def cell_out(planned: PlannedCell) -> PlannedCellOut:
    """A planned cell as it is sent."""
    return PlannedCellOut(
        id=planned.id,
        short=planned.cell.short,
        negative=planned.negative,
        electrolyte=planned.electrolyte,
        positive=planned.positive,
        condition=planned.condition,
        setting=set_up(planned.cell),
        level=level_out(planned.condition),
        shared=planned.shared,
        pinned=planned.pinned,
    )


def detail(task: Task, plan: Plan, steps: Steps) -> PlanDetail:
    """Matrix, lanes and sharpness of a plan as they are sent."""
    counts = plan.counts
    return PlanDetail(
        order=sorted(task.electrodes, key=lambda key: (standing(key), key)),
        baths=[BathOut(electrolyte=liquid, condition=condition) for liquid, condition in task.baths],
        counts=[
            CountOut(**_cell(cell), count=counts[cell], wished=cell in task.wished, shared=cell == plan.shared)
            for cell in task.cells
        ],
        places=task.places,
        lanes=[
            [SegmentOut(kind=s.kind, begin=s.begin, end=s.end, cell=s.cell) for s in timeline(len(hand), steps)]
            for hand in plan.hands
        ],
        needed=steps.needed(max((len(hand) for hand in plan.hands), default=0)),
        nearness=plan.nearness,
        changes=plan.changes,
    )


def _judged(lab: Lab, groups: list[Group], hands: list[list[PlannedCell]]) -> tuple[Task, Plan] | None:
    """Task and plan of a lab; None for cells that came from a file and are no plan, and when all is over."""
    if lab.state == Lab.State.CLOSED:
        return None
    try:
        return planned(lab, groups, hands, stock_of(lab.owner, lab.electrodes))
    except NotEnoughData:
        return None


def whole(request: HttpRequest, lab_id: uuid.UUID) -> LabOut:
    """A lab with groups, cells and all that is said of its plan. Raises not_found."""
    lab = lab_for_teacher(teacher_of(request), lab_id)
    groups, hands = services.groups_with_cells(lab)
    return lab_out(lab, groups, hands, _judged(lab, groups, hands))


def template_out(row: Mapping[str, Any]) -> TemplateOut:
    """A ready lab to begin with, in the language around."""
    words = {field: say(row[field]) for field in ("name", "about", "question", "kept")}
    more = {
        "conditions": [_setting(text) for text in row["conditions"]],
        "groups": [say(name) for name in row.get("groups", ())],
        "sides": [say(side) for side in row.get("sides", ())],
    }
    return TemplateOut(**dict(row) | words | more | {"lesson": lesson_out(row["key"])})


def _setting(text: str) -> str:
    """A setting of a ready lab in the language around, in words that are understood there."""
    known, worded = condition_of(text), say(text)
    return worded if known is None or condition_of(worded) == known else known.said


def lesson_out(key: str) -> LessonOut | None:
    """How the lesson of a template goes, in the language around."""
    found = lesson(key)
    return None if found is None else LessonOut.model_validate(asdict(found))


def variables_out() -> list[VariableOut]:
    """What a lab can change on purpose, with the levels a class would choose."""
    return [
        VariableOut(
            varies=Varies.of(row.key),
            name=row.said,
            settings=[level.said for level in usual_levels(row)],
            set_up=row.set_up,
            title=say("What changes with {name}?", name=row.said),
            question=say("What does {name} change: the volts, the current, or neither?", name=row.said),
            kept=", ".join(row.keep),
            short=row.sizes,
            hazard=row.hazard,
        )
        for row in variables().values()
    ]


def lab_out(lab: Lab, groups: list[Group], hands: list[list[PlannedCell]], judged: tuple[Task, Plan] | None) -> LabOut:
    """A lab as it is sent, from what has been fetched."""
    steps, notes = steps_of(lab), []
    if judged is not None:
        names = [group.name for group in groups]
        notes = plan_notes(*judged, steps, lab.minutes, names, lab.scatter_v)
        notes += level_notes(lab.conditions, len(groups))
        short = packs_note(steps) if lab.packs else None
        notes += [] if short is None else [short]
    return LabOut(
        **(line(lab) | {"group_count": len(groups)}),
        settings=settings_of(lab),
        mark=mark_of(lab, [group.name for group in groups]),
        edition=lab.edition,
        code=lab.join_code or "",
        groups=[
            GroupPlan(id=g.id, name=g.name, pin=pin_for(lab, g), cells=[cell_out(cell) for cell in hand])
            for g, hand in zip(groups, hands, strict=True)
        ],
        notes=notes_out(notes),
        cautions=cautions(lab, lab.electrodes, lab.electrolytes),
        signed=signed(lab, sheet_of(lab)),
        plan=None if judged is None else detail(*judged, steps),
        last_change=last_change(lab),
        lesson=lesson_out(lab.template),
    )


def preview(actor: Teacher, lab_id: uuid.UUID | None, plan: NewLab) -> PreviewOut:
    """How a plan would be shared out, anew or around what a draft has pinned and wished. Raises Problem."""
    if lab_id is None:
        lab, task, made, names = services.deal(actor, plan)
        said: tuple[str, ...] = ()
    else:
        revised = revision(actor, draft_for_teacher(actor, lab_id), plan)
        lab, task, made, names, said = revised.lab, revised.task, revised.plan, revised.names, revised.said
    steps = steps_of(lab)
    return PreviewOut(
        hands=[
            [
                PreviewCell(
                    short=cell.short, electrolyte=cell.electrolyte, condition=cell.condition, shared=cell == made.shared
                )
                for cell in hand
            ]
            for hand in made.hands
        ],
        said=list(said),
        safety=notes_out(set_up_notes(lab.electrodes, lab.electrolytes, lab.age, lab.activities)),
        notes=notes_out(
            [
                *plan_notes(task, made, steps, lab.minutes, names, lab.scatter_v),
                *level_notes(lab.conditions, len(names)),
            ]
        ),
        plan=detail(task, made, steps),
    )
