"""A number typed at the wrong cell: found where it fits one other alone, and nothing said where it could be several."""

import unittest

from galvanic.bench.checks import Expectation, check
from galvanic.bench.other_cell import OWN_V, Listed, other_cell
from galvanic.cells import Cell

ZINC_COPPER, ZINC_TIN, TIN_COPPER = (
    Cell(a, "lemon-juice", b) for a, b in (("zinc", "copper"), ("zinc", "tin"), ("tin", "copper"))
)
EXPECTED = {ZINC_COPPER: 0.95, ZINC_TIN: 0.52, TIN_COPPER: 0.43}
U_V = 0.02


def listed(own=()):
    return [
        Listed(at, cell, Expectation(volts, U_V, 3, 2.0), dict(own).get(cell))
        for at, (cell, volts) in enumerate(EXPECTED.items(), start=1)
    ]


def found(v, cell=ZINC_COPPER, own=()):
    said = check(cell, v, 0.01, [], Expectation(EXPECTED[cell], U_V, 3, 2.0))
    there = other_cell(v, cell, said, listed(own))
    return None if there is None else there.position


class OtherCell(unittest.TestCase):
    def test_a_value_of_another_cup_is_that_cells(self):
        self.assertEqual((found(0.53), found(0.42), found(0.94, TIN_COPPER)), (2, 3, 1))

    def test_a_sound_value_belongs_where_it_is(self):
        self.assertIsNone(found(0.95))
        self.assertIsNone(found(0.93))

    def test_where_two_others_fit_or_none_does_nothing_is_said(self):
        self.assertIsNone(found(0.475))  # between both
        self.assertIsNone(found(0.70))

    def test_a_cell_that_is_on_the_list_twice_is_one(self):
        twice = [*listed(), Listed(7, ZINC_TIN, Expectation(0.52, U_V, 3, 2.0))]
        said = check(ZINC_COPPER, 0.53, 0.01, [], Expectation(0.95, U_V, 3, 2.0))
        self.assertEqual(other_cell(0.53, ZINC_COPPER, said, twice).cell, ZINC_TIN)

    def test_what_the_group_read_itself_says_more_than_what_is_expected(self):
        self.assertEqual(found(0.475, own=((ZINC_TIN, 0.48), (TIN_COPPER, 0.40))), 2)
        self.assertIsNone(found(0.53, own=((ZINC_TIN, 0.53 - OWN_V - 0.001),)))
