"""What a plan by levels has to be told: what stays the same, how small an effect it can see, levels that are too few or that
change two things at once."""

from __future__ import annotations

import math
from collections.abc import Sequence

from galvanic.condition import Condition, condition_of
from galvanic.notes import Note, volts
from galvanic.statistics.repeats import coverage

SCATTER_V = 0.02  # of one group's value about its own line: common practice, no source
LEAST_LEVELS, LEAST_GROUPS = 3, 3


def level_notes(conditions: Sequence[str], groups: int) -> list[Note]:
    """Notes on the settings a lab compares; nothing where they are a teacher's own words or only plates and liquids vary."""
    read = [condition_of(text) for text in conditions if text]
    known = [one for one in read if one is not None]
    if not known:
        return []
    names = list(dict.fromkeys(one.row.name for one in known))
    if len(names) > 1:
        text = f"{' and '.join(names)} both change: what comes out belongs to neither alone. Make two labs of it."
        return [Note("two_changed", "caution", "Two things changed at once", text)]
    row = known[0].row
    out = []
    if len(known) < len(read):
        text = "A setting is not understood as one of them, so it is compared in words only."
        out.append(Note("own_words", "plain", f"Not all are {row.name}", text))
    if row.kind == "number" and len(set(known)) < LEAST_LEVELS:
        text = "Two levels draw a straight line through anything. A third in between would show a bend."
        out.append(Note("few_levels", "caution", "Fewer than three levels", text))
    keep = f"Stays the same: {', '.join(row.keep)}. {row.set_up}"
    out.append(Note("keep", "plain", f"You change {row.name}", f"{keep} {row.hazard}".strip()))
    if groups >= LEAST_GROUPS and len(set(known)) > 1:
        out.append(_smallest(known, groups))
    return out


def _smallest(known: Sequence[Condition], groups: int) -> Note:
    """The smallest change over all levels that a class of so many groups can tell from nothing."""
    ranks = [one.rank for one in known]
    middle = math.fsum(ranks) / len(ranks)
    sxx = math.fsum((rank - middle) ** 2 for rank in ranks)
    u = SCATTER_V / math.sqrt(groups * sxx)
    least = coverage(groups - 1) * u * (max(ranks) - min(ranks))
    text = (
        f"If every one of {groups} groups measures every level, a change of {volts(least)} from the first to the last can "
        "be told from nothing. Two groups for each level are the least; mix the order inside a group, so that time is not "
        "the variable."
    )
    return Note("smallest_effect", "plain", "How small an effect it can see", text)
