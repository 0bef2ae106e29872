"""What a plan by levels has to be told: what stays the same, how small an effect it can see, levels that are too few or that
change two things at once."""

from __future__ import annotations

import math
from collections.abc import Sequence

from galvanic.condition import Condition, condition_of
from galvanic.notes import Note, volts
from galvanic.statistics.repeats import coverage
from galvanic.words import say

SCATTER_V = 0.02  # of one group's value about its own line: common practice, no source
LEAST_LEVELS, LEAST_GROUPS = 3, 3


def level_notes(conditions: Sequence[str], groups: int) -> list[Note]:
    """Notes on the settings a lab compares; nothing where they are a teacher's own words or only plates and liquids vary."""
    read = [condition_of(text) for text in conditions if text]
    known = [one for one in read if one is not None]
    if not known:
        return []
    names = list(dict.fromkeys(one.row.said for one in known))
    if len(names) > 1:
        text = say(
            "{names} both change: what comes out belongs to neither alone. Make two labs of it.",
            names=say(" and ").join(names),
        )
        return [Note("two_changed", "caution", say("Two things changed at once"), text)]
    row = known[0].row
    out = []
    if len(known) < len(read):
        text = say("A setting is not understood as one of them, so it is compared in words only.")
        out.append(Note("own_words", "plain", say("Not all are {name}", name=row.said), text))
    if row.kind == "number" and len(set(known)) < LEAST_LEVELS:
        text = say("Two levels draw a straight line through anything. A third in between would show a bend.")
        out.append(Note("few_levels", "caution", say("Fewer than three levels"), text))
    keep = say("Stays the same: {keep}. {set_up}", keep=", ".join(row.keep), set_up=row.set_up)
    out.append(Note("keep", "plain", say("You change {name}", name=row.said), f"{keep} {row.hazard}".strip()))
    if groups < LEAST_GROUPS:
        text = say(
            "It takes {least} groups to know how far groups differ by themselves; with {groups}, no effect of {name} can be "
            "told from that. Make more groups, or let each bench work as two.",
            least=LEAST_GROUPS,
            groups=groups,
            name=row.said,
        )
        out.insert(0, Note("too_few_groups", "caution", say("Too few groups to answer it"), text))
    elif len(set(known)) > 1:
        out.append(_smallest(known, groups))
    return out


def _smallest(known: Sequence[Condition], groups: int) -> Note:
    """The smallest change over all levels that a class of so many groups can tell from nothing."""
    ranks = [one.rank for one in known]
    middle = math.fsum(ranks) / len(ranks)
    sxx = math.fsum((rank - middle) ** 2 for rank in ranks)
    u = SCATTER_V / math.sqrt(groups * sxx)
    least = coverage(groups - 1) * u * (max(ranks) - min(ranks))
    text = say(
        "If every one of {groups} groups measures every level, a change of {least} from the first to "
        "the last can be told from nothing. Two groups for each level are the least; mix the order "
        "inside a group, so that time is not the variable.",
        groups=groups,
        least=volts(least),
    )
    return Note("smallest_effect", "plain", say("How small an effect it can see"), text)
