"""Labs of several classes laid over each other, and what earlier classes say to the bench of the next."""

import uuid

from django.db import connection
from django.test import TestCase
from django.test.utils import CaptureQueriesContext

from server.entries.models import Prediction
from server.labs.models import PlannedCell
from server.tests.support import as_group, as_teacher, group_of, lab_of, opened_lab, record, record_all, send, teacher

VOLTS = {("zinc", "copper"): 0.93, ("zinc", "tin"): 0.51, ("tin", "copper"): 0.42}


def a_year(owner, shift=0.0, **changes):
    """A closed lab in which every cell was read by every group that has it."""
    lab = lab_of(owner, ("Tern", "Knot", "Plover"), **changes)
    readings = []
    for place, cell in enumerate(PlannedCell.objects.filter(group__lab=lab).order_by("group__position", "position")):
        pair = (cell.negative, cell.positive)
        volts = VOLTS.get(pair, 0.4) + shift * (cell.positive == "copper") + 0.004 * ((place * 7) % 5 - 2)
        readings += [(cell, f"{volts + 0.001 * nth:.3f}") for nth in range(2)]
    record_all(readings)
    send(as_teacher(owner), f"/labs/{lab.id}/close")
    return lab


class Years(TestCase):
    @classmethod
    def setUpTestData(cls):
        cls.ada = teacher()
        cls.labs = [a_year(cls.ada, 0.02 * k, title=f"Class {k}", date=f"2024-05-0{k + 1}") for k in range(3)]

    def laid(self, labs, client=None):
        query = "&".join(f"lab={lab.id}" for lab in labs)
        return (client or as_teacher(self.ada)).get(f"/api/years?{query}")

    def test_one_ladder_each_one_for_all_and_what_the_next_should_find(self):
        (liquid,) = self.laid(self.labs).json()["liquids"]
        self.assertEqual(liquid["names"], ["Class 0", "Class 1", "Class 2"])
        copper = next(rung for rung in liquid["rungs"] if rung["electrode"] == "copper")
        self.assertEqual(len([v for v in copper["by_class"] if v is not None]), 3)
        self.assertTrue(copper["low_v"] < copper["all_v"] < copper["high_v"] or liquid["anchor"] == "copper")
        cell = next(one for one in liquid["cells"] if (one["negative"], one["positive"]) == ("zinc", "copper"))
        self.assertTrue(cell["low_v"] < 0.93 and cell["high_v"] > 0.97)
        self.assertTrue(liquid["tau_low_v"] <= liquid["tau_v"] <= (liquid["tau_high_v"] or 9))

    def test_what_each_class_expected_before_is_laid_beside_what_came(self):
        lab, told = lab_of(self.ada, title="Foretold", predict=True), {}
        cell = group_of(lab).cells.filter(negative="zinc", positive="copper").first()
        body = {"id": str(uuid.uuid4()), "cell_id": str(cell.id), "negative": "copper", "text": "0.9", "unit": "V"}
        self.assertEqual(send(as_group(group_of(lab)), "/bench/predictions", body).status_code, 200)
        record_all([(cell, "0.93")])
        with CaptureQueriesContext(connection) as queries:
            told = {one["name"]: one["foretold"] for one in self.laid([*self.labs, lab]).json()["labs"]}
        self.assertIn("0 of 1 predictions named the right negative plate", told["Foretold"])
        self.assertEqual(told["Class 0"], "")
        self.assertEqual(len([one for one in queries if f'FROM "{Prediction._meta.db_table}"' in one["sql"]]), 1)

    def test_which_account_each_class_bears_out_is_said(self):
        plain, empty = self.labs[0], lab_of(self.ada, title="Nothing yet")
        told = {one["name"]: one["decided"] for one in self.laid([plain, empty]).json()["labs"]}
        self.assertEqual(told["Nothing yet"], "")
        verdict = as_teacher(self.ada).get(f"/api/labs/{plain.id}/deciding").json()["verdict"]
        self.assertTrue(told["Class 0"] and verdict.startswith(told["Class 0"]), (told, verdict))

    def test_labs_of_the_same_title_are_told_apart_by_their_date(self):
        twin = a_year(self.ada, title="Class 0", date="2025-05-01")
        names = [lab["name"] for lab in self.laid([self.labs[0], twin]).json()["labs"]]
        self.assertEqual(names, ["Class 0, 2024-05-01", "Class 0, 2025-05-01"])

    def test_a_lab_in_another_liquid_stands_alone(self):
        other = a_year(self.ada, title="Vinegar", electrolytes=["vinegar"])
        answer = self.laid([*self.labs, other]).json()
        self.assertEqual((len(answer["liquids"]), answer["alone"]), (1, ["Vinegar"]))

    def test_nobody_lays_over_labs_that_are_not_theirs(self):
        self.assertEqual(self.laid(self.labs, as_teacher(teacher("eve"))).status_code, 404)
        self.assertEqual(self.laid(self.labs, as_group(group_of(self.labs[0]))).status_code, 401)

    def test_nothing_chosen_is_nothing_laid(self):
        self.assertEqual(self.laid([]).json(), {"labs": [], "liquids": [], "alone": [], "copies": {}})

    def test_a_copy_is_no_other_class_and_narrows_nothing(self):
        twin = a_year(self.ada, 0.02, title="Class 1 once more", date="2025-05-01")
        before, after = self.laid(self.labs).json(), self.laid([*self.labs, twin]).json()
        self.assertEqual(after["copies"], {"Class 1 once more": "Class 1"})
        self.assertEqual((after["liquids"], after["alone"]), (before["liquids"], []))
        alone = self.laid([self.labs[1], twin]).json()
        self.assertEqual((alone["liquids"], alone["copies"]), ([], {"Class 1 once more": "Class 1"}))

    def test_from_three_classes_on_the_bench_of_the_next_is_told_what_they_found(self):
        lab = lab_of(self.ada, ("Tern",), opened=False, title="Class 3")
        opened_lab(self.ada, lab)
        cell = PlannedCell.objects.filter(group__lab=lab, negative="zinc", positive="copper").first()
        record(cell, "0.61")
        bench = as_group(group_of(lab)).get("/api/bench").json()
        (found,) = next(one for one in bench["cells"] if one["id"] == str(cell.id))["findings"]
        self.assertEqual(found["code"], "far")
        self.assertIn("3 earlier classes", found["text"])

    def test_with_two_earlier_classes_nothing_is_said_of_them(self):
        bea = teacher("bea")
        for k in range(2):
            a_year(bea, title=f"Bea {k}")
        lab = lab_of(bea, ("Tern",))
        cell = PlannedCell.objects.filter(group__lab=lab, negative="zinc", positive="copper").first()
        record(cell, "0.61")
        bench = as_group(group_of(lab)).get("/api/bench").json()
        said = [f["text"] for one in bench["cells"] for f in one["findings"]]
        self.assertFalse(any("earlier classes" in text for text in said))
