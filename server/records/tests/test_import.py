"""A class's own table: read as people write it, all or nothing."""

import contextlib
import json
import uuid
from datetime import date
from io import BytesIO, StringIO
from pathlib import Path
from tempfile import TemporaryDirectory

from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import CommandError, call_command
from django.test import TestCase
from openpyxl import load_workbook

from galvanic.command.main import main
from server.base.problems import Problem
from server.entries.models import Reading
from server.labs.models import Lab, PlannedCell
from server.people.models import Group
from server.records.file_text import MAX_BYTES, MAX_ROWS, decode
from server.records.services import import_readings
from server.records.table import read_table
from server.tests.support import as_group, as_teacher, cell_of, group_of, lab_of, record, send, teacher

HEADER = "group,red,black,electrolyte,volts\n"
GOOD = HEADER + "Tern,copper,zinc,lemon juice,0.94\nTern,copper,aluminum,lemon juice,0.52\nKnot,Zn,Al,Citrus Juice,−340 mV\n"


class Reading_(TestCase):
    def faults(self, text):
        with self.assertRaises(Problem) as caught:
            read_table(text)
        return caught.exception

    def test_names_signs_and_units_are_read_as_people_write_them(self):
        rows = read_table(GOOD).readings
        self.assertEqual(
            [(r.red, r.black, r.electrolyte) for r in rows][1:],
            [("copper", "aluminium", "lemon-juice"), ("zinc", "aluminium", "lemon-juice")],
        )
        self.assertEqual([r.parsed.volts_v for r in rows], [0.94, 0.52, -0.34])

    def test_semicolons_decimal_commas_tabs_other_orders_and_more_columns_are_fine(self):
        rows = read_table("Volts;note;Group;Red;Black;Electrolyte\n0,94;bubbles;Tern;Cu;Zn;citrus juice\n").readings
        self.assertEqual((rows[0].parsed.volts_v, rows[0].group), (0.94, "Tern"))
        self.assertEqual(len(read_table(GOOD.replace(",", "\t")).readings), 3)
        self.assertEqual(len(read_table("\n" + GOOD.replace("\n", "\r\n") + "\r\n,,,,\r\n").readings), 3)

    def test_a_decimal_comma_in_quotes_or_between_semicolons_is_one_and_bare_it_splits_the_row(self):
        self.assertEqual(read_table(HEADER + 'Tern,Cu,Zn,lemon juice,"0,93"\n').readings[0].parsed.volts_v, 0.93)
        problem = self.faults(HEADER + "Tern,Cu,Zn,lemon juice,0,93\nTern,Cu,Zn,lemon juice,0.95\nTern,Cu,Zn,0.9\n")
        self.assertEqual([row.line for row in problem.rows], [2, 4])
        self.assertIn("6 fields and the heading 5. A decimal comma needs quotes", problem.rows[0].message)

    def test_no_column_is_dropped_in_silence(self):
        table = read_table(
            "group,red,black,electrolyte,volts,weather,edition of the data,\nTern,Cu,Zn,vinegar,0.9,rain,x,\n"
        )
        self.assertEqual(table.unused, ("weather",))
        for heading in ("group,red,black,electrolyte,volts,volts", "group,group,red,black,electrolyte,volts"):
            self.assertEqual(self.faults(heading + "\na,b,c,d,1,1\n").code, "columns")

    def test_what_does_not_count_and_what_says_two_things_is_heard(self):
        head = 'group,red,black,electrolyte,volts,counts,why not,as typed,unit,"offset taken off, V"\n'
        rows = read_table(
            head + "Tern,Cu,Zn,vinegar,0.93,no,slipped,0.94,V,0.01\nTern,Cu,Zn,vinegar,0.90,yes,,900,mV,0\n"
        ).readings
        self.assertEqual([(one.why_not, round(one.corrected_v, 9)) for one in rows], [("slipped", 0.93), ("", 0.9)])
        self.assertEqual(rows[1].parsed.resolution_v, 0.001)
        for row in (
            "Tern,Cu,Zn,vinegar,0.93,maybe,,,,",
            "Tern,Cu,Zn,vinegar,0.93,yes,,0.94,V,",
            "Tern,Cu,Zn,vinegar,1,yes,,1,V,x",
        ):
            self.assertEqual([one.line for one in self.faults(head + row + "\n").rows], [2], row)

    def test_spreadsheets_own_marks_are_understood(self):
        self.assertEqual(len(read_table("sep=;\n" + GOOD.replace(",", ";")).readings), 3)
        self.assertEqual(decode(GOOD.encode("utf-16")), GOOD)

    def test_a_large_and_misspelt_file_is_answered_in_time(self):
        names = [f"copperr{k}" for k in range(MAX_ROWS - 1)]
        problem = self.faults(HEADER + "".join(f"Tern,{name},zinnk,vinegarr,0.5\n" for name in names))
        self.assertEqual((len(problem.rows), problem.message.split()[3:6]), (50, ["At", "least", "50"]))

    def test_every_bad_row_is_named_with_line_and_reason(self):
        text = (
            GOOD
            + "Knot,unobtainium,zinc,vinegar,0.5\nKnot,copper,zinc,gravy,0.5\nKnot,copper,zinc,vinegar,lots\nKnot,copper,copper,vinegar,0\nKnot,copper,zinc\n"
        )
        problem = self.faults(text)
        self.assertEqual([row.line for row in problem.rows], [5, 6, 7, 8, 9])
        for said, row in zip(
            ("unobtainium", "gravy", "lots", "same plate", "3 fields and the heading 5"), problem.rows, strict=True
        ):
            self.assertIn(said, row.message)
        self.assertIn("5 rows", problem.message)

    def test_lines_are_counted_as_an_editor_does_even_with_quoted_line_breaks(self):
        problem = self.faults(HEADER + '"Te\nrn",copper,zinc,vinegar,0.5\nKnot,copper,zinc,vinegar,seven\n')
        self.assertEqual([row.line for row in problem.rows], [4])

    def test_what_is_no_table_is_refused_whole(self):
        self.assertEqual(self.faults("").code, "empty")
        self.assertEqual(self.faults(HEADER).code, "empty")
        self.assertIn("missing: black", self.faults("group,red,electrolyte,volts\n").message)
        self.assertEqual(self.faults(HEADER + "Tern,copper,zinc,vinegar,0.5\n" * (MAX_ROWS + 1)).code, "too_many_rows")
        self.assertEqual(self.faults(HEADER + '"' + "x" * 200_000).code, "not_csv")
        for data in (b"PK\x03\x04\0\0", b"a" * (MAX_BYTES + 1)):
            with self.assertRaises(Problem):
                decode(data)

    def test_files_from_old_spreadsheets_are_decoded(self):
        self.assertEqual(decode("Möwe".encode("cp1252")), "Möwe")
        self.assertEqual(decode("\ufeffMöwe".encode()), "Möwe")


