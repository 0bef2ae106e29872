"""What the shared cell costs and buys."""

import math
from unittest import TestCase

from galvanic.cells import Cell
from galvanic.planning.design import Shared, Task, design
from galvanic.planning.trade import in_words, offset_u, trade

PLATES = ("magnesium", "zinc", "steel", "tin", "nickel", "copper")
JUICE = "rhubarb-juice"


class Offsets(TestCase):
    def test_two_groups_with_one_cell_in_common_differ_by_it_alone(self):
        cell, other, third = (Cell(a, JUICE, "copper") for a in ("zinc", "tin", "nickel"))
        # d = difference of two single values: variance 2; each group's error beside the mean is half of it.
        self.assertAlmostEqual(offset_u([[cell, other], [cell, third]]), math.sqrt(2.0) / 2.0, places=3)

    def test_groups_without_anything_in_common_cannot_be_compared(self):
        zinc, tin = Cell("zinc", JUICE, "copper"), Cell("tin", JUICE, "nickel")
        self.assertEqual(offset_u([[zinc], [tin]]), math.inf)

    def test_all_cells_by_all_groups_are_the_mean_of_so_many_values(self):
        cells = [Cell(plate, JUICE, "copper") for plate in ("zinc", "tin", "nickel", "steel")]
        groups = 3
        self.assertAlmostEqual(offset_u([cells] * groups), math.sqrt((1 - 1 / groups) / len(cells)), places=3)


class TheTrade(TestCase):
    def task(self, groups=4, places=4, **changes):
        return Task(PLATES, (JUICE,), groups, places, **changes)

    def test_without_it_the_ladder_is_no_blunter(self):
        for groups, places in ((4, 4), (8, 4), (6, 6)):
            task = self.task(groups, places)
            found = trade(task, design(task))
            with self.subTest(groups=groups, places=places):
                self.assertIsNotNone(found)
                self.assertGreater(found.sharper_per_cent, 0.0)
                self.assertTrue(math.isfinite(found.with_u))

    def test_in_words_with_the_scatter_of_this_lab(self):
        task = self.task(8, 4)
        plan = design(task)
        found = trade(task, plan)
        said = in_words(task, plan, found, 0.05)
        self.assertIn(f"± {100 * found.with_u:.0f} mV", said)
        self.assertIn(f"{found.sharper_per_cent:.0f} % sharper", said)
        self.assertIn("first and last", said)

    def test_a_plan_without_one_has_nothing_to_trade(self):
        task = self.task(held=Shared(None))
        self.assertIsNone(trade(task, design(task)))
