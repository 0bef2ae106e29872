"""A group's packs: build them cell by cell, try the load; and all packs of a lab for its teacher."""

from __future__ import annotations

import uuid

from django.http import HttpRequest
from ninja import File, Form, Router
from ninja.files import UploadedFile

from galvanic.bench.logger import MOST_BYTES
from server.base.incoming import content_of
from server.labs.lookups import lab_for_teacher
from server.people.auth import GroupAuth, TeacherAuth, actor_of, teacher_of
from server.people.schemas import Done, ProblemOut
from server.power.chain import begin_chain, chain_of, chain_out, record_chain_entry
from server.power.entry import ChainEntryIn, PackEntryIn, PackIn, RunFileIn
from server.power.outputs import bench_packs_out, kept_pack_out
from server.power.packs import packs_of, packs_of_lab, record_pack, record_pack_entry
from server.power.run_files import record_run_file
from server.power.run_schemas import RunOut
from server.power.runs import run_out
from server.power.schemas import BenchPacks, ChainIn, LabChain, LabPacks

router = Router()
REFUSED = {404: ProblemOut, 409: ProblemOut, 422: ProblemOut}


@router.get("/bench/packs", response={200: BenchPacks, 401: ProblemOut}, auth=GroupAuth(), operation_id="bench_packs")
def bench_packs(request: HttpRequest) -> BenchPacks:
    """The group's own packs, and how they are built."""
    actor = actor_of(request)
    return bench_packs_out(packs_of(actor), chain_of(actor))


@router.post("/bench/packs", response={200: Done, **REFUSED}, auth=GroupAuth(), operation_id="record_pack")
def post_pack(request: HttpRequest, data: PackIn) -> Done:
    """Keep a pack that is begun; the same id again changes nothing."""
    record_pack(actor=actor_of(request), entry=data)
    return Done(ok=True)


@router.post("/bench/pack-entries", response={200: Done, **REFUSED}, auth=GroupAuth(), operation_id="record_pack_entry")
def post_pack_entry(request: HttpRequest, data: PackEntryIn) -> Done:
    """Keep one thing about a pack; the same id again changes nothing."""
    record_pack_entry(actor=actor_of(request), entry=data)
    return Done(ok=True)


@router.post("/bench/run-files", response={200: Done, **REFUSED}, auth=GroupAuth(), operation_id="record_run_file")
def post_run_file(request: HttpRequest, data: Form[RunFileIn], file: File[UploadedFile]) -> Done:
    """Keep a logger's file of a pack over time; the same id again changes nothing."""
    content = content_of(file, MOST_BYTES)
    record_run_file(actor=actor_of(request), entry=data, name=file.name or "run", content=content)
    return Done(ok=True)


@router.post("/bench/chain-entries", response={200: Done, **REFUSED}, auth=GroupAuth(), operation_id="record_chain_entry")
def post_chain_entry(request: HttpRequest, data: ChainEntryIn) -> Done:
    """Keep a vote, a joined cell or what is seen of the class's chain; the same id again changes nothing."""
    record_chain_entry(actor=actor_of(request), entry=data)
    return Done(ok=True)


@router.get("/labs/{uuid:lab_id}/chain", response={200: LabChain, **REFUSED}, auth=TeacherAuth(), operation_id="lab_chain")
def lab_chain(request: HttpRequest, lab_id: uuid.UUID) -> LabChain:
    """The class's chain, foretold, voted on and built."""
    return LabChain(chain=chain_out(lab_for_teacher(teacher_of(request), lab_id), None))


@router.post("/labs/{uuid:lab_id}/chain", response={200: Done, **REFUSED}, auth=TeacherAuth(), operation_id="begin_chain")
def post_chain(request: HttpRequest, lab_id: uuid.UUID, data: ChainIn) -> Done:
    """Begin a chain; the same id again changes nothing."""
    begin_chain(actor=teacher_of(request), lab_id=lab_id, data=data)
    return Done(ok=True)


@router.get(
    "/packs/{uuid:pack_id}/run",
    response={200: RunOut, **REFUSED},
    auth=[TeacherAuth(), GroupAuth()],
    operation_id="pack_run",
)
def pack_run(request: HttpRequest, pack_id: uuid.UUID) -> RunOut:
    """A pack over time, for its own group and its teacher."""
    return run_out(actor_of(request), pack_id)


@router.get("/labs/{uuid:lab_id}/packs", response={200: LabPacks, **REFUSED}, auth=TeacherAuth(), operation_id="lab_packs")
def lab_packs(request: HttpRequest, lab_id: uuid.UUID) -> LabPacks:
    """What the groups of a lab have built."""
    teacher = teacher_of(request)
    lab_for_teacher(teacher, lab_id)
    return LabPacks(packs=[kept_pack_out(pack) for pack in packs_of_lab(teacher, lab_id)])
