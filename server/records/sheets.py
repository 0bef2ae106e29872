"""All tables of a lab: what is found of it, and what groups kept besides readings: loads, notes, packs."""

from __future__ import annotations

import uuid
from collections import defaultdict

from galvanic.bench.load_standing import under_load_standing
from galvanic.bench.pack_steps import known_load
from galvanic.reference import catalogue
from server.entries.models import Observation, UnderLoad
from server.entries.outputs import SET_ASIDE
from server.findings.tables import Sheet, sheets_of
from server.labs.models import Lab, PlannedCell
from server.power.models import PackEntry
from server.power.packs import standings_of


def all_sheets(lab: Lab) -> list[Sheet]:
    """Every table of a lab, for CSV and the workbook."""
    return [*sheets_of(lab), _loads(lab), _notes(lab), _packs(lab)]


def _names() -> tuple[dict[str, str], dict[str, str]]:
    plates, liquids = catalogue.electrodes(), catalogue.electrolytes()
    return {key: one.name for key, one in plates.items()}, {key: one.name for key, one in liquids.items()}


def _of_cell(cell: PlannedCell) -> tuple[str, str, str, str, str]:
    plates, liquids = _names()
    return (
        cell.group.name,
        plates.get(cell.negative, cell.negative),
        liquids.get(cell.electrolyte, cell.electrolyte),
        plates.get(cell.positive, cell.positive),
        cell.condition,
    )


CELL = ("group", "negative", "electrolyte", "positive", "condition")


def _loads(lab: Lab) -> Sheet:
    rows = UnderLoad.objects.filter(cell__group__lab=lab).select_related("cell__group")
    return Sheet(
        "loads",
        (*CELL, "kind", "load, Ω", "value, V or A", "as typed", "unit", "typed at", "standing", "why"),
        [
            (
                *_of_cell(row.cell), row.kind, row.load_ohm, row.value, row.text, row.unit, _when(row),
                (verdict := under_load_standing(row.cell.cell, row.kind, row.value)).stand.value, verdict.why,
            )
            for row in rows.order_by("cell__group__position", "cell__position", "received_at")
        ],
    )  # fmt: skip


def _notes(lab: Lab) -> Sheet:
    rows = Observation.objects.filter(cell__group__lab=lab).select_related("cell__group")
    return Sheet(
        "notes",
        (*CELL, "what was seen", "typed at"),
        [
            (*_of_cell(row.cell), row.text, _when(row))
            for row in rows.order_by("cell__group__position", "cell__position", "received_at")
        ],
    )


def _packs(lab: Lab) -> Sheet:
    """One row an entry: packs are steps, and every number keeps its place and whether it counts."""
    plates, liquids = _names()
    rows = list(
        PackEntry.objects.filter(group__lab=lab)
        .select_related("pack", "group")
        .order_by("group__position", "pack__received_at", "received_at", "id")
    )
    of_pack: dict[uuid.UUID, list[PackEntry]] = defaultdict(list)
    for row in rows:
        of_pack[row.pack_id].append(row)
    verdicts = {key: one for entries in of_pack.values() for key, one in standings_of(entries).items()}
    loads = {row.pack.load: known_load(row.pack.load) for row in rows}
    return Sheet(
        "packs",
        (
            "group", "pack", "load", "for", "what", "cell of the row", "negative", "electrolyte", "positive",
            "value, V or A", "as typed", "unit", "typed at", "counts", "why corrected",
            "standing", "why",
        ),
        [
            (
                row.group.name, str(row.pack_id), row.pack.load, getattr(loads[row.pack.load], "name", row.pack.load),
                row.kind, row.position, plates.get(row.negative, row.negative),
                liquids.get(row.electrolyte, row.electrolyte), plates.get(row.positive, row.positive), row.value,
                row.text, row.unit, _when(row),
                "yes" if row.id in verdicts and verdicts[row.id].counts else "no", row.reason,
                verdicts[row.id].stand.value if row.id in verdicts else SET_ASIDE,
                verdicts[row.id].why if row.id in verdicts else "",
            )
            for row in rows
        ],
    )  # fmt: skip


def _when(row: UnderLoad | Observation | PackEntry) -> str:
    return (row.taken_at or row.received_at).isoformat()
