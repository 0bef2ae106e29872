"""How well the checks do on a simulated class whose faults are known."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass, field
from statistics import fmean

from galvanic.bench.checks import check
from galvanic.bench.class_reference import GroupCell, Reference
from galvanic.bench.faults import faults
from galvanic.bench.readings import parse
from galvanic.simulated.rehearsal import Entry


@dataclass
class Score:
    """Cells gone wrong and caught, by kind of fault; sound readings, and how many of them were remarked on."""

    tried: Counter[str] = field(default_factory=Counter)
    caught: Counter[str] = field(default_factory=Counter)
    sound: int = 0
    flagged: int = 0


def score(entries: Iterable[Entry]) -> Score:
    """Check every entry of a class as it comes, against the account and what the other groups have by then."""
    all_entries = list(entries)
    plates = sorted({plate for entry in all_entries for plate in entry.cell.pair})
    liquids = sorted({entry.cell.electrolyte for entry in all_entries})
    result = Score()
    readings: dict[tuple[int, int], list[float]] = {}
    cells = {(entry.group, entry.place): entry.cell for entry in all_entries}
    caught: set[tuple[int, int]] = set()
    for entry in all_entries:
        at = (entry.group, entry.place)
        others = [GroupCell(str(g), cells[g, p], fmean(values)) for (g, p), values in readings.items() if (g, p) != at]
        expected = Reference(plates, liquids, others, str(entry.group)).of(entry.cell)
        parsed = parse(entry.typed.text, entry.typed.unit)
        earlier = readings.setdefault(at, [])
        codes = {found.code for found in check(entry.cell, parsed.volts_v, parsed.resolution_v, earlier, expected)}
        earlier.append(parsed.volts_v)
        if not entry.kind:
            result.sound += 1
            result.flagged += bool(codes)
            continue
        if entry.nth == 0:
            result.tried[entry.kind] += 1
        if codes & set(faults()[entry.kind].codes) and at not in caught:
            caught.add(at)
            result.caught[entry.kind] += 1
    return result
