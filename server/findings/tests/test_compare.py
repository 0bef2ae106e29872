"""Compare shows what the core computes from the readings that count."""

from django.test import TestCase

from galvanic.findings.compare import compare
from server.findings.services import class_readings
from server.tests.support import as_teacher, cell_of, group_of, lab_of, record, record_all, teacher


class Comparing(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada)
        true_v = {"zinc": -0.8, "tin": -0.3, "copper": 0.15}
        record_all(
            (cell, f"{true_v[cell.positive] - true_v[cell.negative] + shift:.3f}")
            for name, shift in (("Tern", 0.0), ("Knot", 0.02))
            for cell in group_of(self.lab, name).cells.all()
        )
        self.client = as_teacher(self.ada)

    def shown(self, query=""):
        return self.client.get(f"/api/labs/{self.lab.id}/compare{query}")

    def test_the_numbers_are_the_cores(self):
        result = compare(class_readings(self.lab))[0]
        shown = self.shown().json()["electrolytes"][0]
        self.assertEqual([c["mean_v"] for c in shown["cells"]], [c.mean_v for c in result.cells])
        self.assertEqual([r["class_v"] for r in shown["rungs"]], [r.class_v for r in result.rungs])
        self.assertEqual([r["u_v"] for r in shown["rungs"]], [r.u_v for r in result.rungs])
        zinc_copper = next(c for c in shown["cells"] if c["short"] == "Zn | Cu")
        self.assertAlmostEqual(zinc_copper["mean_v"], 0.96)
        self.assertAlmostEqual(zinc_copper["gap_v"], 0.96 - 1.1037)
        self.assertEqual([g["group"] for g in zinc_copper["groups"]], ["Tern", "Knot"])

    def test_a_corrected_reading_no_longer_counts(self):
        cell = cell_of(group_of(self.lab))
        wrong = record(cell, "94")
        before = len(class_readings(self.lab))
        record(cell, "0.95", corrects=wrong.id, reason="typed it wrong")
        after = class_readings(self.lab)
        self.assertEqual(len(after), before)
        self.assertNotIn(94.0, [r.volts_v for r in after])

    def test_the_teacher_chooses_the_plate_that_is_held(self):
        shown = self.shown("?anchor=rhubarb-juice:copper").json()["electrolytes"][0]
        self.assertEqual(shown["anchor"], "copper")
        copper = next(r for r in shown["rungs"] if r["electrode"] == "copper")
        self.assertEqual(copper["class_v"], copper["table_v"])
        self.assertEqual(self.shown("?anchor=nonsense").status_code, 422)
        self.assertEqual(self.shown("?anchor=rhubarb-juice:cheese").json()["electrolytes"][0]["anchor"], "tin")

    def test_a_lab_without_readings_has_nothing_to_compare(self):
        empty = lab_of(self.ada)
        answer = self.client.get(f"/api/labs/{empty.id}/compare")
        self.assertEqual((answer.status_code, answer.json()["electrolytes"]), (200, []))

    def test_a_few_queries_fetch_a_result_whatever_its_size(self):
        self.shown()
        with self.assertNumQueries(3):  # session, teacher, lab with counts; the rest is kept until a change
            self.shown()
        record(cell_of(group_of(self.lab)), "0.95")
        # and own materials, readings and their number, predictions, groups, meter checks, set aside, after closing
        with self.assertNumQueries(12):
            self.shown()
