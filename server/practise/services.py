"""The demo class: labs made through the ordinary services, with readings from the core's simulator."""

from __future__ import annotations

import tomllib
import uuid
from collections.abc import Sequence
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any

import numpy as np
from django.db import transaction
from django.utils import timezone

from galvanic.bench.meter import judge
from galvanic.bench.readings import parse
from galvanic.cells import Cell
from galvanic.planning.schedule import Steps
from galvanic.reference.catalogue import electrodes
from galvanic.simulated.simulate import Bench, Meter
from server.claims.schemas import ClaimIn
from server.claims.services import answer_claim, record_claim
from server.entries.models import MeterCheck, Prediction, Reading
from server.findings.release import release
from server.findings.services import PARTS
from server.labs.models import Lab, PlannedCell
from server.labs.opening import close_lab, open_lab, sign_off
from server.labs.policy import READINGS_PER_CELL, sheet_of
from server.labs.schemas import CellIO
from server.labs.services import create_lab
from server.labs.settings import NewLab
from server.labs.sharing import share_lab
from server.people.auth import Member
from server.people.models import Group, Teacher
from server.power.packs import packs_of
from server.practise.asked import ask_before_and_after
from server.practise.earlier import make_earlier_labs
from server.practise.homework import practise_at_home
from server.practise.notebooks import write_notebooks
from server.practise.packs import PACK_MINUTES, build_chain, build_packs, record_runs
from server.practise.spacing import make_spacing_lab
from server.practise.three_cells import make_three_cells_lab
from server.practise.two_cups import make_two_cups_lab

TEACHER = "demo-teacher"
COLLEAGUE = "demo-colleague"
PASSWORD = "tidewater-demo"  # noqa: S105  (printed at every start; the demo has no real data)
FIRST_PIN = 1904
STEPS = Steps()
SCENARIO = tomllib.loads((Path(__file__).parent / "tidewater.toml").read_text(encoding="utf-8"))


@transaction.atomic
def make_demo() -> bool:
    """Make the demo teacher and the demo’s labs once; returns whether anything was made."""
    if Teacher.objects.filter(username=TEACHER).exists():
        return False
    teacher = Teacher.objects.create_user(TEACHER, password=PASSWORD, is_head=True)
    for number, described in enumerate(SCENARIO["lab"]):
        _make_lab(teacher, described, np.random.default_rng([SCENARIO["seed"], number]))
    rng = np.random.default_rng([SCENARIO["seed"], len(SCENARIO["lab"])])
    make_spacing_lab(teacher, SCENARIO["spacing"], SCENARIO, rng)
    own = np.random.default_rng([SCENARIO["seed"], len(SCENARIO["lab"]) + 1])
    make_three_cells_lab(teacher, SCENARIO["three_cells"], SCENARIO, own)
    make_two_cups_lab(teacher, SCENARIO["two_cups"], SCENARIO, rng)
    make_earlier_labs(teacher, SCENARIO, rng)
    _share_with_colleague(teacher)
    return True


def _share_with_colleague(teacher: Teacher) -> None:
    """A colleague who signs in with the same password: may look at the oldest lab and work in the newest."""
    colleague = Teacher.objects.create_user(COLLEAGUE, password=PASSWORD)
    labs = list(teacher.labs.order_by("date"))
    share_lab(actor=teacher, lab_id=labs[0].id, teacher_id=colleague.id, way="look")
    share_lab(actor=teacher, lab_id=labs[-1].id, teacher_id=colleague.id, way="work")


