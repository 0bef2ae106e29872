"""From a lab to how far its readings decide between the accounts, and to the cells that could be measured next."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import combinations, islice

from galvanic.cells import Cell, standing
from galvanic.chemistry.fitting import refusal
from galvanic.findings.bath_notes import sharpening
from galvanic.findings.deciding import MOST_TELLING, Deciding, deciding
from galvanic.reference.catalogue import electrodes, electrolytes
from server.base.kept import made_once
from server.findings.services import compare_lab, kept_readings
from server.labs.models import Lab
from server.materials.models import Shelf
from server.people.models import Teacher

MOST_CANDIDATES = 240


def deciding_in(lab: Lab, further: list[Cell]) -> Deciding:
    """The accounts weighed on a lab's readings, in the order in which they were taken."""
    order = [(Cell.of(one.black, one.electrolyte, one.red, one.condition), one.group) for one in kept_readings(lab).counting]
    return deciding(compare_lab(lab), list(dict.fromkeys(order)), further)


def decided_in(lab: Lab) -> str:
    """Which account a lab's readings bear out, in words; kept until the lab's next change."""
    return made_once(lab, "decided", lambda: deciding_in(lab, []).verdict)


def candidates(lab: Lab, teacher: Teacher) -> list[Cell]:
    """The cells that could be measured next: of the lab's own plates and liquids; where it is closed, the next lab can have
    those of the cupboard too."""
    plates, liquids = list(lab.electrodes), list(lab.electrolytes)
    if lab.state == Lab.State.CLOSED:
        known = Shelf.objects.visible_to(teacher).exclude(count=0).order_by("material").values_list("material", flat=True)
        shelf = list(known)
        plates += [one for one in shelf if one in electrodes()]
        liquids += [one for one in shelf if one in electrolytes()]
    return list(islice(_cells(lab, list(dict.fromkeys(plates)), list(dict.fromkeys(liquids))), MOST_CANDIDATES))


def _cells(lab: Lab, plates: list[str], liquids: list[str]) -> Iterator[Cell]:
    ordered = sorted((plate for plate in plates if plate in electrodes()), key=lambda key: (standing(key), key))
    for liquid in liquids:
        for condition in lab.conditions if liquid in lab.electrolytes else lab.conditions[:1]:
            for low, high in combinations(ordered, 2):
                if not refusal(cell := Cell(low, liquid, high, condition)):
                    yield cell


def sharper(lab: Lab) -> list[Cell]:
    """The cells on which one more group would sharpen the lab's ladders, most first."""
    results = compare_lab(lab)
    found = [(one.then - one.now, result, one) for result in results for one in sharpening(result)]
    cells = [
        Cell.of(one.black, result.electrolyte, one.red, result.condition)
        for _, result, one in sorted(found, key=lambda row: -row[0])
    ]
    return [cell for cell in cells if not refusal(cell)][:MOST_TELLING]