class Importing(TestCase):
    def setUp(self):
        self.ada = teacher()

    def test_a_table_becomes_a_closed_lab_that_compares_at_once(self):
        lab = import_readings(actor=self.ada, text=GOOD, title="Last week", on=date(2026, 5, 4)).lab
        self.assertEqual((lab.state, Reading.objects.count(), Group.objects.count()), ("closed", 3, 2))
        self.assertEqual(set(Reading.objects.values_list("origin", flat=True)), {"imported"})
        shown = as_teacher(self.ada).get(f"/api/labs/{lab.id}/compare").json()
        cells = {c["short"]: c["mean_v"] for c in shown["electrolytes"][0]["cells"]}
        self.assertEqual(cells, {"Al | Cu": 0.52, "Al | Zn": -0.34, "Zn | Cu": 0.94})

    def test_repeats_go_to_one_cell_in_order_with_swapped_leads_kept(self):
        text = HEADER + "Tern,Cu,Zn,vinegar,0.9\nTern,Cu,Zn,vinegar,0.91\ntern,Zn,Cu,vinegar,-0.92\n"
        import_readings(actor=self.ada, text=text, title="x", on=date(2026, 5, 4))
        cell = Group.objects.get().cells.get()
        self.assertEqual(
            [(r.text, r.red) for r in cell.readings.all()], [("0.9", "copper"), ("0.91", "copper"), ("-0.92", "zinc")]
        )

    def test_a_faulty_table_leaves_nothing(self):
        with self.assertRaises(Problem):
            import_readings(actor=self.ada, text=GOOD + "Tern,copper,zinc,vinegar,seven\n", title="x", on=date(2026, 5, 4))
        many = HEADER + "".join(f"g{i},copper,zinc,vinegar,1\n" for i in range(41))
        with self.assertRaises(Problem):
            import_readings(actor=self.ada, text=many, title="x", on=date(2026, 5, 4))
        self.assertEqual((Lab.objects.count(), Reading.objects.count()), (0, 0))

    def command(self, text, *options):
        with TemporaryDirectory() as folder:
            file = Path(folder) / "class_10b.csv"
            file.write_text(text)
            said = StringIO()
            call_command("import_readings", str(file), *options, stdout=said)
            return said.getvalue()

    def test_the_command_makes_the_lab_and_says_where_it_is(self):
        said = self.command(GOOD)
        lab = Lab.objects.get()
        self.assertIn(f"/labs/{lab.id}/compare", said)
        self.assertEqual(lab.title, "class 10b")

    def test_the_command_names_bad_rows_and_missing_teachers(self):
        with self.assertRaisesRegex(CommandError, "line 5: .*unobtainium"):
            self.command(GOOD + "Tern,unobtainium,zinc,vinegar,1\n")
        teacher("bob")
        with self.assertRaisesRegex(CommandError, "ada, bob"):
            self.command(GOOD)
        self.command(GOOD, "--teacher", "bob", "--title", "Bob's", "--date", "2026-01-02")
        self.assertEqual(Lab.objects.get().owner.username, "bob")
        with self.assertRaisesRegex(CommandError, "cannot be read"):
            call_command("import_readings", "nowhere.csv")


