"""The packs of the demo class: built, measured and tried by the simulator, with the scenario's faults."""

from __future__ import annotations

import uuid
from collections.abc import Iterator, Mapping, Sequence
from datetime import datetime, timedelta
from typing import Any

import numpy as np

from galvanic.bench.pack_steps import LIT
from galvanic.cells import Cell
from galvanic.chemistry.anchoring import anchored
from galvanic.chemistry.circuit import in_a_row
from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.demand import demand, load_of
from galvanic.chemistry.expected import expect
from galvanic.chemistry.polarisation import Geometry
from galvanic.chemistry.transient import Event, simulate
from galvanic.simulated.packs import build
from galvanic.words import say
from server.people.models import Group
from server.power.models import Chain, ChainEntry, Pack, PackEntry

PACK_MINUTES = 14
STEP_S = 40.0
READ_V = 0.004
IN_THE_DARK = "glows in the dark"  # which nobody sees in a bright room
TRIED_FROM = 3  # cells of a chain from which its load is tried
PLATES = ("negative", "electrolyte", "positive")


def build_packs(
    groups: Sequence[Group],
    begun: datetime,
    packs: Sequence[Mapping[str, Any]],
    potentials_v: Mapping[str, Mapping[str, float]],
    rng: np.random.Generator,
) -> None:
    """Keep the scenario's packs, each of its group, one entry after the other."""
    by_name = {group.name: group for group in groups}
    for row in packs:
        group, cell = by_name[row["group"]], Cell(*row["cell"])
        plates = potentials_v[cell.electrolyte]
        one = anchored(PackCell(cell), plates[cell.positive] - plates[cell.negative], 0.01)
        pack = Pack.objects.create(
            id=_key(rng), group=group, load=row["load"], device_at=begun, taken_at=begun, received_at=begun
        )
        entries = []
        for nth, fields in enumerate(_fields(one, row, rng), start=1):
            at = begun + timedelta(seconds=nth * STEP_S)
            entries.append(
                PackEntry(id=_key(rng), group=group, pack=pack, device_at=at, taken_at=at, received_at=at, **fields)
            )
        PackEntry.objects.bulk_create(entries)


def record_runs(
    groups: Sequence[Group],
    begun: datetime,
    runs: Sequence[Mapping[str, Any]],
    potentials_v: Mapping[str, Mapping[str, float]],
    rng: np.random.Generator,
) -> None:
    """Keep the scenario's runs: one cell with a resistor joined and taken off, typed every so often."""
    by_name = {group.name: group for group in groups}
    for row in runs:
        group, cell = by_name[row["group"]], Cell(*row["cell"])
        plates = potentials_v[cell.electrolyte]
        open_v = plates[cell.positive] - plates[cell.negative]
        one = anchored(PackCell(cell), open_v, 0.01)
        pack = Pack.objects.create(
            id=_key(rng), group=group, load=f"{row['ohm']:g}", device_at=begun, taken_at=begun, received_at=begun
        )
        trace = simulate(
            [one],
            [Event(row["joined_s"], "load", demand(row["ohm"])), Event(row["taken_off_s"], "open")],
            row["until_s"],
        )
        at = np.arange(row["every_s"] / 2.0, row["until_s"], row["every_s"])
        volts = trace.at(at)[0] + rng.normal(0.0, READ_V, len(at))
        fields = [
            (0.0, {"kind": "cell", "position": 1, **dict(zip(PLATES, row["cell"], strict=True))}),
            (0.1, {"kind": "alone", "position": 1, **_volts(open_v)}),
            (row["joined_s"], {"kind": "event", "text": "joined"}),
            (row["taken_off_s"], {"kind": "event", "text": say("taken off")}),
            *((float(t), {"kind": "run_v", **_volts(float(v))}) for t, v in zip(at, volts, strict=True)),
        ]
        made = []
        for seconds, columns in sorted(fields, key=lambda pair: pair[0]):
            when = begun + timedelta(seconds=seconds)
            made.append(
                PackEntry(id=_key(rng), group=group, pack=pack, device_at=when, taken_at=when, received_at=when, **columns)
            )
        PackEntry.objects.bulk_create(made)


def build_chain(
    groups: Sequence[Group],
    begun: datetime,
    chain: Mapping[str, Any],
    potentials_v: Mapping[str, Mapping[str, float]],
    rng: np.random.Generator,
) -> None:
    """Keep the scenario’s chain: votes, then one cell after the other, tried from the third on, until the load runs."""
    by_name = {group.name: group for group in groups}
    cell = Cell(*chain["cell"])
    plates = dict(zip(PLATES, chain["cell"], strict=True))
    at_v = potentials_v[cell.electrolyte]
    geometry = Geometry(area_m2=1e-4 * chain["area_cm2"])
    one = anchored(PackCell(cell, geometry), at_v[cell.positive] - at_v[cell.negative], 0.01)
    lab = groups[0].lab
    kept = Chain.objects.create(id=_key(rng), lab=lab, load=chain["load"], begun_at=begun, **plates)
    done = [(name, {"kind": "vote", "cells": cells}) for name, cells in chain["votes"].items()]
    made = build(one, len(chain["links"]), chain["load"], "", rng).record
    for joined, (name, total) in enumerate(zip(chain["links"], made.sums_v, strict=True), start=1):
        read = {key: value for key, value in _volts(total).items() if key != "resolution"}
        done.append((name, {"kind": "link", **plates, **read}))
        if joined < TRIED_FROM:
            continue
        level = expect(in_a_row([one] * joined), chain["load"]).level
        bright = level != IN_THE_DARK
        done.append((name, {"kind": "seen", "text": level if bright else "dark"}))
        if bright and level in LIT:
            break
    entries = []
    for nth, (name, fields) in enumerate(done, start=1):
        at = begun + timedelta(seconds=nth * STEP_S)
        columns = {"device_at": at, "taken_at": at, "received_at": at, **fields}
        entries.append(ChainEntry(id=_key(rng), group=by_name[name], chain=kept, **columns))
    ChainEntry.objects.bulk_create(entries)


def _key(rng: np.random.Generator) -> uuid.UUID:
    return uuid.UUID(bytes=rng.bytes(16), version=4)


def _fields(one: PackCell, row: Mapping[str, Any], rng: np.random.Generator) -> Iterator[dict[str, Any]]:
    """What a group writes down, in the order of its steps."""
    made = build(one, row["cells"], load_of(row["load"]), row["fault"], rng).record
    cell = one.cell
    for place, (alone, total) in enumerate(zip(made.alone_v, made.sums_v, strict=True), start=1):
        plates = {"negative": cell.negative, "electrolyte": cell.electrolyte, "positive": cell.positive}
        yield {"kind": "cell", "position": place, **plates}
        yield {"kind": "alone", "position": place, **_volts(alone)}
        yield {"kind": "sum", "position": place, **_volts(total)}
    lamp = made.load
    if lamp is None or made.load_v is None or made.load_a is None:
        return
    level = lamp.level(made.load_v, made.load_a)
    yield {"kind": "seen", "text": level if made.lit or level in ("dark", "nothing") else "dark"}
    yield {"kind": "load_v", **_volts(made.load_v)}
    yield {"kind": "load_a", "text": f"{1e3 * made.load_a:.3f}", "unit": "mA", "value": made.load_a, "resolution": 1e-6}


def _volts(value: float | None) -> dict[str, Any]:
    value = 0.0 if value is None else value
    return {"text": f"{value:.2f}", "unit": "V", "value": round(value, 2), "resolution": 0.01}
