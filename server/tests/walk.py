"""Every writing operation of the API, each asked once as its own visitor asks it, on labs where everything hangs that can.

`CASES` names an operation and how it is asked; they are walked in order, so that later ones find what earlier ones left: the
packs, runs and votes, questions and their answers, evidence, homework, shares, tags, values from elsewhere, photographs,
versions of a notebook. An operation that is new has to be put in its place here.
"""

from __future__ import annotations

import json
import uuid
from collections.abc import Callable
from dataclasses import asdict
from itertools import combinations
from pathlib import Path
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django_otp.oath import totp
from django_otp.plugins.otp_totp.models import TOTPDevice

from galvanic.cells import Cell
from galvanic.simulated.drill import case as drill_case
from server.asking.models import ClassQuestion
from server.entries.models import Photo, Question, Reading
from server.entries.tests.pictures import jpeg
from server.findings.models import Elsewhere
from server.homework.models import Homework
from server.labs.models import Lab, PlannedCell
from server.labs.policy import sheet_of
from server.materials.models import OwnMaterial
from server.notebook.models import Words
from server.people.done_once import HEADER
from server.people.models import SignedIn, Teacher
from server.power.models import Chain
from server.records.models import TableIn
from server.school.models import Link
from server.tests.support import as_group, as_teacher, cell_of, group_of, lab_of, teacher

SCHEMA = json.loads((Path(__file__).parents[2] / "web/src/api/openapi.json").read_text())
WRITES = {
    told["operationId"]: (verb, path)
    for path, verbs in SCHEMA["paths"].items()
    for verb, told in verbs.items()
    if verb != "get"
}
LEMON = {"negative": "zinc", "electrolyte": "lemon-juice", "positive": "copper"}
GROUPS = ("Tern", "Knot", "Ruff")
Asked = tuple[Any, dict[str, Any], Any]
LONG = "three unlike words"
TABLE = "group,red,black,electrolyte,volts\nTern,copper,zinc,lemon juice,0.94\nKnot,copper,zinc,lemon juice,0.95\n"
LOGGED = "time_s,volts\n" + "".join(f"{t},{0.95 - t / 1000:.3f}\n" for t in range(0, 60, 5))


class World:
    """A head of the school and a colleague, an open lab and two drafts, and the devices of two groups."""

    def __init__(self) -> None:
        self.ada, self.bob = teacher("ada"), teacher("bob")
        Teacher.objects.filter(id=self.ada.id).update(is_head=True)
        more: dict[str, Any] = {"electrolytes": ["lemon-juice"], "packs": True, "short_circuit": True, "load_ohm": 1000.0}
        many = ["zinc", "copper", "tin", "nickel", "magnesium", "silver"]
        self.lab = lab_of(self.ada, GROUPS, minutes=60, electrodes=many, **more)
        self.draft = lab_of(self.ada, GROUPS, opened=False, title="A draft", **more)
        self.varied = lab_of(
            self.ada, GROUPS, title="How far apart", electrodes=["zinc", "copper"], electrolytes=["lemon-juice"],
            varies="spacing", conditions=["1 cm", "4 cm"],
        )  # fmt: skip
        self.desk, self.colleague = as_teacher(self.ada), as_teacher(self.bob)
        self.tern, self.knot = (as_group(group_of(self.lab, name)) for name in GROUPS[:2])
        self.wide = as_group(group_of(self.varied))
        self.stranger = Client()
        self.own: dict[str, uuid.UUID] = {}
        self.said: dict[str, Any] = {}

    @property
    def cell(self) -> PlannedCell:
        """The cell at which the first group keeps everything."""
        return cell_of(group_of(self.lab))

    @property
    def free(self) -> PlannedCell:
        """A cell that nobody has begun, which the third group does not have."""
        theirs = {planned.cell for planned in PlannedCell.objects.filter(group=group_of(self.lab, "Ruff"))}
        cells = PlannedCell.objects.filter(group__lab=self.lab, readings=None, shared=False).exclude(group__name="Ruff")
        return next(cell for cell in cells.exclude(id=self.cell.id) if cell.cell not in theirs)

    @property
    def further(self) -> dict[str, str]:
        """A cell of the lab that the third group does not have."""
        theirs = {planned.cell for planned in PlannedCell.objects.filter(group=group_of(self.lab, "Ruff"))}
        pairs = combinations(self.lab.electrodes, 2)
        cells = (Cell.of(low, "lemon-juice", high, "") for low, high in pairs)
        return asdict(next(cell for cell in cells if cell not in theirs))

    def id(self, of: str) -> str:
        """A number of an entry's own, the same whenever it is asked for again."""
        return str(self.own.setdefault(of, uuid.uuid4()))

    def entry(self, of: str, **more: Any) -> dict[str, Any]:
        """An entry at the first group's cell."""
        return {"id": self.id(of), "cell_id": str(self.cell.id)} | more


