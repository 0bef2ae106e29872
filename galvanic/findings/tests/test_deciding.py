"""Shares of the accounts on classes of which one is known to hold."""

import unittest
from itertools import combinations

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.accounts import ACCOUNTS, predict
from galvanic.chemistry.hypotheses import NONE
from galvanic.findings.compare import ClassReading, compare
from galvanic.findings.deciding import MOST_TELLING, deciding, in_hundred

PLATES, JUICE = ("magnesium", "aluminium", "zinc", "tin", "copper"), "lemon-juice"
CELLS = [Cell.of(a, JUICE, b) for a, b in combinations(PLATES, 2)]


def of_account(account: str, cells: list[Cell], groups: int = 3, seed: int = 1) -> list[ClassReading]:
    """What groups read where an account holds; none of them: plates stand anywhere."""
    rng = np.random.default_rng(seed)
    anywhere = {plate: rng.normal(0.0, 0.5) for plate in PLATES}
    says = predict(cells, 0)
    readings = []
    for group in range(groups):
        for cell, of in zip(cells, says, strict=True):
            at = anywhere[cell.positive] - anywhere[cell.negative] if account == NONE else of[account].volts_v or 0.0
            value = round(float(at + rng.normal(0.0, 0.015)), 3)
            readings.append(ClassReading(f"g{group}", cell.positive, cell.negative, JUICE, value, 0.001))
    return readings


class Shares(unittest.TestCase):
    """`deciding` on simulated classes."""

    def test_the_account_that_holds_is_found(self) -> None:
        for account in (*ACCOUNTS, NONE):
            found = deciding(compare(of_account(account, CELLS)))
            self.assertEqual(max(found.shares, key=lambda name: found.shares[name]), account, found.shares)
            self.assertTrue(found.verdict.startswith("Decided") or account == NONE, found.verdict)
            self.assertEqual(sum(found.shares.values()), 100)
            self.assertEqual(found.cells, len(CELLS))

    def test_nothing_measured_leaves_all_alike_and_names_a_cell(self) -> None:
        found = deciding([], candidates=CELLS)
        self.assertEqual(set(found.shares.values()), {20})
        self.assertEqual((found.steps, found.verdict), ((), ""))
        self.assertEqual(len(found.telling), MOST_TELLING)
        self.assertGreater(found.telling[0].nats, found.telling[-1].nats)

    def test_the_value_that_moved_the_shares_most_is_named(self) -> None:
        readings = of_account("rest", CELLS[:4], groups=2)
        found = deciding(compare(readings))
        before = [dict.fromkeys(found.shares, 1 / len(found.shares)), *(step.shares for step in found.steps)]
        moved = [sum(abs(after[k] - at[k]) for k in after) for at, after in zip(before, before[1:], strict=False)]
        self.assertEqual(moved[found.turn - 1], max(moved))
        self.assertEqual(
            found.turned, f"Value {found.turn} of 8, {found.steps[found.turn - 1].cell.short}, moved the shares most."
        )
        self.assertEqual((deciding([], candidates=CELLS).turn, deciding([]).turned), (None, ""))

    def test_nothing_at_all_is_nothing(self) -> None:
        self.assertEqual(deciding([]).shares, {})

    def test_steps_come_in_the_order_of_time(self) -> None:
        readings = of_account("rest", CELLS[:4])
        order = [(CELLS[k], f"g{g}") for k in (2, 0, 3, 1) for g in (1, 0, 2)]
        found = deciding(compare(readings), order)
        self.assertEqual([(step.cell, step.group) for step in found.steps], order)
        self.assertEqual(in_hundred(found.steps[-1].shares), found.shares)
        again = deciding(compare(readings), order[::-1])
        self.assertAlmostEqual(again.steps[-1].shares["rest"], found.steps[-1].shares["rest"], places=4)

    def test_a_cell_on_which_all_agree_tells_less_than_one_on_which_they_differ(self) -> None:
        said = {cell: predict([cell], 0)[0] for cell in CELLS}
        found = deciding(compare(of_account("rest", CELLS[:1], 2)), candidates=CELLS)
        self.assertFalse(found.verdict.startswith("Decided"))
        self.assertIn(found.telling[0].cell.short, found.verdict)
        apart = {cell: np.ptp([one.volts_v for one in of.values() if one.volts_v is not None]) for cell, of in said.items()}
        self.assertGreater(apart[found.telling[0].cell], np.median(list(apart.values())))

    def test_values_that_do_not_count_move_nothing(self) -> None:
        readings = of_account("rest", CELLS, 5)
        odd = [
            ClassReading("g9", "copper", "zinc", JUICE, 1.9, 0.001),
            *(one for one in of_account("rest", CELLS[3:], 1, 5)),
        ]
        with_odd = deciding(compare([*readings, *(ClassReading("g9", *list(_rest(one))) for one in odd)]))
        self.assertEqual(max(with_odd.shares, key=lambda name: with_odd.shares[name]), "rest")

    def test_cells_that_no_account_of_the_class_answers_are_not_asked_for(self) -> None:
        found = deciding(compare(of_account("rest", CELLS)), candidates=[Cell("copper", JUICE, "graphite")])
        self.assertEqual(found.telling, ())


def _rest(one: ClassReading) -> tuple[str, str, str, float, float]:
    return one.red, one.black, one.electrolyte, one.volts_v, one.resolution_v


class Hundred(unittest.TestCase):
    """Whole numbers that add up."""

    def test_they_add_up_and_nobody_has_all(self) -> None:
        self.assertEqual(in_hundred({"a": 1.0, "b": 0.0}), {"a": 99, "b": 1})
        self.assertEqual(in_hundred(dict.fromkeys("abc", 1.0 / 3.0)), {"a": 34, "b": 33, "c": 33})
        rng = np.random.default_rng(1)
        for _ in range(200):
            parts = rng.dirichlet([0.3] * 5)
            found = in_hundred(dict(zip("abcde", parts, strict=True)))
            self.assertEqual(sum(found.values()), 100)
            self.assertLess(max(found.values()), 100)
            self.assertTrue(all(abs(found[name] - 100.0 * part) <= 1.0 for name, part in zip("abcde", parts, strict=True)))
