"""What devices' clocks say, and what comes in after the lab has closed."""

import uuid
from datetime import timedelta
from importlib import import_module

from django.apps import apps
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test import TestCase
from django.utils import timezone

from server.entries.clock import Clock
from server.entries.models import MeterCheck, Observation, Photo, Prediction, Reading
from server.entries.tests.pictures import jpeg
from server.labs.models import Lab
from server.labs.opening import close_lab, open_lab
from server.tests.support import as_group, as_teacher, cell_of, group_of, lab_of, record, send, teacher

ODD = (
    "0001-01-01T00:00:00+14:00",
    "9999-12-31T23:59:59-14:00",
    "2026-05-04T09:30:00+23:59",
    "0001-01-01T00:00:00Z",
    "tomorrow, I think",
    "2026-05-04T09:30:00",
    "x" * 500,
)
ISO_READ = "2026-05-04T09:30:00.000Z"


class Times(TestCase):
    """A clock may say anything; no entry is refused for it and no page breaks over it."""

    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada)
        self.cell = cell_of(group_of(self.lab))
        self.client = as_group(group_of(self.lab))

    def entries(self, at):
        cell, file = str(self.cell.id), SimpleUploadedFile("p.jpg", jpeg(), "image/jpeg")
        leads = {"red": self.cell.positive, "black": self.cell.negative}
        common = lambda: {"id": str(uuid.uuid4()), "device_at": at, "sent_at": at}  # noqa: E731
        yield "/bench/predictions", common() | {"cell_id": cell, "negative": "zinc", "text": "1", "unit": "V"}
        yield "/bench/readings", common() | {"cell_id": cell, "text": "0.9", "unit": "V", **leads}
        yield "/bench/meter-checks", common() | {"leads": "0.00", "dry": "1.55"}
        yield "/bench/observations", common() | {"cell_id": cell, "text": "bubbles"}
        yield "/bench/photos", common() | {"cell_id": cell, "photo": file}

    def test_no_entry_is_refused_for_its_clock_and_every_page_still_opens(self):
        self.client.get("/api/bench")
        for at in ODD[:1]:
            for path, body in self.entries(at):
                files = "photo" in body
                answer = self.client.post(f"/api{path}", body) if files else send(self.client, path, body)
                self.assertEqual(answer.status_code, 200, (path, at, answer.content))
        for at in ODD[1:]:
            path, body = list(self.entries(at))[1]
            self.assertEqual(send(self.client, path, body).status_code, 200, at)
        for model in (Reading, MeterCheck, Observation, Photo, Prediction):
            self.assertEqual(model.objects.filter(device_said__startswith="0001-01-01").first().device_at, None)
        mine = as_teacher(self.ada)
        for path in ("board", "compare", "tables.xlsx", "tables/readings.csv", "predictions"):
            self.assertEqual(mine.get(f"/api/labs/{self.lab.id}/{path}").status_code, 200, path)
        self.assertEqual(self.client.get("/api/bench").status_code, 200)

    def test_a_time_that_can_be_one_is_kept_in_utc_however_far_off_its_zone(self):
        self.assertEqual(Clock("2026-05-04T09:30:00+23:59").device_at.isoformat(), "2026-05-03T09:31:00+00:00")
        for odd in (*ODD[:2], *ODD[3:]):
            self.assertIsNone(Clock(odd).device_at, odd)

    def test_a_row_that_no_program_could_read_is_mended_by_the_migration(self):
        record(self.cell)
        with connection.cursor() as cursor:
            cursor.execute("SET LOCAL pipette.retention = 'on'")
            cursor.execute("UPDATE bench_reading SET device_at = '0001-12-31 10:00:00+00 BC'")
            cursor.execute("SET LOCAL pipette.retention = 'off'")
        for table in import_module("server.entries.migrations.0009_mend_device_times").TABLES:
            with connection.schema_editor() as editor:
                import_module("server.labs.repair").keep_as_text(f"bench_{table}")(apps, editor)
        kept = Reading.objects.get()
        self.assertIsNone(kept.device_at)
        self.assertIn("BC", kept.device_said)

    def test_waiting_time_comes_off_and_a_wrong_clock_does_not_matter(self):
        now = timezone.now()
        wrong = now - timedelta(days=40_000)
        said = lambda device, sent: {  # noqa: E731
            "device_at": device and device.isoformat(),
            "sent_at": sent and sent.isoformat(),
        }
        late = record(self.cell, **said(wrong, wrong + timedelta(minutes=9)))
        self.assertAlmostEqual((late.received_at - late.taken_at).total_seconds(), 540.0)
        for device, sent in ((None, None), (now, now - timedelta(minutes=5)), (wrong, now)):
            kept = record(self.cell, **said(device, sent))
            self.assertEqual(kept.taken_at, kept.received_at)


