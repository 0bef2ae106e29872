"""What a group's list of numbers says of how it came about: nothing read, one number for all cells, the table's own numbers,
numbers without rhyme, one reading written three times, one cell's numbers beside another cell, a meter of tenths.

Each is a question to the group, never a charge. Limits are common practice, no source; `bench/explained.py` prints how often
each is said rightly and falsely.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Sequence
from itertools import combinations
from statistics import NormalDist, fmean, stdev

from galvanic.bench.checks import OWN_PLATES_U_V
from galvanic.findings.group_lists import GroupList, Visit
from galvanic.findings.ranked import Ranked
from galvanic.notes import Note, Tone, spread, volts
from galvanic.words import say

LEAST_CELLS = 3
NOTHING_V = 0.01  # up to here a meter shows nothing
SAME_V = 0.005  # one number
LIKE_THE_TABLE_V, UNLIKE_THE_TABLE_V = 0.0105, 0.05  # of a copy; of what such cells are expected to read
NEARLY_ALL, MOST = 0.8, 0.6
NOISE_V, TIMES_OTHERS = 0.25, 5.0
CHANCE_REPEATED, CHANCE_COPIED = 1e-3, 1e-4
APART_V = 0.15  # two cells that can be told by their numbers
COARSE_V = 0.05
HEAVIEST = 99


def list_notes(lists: Sequence[GroupList]) -> list[Ranked]:
    """What the lists of a class say of how they came about."""
    found = [
        *_together(lists, _reads_nothing, "nothing_read", _nothing),
        *_together(lists, _is_constant, "constant", _constant),
        *_together(lists, _is_copied, "copied", _copied),
        *_together(lists, lambda one: _is_noise(one, lists), "noise", _noise),
        *_together(lists, lambda one: _is_repeated(one, lists), "repeated", _repeated),
        *_together(lists, lambda one: len(one.values) >= 2 and one.step_v >= COARSE_V, "coarse", _coarse),
    ]
    return found + [ranked for one in lists for ranked in _same_numbers(one)]


Say = Callable[[Sequence[GroupList], str], Note]
WEIGHTS = {"nothing_read": HEAVIEST, "constant": 98, "noise": 97, "copied": 96, "repeated": 88, "coarse": 86}


def _together(lists: Sequence[GroupList], holds: Callable[[GroupList], bool], code: str, note: Say) -> Iterable[Ranked]:
    """One note for all groups of which something holds."""
    found = [one for one in lists if holds(one)]
    if not found:
        return []
    everybody = len(found) == len(lists)
    who = say("All groups") if everybody and len(found) > 1 else ", ".join(one.group for one in found)
    return [Ranked(WEIGHTS[code], note(found, who), frozenset(one.group for one in found), everybody)]


def _rows(found: Sequence[GroupList]) -> tuple[str, ...]:
    """Each group's cells with their means, a group a line."""
    return tuple(
        f"{one.group}: " + "; ".join(f"{one.named(cell)} {one.shown(mean)}" for cell, mean in list(one.means.items())[:6])
        for one in found[:8]
    )


def _note(code: str, tone: Tone, title: str, text: str, found: Sequence[GroupList]) -> Note:
    return Note(code, tone, title, text, evidence=_rows(found))


def _reads_nothing(one: GroupList) -> bool:
    """Whether all numbers are nought, though most of the cells should show something."""
    due = sum(abs(e.volts_v) > 2.0 * math.hypot(e.u_v, OWN_PLATES_U_V) for e in one.account.values())
    return all(abs(v) <= NOTHING_V for v in one.numbers) and due >= max(1, len(one.values) / 2)


def _nothing(found: Sequence[GroupList], who: str) -> Note:
    return _note(
        "nothing_read", "wrong", say("{who}: nothing is read at all", who=who),
        say(
            "Every number is as good as zero, and these plates should show more. Is the meter on volts, and are both leads "
            "in and on the plates? Do the plates of a cell touch?"
        ),
        found,
    )  # fmt: skip


def _is_constant(one: GroupList) -> bool:
    """Whether cells that should differ all have one number."""
    means, due = list(one.means.values()), [e.volts_v for e in one.account.values()]
    if len(means) < LEAST_CELLS or max(due) - min(due) < 2.0 * APART_V:
        return False
    return max(one.numbers) - min(one.numbers) <= max(SAME_V, 1.01 * one.step_v) and abs(fmean(means)) > NOTHING_V


def _constant(found: Sequence[GroupList], who: str) -> Note:
    text = say(
        "Every cell has {volts}. Different plates do not do that: is the meter on hold, or does it sit on one cell all the "
        "time?",
        volts=volts(fmean(found[0].numbers)),
    )
    return _note("constant", "wrong", say("{who}: one number for every cell", who=who), text, found)


