"""Does the ladder of one liquid add up? What the loops of cells say, in sentences, and what they are too few to say."""

from __future__ import annotations

from collections.abc import Sequence

from galvanic.errors import NotEnoughData
from galvanic.notes import Note, digits, spread, volts
from galvanic.reference.catalogue import electrodes
from galvanic.statistics.ladder import Difference
from galvanic.statistics.misfit import SEEN_V, Misfit, Suspect, misfit
from galvanic.words import say

TELLS = 0.8  # power below which nothing is said to add up
LIKELY = 0.5  # below, no suspect is named alone


def loop_note(values: Sequence[Difference]) -> Note | None:
    """What is said of the loops of one liquid's values; None where there is nothing to test it by."""
    try:
        found = misfit(values)
    except NotEnoughData:
        return None
    worst = found.cells[0]
    evidence = (
        *(
            say(
                "{cell}: {shift_v} ± {u_v} against all other cells",
                cell=_suspect(one),
                shift_v=volts(one.shift_v, digits(one.u_v), signed=True),
                u_v=spread(one.u_v),
            )
            for one in found.cells[:4]
        ),
        say(
            "a cell that is {seen_v} off would be found in {power:.0f} of 100 such classes",
            seen_v=volts(SEEN_V, 1),
            power=100.0 * found.power,
        ),
    )
    if not found.adds_up:
        return Note("loop", "caution", say("The ladder does not add up"), _odd(found), evidence=evidence)
    if found.power < TELLS:
        text = say(
            "Cells around a loop should add up to nothing. Nothing speaks against it here, but a cell that is {seen_v} off "
            "would be found in only {power:.0f} of 100 such classes. More groups on the same cells would tell.",
            seen_v=volts(SEEN_V, 1),
            power=100.0 * found.power,
        )
        return Note("loops_too_few", "plain", say("Too few loops to tell"), text, evidence=evidence)
    text = say(
        "Cells around a loop should add up to nothing, and they do within what groups differ by on the same cell. Furthest "
        "off is {cell}, by {shift_v}, and that is chance.",
        cell=_suspect(worst),
        shift_v=volts(abs(worst.shift_v)),
    )
    return Note("closes", "good", say("The ladder adds up"), text, evidence=evidence)


def _suspect(one: Suspect) -> str:
    """What may be off, by name: a cell, a group's meter, a group's plate."""
    if one.kind == "cell":
        return f"{electrodes()[one.black].symbol} | {electrodes()[one.red].symbol}"
    if one.kind == "meter":
        return say("all of {group}’s values", group=one.group)
    return say("{group}’s {name}", group=one.group, name=electrodes()[one.red].name)


def _odd(found: Misfit) -> str:
    """What does not fit, and what it most likely is; a part that cannot be told is said so."""
    worst, likely = found.cells[0], found.suspects[0]
    off = say(
        "{cell} lies {shift_v} ± {u_v} beside what all other cells say of it, more than groups differ by on the same cell.",
        cell=_suspect(worst),
        shift_v=volts(abs(worst.shift_v), digits(worst.u_v)),
        u_v=spread(worst.u_v),
    )
    if likely.probability >= LIKELY:
        guess = say(
            "Most likely it is {suspect} ({probability:.0f} in 100).",
            suspect=_suspect(likely),
            probability=100.0 * likely.probability,
        )
    else:
        few = ", ".join(_suspect(one) for one in found.suspects[:3])
        guess = say("Which of them it is cannot be told: {few} are about as likely.", few=few)
    return f"{off} {guess}"
