"""What labs to come are short of: plates come back, liquids do not."""

import unittest

from galvanic.cells import Cell
from galvanic.planning.kit import kit
from galvanic.planning.shortages import shortages

JUICE = "lemon-juice"


def zinc_copper(groups, *conditions):
    return kit([[Cell("zinc", JUICE, "copper", condition) for condition in conditions or ("",)] for _ in range(groups)])


class Shortages(unittest.TestCase):
    def test_plates_come_back_so_the_largest_lab_counts(self):
        labs = [("Monday", zinc_copper(4)), ("Tuesday", zinc_copper(6))]
        [found] = shortages(labs, {"zinc": 5})
        self.assertEqual((found.key, found.needed, found.there, found.labs), ("zinc", 6, 5, ("Monday", "Tuesday")))
        self.assertEqual(shortages(labs, {"zinc": 6}), [])

    def test_liquids_are_used_up_so_labs_add_up(self):
        one = zinc_copper(6)
        litres = one.batches[0].volume_l
        [found] = shortages([("Monday", one), ("Tuesday", one)], {JUICE: 1.5 * litres})
        self.assertAlmostEqual(found.needed, 2 * litres, places=9)
        self.assertEqual(shortages([("Monday", one)], {JUICE: litres}), [])

    def test_dull_and_bare_plates_of_a_metal_are_twice_as_many(self):
        lab = ("Surface", zinc_copper(4, "as it was", "rubbed"))
        [found] = shortages([lab], {"zinc": 7})
        self.assertEqual(found.needed, 8)

    def test_a_dilution_is_made_from_what_counts_already(self):
        lab = zinc_copper(4, "neat", "1 part in 10")
        batch = next(one for one in lab.batches if not one.dilution)
        [found] = shortages([("Dilution", lab)], {JUICE: 0.0})
        self.assertAlmostEqual(found.needed, batch.volume_l, places=9)

    def test_what_nobody_has_counted_is_enough(self):
        self.assertEqual(shortages([("Monday", zinc_copper(8))], {}), [])
