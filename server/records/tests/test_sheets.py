"""What groups keep besides readings goes out as tables too."""

import csv
import io
import uuid

from django.test import TestCase
from openpyxl import load_workbook

from server.tests.support import as_group, as_teacher, cell_of, group_of, lab_of, send, teacher


class Sheets(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada, load_ohm=470.0)
        self.tern, self.client = as_group(group_of(self.lab)), as_teacher(self.ada)
        self.cell = cell_of(group_of(self.lab))

    def send(self, path, **body):
        answer = send(self.tern, path, {"id": str(uuid.uuid4())} | body)
        self.assertEqual(answer.status_code, 200, answer.content)

    def table(self, name):
        answer = self.client.get(f"/api/labs/{self.lab.id}/tables/{name}.csv")
        self.assertEqual(answer.status_code, 200)
        return list(csv.DictReader(io.StringIO(answer.content.decode("utf-8-sig"))))

    def test_loads_notes_and_packs_are_rows_with_units_and_formulas_stay_text(self):
        self.send("/bench/under-load", cell_id=str(self.cell.id), kind="load", text="0.31", unit="V")
        self.send("/bench/observations", cell_id=str(self.cell.id), text="=SUM(A1) bubbles")
        pack = str(uuid.uuid4())
        self.assertEqual(send(self.tern, "/bench/packs", {"id": pack, "load": "led-red"}).status_code, 200)
        self.send("/bench/pack-entries", pack_id=pack, kind="alone", position=1, text="0.95", unit="V")
        self.send("/bench/pack-entries", pack_id=pack, kind="load_a", text="0.12", unit="mA")
        (load,), (note,) = self.table("loads"), self.table("notes")
        self.assertEqual((load["group"], load["load, Ω"], load["value, V or A"]), ("Tern", "470.0", "0.31"))
        self.assertFalse(note["what was seen"].startswith("="))
        alone, amps = self.table("packs")
        self.assertEqual((alone["for"], alone["cell of the row"], alone["as typed"]), ("red LED", "1", "0.95"))
        self.assertAlmostEqual(float(amps["value, V or A"]), 0.12e-3)
        book = load_workbook(io.BytesIO(self.client.get(f"/api/labs/{self.lab.id}/tables.xlsx").content))
        self.assertTrue({"readings", "loads", "notes", "packs"} <= set(book.sheetnames))

    def test_another_teacher_gets_none(self):
        bea = as_teacher(teacher("bea"))
        for path in ("tables/packs.csv", "tables.xlsx"):
            self.assertEqual(bea.get(f"/api/labs/{self.lab.id}/{path}").status_code, 404)
