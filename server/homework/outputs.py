"""Homework as it is shown to its teacher, and to a device."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import asdict

from django.http import HttpRequest

from galvanic.bench.faults import symptoms
from galvanic.simulated.class_drill import HAND_NAMES, FaultInClass, TakenFor, Try, class_drill
from galvanic.simulated.drill import GROUPS, USUAL, drilled
from galvanic.words import say
from server.homework.lookups import homework_of
from server.homework.models import Homework, Tried
from server.homework.schemas import (
    FEWEST,
    MOST,
    FaultOut,
    HomeworkChoice,
    HomeworkForDevice,
    HomeworkOut,
    HomeworkPage,
    TakenForOut,
)
from server.homework.services import KEPT
from server.labs.models import Lab
from server.labs.sheets.links import link_to


def homework_page(request: HttpRequest, lab: Lab, may_change: bool) -> HomeworkPage:
    """All homework of a lab."""
    found = homework_of(lab)
    return HomeworkPage(
        title=lab.title,
        date=lab.date,
        state=lab.state,
        simulated=lab.simulated,
        may_change=may_change,
        fewest_benches=FEWEST,
        most_benches=MOST,
        choices=[HomeworkChoice(key=key, seen=symptoms()[key].seen, usual=key in USUAL) for key in GROUPS],
        homework=[_homework(request, row, tried) for row, tried in found],
    )


def _homework(request: HttpRequest, row: Homework, tried: Sequence[Tried]) -> HomeworkOut:
    done = Counter(one.device for one in tried)
    tries = [Try(str(one.device), one.symptom, one.fault, one.named, tuple(one.hands)) for one in tried]
    return HomeworkOut(
        id=row.id,
        code=row.code,
        symptoms=row.symptoms,
        benches=row.benches,
        set_at=row.set_at,
        ended_at=row.ended_at,
        removed_at=row.set_at + KEPT,
        link=link_to(request, "practise", row.code) if row.ended_at is None else None,
        devices=len(done),
        through=sum(count >= row.benches for count in done.values()),
        tries=len(tried),
        faults=[_fault(found) for found in class_drill(tries)],
    )


def _fault(found: FaultInClass) -> FaultOut:
    known = drilled()[found.fault]
    return FaultOut(
        **{key: value for key, value in asdict(found).items() if key != "taken_for"},
        seen=symptoms()[found.symptom].seen,
        name=known.name,
        mend=known.mend,
        taken_for=[_taken(one) for one in found.taken_for],
    )


def _taken(one: TakenFor) -> TakenForOut:
    return TakenForOut(
        name=drilled()[one.named].name,
        devices=one.devices,
        tells=[say(HAND_NAMES[hand]) for hand in one.tells],
        untried=one.untried,
    )


def for_device(row: Homework) -> HomeworkForDevice:
    """What a device has to know; of the lab its title only."""
    return HomeworkForDevice(code=row.code, lab=row.lab.title, symptoms=row.symptoms, benches=row.benches)