def _is_copied(one: GroupList) -> bool:
    """Whether nearly all cells have the table's own difference, where such cells are expected to read something else."""
    near, chance = [], 1.0
    for cell, mean in one.means.items():
        due, table = one.account[cell], cell.table_v
        if table is None or abs(table - due.volts_v) < UNLIKE_THE_TABLE_V:
            continue
        near.append(abs(mean - table) <= LIKE_THE_TABLE_V)
        if near[-1]:
            off = NormalDist(due.volts_v, math.hypot(due.u_v, OWN_PLATES_U_V))
            chance *= off.cdf(table + LIKE_THE_TABLE_V) - off.cdf(table - LIKE_THE_TABLE_V)
    return len(near) >= LEAST_CELLS and sum(near) >= NEARLY_ALL * len(near) and chance < CHANCE_COPIED


def _copied(found: Sequence[GroupList], who: str) -> Note:
    text = say(
        "Nearly every number is the table’s own difference, to 10 mV. Cells in this liquid do not reach that. Are these "
        "what the meter showed, or what it was expected to show? A prediction has its own place."
    )
    return _note("copied", "caution", say("{who}: the table’s numbers", who=who), text, found)


def _inside(one: GroupList) -> list[float]:
    """Standard deviations of the cells that were read twice or more, V."""
    return [stdev(visit.values) for visit in one.visits if len(visit.values) > 1]


def _is_noise(one: GroupList, lists: Sequence[GroupList]) -> bool:
    """Whether readings of one cell differ wildly in most cells, and far more than other groups' do."""
    own = _inside(one)
    if len(own) < LEAST_CELLS or sum(s > NOISE_V / 2.0 for s in own) < MOST * len(own):
        return False
    pooled = math.sqrt(fmean(s * s for s in own))
    others = [s for other in lists if other is not one for s in _inside(other)]
    middle = sorted(others)[len(others) // 2] if others else 0.0
    return pooled > NOISE_V and (pooled > TIMES_OTHERS * middle or middle > NOISE_V)


def _noise(found: Sequence[GroupList], who: str) -> Note:
    scatter = math.sqrt(fmean(s * s for one in found for s in _inside(one)))
    text = say(
        "Readings of the same cell differ by {scatter} from each other, in nearly every cell. A clip that does not hold, or "
        "a meter with nothing on its leads, does that. Nothing can be told from such numbers: clean the clips, read again.",
        scatter=spread(scatter),
    )
    return _note("noise", "wrong", say("{who}: the numbers jump about", who=who), text, found)


def _is_repeated(one: GroupList, lists: Sequence[GroupList]) -> bool:
    """Whether every cell has one number several times, where the scatter of others makes that unlikely."""
    often = [visit.values for visit in one.visits if len(visit.values) > 2]
    if len(often) < LEAST_CELLS or any(max(values) - min(values) > 1e-9 for values in often):
        return False
    others = [s for other in lists if other is not one for s in _inside(other) if s > 0.0]
    if len(others) < LEAST_CELLS or one.step_v <= 0.0:
        return False
    scatter = sorted(others)[len(others) // 2]
    alike = min(1.0, one.step_v / (scatter * math.sqrt(2.0 * math.pi)))  # of two readings; of n one power less
    return alike ** sum(len(values) - 1 for values in often) < CHANCE_REPEATED


def _repeated(found: Sequence[GroupList], who: str) -> Note:
    times = max(len(visit.values) for one in found for visit in one.visits)
    text = say(
        "Each cell has one number {times} times. Dipped anew, the last digits move for the other groups. Was it read once "
        "and written {times} times? The scatter that is meant to show how well it repeats is then nobody’s.",
        times=times,
    )
    return _note("repeated", "caution", say("{who}: the same number again and again", who=who), text, found)


def _coarse(found: Sequence[GroupList], who: str) -> Note:
    step = volts(max(one.step_v for one in found), 1)
    text = say("Their meter shows steps of {step}. A finer range of the same meter would show more.", step=step)
    return _note("coarse", "plain", say("{who}: a meter with few digits", who=who), text, found)


def _same_numbers(one: GroupList) -> list[Ranked]:
    """The very numbers of one cell beside another one that is expected to read something else."""
    for first, second in combinations(one.visits, 2):
        n = min(len(first.values), len(second.values))
        if first.cell == second.cell or n < 2 or first.values[:n] != second.values[:n]:
            continue
        off = {visit.cell: abs(fmean(visit.values) - one.expected[visit.cell].volts_v) for visit in (first, second)}
        wrong, right = (first, second) if off[first.cell] > off[second.cell] else (second, first)
        apart = abs(one.expected[first.cell].volts_v - one.expected[second.cell].volts_v)
        if apart >= APART_V and off[wrong.cell] >= APART_V:
            return [Ranked(94, _beside(one, wrong, right), frozenset({one.group}))]
    return []


def _beside(one: GroupList, wrong: Visit, right: Visit) -> Note:
    text = say(
        "{wrong} has the very numbers of {right}, one by one, and is expected to read about {due}. Were they written beside "
        "the wrong cell?",
        wrong=one.named(wrong.cell), right=one.named(right.cell), due=volts(one.expected[wrong.cell].volts_v, 1),
    )  # fmt: skip
    title = say("{group}: one cell’s numbers twice", group=one.group)
    rows = tuple(f"{one.named(visit.cell)}: " + "; ".join(one.shown(v) for v in visit.values) for visit in (right, wrong))
    return Note("same_numbers", "wrong", title, text, evidence=rows)
