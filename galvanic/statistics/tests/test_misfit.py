"""Whether a ladder adds up: what does not fit is found and named, chance is not, and too little says so."""

import math
import random
import unittest
from itertools import combinations

import numpy as np

from galvanic.errors import NotEnoughData
from galvanic.statistics.ladder import Difference
from galvanic.statistics.misfit import SEEN_V, misfit

NAMES = "abcde"
TRUE = dict(zip(NAMES, [0.0, 0.3, 0.5, 0.9, 1.4], strict=True))


def a_class(seed, groups=6, pairs=None, odd=None, by_v=0.0, meter=None, plate=None):
    """Values of a class: `odd` cell off in all groups, `meter` (group) off everywhere, `plate` (group, plate) off."""
    rng = random.Random(seed)
    found = []
    for g in range(groups):
        for x, y in pairs or combinations(NAMES, 2):
            value = TRUE[y] - TRUE[x] + rng.gauss(0.0, 0.015)
            value += by_v * ((x, y) == odd) + by_v * (meter == g)
            if plate and plate[0] == g:
                value += by_v * ((y == plate[1]) - (x == plate[1]))
            found.append(Difference(y, x, value, 0.004, f"g{g}"))
    return found


class Misfits(unittest.TestCase):
    def test_a_sound_ladder_adds_up_and_could_have_been_seen_not_to(self):
        false = sum(not misfit(a_class(seed)).adds_up for seed in range(60))
        self.assertLessEqual(false, 5)
        found = misfit(a_class(1))
        self.assertTrue(found.adds_up)
        self.assertGreater(found.power, 0.95)
        self.assertEqual(found.loops, 10 - 4)

    def test_a_cell_that_is_off_in_all_groups_is_found_named_and_measured(self):
        found = misfit(a_class(2, odd=("b", "d"), by_v=0.3))
        self.assertFalse(found.adds_up)
        worst = found.suspects[0]
        self.assertEqual((worst.kind, worst.group, {worst.red, worst.black}), ("cell", "", {"b", "d"}))
        self.assertGreater(worst.probability, 0.9)
        self.assertAlmostEqual(abs(worst.shift_v), 0.3, delta=3.0 * worst.u_v)
        self.assertLess(worst.u_v, 0.03)

    def test_a_meter_and_a_plate_of_one_group_are_told_from_a_cell(self):
        meter = misfit(a_class(3, meter=2, by_v=0.3)).suspects[0]
        self.assertEqual((meter.kind, meter.group), ("meter", "g2"))
        plate = misfit(a_class(4, plate=(1, "c"), by_v=0.4)).suspects[0]
        self.assertEqual((plate.kind, plate.group, plate.red), ("plate", "g1", "c"))

    def test_in_a_single_loop_no_cell_can_be_told_from_the_others(self):
        ring = [("a", "b"), ("b", "c"), ("a", "c")]
        found = misfit(a_class(5, groups=8, pairs=ring, odd=("a", "b"), by_v=0.3))
        self.assertFalse(found.adds_up)
        self.assertAlmostEqual(found.cells[0].p, found.cells[2].p, delta=1e-9)
        self.assertLess(found.suspects[0].probability, 0.5)

    def test_probabilities_with_none_of_them_make_a_whole(self):
        for seed in range(5):
            found = misfit(a_class(seed, odd=("a", "e"), by_v=0.05))
            self.assertLess(math.fsum(one.probability for one in found.suspects), 1.0)
            self.assertTrue(all(0.0 <= one.probability <= 1.0 for one in found.suspects))

    def test_what_is_said_to_be_seen_is_seen_as_often(self):
        said, seen = [], 0
        for seed in range(80):
            held = misfit(a_class(seed, groups=2)).cells
            odd = held[seed % len(held)]
            by_v = SEEN_V
            data = a_class(seed, groups=2, odd=tuple(sorted((odd.red, odd.black))), by_v=by_v)
            found = misfit(data)
            said.append(found.power)
            seen += not found.adds_up
        self.assertAlmostEqual(seen / 80, float(np.mean(said)), delta=0.15)

    def test_without_a_loop_or_a_cell_measured_twice_nothing_is_said(self):
        chain = [("a", "b"), ("b", "c"), ("c", "d")]
        with self.assertRaises(NotEnoughData):
            misfit(a_class(1, pairs=chain))
        with self.assertRaises(NotEnoughData):
            misfit(a_class(1, groups=1))
