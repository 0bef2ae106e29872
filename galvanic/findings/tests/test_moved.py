"""What went along with the levels is said; what did not, is only told."""

import unittest

from galvanic.cells import Cell
from galvanic.condition import Condition
from galvanic.findings.by_variable import volts_by_variable
from galvanic.findings.compare import compare
from galvanic.findings.moved import Noted, moved
from galvanic.findings.tests.test_by_variable import GROUPS, readings

LEVELS = (1.0, 2.0, 4.0)
CELL = Cell("zinc", "lemon-juice", "copper")


def place(group, cm):
    return group, CELL, Condition("spacing", cm)


class Along(unittest.TestCase):
    def setUp(self):
        self.found = volts_by_variable(compare(readings("spacing", LEVELS, lambda _: 0.95)))[0]

    def codes(self, celsius=None, minutes=None):
        every = [(n, k, place(group, cm)) for n, group in enumerate(GROUPS) for k, cm in enumerate(LEVELS)]
        noted = [Noted(at, "temperature", celsius(n, LEVELS[k])) for n, k, at in every] if celsius else []
        times = {at: minutes(n, k) for n, k, at in every} if minutes else {}
        return {note.code: note for note in moved(self.found, noted, times)}

    def test_a_temperature_that_rose_with_the_levels_is_a_caution(self):
        found = self.codes(celsius=lambda n, cm: 20.0 + cm)
        self.assertEqual((set(found), found["moved"].tone), ({"moved"}, "caution"))
        self.assertIn("temperature 21 °C to 24 °C", found["moved"].text)

    def test_one_that_went_its_own_way_is_told_plainly_and_one_that_stayed_not_at_all(self):
        crossing = {1.0: 0.0, 2.0: 3.0, 4.0: 1.0}
        found = self.codes(celsius=lambda n, cm: 20.0 + (crossing[cm] if n % 2 else 3.0 - crossing[cm]))
        self.assertEqual(set(found), {"not_steady"})
        self.assertEqual(self.codes(celsius=lambda n, cm: 20.0), {})

    def test_rooms_that_differ_between_groups_are_not_in_step_with_the_levels(self):
        self.assertEqual(set(self.codes(celsius=lambda n, cm: 18.0 + n)), {"not_steady"})

    def test_the_same_order_in_every_group_is_a_caution_and_a_mixed_one_is_not(self):
        self.assertIn("order", self.codes(minutes=lambda n, k: 10.0 * k))
        turned = ((0, 1, 2), (1, 2, 0), (2, 0, 1), (2, 1, 0), (0, 2, 1), (1, 0, 2))
        self.assertNotIn("order", self.codes(minutes=lambda n, k: 10.0 * turned[n].index(k)))
