"""The probability of the right order, against simulated classes; the cheapest help helps."""

import math
import unittest
from dataclasses import replace

import numpy as np

from galvanic.errors import OutOfRange
from galvanic.planning.design import Task, design, judge
from galvanic.planning.replan import more
from galvanic.planning.tell_apart import cheapest_help, right_order, tell_apart
from galvanic.statistics import ladder

JUICE, BRINE = "rhubarb-juice", "kelp-brine"
PLATES = ("magnesium", "aluminium", "zinc", "steel", "tin", "nickel", "copper")
TASK = Task(PLATES, (JUICE,), 6, 6)
PLAN = design(TASK)
TRUE_V = {
    "magnesium": -1.4,
    "zinc": -0.79,
    "aluminium": -0.74,
    "steel": -0.42,
    "tin": -0.38,
    "nickel": -0.36,
    "copper": 0.15,
}
SCATTER_V = 0.05


def class_of(rng):
    """What a class finds: one value for each group and cell, with scatter between groups."""
    return [
        ladder.Difference(c.positive, c.negative, TRUE_V[c.positive] - TRUE_V[c.negative] + rng.normal(0, SCATTER_V), SCATTER_V, str(g))
        for g, hand in enumerate(PLAN.hands)
        for c in dict.fromkeys(hand)
    ]  # fmt: skip


class Order(unittest.TestCase):
    def test_the_stated_probability_is_what_simulated_classes_show(self):
        rng = np.random.default_rng(11)
        stated = {(n.lower, n.upper): n for n in tell_apart(TASK, PLAN, SCATTER_V, {(JUICE, ""): TRUE_V})}
        self.assertEqual(len(stated), 6)
        right, classes = dict.fromkeys(stated, 0), 1500
        for _ in range(classes):
            # Weighted least squares with the known scatter, as the plan assumes it.
            found = class_of(rng)
            names = sorted({x for d in found for x in (d.red, d.black)})
            a = np.array([[(n == d.red) - (n == d.black) for n in names] for d in found], dtype=float)
            theta = np.linalg.lstsq(a, np.array([d.volts_v for d in found]), rcond=None)[0]
            for lower, upper in stated:
                right[lower, upper] += bool(theta[names.index(upper)] > theta[names.index(lower)])
        for pair, one in stated.items():
            sigma = math.sqrt(one.probability * (1.0 - one.probability) / classes)
            self.assertAlmostEqual(right[pair] / classes, one.probability, delta=4.0 * sigma + 0.002)

    def test_half_is_no_knowledge_and_a_wide_gap_is_certain(self):
        self.assertEqual(right_order(0.0, 0.1), 0.5)
        self.assertAlmostEqual(right_order(0.1, 0.1), 0.8413447, places=6)  # Φ(1): any table of the normal distribution
        self.assertAlmostEqual(right_order(1.0, 0.1), 1.0)

    def test_plates_that_no_chain_reaches_cannot_be_told_apart(self):
        loose = judge(TASK, [[cell for cell in hand if "tin" not in cell.pair] for hand in PLAN.hands])
        about_tin = [n for n in tell_apart(TASK, loose) if "tin" in (n.lower, n.upper)]
        self.assertTrue(all(n.probability == 0.5 and math.isinf(n.u_v) for n in about_tin))

    def test_the_cheapest_help_does_what_it_says(self):
        expected = {(JUICE, ""): TRUE_V}
        weakest = tell_apart(TASK, PLAN, SCATTER_V, expected)[0]
        self.assertEqual({weakest.lower, weakest.upper}, {"tin", "nickel"})
        help_ = cheapest_help(TASK, PLAN, weakest, SCATTER_V)
        self.assertGreater(help_.probability, weakest.probability)
        roomy = replace(TASK, places=12)
        task, plan = roomy, judge(roomy, PLAN.hands)
        for _ in range(help_.times):
            done = more(task, plan, help_.cell, list("abcdef"))
            task, plan = done.task, done.plan
        after = {(n.lower, n.upper): n for n in tell_apart(task, plan, SCATTER_V, expected)}
        self.assertAlmostEqual(after[weakest.lower, weakest.upper].probability, help_.probability, places=6)

    def test_a_scatter_of_nothing_is_refused(self):
        for bad in (0.0, -1.0, math.nan, math.inf):
            with self.assertRaises(OutOfRange):
                tell_apart(TASK, PLAN, bad)
