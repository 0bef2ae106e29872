"""Every table of a lab's findings with units, uncertainty and the edition of the data used, as rows for CSV and XLSX."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from dataclasses import dataclass

from openpyxl import Workbook
from openpyxl.styles import Font

from galvanic.bench.readings import as_shown
from galvanic.bench.standing import SOUND
from galvanic.chemistry.gap import explain
from galvanic.errors import NotEnoughData
from galvanic.findings.class_accounts import NAMES, score_accounts
from galvanic.reference import catalogue
from galvanic.words import mark, say
from server.base.spreadsheet import plain_text
from server.entries.models import Actual, Reading
from server.entries.outputs import SET_ASIDE
from server.findings.by_variable import changed_in, of_own_level
from server.findings.outputs import compare_out
from server.findings.schemas import CompareOut
from server.findings.services import compare_lab, verdicts_with_doubts
from server.labs.models import Lab

SAID = (
    mark("readings"), mark("cells"), mark("ladders"), mark("predictions"), mark("liquids"), mark("variables"),
    mark("accounts"), mark("causes"), mark("loads"), mark("notes"), mark("packs"), mark("variable"), mark("level"),
    mark("found"), mark("in"), mark("negative by the table"), mark("positive by the table"), mark("table, V"),
    mark("class mean, V"), mark("standard uncertainty, V"), mark("95 % from, V"), mark("95 % to, V"),
    mark("difference, V"), mark("difference, %"), mark("groups"), mark("plate"), mark("class, V"),
    mark("standard uncertainty of the distance to the held plate, V"), mark("held"), mark("predicted, V"),
    mark("sign right"), mark("off by, V"), mark("pair"), mark("pH, middle"), mark("conductivity, S/m, middle"),
    mark("cell"), mark("step"), mark("adds, V"), mark("working"), mark("test"), mark("what was seen"), mark("pack"),
    mark("load"), mark("for"), mark("what"), mark("cell of the row"), mark("why corrected"),
)  # fmt: skip
"""Names of tables and headings that stand in them besides those of `galvanic.bench.headings`, as a workbook says them."""


class Shown(str):
    """A number as text with just its digits, for CSV; a number with as many decimals in a workbook."""

    __slots__ = ()

    @property
    def number_format(self) -> str:
        """The workbook's format for it."""
        _, point, decimals = self.partition(".")
        return "0" + point + "0" * len(decimals)


Value = str | float | int | None


@dataclass(frozen=True, slots=True)
class Sheet:
    """One table: a name for its file, the headings with their units, and the rows."""

    name: str
    headings: Sequence[str]
    rows: Sequence[Sequence[Value]]


def _names() -> tuple[dict[str, str], dict[str, str]]:
    return (
        {key: one.name for key, one in catalogue.electrodes().items()},
        {key: one.name for key, one in catalogue.electrolytes().items()},
    )


def sheets_of(lab: Lab) -> list[Sheet]:
    """All tables of a lab."""
    compared = compare_out(lab, {})
    return [
        _readings(lab),
        _cells(compared),
        _ladders(compared),
        _predictions(compared),
        _liquids(compared),
        _variables(lab),
        *_explained(lab),
    ]


def _variables(lab: Lab) -> Sheet:
    """One row a group and level: what was changed, to what, and what was found there."""
    plates, liquids = _names()
    headings = ("variable", "level", "really", "unit", "negative", "electrolyte", "positive", "group", "found", "in")
    rows = [
        (
            one.variable.name, tick.condition.value, tick.at, one.variable.unit, plates[one.cell.negative],
            liquids[one.cell.electrolyte], plates[one.cell.positive], tick.group, tick.value,
            "V" if one.quantity == "volts" else "A",
        )
        for one in changed_in(lab)
        for tick in one.ticks
    ]  # fmt: skip
    return Sheet("variables", headings, rows)


@dataclass(frozen=True, slots=True)
class Stands:
    """How a reading stands, in the words of an export."""

    said: str
    counts: bool
    why: str


def _readings(lab: Lab) -> Sheet:
    plates, liquids = _names()
    really = {
        row.cell_id: row.text
        for row in Actual.objects.filter(cell__group__lab=lab).select_related("cell")
        if of_own_level(row)
    }
    rows = (
        Reading.objects.with_aside()
        .filter(cell__group__lab=lab)
        .select_related("cell__group")
        .order_by("cell__group__position", "cell__position", "received_at")
    )
    corrected = set(
        Reading.objects.filter(cell__group__lab=lab).exclude(corrects=None).values_list("corrects_id", flat=True)
    )
    verdicts = verdicts_with_doubts(lab)

    def stands(row: Reading) -> Stands:
        if row.id in corrected or row.aside:
            return Stands(SET_ASIDE, False, "corrected by a later entry" if row.id in corrected else row.aside)
        verdict = verdicts.get(row.id, SOUND)
        return Stands(verdict.stand.value, verdict.counts, verdict.why)

    return Sheet(
        "readings",
        (
            "group", "red", "black", "electrolyte", "volts", "condition", "really", "as typed", "unit",
            "offset taken off, V", "resolution, V", "origin", "typed at", "counts", "why not", "standing", "why",
        ),
        [
            (
                row.cell.group.name, plates.get(row.red, row.red), plates.get(row.black, row.black),
                liquids.get(row.cell.electrolyte, row.cell.electrolyte),
                Shown(as_shown(row.volts_v - row.offset_v, row.resolution_v)),
                row.cell.condition, really.get(row.cell_id, ""), row.text, row.unit, row.offset_v, row.resolution_v,
                row.origin,
                (row.taken_at or row.received_at).isoformat(),
                "yes" if stands(row).counts else "no",
                "" if stands(row).counts else stands(row).why,
                stands(row).said, stands(row).why,
            )
            for row in rows
        ],
    )  # fmt: skip


