"""Materials: the shipped catalogue, a teacher's own, and what is on the shelf."""

from __future__ import annotations

from dataclasses import asdict
from typing import Annotated

from django.http import HttpRequest, HttpResponse
from django.views.decorators.http import conditional_page
from ninja import Router
from ninja.decorators import decorate_view
from pydantic import BaseModel, Field, StringConstraints

from galvanic.bench.faults import symptoms, tries_of
from galvanic.chemistry.kinetics import forms, surfaces
from galvanic.chemistry.made import NOT_POURED, described
from galvanic.chemistry.plates import couple_of
from galvanic.planning.about import about
from galvanic.planning.safety import ACTIVITIES
from galvanic.reference import catalogue, reader
from galvanic.reference.additions import Addition, additions, ions
from galvanic.reference.bridges import bridges
from galvanic.reference.catalogue import Electrolyte
from galvanic.reference.variables import variables
from galvanic.words import say
from server.base.problems import not_found
from server.materials import services
from server.materials.models import OwnMaterial, Shelf, is_made
from server.materials.schemas import (
    AboutOut,
    AdditionOut,
    ElectrodeOut,
    ElectrolyteOut,
    FactOut,
    HazardLine,
    Key,
    MaterialsOut,
    NamedOut,
    OnShelf,
    SettingWords,
    SidesOut,
    SymptomOut,
)
from server.people.auth import TeacherAuth, teacher_of
from server.people.models import Teacher
from server.people.schemas import Done, ProblemOut

router = Router()
REFUSED = {409: ProblemOut, 422: ProblemOut}
Name = Annotated[str, StringConstraints(max_length=80)]
Span = tuple[Annotated[float, Field(ge=0, le=20)], Annotated[float, Field(ge=0, le=20)]]


class OwnElectrodeIn(BaseModel):
    """An own electrode: `couple` as in the table, None for an inert plate; `surface` whose kinetics it has."""

    name: Name
    symbol: Annotated[str, StringConstraints(min_length=1, max_length=8)]
    couple: Key | None
    surface: Key
    prepare: Annotated[str, StringConstraints(max_length=200)] = ""
    replaces: Key = ""


class OwnElectrolyteIn(BaseModel):
    """An own electrolyte: form, and pH, conductivity (S/m) and chloride (mol/L) as ranges from low to high."""

    name: Name
    form: Key
    ph: tuple[Annotated[float, Field(ge=-1, le=15)], Annotated[float, Field(ge=-1, le=15)]]
    conductivity_s_per_m: Span
    chloride_mol_per_l: Span
    copper_mol_per_l: Annotated[float, Field(ge=0, le=5)] = 0.0
    zinc_mol_per_l: Annotated[float, Field(ge=0, le=5)] = 0.0
    replaces: Key = ""


class ShelfIn(BaseModel):
    """How many pieces (litres) there are and what one costs; None where not known."""

    count: Annotated[float, Field(ge=0, le=9999)] | None
    price: Annotated[float, Field(ge=0, le=99999)] | None


class OwnElectrodeOut(OwnElectrodeIn):
    """An own electrode as it was entered, to change it."""

    key: str


class OwnElectrolyteOut(OwnElectrolyteIn):
    """An own electrolyte as it was entered, to change it."""

    key: str


class OwnOut(BaseModel):
    """A teacher's own materials that are offered, as they were entered."""

    electrodes: list[OwnElectrodeOut]
    electrolytes: list[OwnElectrolyteOut]


@router.get("/materials/own", response=OwnOut, operation_id="own_materials", auth=TeacherAuth())
def own_materials(request: HttpRequest) -> OwnOut:
    """The teacher's own materials, as they were entered."""
    rows = services.offered(teacher_of(request))
    plates = [row for row in rows if row.kind == OwnMaterial.Kind.ELECTRODE]
    liquids = [row for row in rows if row.kind == OwnMaterial.Kind.ELECTROLYTE and not is_made(row)]
    return OwnOut(
        electrodes=[OwnElectrodeOut(key=row.key, name=row.name, **row.data) for row in plates],
        electrolytes=[
            OwnElectrolyteOut(
                key=row.key,
                name=row.name,
                copper_mol_per_l=row.data.get("ions_mol_per_l", {}).get("Cu2+", 0.0),
                zinc_mol_per_l=row.data.get("ions_mol_per_l", {}).get("Zn2+", 0.0),
                **{name: row.data[name] for name in ("form", "ph", "conductivity_s_per_m", "chloride_mol_per_l")},
            )
            for row in liquids
        ],
    )


