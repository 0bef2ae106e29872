"""How packs are sent."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import asdict
from typing import cast

from galvanic.bench.load_standing import AMPERES
from galvanic.bench.pack_steps import CAUTIONS, HOW, MOST_POSITION, Kind, steps_of, too_much, what_is_seen
from galvanic.bench.repairs import number_repair
from galvanic.bench.standing import SOUND, Standing
from galvanic.chemistry.circuit import MOST_CELLS
from galvanic.chemistry.circuit import Pack as ThoughtPack
from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.demand import demand
from galvanic.chemistry.expected import (
    MOST_IN_SEARCH,
    Expected,
    Strength,
    expect,
    how_many,
    offer,
    options,
    smallest,
    strength,
    what_holds_back,
)
from galvanic.chemistry.in_time import LESSON_S, in_time
from galvanic.chemistry.life import life
from galvanic.findings.power_notes import (
    CARE,
    ONE_BOWL,
    cell_notes,
    holds_note,
    in_time_note,
    life_note,
    promise,
    smallest_note,
    verdict_note,
)
from galvanic.findings.runs import DONE
from galvanic.notes import Note, amps, said
from galvanic.reference.catalogue import kept
from galvanic.reference.further_tables import Load, loads
from galvanic.words import say
from server.labs.outputs import notes_out
from server.power.models import Pack, PackEntry
from server.power.packs import made_of, standings_of
from server.power.run_schemas import RunFileOut
from server.power.schemas import (
    BenchPacks,
    ChainOut,
    CurvePoint,
    HowManyOut,
    KeptPack,
    KindOut,
    LoadOut,
    NumberRepairOut,
    PackAdviceOut,
    PackEntryOut,
    PackFindingOut,
    PackOut,
    PackStepOut,
    SeenPoint,
    ShareOut,
    SpreadOut,
)

DRAWN = 61  # points of a curve
COUNTED = 6  # cells in a row that are tried for the count


def load_out(row: Load) -> LoadOut:
    """A load as it is sent."""
    return LoadOut(
        key=row.key, name=row.name, lamp=row.kind == "diode", low_v=row.voltage_v.low, high_v=row.voltage_v.high,
        most_v=None if row.most_v is None else row.most_v.value,
    )  # fmt: skip


@kept(512)
def _strength(cell: PackCell) -> Strength:
    return strength(cell)


def kinds_out(kinds: Sequence[tuple[str, PackCell]]) -> list[KindOut]:
    """The class's cells by what they can do, most power first."""
    out = []
    for key, one in kinds:
        can = _strength(one)
        out.append(
            KindOut(
                cell=key,
                short=one.cell.short,
                electrolyte=one.cell.electrolyte,
                open_v=can.open_v,
                short_a=can.short_a,
                power_w=can.power_w,
                at_ohm=can.at_ohm if math.isfinite(can.at_ohm) else None,
                measured=one.anchor.volts_measured,
                under_load=one.anchor.load_measured,
            )
        )
    return sorted(out, key=lambda kind: -kind.power_w)


def loads_out() -> list[LoadOut]:
    """All loads."""
    return [load_out(row) for row in loads().values()]


def kept_pack_out(pack: Pack) -> KeptPack:
    """A group's pack as it is sent; its entries are prefetched."""
    entries = list(pack.entries.all())
    later = {entry.corrects_id: entry.id for entry in entries if entry.corrects_id}
    verdicts = standings_of(entries)
    record, findings = made_of(pack, entries)
    return KeptPack(
        id=pack.id,
        group=pack.group.name,
        load=pack.load,
        load_name=pack.load if record.load is None else record.load.name,
        entries=[
            PackEntryOut(
                id=entry.id,
                kind=cast(Kind, entry.kind),
                position=entry.position,
                text=entry.text,
                unit=entry.unit,
                value=entry.value,
                negative=entry.negative,
                electrolyte=entry.electrolyte,
                positive=entry.positive,
                corrected_by=later.get(entry.id),
                corrects=entry.corrects_id,
                reason=entry.reason,
                received_at=entry.received_at,
                standing=(verdict := verdicts.get(entry.id, SOUND)).stand.value,
                why=verdict.why,
                repair=_repair(entry, verdict),
            )
            for entry in entries
        ],
        files=[RunFileOut(id=file.id, name=file.name, rows=file.rows) for file in pack.files.all()],
        steps=[PackStepOut(**asdict(step)) for step in steps_of(record)],
        findings=[PackFindingOut(**asdict(finding) | {"tries": list(finding.tries)}) for finding in findings],
        harm=too_much(record.load, record.open_v),
        open_v=record.open_v,
        seen=list(what_is_seen(record.load)),
        lit=record.lit,
        received_at=pack.received_at,
    )  # fmt: skip


