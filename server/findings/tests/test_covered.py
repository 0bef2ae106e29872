"""Covered means covered: no number of an answer to a group is another group's until the teacher shows it and it has its own."""

import io
import json
import re
import uuid
import zipfile
from types import SimpleNamespace

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase

from server.config.api import api
from server.entries.tests.pictures import jpeg
from server.findings.release import release
from server.labs.models import PlannedCell
from server.people.auth import GroupAuth
from server.power.models import Chain
from server.tests.support import as_group, as_teacher, cell_of, group_of, lab_of, record, record_all, send, teacher

THEIRS = ("0.8713", "0.8731", "0.8722")  # Knot's of the cell both have; no value of a table or an account is near
OWN = ("0.1501", "-1.0503", "0.1502")
PLATES = {"negative": "zinc", "electrolyte": "rhubarb-juice", "positive": "copper"}
LIKE_V = 0.0056  # nearer than that, a number said to two decimals would give it away
TIME = re.compile(r"\d{4}-\d\d-\d\dT[\d:.]+(?:Z|[+-]\d\d:\d\d)")
NUMBER = re.compile(r"[-\u2212]?\d+(?:[.,]\d+)?")


def numbers_in(value):
    """Every number of an answer, those in its sentences too; ids and times left out."""
    if isinstance(value, dict):
        for one in value.values():
            yield from numbers_in(one)
    elif isinstance(value, list):
        for one in value:
            yield from numbers_in(one)
    elif isinstance(value, str):
        if not re.fullmatch(r"[0-9a-f-]{36}", value):
            for found in NUMBER.findall(TIME.sub("", value)):
                yield float(found.replace("\u2212", "-").replace(",", "."))
    elif isinstance(value, int | float) and not isinstance(value, bool):
        yield float(value)


def unpacked(content):
    """All texts of a package, as JSON; sums of files say nothing."""
    with zipfile.ZipFile(io.BytesIO(content)) as zipped:
        names = [name for name in zipped.namelist() if name.endswith(".csv")]
        return json.dumps([zipped.read(name).decode() for name in names]).encode()


