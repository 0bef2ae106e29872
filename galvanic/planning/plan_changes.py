"""What a plan made anew moved, in sentences: the shared cell and why, pins and wishes that went, groups with other cells."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from galvanic.cells import Cell
from galvanic.planning.design import Plan, Task
from galvanic.reference.catalogue import electrodes
from galvanic.words import say

MOST_NAMED = 4


@dataclass(frozen=True, slots=True)
class Laid:
    """A plan with its task and the names of its groups."""

    task: Task
    plan: Plan
    names: Sequence[str]

    @property
    def pins(self) -> set[tuple[str, Cell]]:
        """Every pinned cell with the name of its group."""
        return {(self.names[g].casefold(), cell) for g, cells in self.task.pinned.items() for cell in cells}


def _listed(words: Sequence[str]) -> str:
    """The words in a row; what is beyond `MOST_NAMED` is counted, unless it is a single one."""
    more = len(words) - MOST_NAMED
    shown = [*words[:MOST_NAMED], say("{more} more", more=more)] if more > 1 else list(words)
    return shown[-1] if len(shown) < 2 else say("{first} and {last}", first=", ".join(shown[:-1]), last=shown[-1])


def what_moved(before: Laid, after: Laid) -> tuple[str, ...]:
    """Sentences on all that is not where it was; empty where nothing moved."""
    return (*_shared(before, after), *_pins(before, after), *_wishes(before, after), *_groups(before, after))


def _why_not(cell: Cell, after: Laid) -> str:
    """Why a cell cannot be everybody's any more."""
    task = after.task
    if cell not in task.cells:
        return say("{short} does not belong to the plan any more", short=cell.short)
    short = [plate for plate in cell.pair if task.stock.get(plate, task.groups) < task.groups]
    if short:
        plate = short[0]
        return say(
            "there is {name} for only {stock} of {groups} groups",
            name=electrodes()[plate].name,
            stock=task.stock[plate],
            groups=task.groups,
        )
    return (
        say("you asked for {wished} of it", wished=task.wished[cell])
        if cell in task.wished
        else say("another cell is everybody’s")
    )


def _shared(before: Laid, after: Laid) -> list[str]:
    old, new = before.plan.shared, after.plan.shared
    if old == new:
        return []
    if old is None:
        return [say("{short} is everybody’s now, so groups can be compared.", short=new.short)] if new else []
    why = _why_not(old, after)
    if new is None:
        return [say("No cell is everybody’s any more: {why}.", why=why)]
    return [say("Every group measures {short} now instead of {short2}: {why}.", short=new.short, short2=old.short, why=why)]


def _pins(before: Laid, after: Laid) -> list[str]:
    there = {name.casefold(): name for name in after.names}
    lost = sorted((there[name], cell) for name, cell in before.pins - after.pins if name in there)
    gone = [say("{short} of {name}", short=cell.short, name=name) for name, cell in lost if cell not in after.task.cells]
    full = [say("{short} of {name}", short=cell.short, name=name) for name, cell in lost if cell in after.task.cells]
    said = []
    if gone:
        said.append(say("Pinned, and not part of the plan any more: {listed}.", listed=_listed(gone)))
    if full:
        said.append(say("Not pinned any more, for want of time: {listed}.", listed=_listed(full)))
    return said


def _wishes(before: Laid, after: Laid) -> list[str]:
    lost = sorted(cell.notation for cell in before.task.wished if cell not in after.task.wished)
    return [say("The number you asked for went with its cell: {listed}.", listed=_listed(lost))] if lost else []


def _groups(before: Laid, after: Laid) -> list[str]:
    had = {name.casefold(): set(hand) for name, hand in zip(before.names, before.plan.hands, strict=True)}
    shared = {before.plan.shared, after.plan.shared}
    now = list(zip(after.names, after.plan.hands, strict=True))
    stayed = [(name, had[name.casefold()], set(hand)) for name, hand in now if name.casefold() in had]
    moved = [name for name, old, new in stayed if old - shared != new - shared]
    if not moved:
        return []
    return [
        say("Other cells than before for all groups.")
        if len(moved) == len(now) > 2
        else say("Other cells than before for {groups}.", groups=_listed(moved))
    ]
