"""Changes to labs: one function each, all or nothing."""

from __future__ import annotations

import uuid
from collections.abc import Mapping, Sequence
from datetime import date

from django.db import transaction
from django.utils import timezone

from galvanic.cells import Cell
from galvanic.condition import canonical
from galvanic.errors import NotEnoughData, OutOfRange
from galvanic.planning.design import Plan, Task, design
from galvanic.planning.safety import sheet
from galvanic.planning.schedule import Steps
from galvanic.reference import catalogue, reader
from galvanic.words import say, say_n
from server.base.problems import Problem, not_found
from server.labs.changes import announce
from server.labs.lookups import lab_for_teacher
from server.labs.models import Lab, PlannedCell
from server.labs.planning.tasks import stock_of, task_of
from server.labs.settings import LabSettings, NewLab, Varies
from server.people.codes import join_code, pins
from server.people.deeds import keep_deed
from server.people.models import Group, Teacher
from server.people.sharing import to_change

MAX_GROUPS = 40
MAX_TITLE = 120
MAX_GROUP_NAME = 40
MAX_TAGS, MAX_TAG = 8, 30
MAX_CONDITIONS, MAX_CONDITION = 8, 40


def tidy_title(title: str) -> str:
    """A lab's title with stray spaces taken off. Raises Problem for none or one too long."""
    tidy = " ".join(title.split())
    if not tidy or len(tidy) > MAX_TITLE:
        raise Problem(
            422, "title", say("Give the lab a title of at most {max_title} letters.", max_title=MAX_TITLE), field="title"
        )
    return tidy


def untaken(actor: Teacher, title: str) -> str:
    """A title that none of a teacher's labs has: “Cells” of which there is one becomes “Cells (2)”."""
    taken = set(Lab.objects.filter(owner=actor, deleted_at__isnull=True).values_list("title", flat=True))
    numbered = (f"{title[: MAX_TITLE - 5]} ({n})" for n in range(2, len(taken) + 3))
    return title if title not in taken else next(one for one in numbered if one not in taken)


def tidy_names(names: Sequence[str]) -> list[str]:
    """Group names with stray spaces taken off. Raises Problem for none, too many, too long or twice the same."""
    tidy = [" ".join(name.split()) for name in names if name.strip()]
    if not tidy:
        raise Problem(422, "no_groups", say("Name at least one group."), field="groups")
    if len(tidy) > MAX_GROUPS:
        raise Problem(
            422, "too_many_groups", say("At most {max_groups} groups fit in one lab.", max_groups=MAX_GROUPS), field="groups"
        )
    for name in tidy:
        if len(name) > MAX_GROUP_NAME:
            raise Problem(
                422,
                "long_name",
                say("“{name}…” is longer than {max_group_name} letters.", name=name[:20], max_group_name=MAX_GROUP_NAME),
                field="groups",
            )
    twice = {name for name in tidy if [other.casefold() for other in tidy].count(name.casefold()) > 1}
    if twice:
        message = say("Two groups are called {twice}. Give each its own name.", twice=min(twice))
        raise Problem(422, "name_twice", message, field="groups")
    return tidy


def _chosen(keys: Sequence[str], table: Mapping[str, object], least: int, what: str, field: str) -> list[str]:
    chosen = list(dict.fromkeys(keys))
    unknown = [key for key in chosen if key not in table]
    if unknown:
        raise Problem(
            422,
            "unknown_material",
            say("There is no {what} “{unknown}”.", what=say(what), unknown=unknown[0][:40]),
            field=field,
        )
    if len(chosen) < least:
        raise Problem(
            422,
            "too_few",
            say_n("Choose at least {n} electrode.", "Choose at least {n} electrodes.", least)
            if what == "electrode"
            else say_n("Choose at least {n} electrolyte.", "Choose at least {n} electrolytes.", least),
            field=field,
        )
    return chosen


