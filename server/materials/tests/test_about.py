"""The cupboard: what is known of each material, and what labs to come are short of."""

from datetime import timedelta

from django.test import TestCase
from django.utils import timezone

from galvanic.planning.about import about
from galvanic.reference.additions import additions
from galvanic.reference.catalogue import electrodes, electrolytes
from server.labs.tests.test_labs import PLAN
from server.tests.support import as_group, as_teacher, group_of, lab_of, send, teacher


class Known(TestCase):
    def test_every_plate_says_how_it_is_prepared_and_every_number_where_it_is_from(self):
        for key in (*electrodes(), *electrolytes(), *additions()):
            found = about(key)
            self.assertTrue(found.what, key)
            self.assertTrue(all(fact.source for fact in found.facts), key)
            self.assertTrue(found.use, key)
            if key in electrodes():
                self.assertTrue(found.prepare, key)

    def test_a_plate_has_its_table_value_with_the_handbook_and_its_hazard(self):
        desk = as_teacher(teacher())
        found = desk.get("/api/materials/magnesium/about").json()
        value = next(fact for fact in found["facts"] if fact["what"].startswith("standard potential"))
        self.assertTrue(value["value"].startswith("\u22122.37"), value)
        self.assertIn("CRC Handbook", value["source"])
        self.assertTrue(any("in lemon juice" in sentence for sentence in found["use"]))
        self.assertTrue(found["hazards"])
        self.assertEqual(desk.get("/api/materials/unobtainium/about").status_code, 404)

    def test_it_is_for_teachers_and_an_own_material_for_its_own(self):
        desk, other = as_teacher(teacher()), as_teacher(teacher("bob"))
        body = {"base": "lemon-juice", "steps": [{"what": "table-salt", "amount": 2, "unit": "g"}], "name": "Salty"}
        key = send(desk, "/materials/made", body).json()["key"]
        self.assertEqual(desk.get(f"/api/materials/{key}/about").json()["what"], "lemon juice 100 mL + table salt 2 g")
        self.assertEqual(other.get(f"/api/materials/{key}/about").status_code, 404)
        lab = lab_of(teacher("cy"))
        self.assertEqual(as_group(group_of(lab)).get("/api/materials/zinc/about").status_code, 401)


class Short(TestCase):
    def setUp(self):
        self.desk = as_teacher(teacher())

    def plan(self, days, **more):
        on = (timezone.localdate() + timedelta(days=days)).isoformat()
        plan = PLAN | {"electrodes": ["zinc", "copper"], "groups": ["Tern", "Knot", "Ruff"], "date": on} | more
        self.assertEqual(send(self.desk, "/labs", plan).status_code, 201)

    def short(self):
        return {one["key"]: one for one in self.desk.get("/api/labs/short").json()}

    def count(self, key, count):
        self.desk.put(f"/api/shelf/{key}", {"count": count, "price": None}, content_type="application/json")

    def test_plates_come_back_and_liquids_are_used_up(self):
        self.plan(1, title="Monday")
        self.plan(2, title="Tuesday")
        self.plan(-3, title="Last week")
        liquid = PLAN["electrolytes"][0]
        self.assertEqual(self.short(), {})  # nothing is counted: enough
        self.count("zinc", 2)
        self.count("copper", 9)
        self.count(liquid, 0.1)
        found = self.short()
        self.assertEqual(set(found), {"zinc", liquid})
        self.assertEqual((found["zinc"]["needed"], found["zinc"]["labs"]), (3.0, ["Monday", "Tuesday"]))
        self.assertGreater(found[liquid]["needed"], 0.1)
        alone = found[liquid]["needed"] / 2.0
        self.count(liquid, alone * 1.5)
        self.assertIn(liquid, self.short())
        self.assertEqual(as_teacher(teacher("bob")).get("/api/labs/short").json(), [])
        with self.assertNumQueries(6):  # session, teacher, own materials, labs, cells, shelf
            self.desk.get("/api/labs/short")
