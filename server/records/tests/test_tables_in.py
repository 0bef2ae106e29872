"""A class's own table, handed over in any of the usual kinds, shown as it was understood, and kept when the teacher says so."""

import csv
import io
import tracemalloc
import uuid
import zipfile
from datetime import timedelta
from unittest.mock import patch

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client, TestCase
from django.utils import timezone
from openpyxl import Workbook, load_workbook

from galvanic.bench.headings import WRITTEN
from galvanic.findings.class_accounts import NAMES
from server.entries.models import Reading, UnderLoad
from server.findings.tables import SAID
from server.labs.models import Lab
from server.records import apart
from server.records.file_text import MAX_BYTES
from server.records.models import TableIn
from server.records.sheets import all_sheets
from server.records.spreadsheets import tables_of
from server.records.tables_in import forget_old
from server.tests.support import as_group, as_teacher, cell_of, group_of, lab_of, record, send, teacher

GOOD = "group,red,black,electrolyte,volts\nTern,copper,zinc,lemon juice,0.94\nKnot,Zn,Al,Citrus Juice,−340 mV\n"

HEAD, CELL = ["group", "red", "black", "electrolyte", "volts"], ["Tern", "copper", "zinc", "lemon juice"]
SHEET = [["Tern", "copper", "zinc", "lemon juice", 0.94], ["Knot", "Zn", "Al", "lemon juice", -0.34]]


def workbook(rows, formats=()):
    book = Workbook()
    book.active.title = "about"
    book.active.append(["lab", "Last week"])
    sheet = book.create_sheet("numbers")
    for row in rows:
        sheet.append(row)
    for place, number_format in formats:
        sheet[place].number_format = number_format
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def held(cell):
    """What an OpenDocument cell holds besides what it shows: a number in full."""
    return f' office:value-type="float" office:value="{cell[1]}"' if isinstance(cell, tuple) else ""


def shown(cell):
    return cell[0] if isinstance(cell, tuple) else cell


def ods(rows):
    """An OpenDocument spreadsheet as spreadsheet programs write it: shown text in text:p, repeated cells counted."""
    ns = 'xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0"'
    cells = "".join(
        "<table:table-row>" + "".join(f"<table:table-cell{held(one)}><text:p>{shown(one)}</text:p></table:table-cell>" for one in row)
        + '<table:table-cell table:number-columns-repeated="1000"/></table:table-row>'
        for row in rows
    )  # fmt: skip
    empty = '<table:table-row table:number-rows-repeated="1048000"><table:table-cell/></table:table-row>'
    xml = f"<office:document-content {ns}><office:body><office:spreadsheet><table:table>{cells}{empty}</table:table></office:spreadsheet></office:body></office:document-content>"
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as zipped:
        zipped.writestr("mimetype", "application/vnd.oasis.opendocument.spreadsheet")
        zipped.writestr("content.xml", xml)
    return out.getvalue()


