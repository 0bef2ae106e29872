"""The API: one router per application."""

from __future__ import annotations

from typing import Any

from ninja import NinjaAPI
from ninja.openapi.schema import OpenAPISchema

from server.asking.api import router as asking
from server.base import errors
from server.base.incoming import CleanParser
from server.claims.api import router as claims
from server.config.health import router as health
from server.entries.api import router as bench
from server.entries.beside_api import router as beside
from server.findings.api import router as findings
from server.findings.basics_api import router as basics
from server.findings.deciding_api import router as deciding
from server.findings.explain_api import router as explaining
from server.homework.api import router as homework
from server.labs.api import router as labs
from server.labs.joining_api import router as joining
from server.labs.sharing_api import router as sharing
from server.labs.sheets.api import router as sheets
from server.materials.api import router as materials
from server.materials.making_api import router as making
from server.notebook.api import router as notebook
from server.people.api import router as people
from server.power.api import router as power
from server.power.bench_api import router as packs
from server.practise.api import router as practise
from server.records.api import router as records
from server.records.export_api import router as tables
from server.records.list_api import router as room_list
from server.records.removing_api import router as removing
from server.records.years_api import router as laid_over
from server.room.api import router as room
from server.room.board_api import router as board
from server.school.api import router as school


class Api(NinjaAPI):
    """The API, every refusal of which is said to have the one shape."""

    def get_openapi_schema(self, **options: Any) -> OpenAPISchema:
        """As ninja makes it, with the one shape for every status that is not named."""
        schema = super().get_openapi_schema(**options)
        shape = {"application/json": {"schema": {"$ref": "#/components/schemas/ProblemOut"}}}
        for methods in schema["paths"].values():
            for operation in methods.values():
                named = {str(status): answer for status, answer in operation["responses"].items()}
                operation["responses"] = {**named, "default": {"description": "A refusal", "content": shape}}
        return schema


api = Api(title="Pipette", version="1", docs_url=None, openapi_url=None, urls_namespace="api", parser=CleanParser())
errors.install(api)


for router in (
    health,
    people,
    school,
    materials,
    making,
    room_list,
    labs,
    joining,
    sharing,
    sheets,
    bench,
    beside,
    board,
    room,
    findings,
    basics,
    deciding,
    explaining,
    claims,
    tables,
    power,
    packs,
    notebook,
    records,
    laid_over,
    removing,
    practise,
    homework,
    asking,
):
    api.add_router("", router)