def _cells(found: CompareOut) -> Sheet:
    plates, liquids = _names()
    return Sheet(
        "cells",
        (
            "negative by the table", "electrolyte", "positive by the table", "condition", "table, V", "class mean, V",
            "standard uncertainty, V", "95 % from, V", "95 % to, V", "difference, V", "difference, %", "readings", "groups",
        ),
        [
            (
                plates[c.negative], liquids[e.electrolyte], plates[c.positive], e.condition, c.table_v, c.mean_v, c.u_v,
                c.low_v, c.high_v, c.gap_v, c.gap_percent, c.n, len(c.groups),
            )
            for e in found.electrolytes
            for c in e.cells
        ],
    )  # fmt: skip


def _ladders(found: CompareOut) -> Sheet:
    plates, liquids = _names()
    return Sheet(
        "ladders",
        (
            "electrolyte", "condition", "plate", "table, V", "class, V",
            "standard uncertainty of the distance to the held plate, V", "95 % from, V", "95 % to, V", "held",
        ),
        [
            (
                liquids[e.electrolyte], e.condition, plates[r.electrode], r.table_v, r.class_v, r.u_v,
                r.low_v, r.high_v,
                "yes" if r.electrode == e.anchor else "",
            )
            for e in found.electrolytes
            for r in e.rungs
        ],
    )  # fmt: skip


def _predictions(found: CompareOut) -> Sheet:
    plates, liquids = _names()
    return Sheet(
        "predictions",
        (
            "group", "negative by the table", "electrolyte", "positive by the table", "predicted, V", "sign right",
            "off by, V",
        ),
        [
            (
                p.group, plates[c.negative], liquids[e.electrolyte], plates[c.positive], p.signed_v,
                "yes" if p.right_sign else "no", p.off_v,
            )
            for e in found.electrolytes
            for c in e.cells
            for p in c.predicted
        ],
    )  # fmt: skip


def _liquids(found: CompareOut) -> Sheet:
    _, liquids = _names()
    return Sheet(
        "liquids",
        ("pair", "electrolyte", "class mean, V", "pH, middle", "conductivity, S/m, middle"),
        [
            (liquid.short, liquids[p.electrolyte], p.mean_v, p.ph, p.conductivity_s_per_m)
            for liquid in found.liquids
            for p in liquid.points
        ],
    )


def _explained(lab: Lab) -> list[Sheet]:
    """The accounts cell by cell, and every cause of every cell."""
    plates, liquids = _names()
    results = compare_lab(lab)
    try:
        scored = score_accounts(results)
    except NotEnoughData:
        return []
    accounts = Sheet(
        "accounts",
        ("cell", "electrolyte", "condition", "class mean, V", *(f"{name}, V" for name, _ in NAMES.values())),
        [
            (
                row.cell.short, liquids[row.cell.electrolyte], row.cell.condition, row.measured_v,
                *(row.predictions[key].volts_v for key in NAMES),
            )
            for row in scored.cells
        ],
    )  # fmt: skip
    causes = Sheet(
        "causes",
        ("cell", "electrolyte", "condition", "step", "plate", "adds, V", "standard uncertainty, V", "working", "test"),
        [
            (
                cell.cell.short, liquids[cell.cell.electrolyte], cell.cell.condition, cause.name,
                plates[cause.plate] if cause.plate else "", cause.volts_v, cause.u_v, cause.equation, cause.test,
            )
            for result in results
            for cell in result.cells
            for cause in explain(cell.cell, cell.mean_v, u_measured_v=cell.u_v or 0.02).causes
        ],
    )  # fmt: skip
    return [accounts, causes]


def as_csv(sheet: Sheet, lab: Lab) -> str:
    """A table as CSV with a heading; the edition of the data stands in its last column."""
    made = io.StringIO()
    writer = csv.writer(made, lineterminator="\n")
    writer.writerow([*sheet.headings, "edition of the data"])
    for row in sheet.rows:
        writer.writerow([*(_plain(value) for value in row), lab.edition])
    return made.getvalue()


def as_xlsx(sheets: Sequence[Sheet], lab: Lab) -> bytes:
    """All tables as one workbook, its heads in the reader's language; the first page says what it is and which edition of
    the data it was judged by. Tables as CSV have their heads in English, for programs."""
    book = Workbook()
    about = book.active
    about.title = say("about")
    for line in (
        (say("lab"), lab.title), (say("date"), lab.date.isoformat()), (say("edition of the data"), lab.edition),
        (say("simulated readings"), say("yes") if lab.simulated else say("no")),
        (
            say("voltages"),
            say("V, red on the plate that the table makes positive; uncertainties are one standard uncertainty"),
        ),
    ):  # fmt: skip
        about.append([_plain(value) for value in line])
    for sheet in sheets:
        page = book.create_sheet(say(sheet.name))
        page.append([say(heading) for heading in sheet.headings])
        for cell in page[1]:
            cell.font = Font(bold=True)
        page.freeze_panes = "A2"
        for row in sheet.rows:
            page.append([float(value) if isinstance(value, Shown) else _plain(value) for value in row])
            for place, value in enumerate(row, start=1):
                if isinstance(value, Shown):
                    page.cell(page.max_row, place).number_format = value.number_format
    made = io.BytesIO()
    book.save(made)
    return made.getvalue()


def _plain(value: Value) -> Value:
    if isinstance(value, str):
        return plain_text(value)
    return "" if value is None else value
