"""Labs: making, opening, closing, and who sees them."""

import uuid
from dataclasses import asdict
from datetime import date

from django.test import Client, TestCase

from galvanic.planning.schedule import Steps
from server.base.problems import Problem
from server.labs.models import Lab, PlannedCell
from server.labs.opening import sign_off
from server.labs.policy import sheet_of
from server.labs.services import tidy_names
from server.tests.support import TITLE, as_group, as_teacher, cell_of, group_of, lab_of, record, send, teacher

PLAN = {
    "title": "Which plate is negative?",
    "date": "2026-05-04",
    "minutes": 45,
    "electrodes": ["zinc", "copper", "tin"],
    "electrolytes": ["rhubarb-juice"],
    "groups": ["Tern", "Knot"],
}


class Making(TestCase):
    def setUp(self):
        self.client = as_teacher(teacher())

    def test_a_lab_has_its_groups_pins_cells_notes_and_cautions(self):
        answer = send(self.client, "/labs", PLAN)
        self.assertEqual(answer.status_code, 201)
        made = answer.json()
        self.assertEqual([g["name"] for g in made["groups"]], ["Tern", "Knot"])
        self.assertEqual([c["short"] for c in made["groups"][0]["cells"]][0], "Zn | Cu")
        self.assertTrue(made["groups"][0]["cells"][0]["shared"])
        self.assertEqual((made["state"], made["stage"], made["join_code"]), ("draft", "plan", None))
        self.assertEqual(made["notes"][0]["code"], "fits")
        self.assertIn("school’s own rules", made["cautions"][-1])

    def test_a_preview_shows_the_same_cells_and_keeps_nothing(self):
        shown = send(self.client, "/labs/preview", PLAN).json()["hands"]
        self.assertEqual(Lab.objects.count(), 0)
        made = send(self.client, "/labs", PLAN).json()["groups"]
        self.assertEqual([[c["short"] for c in hand] for hand in shown], [[c["short"] for c in g["cells"]] for g in made])

    def test_faulty_plans_are_refused_with_field_and_sentence_and_keep_nothing(self):
        for change, field in [
            ({"electrodes": ["zinc"]}, "electrodes"),
            ({"electrodes": ["zinc", "zinc"]}, "electrodes"),
            ({"electrodes": ["zinc", "unobtainium"]}, "electrodes"),
            ({"electrolytes": []}, "electrolytes"),
            ({"groups": []}, "groups"),
            ({"groups": [" ", ""]}, "groups"),
            ({"groups": ["Tern", "tern "]}, "groups"),
            ({"groups": [f"g{i}" for i in range(41)]}, "groups"),
            ({"groups": ["x" * 41]}, "groups"),
            ({"title": "  "}, "title"),
            ({"title": "x" * 121}, "title"),
            ({"minutes": 5}, "minutes"),
            ({"date": "yesterday"}, "date"),
        ]:
            with self.subTest(change=change):
                answer = send(self.client, "/labs", PLAN | change)
                self.assertEqual(answer.status_code, 422)
                self.assertEqual(answer.json()["field"], field)
                self.assertRegex(answer.json()["message"], r"^[A-Z“].*\.$")
        self.assertEqual((Lab.objects.count(), PlannedCell.objects.count()), (0, 0))

    def test_something_that_is_not_json_gets_a_plain_answer(self):
        answer = self.client.post("/api/labs", "not json", content_type="application/json")
        self.assertEqual((answer.status_code, answer.json()["code"]), (400, "bad_request"))

    def test_names_are_tidied(self):
        self.assertEqual(tidy_names(["  Black   tern ", "", "Knot"]), ["Black tern", "Knot"])
        with self.assertRaises(Problem):
            tidy_names([])


