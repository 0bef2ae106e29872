"""Deleting: a lab with thirty days to undo, an account, and what is gone for good; and what teachers did."""

import tempfile
import uuid
from datetime import timedelta
from io import StringIO
from pathlib import Path
from unittest import mock

from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import CommandError, call_command
from django.test import Client, override_settings
from django.utils import timezone

from server.entries.models import Reading
from server.entries.photos import path_of
from server.entries.tests.pictures import jpeg
from server.findings.models import Claim, Elsewhere
from server.labs.models import Lab
from server.materials.models import OwnMaterial
from server.people.models import Deed, GroupSession, Share, SignedIn, Teacher, WrongTry
from server.records.gone import hanging_on_lab
from server.records.retention import MOST_LABS
from server.tests.support import (
    KeptReadingsTestCase,
    as_group,
    as_teacher,
    cell_of,
    group_of,
    lab_of,
    record,
    send,
    teacher,
)


class Deleting(KeptReadingsTestCase):
    def setUp(self):
        self.enterContext(override_settings(PHOTO_DIR=Path(self.enterContext(tempfile.TemporaryDirectory()))))
        self.ada = teacher()
        self.lab = lab_of(self.ada)
        self.tern = group_of(self.lab)
        self.mine, self.device = as_teacher(self.ada), as_group(self.tern)

    def fill(self):
        """A lab with something of every kind in it."""
        cell = cell_of(self.tern)
        wrong = record(cell, "9.4")
        record(cell, "0.94", corrects=wrong.id, reason="a slip")
        at = lambda: {"id": str(uuid.uuid4()), "cell_id": str(cell.id)}  # noqa: E731
        kept = self.device.post("/api/bench/photos", at() | {"photo": SimpleUploadedFile("p", jpeg())}).json()
        gone = self.device.post("/api/bench/photos", at() | {"photo": SimpleUploadedFile("p", jpeg())}).json()
        self.device.delete(f"/api/photos/{gone['id']}")
        send(self.device, "/bench/observations", at() | {"text": "bubbles"})
        send(self.device, "/bench/meter-checks", {"id": str(uuid.uuid4()), "leads": "0.00", "dry": "1.55"})
        send(self.mine, f"/groups/{self.tern.id}/aside", {"reason": "why not"})
        send(self.mine, f"/cells/{cell.id}/ask-again")
        send(self.mine, f"/labs/{self.lab.id}/release", {"parts": ["claims"]})
        claim = {"id": str(uuid.uuid4()), "cell": None, "cause": "film", "reasoning": "it was dull", "cited": []}
        send(self.device, "/bench/claims", claim)
        send(self.device, "/bench/claims", claim | {"id": str(uuid.uuid4()), "revises": claim["id"]})
        send(self.mine, f"/claims/{claim['id']}/answer", {"text": "well seen"})
        self.assertEqual(Claim.objects.count(), 2)
        return path_of(uuid.UUID(kept["id"]))

    def colleague(self):
        """A colleague who works in the lab, too."""
        cid = teacher("cid")
        shared = send(self.mine, f"/labs/{self.lab.id}/shares", {"teacher": cid.id, "way": "work"}, verb="put")
        self.assertEqual(shared.status_code, 200, shared.content)
        cell = cell_of(self.tern)
        about = {k: getattr(cell, k) for k in ("negative", "electrolyte", "positive", "condition")}
        value = {"cell": about, "text": "1.02", "u": "", "source": "a leaflet", "conditions": ""}
        kept_value = send(as_teacher(cid), f"/labs/{self.lab.id}/elsewhere", value)
        self.assertEqual(kept_value.status_code, 200, kept_value.content)
        send(self.mine, f"/labs/{self.lab.id}/homework", {"symptoms": ["zero"], "benches": 3})
        return cid

    def delete(self, title, client=None):
        return send(client or self.mine, f"/labs/{self.lab.id}/delete", {"title": title})

    def test_a_lab_is_deleted_by_its_typed_title_and_is_out_of_sight_for_everybody(self):
        self.fill()
        wrong = self.delete("Another")
        self.assertEqual((wrong.status_code, wrong.json()["field"]), (422, "title"))
        self.assertEqual(self.delete("A lab", as_teacher(teacher("bea"))).status_code, 404)
        self.assertEqual(self.delete(" a  LAB ").status_code, 200)
        self.assertEqual(self.mine.get("/api/labs/list").json(), [])
        for path in (f"labs/{self.lab.id}", f"labs/{self.lab.id}/board", f"labs/{self.lab.id}/compare"):
            self.assertEqual(self.mine.get(f"/api/{path}").status_code, 404, path)
        self.assertEqual(self.device.get("/api/bench").status_code, 401)
        self.assertEqual(send(self.mine, f"/groups/{self.tern.id}/new-pin").status_code, 404)
        self.assertEqual(send(self.mine, f"/readings/{Reading.objects.first().id}/aside", {"reason": "x"}).status_code, 404)
        body = {"code": self.lab.join_code, "pin": self.tern.pin}
        self.assertEqual(send(Client(), "/join", body).status_code, 404)

    def test_it_comes_back_as_it_was_within_thirty_days(self):
        self.fill()
        before = self.mine.get(f"/api/labs/{self.lab.id}").content
        self.delete("A lab")
        (line,) = self.mine.get("/api/labs/deleted").json()
        self.assertEqual(line["gone_on"], str(timezone.now().date() + timedelta(days=30)))
        self.assertEqual(as_teacher(teacher("bea")).get("/api/labs/deleted").json(), [])
        Lab.objects.update(deleted_at=timezone.now() - timedelta(days=29))
        call_command("retention", stdout=StringIO())
        self.assertEqual(send(self.mine, f"/labs/{self.lab.id}/undelete").status_code, 200)
        self.assertEqual(self.mine.get(f"/api/labs/{self.lab.id}").content, before)
        self.assertEqual(send(Client(), "/join", {"code": self.lab.join_code, "pin": self.tern.pin}).status_code, 200)

    def test_after_thirty_days_it_is_gone_with_its_photographs_and_other_labs_stay(self):
        photo = self.fill()
        self.colleague()
        other = lab_of(self.ada, groups=("Dodo",))
        record(cell_of(group_of(other, "Dodo")))
        self.delete("A lab")
        Lab.objects.filter(id=self.lab.id).update(deleted_at=timezone.now() - timedelta(days=31))
        said = StringIO()
        call_command("retention", stdout=said)
        self.assertIn("1 labs, 0 accounts, 2 photographs", said.getvalue())
        self.assertFalse(photo.exists())
        self.assertEqual(list(Lab.objects.values_list("id", flat=True)), [other.id])
        self.assertEqual(Reading.objects.count(), 1)
        self.assertEqual(send(self.mine, f"/labs/{self.lab.id}/undelete").status_code, 404)

    def test_what_a_colleague_did_here_stays_without_their_name_when_they_go(self):
        cid = self.colleague()
        self.assertEqual(send(as_teacher(cid), "/account/delete", {"password": "cidcid-long-enough"}).status_code, 200)
        Teacher.objects.filter(id=cid.id).update(deleted_at=timezone.now() - timedelta(days=31))
        said = [StringIO(), StringIO()]
        for out in said:
            call_command("retention", stdout=out)
        self.assertIn("0 labs, 1 accounts", said[0].getvalue())
        self.assertIn("0 labs, 0 accounts", said[1].getvalue())
        left = Teacher.objects.get(id=cid.id)
        self.assertEqual(Elsewhere.objects.get().teacher, left)
        self.assertEqual((left.email, left.is_active, left.has_usable_password()), ("", False, False))
        self.assertIn("a former colleague", left.username)
        self.assertEqual((Share.objects.count(), Deed.objects.filter(teacher=left).count()), (0, 0))
        self.assertEqual(send(Client(), "/sign-in", {"username": "cid", "password": "cidcid-long-enough"}).status_code, 401)
        page = self.mine.get(f"/api/labs/{self.lab.id}/shares").json()
        self.assertEqual([one["name"] for one in page["colleagues"]], [])

    def test_an_account_goes_with_its_labs_and_signing_in_takes_it_back(self):
        self.fill()
        cid = self.colleague()
        OwnMaterial.objects.create(key="own-1", owner=self.ada, kind="electrode", name="x", data={})
        other = as_teacher(self.ada)
        self.assertEqual(send(self.mine, "/account/delete", {"password": "guess"}).status_code, 401)
        right = "adaada-long-enough"
        self.assertEqual(send(self.mine, "/account/delete", {"password": right}).status_code, 200)
        self.assertEqual([one.get("/api/labs/list").status_code for one in (self.mine, other)], [401, 401])
        back = Client()
        self.assertEqual(send(back, "/sign-in", {"username": "ada", "password": right}).status_code, 200)
        self.assertEqual(len(back.get("/api/labs/list").json()), 1)
        send(back, "/account/delete", {"password": right})
        Teacher.objects.exclude(id=cid.id).update(deleted_at=timezone.now() - timedelta(days=31))
        call_command("retention", stdout=StringIO())
        self.assertEqual((list(Teacher.objects.all()), Lab.objects.count()), ([cid], 0))
        self.assertEqual({model for model in hanging_on_lab() if model._base_manager.exists()}, set())

    def test_sessions_and_wrong_tries_that_are_over_go(self):
        WrongTry.objects.create(door="join", account="X-1", address="127.0.0.1")
        WrongTry.objects.update(at=timezone.now() - timedelta(hours=2))
        GroupSession.objects.update(joined_at=timezone.now() - timedelta(days=2))
        send(Client(), "/sign-in", {"username": self.ada.username, "password": "adaada-long-enough"})
        SignedIn.objects.create(teacher=self.ada, session_key="long-over")
        call_command("retention", stdout=StringIO())
        self.assertEqual((WrongTry.objects.count(), GroupSession.objects.count()), (0, 0))
        self.assertEqual([one.session_key == "long-over" for one in SignedIn.objects.all()], [False])

    def test_what_a_teacher_did_is_kept_and_shown_to_that_teacher_only(self):
        self.fill()
        send(self.mine, f"/groups/{self.tern.id}/new-pin")
        shown = self.mine.get(f"/api/deeds?lab={self.lab.id}").json()
        self.assertEqual(
            [one["what"] for one in shown],
            ["Gave a group a new PIN", "Answered a claim", "Decided what groups see", "Asked for a new reading",
             "Set readings aside", "Opened the bench", "Signed the safety sheet off", "Planned a lab"],
        )  # fmt: skip
        self.assertEqual(shown[4]["about"], "all of Tern. why not")
        self.assertEqual(as_teacher(teacher("bea")).get("/api/deeds").json(), [])
        self.assertEqual(self.device.get("/api/deeds").status_code, 401)
        self.assertGreaterEqual(Deed.objects.count(), 8)

    def test_unusually_many_labs_at_once_are_left_until_somebody_has_looked(self):
        labs = [lab_of(self.ada, title=f"Lab {n}") for n in range(MOST_LABS)]
        ids = [lab.id for lab in labs] + [self.lab.id]
        Lab.objects.filter(id__in=ids).update(deleted_at=timezone.now() - timedelta(days=31))
        with self.assertRaisesMessage(CommandError, f"{MOST_LABS + 1} deleted labs are over and were not erased"):
            call_command("retention", stdout=StringIO())
        self.assertEqual(Lab.objects.count(), MOST_LABS + 1)
        call_command("retention", "--even-so", stdout=StringIO())
        self.assertEqual(Lab.objects.count(), 0)

    def test_a_great_part_of_all_readings_is_left_too_and_a_small_one_goes(self):
        record(cell_of(self.tern), "0.94")
        Lab.objects.filter(id=self.lab.id).update(deleted_at=timezone.now() - timedelta(days=31))
        with mock.patch("server.records.retention.LEAST_READINGS", 0):
            with self.assertRaises(CommandError):
                call_command("retention", stdout=StringIO())
            other = lab_of(self.ada, title="What stays")
            for text in ("0.91", "0.92", "0.93", "0.94"):
                record(cell_of(group_of(other)), text)
            call_command("retention", stdout=StringIO())
        self.assertEqual(Lab.objects.get().id, other.id)
