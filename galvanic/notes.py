"""What the software has to say about a result, in sentences a fifteen-year-old reads once; every note has a number."""

from __future__ import annotations

from dataclasses import dataclass

from galvanic.catalogue import electrodes
from galvanic.cells import Cell
from galvanic.compare import ElectrolyteResult

MINUS = "\u2212"
THIN = "\u202f"


@dataclass(frozen=True, slots=True)
class Action:
    """What a note offers to do: a kind for programs, words for the button, the cell concerned, how often, at which group."""

    kind: str
    label: str
    cell: Cell | None = None
    times: int = 1
    group: int | None = None


@dataclass(frozen=True, slots=True)
class Note:
    """One margin note: a code for programs, a tone (plain, good, caution, wrong), a title, a text, at most one action."""

    code: str
    tone: str
    title: str
    text: str
    action: Action | None = None


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