class OpeningAndClosing(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.client = as_teacher(self.ada)
        self.lab = lab_of(self.ada, opened=False)
        sign_off(actor=self.ada, lab_id=self.lab.id, fingerprint=sheet_of(self.lab).fingerprint)

    def post(self, action):
        return send(self.client, f"/labs/{self.lab.id}/{action}")

    def test_opening_gives_a_code_that_stays_through_closing_and_opening_again(self):
        code = self.post("open").json()["join_code"]
        self.assertRegex(code, r"^[A-Z]+-\d{3}$")
        self.assertEqual(self.post("open").json()["join_code"], code)
        closed = self.post("close").json()
        self.assertEqual((closed["state"], closed["stage"], closed["join_code"]), ("closed", "compare", None))
        self.assertEqual(self.post("open").json()["join_code"], code)

    def test_a_draft_cannot_be_closed(self):
        answer = self.post("close")
        self.assertEqual((answer.status_code, answer.json()["code"]), (409, "not_open"))

    def test_the_list_counts_groups_and_readings_that_count(self):
        self.post("open")
        cell = group_of(self.lab).cells.first()
        wrong = record(cell, "94")
        record(cell, "0.94", corrects=wrong.id, reason="typed it wrong")
        line = self.client.get("/api/labs/list").json()[0]
        self.assertEqual((line["title"], line["group_count"], line["reading_count"]), (TITLE, 2, 1))

    def test_the_list_has_the_newest_day_first(self):
        lab_of(self.ada, title="Older", date=date(2025, 1, 1))
        lab_of(self.ada, title="Newer", date=date(2027, 1, 1))
        self.assertEqual([line["title"] for line in self.client.get("/api/labs/list").json()], ["Newer", TITLE, "Older"])

    def test_lists_need_the_same_number_of_queries_whatever_their_length(self):
        for path in ("/api/labs/list", f"/api/labs/{self.lab.id}", f"/api/labs/{self.lab.id}/board"):
            with self.subTest(path):
                self.client.get(path)
                # session, teacher; then the list and its readings; or own materials and lab, groups, cells, stock, signature,
                # last change; or the board's seven
                with self.assertNumQueries(9 if path.endswith("board") else 6 if path.endswith("list") else 9):
                    self.client.get(path)
        lab_of(self.ada, groups=[f"g{i}" for i in range(12)])
        with self.assertNumQueries(6):
            self.client.get("/api/labs/list")


class Scoping(TestCase):
    """Every endpoint of a lab: another teacher, a group and a stranger get nothing."""

    READS = ("", "/board", "/predictions", "/compare", "/kit", "/kit.csv", "/safety", "/cards")
    WRITES: tuple[tuple[str, str, dict[str, object]], ...] = (
        ("post", "/open", {}),
        ("post", "/close", {}),
        ("post", "/plan", {"kind": "fill"}),
        ("post", "/safety", {"fingerprint": "x"}),
        ("post", "/copy", {"title": "Mine now", "date": "2026-05-04"}),
        ("put", "", PLAN),
        ("put", "/times", {"minutes": 60, "steps": asdict(Steps())}),
    )

    def setUp(self):
        self.lab = lab_of(teacher("ada"))
        record(group_of(self.lab).cells.first())

    def answers(self, client):
        base = f"/api/labs/{self.lab.id}"
        yield from (client.get(base + path) for path in self.READS)
        for method, path, body in self.WRITES:
            yield getattr(client, method)(base + path, body, content_type="application/json")

    def test_another_teacher_sees_and_changes_nothing(self):
        bob = as_teacher(teacher("bob"))
        for answer in self.answers(bob):
            self.assertEqual((answer.status_code, answer.json()["code"]), (404, "not_found"))
        self.assertEqual(bob.get("/api/labs/list").json(), [])
        self.lab.refresh_from_db()
        self.assertEqual(self.lab.state, "open")

    def test_a_lab_that_does_not_exist_looks_like_one_of_somebody_else(self):
        bob = as_teacher(teacher("bob"))
        missing = bob.get(f"/api/labs/{uuid.uuid4()}")
        self.assertEqual(missing.json(), bob.get(f"/api/labs/{self.lab.id}").json())

    def test_a_group_and_a_stranger_are_no_teachers(self):
        for client in (as_group(group_of(self.lab)), Client()):
            for answer in [*self.answers(client), client.get("/api/labs/list"), send(client, "/labs", PLAN)]:
                self.assertEqual(answer.status_code, 401)
                self.assertEqual(answer.json()["code"], "sign_in")

    def test_where_streams_would_hang_the_page_is_told_to_look_by_itself(self):
        self.assertEqual(as_teacher(self.lab.owner).get(f"/api/labs/{self.lab.id}/events").status_code, 204)

    def test_the_catalogue_is_for_all(self):
        shown = Client().get("/api/materials").json()
        graphite = next(e for e in shown["electrodes"] if e["key"] == "graphite")
        self.assertIsNone(graphite["table_v"])


class Kept(TestCase):
    """What is kept for years has to be found again."""

    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada)
        self.desk = as_teacher(self.ada)

    def listed(self, client=None):
        return (client or self.desk).get("/api/labs/list").json()[0]

    def put(self, what, body, client=None):
        return (client or self.desk).put(f"/api/labs/{self.lab.id}/{what}", body, content_type="application/json")

    def test_tags_are_tidied_and_shown_in_the_list(self):
        self.assertEqual(self.put("tags", {"tags": [" year 10 ", "fruit", "fruit", " "]}).status_code, 200)
        self.assertEqual(self.listed()["tags"], ["year 10", "fruit"])
        for tags in (["x" * 31], [str(k) for k in range(9)]):
            self.assertEqual(self.put("tags", {"tags": tags}).json()["code"], "tags")
        self.assertEqual(self.listed()["tags"], ["year 10", "fruit"])

    def test_a_lab_is_put_away_and_taken_back_but_not_while_groups_work_in_it(self):
        self.assertEqual(self.put("archive", {"away": True}).status_code, 409)
        send(self.desk, f"/labs/{self.lab.id}/close")
        self.put("archive", {"away": True})
        self.assertTrue(self.listed()["away"])
        self.put("archive", {"away": False})
        self.assertFalse(self.listed()["away"])

    def test_a_copy_whose_title_is_taken_is_numbered_so_that_lists_tell_them_apart(self):
        lab = lab_of(self.ada, title="Cells")
        titles = [
            send(self.desk, f"/labs/{lab.id}/copy", {"title": "Cells", "date": "2026-06-01", "anew": anew}).json()["title"]
            for anew in (False, True, False)
        ]
        self.assertEqual(titles, ["Cells (2)", "Cells (3)", "Cells (4)"])
        other = lab_of(teacher("bob"), title="Bob's")
        copied = send(as_teacher(other.owner), f"/labs/{other.id}/copy", {"title": "Cells", "date": "2026-06-01"}).json()
        self.assertEqual(copied["title"], "Cells")  # another teacher's list is another list
        long = "x" * 120
        lab_of(self.ada, title=long)
        again = send(self.desk, f"/labs/{lab.id}/copy", {"title": long, "date": "2026-06-01"}).json()["title"]
        self.assertEqual((len(again), again[-4:]), (119, " (2)"))

    def test_a_copy_planned_anew_is_without_what_was_changed_by_hand(self):
        draft = lab_of(self.ada, opened=False, title="Draft")
        cell = draft.groups.first().cells.exclude(shared=True).first()
        PlannedCell.objects.filter(id=cell.id).update(pinned=True)
        made = [
            send(self.desk, f"/labs/{draft.id}/copy", {"title": "Copy", "date": "2026-06-01", "anew": anew}).json()
            for anew in (False, True)
        ]
        pinned = [sum(one["pinned"] for group in lab["groups"] for one in group["cells"]) for lab in made]
        self.assertEqual(pinned, [1, 0])

    def test_what_a_lab_found_is_there_to_be_drawn_small(self):
        self.assertEqual(self.desk.get(f"/api/labs/{self.lab.id}/glance").json()["rungs"], [])
        for cell in PlannedCell.objects.filter(group__lab=self.lab):
            record(cell, "0.52")
        found = self.desk.get(f"/api/labs/{self.lab.id}/glance").json()
        self.assertEqual((found["electrolyte"], len(found["rungs"]) > 1), ("rhubarb-juice", True))

    def test_a_ladder_of_two_plates_is_drawn_and_one_of_one_is_not(self):
        lab = lab_of(self.ada, electrodes=["zinc", "copper"], groups=["Tern"])
        for nth, cell in enumerate(PlannedCell.objects.filter(group__lab=lab)):
            record(cell, f"0.9{nth}")
        shown = self.desk.get(f"/api/labs/{lab.id}/glance").json()
        self.assertEqual((len(shown["rungs"]), shown["electrolyte"]), (2, "rhubarb-juice"))

    def test_what_waits_is_counted(self):
        device, cell = as_group(group_of(self.lab)), cell_of(group_of(self.lab))
        send(device, "/bench/questions", {"id": str(uuid.uuid4()), "cell_id": str(cell.id), "text": "Why?"})
        self.assertEqual((self.listed()["questions"], self.listed()["notebooks"]), (1, 0))

    def test_strangers_neither_tag_nor_put_away_nor_glance(self):
        eve = as_teacher(teacher("eve"))
        self.assertEqual(self.put("tags", {"tags": ["mine"]}, eve).status_code, 404)
        self.assertEqual(self.put("archive", {"away": True}, eve).status_code, 404)
        self.assertEqual(eve.get(f"/api/labs/{self.lab.id}/glance").status_code, 404)
