"""A table of readings: where two columns say the same thing, they must say the same."""

import unittest

from galvanic.bench.readings_table import read_readings
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
