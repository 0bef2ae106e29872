"""Meter checks, what the checks say about readings, whom to go and see, and asking again."""

import uuid
from datetime import timedelta

from django.db import DatabaseError, connection, transaction
from django.test import Client, TestCase
from django.utils import timezone

from server.entries.models import AskedAgain, MeterCheck, Reading
from server.labs.changes import announce
from server.labs.models import Lab
from server.labs.opening import close_lab
from server.tests.support import as_group, as_teacher, cell_of, group_of, lab_of, record, send, teacher


class Checking(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada, groups=["Tern", "Knot", "Plover"])
        self.tern = group_of(self.lab)
        self.cell = cell_of(self.tern)
        self.client = as_group(self.tern)
        self.teacher = as_teacher(self.ada)

    def check_meter(self, leads="0.000", dry="1.55", client=None, **changes):
        body = {"id": str(uuid.uuid4()), "leads": leads, "dry": dry}
        return send(client or self.client, "/bench/meter-checks", body | changes)

    def shown(self, position=1):
        return self.client.get("/api/bench").json()["cells"][position - 1]

    def board(self):
        return self.teacher.get(f"/api/labs/{self.lab.id}/board").json()

    def reasons(self):
        return [one["code"] for visit in self.board()["visits"] for one in visit["reasons"]]


class Meters(Checking):
    def test_the_offset_is_taken_off_later_readings_and_the_typed_number_stays(self):
        before = record(self.cell, "0.90")
        self.assertEqual(self.check_meter("-0.060", "1.48").json()["code"], "odd_offset")
        after = record(self.cell, "0.89")
        shown = {r["id"]: r for r in self.shown()["readings"]}
        self.assertEqual((shown[str(before.id)]["signed_v"], shown[str(before.id)]["offset_v"]), (0.90, 0.0))
        self.assertAlmostEqual(shown[str(after.id)]["signed_v"], 0.95)
        self.assertEqual((shown[str(after.id)]["text"], shown[str(after.id)]["volts_v"]), ("0.89", 0.89))
        compared = self.teacher.get(f"/api/labs/{self.lab.id}/compare").json()["electrolytes"][0]["cells"][0]
        self.assertAlmostEqual(compared["mean_v"], (0.90 + 0.95) / 2)

    def test_an_offset_counts_the_right_way_with_swapped_leads(self):
        self.check_meter("0.050", "1.60")
        record(self.cell, "-0.90", red=self.cell.negative, black=self.cell.positive)
        self.assertAlmostEqual(self.shown()["readings"][0]["signed_v"], 0.95)

    def test_a_second_check_counts_from_then_on_and_both_are_kept(self):
        self.check_meter("0.010")
        self.check_meter("0.020")
        record(self.cell, "0.96")
        self.assertAlmostEqual(self.shown()["readings"][0]["signed_v"], 0.94)
        self.assertEqual(MeterCheck.objects.count(), 2)

    def test_sending_twice_keeps_one_and_an_impossible_offset_is_not_taken_off(self):
        number = str(uuid.uuid4())
        for _ in range(2):
            self.assertEqual(self.check_meter("1.2", id=number).json()["code"], "large_offset")
        self.assertEqual(MeterCheck.objects.get().offset_v, 0.0)

    def test_what_is_no_check_is_refused_with_its_field(self):
        self.assertEqual(self.check_meter("none").json()["field"], "leads")
        self.assertEqual(self.check_meter(dry="").json()["field"], "dry")
        self.assertEqual(send(Client(), "/bench/meter-checks", {}).status_code, 401)
        close_lab(actor=self.ada, lab_id=self.lab.id)
        self.assertEqual(self.check_meter().json()["code"], "lab_closed")
        self.assertEqual(MeterCheck.objects.count(), 0)

    def test_a_group_without_a_check_is_marked_not_stopped(self):
        record(self.cell, "0.95")
        self.assertIsNone({g["name"]: g["meter"] for g in self.board()["groups"]}["Tern"])
        self.check_meter()
        self.assertEqual({g["name"]: g["meter"] for g in self.board()["groups"]}["Tern"]["code"], "sound")
        self.assertEqual(self.client.get("/api/bench").json()["meter"]["code"], "sound")

    def test_the_database_keeps_them(self):
        self.check_meter()
        for change in ("UPDATE bench_metercheck SET offset_v = 1", "DELETE FROM bench_metercheck"):
            with self.assertRaises(DatabaseError), transaction.atomic(), connection.cursor() as cursor:
                cursor.execute(change)


