"""Values from elsewhere stand beside the class's and are never among them."""

from django.test import TestCase

from server.findings.release import release
from server.labs.models import PlannedCell
from server.tests.support import as_group, as_teacher, group_of, lab_of, record_all, send, teacher

CELL = {"negative": "zinc", "electrolyte": "rhubarb-juice", "positive": "copper"}


class FromElsewhere(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada)
        record_all(
            (cell, "0.93" if (cell.negative, cell.positive) == ("zinc", "copper") else "0.51")
            for cell in PlannedCell.objects.filter(group__lab=self.lab)
        )
        self.desk = as_teacher(self.ada)

    def add(self, client=None, **changes):
        body = {"cell": CELL, "text": "0.98", "u": "0.02", "source": "A leaflet of 1998", "conditions": "fresh plates"}
        return send(client or self.desk, f"/labs/{self.lab.id}/elsewhere", body | changes)

    def cell(self, client=None):
        path = "/api/bench/compare" if client else f"/api/labs/{self.lab.id}/compare"
        (liquid,) = (client or self.desk).get(path).json()["electrolytes"]
        return next(one for one in liquid["cells"] if (one["negative"], one["positive"]) == ("zinc", "copper")), liquid

    def test_it_stands_beside_with_its_source_and_moves_nothing(self):
        before, ladder = self.cell()
        self.assertEqual(self.add().status_code, 200)
        after, ladder_after = self.cell()
        (value,) = after.pop("elsewhere")
        before.pop("elsewhere")
        self.assertEqual((value["volts_v"], value["u_v"], value["source"]), (0.98, 0.02, "A leaflet of 1998"))
        self.assertEqual(before, after)
        self.assertEqual(ladder["rungs"], ladder_after["rungs"])
        self.assertEqual(ladder["tau_v"], ladder_after["tau_v"])

    def test_plates_named_the_other_way_round_turn_its_sign(self):
        turned = {"negative": "copper", "electrolyte": "rhubarb-juice", "positive": "zinc"}
        self.add(cell=turned, text="-0.98")
        self.assertEqual(self.cell()[0]["elsewhere"][0]["volts_v"], 0.98)

    def test_without_a_source_or_a_number_nothing_is_kept(self):
        for changes in ({"source": " "}, {"text": "much"}, {"u": "little"}, {"cell": CELL | {"positive": "zinc"}},
                        {"cell": CELL | {"positive": "gold-bar"}}):  # fmt: skip
            self.assertEqual(self.add(**changes).status_code, 422, changes)
        self.assertEqual(self.cell()[0]["elsewhere"], [])

    def test_it_is_taken_away_again(self):
        self.add()
        value = self.cell()[0]["elsewhere"][0]["id"]
        self.assertEqual(self.desk.delete(f"/api/elsewhere/{value}").status_code, 200)
        self.assertEqual(self.cell()[0]["elsewhere"], [])

    def test_groups_see_it_with_the_classs_results_and_strangers_change_nothing(self):
        self.add()
        release(actor=self.ada, lab_id=self.lab.id, parts=["compare"])
        device = as_group(group_of(self.lab))
        self.assertEqual(self.cell(device)[0]["elsewhere"][0]["source"], "A leaflet of 1998")
        eve = as_teacher(teacher("eve"))
        value = self.cell()[0]["elsewhere"][0]["id"]
        self.assertEqual(self.add(eve).status_code, 404)
        self.assertEqual(eve.delete(f"/api/elsewhere/{value}").status_code, 404)
        self.assertEqual(self.add(device).status_code, 401)