def check_materials(electrodes: Sequence[str], electrolytes: Sequence[str], least: int = 2) -> None:
    """Raises Problem for materials that are not known, or too few electrodes."""
    _chosen(electrodes, catalogue.electrodes(), least, "electrode", "electrodes")
    _chosen(electrolytes, catalogue.electrolytes(), 1, "electrolyte", "electrolytes")


def tidy_conditions(varies: Varies, conditions: Sequence[str]) -> list[str]:
    """What a lab sets its cells to, numbers in their one form; a single empty one where only plates or liquids vary and no
    setting is named.

    Raises Problem where a lab varies something else and names fewer than two settings, or too many.
    """
    try:
        read = [canonical(condition, varies.variable) for condition in conditions if condition.strip()]
    except OutOfRange as error:
        raise Problem(422, "conditions", say("Settings to compare: {why}", why=str(error)), field="conditions") from error
    tidy = list(dict.fromkeys(one[:MAX_CONDITION] for one in read))
    if varies in (Varies.PAIRS, Varies.ELECTROLYTE):
        tidy = tidy or [""]
    elif len(tidy) < 2:
        raise Problem(422, "conditions", say("Name at least two settings to compare, one a line."), field="conditions")
    if len(tidy) > MAX_CONDITIONS:
        raise Problem(
            422,
            "conditions",
            say("At most {max_conditions} settings fit in one lab.", max_conditions=MAX_CONDITIONS),
            field="conditions",
        )
    return tidy


def fill(lab: Lab, plan: NewLab) -> None:
    """Put what a teacher chose on a lab. Raises Problem for what cannot be."""
    lab.title, lab.date = tidy_title(plan.title), plan.date
    for name, chosen in plan.columns().items():
        setattr(lab, name, chosen)
    for name in ("electrodes", "electrolytes", "activities"):
        setattr(lab, name, list(dict.fromkeys(getattr(lab, name))))
    lab.conditions = tidy_conditions(plan.varies, plan.conditions)
    lab.against = plan.against if plan.against in lab.electrodes else ""
    try:
        Steps(**lab.steps)
        sheet([], [], lab.age, lab.activities)
    except OutOfRange as error:
        raise Problem(422, error.code, str(error), field="steps") from error


def deal(actor: Teacher, plan: NewLab) -> tuple[Lab, Task, Plan, list[str]]:
    """A lab that is not kept, its task, its plan and its groups' names. Raises Problem for what cannot be planned."""
    names = tidy_names(plan.groups)
    check_materials(plan.electrodes, plan.electrolytes)
    lab = Lab(owner=actor, edition=reader.edition())
    fill(lab, plan)
    task = task_of(lab, len(names), {}, stock_of(actor, lab.electrodes))
    return lab, task, designed(task), names


def designed(task: Task) -> Plan:
    """The core's plan. Raises Problem with the core's sentence."""
    try:
        return design(task)
    except NotEnoughData as error:
        raise Problem(422, error.code, str(error), field="minutes") from error


@transaction.atomic
def create_lab(*, actor: Teacher, plan: NewLab) -> Lab:
    """Make a draft lab with its groups and each group's cells. Raises Problem; then nothing is kept."""
    lab, task, made, names = deal(actor, plan)
    keep_new(lab)
    add_groups(lab, names, made.hands, made.shared)
    keep_deed(actor, "made_lab", lab)
    return lab


def start_lab(actor: Teacher, plan: NewLab) -> Lab:
    """The lab alone, without groups."""
    lab = Lab(owner=actor, edition=reader.edition())
    fill(lab, plan)
    return keep_new(lab)


def keep_new(lab: Lab) -> Lab:
    """Give a new lab its join code, so that cards can be printed before it opens, and keep it."""
    lab.join_code = fresh_code()
    lab.save(force_insert=True)
    return lab


def fresh_code() -> str:
    """A join code that no lab has."""
    code = join_code()
    while Lab.objects.filter(join_code=code).exists():
        code = join_code()
    return code


