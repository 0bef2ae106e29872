"""Numbers out: every table as CSV, all of them as a workbook."""

from __future__ import annotations

import uuid

from django.http import HttpRequest, HttpResponse
from django.utils.text import slugify
from ninja import Router

from server.base.problems import not_found
from server.findings.tables import as_csv, as_xlsx
from server.labs.lookups import lab_for_teacher
from server.people.auth import TeacherAuth, teacher_of
from server.records.sheets import all_sheets

router = Router(auth=TeacherAuth())
XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


def _file(content: bytes, kind: str, name: str) -> HttpResponse:
    answer = HttpResponse(content, content_type=kind)
    answer["Content-Disposition"] = f'attachment; filename="{name}"'
    return answer


@router.get("/labs/{uuid:lab_id}/tables/{name}.csv", operation_id="table_csv", include_in_schema=False)
def table_csv(request: HttpRequest, lab_id: uuid.UUID, name: str) -> HttpResponse:
    """One table as CSV."""
    lab = lab_for_teacher(teacher_of(request), lab_id)
    sheet = next((one for one in all_sheets(lab) if one.name == name), None)
    if sheet is None:
        raise not_found("table")
    return _file(as_csv(sheet, lab).encode("utf-8-sig"), "text/csv; charset=utf-8", f"{slugify(lab.title)}-{name}.csv")


@router.get("/labs/{uuid:lab_id}/tables.xlsx", operation_id="tables_xlsx", include_in_schema=False)
def tables_xlsx(request: HttpRequest, lab_id: uuid.UUID) -> HttpResponse:
    """All tables as one workbook."""
    lab = lab_for_teacher(teacher_of(request), lab_id)
    return _file(as_xlsx(all_sheets(lab), lab), XLSX, f"{slugify(lab.title)}.xlsx")
