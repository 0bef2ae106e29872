"""Loggers' files of packs: kept once, thinned, told with what was typed; units are asked for."""

import uuid
from datetime import UTC, datetime, timedelta

from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection, transaction
from django.db.utils import DatabaseError
from django.test import TestCase

from server.power.models import RunFile
from server.tests.support import as_group, as_teacher, group_of, lab_of, send, teacher


class Files(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada)
        self.tern, self.knot = (as_group(group_of(self.lab, name)) for name in ("Tern", "Knot"))
        self.pack = str(uuid.uuid4())
        send(self.tern, "/bench/packs", {"id": self.pack, "load": "470"})

    def hand_in(self, content, status=200, client=None, **fields):
        body = {"id": str(uuid.uuid4()), "pack_id": self.pack, **fields}
        answer = (client or self.tern).post(
            "/api/bench/run-files", body | {"file": SimpleUploadedFile("night.csv", content)}
        )
        self.assertEqual(answer.status_code, status, answer.content)
        return answer.json()

    def run_of(self, client=None):
        return (client or self.tern).get(f"/api/packs/{self.pack}/run").json()

    def test_a_file_is_told_as_a_run_and_the_teacher_sees_it(self):
        rows = "".join(f"{k},{0.95 - 0.0001 * k:.4f}\n" for k in range(3000))
        self.hand_in(b"t_s,volts_v\n" + rows.encode())
        found = self.run_of(as_teacher(self.ada))
        self.assertLessEqual(len(found["volts"]), 1000)
        self.assertAlmostEqual(found["volts"][-1]["t_s"], 2999.0)
        kept = self.tern.get("/api/bench/packs").json()["packs"][0]["files"]
        self.assertEqual([(one["name"], one["rows"]) for one in kept], [("night.csv", 3000)])

    def test_it_lies_in_time_where_it_was_taken_among_what_was_typed(self):
        now = datetime.now(UTC)
        typed = {"pack_id": self.pack, "kind": "run_v", "text": "0.95", "unit": "V"}
        at = (now - timedelta(minutes=30)).isoformat()
        send(
            self.tern, "/bench/pack-entries", typed | {"id": str(uuid.uuid4()), "device_at": at, "sent_at": now.isoformat()}
        )
        # 600 s of logger, of which the last sample was ten minutes ago: it begins twenty minutes ago
        self.hand_in(b"t_s,volts_v\n0,0.90\n600,0.80\n", ended_min="10", device_at=now.isoformat(), sent_at=now.isoformat())
        times = [point["t_s"] for point in self.run_of()["volts"]]
        for found, meant in zip(times, (0.0, 600.0, 1200.0), strict=True):
            self.assertAlmostEqual(found, meant, delta=2.0)

    def test_units_are_asked_for_and_then_taken(self):
        bare = b"time,current\n0,1.5\n1,1.4\n"
        said = self.hand_in(bare, 422)
        self.assertEqual(said["code"], "unit_asked")
        self.assertIn("names no unit", said["message"])
        self.hand_in(bare, time_unit="h", value_unit="mA")
        self.assertEqual([point["value"] for point in self.run_of()["current"]], [0.0015, 0.0014])

    def test_bad_files_other_groups_and_the_same_id_again(self):
        self.assertEqual(self.hand_in(b"words", 422)["code"], "bad_run")
        self.hand_in(b"t_s,volts_v\n0,0.9\n1,0.8\n", 404, client=self.knot)
        key = str(uuid.uuid4())
        for _ in range(2):
            self.hand_in(b"t_s,volts_v\n0,0.9\n1,0.8\n", id=key)
        self.assertEqual(RunFile.objects.count(), 1)
        with self.assertRaises(DatabaseError), transaction.atomic(), connection.cursor() as cursor:
            cursor.execute("UPDATE power_runfile SET name = 'x'")