def groups_with_cells(lab: Lab) -> tuple[list[Group], list[list[PlannedCell]]]:
    """Groups in order, each with its cells in order; two queries."""
    groups = list(Group.objects.filter(lab=lab).order_by("position"))
    hands: dict[uuid.UUID, list[PlannedCell]] = {group.id: [] for group in groups}
    for cell in PlannedCell.objects.filter(group__lab=lab).order_by("group__position", "position"):
        hands[cell.group_id].append(cell)
    return groups, list(hands.values())


def replace_cells(
    groups: Sequence[Group], before: Sequence[Sequence[PlannedCell]], task: Task, made: Plan
) -> list[list[PlannedCell]]:
    """Give a draft's groups the cells of a plan in place of those before; a list that stays as it is is left alone.

    Returns the cells of every group as they are kept now.
    """
    rows = _rows(groups, made.hands, made.shared, task.pinned)
    after: dict[uuid.UUID, list[PlannedCell]] = {group.id: [] for group in groups}
    for row in rows:
        after[row.group_id].append(row)
    changed = [
        group.id
        for group, old in zip(groups, before, strict=True)
        if [(p.cell, p.pinned, p.shared) for p in old] != [(p.cell, p.pinned, p.shared) for p in after[group.id]]
    ]
    if changed:
        PlannedCell.objects.filter(group__in=changed).delete()
        PlannedCell.objects.bulk_create(row for group in changed for row in after[group])
    kept = zip(groups, before, strict=True)
    return [after[group.id] if group.id in changed else list(old) for group, old in kept]


def add_groups(lab: Lab, names: Sequence[str], hands: Sequence[Sequence[Cell]], shared: Cell | None) -> list[PlannedCell]:
    """Add groups with their cells, two queries in all; returns the cells group by group, in order."""
    numbers = pins(len(names))
    groups = Group.objects.bulk_create(
        Group(lab=lab, name=name, pin=numbers[i], position=i + 1) for i, name in enumerate(names)
    )
    return PlannedCell.objects.bulk_create(_rows(groups, hands, shared, {}))


def _rows(
    groups: Sequence[Group],
    hands: Sequence[Sequence[Cell]],
    shared: Cell | None,
    pinned: Mapping[int, tuple[Cell, ...]],
) -> list[PlannedCell]:
    return [
        PlannedCell(
            group=group,
            position=position,
            negative=cell.negative,
            electrolyte=cell.electrolyte,
            positive=cell.positive,
            condition=cell.condition,
            shared=cell == shared,
            pinned=cell in pinned.get(number, ()),
        )
        for number, (group, hand) in enumerate(zip(groups, hands, strict=True))
        for position, cell in enumerate(hand, start=1)
    ]


def lab_to_change(actor: Teacher, lab_id: uuid.UUID) -> Lab:
    """A lab in which the teacher may work, locked until the change is kept. Raises Problem: not_found, or look_only."""
    labs = Lab.objects.with_way(actor).select_related("owner").select_for_update(of=("self",))
    lab: Lab = to_change(labs, actor, lab_id, "lab")
    return lab


def owned(actor: Teacher, lab_id: uuid.UUID) -> Lab:
    """A lab of the teacher's own, locked until the change is kept. Raises Problem: not_found, or not_yours."""
    lab = Lab.objects.visible_to(actor).select_for_update(of=("self",)).filter(id=lab_id).first()
    if lab is None:
        raise not_found("lab")
    if lab.owner_id != actor.id:
        message = say("Only the teacher whose lab this is can do that. Nothing was changed.")
        raise Problem(403, "not_yours", message, passing=False)
    return lab


def draft_of(actor: Teacher, lab_id: uuid.UUID) -> Lab:
    """A draft in which the teacher may work, locked until the change is kept.

    Raises Problem: not_found, look_only, or not_a_draft.
    """
    lab = lab_to_change(actor, lab_id)
    if lab.state != Lab.State.DRAFT:
        message = say("Groups have been let in, so the plan stays as it is. Copy the lab to plan it differently.")
        raise Problem(409, "not_a_draft", message)
    return lab


