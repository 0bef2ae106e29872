"""Errors that cells have in common."""

import unittest

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.accounts import ACCOUNTS, predict
from galvanic.chemistry.hypotheses import ANYWHERE_V, NONE, hypotheses_on, made_of, weighed_accounts
from galvanic.chemistry.joint import jointly

JUICE, BRINE = "lemon-juice", "salt-water"
CELLS = (
    Cell("zinc", JUICE, "copper"),
    Cell("zinc", JUICE, "tin"),
    Cell("magnesium", JUICE, "copper"),
    Cell("zinc", BRINE, "copper"),
    Cell("zinc", JUICE, "graphite"),
)


class Jointly(unittest.TestCase):
    """`jointly`."""

    def test_each_cell_has_the_uncertainty_it_has_alone(self) -> None:
        for account, joint in jointly(CELLS).items():
            for row, one in enumerate(predict(CELLS)):
                if one[account].volts_v is None:
                    self.assertTrue(np.isnan(joint.says_v[row]))
                    self.assertFalse(joint.covariance_v2[row].any())
                else:
                    self.assertAlmostEqual(joint.says_v[row], one[account].volts_v or 0.0)
                    self.assertAlmostEqual(joint.covariance_v2[row, row] ** 0.5, one[account].u_v or 0.0, places=6)

    def test_errors_of_a_plate_are_in_all_its_cells(self) -> None:
        found = jointly(CELLS)
        for account in ACCOUNTS:
            covariance = found[account].covariance_v2
            self.assertGreater(covariance[0, 1], 0.0, account)  # zinc's
            self.assertTrue((np.linalg.eigvalsh(covariance) > -1e-9).all(), account)
        self.assertGreater(found["series"].covariance_v2[0, 3], 0.0)  # a chart knows no liquid
        self.assertEqual(
            found["hydrogen"].covariance_v2[1, 2], found["hydrogen"].covariance_v2[0, 2]
        )  # the juice's pH alone

    def test_two_plates_of_one_metal_share_their_error(self) -> None:
        cells = (Cell("zinc", JUICE, "zinc"), CELLS[0])
        self.assertEqual(jointly(cells)["rest"].covariance_v2[0, 1], 0.0)


class Hypotheses(unittest.TestCase):
    """What can be weighed on which cells."""

    def test_cells_that_an_account_cannot_answer_are_left_out(self) -> None:
        names, cells = weighed_accounts(CELLS)
        self.assertEqual(names, ACCOUNTS)
        self.assertEqual(cells, CELLS[:4])
        self.assertEqual(weighed_accounts([]), ((), ()))

    def test_an_account_that_answers_few_is_not_weighed(self) -> None:
        names, cells = weighed_accounts([Cell("copper", JUICE, "graphite"), CELLS[4], CELLS[0]])
        self.assertNotIn("standard", names)
        self.assertIn("rest", names)
        self.assertEqual(len(cells), 3)

    def test_none_of_them_lies_anywhere(self) -> None:
        none = hypotheses_on(CELLS[:3], ACCOUNTS)[-1]
        self.assertEqual(none.name, NONE)
        self.assertAlmostEqual(none.covariance_v2[0, 0], 2.0 * ANYWHERE_V**2)
        self.assertEqual(none.covariance_v2[0, 1], ANYWHERE_V**2)
        self.assertEqual(made_of(CELLS[:2]).sum(), 0.0)

    def test_a_cell_may_come_more_than_once(self) -> None:
        twice = hypotheses_on((CELLS[0], CELLS[1], CELLS[0]), ACCOUNTS)[3]
        self.assertEqual(twice.says_v[0], twice.says_v[2])
        self.assertEqual(twice.covariance_v2[0, 2], twice.covariance_v2[0, 0])