class Covered(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada, short_circuit=True, load_ohm=1000.0)
        self.tern, self.knot = group_of(self.lab), group_of(self.lab, "Knot")
        self.cell = cell_of(self.tern)
        self.theirs = PlannedCell.objects.get(
            group=self.knot, negative=self.cell.negative, positive=self.cell.positive, shared=self.cell.shared,
            position=self.cell.position,
        )  # fmt: skip
        for text in THEIRS:
            record(self.theirs, text)
        for group in (self.tern, self.knot):  # and other cells, by which the ladder hangs together
            others = [cell for cell in PlannedCell.objects.filter(group=group) if cell.cell != self.cell.cell]
            record_all((cell, "0.3311" if group == self.tern else "0.3322") for cell in others)
        self.device = as_group(self.tern)
        self.chain = Chain.objects.create(id=uuid.uuid4(), lab=self.lab, load="led-red", **PLATES)
        body = {"id": str(uuid.uuid4()), "chain_id": str(self.chain.id), "kind": "link", "text": "0.2011", **PLATES}
        send(as_group(self.knot), "/bench/chain-entries", body)  # read aloud at the front: that is no secret

    def own(self, text):
        body = {"id": str(uuid.uuid4()), "cell_id": str(self.cell.id), "unit": "V", "text": text}
        return body | {"red": self.cell.positive, "black": self.cell.negative}

    def claim(self, cause):
        about = {k: getattr(self.cell, k) for k in ("negative", "electrolyte", "positive", "condition")}
        words = "Zinc loses its electrons because salt makes the current and more acid makes more volts."
        return {"id": str(uuid.uuid4()), "cell": about, "cause": cause, "reasoning": words, "cited": []}

    def answers(self):
        """What every endpoint that a group may ask answers now; a new one has to be added here."""
        at = lambda **more: {"id": str(uuid.uuid4()), "cell_id": str(self.cell.id), **more}  # noqa: E731
        about = {k: getattr(self.cell, k) for k in ("negative", "electrolyte", "positive", "condition")}
        lab, file = f"/labs/{self.lab.id}", lambda content: SimpleUploadedFile("x", content)
        trace = b"s,V\n" + b"".join(b"%d,0.5\n" % k for k in range(30))
        pack = str(uuid.uuid4())
        photo = self.device.post("/api/bench/photos", at(photo=file(jpeg())))
        asks = {
            "bench": lambda: self.device.get("/api/bench"),
            "bench_claims": lambda: self.device.get("/api/bench/claims"),
            "bench_compare": lambda: self.device.get("/api/bench/compare"),
            "explain": lambda: self.device.get(f"/api{lab}/explain", about),
            "bench_basics": lambda: self.device.get("/api/bench/basics"),
            "loop": lambda: self.device.get(f"/api{lab}/loop", about),
            "accounts": lambda: self.device.get(f"/api{lab}/accounts"),
            "what_if": lambda: send(self.device, "/what-if", {"cell": about}),
            "record_prediction": lambda: send(self.device, "/bench/predictions", at(negative="zinc", text="1.1", unit="V")),
            "record_reading": lambda: send(self.device, "/bench/readings", self.own("hello")),
            "record_meter_check": lambda: send(
                self.device, "/bench/meter-checks", {"id": str(uuid.uuid4()), "leads": "0.000", "dry": "1.55"}
            ),
            "record_under_load": lambda: send(self.device, "/bench/under-load", at(kind="short", text="1.1", unit="mA")),
            "record_observation": lambda: send(self.device, "/bench/observations", at(text="bubbles")),
            "record_question": lambda: send(self.device, "/bench/questions", at(text="Why bubbles?")),
            "bench_notebook": lambda: self.device.get("/api/bench/notebook"),
            "record_words": lambda: send(
                self.device, "/bench/words", {"id": str(uuid.uuid4()), "part": "conclusion", "text": "It is low."}
            ),
            "words_versions": lambda: self.device.get("/api/bench/words/conclusion"),
            "hand_in": lambda: send(self.device, "/bench/hand-in", {"id": str(uuid.uuid4())}),
            "group_package": lambda: SimpleNamespace(content=unpacked(self.device.get("/api/bench/package.zip").content)),
            "record_actual": lambda: send(self.device, "/bench/actuals", at(text="19 °C")),
            "record_claim": lambda: send(self.device, "/bench/claims", self.claim("bridge")),
            "record_own_test": lambda: send(
                self.device,
                f"/bench/claims/{uuid.uuid4()}/tests",
                {"id": str(uuid.uuid4()), "test": "copper:traces", "before": "0.9", "after": "1"},
            ),
            "record_meant": lambda: send(
                self.device,
                f"/bench/claims/{uuid.uuid4()}/meant",
                {"id": str(uuid.uuid4()), "belief": "more_acid", "yes": False},
            ),
            "record_photo": lambda: photo,
            "photo": lambda: self.device.get(f"/api/photos/{uuid.uuid4()}"),
            "remove_photo": lambda: self.device.delete(f"/api/photos/{photo.json()['id']}"),
            "preview_trace": lambda: self.device.post("/api/bench/traces/preview", {"file": file(trace)}),
            "record_pack": lambda: send(self.device, "/bench/packs", {"id": pack, "load": "led-red"}),
            "record_pack_entry": lambda: send(
                self.device,
                "/bench/pack-entries",
                {"id": str(uuid.uuid4()), "pack_id": pack, "kind": "alone", "position": 1, "text": "1.1", "unit": "V"},
            ),
            "record_chain_entry": lambda: send(
                self.device,
                "/bench/chain-entries",
                {"id": str(uuid.uuid4()), "chain_id": str(self.chain.id), "kind": "seen", "text": "dark"},
            ),
            "record_run_file": lambda: self.device.post(
                "/api/bench/run-files",
                {"id": str(uuid.uuid4()), "pack_id": pack, "file": file(b"t_s,volts_v\n0,0.5\n10,0.4\n")},
            ),
            "pack_run": lambda: self.device.get(f"/api/packs/{pack}/run"),
            "bench_packs": lambda: self.device.get("/api/bench/packs"),
            "record_trace": lambda: self.device.post("/api/bench/traces", at(file=file(trace))),
        }
        found = {
            operation.operation_id
            for _, router in api._routers
            for view in router.path_operations.values()
            for operation in view.operations
            if any(isinstance(auth_callback, GroupAuth) for auth_callback in operation.auth_callbacks)
        }
        self.assertEqual(found, set(asks), "an endpoint of groups is not looked at here")
        return {name: ask() for name, ask in asks.items()}

    def leaks(self):
        """The endpoints one of whose numbers is Knot's, to what can be read off a page."""
        theirs = [float(text) for text in THEIRS]
        theirs += [abs(v - float(own)) for v in theirs for own in OWN]  # by how much they lie apart gives it away too
        return {
            name
            for name, answer in self.answers().items()
            if any(abs(abs(number) - v) < LIKE_V for number in numbers_in(json.loads(answer.content)) for v in theirs)
        }

    def read_own(self):
        for text in OWN:  # far off, turned round, jumping: the checks have much to say
            self.assertEqual(send(self.device, "/bench/readings", self.own(text)).status_code, 200)

    def test_before_anything_is_shown_no_answer_has_a_number_of_another_group(self):
        self.assertEqual(self.leaks(), set())
        self.read_own()
        self.assertEqual(self.leaks(), set())
        self.assertTrue(self.device.get("/api/bench").json()["cells"][self.cell.position - 1]["findings"])

    def test_claims_alone_show_no_class_value_and_are_weighed_on_the_groups_own(self):
        self.read_own()
        release(actor=self.ada, lab_id=self.lab.id, parts=["claims"])
        for cause in ("leads", "bridge", "offset", "film", "acid"):
            send(self.device, "/bench/claims", self.claim(cause))
        self.assertEqual(self.leaks(), set())
        verdicts = {claim["cause"]: claim for claim in self.device.get("/api/bench/claims").json()["claims"]}
        self.assertEqual(verdicts["leads"]["verdict"], "cannot_tell")
        shown = as_teacher(self.ada).get(f"/api/labs/{self.lab.id}/claims").json()["claims"]
        self.assertIn("the other groups", next(one for one in shown if one["cause"] == "leads")["says"])

    def test_values_are_shown_once_the_teacher_shows_them_and_the_group_has_its_own_and_covered_again_after(self):
        mine = as_teacher(self.ada)
        show = lambda on: send(mine, f"/labs/{self.lab.id}/show-values", {"on": on})  # noqa: E731
        show(True)
        self.assertEqual(self.leaks(), set(), "shown before the group has its own")
        self.read_own()
        self.assertIn("bench", self.leaks())
        show(False)
        self.assertEqual(self.leaks(), set(), "not covered again")

    def test_compare_and_explain_are_shown_with_their_release_and_withdrawn_with_it(self):
        self.read_own()
        release(actor=self.ada, lab_id=self.lab.id, parts=["compare"])
        self.assertEqual(self.leaks(), {"bench_compare", "bench_notebook"})
        release(actor=self.ada, lab_id=self.lab.id, parts=[])
        self.assertEqual(self.leaks(), set())

    def test_explain_shows_a_cell_only_to_who_has_read_it_while_the_lab_is_open(self):
        release(actor=self.ada, lab_id=self.lab.id, parts=["explain"])
        answers = self.answers()
        self.assertEqual((answers["explain"].status_code, answers["explain"].json()["code"]), (403, "own_first"))
        self.assertEqual(self.leaks(), set())
        self.read_own()
        self.assertEqual(self.answers()["explain"].status_code, 200)
        release(actor=self.ada, lab_id=self.lab.id, parts=[])
        refused = self.answers()
        self.assertEqual([refused[name].status_code for name in ("explain", "accounts", "what_if")], [403] * 3)
