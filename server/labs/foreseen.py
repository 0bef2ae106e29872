"""What a plan foresees of its answer."""

from __future__ import annotations

from collections import Counter
from dataclasses import replace

from galvanic.cells import Cell
from galvanic.condition import condition_of
from galvanic.planning.trade import in_words, trade
from galvanic.reference.catalogue import electrolytes
from galvanic.simulated.foreseen import foresee, get_through
from galvanic.simulated.foreseen_levels import FEWEST_LEVELS, Seen, seen
from galvanic.simulated.foreseen_words import decided, of_levels, pace, saying, shorter_lists
from galvanic.words import mark, say
from server.labs.models import Lab
from server.labs.planning.tasks import planned, steps_of, stock_of
from server.labs.schemas import ForeseenLine, ForeseenOut
from server.labs.services import groups_with_cells
from server.people.models import Teacher

OPEN_ALONE = mark(
    "Open voltages alone will not tell how much oxygen or wetted plate a cell has: have one cell measured across a resistor "
    "too (in the set-up), and Explain can fit them."
)


def foreseen(lab: Lab, teacher: Teacher) -> ForeseenOut:
    """What the class of a lab will be able to say at its end. Three queries."""
    groups, kept = groups_with_cells(lab)
    hands = [tuple(one.cell for one in hand) for hand in kept]
    if not any(hands):
        return ForeseenOut(lines=[], pace="", decided="")
    found = foresee(hands, steps_of(lab), lab.minutes)
    levels = _levels(lab, hands)
    if levels:
        words = {"volts": say("that the volts change"), "current": say("that the current changes")}
        lines = [ForeseenLine(what=words[one.quantity], share=one.share, remark=of_levels(one)) for one in levels]
    else:
        lines = [ForeseenLine(what=saying(one) + _where(one.bath, lab), share=one.can, remark="") for one in found.sayings]
    task, plan = planned(lab, groups, kept, stock_of(teacher, lab.electrodes))
    shorter = shorter_lists(found, max(len(hand) for hand in hands))
    with_less = None
    if shorter is not None:
        with_less = get_through([min(len(hand), shorter) for hand in hands], steps_of(lab), lab.minutes)
    traded = None if levels else trade(task, plan)
    return ForeseenOut(
        lines=lines,
        pace=pace(found, [group.name for group in groups], with_less),
        shorter=shorter,
        decided="" if levels else decided(found),
        trade="" if traded is None else in_words(task, plan, traded, lab.scatter_v),
        loads="" if levels or lab.load_ohm or lab.short_circuit else say(OPEN_ALONE),
    )


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
