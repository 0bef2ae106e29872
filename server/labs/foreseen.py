"""What a plan foresees of its answer."""

from __future__ import annotations

from collections import Counter
from dataclasses import replace

from galvanic.cells import Cell
from galvanic.condition import condition_of
from galvanic.reference.catalogue import electrolytes
from galvanic.simulated.foreseen import foresee
from galvanic.simulated.foreseen_levels import FEWEST_LEVELS, Seen, seen
from galvanic.simulated.foreseen_words import decided, of_levels, pace, saying
from galvanic.words import say
from server.labs.models import Lab, PlannedCell
from server.labs.planning.tasks import steps_of
from server.labs.schemas import ForeseenLine, ForeseenOut


def foreseen(lab: Lab) -> ForeseenOut:
    """What the class of a lab will be able to say at its end. Two queries."""
    groups = list(lab.groups.values_list("id", "name"))
    lists: dict[object, list[Cell]] = {key: [] for key, _ in groups}
    for planned in PlannedCell.objects.filter(group__lab=lab).order_by("position"):
        lists[planned.group_id].append(planned.cell)
    hands = [tuple(lists[key]) for key, _ in groups]
    if not any(hands):
        return ForeseenOut(lines=[], pace="", decided="")
    found = foresee(hands, steps_of(lab), lab.minutes)
    levels = _levels(lab, hands)
    if levels:
        words = {"volts": say("that the volts change"), "current": say("that the current changes")}
        lines = [ForeseenLine(what=words[one.quantity], share=one.share, remark=of_levels(one)) for one in levels]
    else:
        lines = [ForeseenLine(what=saying(one) + _where(one.bath, lab), share=one.can, remark="") for one in found.sayings]
    names = [name for _, name in groups]
    return ForeseenOut(lines=lines, pace=pace(found, names), decided="" if levels else decided(found))


def _where(bath: tuple[str, str], lab: Lab) -> str:
    """In which liquid, where a lab has more than one."""
    return f" ({electrolytes()[bath[0]].name})" if len(lab.electrolytes) > 1 else ""


def _levels(lab: Lab, hands: list[tuple[Cell, ...]]) -> list[Seen]:
    """What will be seen of the variable, on the cell that most groups have at its levels."""
    read = {text: one for text in lab.conditions if text and (one := condition_of(text)) is not None}
    if len(read) < FEWEST_LEVELS or len({one.row.key for one in read.values()}) > 1:
        return []
    plain = [[replace(cell, condition="") for cell in set(hand) if cell.condition in read] for hand in hands]
    held = Counter(cell for hand in plain for cell in hand)
    if not held:
        return []
    cell = held.most_common(1)[0][0]
    measuring = sum(hand.count(cell) >= FEWEST_LEVELS for hand in plain)
    found = seen(cell, list(read.values()), measuring)
    return found if lab.short_circuit else [one for one in found if one.quantity == "volts"]
