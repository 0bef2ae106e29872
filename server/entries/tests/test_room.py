"""What a teacher does from the board while the lab runs."""

import uuid
from datetime import timedelta
from unittest import mock

from django.db import IntegrityError, connection, transaction
from django.test import TestCase
from django.utils import timezone

from server.entries.models import Reading, SetAside
from server.findings.services import class_readings
from server.labs.models import Lab, PlannedCell
from server.labs.opening import close_lab
from server.tests.support import as_group, as_teacher, cell_of, group_of, lab_of, record, send, teacher


class TheRoom(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada)
        self.tern, self.knot = group_of(self.lab, "Tern"), group_of(self.lab, "Knot")
        self.client = as_teacher(self.ada)
        self.path = f"/api/labs/{self.lab.id}/board"

    def board(self):
        return self.client.get(self.path).json()

    def cells(self, group):
        return [(c.position, c.cell.short, c.shared) for c in PlannedCell.objects.filter(group=group).order_by("position")]

    def test_a_set_aside_reading_stays_visible_and_leaves_the_numbers(self):
        cell = cell_of(self.tern)
        wrong = record(cell, "9.4")
        record(cell, "0.94")
        answer = send(self.client, f"/readings/{wrong.id}/aside", {"reason": "a slipped point"})
        self.assertEqual(answer.status_code, 200)
        shown = self.board()["groups"][0]["cells"][0]["readings"]
        self.assertEqual([one["aside"] for one in shown], ["a slipped point", ""])
        self.assertEqual([class_reading.volts_v for class_reading in class_readings(self.lab)], [0.94])
        send(self.client, f"/readings/{wrong.id}/aside", {"reason": ""})
        self.lab.refresh_from_db()
        self.assertEqual(len(class_readings(self.lab)), 2)  # its teacher has said that it counts, whatever it is
        self.assertEqual(SetAside.objects.count(), 2)

    def test_a_group_set_aside_takes_all_its_readings_with_it(self):
        record(cell_of(self.tern), "0.94")
        record(cell_of(self.knot), "0.50")
        send(self.client, f"/groups/{self.knot.id}/aside", {"reason": "a faulty meter"})
        self.assertEqual([class_reading.group for class_reading in class_readings(self.lab)], ["Tern"])
        groups = {group["name"]: group for group in self.board()["groups"]}
        self.assertEqual(groups["Knot"]["aside"], "a faulty meter")
        self.assertEqual(groups["Knot"]["cells"][0]["readings"][0]["aside"], "a faulty meter")

    def test_setting_aside_is_the_owners_and_is_kept_for_good(self):
        reading = record(cell_of(self.tern), "0.94")
        for client in (as_teacher(teacher("bea")), as_group(self.tern)):
            self.assertIn(send(client, f"/readings/{reading.id}/aside", {"reason": "x"}).status_code, (401, 404))
            self.assertIn(send(client, f"/groups/{self.tern.id}/aside", {"reason": "x"}).status_code, (401, 404))
        send(self.client, f"/readings/{reading.id}/aside", {"reason": "x"})
        for change in ("UPDATE bench_setaside SET reason = ''", "DELETE FROM bench_setaside"):
            with self.assertRaises(IntegrityError), transaction.atomic(), connection.cursor() as cursor:
                cursor.execute(change)

    def test_a_corrected_reading_cannot_be_set_aside(self):
        cell = cell_of(self.tern)
        first = record(cell, "9.4")
        record(cell, "0.94", corrects=first.id, reason="typed it wrong")
        self.assertEqual(send(self.client, f"/readings/{first.id}/aside", {"reason": "x"}).json()["code"], "corrected")
        self.assertTrue(Reading.objects.filter(id=first.id).exists())

    def test_a_cell_not_begun_goes_to_another_group_before_its_closing_cell(self):
        lab = lab_of(
            self.ada,
            groups=("A", "B", "C"),
            electrodes=["zinc", "copper", "tin", "nickel", "magnesium", "steel", "silver"],
            minutes=60,
        )
        a, b = group_of(lab, "A"), group_of(lab, "B")
        theirs = {c.cell for c in PlannedCell.objects.filter(group=b)}
        given = next(c for c in PlannedCell.objects.filter(group=a, shared=False) if c.cell not in theirs)
        before_a, before_b = self.cells(a), self.cells(b)
        answer = send(self.client, f"/cells/{given.id}/give", {"group": str(b.id)})
        self.assertEqual(answer.status_code, 200, answer.content)
        after_a, after_b = self.cells(a), self.cells(b)
        self.assertEqual([p for p, *_ in after_a], list(range(1, len(before_a))))
        self.assertEqual([p for p, *_ in after_b], list(range(1, len(before_b) + 2)))
        self.assertEqual(after_b[-1][2], before_b[-1][2])
        self.assertIn(given.cell.short, [short for _, short, _ in after_b])

    def test_a_cell_that_is_begun_or_shared_or_elsewhere_stays(self):
        cell = cell_of(self.tern)
        give = f"/cells/{cell.id}/give"
        self.assertEqual(send(self.client, give, {"group": str(self.tern.id)}).status_code, 200)
        self.assertEqual(send(self.client, give, {"group": str(uuid.uuid4())}).status_code, 404)
        elsewhere = group_of(lab_of(self.ada), "Tern")  # of another lab of the same teacher
        self.assertEqual(send(self.client, give, {"group": str(elsewhere.id)}).status_code, 404)
        if cell.shared:
            self.assertEqual(send(self.client, give, {"group": str(self.knot.id)}).json()["code"], "shared")
        record(cell, "0.94")
        self.assertEqual(send(self.client, give, {"group": str(self.knot.id)}).json()["code"], "begun")
        self.assertEqual(send(as_teacher(teacher("bea")), give, {"group": str(self.knot.id)}).status_code, 404)

    def test_a_pause_stops_the_clock_but_no_recording(self):
        begun = timezone.now() - timedelta(minutes=10)
        Lab.objects.filter(id=self.lab.id).update(opened_at=begun)
        send(self.client, f"/labs/{self.lab.id}/pause", {"on": True})
        self.assertTrue(self.board()["paused"])
        record(cell_of(self.tern), "0.94")
        Lab.objects.filter(id=self.lab.id).update(paused_at=begun + timedelta(minutes=4))
        self.assertAlmostEqual(self.board()["minutes_in"], 4.0, places=2)
        send(self.client, f"/labs/{self.lab.id}/pause", {"on": False})
        self.assertAlmostEqual(self.board()["minutes_in"], 4.0, places=1)
        self.assertFalse(self.board()["paused"])
        bench = as_group(self.tern).get("/api/bench").json()
        self.assertEqual((bench["paused"], bench["minutes"]), (False, 45))

    def test_every_pause_counts_not_only_the_last(self):
        at = timezone.now()
        Lab.objects.filter(id=self.lab.id).update(opened_at=at)
        for minutes, on in ((2, True), (5, False), (6, True), (10, False)):
            with mock.patch("django.utils.timezone.now", return_value=at + timedelta(minutes=minutes)):
                send(self.client, f"/labs/{self.lab.id}/pause", {"on": on})
        self.lab.refresh_from_db()
        self.assertAlmostEqual(self.lab.minutes_in(at + timedelta(minutes=12)), 12 - 3 - 4)

    def test_minutes_are_added_and_taken_off_within_reason(self):
        path = f"/labs/{self.lab.id}/minutes"
        send(self.client, path, {"minutes": 5})
        self.assertEqual(self.board()["minutes"], 50)
        self.assertEqual(send(self.client, path, {"minutes": -60}).json()["code"], "minutes")
        self.assertEqual(send(self.client, path, {"minutes": 999}).status_code, 422)

    def test_other_groups_values_show_when_the_teacher_and_the_groups_own_three_allow(self):
        record(cell_of(self.knot), "0.90")
        path = f"/labs/{self.lab.id}/show-values"

        def others():
            return as_group(self.tern).get("/api/bench").json()["cells"][0]["others"]

        send(self.client, path, {"on": True})
        self.assertIsNone(others())
        for _ in range(3):
            record(cell_of(self.tern), "0.94")
        self.assertEqual((others()["groups"], others()["mean_v"]), (1, 0.9))
        send(self.client, path, {"on": False})
        self.assertIsNone(others())

    def test_only_an_open_lab_has_a_board_to_change(self):
        close_lab(actor=self.ada, lab_id=self.lab.id)
        for path, body in (("pause", {"on": True}), ("minutes", {"minutes": 5})):
            self.assertEqual(send(self.client, f"/labs/{self.lab.id}/{path}", body).json()["code"], "not_open")

    def test_nobody_else_changes_the_room(self):
        for client in (as_teacher(teacher("bea")), as_group(self.tern), self.client_class()):
            for path, body in (("pause", {"on": True}), ("minutes", {"minutes": 5}), ("show-values", {"on": True})):
                answer = send(client, f"/labs/{self.lab.id}/{path}", body)
                self.assertIn(answer.status_code, (401, 404), path)
            answer = send(client, f"/groups/{self.tern.id}/meter", {"address": "127.0.0.1:5025"})
            self.assertIn(answer.status_code, (401, 404))
