"""From the readings of a lab to what the core makes of them."""

from __future__ import annotations

from collections.abc import Mapping

from django.db.models import F

from galvanic.compare import ClassReading, ElectrolyteResult, compare
from server.bench.models import Reading
from server.labs.models import Lab
from server.people.models import Teacher


def class_readings(*, actor: Teacher, lab: Lab) -> list[ClassReading]:
    """The readings that count, in one query: neither corrected nor set aside."""
    rows = (
        Reading.objects.visible_to(actor)
        .counted()
        .filter(cell__group__lab=lab)
        .order_by("cell__group__position", "cell__position", "received_at")
        .annotate(corrected_v=F("volts_v") - F("offset_v"))
        .values_list(
            "cell__group__name", "red", "black", "cell__electrolyte", "corrected_v", "resolution_v", "cell__condition"
        )
    )
    return [ClassReading(*row) for row in rows]


def compare_lab(*, actor: Teacher, lab: Lab, anchors: Mapping[str, str]) -> list[ElectrolyteResult]:
    """Each electrolyte's result, in the lab's order of electrolytes."""
    results = compare(class_readings(actor=actor, lab=lab), anchors)
    baths = [(liquid, condition) for liquid in lab.electrolytes for condition in lab.conditions]
    return sorted(results, key=lambda result: baths.index((result.electrolyte, result.condition)))
