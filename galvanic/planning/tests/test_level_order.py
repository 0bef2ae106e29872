"""Another order of the settings for every group, balanced over the class."""

import unittest
from collections import Counter

from galvanic.cells import Cell
from galvanic.planning.design import Task, design
from galvanic.planning.level_order import mixed, williams_row

LEMON = "lemon-juice"
SPACING = tuple(f"spacing {cm} cm" for cm in (1, 2, 4, 8))


def cells(conditions, pairs=(("zinc", "copper"),)):
    return [Cell(a, LEMON, b, condition) for condition in conditions for a, b in pairs]


class Orders(unittest.TestCase):
    def test_every_setting_stands_in_every_place_and_follows_every_other_equally_often(self):
        # Williams (1949): balanced over k groups for an even number of settings, over 2k for an odd one.
        for levels in range(2, 9):
            rows = [williams_row(levels, group) for group in range(levels if levels % 2 == 0 else 2 * levels)]
            places = Counter((place, level) for row in rows for place, level in enumerate(row))
            follows = Counter(pair for row in rows for pair in zip(row, row[1:], strict=False))
            self.assertEqual(len(set(places.values())), 1, levels)
            self.assertEqual((len(follows), len(set(follows.values()))), (levels * (levels - 1), 1), levels)

    def test_cells_of_one_setting_stay_together_and_none_is_lost(self):
        path = cells(SPACING[:2], (("zinc", "copper"), ("steel", "copper")))
        turned = mixed(path, SPACING[:2], 1)
        self.assertEqual(sorted(turned), sorted(path))
        self.assertEqual([cell.condition for cell in turned], [SPACING[1]] * 2 + [SPACING[0]] * 2)

    def test_what_takes_time_keeps_its_order(self):
        later = tuple(f"time since dipping {minutes} min" for minutes in (1, 10, 60))
        for group in range(4):
            self.assertEqual(list(mixed(cells(later), later, group)), cells(later))
        self.assertEqual(list(mixed(cells([""]), ("",), 3)), cells([""]))

    def test_in_a_plan_place_and_setting_are_not_the_same_thing(self):
        plan = design(Task(("zinc", "copper"), (LEMON,), 8, 6, repeats=8, conditions=SPACING))
        inner = [[cell.condition for cell in hand if cell != plan.shared] for hand in plan.hands]
        self.assertTrue(all(len(set(hand)) == 3 for hand in inner))
        self.assertGreaterEqual(min(len({hand[place] for hand in inner}) for place in range(3)), 2)
        self.assertEqual(plan.hands, design(Task(("zinc", "copper"), (LEMON,), 8, 6, repeats=8, conditions=SPACING)).hands)
