"""The robust fit: its answer does not depend on the order of the readings, and one wild reading hardly moves it."""

import unittest

import numpy as np

from galvanic.statistics.robust import huber


def pairs(rng, n, unknowns=4):
    """Differences of unknowns, as cells are of plates, with a scatter and a few wild ones."""
    x = np.zeros((n, unknowns))
    for row in x:
        a, b = rng.choice(unknowns + 1, 2, replace=False)
        if a < unknowns:
            row[a] = 1.0
        if b < unknowns:
            row[b] = -1.0
    y = x @ np.linspace(-1.0, 1.0, unknowns) + rng.normal(0.0, 0.01, n)
    y[: n // 10] += 0.5
    return x, y


class Huber(unittest.TestCase):
    def test_the_order_of_the_readings_does_not_matter(self):
        rng = np.random.default_rng(5)
        for _ in range(40):
            x, y = pairs(rng, 40)
            order = rng.permutation(len(y))
            one, other = huber(x, y).coefficients, huber(x[order], y[order]).coefficients
            self.assertLess(float(np.abs(one - other).max()), 1e-6)

    def test_one_wild_reading_hardly_moves_it(self):
        rng = np.random.default_rng(6)
        x, y = pairs(rng, 40)
        before = huber(x, y).coefficients
        y[-1] += 5.0
        self.assertLess(float(np.abs(huber(x, y).coefficients - before).max()), 0.02)
