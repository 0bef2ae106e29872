"""A lab, or one group's part of it, as a package."""

from __future__ import annotations

import csv
import hashlib
import io
import json
import zipfile
from collections.abc import Mapping, Sequence
from typing import Any

from django.utils import timezone

from galvanic.reference.reader import sources
from server.entries.models import Photo
from server.entries.photos import path_of
from server.labs.models import Lab
from server.labs.settings import LabSettings
from server.materials.models import OwnMaterial
from server.people.models import Group
from server.records import history
from server.records.package.tables import TABLES, Table, as_text, schema_of

FORMAT, VERSION = "pipette-lab", 1
LAB_FIELDS = (
    *LabSettings.model_fields, "title", "date", "state", "simulated", "edition", "wished", "released", "rubric",
    "show_values", "paused_s", "opened_at", "closed_at",
)  # fmt: skip
README = """This is a lab of Pipette as a data package: tables in CSV (UTF-8), described with units in datapackage.json, a
Frictionless Data Package format (specs.frictionlessdata.io). lab.json holds what was planned, materials.json the teacher’s
own plates and liquids that it uses, photographs the pictures. Another Pipette reads the file as it is.
"""


def package_of(lab: Lab, groups: Sequence[Group], whose: str) -> bytes:
    """The package of some groups of a lab; `whose` stands in its title (a group's name, or nothing)."""
    files: dict[str, bytes] = {"README.txt": README.encode()}
    resources: list[dict[str, Any]] = []
    for table in TABLES:
        if table.of_class and whose:
            continue
        content = _csv(table, groups)
        if content.count(b"\n") < 2:
            continue
        files[f"{table.name}.csv"] = content
        more = {"profile": "tabular-data-resource", "encoding": "utf-8", "schema": schema_of(table)}
        resources.append(_resource(table.name, f"{table.name}.csv", "csv", "text/csv", content) | more)
    for name, value in (("lab", _lab(lab)), ("materials", _materials(lab))):
        files[f"{name}.json"] = json.dumps(value, ensure_ascii=False, indent=1, default=str).encode()
        resources.append(_resource(name, f"{name}.json", "json", "application/json", files[f"{name}.json"]))
    about: dict[str, Any] = {}
    if not whose:
        entries, deeds = history.entries_of(lab), history.deeds_of(lab)
        about = {"lab": str(lab.id), "entries": history.head_of(entries).shown, "deeds": history.head_of(deeds).shown}
        for name, steps in (("history", entries), ("deeds_history", deeds)):
            files[f"{name}.csv"] = history.as_csv(steps)
            resources.append(_resource(name, f"{name}.csv", "csv", "text/csv", files[f"{name}.csv"]))
    for photo in Photo.objects.filter(cell__group__in=groups, removed__isnull=True):
        path = path_of(photo.id)
        if path.is_file():
            name = f"photographs/{photo.id}.jpg"
            files[name] = path.read_bytes()
            resources.append(_resource(f"photograph-{photo.id}", name, "jpg", "image/jpeg", files[name]))
    known = {resource["name"] for resource in resources}
    for resource in resources:
        _keep_known_keys(resource, known)
    described = {
        "name": "pipette-lab",
        "title": f"{lab.title}, {whose}" if whose else lab.title,
        "profile": "data-package",
        "created": timezone.now().isoformat(),
        "keywords": ["galvanic cells", "electrode potentials", "school laboratory"],
        "pipette": {
            "format": FORMAT,
            "version": VERSION,
            "edition": lab.edition,
            "simulated": lab.simulated,
            "whose": whose,
            **({"history": about} if about else {}),
        },
        "sources": [{"title": source.title} for source in sources().values()],
        "resources": resources,
    }  # fmt: skip
    files["datapackage.json"] = json.dumps(described, ensure_ascii=False, indent=1).encode()
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as zipped:
        for name in ("datapackage.json", *(one for one in files if one != "datapackage.json")):
            zipped.writestr(name, files[name])
    return made.getvalue()


def _csv(table: Table, groups: Sequence[Group]) -> bytes:
    made = io.StringIO()
    writer = csv.writer(made, lineterminator="\n")
    writer.writerow([field.name for field in table.fields])
    for row in table.rows(groups):
        writer.writerow([as_text(field, row) for field in table.fields])
    return made.getvalue().encode()


def _resource(name: str, path: str, ending: str, media: str, content: bytes) -> dict[str, Any]:
    """A file of the package as it is described."""
    return {
        "name": name, "path": path, "format": ending, "mediatype": media,
        "bytes": len(content), "hash": f"sha256:{hashlib.sha256(content).hexdigest()}",
    }  # fmt: skip


def _keep_known_keys(resource: dict[str, Any], known: set[str]) -> None:
    """Leave out references to tables that are empty and so not in the package."""
    schema = resource.get("schema", {})
    keys = [key for key in schema.get("foreignKeys", []) if key["reference"]["resource"] in known | {""}]
    if keys:
        schema["foreignKeys"] = keys
    else:
        schema.pop("foreignKeys", None)


def _lab(lab: Lab) -> Mapping[str, Any]:
    return {"planned": {name: getattr(lab, name) for name in LAB_FIELDS}}


def _materials(lab: Lab) -> list[dict[str, Any]]:
    """The own plates and liquids that a lab uses, and those that these are made from."""
    wanted, found = {*lab.electrodes, *lab.electrolytes}, dict[str, OwnMaterial]()
    while wanted:
        rows = OwnMaterial.objects.filter(key__in=wanted)
        found.update({row.key: row for row in rows})
        inside = {text for row in rows for text in _texts(row.data) if text.startswith("own-")}
        wanted = inside - set(found)
    return [{"key": row.key, "kind": row.kind, "name": row.name, "data": row.data} for row in found.values()]


def _texts(value: Any) -> list[str]:
    """All texts in something that JSON holds."""
    if isinstance(value, str):
        return [value]
    parts = value.values() if isinstance(value, dict) else value if isinstance(value, list) else ()
    return [text for part in parts for text in _texts(part)]
