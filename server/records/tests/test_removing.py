"""How long things are kept, and taking out what somebody typed when they ask for it."""

import uuid
from datetime import timedelta

from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import IntegrityError, transaction
from django.test import TestCase
from django.utils import timezone

from server.entries.models import Observation, Photo, Prediction, Reading
from server.entries.photos import path_of
from server.entries.tests.pictures import jpeg
from server.findings.models import Claim
from server.labs.models import Lab
from server.people.models import Deed
from server.records.models import Removal
from server.records.removing import REMOVED
from server.records.retention import purge
from server.tests.support import after_waiting, as_group, as_teacher, cell_of, group_of, lab_of, record, send, teacher


class Kept(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada)
        self.cell = cell_of(group_of(self.lab))
        self.device, self.desk = as_group(group_of(self.lab)), as_teacher(self.ada)
        record(self.cell)
        self.note("Priya saw bubbles")
        picture = SimpleUploadedFile("a.jpg", jpeg(), content_type="image/jpeg")
        self.device.post("/api/bench/photos", {"id": str(uuid.uuid4()), "cell_id": str(self.cell.id), "photo": picture})
        send(self.desk, f"/labs/{self.lab.id}/close")

    def note(self, text):
        send(self.device, "/bench/observations", {"id": str(uuid.uuid4()), "cell_id": str(self.cell.id), "text": text})

    def closed(self, days):
        Lab.objects.filter(id=self.lab.id).update(closed_at=timezone.now() - timedelta(days=days))

    def keep(self, days, client=None):
        body = {"days": days}
        return (client or self.desk).put(f"/api/labs/{self.lab.id}/kept", body, content_type="application/json")

    def left(self):
        return Photo.objects.count(), Observation.objects.count(), Reading.objects.count()

    def test_photographs_and_notes_go_after_ninety_days_and_readings_stay(self):
        photo = Photo.objects.get()
        self.closed(89)
        after_waiting()
        purge()
        self.assertEqual(self.left(), (1, 1, 1))
        self.closed(91)
        after_waiting()
        purged = purge()
        self.assertEqual((purged.photographs, purged.notes), (1, 1))
        self.assertEqual(self.left(), (0, 0, 1))
        self.assertFalse(path_of(photo.id).exists())

    def test_what_went_stands_in_the_teachers_list_of_deeds(self):
        self.closed(91)
        after_waiting()
        purge()
        self.assertEqual(Deed.objects.get(what="over").about, "1 photographs, 1 notes")

    def test_the_teacher_says_how_long_also_as_long_as_the_lab(self):
        self.assertEqual(self.keep(None).status_code, 200)
        self.closed(1000)
        after_waiting()
        purge()
        self.assertEqual(self.left(), (1, 1, 1))
        self.keep(30)
        purge()
        self.assertEqual(self.left(), (1, 1, 1))  # a week in which somebody may notice
        after_waiting()
        purge()
        self.assertEqual(self.left(), (0, 0, 1))

    def test_days_that_are_none_and_strangers_change_nothing(self):
        for days in (0, -1, 5000):
            self.assertEqual(self.keep(days).status_code, 422)
        self.assertEqual(self.keep(5, as_teacher(teacher("eve"))).status_code, 404)
        self.assertEqual(self.desk.get(f"/api/labs/{self.lab.id}/kept").json()["days"], 90)

    def test_until_when_is_said(self):
        self.assertIsNotNone(self.desk.get(f"/api/labs/{self.lab.id}/kept").json()["until"])


class OnRequest(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada)
        self.cell = cell_of(group_of(self.lab))
        self.device, self.desk = as_group(group_of(self.lab)), as_teacher(self.ada)
        for text in ("Priya saw bubbles", "no change to see"):
            body = {"id": str(uuid.uuid4()), "cell_id": str(self.cell.id), "text": text}
            send(self.device, "/bench/observations", body)

    def find(self, words="priya", client=None):
        return (client or self.desk).get(f"/api/labs/{self.lab.id}/words", {"words": words})

    def remove(self, things, client=None):
        return send(client or self.desk, f"/labs/{self.lab.id}/words/remove", {"things": things})

    def test_words_are_found_and_taken_out_by_the_next_run_and_the_row_stays(self):
        (found,) = self.find().json()["found"]
        self.assertEqual((found["kind"], found["group"], found["asked"]), ("note", "Tern", False))
        self.assertEqual(self.remove([{"kind": "note", "id": found["id"]}]).status_code, 200)
        self.assertTrue(self.find().json()["found"][0]["asked"])
        self.assertEqual(purge().words, 0)  # asked just now
        after_waiting()
        self.assertEqual(purge().words, 1)
        self.assertEqual(Observation.objects.get(id=found["id"]).text, REMOVED)
        self.assertEqual(self.find().json()["found"], [])
        self.assertIsNotNone(Removal.objects.get().done_at)
        self.assertEqual(purge().words, 0)

    def test_the_reason_of_a_prediction_and_what_speaks_against_a_claim_are_found_and_taken_out(self):
        Prediction.objects.create(
            cell=self.cell,
            negative="zinc",
            text="1",
            unit="V",
            volts_v=1.0,
            because="Priya says so",
            received_at=timezone.now(),
        )
        Claim.objects.create(
            group=self.cell.group, cause="film", reasoning="We saw it.", against="Ask Priya", received_at=timezone.now()
        )
        found = {one["kind"]: one["id"] for one in self.find().json()["found"]}
        self.assertEqual(set(found), {"note", "reason", "claim"})
        self.remove([{"kind": kind, "id": key} for kind, key in found.items()])
        after_waiting()
        self.assertEqual(purge().words, 3)
        self.assertEqual((Prediction.objects.get().because, Claim.objects.get().against), (REMOVED, REMOVED))
        self.assertEqual(self.find().json()["found"], [])

    def test_asking_twice_is_asking_once(self):
        (found,) = self.find().json()["found"]
        for _ in range(2):
            self.remove([{"kind": "note", "id": found["id"]}])
        self.assertEqual(Removal.objects.count(), 1)

    def test_the_server_itself_still_changes_nothing_that_was_typed(self):
        with self.assertRaises(IntegrityError), transaction.atomic():
            Observation.objects.update(text="else")

    def test_one_letter_finds_nothing_and_strangers_find_and_remove_nothing(self):
        self.assertEqual(self.find("p").status_code, 422)
        eve = as_teacher(teacher("eve"))
        self.assertEqual(self.find(client=eve).status_code, 404)
        (found,) = self.find().json()["found"]
        self.assertEqual(self.remove([{"kind": "note", "id": found["id"]}], eve).status_code, 404)
        other = lab_of(self.ada, title="Other")
        answer = send(self.desk, f"/labs/{other.id}/words/remove", {"things": [{"kind": "note", "id": found["id"]}]})
        self.assertEqual((answer.status_code, Removal.objects.count()), (404, 0))
