"""Files in."""

from __future__ import annotations

import uuid
from typing import IO, cast

from django.http import HttpRequest
from ninja import File, Router
from ninja.files import UploadedFile

from galvanic.reference import reader
from server.people.auth import TeacherAuth, teacher_of
from server.people.schemas import ProblemOut
from server.records import tables_in
from server.records.file_text import MAX_BYTES, decode, too_big
from server.records.outputs import table_seen
from server.records.pack_import import import_packs
from server.records.package.bring import import_package
from server.records.schemas import ImportedPackage, ImportedPacks, KeepIn, LookIn, TableSeen, TableStarted

router = Router(auth=TeacherAuth())


@router.post("/tables", response={202: TableStarted, 413: ProblemOut, 429: ProblemOut}, operation_id="hand_over_table")
def hand_over(request: HttpRequest, file: File[UploadedFile]) -> tuple[int, TableStarted]:
    """Hand a class's own table over (CSV, XLSX, ODS); it is read beside this answer."""
    if (file.size or 0) > MAX_BYTES:
        raise too_big()
    table = tables_in.hand_over(actor=teacher_of(request), name=file.name or "table", content=file.read())
    return 202, TableStarted(id=table.id)


@router.get("/tables/{uuid:table_id}", response={200: TableSeen, 404: ProblemOut, 500: ProblemOut}, operation_id="table_in")
def table_in(request: HttpRequest, table_id: uuid.UUID) -> TableSeen:
    """How far a table is: how it was understood, why it was refused, or the lab it has become."""
    return table_seen(tables_in.table_of(teacher_of(request), table_id))


@router.post("/tables/{uuid:table_id}/look", response={202: TableStarted, 404: ProblemOut}, operation_id="look_again")
def look_again(request: HttpRequest, table_id: uuid.UUID, data: LookIn) -> tuple[int, TableStarted]:
    """Read a table anew with what is said of its sheet, columns, names and lines."""
    table = tables_in.look_again(actor=teacher_of(request), table_id=table_id, told=data)
    return 202, TableStarted(id=table.id)


@router.post(
    "/tables/{uuid:table_id}/keep",
    response={202: TableStarted, 404: ProblemOut, 409: ProblemOut, 422: ProblemOut},
    operation_id="keep_table",
)
def keep_table(request: HttpRequest, table_id: uuid.UUID, data: KeepIn) -> tuple[int, TableStarted]:
    """Make a finished lab of a table that was understood."""
    table = tables_in.keep(actor=teacher_of(request), table_id=table_id, title=data.title, on=data.on)
    return 202, TableStarted(id=table.id)


@router.post(
    "/labs/import-package",
    response={201: ImportedPackage, 413: ProblemOut, 422: ProblemOut},
    operation_id="import_package",
)
def import_lab_package(request: HttpRequest, file: File[UploadedFile]) -> tuple[int, ImportedPackage]:
    """Make a lab of a data package that Pipette gave out, here or elsewhere."""
    brought = import_package(actor=teacher_of(request), file=cast(IO[bytes], file.file), size=file.size or 0)
    return 201, ImportedPackage(
        id=brought.lab.id,
        title=brought.lab.title,
        rows=dict(brought.rows),
        edition=brought.edition,
        edition_here=reader.edition(),
    )


@router.post(
    "/labs/{uuid:lab_id}/packs/import",
    response={200: ImportedPacks, 404: ProblemOut, 413: ProblemOut, 422: ProblemOut},
    operation_id="import_packs",
)
def import_pack_table(request: HttpRequest, lab_id: uuid.UUID, file: File[UploadedFile]) -> ImportedPacks:
    """Bring a table of packs into a lab whose groups it names."""
    if (file.size or 0) > MAX_BYTES:
        raise too_big()
    brought = import_packs(actor=teacher_of(request), lab_id=lab_id, text=decode(file.read()))
    return ImportedPacks(packs=brought.packs, entries=brought.entries, known=brought.known)