def _repair(entry: PackEntry, verdict: Standing) -> NumberRepairOut | None:
    found = None
    if verdict is not SOUND:
        found = number_repair(verdict.code, entry.text, entry.unit, entry.kind in AMPERES)
    return None if found is None else NumberRepairOut(**asdict(found))


def bench_packs_out(packs: Sequence[Pack], chain: ChainOut | None) -> BenchPacks:
    """A group's packs with what its page needs, so that it also works without the network."""
    return BenchPacks(
        packs=[kept_pack_out(pack) for pack in packs],
        chain=chain,
        loads=loads_out(),
        seen={key: list(what_is_seen(demand(key))) for key in loads()},
        how={key: say(text) for key, text in HOW.items()},
        done=list(DONE),
        cautions=[say(text) for text in CAUTIONS],
        most=MOST_POSITION,
    )


def pack_out(pack: ThoughtPack, load: str | float, seen: Sequence[tuple[float, float, str]]) -> PackOut:
    """A pack with its load."""
    found, asked = expect(pack, load), demand(load)
    met, row = found.meeting, asked.row
    notes: list[Note] = [verdict_note(pack, asked.name, found), *cell_notes(pack, found)]
    return PackOut(
        load_name=asked.name,
        least_v=None if row is None else row.voltage_v.low,
        full_v=None if row is None else row.voltage_v.high,
        open_v=met.open_v,
        volts_v=met.volts_v,
        current_a=met.current_a,
        current=SpreadOut(middle=found.current_a.middle, low=found.current_a.low, high=found.current_a.high),
        runs=found.runs,
        verdict=found.verdict,
        level=found.level,
        harm=found.harm,
        amps=amps(met.current_a),
        cells=_shares(pack, found),
        curve=[CurvePoint(**asdict(point)) for point in offer(pack, load, DRAWN)],
        seen=[SeenPoint(volts_v=v, current_a=a, words=words) for v, a, words in seen],
        notes=notes_out(notes),
    )


def _shares(pack: ThoughtPack, found: Expected) -> list[ShareOut]:
    return [
        ShareOut(
            short=one.cell.short,
            open_v=share.open_v,
            volts_v=share.volts_v,
            current_a=share.current_a,
            backwards=share.backwards,
            measured=one.anchor.volts_measured,
        )
        for one, share in zip(pack.cells, found.meeting.cells, strict=True)
    ]


def advice_out(pack: ThoughtPack, load: str | float, volume_ml: float) -> PackAdviceOut:
    """How many cells, what one change would do, and how long it lasts."""
    asked, first = demand(load), pack.rows[0][0]
    counts = [
        HowManyOut(cells=n, current_a=found.meeting.current_a, runs=found.runs, verdict=found.verdict, said=promise(found))
        for n, found in enumerate(how_many(pack, load, COUNTED), start=1)
    ]
    changes = options(pack, load) if 2 * pack.size <= MOST_CELLS else []
    timed = None if asked.row is None else in_time(pack, load, volume_ml)
    notes = [
        holds_note(pack, asked.name, what_holds_back(pack, load), changes),
        None if timed is None else in_time_note(timed, asked.name),
        None
        if asked.row is None
        else smallest_note(asked.name, smallest(first, load), MOST_IN_SEARCH, smallest(first, load, LESSON_S)),
        None if timed is not None and timed.high_s == 0.0 else life_note(life(pack, load, volume_ml)),
        said(ONE_BOWL),
        said(CARE),
    ]
    return PackAdviceOut(counts=counts, notes=notes_out([note for note in notes if note is not None]))
