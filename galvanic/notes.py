"""What the software has to say about a result, in sentences a fifteen-year-old reads once; every note has a number."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from galvanic.catalogue import electrodes, electrolytes
from galvanic.cells import Cell
from galvanic.compare import ElectrolyteResult
from galvanic.design import MINUTES_PER_CELL, MINUTES_TO_CLEAR, MINUTES_TO_START, shared_cell
from galvanic.ladder import connected

MINUS = "\u2212"
THIN = "\u2009"


@dataclass(frozen=True, slots=True)
class Note:
    """One margin note: a code for programs, a tone (plain, good, caution, wrong), a title and a text."""

    code: str
    tone: str
    title: str
    text: str


def volts(value_v: float, decimals: int = 2, signed: bool = False) -> str:
    """A voltage for reading: true minus sign, thin space before the unit."""
    text = f"{value_v:+.{decimals}f}" if signed else f"{value_v:.{decimals}f}"
    return f"{text.replace('-', MINUS)}{THIN}V"


def compare_notes(result: ElectrolyteResult) -> list[Note]:
    """Notes on one electrolyte's result, most useful first."""
    notes = []
    for swap in result.swaps[:3]:
        upper, lower = electrodes()[swap.upper], electrodes()[swap.lower]
        notes.append(
            Note(
                "swapped",
                "wrong",
                f"{lower.symbol} and {upper.symbol} changed places",
                f"The table puts {lower.name} below {upper.name}. This class found it above, by "
                f"{volts(swap.by_v)} ± {volts(swap.u_v)}.",
            )
        )
    if len(result.swaps) > 3:
        others = ", ".join(f"{electrodes()[s.lower].symbol} and {electrodes()[s.upper].symbol}" for s in result.swaps[3:])
        notes.append(Note("more_swaps", "plain", f"{len(result.swaps) - 3} more changed places", f"{others}."))
    listed = [cell for cell in result.cells if cell.gap_v is not None]
    if listed and abs(listed[0].gap_v or 0.0) >= 0.005:
        widest = listed[0]
        gap = widest.gap_v or 0.0
        notes.append(
            Note(
                "widest_gap",
                "plain",
                f"Widest gap: {widest.cell.short}",
                f"The table gives {volts(widest.table_v or 0.0)}, the class {volts(widest.mean_v)}: "
                f"{volts(abs(gap))} {'less' if gap < 0 else 'more'}.",
            )
        )
    if result.loose:
        names = ", ".join(electrodes()[name].name for name in result.loose)
        notes.append(
            Note(
                "loose",
                "caution",
                "Not on the ladder yet",
                f"No chain of cells connects {names} to the rest ({len(result.loose)} of "
                f"{len(result.loose) + len(result.rungs)} plates).",
            )
        )
    if result.anchor:
        name = electrodes()[result.anchor].name
        notes.append(
            Note(
                "anchor",
                "plain",
                f"Held at {name}",
                "Voltmeters only show differences, so one plate has to be held at its table value, "
                f"{volts(electrodes()[result.anchor].table_v(), signed=True)}. The uncertainty of every other plate is "
                f"that of its distance to {name}.",
            )
        )
    if result.tau_v is not None and result.tau_v > 0.0005:
        notes.append(
            Note(
                "between_groups",
                "plain",
                f"Groups differ by {volts(result.tau_v, 3)}",
                "That is the typical scatter from group to group, beyond what each group’s own repeats explain. "
                "It is in the bars.",
            )
        )
    elif result.tau_v is None and result.rungs:
        notes.append(
            Note(
                "no_check",
                "caution",
                "Nothing measured twice over",
                f"{len(result.rungs)} plates, and no cell by two groups and no closed loop: the ladder cannot check itself.",
            )
        )
    return notes


def plan_notes(hands: Sequence[Sequence[Cell]], wanted: Sequence[str], liquids: Sequence[str], minutes: int) -> list[Note]:
    """Notes on a share-out of cells: does it fit, does it reach every electrode, is anything left out."""
    most = max((len(hand) for hand in hands), default=0)
    needed = MINUTES_TO_START + most * MINUTES_PER_CELL + MINUTES_TO_CLEAR
    notes = [
        Note(
            "fits" if needed <= minutes else "too_long",
            "good" if needed <= minutes else "caution",
            f"{'Fits' if needed <= minutes else 'Too long'}: {needed} of {minutes} minutes",
            f"Start {MINUTES_TO_START}, each cell {MINUTES_PER_CELL} (clean, dip, settle, three readings, rinse), "
            f"clear up {MINUTES_TO_CLEAR}.",
        )
    ]
    for liquid in liquids:
        pairs = [(c.negative, c.positive) for hand in hands for c in hand if c.electrolyte == liquid]
        parts = connected(wanted, pairs)
        if len(parts) > 1:
            away = ", ".join(electrodes()[name].name for part in parts[1:] for name in part)
            notes.append(
                Note(
                    "unconnected",
                    "caution",
                    "One ladder needs more cells",
                    f"In {electrolytes()[liquid].name} no chain of cells reaches {away} ({len(parts)} separate parts). "
                    "Take fewer plates or liquids, more groups or more time.",
                )
            )
    asked = {cell for hand in hands for cell in hand}
    possible = len(wanted) * (len(wanted) - 1) // 2 * len(liquids)
    if len(asked) < possible:
        notes.append(
            Note(
                "coverage",
                "plain",
                f"{len(asked)} of {possible} cells are measured",
                f"Those with {electrodes()[shared_cell(wanted, liquids).positive].name} come first, then neighbours on the "
                "table. The others follow from the ladder.",
            )
        )
    return notes
