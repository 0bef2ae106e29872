"""Claims about packs: of one's own, weighed on its numbers, seen by the teacher."""

import uuid

from django.db import connection
from django.test import TestCase
from django.test.utils import CaptureQueriesContext

from server.findings.release import release
from server.tests.support import as_group, as_teacher, group_of, lab_of, send, teacher

PLATES = {"negative": "zinc", "electrolyte": "rhubarb-juice", "positive": "copper"}


class OfPacks(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada)
        release(actor=self.ada, lab_id=self.lab.id, parts=("claims", "power"))
        self.tern, self.knot = (as_group(group_of(self.lab, name)) for name in ("Tern", "Knot"))
        self.pack = self.build(self.tern)

    def build(self, client):
        """Two cells of which the second adds nothing: bridged."""
        pack = str(uuid.uuid4())
        send(client, "/bench/packs", {"id": pack, "load": "led-red"})
        for place, total in ((1, "0.95"), (2, "1.02")):
            for kind, more in (("cell", PLATES), ("alone", {"text": "0.95"}), ("sum", {"text": total})):
                body = {"id": str(uuid.uuid4()), "pack_id": pack, "kind": kind, "position": place, **more}
                self.assertEqual(send(client, "/bench/pack-entries", body).status_code, 200)
        return pack

    def claim(self, client, status=200, cause="pack-cell", **changes):
        words = "The second one adds almost nothing, so its cup leaks into the first."
        body = {"id": str(uuid.uuid4()), "cell": None, "pack": self.pack, "cause": cause, "reasoning": words, "cited": []}
        answer = send(client, "/bench/claims", body | changes)
        self.assertEqual(answer.status_code, status, answer.content)
        return answer.json()

    def of(self, client):
        return client.get("/api/bench/claims").json()

    def test_a_claim_about_the_own_pack_is_weighed_on_its_numbers(self):
        self.assertEqual(self.of(self.tern)["packs"], [{"id": self.pack, "name": "2 in a row for the red LED"}])
        self.claim(self.tern)
        found = self.of(self.tern)["claims"][0]
        self.assertEqual(
            (found["pack"], found["short"], found["verdict"]), (self.pack, "2 in a row for the red LED", "fits")
        )
        self.assertIn("Cell 2", found["says"])
        self.assertEqual(found["evidence"], "")  # the pack's numbers are the evidence
        seen = as_teacher(self.ada).get(f"/api/labs/{self.lab.id}/claims").json()
        self.assertEqual(seen["claims"][0]["cause_name"], "One cell is the trouble")
        self.assertEqual(seen["packs"], [])

    def test_another_groups_pack_and_causes_of_the_other_kind_are_refused(self):
        self.assertEqual(self.claim(self.knot, 404)["code"], "not_found")
        self.assertEqual(self.of(self.knot)["packs"], [])
        self.assertEqual(self.claim(self.tern, 422, cause="bridge")["code"], "cause")
        self.assertEqual(self.claim(self.tern, 422, pack=None)["code"], "cause")
        about = group_of(self.lab, "Tern").cells.first()
        cell = {key: getattr(about, key) for key in ("negative", "electrolyte", "positive", "condition")}
        self.assertEqual(self.claim(self.tern, 404, cell=cell)["code"], "not_found")  # about one thing, not two

    def test_the_teacher_sees_why_packs_fell_short_and_nobody_else(self):
        address = f"/api/labs/{self.lab.id}/packs/causes"
        found = as_teacher(self.ada).get(address).json()["packs"]
        self.assertEqual([(one["group"], one["name"]) for one in found], [("Tern", "2 in a row for the red LED")])
        weighed = {cause["key"]: cause["verdict"] for cause in found[0]["causes"]}
        self.assertEqual((weighed["pack-cell"], weighed["pack-metal"]), ("fits", "cannot_tell"))
        self.assertEqual(as_teacher(teacher("bob")).get(address).status_code, 404)
        self.assertEqual(self.tern.get(address).status_code, 401)

    def test_many_claims_about_packs_ask_no_more(self):
        self.claim(self.tern)
        self.of(self.tern)
        with CaptureQueriesContext(connection) as few:
            self.of(self.tern)
        for _ in range(3):
            self.pack = self.build(self.tern)
            self.claim(self.tern)
        self.of(self.tern)
        with CaptureQueriesContext(connection) as many:
            self.of(self.tern)
        self.assertEqual(len(many), len(few))
