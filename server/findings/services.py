"""From the readings of a lab to what the core makes of them."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from django.db.models import F, Q

from galvanic.bench.standing import Standing, previewed
from galvanic.cells import Cell
from galvanic.findings.compare import ClassReading, ElectrolyteResult, compare
from galvanic.statistics.drift import Shared
from server.base.kept import made_once
from server.entries.checking import Row
from server.entries.models import MeterCheck, Prediction, Reading
from server.entries.standing import Verdicts, verdicts_on, with_doubts
from server.labs.models import Lab
from server.people.auth import Member

# Whether the plate that is written first was named negative, and V signed so; None where the order alone was foretold.
Said = tuple[bool, float | None]
Predictions = Mapping[Cell, Mapping[str, Said]]
PARTS = ("compare", "explain", "claims", "power", "notebook")


@dataclass(frozen=True, slots=True)
class LeftOut:
    """A reading that does not count, by its verdict, until somebody says so."""

    reading: Reading
    standing: Standing


@dataclass(frozen=True, slots=True)
class Kept:
    """The readings of a lab that count, those of the shared cell with their minute, those that the one verdict leaves out;
    all that are neither corrected nor set aside, and the verdicts on them; `every` of them and those `counting`, in the
    order in which each group took them."""

    readings: list[ClassReading]
    shared: list[Shared]
    left_out: list[LeftOut]
    rows: list[Row]
    verdicts: Verdicts
    every: list[ClassReading]
    counting: list[ClassReading]


def kept_readings(lab: Lab) -> Kept:
    """The readings that count: neither corrected nor set aside, and standing. One query, kept until the next change."""

    def make() -> Kept:
        found = (
            Reading.objects.counted()
            .filter(cell__group__lab=lab)
            .order_by("cell__group__position", "cell__position", "received_at")
            .annotate(corrected_v=F("volts_v") - F("offset_v"))
            .values_list(
                "id", "cell__group", "cell__group__name", "cell", "cell__negative", "cell__electrolyte", "cell__positive",
                "cell__condition", "cell__shared", "red", "black", "corrected_v", "resolution_v", "looked_at", "taken_at",
                "received_at",
            )
        )  # fmt: skip
        rows, readings, shared, taken = [], {}, {}, {}
        for (
            key, group, name, cell_id, negative, liquid, positive, condition, is_shared, red, black, volts_v, resolution_v,
            looked_at, taken_at, received_at,
        ) in found:  # fmt: skip
            cell = Cell(negative, liquid, positive, condition)
            signed_v = volts_v if red == positive else -volts_v
            rows.append(Row(key, group, cell_id, cell, signed_v, resolution_v, looked_at))
            readings[key] = ClassReading(name, red, black, liquid, volts_v, resolution_v, condition)
            taken[key] = taken_at or received_at
            if is_shared and lab.opened_at is not None:
                shared[key] = Shared(name, _minute(lab.opened_at, taken_at or received_at), signed_v)
        verdicts = verdicts_on(lab, rows)
        out = {key: one for key, one in verdicts.items() if not one.counts}
        order = sorted(readings, key=lambda key: taken[key])
        return Kept(
            [one for key, one in readings.items() if key not in out],
            [one for key, one in shared.items() if key not in out],
            _left_out(previewed(rows, out)),
            rows,
            verdicts,
            [readings[key] for key in order],
            [readings[key] for key in order if key not in out],
        )

    return made_once(lab, "kept readings", make)


def _left_out(out: Verdicts) -> list[LeftOut]:
    """The readings behind verdicts, in the order of groups and cells; asked for only where there are any."""
    if not out:
        return []
    rows = Reading.objects.filter(id__in=list(out)).select_related("cell__group")
    return [LeftOut(one, out[one.id]) for one in rows.order_by("cell__group__position", "cell__position", "received_at")]


def verdicts_with_doubts(lab: Lab) -> Verdicts:
    """The verdicts on a lab's readings, those that count although something speaks against them among them."""

    def make() -> Verdicts:
        kept = kept_readings(lab)
        return with_doubts(lab, kept.rows, kept.verdicts)

    return made_once(lab, "verdicts", make)


def _minute(opened_at: datetime, at: datetime) -> float:
    return (at - opened_at).total_seconds() / 60.0


def class_readings(lab: Lab) -> list[ClassReading]:
    """The readings that count."""
    return kept_readings(lab).readings


def in_order(lab: Lab, results: tuple[ElectrolyteResult, ...]) -> list[ElectrolyteResult]:
    """Results in the lab's order of electrolytes and settings."""
    baths = [(liquid, condition) for liquid in lab.electrolytes for condition in lab.conditions]
    return sorted(results, key=lambda result: baths.index((result.electrolyte, result.condition)))


def compare_lab(
    lab: Lab, anchors: Mapping[str, str] | None = None, readings: Sequence[ClassReading] | None = None
) -> list[ElectrolyteResult]:
    """Each electrolyte's result, in the lab's order of electrolytes; `readings`: those that count, if they are fetched."""

    def make() -> list[ElectrolyteResult]:
        return in_order(lab, compare(class_readings(lab) if readings is None else readings, anchors))

    return make() if anchors else made_once(lab, "results", make)


def own_results(lab: Lab, group: Member) -> list[ElectrolyteResult]:
    """What a group's own readings give by themselves, as if there were no other group."""

    def make() -> list[ElectrolyteResult]:
        return in_order(lab, compare([reading for reading in class_readings(lab) if reading.group == group.name], None))

    return made_once(lab, f"results {group.group_id}", make)


def shows_class(lab: Lab) -> bool:
    """Whether groups may see what the class has found."""
    return bool({"compare", "explain"} & set(lab.released))


def checked_offsets(lab: Lab) -> dict[str, float | None]:
    """Each group's offset by its latest meter check, V; None without one."""
    offsets: dict[str, float | None] = dict.fromkeys(lab.groups.values_list("name", flat=True))
    checks = MeterCheck.objects.filter(group__lab=lab).order_by("received_at", "id")
    offsets.update(checks.values_list("group__name", "offset_v"))
    return offsets


def predictions_of(lab: Lab) -> Predictions:
    """Each group's latest prediction of each cell, as the cell is written; one query."""
    return predictions_by_lab([lab])[lab.id]


def predictions_by_lab(labs: Sequence[Lab]) -> Mapping[uuid.UUID, Predictions]:
    """`predictions_of` each of several labs; one query."""
    by_lab: dict[uuid.UUID, dict[Cell, dict[str, Said]]] = {lab.id: defaultdict(dict) for lab in labs}
    rows = Prediction.objects.filter(cell__group__lab__in=labs).order_by("received_at", "id").select_related("cell__group")
    for row in rows:
        if row.volts_v is None and row.way:  # what changes was foretold, not which way round
            continue
        as_written = row.negative == row.cell.negative
        volts_v = None if row.volts_v is None else row.volts_v if as_written else -row.volts_v
        by_lab[row.cell.group.lab_id][row.cell.cell][row.cell.group.name] = (as_written, volts_v)
    return by_lab


def set_aside(lab: Lab) -> list[Reading]:
    """Readings that are set aside, by themselves or with their group, with the reason."""
    rows = Reading.objects.current().with_aside().filter(Q(cell__group__lab=lab), ~Q(("aside_reason", "")))
    return list(rows.select_related("cell__group"))


def came_late(lab: Lab) -> list[Reading]:
    """Readings that came in after the lab had closed."""
    rows = Reading.objects.current().with_aside().filter(cell__group__lab=lab, after_closing=True)
    return list(rows.select_related("cell__group"))
