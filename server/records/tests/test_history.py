"""A lab's history, chained, kept by a package and by the head on a notebook, and laid beside what is there later."""

import csv
import io
import tempfile
import uuid
import zipfile
from pathlib import Path

from django.core.management import CommandError, call_command
from django.db import connection
from django.test import TestCase

from server.entries.beside import record_observation
from server.entries.entry import ObservationIn
from server.entries.models import Reading
from server.people.deeds import keep_deed
from server.records.history import CHAINED, FIRST, as_csv, broken_at, deeds_of, difference, entries_of, head_at, head_of
from server.records.package.tables import TABLES
from server.records.package.write import package_of
from server.room.services import set_reading_aside
from server.tests.support import as_teacher, group_of, lab_of, member_of, record, teacher


def rows_of(steps):
    return list(csv.DictReader(io.StringIO(as_csv(steps).decode())))


class History(TestCase):
    """Chains and what is told of them."""

    def setUp(self) -> None:
        self.ada = teacher()
        self.lab = lab_of(self.ada)
        self.cells = list(group_of(self.lab).cells.all())
        self.readings = [record(cell, text) for cell in self.cells for text in ("0.91", "0.92")]

    def guard(self, on: bool) -> None:
        """The database's own guard against changes, as somebody with the owner's password could take it off."""
        with connection.cursor() as cursor:
            cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")  # nothing is pending then
            cursor.execute(f"ALTER TABLE bench_reading {'ENABLE' if on else 'DISABLE'} TRIGGER USER")

    def verify(self, *args: str) -> str:
        out = io.StringIO()
        call_command("verify", *args, stdout=out)
        return out.getvalue()

    def package(self) -> str:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        file = Path(folder.name) / "lab.zip"
        file.write_bytes(package_of(self.lab, list(self.lab.groups.all()), ""))
        return str(file)

    def test_all_that_is_chained_is_guarded_by_the_database(self) -> None:
        with connection.cursor() as cursor:
            cursor.execute(
                "SELECT DISTINCT c.relname FROM pg_trigger t JOIN pg_class c ON c.oid = t.tgrelid "
                "JOIN pg_proc p ON p.oid = t.tgfoid WHERE p.proname = 'bench_keep'"
            )
            guarded = {name for (name,) in cursor.fetchall()}
        tables = {table.name: table.model._meta.db_table for table in TABLES}
        self.assertEqual([name for name in CHAINED if tables[name] not in guarded], [])

    def test_a_head_stays_what_it_was_and_a_new_entry_makes_another(self) -> None:
        before = entries_of(self.lab)
        self.assertEqual(len(before), len(self.readings))
        self.assertEqual(head_of(entries_of(self.lab)), head_of(before))
        record(self.cells[0], "0.93")
        after = entries_of(self.lab)
        self.assertEqual(head_at(after, len(before)), before[-1].head)
        self.assertNotEqual(after[-1].head, before[-1].head)
        self.assertEqual((head_at(after, 0), head_at(after, 99)), (FIRST, None))

    def test_setting_aside_and_deeds_are_told_too(self) -> None:
        entries, deeds = len(entries_of(self.lab)), len(deeds_of(self.lab))
        set_reading_aside(actor=self.ada, reading_id=self.readings[0].id, reason="plates touched")
        keep_deed(self.ada, "paused", self.lab)
        self.assertEqual(len(entries_of(self.lab)), entries + 1)
        self.assertEqual(len(deeds_of(self.lab)), deeds + 2)

    def test_a_package_says_what_was_changed_gone_and_put_in(self) -> None:
        file = self.package()
        record(self.cells[0], "0.94")
        self.assertIn(f"{len(self.readings)} entries as they were, 1 since.", self.verify(file))
        self.guard(False)
        Reading.objects.filter(id=self.readings[1].id).update(volts_v=1.11)
        Reading.objects.filter(id=self.readings[2].id).delete()
        self.guard(True)
        out = io.StringIO()
        with self.assertRaisesMessage(CommandError, "Not as it was given out: lab.zip."):
            call_command("verify", file, stdout=out)
        self.assertIn(f"changed: readings {self.readings[1].id}", out.getvalue())
        self.assertIn(f"gone: readings {self.readings[2].id}", out.getvalue())

    def test_what_is_put_in_among_the_old_is_seen(self) -> None:
        kept = rows_of(entries_of(self.lab))
        late = [row for row in kept if row["nth"] != "2"]
        found = difference(late, entries_of(self.lab))
        self.assertEqual((found.gone, found.changed, len(found.put_in), found.since), ((), (), 1, 0))
        self.assertFalse(found.whole)

    def test_a_package_whose_history_was_touched_is_seen(self) -> None:
        kept = rows_of(entries_of(self.lab))
        self.assertIsNone(broken_at(kept))
        kept[2]["digest"] = "0" * 64
        self.assertEqual(broken_at(kept), 3)
        file = self.package()
        with zipfile.ZipFile(file) as package:
            files = {name: package.read(name) for name in package.namelist()}
        lines = files["history.csv"].decode().splitlines()
        files["history.csv"] = "\n".join([*lines[:2], *lines[3:]]).encode()
        with zipfile.ZipFile(file, "w") as package:
            for name, content in files.items():
                package.writestr(name, content)
        out = io.StringIO()
        with self.assertRaises(CommandError):
            call_command("verify", file, stdout=out)
        self.assertIn("history in it was changed from row 2 on.", out.getvalue())

    def test_the_head_on_a_notebook_finds_its_lab_again(self) -> None:
        found = as_teacher(self.ada).get(f"/api/labs/{self.lab.id}/history").json()
        self.assertEqual(found["entries"], head_of(entries_of(self.lab)).shown)
        record(self.cells[0], "0.95")
        self.assertIn("1 came since", self.verify("--head", found["entries"]))
        self.assertIn(self.lab.title, self.verify())
        n, _, letters = found["entries"].partition("-")
        for wrong in (f"{n}-{letters[::-1]}", f"999-{letters}"):
            with self.assertRaisesMessage(CommandError, "No lab here has that history"):
                self.verify("--head", wrong)
        with self.assertRaisesMessage(CommandError, "a head is written as on a notebook"):
            self.verify("--head", "hello")

    def test_words_and_notes_may_be_erased(self) -> None:
        before = head_of(entries_of(self.lab))
        entry = ObservationIn(id=uuid.uuid4(), cell_id=self.cells[0].id, text="bubbles")
        record_observation(actor=member_of(group_of(self.lab)), entry=entry)
        self.assertEqual(head_of(entries_of(self.lab)), before)

    def test_others_get_no_head(self) -> None:
        bob = teacher("bob")
        self.assertEqual(as_teacher(bob).get(f"/api/labs/{self.lab.id}/history").status_code, 404)
