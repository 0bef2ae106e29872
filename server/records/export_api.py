"""Numbers out: every table as CSV, all of them as a workbook."""

from __future__ import annotations

import uuid

from django.http import HttpRequest, HttpResponse
from django.utils.text import slugify
from ninja import Router
from pydantic import BaseModel

from server.base.problems import not_found
from server.findings.tables import as_csv, as_xlsx
from server.labs.lookups import lab_for_teacher, lab_of_group
from server.people.auth import GroupAuth, TeacherAuth, actor_of, teacher_of
from server.people.lookups import own_group
from server.people.schemas import ProblemOut
from server.records.history import deeds_of, entries_of, head_of
from server.records.package.write import package_of
from server.records.sheets import all_sheets

router = Router()


class HistoryOut(BaseModel):
    """How many entries and deeds there are, each with the head of its chain."""

    entries: str
    deeds: str


XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


def _file(content: bytes, kind: str, name: str) -> HttpResponse:
    answer = HttpResponse(content, content_type=kind)
    answer["Content-Disposition"] = f'attachment; filename="{name}"'
    return answer


@router.get("/labs/{uuid:lab_id}/tables/{name}.csv", auth=TeacherAuth(), operation_id="table_csv", include_in_schema=False)
def table_csv(request: HttpRequest, lab_id: uuid.UUID, name: str) -> HttpResponse:
    """One table as CSV."""
    lab = lab_for_teacher(teacher_of(request), lab_id)
    sheet = next((one for one in all_sheets(lab) if one.name == name), None)
    if sheet is None:
        raise not_found("table")
    return _file(as_csv(sheet, lab).encode("utf-8-sig"), "text/csv; charset=utf-8", f"{slugify(lab.title)}-{name}.csv")


@router.get("/labs/{uuid:lab_id}/tables.xlsx", auth=TeacherAuth(), operation_id="tables_xlsx", include_in_schema=False)
def tables_xlsx(request: HttpRequest, lab_id: uuid.UUID) -> HttpResponse:
    """All tables as one workbook."""
    lab = lab_for_teacher(teacher_of(request), lab_id)
    return _file(as_xlsx(all_sheets(lab), lab), XLSX, f"{slugify(lab.title)}.xlsx")


@router.get("/labs/{uuid:lab_id}/package.zip", auth=TeacherAuth(), operation_id="lab_package", include_in_schema=False)
def lab_package(request: HttpRequest, lab_id: uuid.UUID) -> HttpResponse:
    """The whole lab as a data package, photographs included."""
    lab = lab_for_teacher(teacher_of(request), lab_id)
    return _file(package_of(lab, list(lab.groups.all()), ""), "application/zip", f"{slugify(lab.title)}.zip")


@router.get(
    "/labs/{uuid:lab_id}/history",
    response={200: HistoryOut, 404: ProblemOut},
    auth=TeacherAuth(),
    operation_id="history",
)
def lab_history(request: HttpRequest, lab_id: uuid.UUID) -> HistoryOut:
    """The heads of a lab's history, to be written down: `./pipette verify --head` checks one later."""
    lab = lab_for_teacher(teacher_of(request), lab_id)
    return HistoryOut(entries=head_of(entries_of(lab)).shown, deeds=head_of(deeds_of(lab)).shown)


@router.get("/bench/package.zip", auth=GroupAuth(), operation_id="group_package", include_in_schema=False)
def group_package(request: HttpRequest) -> HttpResponse:
    """A group's own part of its lab as a data package."""
    actor = actor_of(request)
    lab, group = lab_of_group(actor), own_group(actor)
    name = f"{slugify(lab.title)}-{slugify(group.name)}.zip"
    return _file(package_of(lab, [group], group.name), "application/zip", name)
