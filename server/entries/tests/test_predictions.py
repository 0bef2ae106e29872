"""Predictions: kept as said, once, before measuring, by the group alone; never in the way."""

import uuid

from django.db import DatabaseError, connection, transaction
from django.test import Client, TestCase

from server.entries.models import Prediction
from server.labs.models import Lab
from server.labs.opening import close_lab
from server.tests.support import as_group, as_teacher, cell_of, group_of, lab_of, record, send, teacher


class Predicting(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada)
        self.tern = group_of(self.lab)
        self.cell = cell_of(self.tern)
        self.client = as_group(self.tern)

    def say(self, text="1.10", **changes):
        made = {"id": str(uuid.uuid4()), "cell_id": str(self.cell.id), "negative": "zinc", "text": text, "unit": "V"}
        return send(self.client, "/bench/predictions", made | changes)

    def test_a_prediction_is_kept_as_said_and_the_latest_is_shown(self):
        self.say("1.1")
        self.assertEqual(self.say("900", unit="mV").json()["volts_v"], 0.9)
        shown = self.client.get("/api/bench").json()
        self.assertTrue(shown["predict"])
        self.assertEqual(shown["cells"][0]["prediction"]["text"], "900")
        self.assertEqual(Prediction.objects.count(), 2)

    def test_sending_twice_keeps_one(self):
        number = str(uuid.uuid4())
        for _ in range(3):
            self.assertEqual(self.say(id=number).status_code, 200)
        self.assertEqual(Prediction.objects.count(), 1)

    def test_the_subtraction_is_there_both_ways_round(self):
        working = self.client.get("/api/bench").json()["cells"][0]["working"]
        self.assertEqual([one["negative"] for one in working], ["zinc", "copper"])
        self.assertEqual([line["why"] for line in working[0]["lines"]][2], "minus a minus is plus")

    def test_what_is_no_prediction_is_refused_and_nothing_is_kept(self):
        for changes, code in [
            ({"text": "about one"}, "unreadable_reading"), ({"text": "-1.1"}, "no_sign"), ({"negative": "tin"}, "wrong_plate"),
            ({"cell_id": str(uuid.uuid4())}, "not_found"), ({"cell_id": str(cell_of(group_of(self.lab, "Knot")).id)}, "not_found"),
        ]:  # fmt: skip
            self.assertEqual(self.say(**changes).json()["code"], code)
        record(self.cell)
        self.assertEqual(self.say().json()["code"], "too_late")
        close_lab(actor=self.ada, lab_id=self.lab.id)
        self.assertEqual(self.say(cell_id=str(cell_of(self.tern, 2).id)).json()["code"], "lab_closed")
        self.assertEqual(Prediction.objects.count(), 0)

    def test_more_or_less_and_why_are_kept_and_answered_when_the_meter_has_spoken(self):
        kept = self.say("1.10", way="less", because="  the   liquid ").json()
        self.assertEqual((kept["way"], kept["because"], kept["told"]), ("less", "the liquid", ""))
        record(self.cell, "0.94")
        told = self.client.get("/api/bench").json()["cells"][0]["prediction"]["told"]
        self.assertEqual(told, "You said less. It is less, by 0.16\u202fV.")

    def test_at_the_first_level_the_order_alone_is_foretold_and_answered(self):
        self.assertEqual(self.say("").json()["code"], "unreadable_reading")
        tern = group_of(lab_of(self.ada, title="Order", level="first", electrodes=["zinc", "copper"]))
        device, cell = as_group(tern), cell_of(tern)
        self.assertEqual([one["asks"] for one in device.get("/api/bench").json()["cells"]], ["order"])
        body = {"negative": "copper", "text": "", "unit": "V", "cell_id": str(cell.id), "because": "it shines"}
        self.assertEqual(send(device, "/bench/predictions", body | {"id": str(uuid.uuid4())}).status_code, 200)
        record(cell, "0.90")
        told = device.get("/api/bench").json()["cells"][0]["prediction"]["told"]
        self.assertEqual(told, "You said copper is the negative plate. The meter says zinc.")
        compared = as_teacher(self.ada).get(f"/api/labs/{tern.lab_id}/compare").json()
        self.assertEqual(compared["foretold"], "0 of 1 predictions named the right negative plate.")
        (said,) = compared["electrolytes"][0]["cells"][0]["predicted"]
        self.assertEqual((said["signed_v"], said["off_v"], said["right_sign"]), (None, None, False))

    def test_a_prediction_without_a_number_is_only_of_another_level(self):
        self.assertEqual(self.say("", way="less").json()["code"], "unreadable_reading")
        changes = {"varies": "spacing", "conditions": ["1 cm apart", "4 cm apart"], "electrodes": ["zinc", "copper"]}
        tern = group_of(lab_of(self.ada, title="Far apart", **changes))
        device, (first, second) = as_group(tern), [cell_of(tern, at) for at in (1, 2)]
        shown = device.get("/api/bench").json()["cells"]
        self.assertEqual([cell["asks"] for cell in shown[:2]], ["cell", "change"])
        self.assertEqual(shown[1]["against"], first.condition)
        body = {"negative": "zinc", "text": "", "unit": "V", "way": "same"}
        said = send(device, "/bench/predictions", body | {"id": str(uuid.uuid4()), "cell_id": str(second.id)})
        self.assertEqual((said.status_code, said.json()["volts_v"]), (200, None))
        record(first, "0.90")
        record(second, "0.80")
        told = device.get("/api/bench").json()["cells"][1]["prediction"]["told"]
        self.assertEqual(told, "You said about the same. It is less, by 0.10\u202fV.")
        self.assertEqual(as_teacher(self.ada).get(f"/api/labs/{second.group.lab_id}/compare").status_code, 200)

    def test_measuring_needs_no_prediction(self):
        record(self.cell)
        self.assertEqual(len(self.client.get("/api/bench").json()["cells"][0]["readings"]), 1)

    def test_where_the_teacher_asks_for_none_there_is_no_working(self):
        Lab.objects.update(predict=False)
        shown = self.client.get("/api/bench").json()
        self.assertEqual((shown["predict"], shown["cells"][0]["working"]), (False, []))

    def test_a_stranger_and_another_group_cannot(self):
        self.assertEqual(send(Client(), "/bench/predictions", {}).status_code, 401)
        number = str(uuid.uuid4())
        self.say(id=number)
        knot = as_group(group_of(self.lab, "Knot"))
        body = {
            "id": number,
            "cell_id": str(cell_of(group_of(self.lab, "Knot")).id),
            "negative": "zinc",
            "text": "1",
            "unit": "V",
        }
        self.assertEqual(send(knot, "/bench/predictions", body).json()["code"], "id_taken")

    def test_the_teacher_sees_the_latest_of_every_group_cell_by_cell(self):
        self.say("1.1")
        self.say("0.9", negative="copper")
        shown = as_teacher(self.ada).get(f"/api/labs/{self.lab.id}/predictions").json()
        cell = next(c for c in shown["cells"] if c["short"] == "Zn | Cu")
        self.assertEqual([(p["group"], p["negative"], p["text"]) for p in cell["predictions"]], [("Tern", "copper", "0.9")])
        self.assertEqual((shown["made"], shown["expected"]), (1, 6))
        self.assertAlmostEqual(cell["table_v"], 1.1037, places=3)

    def test_the_database_keeps_them(self):
        self.say()
        for change in ("UPDATE labs_prediction SET text = '2'", "DELETE FROM labs_prediction"):
            with self.assertRaises(DatabaseError), transaction.atomic(), connection.cursor() as cursor:
                cursor.execute(change)
