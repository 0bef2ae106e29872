"""How far a lab is, which cautions its materials bring, and whether its safety sheet is signed."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from galvanic.planning.asked import Asked
from galvanic.planning.safety import Sheet, bench_cautions, sheet
from galvanic.planning.schedule import READINGS
from galvanic.words import mark, say
from server.labs.models import Lab, SignOff

Stage = Literal["plan", "measure", "compare"]

READINGS_PER_CELL = READINGS
LOCAL_RULES = mark("Your school’s own rules and risk assessment come first.")


def stage_of(lab: Lab) -> Stage:
    """The furthest stage of the lab that has begun."""
    stages: dict[str, Stage] = {Lab.State.DRAFT: "plan", Lab.State.OPEN: "measure", Lab.State.CLOSED: "compare"}
    return stages[lab.state]


def asked_of(lab: Lab) -> Asked:
    """What the lab measures besides open voltages."""
    return Asked(lab.short_circuit, lab.load_ohm, lab.packs)


def cautions(lab: Lab, electrodes: Sequence[str], electrolytes: Sequence[str]) -> list[str]:
    """What a group of a lab reads for these materials, local rules last."""
    return [*bench_cautions(electrodes, electrolytes, asked_of(lab)), say(LOCAL_RULES)]


def sheet_of(lab: Lab) -> Sheet:
    """The lab's safety sheet as it is now."""
    return sheet(lab.electrodes, lab.electrolytes, lab.age, lab.activities, asked_of(lab))


def signed(lab: Lab, found: Sheet) -> bool:
    """Whether somebody has signed just this sheet."""
    return SignOff.objects.filter(lab=lab, fingerprint=found.fingerprint).exists()
