"""How tables on their way in are sent."""

from __future__ import annotations

from typing import Any, cast

from galvanic.bench.headings import KNOWN
from server.people.schemas import RowFaultOut
from server.records.models import TableIn
from server.records.schemas import ColumnOut, LineSeen, SheetSeen, TableSeen, UnknownOut


def table_seen(table: TableIn) -> TableSeen:
    """A table as far as it is."""
    found: dict[str, Any] = table.found
    faults = found.get("faults") or [(row["line"], row["message"]) for row in found.get("rows", ())]
    return TableSeen(
        id=table.id,
        name=table.name,
        state=cast(Any, table.state),
        ready=bool(found.get("ready")) and table.state == TableIn.State.READ,
        columns=[ColumnOut(**column) for column in found.get("columns", ())],
        meanings=list(KNOWN),
        readings=found.get("readings", 0),
        groups=found.get("groups", []),
        cells=found.get("cells", 0),
        aside=found.get("aside", 0),
        loads=found.get("loads", 0),
        says=found.get("says", []),
        unknown=[UnknownOut(**one) for one in found.get("unknown", ())],
        faults=[RowFaultOut(line=line, message=message) for line, message in faults],
        whole=found.get("whole", True),
        message=found.get("message", ""),
        sheets=[SheetSeen(name=name, rows=rows) for name, rows in found.get("sheets", ())],
        lines=[LineSeen(**one) for one in found.get("lines", ())],
        lab=table.lab_id,
    )