class BeforeTheBell(TestCase):
    """What was entered while the lab was open counts, even if it comes in after closing."""

    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada)
        self.cell = cell_of(group_of(self.lab))
        self.client = as_group(group_of(self.lab))
        Lab.objects.filter(id=self.lab.id).update(opened_at=timezone.now() - timedelta(minutes=40))
        close_lab(actor=self.ada, lab_id=self.lab.id)
        Lab.objects.filter(id=self.lab.id).update(closed_at=timezone.now() - timedelta(minutes=5))

    def post(self, waited_min, **changes):
        sent = timezone.now() - timedelta(days=3)  # its clock is three days slow
        body = {
            "id": str(uuid.uuid4()), "cell_id": str(self.cell.id), "red": self.cell.positive, "black": self.cell.negative,
            "text": "0.94", "unit": "V", "sent_at": sent.isoformat(),
            "device_at": (sent - timedelta(minutes=waited_min)).isoformat(),
        }  # fmt: skip
        return send(self.client, "/bench/readings", body | changes)

    def test_a_reading_typed_before_closing_is_kept_with_its_own_time_and_marked(self):
        kept = self.post(12).json()
        self.assertTrue(kept["after_closing"])
        row = Reading.objects.get()
        self.assertAlmostEqual((row.received_at - row.taken_at).total_seconds(), 720.0, delta=1.0)
        shown = as_teacher(self.ada).get(f"/api/labs/{self.lab.id}/compare").json()
        self.assertEqual([one["text"] for one in shown["after_closing"]], ["0.94"])
        aside = send(as_teacher(self.ada), f"/readings/{row.id}/aside", {"reason": "too late for me"})
        self.assertEqual(aside.status_code, 200)
        self.assertEqual(as_teacher(self.ada).get(f"/api/labs/{self.lab.id}/compare").json()["reading_count"], 1)
        self.assertEqual(as_teacher(self.ada).get(f"/api/labs/{self.lab.id}/compare").json()["electrolytes"], [])

    def test_what_was_on_its_way_as_the_bell_rang_counts_as_entered_by_then(self):
        self.assertTrue(self.post(5 - 4 / 60).json()["after_closing"])  # four seconds after
        row = Reading.objects.select_related("cell__group__lab").get()
        self.assertEqual(row.taken_at, row.cell.group.lab.closed_at)

    def test_what_was_typed_after_closing_is_refused_for_a_reason_that_can_pass(self):
        for waited, changes in ((1, {}), (60, {}), (12, {"sent_at": None}), (-1, {})):
            answer = self.post(waited, **changes)
            self.assertEqual((answer.status_code, answer.json()["code"]), (409, "lab_closed"), waited)
            self.assertTrue(answer.json()["passing"])
        self.assertEqual(Reading.objects.count(), 0)
        open_lab(actor=self.ada, lab_id=self.lab.id)
        self.assertFalse(self.post(1).json()["after_closing"])

    def test_a_cell_that_went_to_another_group_is_a_reason_that_can_pass_and_a_word_is_none(self):
        other = cell_of(group_of(self.lab, "Knot"))
        moved = self.post(12, cell_id=str(other.id))
        self.assertEqual((moved.status_code, moved.json()["passing"]), (404, True))
        self.assertFalse(self.post(12, text="hello").json()["passing"])

    def test_a_device_may_join_a_closed_lab_for_two_weeks_to_send_what_it_has(self):
        lab, group = Lab.objects.get(id=self.lab.id), group_of(self.lab)
        join = lambda: send(self.client_class(), "/join", {"code": lab.join_code, "pin": group.pin}).status_code  # noqa: E731
        self.assertEqual(join(), 200)
        Lab.objects.filter(id=lab.id).update(closed_at=timezone.now() - timedelta(days=15))
        self.assertEqual(join(), 404)