def file(name: str, content: bytes | str) -> SimpleUploadedFile:
    """A file as a form sends it."""
    return SimpleUploadedFile(name, content.encode() if isinstance(content, str) else content)


def _reading(w: World) -> dict[str, Any]:
    cell = w.cell
    return w.entry("reading", red=cell.positive, black=cell.negative, text="0.95", unit="V")


def _second_code(w: World) -> dict[str, Any]:
    device = TOTPDevice.objects.get(user=w.ada)
    return {"code": f"{totp(device.bin_key, step=device.step, t0=device.t0, digits=device.digits):06d}"}


def _package(w: World) -> dict[str, Any]:
    w.said.setdefault("package", w.desk.get(f"/api/labs/{w.lab.id}/package.zip").content)
    return {"file": file("lab.zip", w.said["package"])}


def _packs(w: World) -> dict[str, Any]:
    return {"file": file("packs.csv", w.desk.get(f"/api/labs/{w.lab.id}/tables/packs.csv").content)}


def _new_lab(title: str) -> dict[str, Any]:
    return {
        "title": title, "date": "2026-05-04", "minutes": 60, "electrodes": ["zinc", "copper", "tin"],
        "electrolytes": ["lemon-juice"], "groups": ["Tern", "Knot", "Dodo"],
    }  # fmt: skip


def _homework(w: World) -> dict[str, Any]:
    fault = next(iter(drill_case("zero").answers))
    return {
        "id": w.id("tried"), "code": Homework.objects.get().code, "device": w.id("phone"), "symptom": "zero",
        "fault": fault, "named": "loose", "hands": ["read"],
    }  # fmt: skip


SIDES = {
    "negative": "zinc", "negative_side": {"salt": "zinc-sulfate", "mol_per_l": 1.0},
    "positive": "copper", "positive_side": {"salt": "copper-sulfate", "mol_per_l": 1.0}, "bridge": "paper",
}  # fmt: skip
SALTED = {"base": "lemon-juice", "steps": [{"what": "table-salt", "amount": 2.0, "unit": "g"}]}
NOTHING: dict[str, Any] = {}

