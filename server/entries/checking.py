"""What the core's checks say about the readings of a lab."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass

from galvanic.bench.checks import Finding, check
from galvanic.bench.class_reference import Earlier, GroupCell, Reference
from galvanic.cells import Cell
from server.labs.models import Lab

Findings = Mapping[uuid.UUID, Sequence[Finding]]


@dataclass(frozen=True, slots=True)
class Row:
    """A reading that is neither corrected nor set aside: whose, of which cell, V with the meter's offset taken off and red
    on the positive plate; `decided`: its teacher has looked at it and says that it counts."""

    id: uuid.UUID
    group: uuid.UUID
    cell_id: uuid.UUID
    cell: Cell
    signed_v: float
    resolution_v: float
    decided: bool = False


def reference_of(lab: Lab, group: uuid.UUID, values: Sequence[GroupCell]) -> Reference:
    """What can be expected of a group's cells: the account, earlier classes, and the other groups' values."""
    return Reference(lab.electrodes, lab.electrolytes, values, without=str(group), earlier=earlier_of(lab))


def earlier_of(lab: Lab) -> dict[tuple[str, str], Earlier]:
    """What earlier classes foretold when the lab was opened, by liquid and setting."""
    return {
        (one["electrolyte"], one["condition"]): Earlier(
            one["classes"], tuple(one["plates"]), tuple(one["volts_v"]), tuple(map(tuple, one["covariance_v2"]))
        )
        for one in lab.earlier
    }


def check_last(rows: Sequence[Row], reference: Reference) -> list[Finding]:
    """Findings on the latest of a cell's readings that count; none without one."""
    if not rows:
        return []
    *before, last = rows
    return check(last.cell, last.signed_v, last.resolution_v, [row.signed_v for row in before], reference.of(last.cell))


def wrong_alone(lab: Lab, cells: Iterable[Sequence[Row]]) -> frozenset[Cell]:
    """The cells whose last reading that counts is likely wrong by the account and earlier classes, no other group asked."""
    alone = reference_of(lab, lab.id, [])
    return frozenset(rows[-1].cell for rows in cells if any(finding.sure == "likely" for finding in check_last(rows, alone)))


def check_rows(own: Sequence[Row], reference_for: Callable[[Row], Reference]) -> Findings:
    """Findings on every reading of one group that counts, each held against its reference; those without are left out."""
    earlier: dict[uuid.UUID, list[float]] = defaultdict(list)
    findings: dict[uuid.UUID, Sequence[Finding]] = {}
    for row in own:
        said = check(row.cell, row.signed_v, row.resolution_v, earlier[row.cell_id], reference_for(row).of(row.cell))
        earlier[row.cell_id].append(row.signed_v)
        if said:
            findings[row.id] = said
    return findings