@router.get("/materials", response=MaterialsOut, operation_id="materials", auth=None)
@decorate_view(conditional_page)
def materials(request: HttpRequest, response: HttpResponse) -> MaterialsOut:
    """Every electrode and electrolyte there is for whoever asks, and what own ones can be made of. A device that has it
    already is told so in place of it."""
    response["Cache-Control"] = "private, no-cache"
    mine: dict[str, Shelf] = {}
    offered: set[str] | None = None  # a group is asked for nothing, so all it sees has its name
    if isinstance(request.user, Teacher):
        mine, offered = services.shelf_of(request.user), {row.key for row in services.offered(request.user)}

    def shelf(key: str) -> OnShelf:
        row = mine.get(key)
        price = None if row is None or row.price is None else float(row.price)
        return OnShelf(count=row.count if row else None, price=price)

    def retired(key: str) -> bool:
        return offered is not None and key.startswith("own-") and key not in offered

    return MaterialsOut(
        settings=[
            SettingWords(name=row.name, said=row.said, words={word: say(word) for word in (*row.words, row.unit) if word})
            for row in variables().values()
        ],
        edition=reader.edition(),
        electrodes=[
            ElectrodeOut(
                key=e.key,
                symbol=e.symbol,
                name=e.name,
                synonyms=list(e.synonyms),
                supplied=e.supplied,
                table_v=e.table_v_or_none(),
                prepare=e.prepare,
                usual=e.usual or e.key.startswith("own-"),
                own=e.key.startswith("own-"),
                retired=retired(e.key),
                shelf=shelf(e.key),
            )
            for e in catalogue.electrodes().values()
        ],
        electrolytes=[
            ElectrolyteOut(
                key=e.key,
                name=e.name,
                synonyms=list(e.synonyms),
                form=e.form,
                ph_low=e.ph.low,
                ph_high=e.ph.high,
                recipe="" if e.made is None else described(e.made),
                sides=_sides(e),
                pours=e.bridge is None and e.form not in NOT_POURED,
                usual=e.usual or e.key.startswith("own-"),
                own=e.key.startswith("own-"),
                retired=retired(e.key),
                shelf=shelf(e.key),
            )
            for e in catalogue.electrolytes().values()
        ],
        couples=[NamedOut(key=h.key, name=h.equation) for h in catalogue.half_reactions().values() if _metal(h.key)],
        surfaces=[NamedOut(key=key, name=key.replace("-", " ")) for key in surfaces()],
        forms=[NamedOut(key=key, name=form.name) for key, form in forms().items()],
        additions=[
            AdditionOut(key=a.key, name=a.name, unit=a.unit, metal=_metal_in(a), hazard=a.hazard)
            for a in additions().values()
        ],
        bridges=[NamedOut(key=bridge.key, name=bridge.long) for bridge in bridges().values()],
        activities=[NamedOut(key=key, name=say(name)) for key, name in ACTIVITIES.items()],
        symptoms=[
            SymptomOut(key=s.key, seen=s.seen, means=s.means, tries=list(tries_of(s.key))) for s in symptoms().values()
        ],
    )


@router.get(
    "/materials/{key}/about", response={200: AboutOut, 404: ProblemOut}, auth=TeacherAuth(), operation_id="about_material"
)
def about_material(request: HttpRequest, key: str) -> AboutOut:
    """What one material is good for, how to prepare it, what can hurt, its numbers with their sources."""
    material = about(key)
    if material is None:
        raise not_found("material")
    hazards = [HazardLine(text=hazard.text, do=hazard.do, refuse=list(hazard.refuse)) for hazard in material.hazards]
    return AboutOut(
        key=material.key,
        name=material.name,
        what=material.what,
        use=list(material.use),
        prepare=list(material.prepare),
        hazards=[*hazards, *(HazardLine(text=text, do="", refuse=[]) for text in material.cautions)],
        facts=[FactOut(**asdict(fact)) for fact in material.facts],
    )


def _sides(row: Electrolyte) -> SidesOut | None:
    if row.negative_side is None or row.positive_side is None or row.bridge is None:
        return None
    bridge = bridges()[row.bridge]
    return SidesOut(negative=row.negative_side, positive=row.positive_side, bridge=row.bridge, joined=bridge.name)


def _metal_in(what: Addition) -> str:
    """The plate whose metal's ions a salt brings; empty for anything else."""
    ion = next((ions()[key].metal for key in what.ions if ions()[key].metal), None)
    couple = None if ion is None else couple_of(ion)
    plate = None if couple is None else catalogue.plate_of(couple.key)
    return "" if plate is None else plate.key


def _metal(couple: str) -> bool:
    return couple in {e.couple for e in catalogue.shipped_electrodes().values()}


@router.post("/materials/electrodes", auth=TeacherAuth(), response={201: Done, **REFUSED}, operation_id="add_electrode")
def add_electrode(request: HttpRequest, data: OwnElectrodeIn) -> tuple[int, Done]:
    """Keep an own electrode."""
    kept = data.model_dump(exclude={"name", "replaces"})
    services.add_material(
        actor=teacher_of(request), kind=OwnMaterial.Kind.ELECTRODE, name=data.name, data=kept, replaces=data.replaces
    )
    return 201, Done(ok=True)


@router.post("/materials/electrolytes", auth=TeacherAuth(), response={201: Done, **REFUSED}, operation_id="add_electrolyte")
def add_electrolyte(request: HttpRequest, data: OwnElectrolyteIn) -> tuple[int, Done]:
    """Keep an own electrolyte."""
    ions = {"Cu2+": data.copper_mol_per_l, "Zn2+": data.zinc_mol_per_l}
    kept = data.model_dump(exclude={"name", "replaces", "copper_mol_per_l", "zinc_mol_per_l"})
    kept["ions_mol_per_l"] = {ion: amount for ion, amount in ions.items() if amount}
    services.add_material(
        actor=teacher_of(request), kind=OwnMaterial.Kind.ELECTROLYTE, name=data.name, data=kept, replaces=data.replaces
    )
    return 201, Done(ok=True)


@router.post(
    "/materials/{key}/retire", auth=TeacherAuth(), response={200: Done, 404: ProblemOut}, operation_id="retire_material"
)
def retire_material(request: HttpRequest, key: str) -> Done:
    """Offer an own material no more."""
    services.retire_material(actor=teacher_of(request), key=key)
    return Done(ok=True)


@router.put("/shelf/{key}", auth=TeacherAuth(), response={200: Done, 404: ProblemOut}, operation_id="set_shelf")
def set_shelf(request: HttpRequest, key: str, data: ShelfIn) -> Done:
    """Keep what is on the shelf."""
    services.set_shelf(actor=teacher_of(request), key=key, count=data.count, price=data.price)
    return Done(ok=True)