def _make_lab(teacher: Teacher, described: dict[str, Any], rng: np.random.Generator) -> None:
    now = timezone.now()
    day = now - timedelta(days=described["days_ago"])
    plan = NewLab(
        title=described["title"],
        date=day.date(),
        minutes=SCENARIO["minutes"],
        electrodes=SCENARIO["electrodes"],
        electrolytes=SCENARIO["electrolytes"],
        groups=SCENARIO["groups"],
        level=SCENARIO["level"],
        question=SCENARIO["question"],
        kept=SCENARIO["kept"],
    )
    lab = create_lab(actor=teacher, plan=plan)
    groups = list(lab.groups.prefetch_related("cells"))
    # By way of numbers that no group is ever given, so that no two groups hold one PIN on the way.
    for first, step in ((0, 1), (FIRST_PIN, 11)):
        for index, group in enumerate(groups):
            group.pin = f"{first + step * index:04d}"
        Group.objects.bulk_update(groups, ["pin"])
    if described["state"] == "draft":
        return
    Lab.objects.filter(id=lab.id).update(simulated=True)
    sign_off(actor=teacher, lab_id=lab.id, fingerprint=sheet_of(lab).fingerprint)
    open_lab(actor=teacher, lab_id=lab.id)
    opened = day - timedelta(minutes=described["done"] * SCENARIO["minutes"])
    _check_meters(groups, opened, rng)
    for group in groups:
        _predict_cells(group, described["done"], opened, rng)
        _read_cells(group, described["done"], opened, rng)
    if described["state"] == "closed":
        close_lab(actor=teacher, lab_id=lab.id)
        Lab.objects.filter(id=lab.id).update(closed_at=day)
        release(actor=teacher, lab_id=lab.id, parts=PARTS)
        _claim(teacher, groups, rng)
        begun = day - timedelta(minutes=PACK_MINUTES)
        build_packs(groups, begun, SCENARIO["pack"], SCENARIO["potential_v"], rng)
        record_runs(groups, begun, SCENARIO["run"], SCENARIO["potential_v"], rng)
        _claim_of_packs(groups, rng)
        write_notebooks(teacher, groups, SCENARIO["notebook"], rng)
        practise_at_home(teacher, lab, SCENARIO["homework"], day, SCENARIO["seed"])
        ask_before_and_after(teacher, lab, SCENARIO["asked"], day, SCENARIO["seed"])
        build_chain(groups, begun, SCENARIO["chain"], SCENARIO["potential_v"], rng)
    else:
        release(actor=teacher, lab_id=lab.id, parts=("power",))
    Lab.objects.filter(id=lab.id).update(opened_at=opened)


def _claim(teacher: Teacher, groups: Sequence[Group], rng: np.random.Generator) -> None:
    """What groups claim of a cell, citing their own readings of it, and what their teacher answers."""
    by_name = {group.name: group for group in groups}
    for row in SCENARIO["claim"]:
        group = by_name[row["group"]]
        cell = Cell(*row["cell"])
        cited = Reading.objects.current().filter(
            cell__group=group, cell__negative=cell.negative, cell__electrolyte=cell.electrolyte, cell__positive=cell.positive
        )[:3]
        entry = ClaimIn(
            id=uuid.UUID(bytes=rng.bytes(16), version=4),
            cell=CellIO.of(cell),
            cause=row["cause"],
            reasoning=row["reasoning"],
            cited=[one.id for one in cited],
            may_show=row["may_show"],
            revises=None,
        )
        kept = record_claim(actor=Member(group.id, group.lab_id, group.name, group.lab.owner_id), entry=entry)
        if row["answer"]:
            answer_claim(actor=teacher, claim_id=kept.id, text=row["answer"], marks=row["marks"], shown=row["shown"])


def _claim_of_packs(groups: Sequence[Group], rng: np.random.Generator) -> None:
    """What groups claim of the first pack they built."""
    by_name = {group.name: group for group in groups}
    for row in SCENARIO["pack_claim"]:
        group = by_name[row["group"]]
        actor = Member(group.id, group.lab_id, group.name, group.lab.owner_id)
        entry = ClaimIn(
            id=uuid.UUID(bytes=rng.bytes(16), version=4), cell=None, pack=packs_of(actor)[0].id, cause=row["cause"],
            reasoning=row["reasoning"], cited=[], may_show=True,
        )  # fmt: skip
        record_claim(actor=actor, entry=entry)


def _check_meters(groups: Sequence[Group], opened: datetime, rng: np.random.Generator) -> None:
    """Every group checks its meter at the start but those whose meter is off: a check would have told them."""
    off = {fault["group"] for fault in SCENARIO["fault"] if fault["kind"] == "offset"}
    checks = []
    for group in groups:
        leads, dry = "0.000", f"{rng.normal(1.56, 0.02):.3f}"
        if group.name not in off:
            at = opened + timedelta(minutes=STEPS.start / 2)
            verdict = judge(parse(leads), parse(dry))
            checks.append(
                MeterCheck(
                    id=uuid.UUID(bytes=rng.bytes(16), version=4),
                    group=group,
                    leads_text=leads,
                    dry_text=dry,
                    offset_v=verdict.offset_v,
                    resolution_v=verdict.resolution_v,
                    code=verdict.code,
                    device_at=at,
                    received_at=at,
                )
            )
    MeterCheck.objects.bulk_create(checks)