# operation: (who asks, what is in the address, what is sent); each is worked out when its turn comes
CASES: dict[str, Callable[[World], Asked]] = {
    # a lab is planned
    "preview_lab": lambda w: (w.desk, NOTHING, _new_lab("Looked at")),
    "create_lab": lambda w: (w.desk, NOTHING, _new_lab("Made")),
    "edit_plan": lambda w: (w.desk, {"lab_id": w.draft.id}, {"kind": "anew", "round": 2}),
    "revise_lab": lambda w: (w.desk, {"lab_id": w.draft.id}, _new_lab("Planned differently")),
    "set_times": lambda w: (w.desk, {"lab_id": w.draft.id}, {"minutes": 50, "steps": {"start": 9.0}}),
    "sign_off": lambda w: (w.desk, {"lab_id": w.draft.id}, {"fingerprint": sheet_of(Lab.objects.get(id=w.draft.id)).fingerprint}),
    "open_lab": lambda w: (w.desk, {"lab_id": w.draft.id}, None),
    "rename_lab": lambda w: (w.desk, {"lab_id": w.lab.id}, {"title": "Another title"}),
    "tag_lab": lambda w: (w.desk, {"lab_id": w.lab.id}, {"tags": ["8b", "fruit"]}),
    "copy_lab": lambda w: (w.desk, {"lab_id": w.lab.id}, {"title": "A copy", "date": "2026-05-05"}),
    "share_lab": lambda w: (w.desk, {"lab_id": w.lab.id}, {"teacher": w.bob.id, "way": "work"}),
    "set_rubric": lambda w: (w.desk, {"lab_id": w.lab.id}, {"rows": [{"name": "Evidence", "most": 4}]}),
    "release": lambda w: (
        w.desk, {"lab_id": w.lab.id}, {"parts": ["compare", "explain", "claims", "power", "notebook"]},
    ),
    "keep_for": lambda w: (w.desk, {"lab_id": w.lab.id}, {"days": 30}),
    "show_values": lambda w: (w.desk, {"lab_id": w.lab.id}, {"on": True}),
    # groups join and record
    "join": lambda w: (
        w.stranger, NOTHING, {"code": Lab.objects.get(id=w.lab.id).join_code, "pin": group_of(w.lab, "Ruff").pin},
    ),
    "record_meter_check": lambda w: (w.tern, NOTHING, {"id": w.id("meter"), "leads": "0.00", "dry": "1.55"}),
    "record_prediction": lambda w: (w.tern, NOTHING, w.entry("prediction", negative="zinc", text="1.1", unit="V")),
    "record_reading": lambda w: (w.tern, NOTHING, _reading(w)),
    "record_under_load": lambda w: (w.tern, NOTHING, w.entry("load", kind="load", text="0.71", unit="V")),
    "record_observation": lambda w: (w.tern, NOTHING, w.entry("seen", text="bubbles at the zinc")),
    "record_question": lambda w: (w.tern, NOTHING, w.entry("question", text="Why does it fall?")),
    "record_actual": lambda w: (
        w.wide, NOTHING, {"id": w.id("actual"), "cell_id": str(cell_of(group_of(w.varied)).id), "text": "1.2 cm"},
    ),
    "record_photo": lambda w: (w.tern, NOTHING, w.entry("photo") | {"photo": file("p.jpg", jpeg())}),
    "preview_trace": lambda w: (w.tern, NOTHING, {"file": file("log.csv", LOGGED)}),
    "record_trace": lambda w: (w.tern, NOTHING, w.entry("trace") | {"file": file("log.csv", LOGGED)}),
    "record_pack": lambda w: (w.tern, NOTHING, {"id": w.id("pack"), "load": "red-led"}),
    "record_pack_entry": lambda w: (
        w.tern, NOTHING, {"id": w.id("placed"), "pack_id": w.id("pack"), "kind": "cell", "position": 1} | LEMON,
    ),
    "record_run_file": lambda w: (
        w.tern, NOTHING, {"id": w.id("run"), "pack_id": w.id("pack"), "file": file("night.csv", LOGGED)},
    ),
    "record_claim": lambda w: (
        w.tern, NOTHING,
        {"id": w.id("claim"), "cell": LEMON, "cause": "no_ions", "reasoning": "bigger plates give more volts", "may_show": True, "cited": [w.id("reading")]},
    ),
    "record_own_test": lambda w: (
        w.tern, {"claim_id": w.id("claim")},
        {"id": w.id("own test"), "test": "copper:traces", "before": "0.94", "after": "1.01"},
    ),
    "record_meant": lambda w: (
        w.tern, {"claim_id": w.id("claim")}, {"id": w.id("meant"), "belief": "bigger_more", "yes": True},
    ),
    "record_words": lambda w: (
        w.tern, NOTHING,
        {"id": w.id("words"), "part": "discussion", "text": "It fell.", "cites": [{"kind": "reading", "id": w.id("reading")}]},
    ),
    "hand_in": lambda w: (w.tern, NOTHING, {"id": w.id("handed in")}),
    # the board
    "ask_again": lambda w: (w.desk, {"cell_id": w.cell.id}, None),
    "answer_question": lambda w: (
        w.desk, {"question_id": Question.objects.get().id}, {"kind": "cell", "text": "Try it", "cell": LEMON | {"condition": ""}},
    ),
    "give_cell": lambda w: (w.desk, {"cell_id": w.said.setdefault("free", w.free.id)}, {"group": str(group_of(w.lab, "Ruff").id)}),
    "add_cell": lambda w: (w.desk, {"group_id": group_of(w.lab, "Ruff").id}, w.said.setdefault("further", w.further)),
    "set_reading_aside": lambda w: (w.desk, {"reading_id": Reading.objects.get().id}, {"reason": "the clip was loose"}),
    "set_group_aside": lambda w: (w.desk, {"group_id": group_of(w.lab, "Ruff").id}, {"reason": "a flat meter"}),
    "set_meter": lambda w: (w.desk, {"group_id": group_of(w.lab).id}, {"address": ""}),
    "pause": lambda w: (w.desk, {"lab_id": w.lab.id}, {"on": True}),
    "add_minutes": lambda w: (w.desk, {"lab_id": w.lab.id}, {"minutes": 5}),
    "new_pin": lambda w: (w.desk, {"group_id": group_of(w.lab, "Ruff").id}, None),
    "new_code": lambda w: (w.desk, {"lab_id": w.lab.id}, None),
    # what is made of it
    "begin_chain": lambda w: (w.desk, {"lab_id": w.lab.id}, {"id": w.id("chain"), "load": "red-led", "cell": "|".join(LEMON.values())}),
    "record_chain_entry": lambda w: (
        w.tern, NOTHING, {"id": w.id("vote"), "chain_id": str(Chain.objects.get().id), "kind": "vote", "cells": 3},
    ),
    "answer_claim": lambda w: (w.desk, {"claim_id": w.id("claim")}, {"text": "well seen", "marks": {"Evidence": 3}, "shown": True}),
    "give_back": lambda w: (w.desk, {"group_id": group_of(w.lab).id}, {"text": "Good.", "remarks": {"discussion": "Why?"}}),
    "add_elsewhere": lambda w: (w.desk, {"lab_id": w.lab.id}, {"cell": LEMON, "text": "0.93", "source": "a textbook"}),
    "withdraw_elsewhere": lambda w: (w.desk, {"value_id": Elsewhere.objects.get().id}, None),
    "what_if": lambda w: (w.desk, NOTHING, {"cell": LEMON}),
    "remove_photo": lambda w: (w.tern, {"photo_id": Photo.objects.get().id}, None),
    "remove_words": lambda w: (
        w.desk, {"lab_id": w.lab.id}, {"things": [{"kind": "words", "id": str(Words.objects.get().id)}]},
    ),
    "import_packs": lambda w: (w.desk, {"lab_id": w.lab.id}, _packs(w)),
    "import_package": lambda w: (w.desk, NOTHING, _package(w)),
    "set_homework": lambda w: (w.desk, {"lab_id": w.lab.id}, {"symptoms": ["zero"], "benches": 3}),
    "open_homework": lambda w: (w.stranger, NOTHING, {"code": Homework.objects.get().code}),
    "keep_try": lambda w: (w.stranger, NOTHING, _homework(w)),
    "ask_class": lambda w: (w.desk, {"lab_id": w.lab.id}, {"text": "What gives more volts?", "options": ["a", "b"], "fits": 0}),
    "open_question": lambda w: (w.stranger, NOTHING, {"code": ClassQuestion.objects.get().code}),
    "keep_answer": lambda w: (
        w.stranger, NOTHING,
        {"id": w.id("answer"), "code": ClassQuestion.objects.get().code, "device": w.id("phone"), "choice": 1},
    ),
    "end_question": lambda w: (w.desk, {"question_id": ClassQuestion.objects.get().id}, None),
    "end_homework": lambda w: (w.desk, {"homework_id": Homework.objects.get().id}, None),
    "hand_over_table": lambda w: (w.desk, NOTHING, {"file": file("class.csv", TABLE)}),
    "look_again": lambda w: (w.desk, {"table_id": TableIn.objects.get().id}, {"columns": {}}),
    "keep_table": lambda w: (w.desk, {"table_id": TableIn.objects.get().id}, {"title": "Last week", "on": "2026-05-04"}),
    # the cupboard
    "set_shelf": lambda w: (w.desk, {"key": "zinc"}, {"count": 6, "price": 0.5}),
    "add_electrode": lambda w: (
        w.desk, NOTHING, {"name": "Old coin", "symbol": "Oc", "couple": "Cu2+/Cu", "surface": "copper", "prepare": "Rub it."},
    ),
    "add_electrolyte": lambda w: (
        w.desk, NOTHING,
        {
            "name": "Our brine", "form": "juice", "ph": [6.5, 7.0], "conductivity_s_per_m": [2.0, 3.0],
            "chloride_mol_per_l": [0.3, 0.5],
        },
    ),
    "preview_made": lambda w: (w.desk, NOTHING, SALTED),
    "add_made": lambda w: (w.desk, NOTHING, SALTED | {"name": "Salted lemon"}),
    "preview_two": lambda w: (w.desk, NOTHING, SIDES),
    "add_two": lambda w: (w.desk, NOTHING, SIDES | {"name": "Two cups of ours"}),
    "retire_material": lambda w: (w.desk, {"key": OwnMaterial.objects.filter(owner=w.ada).first().key}, None),
    "set_cupboard": lambda w: (w.desk, NOTHING, {"teacher": w.ada.id}),
    # the school
    "set_head": lambda w: (w.desk, {"teacher_id": w.bob.id}, {"head": True}),
    "set_active": lambda w: (w.desk, {"teacher_id": w.bob.id}, {"active": True}),
    "reset_colleague": lambda w: (w.desk, {"teacher_id": w.bob.id}, None),
    "invite": lambda w: (w.desk, NOTHING, {"name": "the new one"}),
    "look_at_link": lambda w: (w.stranger, NOTHING, {"secret": w.said["invite"]["address"].partition("#")[2]}),
    "use_link": lambda w: (
        w.stranger, NOTHING, {"secret": w.said["invite"]["address"].partition("#")[2], "username": "cy", "password": LONG},
    ),
    "end_link": lambda w: (w.desk, {"link_id": Link.objects.filter(kind="reset").first().id}, None),
    "forgotten": lambda w: (w.stranger, NOTHING, {"username": "bob"}),
    "begin_school": lambda w: (w.stranger, NOTHING, {"code": "0000", "username": "dee", "password": LONG}),
    "choose_language": lambda w: (w.desk, NOTHING, {"language": "de"}),
    "set_email": lambda w: (w.desk, NOTHING, {"email": "ada@example.org", "password": "adaada-long-enough"}),
    "begin_second": lambda w: (w.desk, NOTHING, {"password": "adaada-long-enough"}),
    "confirm_second": lambda w: (w.desk, NOTHING, _second_code(w)),
    "end_second": lambda w: (w.desk, NOTHING, {"password": "adaada-long-enough"}),
    "change_password": lambda w: (w.desk, NOTHING, {"old": "adaada-long-enough", "new": LONG}),
    "sign_in": lambda w: (w.stranger, NOTHING, {"username": "bob", "password": "bobbob-long-enough"}),
    "end_sign_in": lambda w: (w.stranger, {"sign_in_id": SignedIn.objects.filter(teacher=w.bob).first().id}, None),
    # the end
    "leave": lambda w: (w.tern, NOTHING, None),
    "close_lab": lambda w: (w.desk, {"lab_id": w.lab.id}, None),
    "archive_lab": lambda w: (w.desk, {"lab_id": w.lab.id}, {"away": True}),
    "delete_lab": lambda w: (w.desk, {"lab_id": w.lab.id}, {"title": "Another title"}),
    "undelete_lab": lambda w: (w.desk, {"lab_id": w.lab.id}, None),
    "sign_out": lambda w: (w.colleague, NOTHING, None),
    "delete_account": lambda w: (w.desk, NOTHING, {"password": LONG}),
}  # fmt: skip
REFUSED = {"begin_school": 409, "forgotten": 409}  # there are accounts already; no mail is set up

FORMS = {
    "record_photo",
    "record_trace",
    "preview_trace",
    "record_run_file",
    "import_package",
    "import_packs",
    "hand_over_table",
}


def asking(world: World, operation: str) -> Callable[[], Any]:
    """How an operation is asked, as its case says now; as often as wanted, each time the same under the same number."""
    verb, path = WRITES[operation]
    client, ids, sent = CASES[operation](world)
    address = path.format(**{name: str(value) for name, value in ids.items()})
    headers = {HEADER: str(uuid.uuid4())}

    def ask() -> Any:
        if operation not in FORMS:
            return getattr(client, verb)(address, sent or {}, content_type="application/json", headers=headers)
        for value in sent.values():
            if isinstance(value, SimpleUploadedFile):
                value.seek(0)
        return client.post(address, sent, headers=headers)

    return ask
