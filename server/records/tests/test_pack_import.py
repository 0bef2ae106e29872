"""A table of packs given out comes in again, elsewhere too, and gives the same packs."""

import uuid

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase

from server.power.models import Pack, PackEntry
from server.tests.support import as_group, as_teacher, group_of, lab_of, send, teacher

PLATES = {"negative": "zinc", "electrolyte": "rhubarb-juice", "positive": "copper"}


class BringingPacks(TestCase):
    def setUp(self):
        self.ada, self.bob = teacher("ada"), teacher("bob")
        self.lab, self.other = lab_of(self.ada), lab_of(self.bob)
        tern = as_group(group_of(self.lab, "Tern"))
        self.pack = str(uuid.uuid4())
        send(tern, "/bench/packs", {"id": self.pack, "load": "led-red"})
        wrong = self.enter(tern, "alone", position=1, text="9.5")
        self.enter(tern, "cell", position=1, **PLATES)
        self.enter(tern, "alone", position=1, text="0.95", corrects=wrong, reason="the point was missing")
        self.enter(tern, "sum", position=1, text="0.95")
        self.enter(tern, "load_a", text="0.06", unit="mA")
        self.enter(tern, "note", text="=2+2")
        self.table = as_teacher(self.ada).get(f"/api/labs/{self.lab.id}/tables/packs.csv").content

    def enter(self, client, kind, **fields):
        body = {"id": str(uuid.uuid4()), "pack_id": self.pack, "kind": kind} | fields
        answer = send(client, "/bench/pack-entries", body)
        self.assertEqual(answer.status_code, 200, answer.content)
        return body["id"]

    def bring(self, content, status=200, who=None, lab=None):
        address = f"/api/labs/{(lab or self.other).id}/packs/import"
        answer = as_teacher(who or self.bob).post(address, {"file": SimpleUploadedFile("packs.csv", content)})
        self.assertEqual(answer.status_code, status, answer.content)
        return answer.json()

    def packs_of(self, who, lab):
        found = as_teacher(who).get(f"/api/labs/{lab.id}/packs").json()["packs"]
        for pack in found:
            del pack["id"], pack["received_at"]
            places = {one["id"]: k for k, one in enumerate(pack["entries"])}
            for entry in pack["entries"]:
                entry["corrected_by"] = places.get(entry["corrected_by"])
                entry["corrects"] = places.get(entry["corrects"])
                del entry["id"], entry["received_at"]
            pack["entries"].sort(key=lambda one: (one["kind"], one["text"]))
        return found

    def test_another_lab_gets_the_same_packs_with_their_corrections_and_once(self):
        self.assertEqual(self.bring(self.table), {"packs": 1, "entries": 6, "known": 0})
        theirs, ours = self.packs_of(self.bob, self.other), self.packs_of(self.ada, self.lab)
        for entry in (*theirs[0]["entries"], *ours[0]["entries"]):
            entry["corrects"], entry["corrected_by"] = entry["corrects"] is not None, entry["corrected_by"] is not None
        self.assertEqual(theirs, ours)
        self.assertEqual(PackEntry.objects.filter(group__lab=self.other, corrects__isnull=False).get().text, "0.95")
        self.assertEqual(self.bring(self.table), {"packs": 0, "entries": 0, "known": 1})
        self.assertEqual(Pack.objects.count(), 2)

    def test_a_faulty_line_is_named_and_nothing_comes_in(self):
        found = self.bring(self.table.replace(b"0.06", b"six"), 422)
        self.assertEqual([row["line"] for row in found["rows"]], [6])
        self.assertIn("Nothing was imported", found["message"])
        strange = self.bring(self.table.replace(b"Tern", b"Heron"), 422)
        self.assertIn("Heron", strange["rows"][0]["message"])
        self.assertEqual(self.bring(b"group,volts\nTern,1\n", 422)["code"], "columns")
        self.assertFalse(Pack.objects.filter(group__lab=self.other).exists())

    def test_only_into_ones_own_lab(self):
        self.bring(self.table, 404, who=self.bob, lab=self.lab)
