"""Changing a plan by hand: one group more or fewer for a cell, a cell to another group, free places filled.

Each change keeps the rest as it is and says in sentences what else had to move. What is pinned or wished is never moved.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from galvanic.cells import Cell
from galvanic.errors import GalvanicError
from galvanic.planning.assign import Hands, rough_cost
from galvanic.planning.design import Plan, Task, demand_of, finish, judge, repeats_that_connect
from galvanic.planning.optimal import Counts, fill
from galvanic.planning.schedule import Steps
from galvanic.reference.catalogue import electrodes
from galvanic.words import say

FEWEST_PLACES = 3


class CannotChange(GalvanicError):
    """A change of the plan that its limits do not allow; the sentence says which, and the way out."""

    code = "cannot_change"


@dataclass(frozen=True)
class Change:
    """The task and the plan after a change, and what it did; the minutes of the steps where it changed those."""

    task: Task
    plan: Plan
    said: tuple[str, ...]
    steps: Steps | None = None


def _inner(task: Task, plan: Plan) -> list[list[Cell]]:
    return [[cell for cell in hand if cell != task.shared] for hand in plan.hands]


def _hands(task: Task, inner: Sequence[Sequence[Cell]]) -> Hands:
    return Hands(task.groups, task.free, task.shared, task.stock, inner)


def _kept(task: Task, group: int, cell: Cell) -> bool:
    """Whether the teacher has asked for this cell here, or for this number of it."""
    return cell in task.pinned.get(group, ()) or cell in task.wished


def _changed(task: Task, plan: Plan, inner: Sequence[Sequence[Cell]], said: Sequence[str]) -> Change:
    """The plan with these hands; only those that changed are put in order anew."""
    hands = [
        old if set(old) - {task.shared} == set(new) else finish(task, new, group)
        for group, (old, new) in enumerate(zip(plan.hands, inner, strict=True))
    ]
    return Change(task, judge(task, hands), tuple(said))


def _losses(task: Task, inner: Sequence[Sequence[Cell]]) -> dict[Cell, float]:
    """By how much Σ tr rises when one group fewer measures a cell."""
    counts = Counts(demand_of(replace(task, wished={}), repeats_that_connect(task)))
    held = Counter(cell for hand in inner for cell in set(hand))
    counts.n = np.array([held[cell] for cell in counts.cells], dtype=int)
    counts.refresh()
    return {cell: -float(loss) for cell, loss in zip(counts.cells, counts.gains(-1.0), strict=True)}


def _cannot(task: Task, inner: Sequence[Sequence[Cell]], cell: Cell) -> CannotChange:
    """Why no group can take a cell."""
    holders = _hands(task, inner)
    for plate in cell.pair:
        n = task.stock.get(plate)
        if n is not None and len(holders.holders(plate)) >= n:
            name = electrodes()[plate].name
            who = say("1 group, and 1 has") if n == 1 else say("{n} groups, and {n} have", n=n)
            return CannotChange(say("There is {name} for only {who} it. Nothing was changed.", name=name, who=who))
    return CannotChange(
        say("No group has a place for {short} that is not pinned. Unpin a cell or give more minutes.", short=cell.short)
    )


def more(task: Task, plan: Plan, cell: Cell, names: Sequence[str]) -> Change:
    """One more group measures a cell, where there is a place for it, else in place of the cell that is missed least.

    Raises CannotChange with the reason.
    """
    if cell == task.shared:
        raise CannotChange(say("Every group measures the shared cell already."))
    if cell not in task.cells:
        raise CannotChange(say("{notation} does not belong to this plan.", notation=cell.notation))
    inner = _inner(task, plan)
    count = sum(cell in hand for hand in inner)
    if count >= task.groups:
        raise CannotChange(say("All {groups} groups measure {short} already.", groups=task.groups, short=cell.short))
    task = replace(task, wished={**task.wished, cell: count + 1})
    hands = _hands(task, inner)

    def added(group: int, gone: Cell | None) -> int:
        before = rough_cost(inner[group], task.shared)
        return rough_cost([c for c in inner[group] if c != gone] + [cell], task.shared) - before

    free = [g for g in range(task.groups) if hands.may(g, cell)]
    if free:
        group = min(free, key=lambda g: (added(g, None), g))
        inner[group].append(cell)
        return _changed(task, plan, inner, [say("{names} measures {short} too.", names=names[group], short=cell.short)])
    losses = _losses(task, inner)
    options = [
        (losses.get(other, 0.0) if len(inner[g]) >= task.free else np.inf, added(g, other), g, other)
        for g in range(task.groups)
        for other in inner[g]
        if not _kept(task, g, other) and hands.may(g, cell, instead_of=other)
    ]
    if not options:
        raise _cannot(task, inner, cell)
    _, _, group, gone = min(options, key=lambda o: (round(o[0], 9), o[1], o[2], o[3]))
    inner[group] = [c for c in inner[group] if c != gone] + [cell]
    return _changed(
        task,
        plan,
        inner,
        [
            say(
                "{names} measures {short} in place of {notation}.",
                names=names[group],
                short=cell.short,
                notation=gone.notation,
            )
        ],
    )


def fewer(task: Task, plan: Plan, cell: Cell, names: Sequence[str], group: int | None = None) -> Change:
    """One group fewer measures a cell (this group, where one is named); its place stays free.

    Raises CannotChange where none does.
    """
    if cell == task.shared:
        raise CannotChange(say("The shared cell stays with every group, so that groups can be compared."))
    inner = _inner(task, plan)
    holders = [g for g, hand in enumerate(inner) if cell in hand]
    if not holders or (group is not None and group not in holders):
        raise CannotChange(
            f"{say('No group measures') if group is None else names[group] + say(' does not measure')} {cell.short}."
        )

    def saved(g: int) -> int:
        return rough_cost([c for c in inner[g] if c != cell], task.shared) - rough_cost(inner[g], task.shared)

    if group is None:
        group = min(holders, key=lambda g: (cell in task.pinned.get(g, ()), saved(g), g))
    inner[group] = [c for c in inner[group] if c != cell]
    pinned = {g: tuple(c for c in cells if (g, c) != (group, cell)) for g, cells in task.pinned.items()}
    task = replace(task, wished={**task.wished, cell: len(holders) - 1}, pinned=pinned)
    return _changed(
        task,
        plan,
        inner,
        [say("{names} does not measure {short} any more and has a free place.", names=names[group], short=cell.short)],
    )


def ban(task: Task, plan: Plan, cell: Cell) -> Change:
    """No group measures a cell, now and when the plan is made anew. Raises CannotChange for the shared cell."""
    if cell == task.shared:
        raise CannotChange(say("The shared cell stays with every group, so that groups can be compared."))
    inner = [[c for c in hand if c != cell] for hand in _inner(task, plan)]
    pinned = {g: tuple(c for c in cells if c != cell) for g, cells in task.pinned.items()}
    task = replace(task, wished={**task.wished, cell: 0}, pinned=pinned)
    return _changed(task, plan, inner, [say("No group measures {notation}.", notation=cell.notation)])


def move(task: Task, plan: Plan, cell: Cell, giver: int, taker: int, names: Sequence[str]) -> Change:
    """A cell goes to another group and is pinned there; where that group is full, its least missed cell comes back.

    Raises CannotChange with the reason.
    """
    if cell == task.shared:
        raise CannotChange(say("The shared cell stays with every group, so that groups can be compared."))
    inner = _inner(task, plan)
    if cell not in inner[giver]:
        raise CannotChange(say("{names} does not measure {short}.", names=names[giver], short=cell.short))
    if cell in inner[taker]:
        raise CannotChange(say("{names} measures {short} already.", names=names[taker], short=cell.short))
    inner[giver].remove(cell)
    pinned = {g: tuple(c for c in cells if (g, c) != (giver, cell)) for g, cells in task.pinned.items()}
    pinned[taker] = (*pinned.get(taker, ()), cell)
    task = replace(task, pinned=pinned)
    said = [say("{names} measures {short} instead of {names2}.", names=names[taker], short=cell.short, names2=names[giver])]
    hands = _hands(task, inner)
    if not hands.may(taker, cell):
        losses = _losses(task, inner)
        back = [
            other
            for other in inner[taker]
            if other not in pinned[taker] and hands.may(taker, cell, instead_of=other) and other not in inner[giver]
        ]
        if not back:
            raise _cannot(task, inner, cell)
        gone = min(back, key=lambda other: (losses.get(other, 0.0), other))
        inner[taker].remove(gone)
        inner[giver].append(gone)
        if any(len(_hands(task, inner).holders(e)) > n for e, n in task.stock.items() if e in gone.pair):
            raise _cannot(task, inner, gone)
        said.append(say("{notation} went the other way.", notation=gone.notation))
    inner[taker].append(cell)
    return _changed(task, plan, inner, said)


def fill_free(task: Task, plan: Plan, names: Sequence[str]) -> Change:
    """Fill free places with what sharpens the ladders most; nothing that is planned moves."""
    inner = _inner(task, plan)
    before = [set(hand) for hand in inner]
    held = Counter(cell for hand in inner for cell in set(hand))
    demand = demand_of(task, repeats_that_connect(task))
    counts = Counts(replace(demand, least=dict(held), fixed={c: max(n, held[c]) for c, n in task.wished.items()}))
    counts.n = np.array([max(held[cell], task.wished.get(cell, 0)) for cell in counts.cells], dtype=int)
    counts.refresh()
    fill(counts)
    hands = _hands(task, inner)
    hands.deal({cell: int(n) for cell, n in zip(counts.cells, counts.n, strict=True) if n}, task.baths)
    said = [
        say(
            "{names} measures {before} too.",
            names=names[g],
            before=say(" and ").join(c.short for c in sorted(hand - before[g])),
        )
        for g, hand in enumerate(hands.hands)
        if hand - before[g]
    ]
    return _changed(
        task, plan, [sorted(hand) for hand in hands.hands], said or [say("No cell was left that fits a free place.")]
    )


def shorter(task: Task, plan: Plan, places: int, names: Sequence[str]) -> Change:
    """No list is longer than so many cells: of longer ones what is missed least goes, and their time stays to spare.

    A list that the teacher has pinned stays. The task's `places` are the new ones; the minutes are the caller's.
    Raises CannotChange for less than a shared cell and two others.
    """
    if places < FEWEST_PLACES:
        raise CannotChange(say("Shorter lists than {n} cells are no ladder. Nothing was changed.", n=FEWEST_PLACES))
    task = replace(task, places=places)
    said = []
    for group, name in enumerate(names):
        while len(plan.hands[group]) > places:
            hand = plan.hands[group]
            if task.shared is not None and hand.count(task.shared) > 1 and not task.shared_last:
                kept = list(hand[:-1])
                said.append(say("{name} measures {short} once.", name=name, short=task.shared.short))
            else:
                gone = fewest_missed(task, plan, [group])
                if gone is None:
                    said.append(say("{name} keeps its pinned cells.", name=name))
                    break
                cell = gone[1]
                kept = [one for one in hand if one != cell]
                if cell in task.wished:
                    task = replace(task, wished={**task.wished, cell: max(0, task.wished[cell] - 1)})
                said.append(say("{name} does not measure {short} any more.", name=name, short=cell.short))
            plan = judge(task, [kept if g == group else list(one) for g, one in enumerate(plan.hands)])
    return Change(task, plan, tuple(said))


def fewest_missed(task: Task, plan: Plan, groups: Sequence[int]) -> tuple[int, Cell] | None:
    """Among the cells of these groups, the one whose loss blurs the ladders least, with its group; pinned ones stay."""
    inner = _inner(task, plan)
    losses = _losses(task, inner)
    options = [
        (round(losses.get(cell, 0.0), 9), g, cell) for g in groups for cell in inner[g] if cell not in task.pinned.get(g, ())
    ]
    if not options:
        return None
    _, group, cell = min(options)
    return group, cell
