"""How the readings of a lab stand, by the core's one verdict (`galvanic/bench/standing.py`)."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Hashable, Iterable, Mapping, Sequence

from galvanic.bench import standing
from galvanic.bench.class_reference import Reference
from galvanic.bench.standing import SOUND, Standing, values_that_count
from server.entries.checking import Row, earlier_of, reference_of
from server.entries.hands import Hand
from server.entries.outputs import SET_ASIDE
from server.entries.schemas import ReadingOut
from server.labs.models import Lab

Verdicts = Mapping[Hashable, Standing]


def account_of(lab: Lab) -> Reference:
    """What the account and earlier classes say of a lab's cells; no group of it is asked."""
    return Reference(lab.electrodes, lab.electrolytes, [], without="", earlier=earlier_of(lab))


def verdicts_on(lab: Lab, rows: Iterable[Row]) -> Verdicts:
    """The verdicts on readings that are neither corrected nor set aside; those without one are sound."""
    return standing.standings(rows, account_of(lab))


def of_class(lab: Lab, hands: Sequence[Hand]) -> Verdicts:
    """The verdicts on all readings of a class in hand, group by group."""
    return verdicts_on(lab, [row for hand in hands for row in hand.rows])


def with_doubts(lab: Lab, rows: Sequence[Row], out: Verdicts) -> Verdicts:
    """The verdicts on a class's readings, with what is doubtful by the account and the other groups' values that count."""
    standing_rows = counting(rows, out)
    values = values_that_count(rows, out)
    by_group: dict[Hashable, list[Row]] = defaultdict(list)
    for row in standing_rows:
        by_group[row.group].append(row)
    doubts = [doubts_on(own, reference_of(lab, own[0].group, values)) for own in by_group.values()]
    return {key: verdict for found in (*doubts, out) for key, verdict in found.items()}


def doubts_on(rows: Sequence[Row], reference: Reference) -> Verdicts:
    """The verdicts on one group's readings that count although something speaks against them."""
    return standing.doubtful(rows, reference)


def counting(rows: Iterable[Row], verdicts: Verdicts) -> list[Row]:
    """The readings that count."""
    return [row for row in rows if verdicts.get(row.id, SOUND).counts]


def judged(readings: Sequence[ReadingOut], verdicts: Verdicts) -> list[ReadingOut]:
    """Readings as they are sent, with how each stands and why; most are sound and stay as they are."""
    return [
        one
        if (verdict := verdicts.get(one.id)) is None or one.standing == SET_ASIDE
        else one.model_copy(update={"standing": verdict.stand.value, "why": verdict.why})
        for one in readings
    ]
