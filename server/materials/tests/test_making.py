"""Liquids made by recipe and two solutions, through the API: first what they come to, then into a plan, a kit, a bench."""

import uuid

from django.test import TestCase

from server.labs.models import Lab
from server.labs.tests.test_labs import PLAN
from server.materials.models import OwnMaterial
from server.materials.own import materials_of
from server.tests.support import as_group, as_teacher, group_of, opened_lab, send, teacher

SALTED = {"base": "lemon-juice", "steps": [{"what": "table-salt", "amount": 2.0, "unit": "g"}]}
DANIELL = {
    "negative_side": {"salt": "zinc-sulfate", "mol_per_l": 1.0},
    "positive_side": {"salt": "copper-sulfate", "mol_per_l": 0.1},
    "bridge": "paper",
    "negative": "zinc",
    "positive": "copper",
}


class Made(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.desk = as_teacher(self.ada)

    def materials(self, client=None):
        return {
            electrolyte["key"]: electrolyte
            for electrolyte in (client or self.desk).get("/api/materials").json()["electrolytes"]
        }

    def test_before_it_is_kept_it_says_what_the_recipe_does_to_a_pair_of_plates(self):
        found = send(self.desk, "/materials/made/preview", SALTED | {"negative": "zinc", "positive": "copper"}).json()
        self.assertEqual(found["described"], "lemon juice 100 mL + table salt 2 g")
        self.assertAlmostEqual(found["chloride_mol_per_l"], 0.342, delta=0.03)
        before, after = found["foretold"]
        self.assertEqual((before["when"], after["when"], after["short"]), ("before", "after", "Zn | Cu"))
        self.assertGreater(after["short_a"], before["short_a"])  # salt conducts
        self.assertEqual(OwnMaterial.objects.count(), 0)

    def test_kept_it_is_a_liquid_like_any_other_with_its_recipe_in_the_kit(self):
        key = send(self.desk, "/materials/made", SALTED | {"name": "Lemon and salt"}).json()["key"]
        self.assertEqual(self.materials()[key]["recipe"], "lemon juice 100 mL + table salt 2 g")
        self.assertNotIn(key, self.materials(as_teacher(teacher("bob"))))
        self.assertEqual(self.desk.get("/api/materials/own").json()["electrolytes"], [])
        lab = send(self.desk, "/labs", PLAN | {"electrolytes": ["lemon-juice", key]}).json()
        kit = self.desk.get(f"/api/labs/{lab['id']}/kit").json()
        batch = next(one for one in kit["batches"] if one["electrolyte"] == key)
        amounts = {ingredient["name"]: (ingredient["amount"], ingredient["unit"]) for ingredient in batch["ingredients"]}
        litres = batch["volume_l"]
        self.assertAlmostEqual(amounts["table salt, NaCl"][0], 20.0 * litres, places=6)
        self.assertAlmostEqual(amounts["lemon juice"][0], 1000.0 * litres, places=6)

    def test_measured_in_both_liquids_a_pair_of_plates_is_compared_before_and_after(self):
        key = send(self.desk, "/materials/made", SALTED | {"name": "Lemon and salt"}).json()["key"]
        plan = {"electrodes": ["zinc", "copper"], "electrolytes": ["lemon-juice", key], "minutes": 60}
        plan |= {"groups": ["Tern", "Knot", "Ruff"], "repeats": 3, "short_circuit": True}
        lab = Lab.objects.get(id=send(self.desk, "/labs", PLAN | plan).json()["id"])
        with materials_of(self.ada):
            opened_lab(self.ada, lab)
        for n, group in enumerate(lab.groups.all()):
            device = as_group(group)
            for cell in device.get("/api/bench").json()["cells"]:
                by = -0.05 if cell["electrolyte"] == key else 0.0
                ids = {"cell_id": cell["id"], "red": "copper", "black": "zinc", "unit": "V", "id": str(uuid.uuid4())}
                send(device, "/bench/readings", ids | {"text": f"{0.95 + 0.02 * n + by + 0.001 * (n % 2):.3f}"})
        found = self.desk.get(f"/api/labs/{lab.id}/variables").json()["changed"]
        self.assertEqual([(one["name"], one["words"]) for one in found], [("what was added", ["before", "after"])])
        self.assertRegex(found[0]["notes"][0]["text"], r"\u22120\.05\d.V from before to after \(3 groups\)")
        self.assertEqual([level["at"] for level in found[0]["model"]], [0.0, 1.0])

    def test_amounts_are_understood_as_they_are_written(self):
        for what, amount, unit, more, said in (
            ("table-salt", 3.5, "mass %", {}, "water 100 mL + table salt 3.63 g"),
            ("vinegar-5", 10.0, "volume %", {}, "water 100 mL + vinegar 5 % 11.1 mL"),
            ("citric-acid", 1.0, "parts", {"base_parts": 8.0}, "water 100 mL + citric acid 12.5 g"),
            ("copper-sulfate", 0.5, "mol/L", {}, "water 100 mL + copper sulfate 12.5 g"),
        ):
            body = {"base": "water", "steps": [{"what": what, "amount": amount, "unit": unit}]} | more
            with self.subTest(unit):
                self.assertEqual(send(self.desk, "/materials/made/preview", body).json()["described"], said)
        for what, amount, unit in (("table-salt", 3.0, "mL"), ("vinegar-5", 3.0, "mass %"), ("dust", 1.0, "g"),
                                   ("table-salt", 900.0, "g"), ("table-salt", 100.0, "mass %")):  # fmt: skip
            body = {"base": "water", "steps": [{"what": what, "amount": amount, "unit": unit}]}
            refused = send(self.desk, "/materials/made", body)
            self.assertEqual((refused.status_code, refused.json()["field"]), (422, "steps"), refused.content)
        self.assertEqual(OwnMaterial.objects.count(), 0)

    def test_every_salt_of_a_metal_names_the_plate_that_stands_in_it(self):
        salts = {addition["key"]: addition["metal"] for addition in self.desk.get("/api/materials").json()["additions"]}
        self.assertEqual((salts["iron-sulfate"], salts["copper-nitrate"], salts["table-salt"]), ("steel", "copper", ""))
        self.assertEqual((salts["nickel-sulfate"], salts["lead-nitrate"]), ("nickel", "lead"))

    def test_a_long_recipe_needs_no_name(self):
        steps = [{"what": what, "amount": 1.5, "unit": "g"} for what in ("table-salt", "citric-acid", "potassium-nitrate")]
        made = send(self.desk, "/materials/made", {"base": "lemon-juice", "steps": steps})
        self.assertEqual(made.status_code, 201, made.content)
        self.assertLessEqual(len(OwnMaterial.objects.get().name), 60)

    def test_soda_in_lemon_juice_foams(self):
        body = {"base": "lemon-juice", "steps": [{"what": "baking-soda-powder", "amount": 2.0, "unit": "g"}]}
        self.assertGreater(send(self.desk, "/materials/made/preview", body).json()["foam_ml"], 100.0)

    def test_an_oxidant_is_not_foretold_and_a_limit_reads_as_a_number(self):
        step = {"what": "hydrogen-peroxide", "amount": 2.0, "unit": "mL"}
        plates = {"base": "lemon-juice", "negative": "zinc", "positive": "copper"}
        found = send(self.desk, "/materials/made/preview", plates | {"steps": [step]}).json()
        self.assertRegex(
            found["oxidant"], r"^Hydrogen peroxide 3 % would hold a plate at \+1\.\d\d V; .* does not foretell it"
        )
        before, after = found["foretold"]
        self.assertEqual((before["oxidant"], after["oxidant"]), (False, True))
        self.assertGreater(after["u_v"], 3 * before["u_v"])
        refused = send(self.desk, "/materials/made", plates | {"steps": [step | {"amount": 1e6}]})
        self.assertEqual(refused.json()["message"], "That is too large: 10000 at most.")


class Two(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.desk = as_teacher(self.ada)

    def test_a_daniell_cell_is_foretold_and_what_cannot_be_says_why(self):
        found = send(self.desk, "/materials/two/preview", DANIELL).json()
        self.assertEqual(found["name"], "zinc sulfate 1.0 mol/L ‖ copper sulfate 0.1 mol/L")
        self.assertAlmostEqual(found["foretold"]["volts_v"], 1.08, delta=0.02)
        self.assertLess(found["foretold"]["short_a"], 1.1 / 500.0)  # the paper holds it back
        wrong = send(self.desk, "/materials/two/preview", DANIELL | {"negative": "steel"}).json()
        self.assertIn("none of its own ions in zinc sulfate", wrong["refusal"])
        turned = {"negative": "copper", "positive": "zinc", "bridge": "paper"}
        turned |= {"negative_side": DANIELL["positive_side"], "positive_side": DANIELL["negative_side"]}
        self.assertEqual(send(self.desk, "/materials/two/preview", turned).json(), found)
        silver = DANIELL | {"positive_side": {"salt": "silver-nitrate", "mol_per_l": 0.1}}
        self.assertIn("silver sulfate falls out", send(self.desk, "/materials/two/preview", silver).json()["message"])
        self.assertIn("need a bridge", send(self.desk, "/materials/two", DANIELL | {"bridge": "wire"}).json()["message"])
        self.assertEqual(OwnMaterial.objects.count(), 0)

    def test_kept_it_goes_through_plan_kit_safety_and_bench(self):
        weaker = DANIELL | {"positive_side": {"salt": "copper-sulfate", "mol_per_l": 0.02}}
        key = send(self.desk, "/materials/two", weaker).json()["key"]
        self.assertEqual(OwnMaterial.objects.count(), 2)  # zinc sulfate 1 mol/L was there: it ships
        again = send(self.desk, "/materials/two", weaker | {"bridge": "pot", "name": "by pot"})
        self.assertEqual((again.status_code, OwnMaterial.objects.count()), (201, 3))  # both solutions were there
        plan = PLAN | {"electrodes": ["zinc", "copper", "steel"], "electrolytes": [key]}
        sent = send(self.desk, "/labs", plan).json()
        lab = Lab.objects.get(id=sent["id"])
        self.assertEqual({c["short"] for g in sent["groups"] for c in g["cells"]}, {"Zn | Cu"})
        self.assertIn("left_out", {note["code"] for note in sent["notes"]})
        kit = self.desk.get(f"/api/labs/{lab.id}/kit").json()
        made = " ".join(i["name"] for b in kit["batches"] for i in b["ingredients"])
        self.assertIn("ZnSO4·7H2O", made)
        self.assertIn("CuSO4·5H2O", made)
        self.assertTrue(any("filter paper" in line["name"] for line in kit["vessels"]))
        sheet = self.desk.get(f"/api/labs/{lab.id}/safety").json()
        self.assertIn("copper-salts", {entry["key"] for entry in sheet["entries"]})
        with materials_of(self.ada):
            opened_lab(self.ada, lab)
        bench = as_group(group_of(lab)).get("/api/bench").json()
        self.assertIn("joined by a strip of filter paper", bench["cells"][0]["preparation"])
        card = bench["cells"][0]["setting"]
        self.assertIn("Zn in zinc sulfate 1.0 mol/L, Cu in copper sulfate 0.02 mol/L; joined by a strip", card)
        none = send(self.desk, "/labs", PLAN | {"electrodes": ["tin", "steel"], "electrolytes": [key]})
        self.assertEqual(none.status_code, 422)
        self.assertIn("No cell can be built", none.json()["message"])

    def test_one_metal_on_both_sides_has_a_second_plate(self):
        body = DANIELL | {
            "negative_side": {"salt": "copper-sulfate", "mol_per_l": 0.01},
            "positive_side": {"salt": "copper-sulfate", "mol_per_l": 1.0},
            "negative": "copper", "positive": "copper-second",
        }  # fmt: skip
        found = send(self.desk, "/materials/two/preview", body).json()
        self.assertAlmostEqual(found["foretold"]["volts_v"], 0.032, delta=0.006)
        self.assertEqual(found["table_v"], 0.0)
        same = send(self.desk, "/materials/two/preview", body | {"positive": "copper"})
        self.assertIn("second plate", same.json()["message"])
        key = send(self.desk, "/materials/two", body).json()["key"]
        lab = send(self.desk, "/labs", PLAN | {"electrodes": ["copper", "copper-second"], "electrolytes": [key]}).json()
        self.assertEqual({c["short"] for g in lab["groups"] for c in g["cells"]}, {"Cu | Cu′"})

    def test_nobody_but_a_teacher_makes_liquids(self):
        for path in ("made", "made/preview", "two", "two/preview"):
            self.assertEqual(send(self.client, f"/materials/{path}", DANIELL).status_code, 401)