class TablesIn(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.desk = as_teacher(self.ada)

    def over(self, content, name="class.csv", client=None):
        content = content.encode() if isinstance(content, str) else content
        return (client or self.desk).post("/api/tables", {"file": SimpleUploadedFile(name, content)})

    def seen(self, content, name="class.csv"):
        answer = self.over(content, name)
        self.assertEqual(answer.status_code, 202, answer.content)
        return self.look(answer.json()["id"])

    def look(self, table):
        return self.desk.get(f"/api/tables/{table}").json()

    def keep(self, table, title="Last week", on="2026-05-04"):
        return send(self.desk, f"/tables/{table}/keep", {"title": title, "on": on})

    def test_it_is_shown_first_and_kept_when_the_teacher_says_so(self):
        seen = self.seen(GOOD)
        self.assertEqual(
            (seen["state"], seen["ready"], seen["readings"], seen["groups"]), ("read", True, 2, ["Tern", "Knot"])
        )
        self.assertEqual([c["means"] for c in seen["columns"]], ["group", "red", "black", "electrolyte", "volts"])
        self.assertEqual(Lab.objects.count(), 0)
        self.assertEqual(self.keep(seen["id"]).status_code, 202)
        after = self.look(seen["id"])
        lab = Lab.objects.get()
        self.assertEqual((after["state"], after["lab"], lab.title), ("kept", str(lab.id), "Last week"))
        self.assertEqual(Reading.objects.count(), 2)

    def told(self, table, **told):
        """Say something of a table, and see it read anew."""
        answer = send(self.desk, f"/tables/{table}/look", told)
        self.assertEqual(answer.status_code, 202, answer.content)
        return self.look(table)

    def test_which_sheet_is_read_can_be_chosen(self):
        book = Workbook()
        book.active.title = "monday"
        other = book.create_sheet("tuesday")
        for sheet, volts in ((book.active, 0.94), (other, 0.92)):
            sheet.append(HEAD)
            sheet.append([*CELL, volts])
        out = io.BytesIO()
        book.save(out)
        seen = self.seen(out.getvalue(), "week.xlsx")
        self.assertEqual(seen["sheets"], [{"name": "monday", "rows": 2}, {"name": "tuesday", "rows": 2}])
        seen = self.told(seen["id"], sheet="tuesday")
        self.assertEqual((seen["sheets"][0]["name"], seen["lines"][1]["fields"][4]), ("tuesday", "0.92"))
        self.keep(seen["id"])
        self.assertEqual(Reading.objects.get().text, "0.92")
        for odd in ("nowhere", "--", "x\x00y", "“", "-" * 200):  # a name that no sheet has: as if none were named
            self.assertEqual(self.told(seen["id"], sheet=odd)["sheets"][0]["name"], "monday")

    def test_cells_are_mended_and_lines_left_out_before_anything_is_kept(self):
        seen = self.seen(GOOD + "Knot,copper,zinc,lemon juice,O.95\nKnot,copper,zinc,lemon juice,nine\n")
        self.assertEqual((seen["ready"], [fault["line"] for fault in seen["faults"]]), (False, [4, 5]))
        self.assertEqual([line["line"] for line in seen["lines"]], [1, 2, 3, 4, 5])
        seen = self.told(seen["id"], cells=[{"line": 4, "place": 4, "text": "0.95"}], without=[5])
        self.assertEqual((seen["ready"], seen["readings"]), (True, 3))
        self.assertEqual((seen["lines"][3]["fields"][4], seen["lines"][4]["out"]), ("0.95", True))
        self.keep(seen["id"])
        self.assertEqual(sorted(Reading.objects.values_list("text", flat=True)), ["0.94", "0.95", "−340 mV"])

    def test_a_table_without_a_heading_that_is_known_can_be_told_which_line_it_is(self):
        seen = self.seen("Cells of 7b\nwho,plus,minus,juice,meter\nTern,copper,zinc,lemon juice,0.94\n")
        self.assertEqual((seen["state"], seen["lines"][1]["fields"][0]), ("refused", "who"))
        columns = dict(zip(("who", "plus", "minus", "juice", "meter"), HEAD, strict=True))
        seen = self.told(seen["id"], heading=2, columns=columns)
        self.assertEqual((seen["state"], seen["readings"], seen["ready"]), ("read", 1, True))

    def test_nonsense_about_lines_is_refused_in_words_and_the_table_stays(self):
        table = self.seen(GOOD)["id"]
        for told in ({"heading": -1}, {"without": [0]}, {"cells": [{"line": 1, "place": 99, "text": ""}]},
                     {"without": list(range(1, 600))}, {"cells": [{"line": 1, "place": 0, "text": "x" * 300}]}):  # fmt: skip
            self.assertEqual(send(self.desk, f"/tables/{table}/look", told).status_code, 422, told)
        self.assertTrue(self.look(table)["ready"])
        other = as_teacher(teacher("bob"))
        self.assertEqual(send(other, f"/tables/{table}/look", {"without": [2]}).status_code, 404)
        everything = self.told(table, without=[1, 2, 3])  # nothing is left: said, and it can be put back
        self.assertEqual(everything["state"], "refused")
        self.assertEqual([line["out"] for line in everything["lines"]], [True, True, True])
        self.assertTrue(self.told(table)["ready"])

    def test_a_small_workbook_with_a_row_numbered_two_billion_is_read_as_what_it_holds(self):
        content, far = workbook([["group", "red", "black", "electrolyte", "volts"], *SHEET]), io.BytesIO()
        with zipfile.ZipFile(io.BytesIO(content)) as old, zipfile.ZipFile(far, "w") as new:
            for name in old.namelist():
                text = old.read(name)
                if name == "xl/worksheets/sheet2.xml":
                    text = text.replace(b"</sheetData>", b'<row r="2000000000"><c r="A2000000000"/></row></sheetData>')
                new.writestr(name, text)
        seen = self.seen(far.getvalue(), "class.xlsx")
        self.assertEqual((seen["state"], seen["readings"]), ("read", 2))

    def test_repeated_rows_are_counted_together(self):
        row = "<table:table-row table:number-rows-repeated='4000'><table:table-cell><text:p>x</text:p></table:table-cell></table:table-row>"
        with zipfile.ZipFile(io.BytesIO(ods([["group"]]))) as zipped:
            xml = zipped.read("content.xml").decode()
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w") as zipped:
            zipped.writestr("content.xml", xml.replace("</table:table>", f"{row * 200}</table:table>"))
        tracemalloc.start()
        tables_of(out.getvalue())
        _, most = tracemalloc.get_traced_memory()
        tracemalloc.stop()
        self.assertLess(most, 20_000_000)  # 800,000 rows one by one took 136 MB

    def test_a_file_that_takes_too_long_ends_and_is_told_so(self):
        with patch.object(apart, "WALL_S", 0.01):
            seen = self.seen(workbook(SHEET), "class.xlsx")
        self.assertEqual(seen["state"], "refused")
        self.assertIn("far larger than a table", seen["message"])

    def test_columns_in_other_words_and_a_unit_in_the_heading(self):
        seen = self.seen("Team;Metal 1;Metal 2;Solution;Voltage (mV);weather\nTern;Zn;Cu;lemon juice;940;fair\n")
        self.assertEqual([c["means"] for c in seen["columns"]], ["group", "black", "red", "electrolyte", "volts", ""])
        self.keep(seen["id"])
        self.assertEqual(Reading.objects.get().volts_v, 0.94)

    def test_a_heading_that_is_not_understood_is_given_its_meaning(self):
        refused = self.seen("Wer,red,black,electrolyte,volts\nTern,Cu,Zn,lemon juice,0.94\n")
        self.assertEqual(refused["state"], "refused")
        self.assertIn("missing: group", refused["message"])
        self.assertEqual((refused["columns"][0]["heading"], refused["columns"][0]["examples"]), ("Wer", ["Tern"]))
        send(self.desk, f"/tables/{refused['id']}/look", {"columns": {"Wer": "group"}})
        self.assertTrue(self.look(refused["id"])["ready"])

    def test_an_unknown_name_is_shown_with_the_nearest_three_and_can_be_told(self):
        seen = self.seen(GOOD + "Tern,coper,zinc,lemon juice,0.9\nTern,coper,tin,lemon juice,0.4\n")
        (unknown,) = seen["unknown"]
        self.assertEqual((unknown["name"], unknown["rows"], len(unknown["nearest"])), ("coper", 2, 3))
        self.assertFalse(seen["ready"])
        self.assertEqual([fault["line"] for fault in seen["faults"]], [4, 5])
        self.assertEqual(self.keep(seen["id"]).status_code, 409)
        key = next(one["key"] for one in unknown["nearest"] if "copper" in one["name"])
        send(self.desk, f"/tables/{seen['id']}/look", {"called": {"coper": key}})
        again = self.look(seen["id"])
        self.assertEqual((again["ready"], again["readings"]), (True, 4))

    def test_which_lead_was_where_and_the_signs_are_said(self):
        says = " ".join(self.seen(GOOD)["says"])
        self.assertIn("1 value has a minus sign", says)
        self.assertIn("In millivolts: 1 of 2 values", says)
        unsigned = self.seen("group,red,black,electrolyte,volts\nTern,Cu,Zn,lemon juice,0.9\n")
        self.assertIn("No value has a minus sign", " ".join(unsigned["says"]))

    def test_text_in_the_ways_that_spreadsheets_write_it(self):
        plain = GOOD.replace(",", ";").replace("0.94", "0,94")
        for content in (
            GOOD.encode("utf-8-sig"), GOOD.encode("utf-16"), GOOD.replace(",", "\t").encode(), plain.encode(),
            ("sep=;\n" + plain).encode(), GOOD.replace("−", "-").encode("cp1252"),
        ):  # fmt: skip
            seen = self.seen(content)
            self.assertEqual((seen["ready"], seen["readings"]), (True, 2), content[:40])

    def test_a_workbook_gives_its_sheet_of_readings_with_the_digits_that_were_shown(self):
        rows = [["group", "red", "black", "electrolyte", "volts"], ["Tern", "copper", "zinc", "lemon juice", 0.94]]
        seen = self.seen(workbook(rows, [("E2", "0.000")]), "class.xlsx")
        self.assertEqual(seen["columns"][4]["examples"], ["0.940"])
        self.keep(seen["id"])
        self.assertEqual(Reading.objects.get().resolution_v, 0.001)

    def test_an_opendocument_table_with_decimal_commas(self):
        rows = [["group", "red", "black", "electrolyte", "volts"], ["Tern", "copper", "zinc", "lemon juice", "0,940"]]
        seen = self.seen(ods(rows), "class.ods")
        self.assertEqual((seen["ready"], seen["readings"]), (True, 1))
        self.assertIn("With a decimal comma: 1 of 1 values.", seen["says"])

    def test_a_number_that_is_shown_shorter_than_it_is_comes_in_whole_and_zeros_shown_stay(self):
        rows = [HEAD, [*CELL, ("0,9", "0.937")], [*CELL, ("0,90", "0.9")], [*CELL, ("0,94", "0.94")]]
        seen = self.seen(ods(rows), "ours.ods")
        self.assertEqual(seen["columns"][4]["examples"], ["0.937", "0,90", "0,94"])
        book = workbook([HEAD, [*CELL, 0.937], [*CELL, 0.9]], [("E2", "0.0"), ("E3", "0.00")])
        self.assertEqual(self.seen(book, "ours.xlsx")["columns"][4]["examples"], ["0.937", "0.90"])

    def test_the_sheet_that_is_read_and_those_that_are_not_are_named(self):
        says = self.seen(workbook([HEAD, [*CELL, 0.94]]), "ours.xlsx")["says"]
        self.assertIn("The sheet “numbers” is read. Not read, with their rows: “about” (1).", says[0])
        self.assertFalse([one for one in self.seen(ods([HEAD, [*CELL, "0,94"]]), "ours.ods")["says"] if "sheet" in one])

    def test_our_own_workbook_comes_in(self):
        seen = self.seen(GOOD)
        self.keep(seen["id"])
        book = self.desk.get(f"/api/labs/{Lab.objects.get().id}/tables.xlsx").content
        again = self.seen(book, "class.xlsx")
        self.assertEqual((again["ready"], again["readings"]), (True, 2))

    def test_a_german_workbook_of_our_own_has_german_heads_and_comes_in_with_the_same_readings(self):
        lab = lab_of(self.ada)
        for group, volts in (("Tern", "0.94"), ("Knot", "0.92")):
            record(cell_of(group_of(lab, group)), volts)
        files = {
            code: self.desk.get(f"/api/labs/{lab.id}/tables.xlsx", headers={"accept-language": code})
            for code in "en de".split()
        }
        books = {code: load_workbook(io.BytesIO(answer.content)) for code, answer in files.items()}
        self.assertEqual(
            [cell.value for cell in books["de"]["Messwerte"][1]][:5], ["Gruppe", "rot", "schwarz", "Flüssigkeit", "Volt"]
        )
        heads = {cell.value for sheet in books["en"].worksheets[1:] for cell in sheet[1]}
        accounts = {f"{name}, V" for name, _ in NAMES.values()}
        self.assertLessEqual(heads - accounts, {*SAID, *WRITTEN})  # so each is said in every language
        seen = [self.seen(answer.content, "class.xlsx") for answer in files.values()]
        self.assertEqual(*[(one["readings"], one["groups"], one["aside"], one["ready"]) for one in seen])
        self.assertEqual(
            [column["means"] for column in seen[0]["columns"]], [column["means"] for column in seen[1]["columns"]]
        )

    def test_loads_of_our_own_workbook_come_in_with_their_cells(self):
        """What was typed, in the order it was, under which resistor: and it goes out again as it came."""
        lab = lab_of(self.ada, short_circuit=True, load_ohm=100)
        tern = group_of(lab)
        cell = cell_of(tern)
        record(cell, "0.94")
        device = as_group(tern)
        for kind, text, unit in (("short", "2,31", "mA"), ("load", "180", "mV")):
            entry = {"id": str(uuid.uuid4()), "cell_id": str(cell.id), "kind": kind, "text": text, "unit": unit}
            self.assertEqual(send(device, "/bench/under-load", entry).status_code, 200)
        seen = self.seen(self.desk.get(f"/api/labs/{lab.id}/tables.xlsx").content, "class.xlsx")
        self.assertEqual((seen["ready"], seen["loads"], seen["faults"]), (True, 2, []))
        self.keep(seen["id"])
        came = Lab.objects.get(id=self.look(seen["id"])["lab"])
        self.assertEqual((came.short_circuit, came.load_ohm), (True, 100.0))
        kept = UnderLoad.objects.filter(cell__group__lab=came)
        self.assertEqual(
            [(one.kind, one.text, one.unit, one.value, one.load_ohm, one.cell.cell) for one in kept],
            [("short", "2,31", "mA", 0.00231, None, cell.cell), ("load", "180", "mV", 0.18, 100.0, cell.cell)],
        )
        self.assertEqual(all_sheets(came)[-3].rows[0][:8], all_sheets(lab)[-3].rows[0][:8])

    def test_a_load_of_a_cell_without_readings_and_one_that_is_no_number_are_named_and_nothing_comes_in(self):
        book = Workbook()
        for row in csv.reader(io.StringIO(GOOD)):
            book.active.append(row)
        loads = book.create_sheet("loads")
        loads.append(["group", "negative", "electrolyte", "positive", "condition", "kind", "load, Ω", "as typed", "unit"])
        loads.append(["Tern", "zinc", "vinegar", "copper", "", "short", "", "2.3", "mA"])
        loads.append(["tern", "zinc", "lemon juice", "copper", "", "short", "", "much", "mA"])
        loads.append(["Tern", "zinc", "lemon juice", "copper", "", "burnt", "", "1", "mA"])
        loads.append(["Tern", "zinc", "lemon juice", "copper", "", "load", "0", "0.5", "V"])
        out = io.BytesIO()
        book.save(out)
        seen = self.seen(out.getvalue(), "class.xlsx")
        self.assertEqual((seen["ready"], seen["readings"]), (False, 2))
        self.assertEqual([fault["line"] for fault in seen["faults"]], [3, 4, 5, 2])
        self.assertIn("no reading of", seen["faults"][-1]["message"])
        self.assertEqual(self.keep(seen["id"]).status_code, 409)
        self.assertEqual(UnderLoad.objects.count(), 0)

    def test_what_is_no_table_is_refused_with_a_sentence(self):
        for content in (b"\x00\x01\x02", b"PK\x03\x04 broken", b"", workbook([]), b"just words\n"):
            seen = self.seen(content)
            self.assertEqual((seen["state"], seen["ready"]), ("refused", False), content[:20])
            self.assertIn("Nothing was imported", seen["message"])

    def test_a_workbook_that_unpacks_to_more_than_a_table_is_not_unpacked(self):
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as zipped:
            zipped.writestr("xl/workbook.xml", b"0" * 70_000_000)
        self.assertIn("unpacks", self.seen(out.getvalue())["message"])

    def test_too_large_a_file_is_refused_at_once(self):
        self.assertEqual(self.over("x" * (MAX_BYTES + 1)).status_code, 413)

    def test_five_thousand_rows_come_in_and_one_more_is_refused(self):
        row = "Tern,copper,zinc,lemon juice,0.94\n"
        head = GOOD.splitlines(keepends=True)[0]
        self.assertEqual(self.seen(head + 5000 * row)["readings"], 5000)
        self.assertIn("more than 5000 rows", self.seen(head + 5001 * row)["message"])

    def test_only_whoever_brought_a_file_sees_it_and_groups_bring_none(self):
        seen = self.seen(GOOD)
        eve = as_teacher(teacher("eve"))
        self.assertEqual(eve.get(f"/api/tables/{seen['id']}").status_code, 404)
        self.assertEqual(send(eve, f"/tables/{seen['id']}/look", {}).status_code, 404)
        self.assertEqual(send(eve, f"/tables/{seen['id']}/keep", {"title": "Mine", "on": "2026-05-04"}).status_code, 404)
        for client in (Client(), as_group(group_of(lab_of(self.ada)))):
            self.assertEqual(self.over(GOOD, client=client).status_code, 401)
        self.assertEqual(self.desk.get(f"/api/tables/{uuid.uuid4()}").status_code, 404)

    def test_a_file_whose_reader_is_no_more_is_said_to_be_lost(self):
        seen = self.seen(GOOD)
        TableIn.objects.update(state="reading", since=timezone.now() - timedelta(minutes=3))
        lost = self.desk.get(f"/api/tables/{seen['id']}")
        self.assertEqual((lost.status_code, lost.json()["code"]), (500, "lost"))

    def test_a_title_that_no_lab_can_have_keeps_nothing(self):
        seen = self.seen(GOOD)
        self.assertEqual(self.keep(seen["id"], title="  ").status_code, 422)
        self.assertEqual((self.look(seen["id"])["state"], Lab.objects.count()), ("read", 0))

    def test_files_are_forgotten_after_a_day(self):
        self.seen(GOOD)
        self.assertEqual(forget_old(), 0)
        TableIn.objects.update(since=timezone.now() - timedelta(hours=25))
        self.assertEqual(forget_old(), 1)
