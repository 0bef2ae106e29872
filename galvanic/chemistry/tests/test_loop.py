"""The ring of a cell: what goes round in each state, by hand and against the rest of the model."""

import unittest

from galvanic.cells import Cell
from galvanic.chemistry.loop import LOAD_OHM, STATES, current, loops
from galvanic.chemistry.plate_work import at_plates
from galvanic.chemistry.polarisation import LoadedCell
from galvanic.level import Level

JUICE = Cell("zinc", "lemon-juice", "copper")
DANIELL = Cell("zinc", "daniell-pot", "copper")


class Loops(unittest.TestCase):
    """`loops`."""

    def test_more_current_goes_round_the_less_is_in_its_way(self) -> None:
        for cell in (JUICE, DANIELL, Cell("zinc", "salt-water", "copper")):
            found = loops(cell)
            self.assertEqual([one.state for one in found], list(STATES))
            currents = [one.current_a for one in found]
            self.assertEqual(currents, sorted(currents))
            volts = [one.volts_v for one in found]
            self.assertEqual(volts, sorted(volts, reverse=True))

    def test_volts_and_current_are_ohms_law(self) -> None:
        for one in loops(JUICE):
            if one.ohm:
                self.assertAlmostEqual(one.volts_v / one.current_a, one.ohm, delta=1e-6 * one.ohm)
        self.assertEqual(loops(JUICE)[2].ohm, LOAD_OHM)

    def test_with_nothing_joined_only_the_acid_goes_on(self) -> None:
        open_ = loops(JUICE)[0]
        self.assertFalse(open_.flows)
        self.assertEqual((open_.current_a, open_.takes), (0.0, ()))
        self.assertTrue(any(one.gas for one in open_.gives))
        self.assertIn("No electrons go through the wire", open_.told)
        self.assertIn("gas rises all the same", open_.told)
        self.assertNotIn("all the same", loops(DANIELL)[0].told)

    def test_shares_are_those_of_the_plates_and_add_up(self) -> None:
        wire = loops(JUICE)[-1]
        self.assertAlmostEqual(sum(one.share for one in wire.takes), 1.0, delta=0.02)
        due = {row.part: row.share for row in at_plates(JUICE).at_positive}
        for one in wire.takes:
            self.assertAlmostEqual(one.share, due[one.part])

    def test_an_oxygen_fed_plate_does_not_bubble_and_copper_ions_plate_out(self) -> None:
        salt = loops(Cell("zinc", "salt-water", "copper"))[-1]
        self.assertFalse(any(one.gas for one in salt.takes))
        self.assertEqual([one.words for one in loops(DANIELL)[-1].takes], ["Cu²⁺ becomes metal"])

    def test_the_plate_that_is_really_negative_gives(self) -> None:
        turned = loops(Cell("aluminium", "salt-water", "zinc"))[-1]
        self.assertEqual((turned.negative, turned.positive), ("zinc", "aluminium"))
        self.assertIn("from zinc to aluminium", turned.told)

    def test_a_first_class_is_told_without_formulas(self) -> None:
        for cell in (JUICE, DANIELL, Cell("magnesium", "salt-water", "graphite")):
            for one in loops(cell, Level.FIRST):
                for arrow in (*one.gives, *one.takes):
                    self.assertNotRegex(arrow.words, "[⁺⁻₀-₉]")

    def test_current_is_read_in_what_a_meter_shows(self) -> None:
        self.assertEqual(current(1.1e-3), "1.1\u202fmA")
        self.assertEqual(current(1.8e-5), "18\u202fµA")
        self.assertEqual(current(9.7e-8), "0.097\u202fµA")
        self.assertEqual(current(0.0), "0\u202fµA")

    def test_a_meter_takes_hardly_anything_from_the_open_voltage(self) -> None:
        rest = LoadedCell.of(JUICE).rest()
        self.assertAlmostEqual(loops(JUICE)[1].volts_v, rest[1] - rest[0], delta=0.01)