WAYS = ("less", "less", "same", "less", "more")  # than the table: what groups expect of the meter, most of them rightly
REASONS = ("the liquid", "", "the plates", "a guess", "seen before", "")


def _predict_cells(group: Group, done: float, opened: datetime, rng: np.random.Generator) -> None:
    """What a group expects of each cell before it measures it: the table's difference, but for the scenario's slips."""
    slips = {slip["kind"] for slip in SCENARIO["slip"] if slip["group"] == group.name}
    made: list[Prediction] = []
    for planned in {p.cell: p for p in reversed(group.cells.all())}.values():
        at = opened + timedelta(minutes=STEPS.start + (planned.position - 1) * STEPS.cell)
        if planned.cell.table_v is None or (done < 1.0 and at > opened + timedelta(minutes=done * SCENARIO["minutes"])):
            continue
        low, high = (electrodes()[key].table_v() for key in planned.cell.pair)
        volts_v = abs(abs(high) - abs(low)) if "minus" in slips else high - low
        negative = planned.positive if "other-way" in slips and low < 0.0 < high else planned.negative
        made.append(
            Prediction(
                id=uuid.UUID(bytes=rng.bytes(16), version=4),
                cell=planned,
                negative=negative,
                text=f"{volts_v:.2f}",
                unit="V",
                volts_v=round(volts_v, 2),
                way=WAYS[(group.position + 2 * planned.position) % len(WAYS)],
                because=REASONS[(2 * group.position + planned.position) % len(REASONS)],
                device_at=at,
                received_at=at,
            )
        )
    Prediction.objects.bulk_create(made)


def _read_cells(group: Group, done: float, opened: datetime, rng: np.random.Generator) -> None:
    """One group's readings up to the part of the period that is over; every group has its own pace."""
    faults = [fault for fault in SCENARIO["fault"] if fault["group"] == group.name]
    offset_v = sum(fault["volts_v"] for fault in faults if fault["kind"] == "offset")
    by_cell = {fault["cell"]: fault["kind"] for fault in faults if "cell" in fault}
    benches = {
        liquid: Bench(SCENARIO["potential_v"][liquid], rng, Meter(offset_v), SCENARIO["plate_v"], SCENARIO["dip_v"])
        for liquid in SCENARIO["electrolytes"]
    }
    pace = rng.uniform(0.9, 1.05)
    entries: list[Reading] = []
    for planned in group.cells.all():
        for nth in range(READINGS_PER_CELL):
            minute = STEPS.start + (planned.position - 1 + (nth + 1.5) / (READINGS_PER_CELL + 2)) * STEPS.cell
            at = opened + timedelta(minutes=minute * pace)
            if done < 1.0 and at > opened + timedelta(minutes=done * SCENARIO["minutes"]):
                break
            entries += _entries(planned, benches[planned.electrolyte], by_cell.get(planned.position, ""), nth, at, rng)
    Reading.objects.bulk_create(entries)


def _entries(
    planned: PlannedCell, bench: Bench, fault: str, nth: int, at: datetime, rng: np.random.Generator
) -> list[Reading]:
    red, black = planned.positive, planned.negative
    if fault == "swapped":
        red, black = black, red
    shown = bench.read(red, black)
    if fault == "bridged":
        shown = f"{0.02 + 0.004 * nth:.3f}"
    if fault == "millivolts" and nth == 0:
        typed = f"{float(shown) * 1000:.0f}"
        wrong = _reading(planned, red, black, typed, at, rng)
        right = _reading(planned, red, black, shown, at + timedelta(seconds=20), rng, corrects=wrong)
        return [wrong, right]
    return [_reading(planned, red, black, shown, at, rng)]


def _reading(
    planned: PlannedCell,
    red: str,
    black: str,
    text: str,
    at: datetime,
    rng: np.random.Generator,
    corrects: Reading | None = None,
) -> Reading:
    parsed = parse(text)
    return Reading(
        id=uuid.UUID(bytes=rng.bytes(16), version=4),
        cell=planned,
        red=red,
        black=black,
        text=text,
        unit=parsed.unit,
        volts_v=parsed.volts_v,
        resolution_v=parsed.resolution_v,
        origin=Reading.Origin.SIMULATED,
        corrects=corrects,
        reason="typed millivolts as volts" if corrects else "",
        device_at=at,
        received_at=at,
    )
