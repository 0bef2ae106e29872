"""What a row of a package has to mean beyond what its columns allow: the pages that show it rely on that."""

from __future__ import annotations

import json
from typing import Any

from galvanic.bench.readings import parse
from galvanic.errors import GalvanicError
from galvanic.findings.claims import CAUSES
from galvanic.findings.misconceptions import misconceptions
from galvanic.findings.notebook import PARTS
from galvanic.findings.pack_claims import PACK_CAUSES
from galvanic.reference.variables import variables
from galvanic.words import say
from server.base.problems import Problem
from server.entries.models import Actual, KeptTrace, MeterCheck, Reading
from server.findings.models import Answer, Claim, Meant, OwnTest
from server.notebook.models import Returned, Words
from server.notebook.schemas import MOST_CITES, MOST_TEXT
from server.notebook.services import CITED
from server.power.models import Pack, RunFile
from server.power.services import load_named

MOST_OBJECT = 20_000
PART_KEYS = {part.key for part in PARTS}


def odd(row: Any) -> str | None:
    """What is wrong with a row, in a sentence; None where nothing is."""
    for kind, says in RULES.items():
        if isinstance(row, kind) and (sentence := says(row)) is not None:
            return str(sentence)
    return None


def _reading(row: Reading) -> str | None:
    if row.red == row.black:
        return say("red and black are on the same plate.")
    return None if row.resolution_v > 0.0 else say("resolution_v is above zero.")


def _check(row: MeterCheck) -> str | None:
    return _unreadable(row.leads_text, row.dry_text)


def _own_test(row: OwnTest) -> str | None:
    return _unreadable(row.before_text, row.after_text)


def _meant(row: Meant) -> str | None:
    return None if row.belief in misconceptions() else say("belief: there is none called “{belief}”.", belief=row.belief)


def _unreadable(*texts: str) -> str | None:
    try:
        for text in texts:
            parse(text, "V")
    except GalvanicError as error:
        return str(error)
    return None


def _actual(row: Actual) -> str | None:
    return None if row.variable in variables() else say("variable: there is no “{variable}”.", variable=row.variable)


def _trace(row: KeptTrace) -> str | None:
    if not isinstance(row.understood, dict) or len(row.times_s) != len(row.volts_v) or not row.times_s:
        return say("times_s and volts_v are lists of the same length.")
    return None


def _run_file(row: RunFile) -> str | None:
    lengths = {len(one) for one in (row.volts_v, row.current_a) if one}
    return None if lengths == {len(row.times_s)} else say("times_s, volts_v and current_a are lists of the same length.")


def _pack(row: Pack) -> str | None:
    try:
        load_named(row.load)
    except Problem as problem:
        return problem.message
    return None


def _claim(row: Claim) -> str | None:
    causes = CAUSES if row.pack is None else PACK_CAUSES
    return None if row.cause in causes else say("cause: there is no “{cause}”.", cause=row.cause)


def _marks(row: Answer | Returned) -> str | None:
    good = isinstance(row.marks, dict) and all(isinstance(one, int | float) for one in row.marks.values())
    return None if good and len(row.marks) <= 8 else say("marks: points by row of the rubric.")


def _returned(row: Returned) -> str | None:
    good = isinstance(row.remarks, dict) and all(
        key in PART_KEYS and isinstance(text, str) and len(text) <= MOST_TEXT for key, text in row.remarks.items()
    )
    return _marks(row) if good and len(row.text) <= MOST_TEXT else say("remarks: words by part.")


def _words(row: Words) -> str | None:
    if row.part not in PART_KEYS or len(row.text) > MOST_TEXT:
        return say("part: there is no such part, or its text is too long.")
    good = isinstance(row.cites, list) and len(row.cites) <= MOST_CITES and all(one["kind"] in CITED for one in row.cites)
    return None if good and len(json.dumps(row.cites)) <= MOST_OBJECT else say("cites: kinds and ids.")


RULES: dict[type[Any], Any] = {
    Reading: _reading, MeterCheck: _check, Actual: _actual, KeptTrace: _trace, RunFile: _run_file, Pack: _pack,
    Claim: _claim, OwnTest: _own_test, Meant: _meant, Answer: _marks, Returned: _returned, Words: _words,
}  # fmt: skip
