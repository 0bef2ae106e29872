"""A class's own table: read as people write it, all or nothing."""

from datetime import date
from io import StringIO
from pathlib import Path
from tempfile import TemporaryDirectory

from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import CommandError, call_command
from django.test import Client, TestCase

from server.bench.models import Reading
from server.labs.models import Lab
from server.people.models import Group
from server.problems import Problem
from server.records.services import import_readings
from server.records.table import MAX_BYTES, MAX_ROWS, decode, read_table
from server.tests.support import as_group, as_teacher, group_of, lab_of, teacher

HEADER = "group,red,black,electrolyte,volts\n"
GOOD = HEADER + "Tern,copper,zinc,lemon juice,0.94\nTern,copper,aluminum,lemon juice,0.52\nKnot,Zn,Al,Lime Juice,−340 mV\n"


class Reading_(TestCase):
    def faults(self, text):
        with self.assertRaises(Problem) as caught:
            read_table(text)
        return caught.exception

    def test_names_signs_and_units_are_read_as_people_write_them(self):
        rows = read_table(GOOD)
        self.assertEqual(
            [(r.red, r.black, r.electrolyte) for r in rows][1:],
            [("copper", "aluminium", "lemon-juice"), ("zinc", "aluminium", "lemon-juice")],
        )
        self.assertEqual([r.parsed.volts_v for r in rows], [0.94, 0.52, -0.34])

    def test_semicolons_decimal_commas_tabs_other_orders_and_more_columns_are_fine(self):
        rows = read_table("Volts;note;Group;Red;Black;Electrolyte\n0,94;bubbles;Tern;Cu;Zn;citrus juice\n")
        self.assertEqual((rows[0].parsed.volts_v, rows[0].group), (0.94, "Tern"))
        self.assertEqual(len(read_table(GOOD.replace(",", "\t"))), 3)
        self.assertEqual(len(read_table("\n" + GOOD.replace("\n", "\r\n") + "\r\n,,,,\r\n")), 3)

    def test_every_bad_row_is_named_with_line_and_reason(self):
        text = (
            GOOD
            + "Knot,unobtainium,zinc,vinegar,0.5\nKnot,copper,zinc,gravy,0.5\nKnot,copper,zinc,vinegar,lots\nKnot,copper,copper,vinegar,0\nKnot,copper,zinc\n"
        )
        problem = self.faults(text)
        self.assertEqual([row.line for row in problem.rows], [5, 6, 7, 8, 9])
        for said, row in zip(
            ("unobtainium", "gravy", "lots", "same plate", "electrolyte, volts"), problem.rows, strict=True
        ):
            self.assertIn(said, row.message)
        self.assertIn("5 rows", problem.message)

    def test_lines_are_counted_as_an_editor_does_even_with_quoted_line_breaks(self):
        problem = self.faults(HEADER + '"Te\nrn",copper,zinc,vinegar,0.5\nKnot,copper,zinc,vinegar,x\n')
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
        lab = import_readings(actor=self.ada, text=GOOD, title="Last week", on=date(2026, 5, 4))
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
            import_readings(actor=self.ada, text=GOOD + "Tern,copper,zinc,vinegar,?\n", title="x", on=date(2026, 5, 4))
        many = HEADER + "".join(f"g{i},copper,zinc,vinegar,1\n" for i in range(41))
        with self.assertRaises(Problem):
            import_readings(actor=self.ada, text=many, title="x", on=date(2026, 5, 4))
        self.assertEqual((Lab.objects.count(), Reading.objects.count()), (0, 0))

    def upload(self, client, text=GOOD, **changes):
        file = SimpleUploadedFile("class.csv", text.encode(), content_type="text/csv")
        return client.post("/api/labs/import", {"file": file, "title": "Last week", "on": "2026-05-04"} | changes)

    def test_the_interface_answers_with_the_lab_or_with_the_rows(self):
        client = as_teacher(self.ada)
        self.assertEqual(self.upload(client).json()["readings"], 3)
        refused = self.upload(client, GOOD + "Tern,copper,zinc,vinegar,?\n")
        self.assertEqual(refused.status_code, 422)
        self.assertEqual(refused.json()["rows"][0]["line"], 5)
        self.assertEqual(self.upload(client, "x" * (MAX_BYTES + 1)).status_code, 413)
        self.assertEqual(self.upload(client, title="").status_code, 422)

    def test_only_teachers_import(self):
        self.assertEqual(self.upload(Client()).status_code, 401)
        self.assertEqual(self.upload(as_group(group_of(lab_of(self.ada)))).status_code, 401)

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
