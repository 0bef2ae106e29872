"""Planning: revising a draft, edits by hand, minutes, copies, and what may not be changed any more."""

from dataclasses import asdict
from datetime import date

from django.test import TestCase

from galvanic.cells import Cell
from galvanic.planning.schedule import Steps
from server.entries.counting import reading_counts
from server.labs.models import Lab, PlannedCell
from server.labs.tests.test_labs import PLAN
from server.materials.models import Shelf
from server.tests.support import as_teacher, group_of, lab_of, opened_lab, record, send, teacher

KEYS = ("negative", "electrolyte", "positive", "condition")
WIDE = PLAN | {
    "minutes": 60,
    "electrodes": ["magnesium", "zinc", "steel", "tin", "copper"],
    "groups": ["Tern", "Knot", "Plover", "Curlew"],
}


def cell_in(made, count):
    """The first cell that is not shared and is measured by so many groups."""
    found = next(c for c in made["plan"]["counts"] if c["count"] == count and not c["shared"])
    return {key: found[key] for key in ("negative", "electrolyte", "positive", "condition")}


class Planning(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.client = as_teacher(self.ada)
        self.made = send(self.client, "/labs", WIDE).json()
        self.path = f"/labs/{self.made['id']}"

    def edit(self, kind, status=200, **more):
        answer = send(self.client, f"{self.path}/plan", {"kind": kind} | more)
        self.assertEqual(answer.status_code, status, answer.content)
        return answer.json()

    def revise(self, plan):
        return self.client.put(f"/api{self.path}", plan, content_type="application/json").json()

    def shared(self, lab):
        """The shared cell by the grid, by the lanes (each group's), and by what every lane has."""
        grid = [Cell(*(c[key] for key in KEYS)).short for c in lab["plan"]["counts"] if c["shared"]]
        lanes = {c["short"] for g in lab["groups"] for c in g["cells"] if c["shared"]}
        everywhere = all(any(c["shared"] for c in g["cells"]) for g in lab["groups"])
        return grid, lanes, everywhere

    def count(self, lab, cell):
        return next(c for c in lab["plan"]["counts"] if all(c[key] == cell[key] for key in cell))

    def test_the_plan_is_sent_whole(self):
        plan = self.made["plan"]
        self.assertEqual(plan["order"], ["magnesium", "zinc", "steel", "tin", "copper"])
        self.assertEqual(len(plan["counts"]), 10)
        self.assertEqual(plan["places"], 7)
        self.assertEqual(len(plan["lanes"]), 4)
        self.assertEqual(plan["lanes"][0][0], {"kind": "start", "begin": 0.0, "end": 6.0, "cell": None})
        self.assertLessEqual(plan["needed"], 60)
        self.assertTrue(0.5 < plan["nearness"] <= 1.0)
        self.assertEqual(self.made["settings"]["steps"]["settle"], 2.0)
        self.assertRegex(self.made["code"], r"^[A-Z]+-\d{3}$")
        self.assertFalse(self.made["signed"])

    def test_one_group_more_or_fewer_is_kept_and_said(self):
        cell = cell_in(self.made, 2)
        more = self.edit("more", cell=cell)
        self.assertEqual(self.count(more["lab"], cell), self.count(self.made, cell) | {"count": 3, "wished": True})
        self.assertEqual(len(more["said"]), 1)
        fewer = self.edit("fewer", cell=cell)
        self.assertEqual(self.count(fewer["lab"], cell)["count"], 2)
        again = self.client.get(f"/api{self.path}").json()
        self.assertEqual(again["groups"], fewer["lab"]["groups"])
        self.assertFalse(self.count(self.edit("unwish", cell=cell)["lab"], cell)["wished"])

    def test_a_cell_moves_to_another_group_and_is_pinned_there_through_a_new_plan(self):
        groups = self.made["groups"]
        cell = next(
            c for c in groups[0]["cells"] if not c["shared"] and c["short"] not in [x["short"] for x in groups[3]["cells"]]
        )
        keys = {key: cell[key] for key in ("negative", "electrolyte", "positive", "condition")}
        self.edit("move", cell=keys, group=0, to=3)
        anew = self.edit("anew")["lab"]
        moved = next(c for c in anew["groups"][3]["cells"] if c["short"] == cell["short"])
        self.assertTrue(moved["pinned"])
        self.edit("more", cell=cell_in(anew, 2))
        self.assertIn("The plan is made anew around 2 pinned or wished cells.", self.edit("anew")["said"][0])
        self.assertFalse(self.edit("pin", cell=keys, group=3)["lab"]["groups"][3]["cells"] == anew["groups"][3]["cells"])

    def test_a_pin_is_said_when_it_is_set_and_when_it_is_taken_off(self):
        pinned = next(c for c in self.made["groups"][0]["cells"] if not c["shared"])
        name, keys = self.made["groups"][0]["name"], {key: pinned[key] for key in KEYS}
        self.assertEqual(self.edit("pin", cell=keys, group=0)["said"], [f"{pinned['short']} stays with {name}."])
        self.assertEqual(self.edit("pin", cell=keys, group=0)["said"], [f"{pinned['short']} may move from {name}."])

    def test_a_banned_cell_is_gone_for_good(self):
        cell = cell_in(self.made, 2)
        self.assertEqual(self.count(self.edit("ban", cell=cell)["lab"], cell)["count"], 0)
        self.assertEqual(self.count(self.edit("anew")["lab"], cell)["count"], 0)

    def test_looking_for_a_better_plan_never_gives_a_worse_one(self):
        before = self.made["plan"]["nearness"]
        for number in (1, 2):
            self.assertGreaterEqual(self.edit("improve", round=number)["lab"]["plan"]["nearness"], before - 1e-9)

    def test_what_cannot_be_changed_says_why_and_changes_nothing(self):
        before = list(PlannedCell.objects.values_list("negative", "positive", "group__name").order_by("id"))
        shared = next(c for c in self.made["plan"]["counts"] if c["shared"])
        keys = {key: shared[key] for key in ("negative", "electrolyte", "positive", "condition")}
        self.assertEqual(self.edit("more", 409, cell=keys)["code"], "cannot_change")
        self.assertEqual(self.edit("more", 422)["code"], "no_cell")
        self.assertEqual(self.edit("more", 422, cell=keys | {"negative": "cheese"})["code"], "no_cell")
        self.assertEqual(self.edit("move", 422, cell=cell_in(self.made, 2))["code"], "no_group")
        self.assertEqual(self.edit("dance", 422)["field"], "kind")
        self.assertEqual(before, list(PlannedCell.objects.values_list("negative", "positive", "group__name").order_by("id")))

    def test_a_longer_start_is_said_and_what_to_drop_and_the_cells_stay(self):
        times = {"minutes": 60, "steps": asdict(Steps(late=10))}
        late = self.client.put(f"/api{self.path}/times", times, content_type="application/json").json()
        self.assertEqual([g["cells"] for g in late["groups"]], [g["cells"] for g in self.made["groups"]])
        note = late["notes"][0]
        self.assertEqual((note["code"], note["action"]["kind"]), ("too_long", "drop"))
        done = self.edit("drop", cell=note["action"]["cell"], group=note["action"]["group"])
        self.assertIn("free place", done["said"][0])
        self.assertLessEqual(self.edit("anew")["lab"]["plan"]["needed"], 60)

    def test_revising_keeps_pins_that_still_make_sense_and_the_pins_of_groups(self):
        pin = {g["name"]: g["pin"] for g in self.made["groups"]}
        changed = WIDE | {"groups": ["Curlew", "Tern", "Dunlin"], "electrodes": ["zinc", "tin", "copper", "nickel"]}
        revised = self.revise(changed)["lab"]
        self.assertEqual([g["name"] for g in revised["groups"]], ["Curlew", "Tern", "Dunlin"])
        self.assertEqual([g["pin"] for g in revised["groups"]][:2], [pin["Curlew"], pin["Tern"]])
        plates = {p for g in revised["groups"] for c in g["cells"] for p in (c["negative"], c["positive"])}
        self.assertEqual(plates, {"zinc", "tin", "copper", "nickel"})

    def test_a_form_that_is_older_than_another_windows_change_takes_nothing_back_unasked(self):
        opened = self.made["mark"]
        first = self.revise(WIDE | {"minutes": 75, "seen": opened})["lab"]
        self.assertEqual(first["settings"]["minutes"], 75)
        self.assertEqual(self.revise(WIDE | {"minutes": 75, "seen": opened})["lab"]["mark"], first["mark"], "pressed twice")
        other = WIDE | {"title": "The other window", "seen": opened}
        self.assertEqual(self.revise(other)["code"], "changed_elsewhere")
        self.assertEqual(self.client.get(f"/api{self.path}").json()["settings"]["minutes"], 75)
        self.assertEqual(self.revise(other | {"seen": ""})["lab"]["title"], "The other window")

    def test_scarce_plates_limit_the_groups(self):
        Shelf.objects.create(owner=self.ada, material="magnesium", count=2)
        anew = self.edit("anew")["lab"]
        holders = [g for g in anew["groups"] if any(c["negative"] == "magnesium" for c in g["cells"])]
        self.assertLessEqual(len(holders), 2)
        self.assertIn("scarce", [n["code"] for n in anew["notes"]])

    def test_the_shared_cell_stays_while_the_cupboard_runs_short_until_a_new_plan_moves_it_and_says_why(self):
        self.assertEqual(self.shared(self.made), (["Zn | Cu"], {"Zn | Cu"}, True))
        Shelf.objects.create(owner=self.ada, material="zinc", count=3)
        short = self.client.get(f"/api{self.path}").json()
        self.assertEqual(self.shared(short), (["Zn | Cu"], {"Zn | Cu"}, True))
        note = next(n for n in short["notes"] if n["code"] == "scarce_shared")
        self.assertIn("Zn | Cu goes to all 4 groups", note["text"])
        more = self.edit("more", cell=cell_in(self.made, 2))
        self.assertEqual(self.shared(more["lab"]), (["Zn | Cu"], {"Zn | Cu"}, True))
        anew = self.edit(note["action"]["kind"])
        grid, lanes, everywhere = self.shared(anew["lab"])
        self.assertEqual((set(grid), everywhere), (lanes, True))
        self.assertNotIn("Zn | Cu", grid)
        self.assertIn("instead of Zn | Cu: there is zinc for only 3 of 4 groups.", " ".join(anew["said"]))

    def test_what_a_revision_moves_is_said_before_and_after_it_is_kept(self):
        cell = cell_in(self.made, 2)
        self.edit("more", cell=cell)
        pinned = next(c for c in self.made["groups"][0]["cells"] if not c["shared"] and c["negative"] == "magnesium")
        self.edit("pin", cell={key: pinned[key] for key in KEYS}, group=0)
        less = WIDE | {"electrodes": ["steel", "tin", "copper"]}
        ahead = send(self.client, f"/labs/preview?lab={self.made['id']}", less).json()
        self.assertEqual(self.shared(self.client.get(f"/api{self.path}").json())[0], ["Zn | Cu"], "nothing is kept yet")
        done = self.revise(less)
        self.assertEqual(done["said"], ahead["said"])
        said = " ".join(done["said"])
        self.assertIn("instead of Zn | Cu: Zn | Cu does not belong to the plan any more.", said)
        self.assertIn(f"{pinned['short']} of {self.made['groups'][0]['name']}", said)
        self.assertIn("The number you asked for went with its cell", said)
        self.assertIsNone(done["lab"]["last_change"])

    def test_changes_are_taken_back_one_after_the_other(self):
        cell = cell_in(self.made, 2)
        self.edit("more", cell=cell)
        self.edit("ban", cell=cell)
        now = self.edit("anew")["lab"]
        self.assertIn("The plan is made anew", now["last_change"])
        for _ in range(3):
            done = self.edit("undo")
            self.assertIn("Taken back:", done["said"][0])
        self.assertEqual(done["lab"]["plan"], self.made["plan"])
        self.assertEqual(
            [[(c["short"], c["pinned"]) for c in g["cells"]] for g in done["lab"]["groups"]],
            [[(c["short"], c["pinned"]) for c in g["cells"]] for g in self.made["groups"]],
        )
        self.assertIsNone(done["lab"]["last_change"])
        self.assertEqual(self.edit("undo", 409)["code"], "cannot_change")

    def test_wishes_are_cleared_at_once_and_pins_stay(self):
        self.edit("more", cell=cell_in(self.made, 2))
        self.edit("ban", cell=cell_in(self.client.get(f"/api{self.path}").json(), 2))
        cleared = self.edit("clear")
        self.assertFalse(any(c["wished"] for c in cleared["lab"]["plan"]["counts"]))
        self.assertIn("free again", cleared["said"][0])
        self.assertEqual(self.edit("clear", 409)["code"], "cannot_change")
        self.assertTrue(any(c["wished"] for c in self.edit("undo")["lab"]["plan"]["counts"]))

    def test_nobody_previews_in_place_of_another_teachers_draft(self):
        eve = as_teacher(teacher("eve"))
        self.assertEqual(send(eve, f"/labs/preview?lab={self.made['id']}", WIDE).status_code, 404)

    def test_a_lab_is_renamed_in_any_state_and_only_by_its_teacher(self):
        lab = lab_of(self.ada)

        def put(client, title):
            return client.put(f"/api/labs/{lab.id}/title", {"title": title}, content_type="application/json")

        self.assertEqual(put(self.client, "  Year 9,  Tuesday ").status_code, 200)
        self.assertEqual(Lab.objects.get(id=lab.id).title, "Year 9, Tuesday")
        self.assertEqual(put(self.client, " ").json()["field"], "title")
        self.assertEqual(put(as_teacher(teacher("eve")), "Mine").status_code, 404)

    def test_lead_is_spoken_of_while_the_lab_is_still_being_set_up(self):
        with_lead = WIDE | {"electrodes": ["lead", "zinc", "copper"]}
        notes = send(self.client, "/labs/preview", with_lead).json()["safety"]
        self.assertEqual((notes[0]["code"], notes[0]["tone"]), ("refused-lead-poison", "wrong"))

    def test_conditions_are_planned_and_need_two_settings(self):
        spaced = PLAN | {"varies": "spacing", "conditions": ["1 cm apart", "4 cm apart"]}
        made = send(self.client, "/labs", spaced).json()
        self.assertEqual({c["condition"] for g in made["groups"] for c in g["cells"]}, {"spacing 1 cm", "spacing 4 cm"})
        self.assertEqual(send(self.client, "/labs", spaced | {"conditions": ["1 cm apart"]}).json()["field"], "conditions")
        one = send(self.client, "/labs", PLAN | {"conditions": ["40 °C", " "]}).json()
        self.assertEqual(one["settings"]["conditions"], ["temperature 40 °C"])
        self.assertEqual({c["level"]["text"] for g in one["groups"] for c in g["cells"]}, {"40 °C"})
        self.assertEqual(send(self.client, "/labs", PLAN | {"conditions": [" "]}).json()["settings"]["conditions"], [""])

    def test_every_variable_of_the_core_can_be_changed_on_purpose_and_its_card_says_how(self):
        start = self.client.get("/api/labs/start").json()
        self.assertGreaterEqual(len(start["variables"]), 20)
        for variable in start["variables"]:
            warm = PLAN | {"varies": variable["varies"], "conditions": variable["settings"][:3]}
            made = send(self.client, "/labs", warm)
            self.assertEqual(made.status_code, 201, (variable["name"], made.content))
            cells = [cell for group in made.json()["groups"] for cell in group["cells"]]
            self.assertEqual({cell["condition"] for cell in cells}, set(variable["settings"][:3]))
            self.assertTrue(all(cell["setting"] for cell in cells), variable["name"])
            self.assertIn(f"You change {variable['name']}", [note["title"] for note in made.json()["notes"]])
        own = send(self.client, "/labs", PLAN | {"varies": "own", "conditions": ["on the sill", "in the fridge"]})
        self.assertEqual(own.status_code, 201)

    def test_impossible_wishes_get_a_sentence(self):
        for change, status, said in [
            ({"minutes": 15}, 422, "Not one cell fits"), ({"steps": asdict(Steps()) | {"settle": 0, "prepare": 0, "read": 0, "rinse": 0}}, 422, "time"),
            ({"groups": ["Alone"], "minutes": 30}, 200, "One ladder needs more cells"),
        ]:  # fmt: skip
            answer = send(self.client, "/labs/preview", WIDE | change)
            self.assertEqual(answer.status_code, status, change)
            self.assertIn(said, answer.content.decode())

    def test_an_open_lab_keeps_its_plan_but_not_its_minutes(self):
        lab = Lab.objects.get(id=self.made["id"])
        opened_lab(self.ada, lab)
        self.assertEqual(self.edit("fill", 409)["code"], "not_a_draft")
        revised = self.client.put(f"/api{self.path}", WIDE, content_type="application/json")
        self.assertEqual((revised.status_code, revised.json()["code"]), (409, "not_a_draft"))
        times = {"minutes": 50, "steps": asdict(Steps(late=4))}
        answer = self.client.put(f"/api{self.path}/times", times, content_type="application/json")
        self.assertEqual(answer.json()["settings"]["minutes"], 50)

    def test_a_copy_has_the_same_cells_new_pins_and_nothing_measured(self):
        source = lab_of(self.ada)
        record(group_of(source).cells.first())
        answer = send(self.client, f"/labs/{source.id}/copy", {"title": "Next class", "date": "2026-06-01"})
        self.assertEqual(answer.status_code, 201)
        copy = answer.json()
        self.assertEqual((copy["title"], copy["state"], copy["signed"]), ("Next class", "draft", False))
        self.assertEqual(reading_counts([copy["id"]]), {})
        self.assertEqual(Lab.objects.get(id=copy["id"]).date, date(2026, 6, 1))
        old = self.client.get(f"/api/labs/{source.id}").json()
        for before, after in zip(old["groups"], copy["groups"], strict=True):
            self.assertEqual([c["short"] for c in before["cells"]], [c["short"] for c in after["cells"]])
        self.assertNotEqual(copy["code"], old["code"])
