"""Tables as schools have them, made one row a reading."""

import unittest

from galvanic.bench.readings_table import look_at, no_number, read_readings
from galvanic.bench.table_preview import preview
from galvanic.bench.table_rows import rows_of
from galvanic.bench.table_shape import shaped
from galvanic.bench.text_files import decoded

PLAIN = "group,red,black,electrolyte,volts\nAda,copper,zinc,lemon juice,0.94\n"


class Loads:
    rows, faults = (), ()


def read(text):
    return look_at(rows_of(text), 100)


def volts(found):
    return [(one.group, one.red, one.black, one.parsed.text) for one in found.readings]


class Shapes(unittest.TestCase):
    def test_title_lines_above_the_heading_are_left_out_whatever_stands_between_columns(self):
        for mark in (",", ";", "\t"):
            table = PLAIN.replace(",", mark)
            found = read(f"Form 4b, our cells, Zn, Cu\n3 December\n\n{table}")
            self.assertEqual(volts(found), [("Ada", "copper", "zinc", "0.94")], mark)
            self.assertIn("2 lines above the heading are left out.", found.shape)
            self.assertEqual(found.readings[0].line, 5)
        self.assertEqual(read(PLAIN).shape, ())

    def test_a_heading_below_the_tenth_line_is_not_looked_for(self):
        with self.assertRaisesRegex(Exception, "must name the columns"):
            read("\n".join(f"line {n}" for n in range(10)) + "\n" + PLAIN)

    def test_columns_of_repeat_readings_become_rows(self):
        for names in (
            "1,2,3",
            "reading 1,reading 2,reading 3",
            "V1,V2,V3",
            "Messung 1,Messung 2,Messung 3",
            "Trial 1 (V),2,3",
        ):
            found = read(
                f"group,red,black,electrolyte,{names}\nAda,copper,zinc,lemon juice,0.94,,0.95\nBob,copper,tin,cola,,,\n"
            )
            self.assertEqual([one[3] for one in volts(found)], ["0.94", "0.95"], names)
            self.assertEqual(found.left_out, ((3, ""),))
            self.assertIn("are repeat readings of one cell", found.shape[0])

    def test_repeats_in_millivolts_are_taken_as_such(self):
        found = read("group,red,black,electrolyte,1 (mV),2 (mV)\nAda,copper,zinc,lemon juice,940,951\n")
        self.assertEqual([one.parsed.volts_v for one in found.readings], [0.94, 0.951])

    def test_a_decimal_comma_that_splits_a_row_of_repeats_is_refused_and_no_digit_is_lost(self):
        found = read("group,red,black,electrolyte,1,2\nAda,copper,zinc,lemon juice,0,94,0,95\nBob,copper,zinc,cola,0.9\n")
        self.assertEqual(volts(found), [("Bob", "copper", "zinc", "0.9")])
        self.assertIn("decimal comma", found.faults[0][1])
        mixed = "group,red,black,electrolyte,1 (mV),2 (V)\n"
        self.assertEqual(shaped(rows_of(mixed)).says, ())  # no two units under one heading

    def test_numbered_columns_beside_volts_are_no_repeats(self):
        self.assertEqual(shaped(rows_of("group,red,black,electrolyte,volts,1,2\n")).says, ())
        self.assertEqual(shaped(rows_of("group,red,black,electrolyte,2,3\n")).says, ())  # no first

    def test_what_is_written_once_for_several_rows_is_filled_down_and_said(self):
        found = read(
            "group,red,black,electrolyte,volts\nAda,copper,zinc,lemon juice,0.94\n,,tin,,0.52\nBob,copper,zinc,cola,0.90\n,,,,0.91\n"
        )
        self.assertEqual(
            volts(found),
            [
                ("Ada", "copper", "zinc", "0.94"),
                ("Ada", "copper", "tin", "0.52"),
                ("Bob", "copper", "zinc", "0.90"),
                ("Bob", "copper", "zinc", "0.91"),
            ],
        )
        self.assertIn("In 2 rows, empty cells are filled", found.shape[0])
        first = read("group,red,black,electrolyte,volts\n,copper,zinc,lemon juice,0.94\n")
        self.assertIn("group: nothing there", first.faults[0][1])  # nothing stands above

    def test_marks_that_nobody_sees_make_no_second_group(self):
        found = read(PLAIN + "A\u200bda\ufeff,copper,zinc,lemon\u00ad juice,0.95\nAda\u0301,copper,zinc,lemon juice,0.96\n")
        self.assertEqual([one.group for one in found.readings], ["Ada", "Ada", "Ad\u00e1"])

    def test_what_is_no_number_is_left_out_by_line_with_what_stands_there(self):
        rows = ("n/a", "OL", "~0.9", "\u2013", "ca. 0,9", "nicht gemessen")
        found = read(PLAIN + "".join(f'Bob,copper,zinc,lemon juice,"{one}"\n' for one in rows))
        self.assertEqual(found.left_out, tuple((3 + n, one) for n, one in enumerate(rows)))
        self.assertEqual(found.faults, ())
        said = preview(found, Loads).says[-1]
        self.assertIn("4 (\u201cOL\u201d)", said)
        self.assertFalse(no_number("0.9"))
        self.assertFalse(no_number("seven"))  # a fault, to be mended: it may have been a number

    def test_volts_that_no_cell_gives_are_asked_about_before_anything_is_kept(self):
        says = preview(read(PLAIN + "Bob,copper,zinc,lemon juice,940\n"), Loads).says
        self.assertTrue(any("Are they millivolts?" in one and "1 of 2" in one for one in says), says)
        self.assertFalse(any("millivolts?" in one for one in preview(read(PLAIN), Loads).says))

    def test_the_command_line_reads_the_same(self):
        found = read_readings(
            "Our cells\n" + PLAIN.replace("volts", "1").replace("1\n", "1,2\n", 1).replace("0.94", "0.94,0.96"), 10
        )
        self.assertEqual([one.parsed.text for one in found.readings], ["0.94", "0.96"])

    def test_utf_16_is_read_with_and_without_its_mark(self):
        for name in ("utf-16", "utf-16-le", "utf-16-be"):
            self.assertEqual(decoded(PLAIN.encode(name)), PLAIN, name)