class OutAndIn(TestCase):
    """What goes out comes in again and gives the same ladder to the last digit."""

    def test_an_exported_table_gives_the_same_ladder_in_the_web_and_on_the_command_line(self):
        ada = teacher()
        lab = lab_of(ada, ("=Tern", "Knot"))
        tern, knot = group_of(lab, "=Tern"), group_of(lab, "Knot")
        send(as_group(tern), "/bench/meter-checks", {"id": str(uuid.uuid4()), "leads": "0.013", "dry": "1.571"})
        for group in (tern, knot):
            for cell in PlannedCell.objects.filter(group=group).order_by("position"):
                for k, text in enumerate(("0.941", "-938 mV", "0.9")):
                    record(cell, text, **({"red": cell.negative, "black": cell.positive} if k == 1 else {}))
        wrong = record(cell_of(knot), "940")
        record(cell_of(knot), "0.94", corrects=wrong.id, reason="a slip")
        aside = record(cell_of(tern), "0.02")
        send(as_teacher(ada), f"/readings/{aside.id}/aside", {"reason": "bridged, we think"})
        mine = as_teacher(ada)
        out = mine.get(f"/api/labs/{lab.id}/tables/readings.csv").content
        before = mine.get(f"/api/labs/{lab.id}/compare").json()
        file = SimpleUploadedFile("readings.csv", out, content_type="text/csv")
        table = mine.post("/api/tables", {"file": file}).json()["id"]
        seen = mine.get(f"/api/tables/{table}").json()
        self.assertEqual((seen["aside"], [c["heading"] for c in seen["columns"] if not c["means"]]), (2, []))
        send(mine, f"/tables/{table}/keep", {"title": "Again", "on": "2026-05-04"})
        made = {"id": mine.get(f"/api/tables/{table}").json()["lab"]}
        after = mine.get(f"/api/labs/{made['id']}/compare").json()
        self.assertEqual(after["electrolytes"], before["electrolytes"])
        self.assertEqual({one["reason"] for one in after["aside"]}, {"bridged, we think", "corrected by a later entry"})
        again = mine.get(f"/api/labs/{made['id']}/tables/readings.csv").content
        self.assertEqual(again.count(b"\n"), out.count(b"\n"))
        with TemporaryDirectory() as folder:
            path = Path(folder) / "readings.csv"
            path.write_bytes(out)
            said = StringIO()
            with contextlib.redirect_stdout(said), contextlib.redirect_stderr(StringIO()):
                self.assertEqual(main(["ladder", str(path), "--json"]), 0)
        rungs = {rung["electrode"]: rung for rung in before["electrolytes"][0]["rungs"]}
        for row in json.loads(said.getvalue()):
            key = {"zinc strip": "zinc"}.get(row["electrode"], row["electrode"].split()[0])
            self.assertEqual((row["potential_v"], row["u_v"]), (rungs[key]["class_v"], rungs[key]["u_v"]))

    def test_volts_in_the_workbook_are_numbers(self):
        ada = teacher()
        lab = lab_of(ada)
        record(cell_of(group_of(lab)), "-0.90")
        book = load_workbook(BytesIO(as_teacher(ada).get(f"/api/labs/{lab.id}/tables.xlsx").content))
        heading, row = [[cell.value for cell in line] for line in book["readings"].iter_rows(max_row=2)]
        self.assertEqual(row[heading.index("volts")], -0.9)
        self.assertEqual(book["readings"].cell(2, heading.index("volts") + 1).number_format, "0.00")
