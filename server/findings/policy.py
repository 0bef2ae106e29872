"""Who may see a class's findings, and when."""

from __future__ import annotations

from galvanic.cells import Cell
from galvanic.words import say
from server.base.problems import Problem
from server.findings.models import Claim
from server.labs.lookups import lab_of_group
from server.labs.models import Lab
from server.people.auth import Member


def lab_for_group(actor: Member, *parts: str) -> Lab:
    """The group's lab, if the teacher has released one of the parts. Raises Problem not_released."""
    lab = lab_of_group(actor)
    if not set(parts) & set(lab.released):
        raise Problem(403, "not_released", say("Your teacher has not shown this to the groups yet."))
    return lab


def lab_for_explaining(actor: Member, cell: Cell) -> Lab:
    """The group's lab, if the teacher has shown where the volts went, or the group has claimed something of this cell first:
    with a reading, and with what would speak against it. Raises Problem not_released, or claim_first."""
    lab = lab_of_group(actor)
    if "explain" in lab.released or opened_cells(actor) & {cell}:
        return lab
    if "claims" in lab.released:
        say_first = say("Claim first what took the volts of this cell, with a reading and what would speak against it.")
        raise Problem(403, "claim_first", say_first)
    return lab_for_group(actor, "explain")


def opened_cells(actor: Member) -> set[Cell]:
    """The cells that a group's claims have opened."""
    return {claim.cell for claim in Claim.objects.visible_to(actor).that_open() if claim.cell is not None}