@transaction.atomic
def copy_lab(*, actor: Teacher, lab_id: uuid.UUID, title: str, on: date, anew: bool = False) -> Lab:
    """A new draft with the plan of another lab of the teacher's, cells and groups alike, with new PINs; nothing measured.
    A title that is taken is numbered.

    `anew`: cells are planned anew from its settings, without what was changed by hand.

    Raises Problem: not_found, title, or unknown_material.
    """
    source = lab_for_teacher(actor, lab_id)
    groups, hands = groups_with_cells(source)
    check_materials(source.electrodes, source.electrolytes, least=1)
    if anew:
        settings = {name: getattr(source, name) for name in LabSettings.model_fields}
        names = [group.name for group in groups]
        return create_lab(actor=actor, plan=NewLab(**settings, title=untaken(actor, title), date=on, groups=names))
    copy = Lab(owner=actor, edition=reader.edition())
    for name in (*LabSettings.model_fields, "wished"):
        setattr(copy, name, getattr(source, name))
    copy.title, copy.date = untaken(actor, tidy_title(title)), on
    keep_new(copy)
    shared = next((p.cell for hand in hands for p in hand if p.shared), None)
    made = add_groups(copy, [g.name for g in groups], [[p.cell for p in hand] for hand in hands], shared)
    for cell, old in zip(made, [p for hand in hands for p in hand], strict=True):
        cell.pinned = old.pinned
    PlannedCell.objects.bulk_update(made, ["pinned"])
    keep_deed(actor, "copied_lab", copy, f"from {source.title}")
    return copy


@transaction.atomic
def rename_lab(*, actor: Teacher, lab_id: uuid.UUID, title: str, question: str | None = None) -> Lab:
    """Give a lab another title, and another question unless that is None, whatever its state.

    Raises Problem: not_found, or title.
    """
    lab = lab_to_change(actor, lab_id)
    before = lab.title, lab.question
    lab.title, lab.question = tidy_title(title), lab.question if question is None else question
    changed = [old for old, new in zip(before, (lab.title, lab.question), strict=True) if old != new]
    if changed:
        lab.save(update_fields=["title", "question"])
        keep_deed(actor, "renamed_lab", lab, say("before: {before}", before="; ".join(changed)))
        announce(lab.id)
    return lab


@transaction.atomic
def tag_lab(*, actor: Teacher, lab_id: uuid.UUID, tags: Sequence[str]) -> Lab:
    """Give a lab its tags. Raises Problem: not_found, or tags (too many, or one too long)."""
    lab = lab_to_change(actor, lab_id)
    tidy = list(dict.fromkeys(one for tag in tags if (one := " ".join(tag.split()))))
    if len(tidy) > MAX_TAGS or any(len(tag) > MAX_TAG for tag in tidy):
        raise Problem(
            422,
            "tags",
            say("A lab has at most {max_tags} tags of at most {max_tag} letters.", max_tags=MAX_TAGS, max_tag=MAX_TAG),
            field="tags",
        )
    lab.tags = tidy
    lab.save(update_fields=["tags"])
    keep_deed(actor, "tagged", lab, ", ".join(tidy))
    return lab


@transaction.atomic
def archive_lab(*, actor: Teacher, lab_id: uuid.UUID, away: bool) -> Lab:
    """Put a lab away from the list of labs, or take it back; nothing else changes. Raises Problem: not_found, or open."""
    lab = owned(actor, lab_id)
    if away and lab.state == Lab.State.OPEN:
        raise Problem(409, "open", say("Groups are at work in this lab. Close its bench first."))
    lab.archived_at = timezone.now() if away else None
    lab.save(update_fields=["archived_at"])
    keep_deed(actor, "archived" if away else "unarchived", lab)
    return lab
