"""A group tests its claim at the bench: kept once, its own, weighed by the way the reading went."""

from __future__ import annotations

import io
import uuid
import zipfile
from datetime import timedelta

from django.db import DatabaseError, transaction
from django.test import TestCase
from django.utils import timezone

from server.findings.models import Claim, OwnTest
from server.findings.release import release
from server.labs.models import Lab
from server.records.retention import purge
from server.tests.support import as_group, as_teacher, group_of, lab_of, record, teacher

LEMON = {"negative": "zinc", "electrolyte": "lemon-juice", "positive": "copper"}


class OwnTests(TestCase):
    def setUp(self) -> None:
        super().setUp()
        self.ada = teacher("ada")
        self.lab = lab_of(
            self.ada, ("Tern", "Knot"), electrodes=["zinc", "copper", "aluminium"], electrolytes=["lemon-juice"]
        )
        release(actor=self.ada, lab_id=self.lab.id, parts=["claims"])
        self.tern, self.knot = (as_group(group_of(self.lab, name)) for name in ("Tern", "Knot"))
        cell = next(c for c in group_of(self.lab).cells.all() if {c.negative, c.positive} == {"zinc", "copper"})
        reading = record(cell)
        self.claim_id = str(uuid.uuid4())
        claim = {
            "id": self.claim_id,
            "cell": LEMON,
            "cause": "no_ions",
            "reasoning": "no copper",
            "cited": [str(reading.id)],
        }
        self.assertEqual(self.tern.post("/api/bench/claims", claim, "application/json").status_code, 200)

    def did(self, device=None, **changed):
        body = {"id": str(uuid.uuid4()), "test": "copper:traces", "before": "0.94", "after": "1.01"} | changed
        return (device or self.tern).post(f"/api/bench/claims/{self.claim_id}/tests", body, "application/json")

    def claim(self, device=None):
        path = "/api/bench/claims" if device is None else f"/api/labs/{self.lab.id}/claims"
        return (device or self.tern).get(path).json()["claims"][0]

    def test_what_can_be_done_is_offered_and_which_way_it_goes_is_not_told_before(self) -> None:
        (offered,) = self.claim()["tests"]
        self.assertEqual(offered["key"], "copper:traces")
        self.assertIn("add a few drops", offered["do"])
        for told in ("rises", "falls", " V"):
            self.assertNotIn(told, offered["do"])

    def test_before_and_after_weigh_the_claim_by_the_way_the_reading_went(self) -> None:
        for after, code, word in (
            ("1.01", "fits", "speaks for"), ("0.94", "contradicted", "hardly"), ("0,80", "contradicted", "other way")
        ):  # fmt: skip
            with self.subTest(after):
                self.assertEqual(self.did(after=after).status_code, 200)
                done = self.claim()["tested"][-1]
                self.assertEqual((done["after"], done["verdict"]), (after, code))
                self.assertIn(word, done["says"])
        self.assertEqual(len(self.claim(as_teacher(self.ada))["tested"]), 3)

    def test_sent_twice_it_is_kept_once_and_only_by_its_own_group(self) -> None:
        again = str(uuid.uuid4())
        for _ in range(2):
            self.assertEqual(self.did(id=again).status_code, 200)
        self.assertEqual(OwnTest.objects.count(), 1)
        self.assertEqual(self.did(self.knot).status_code, 404)
        self.assertEqual(self.knot.get("/api/bench/claims").json()["claims"], [])

    def test_what_cannot_be_read_or_was_not_offered_is_refused_by_its_field(self) -> None:
        for changed, field in (({"before": "much"}, "before"), ({"after": "1 2"}, "after"), ({"test": "zinc:film"}, "test")):
            answer = self.did(**changed)
            self.assertEqual((answer.status_code, answer.json()["field"]), (422, field))
        for _ in range(12):
            self.did()
        self.assertEqual((self.did().status_code, self.did().json()["code"]), (409, "enough"))

    def test_what_the_teacher_no_longer_asks_for_is_refused_and_what_was_kept_comes_and_goes_with_the_lab(self) -> None:
        self.did()
        release(actor=self.ada, lab_id=self.lab.id, parts=[])
        self.assertEqual((self.did().status_code, OwnTest.objects.count()), (403, 1))
        package = as_teacher(self.ada).get(f"/api/labs/{self.lab.id}/package.zip").content
        with zipfile.ZipFile(io.BytesIO(package)) as files:
            self.assertIn("copper:traces,0.94,1.01", files.read("own_tests.csv").decode())
        Lab.objects.filter(id=self.lab.id).update(deleted_at=timezone.now() - timedelta(days=31))
        purge()
        self.assertEqual(OwnTest.objects.count(), 0)

    def test_the_database_refuses_to_change_or_remove_a_test(self) -> None:
        self.did()
        for act in (lambda: OwnTest.objects.update(after_v=9.0), lambda: OwnTest.objects.all()._raw_delete("default")):
            with self.assertRaises(DatabaseError), transaction.atomic():
                act()

    def test_about_the_whole_ladder_nothing_is_offered(self) -> None:
        whole = {"id": str(uuid.uuid4()), "cell": None, "cause": "film", "reasoning": "dull", "cited": []}
        self.assertEqual(self.tern.post("/api/bench/claims", whole, "application/json").status_code, 200)
        claims = self.tern.get("/api/bench/claims").json()["claims"]
        self.assertEqual(next(one for one in claims if one["cell"] is None)["tests"], [])
        self.assertEqual(Claim.objects.count(), 2)
