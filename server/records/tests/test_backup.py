"""Backup and restore: written, verified, wiped and brought back; damaged and newer ones are refused."""

import json
import tarfile
import tempfile
import uuid
from io import BytesIO, StringIO
from pathlib import Path
from unittest import mock

from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import CommandError, call_command
from django.db import IntegrityError, connection
from django.test import override_settings

from server.base.roles import grant
from server.config.as_served import ROLE
from server.entries.models import Photo, Reading
from server.entries.photos import path_of
from server.entries.tests.pictures import jpeg
from server.labs.models import Lab
from server.records import backup as module
from server.records.backup import BadBackup, backup, before_change, check, restore
from server.tests.support import KeptReadingsTestCase, as_group, cell_of, group_of, lab_of, record, teacher


class BackupAndRestore(KeptReadingsTestCase):
    def setUp(self):
        self.addCleanup(grant, "only-for-tests", ROLE)  # a restored database is given its rights at the next start
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.enterContext(override_settings(PHOTO_DIR=folder / "photos"))
        self.file = folder / "kept.pipette"
        lab = lab_of(teacher())
        self.cell = cell_of(group_of(lab))
        for k in range(5):
            record(self.cell, f"0.9{k}")
        body = {"id": str(uuid.uuid4()), "cell_id": str(self.cell.id), "photo": SimpleUploadedFile("p", jpeg())}
        as_group(self.cell.group).post("/api/bench/photos", body)
        self.picture = path_of(Photo.objects.get().id)

    def wipe(self):
        with connection.cursor() as cursor:
            cursor.execute("SET pipette.retention = 'on'")
            cursor.execute("TRUNCATE labs_lab, people_teacher CASCADE")
            cursor.execute("SET pipette.retention = 'off'")
        self.picture.unlink()

    def test_a_backup_says_whose_it_is_and_the_demos_takes_the_place_of_ones_own_only_when_that_is_asked_for(self):
        said = StringIO()
        call_command("backup", str(self.file), stdout=said)
        self.assertIn("kept.pipette, your own data: 5 readings", said.getvalue())
        self.file.unlink()
        with mock.patch.object(module, "DEMO_DATABASE", connection.settings_dict["NAME"]):
            self.assertEqual(backup(self.file).data, "demo")
        with self.assertRaisesRegex(BadBackup, "backup of the demo, not of your own data. Nothing was changed"):
            restore(self.file)
        self.assertEqual(Reading.objects.count(), 5)
        self.assertEqual(restore(self.file, demo=True).data, "demo")

    def test_what_was_wiped_comes_back_readings_and_photographs_alike(self):
        before = list(Reading.objects.values_list("id", "text", "received_at"))
        data = self.picture.read_bytes()
        found = backup(self.file)
        self.assertEqual((found.rows["bench_reading"], len(found.sha256)), (5, 2))
        self.assertEqual(self.file.stat().st_mode & 0o777, 0o600)
        self.wipe()
        self.assertEqual(Lab.objects.count(), 0)
        said = StringIO()
        call_command("restore", str(self.file), stdout=said)
        self.assertIn("5 readings, 1 photographs", said.getvalue())
        self.assertEqual(list(Reading.objects.values_list("id", "text", "received_at")), before)
        self.assertEqual(self.picture.read_bytes(), data)
        record(self.cell, "0.99")  # and it goes on
        with self.assertRaises(IntegrityError), connection.cursor() as cursor:  # append-only as before
            cursor.execute("DELETE FROM bench_reading")

    def test_a_damaged_cut_or_strange_file_is_refused_and_changes_nothing(self):
        backup(self.file)
        whole = self.file.read_bytes()
        middle = len(whole) // 2
        damaged = whole[:middle] + bytes([whole[middle] ^ 255]) + whole[middle + 1 :]
        for content in (b"", b"not a backup", whole[:middle], damaged):
            self.file.write_bytes(content)
            with self.assertRaises(CommandError, msg=content[:20]) as refused:
                call_command("restore", str(self.file))
            self.assertIn("Nothing was changed", str(refused.exception))
        self.assertEqual(Reading.objects.count(), 5)
        with self.assertRaises(CommandError):
            call_command("restore", "/nowhere/at.all")

    def changed(self, change):
        """The backup with another manifest."""
        with tarfile.open(self.file) as tar:
            parts = [(one, tar.extractfile(one).read()) for one in tar]
        manifest = json.loads(parts[0][1])
        change(manifest)
        text = json.dumps(manifest).encode()
        with tarfile.open(self.file, "w") as tar:
            for member, content in [(parts[0][0], text), *parts[1:]]:
                member.size = len(content)
                tar.addfile(member, BytesIO(content))

    def test_one_from_a_newer_version_is_refused(self):
        for change in (
            lambda manifest: manifest["migrations"].append(["bench", "0999_from_the_future"]),
            lambda manifest: manifest.update(version=2),
        ):
            backup(self.file)
            self.changed(change)
            with self.assertRaisesRegex(BadBackup, "newer version"):
                restore(self.file)

    def test_one_whose_rows_do_not_come_back_whole_is_refused_and_the_data_stays(self):
        backup(self.file)
        self.changed(lambda manifest: manifest["rows"].update(bench_reading=6))
        with self.assertRaisesRegex(BadBackup, "did not come back whole"):
            restore(self.file)
        self.assertEqual(Reading.objects.count(), 5)

    def test_what_cannot_be_written_whole_leaves_no_file(self):
        with mock.patch.object(module, "check", side_effect=BadBackup("x")), self.assertRaises(BadBackup):
            backup(self.file)
        self.assertEqual([path.name for path in self.file.parent.iterdir()], ["photos"])

    def test_before_a_change_a_dump_is_kept_and_only_the_newest_five(self):
        folder = self.file.parent / "backups"
        for k in range(7):
            with mock.patch.object(module.timezone, "now", return_value=module.timezone.now().replace(year=2030 + k)):
                made = before_change(folder)
        names = sorted(path.name for path in folder.iterdir())
        self.assertEqual((len(names), names[-1]), (5, made.name))
        self.assertEqual(check(made).rows["bench_reading"], 5)
