"""A table of readings: where two columns say the same thing, they must say the same."""

import unittest

from galvanic.bench.readings_table import read_readings
from galvanic.bench.table_preview import left_out
from galvanic.bench.table_rows import BadTableText

HEAD = "group,red,black,electrolyte,volts,as typed,unit,offset taken off, V\n".replace(
    "offset taken off, V", '"offset taken off, V"'
)


def read(row):
    return read_readings(HEAD + row + "\n", 10).readings[0]


class TwoColumns(unittest.TestCase):
    def test_volts_and_what_was_typed_may_differ_by_the_rounding_of_volts_and_no_more(self):
        found = read("Tern,copper,zinc,lemon juice,0.94,943,mV,0.0")
        self.assertAlmostEqual(found.parsed.volts_v, 0.943)
        read("Tern,copper,zinc,lemon juice,0.92,943,mV,0.02")  # the offset is taken off first
        for volts in ("0.93", "0.95", "-0.94"):
            with self.assertRaises(BadTableText) as caught:
                read(f"Tern,copper,zinc,lemon juice,{volts},943,mV,0.0")
            self.assertIn("which of them is it", caught.exception.rows[0][1])


class EmptyLines(unittest.TestCase):
    def test_a_line_without_a_value_is_left_out_and_named_and_an_empty_one_is_none_at_all(self):
        head, row = "group,red,black,electrolyte,volts\n", "Tern,copper,zinc,lemon juice,0.94\n"
        for empty in ("\n", ",,,,\n", ";;;;\n", " , , ,,\n", "\ufeff\n", "\u00a0\n"):
            with self.subTest(empty):
                found = read_readings(head + row + empty + row, 10)
                self.assertEqual((len(found.readings), found.left_out), (2, ()))
        for planned in ("Tern,,,,\n", "Tern,copper,tin,lemon juice,\n"):
            with self.subTest(planned):
                found = read_readings(head + row + planned + row + planned, 10)
                self.assertEqual((len(found.readings), found.left_out), (2, ((3, ""), (5, ""))))
                self.assertEqual(left_out(found.left_out), ("Lines 3, 5 have no number and are left out.",))
        with self.assertRaises(BadTableText) as caught:  # a value without its plates is a fault as before
            read_readings(head + "Tern,,,lemon juice,0.94\n", 10)
        self.assertIn("red, black: nothing there", caught.exception.rows[0][1])

    def test_iron_is_known_by_what_people_call_it(self):
        head = "group,red,black,electrolyte,volts\n"
        for name in ("iron", "Iron nail", "nail", "Eisen", "Eisennagel", "mild steel"):
            found = read_readings(f"{head}Tern,copper,{name},lemon juice,0.5\n", 5).readings[0]
            self.assertEqual(found.black, "steel", name)