class Findings(Checking):
    def codes(self, position=1):
        return [(f["code"], f["reading"]) for f in self.shown(position)["findings"]]

    def test_a_wrong_number_is_kept_and_explained(self):
        for text, code in [("940", "millivolts"), ("-0.94", "reversed"), ("0.01", "near_zero"), ("2.9", "too_high")]:
            with self.subTest(text):
                kept = record(self.cell, text)
                self.assertIn((code, str(kept.id)), self.codes())
        self.assertEqual(Reading.objects.count(), 4)
        self.assertTrue(all(len(f["tries"]) >= 2 for f in self.shown()["findings"]))

    def test_a_corrected_reading_is_not_remarked_on_any_more(self):
        wrong = record(self.cell, "940")
        record(self.cell, "0.94", corrects=wrong.id, reason="wrong unit")
        self.assertEqual(self.codes(), [])

    def test_leads_said_to_be_swapped_are_no_finding(self):
        record(self.cell, "-0.94", red=self.cell.negative, black=self.cell.positive)
        self.assertEqual(self.codes(), [])

    def test_others_sharpen_what_is_expected_once_they_are_shown_and_the_board_knows_before(self):
        for text in ("0.80", "0.80", "0.80"):
            record(self.cell, text)
        for name in ("Knot", "Plover"):
            record(cell_of(group_of(self.lab, name)), "0.99")
        self.assertEqual(self.codes(), [])
        self.assertIn("shared_off", self.reasons())
        Lab.objects.filter(id=self.lab.id).update(show_values=True)
        announce(self.lab.id)
        self.assertEqual({code for code, _ in self.codes()}, {"far"})


class GoingToSee(Checking):
    def test_a_likely_fault_comes_first_and_goes_away_with_a_sound_reading(self):
        record(self.cell, "0.01")
        visit = self.board()["visits"][0]
        reason = visit["reasons"][0]
        self.assertEqual((visit["group"], reason["code"], reason["cell"]), ("Tern", "near_zero", str(self.cell.id)))
        shown = next(one for one in self.board()["groups"][0]["cells"] if one["id"] == str(self.cell.id))
        self.assertEqual((shown["flag"]["code"], shown["flag"]["sure"]), ("near_zero", "likely"))
        self.assertIn(shown["flag"]["text"][1:], reason["text"])
        record(self.cell, "0.95")
        self.assertNotIn("near_zero", self.reasons())

    def test_silence_is_seen_and_ends_with_the_lab(self):
        Lab.objects.filter(id=self.lab.id).update(opened_at=timezone.now() - timedelta(minutes=20))
        self.assertEqual({one["code"] for one in self.board()["common"]}, {"behind", "silent"})  # all groups: said once
        self.assertEqual(self.reasons(), [])
        close_lab(actor=self.ada, lab_id=self.lab.id)
        self.assertEqual(self.board()["visits"], [])

    def test_asking_again_appears_on_the_bench_until_a_reading_comes(self):
        record(self.cell, "0.40")
        answer = send(self.teacher, f"/cells/{self.cell.id}/ask-again")
        self.assertEqual(answer.status_code, 200)
        self.assertTrue(self.shown()["asked"])
        record(self.cell, "0.95")
        self.assertFalse(self.shown()["asked"])

    def test_only_the_teacher_of_an_open_lab_can_ask(self):
        path = f"/cells/{self.cell.id}/ask-again"
        self.assertEqual(send(as_teacher(teacher("bob")), path).status_code, 404)
        self.assertEqual(send(self.client, path).status_code, 401)
        close_lab(actor=self.ada, lab_id=self.lab.id)
        self.assertEqual(send(self.teacher, path).json()["code"], "not_open")
        self.assertEqual(AskedAgain.objects.count(), 0)
