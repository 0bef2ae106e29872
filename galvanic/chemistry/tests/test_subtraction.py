"""The subtraction, worked as a textbook works it."""

import unittest

from galvanic.cells import Cell, table_difference_v
from galvanic.chemistry.subtraction import worked, worked_or_reason
from galvanic.notes import MINUS, THIN
from galvanic.reference.catalogue import electrodes


class Subtraction(unittest.TestCase):
    def lines(self, cell, negative):
        return [line.text.replace(THIN, " ") for line in worked(cell, negative)]

    def test_the_daniell_cell_shows_its_double_negative(self):
        # Zn −0.76 V, Cu +0.34 V, 1.10 V: any general chemistry text.
        self.assertEqual(
            self.lines(Cell("zinc", "milk", "copper"), "zinc"),
            [f"V = E°(Cu) {MINUS} E°(Zn)", f"V = (+0.34 V) {MINUS} ({MINUS}0.76 V)", "V = 0.34 V + 0.76 V", "V = 1.10 V"],
        )

    def test_without_a_negative_value_there_is_no_double_negative(self):
        # Silver–copper 0.46 V: any general chemistry text.
        self.assertEqual(self.lines(Cell("copper", "milk", "silver"), "copper")[-1], "V = 0.46 V")
        self.assertEqual(len(self.lines(Cell("copper", "milk", "silver"), "copper")), 3)

    def test_the_other_way_round_comes_out_below_zero_and_says_what_that_means(self):
        found = worked(Cell("zinc", "milk", "copper"), "copper")
        self.assertEqual(found[-1].text.replace(THIN, " "), f"V = {MINUS}1.10 V")
        self.assertIn("other plate", found[-1].why)

    def test_graphite_is_not_in_the_table_and_that_is_said(self):
        lines, reason = worked_or_reason(Cell("zinc", "milk", "graphite"), "zinc")
        self.assertEqual(lines, [])
        self.assertIn("no entry", reason)

    def test_the_last_line_is_the_table_difference_for_every_pair(self):
        metals = [key for key, e in electrodes().items() if e.couple]
        for metal in metals:
            for other in metals:
                if metal != other:
                    cell = Cell.of(metal, "milk", other)
                    last = worked(cell, cell.negative)[-1].text
                    number = float(last.split("=")[1].replace(MINUS, "-").replace(f"{THIN}V", ""))
                    self.assertAlmostEqual(number, table_difference_v(cell.positive, cell.negative), delta=0.0051)
