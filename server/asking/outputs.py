"""Questions to a class as they are shown to their teacher, and to a device."""

from __future__ import annotations

from collections.abc import Sequence

from django.http import HttpRequest

from galvanic.findings.class_questions import ready, thoughts
from galvanic.reference.catalogue import electrodes
from galvanic.words import speaking
from server.asking.lookups import Answers, first_pair, questions_of
from server.asking.models import ClassAnswer, ClassQuestion
from server.asking.schemas import MOST_OPTIONS, AskedOption, AskedOut, AskPage, QuestionForDevice, ReadyQuestion, ThoughtOut
from server.asking.services import KEPT
from server.labs.models import Lab
from server.labs.sheets.links import link_to


def ask_page(request: HttpRequest, lab: Lab, may_change: bool) -> AskPage:
    """All questions to a lab's class, and the ready ones in the lab's language."""
    rows, answers = questions_of(lab)
    pair = first_pair(lab)
    with speaking(lab.language):
        plates = electrodes()
        named = None if pair is None else (plates[pair[0]].name, plates[pair[1]].name)
        offered = [
            ReadyQuestion(
                key=one.key, text=one.text, options=[option.text for option in one.options], fits=one.fits, about=one.about
            )
            for one in ready(named)
        ]
    return AskPage(
        title=lab.title, date=lab.date, state=lab.state, simulated=lab.simulated, may_change=may_change,
        most_options=MOST_OPTIONS, ready=offered,
        asked=[_asked(request, row, answers[row.id], _first_asked(row, rows, answers)) for row in rows],
    )  # fmt: skip


def _first_asked(row: ClassQuestion, rows: Sequence[ClassQuestion], answers: Answers) -> list[ClassAnswer] | None:
    """The answers to the same question when it was asked first; None where this is that time."""
    same = [one for one in rows if (one.text, one.options) == (row.text, row.options)]
    return None if same[-1] is row or not answers[same[-1].id] else answers[same[-1].id]


def _sums(row: ClassQuestion, answers: Sequence[ClassAnswer]) -> list[int]:
    """How many chose each option."""
    return [sum(one.choice == place for one in answers) for place in range(len(row.options))]


def _asked(
    request: HttpRequest, row: ClassQuestion, answers: Sequence[ClassAnswer], before: Sequence[ClassAnswer] | None
) -> AskedOut:
    texts = [one.text for one in answers if one.text]
    chosen = [one.choice for one in answers if one.choice is not None]
    behind = thoughts([option["belief"] for option in row.options], chosen, texts)
    return AskedOut(
        id=row.id, code=row.code, text=row.text, fits=row.fits, asked_at=row.asked_at, ended_at=row.ended_at,
        options=[
            AskedOption(text=option["text"], chosen=count)
            for option, count in zip(row.options, _sums(row, answers), strict=True)
        ],
        before=[] if before is None else _sums(row, before),
        removed_at=row.asked_at + KEPT,
        link=link_to(request, "answer", row.code) if row.ended_at is None else None,
        devices=len(answers), texts=texts,
        thoughts=[
            ThoughtOut(name=one.name, answers=one.answers, against=one.against, question=one.question) for one in behind
        ],
    )  # fmt: skip


def for_device(row: ClassQuestion) -> QuestionForDevice:
    """What a device has to know."""
    return QuestionForDevice(
        code=row.code, lab=row.lab.title, text=row.text, options=[option["text"] for option in row.options]
    )
