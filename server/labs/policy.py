"""How far a lab is, and which cautions its materials bring."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from galvanic import catalogue
from server.labs.models import Lab

Stage = Literal["plan", "measure", "compare"]

READINGS_PER_CELL = 3
USUAL_CAUTIONS = (
    "Eye protection on.",
    "Wash your hands afterwards.",
    "Only cells built here: no mains, no supply, no bought battery.",
)
LOCAL_RULES = "Your school’s own rules and risk assessment come first."


def stage_of(lab: Lab) -> Stage:
    """The furthest stage of the lab that has begun."""
    stages: dict[str, Stage] = {Lab.State.DRAFT: "plan", Lab.State.OPEN: "measure", Lab.State.CLOSED: "compare"}
    return stages[lab.state]


def cautions(electrodes: Sequence[str], electrolytes: Sequence[str]) -> list[str]:
    """The usual cautions for these materials, local rules last; common practice, no source."""
    found: dict[str, None] = dict.fromkeys(USUAL_CAUTIONS)
    for key in electrodes:
        found |= dict.fromkeys(catalogue.electrodes()[key].cautions)
    for key in electrolytes:
        found |= dict.fromkeys(catalogue.electrolytes()[key].cautions)
    return [*found, LOCAL_RULES]
