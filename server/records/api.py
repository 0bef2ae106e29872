"""Files in."""

from __future__ import annotations

import uuid
from datetime import date
from typing import IO, Annotated, cast

from django.http import HttpRequest
from ninja import File, Form, Router
from ninja.files import UploadedFile
from pydantic import StringConstraints

from galvanic.reference import reader
from server.entries.counting import kept_and_counted
from server.people.auth import TeacherAuth, teacher_of
from server.people.schemas import ProblemOut
from server.records.pack_import import import_packs
from server.records.package.bring import import_package
from server.records.schemas import Imported, ImportedPackage, ImportedPacks
from server.records.services import import_readings
from server.records.table import MAX_BYTES, decode, too_big

router = Router(auth=TeacherAuth())


@router.post("/labs/import", response={201: Imported, 413: ProblemOut, 422: ProblemOut}, operation_id="import_readings")
def import_table(
    request: HttpRequest,
    file: File[UploadedFile],
    title: Form[Annotated[str, StringConstraints(min_length=1, max_length=120)]],
    on: Form[date],
) -> tuple[int, Imported]:
    """Make a finished lab from a class's own table in CSV."""
    if (file.size or 0) > MAX_BYTES:
        raise too_big()
    brought = import_readings(actor=teacher_of(request), text=decode(file.read()), title=title, on=on)
    lab = brought.lab
    readings, counted = kept_and_counted(lab)
    return 201, Imported(
        id=lab.id,
        title=lab.title,
        readings=readings,
        groups=lab.groups.count(),
        aside=readings - counted,
        unused=list(brought.unused),
    )


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
