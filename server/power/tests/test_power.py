"""Power through the API: packs from the class's own cells, for their teacher alone, refused in words."""

import uuid

from django.test import TestCase

from galvanic.cells import Cell
from galvanic.chemistry.anchoring import UnderLoad, anchored
from galvanic.chemistry.circuit import in_a_row
from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.expected import expect
from galvanic.chemistry.polarisation import Geometry
from server.entries.beside import record_under_load
from server.entries.entry import UnderLoadIn
from server.findings.services import compare_lab
from server.room.services import set_group_aside
from server.tests.support import as_group, as_teacher, group_of, lab_of, member_of, record, record_all, teacher

ZINC, TIN = "zinc|rhubarb-juice|copper", "tin|rhubarb-juice|copper"


class Power(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada, load_ohm=470.0, short_circuit=True)
        true_v = {"zinc": -0.8, "tin": -0.3, "copper": 0.15}
        record_all(
            (cell, f"{true_v[cell.positive] - true_v[cell.negative] + shift:.3f}")
            for name, shift in (("Tern", 0.0), ("Knot", 0.02))
            for cell in group_of(self.lab, name).cells.all()
        )
        self.client = as_teacher(self.ada)

    def pack(self, path="pack", client=None, lab=None, **query):
        asked = {"load": "led-red", "cell": [ZINC] * 3} | query
        return (client or self.client).get(f"/api/labs/{(lab or self.lab).id}/power/{path}", asked)

    def test_a_pack_is_foretold_from_the_classes_own_volts_and_loads(self):
        cell = group_of(self.lab).cells.filter(negative="zinc", positive="copper").first()
        entry = UnderLoadIn(id=uuid.uuid4(), cell_id=cell.id, kind="short", text="0.5", unit="mA")
        record_under_load(actor=member_of(group_of(self.lab)), entry=entry)
        row = next(one for one in compare_lab(self.lab)[0].cells if one.cell.pair == ("zinc", "copper"))
        geometry = Geometry(4e-4, 0.02)
        one = anchored(PackCell(row.cell, geometry), row.mean_v, row.u_v, [UnderLoad(0.0, 0.5e-3)])
        expected, shown = expect(in_a_row([one] * 3), "led-red"), self.pack().json()
        self.assertAlmostEqual(shown["open_v"], 3 * row.mean_v, places=2)
        self.assertEqual(shown["current_a"], expected.meeting.current_a)
        self.assertEqual((shown["runs"], shown["verdict"]), (expected.runs, expected.verdict))
        self.assertEqual([c["measured"] for c in shown["cells"]], [True] * 3)
        self.assertEqual(shown["seen"], [{"volts_v": 0.0, "current_a": 0.5e-3, "words": "short circuit"}])
        self.assertIn("From what the class has measured.", shown["notes"][0]["text"])

    def test_before_anything_is_measured_packs_are_the_models(self):
        lab = lab_of(self.ada, opened=False, electrodes=["aluminium", "zinc", "copper"], electrolytes=["salt-water"])
        kinds = self.client.get(f"/api/labs/{lab.id}/power").json()["kinds"]
        self.assertEqual(len(kinds), 3)
        self.assertFalse(any(kind["measured"] for kind in kinds))
        self.assertTrue(all(kind["open_v"] > 0.0 for kind in kinds))  # built by the meter: aluminium is the plus of zinc
        salt = "zinc|salt-water|copper"
        shown = self.pack(lab=lab, cell=[salt] * 3).json()
        alone = expect(in_a_row([PackCell(Cell("zinc", "salt-water", "copper"), Geometry(4e-4, 0.02))] * 3), "led-red")
        self.assertAlmostEqual(shown["open_v"], alone.meeting.open_v)
        self.assertEqual(self.pack("advice", lab=lab, cell=[salt] * 3).status_code, 200)
        record_all((cell, "0.74") for cell in group_of(self.lab).cells.all())
        measured = self.client.get(f"/api/labs/{self.lab.id}/power").json()["kinds"]
        self.assertTrue(all(kind["measured"] for kind in measured))

    def loaded(self, group, text, kind="short", unit="mA"):
        """A measurement of zinc and copper under load."""
        cell = group_of(self.lab, group).cells.filter(negative="zinc", positive="copper").first()
        entry = UnderLoadIn(id=uuid.uuid4(), cell_id=cell.id, kind=kind, text=text, unit=unit)
        record_under_load(actor=member_of(group_of(self.lab, group)), entry=entry)

    def test_rows_side_by_side_give_as_many_times_the_current_that_was_measured(self):
        self.loaded("Tern", "0.5")
        self.loaded("Tern", "0.4", kind="load", unit="V")
        seen = {rows: self.pack(rows=rows).json()["seen"] for rows in (1, 3)}
        self.assertEqual([one["volts_v"] for one in seen[3]], [one["volts_v"] for one in seen[1]])
        for one, three in zip(seen[1], seen[3], strict=True):
            self.assertAlmostEqual(three["current_a"], 3 * one["current_a"])
        self.assertEqual(len(seen[3]), 2)

    def test_larger_plates_give_more_also_where_a_load_was_measured(self):
        self.loaded("Tern", "0.5")
        small, large = (self.pack(load="10", area_cm2=area).json() for area in (4, 8))
        self.assertAlmostEqual(large["current_a"] / small["current_a"], 2.0, delta=0.1)
        self.assertEqual((len(small["seen"]), large["seen"]), (1, []))

    def test_of_loads_the_latest_counts_and_none_of_a_group_that_is_set_aside(self):
        self.loaded("Tern", "50")
        self.loaded("Tern", "0.5")
        self.loaded("Knot", "5")
        set_group_aside(actor=self.ada, reason="wrong socket", group_id=group_of(self.lab, "Knot").id)
        self.assertEqual([round(1e3 * one["current_a"], 6) for one in self.pack().json()["seen"]], [0.5])

    def test_the_curve_falls_and_holds_the_meeting_point(self):
        shown = self.pack().json()
        gives = [point["gives_a"] for point in shown["curve"]]
        self.assertEqual(gives, sorted(gives, reverse=True))
        for point in shown["curve"]:
            self.assertLessEqual(point["low_a"], point["high_a"])
        near = min(shown["curve"], key=lambda point: abs(point["volts_v"] - shown["volts_v"]))
        self.assertLess(abs(near["gives_a"] / shown["current_a"] - 1.0), 0.5)

    def test_what_is_not_measured_is_the_model_and_says_so(self):
        shown = self.pack(cell=["magnesium|rhubarb-juice|graphite"]).json()
        self.assertFalse(shown["cells"][0]["measured"])
        self.assertIn("From the model alone", shown["notes"][0]["text"])

    def test_a_cell_that_stands_the_other_way_round_is_turned_by_the_meter(self):
        lab = lab_of(self.ada)
        record(group_of(lab).cells.filter(negative="zinc", positive="tin").first(), "-0.30")
        shown = self.pack(lab=lab, cell=["zinc|rhubarb-juice|tin"]).json()
        self.assertAlmostEqual(shown["open_v"], 0.30, places=3)
        self.assertEqual(shown["cells"][0]["short"], "Sn | Zn")

    def test_unequal_cells_and_rows_and_a_resistor(self):
        shown = self.pack(cell=[ZINC, TIN], rows=2, load="100").json()
        self.assertEqual([c["short"] for c in shown["cells"]], ["Zn | Cu", "Sn | Cu"] * 2)
        self.assertAlmostEqual(shown["current_a"], shown["volts_v"] / 100.0, delta=1e-6)
        self.assertIsNone(shown["least_v"])

    def test_a_device_is_not_joined_above_what_it_stands(self):
        shown = self.pack(cell=[ZINC] * 5, load="calculator").json()
        self.assertEqual((shown["verdict"], shown["notes"][0]["code"], shown["notes"][0]["tone"]), ("no", "harm", "wrong"))

    def test_advice_counts_cells_names_one_change_and_says_how_long(self):
        shown = self.pack("advice", cell=[ZINC] * 2).json()
        self.assertEqual([c["cells"] for c in shown["counts"]], [1, 2, 3, 4, 5, 6])
        self.assertEqual(shown["counts"][0]["verdict"], "no")
        self.assertEqual(shown["counts"][1]["runs"], self.pack(cell=[ZINC] * 2).json()["runs"])
        codes = [note["code"] for note in shown["notes"]]
        self.assertTrue({"smallest", "life", "one_bowl", "care"} <= set(codes), codes)
        still = [note["code"] for note in self.pack("advice", cell=[ZINC], load="motor").json()["notes"]]
        self.assertNotIn("life", still)  # what never turns does not turn for days

    def test_the_loads_are_the_cores(self):
        shown = self.client.get(f"/api/labs/{self.lab.id}/power").json()
        self.assertIn("led-red", [load["key"] for load in shown["loads"]])

    def test_refusals_are_in_words_and_nobody_else_gets_in(self):
        for query in ({"load": "lamp"}, {"load": "-3"}, {"cell": ["zinc|rhubarb-juice"]}, {"cell": ["zinc|cheese|copper"]},
                      {"cell": []}, {"cell": [ZINC] * 13}, {"rows": 9}, {"area_cm2": "nan"}, {"gap_cm": 0}):  # fmt: skip
            with self.subTest(query):
                answer = self.pack(**query)
                self.assertEqual(answer.status_code, 422, answer.content)
                self.assertTrue(answer.json()["message"])
        bea = as_teacher(teacher("bea"))
        for path in ("pack", "advice"):
            self.assertEqual(self.pack(path, client=bea).status_code, 404)
            self.assertEqual(self.pack(path, client=as_group(group_of(self.lab))).status_code, 401)
        self.assertEqual(bea.get(f"/api/labs/{self.lab.id}/power").status_code, 404)

    def test_a_few_queries_whatever_the_pack(self):
        self.pack(cell=[ZINC] * 2)
        with self.assertNumQueries(4):  # session, teacher, lab, own materials; readings and loads are kept until a change
            self.pack(cell=[ZINC, TIN] * 5)
