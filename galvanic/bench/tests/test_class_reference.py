"""What is believed of a class's plates, against the closed form for two plates: normal prior times normal values.

Posterior precision is the sum of precisions and the mean is weighted by them: Gelman et al., “Bayesian Data Analysis”, 2.5.
"""

import itertools
import math
import random
import unittest

import numpy as np

from galvanic.bench.class_reference import DENIED, HEADROOM_V, OWN_V, PLATE_V, UNKNOWN_V, GroupCell, Reference, believe
from galvanic.cells import Cell

CELL = Cell("zinc", "lemon-juice", "copper")
PRIOR = {"zinc": -0.8, "copper": 0.2}


def values(*volts, cell=CELL):
    return [GroupCell(f"group {n}", cell, v) for n, v in enumerate(volts)]


def difference(found):
    """Copper minus zinc and its standard uncertainty, V."""
    zinc, copper = found.plates.index("zinc"), found.plates.index("copper")
    c = found.covariance_v2
    volts = found.potential_v[copper] - found.potential_v[zinc]
    return volts, math.sqrt(c[copper, copper] + c[zinc, zinc] - 2.0 * c[copper, zinc])


class TwoPlates(unittest.TestCase):
    def test_without_values_the_account_is_all_there_is(self):
        volts, u_v = difference(believe(PRIOR, []))
        self.assertAlmostEqual(volts, 1.0)
        self.assertAlmostEqual(u_v, math.sqrt(2.0) * PLATE_V)

    def test_values_pull_by_their_precision(self):
        for measured in ((0.95,), (0.95, 0.97), (0.9, 0.92, 0.94, 0.91)):
            prior, own = 1.0 / (2.0 * PLATE_V**2), len(measured) / OWN_V**2
            mean = (prior * 1.0 + own * sum(measured) / len(measured)) / (prior + own)
            volts, u_v = difference(believe(PRIOR, values(*measured)))
            with self.subTest(measured=measured):
                self.assertAlmostEqual(volts, mean)
                self.assertAlmostEqual(u_v, 1.0 / math.sqrt(prior + own))

    def test_a_plate_no_account_knows_is_found_from_the_other(self):
        volts, u_v = difference(believe({"zinc": -0.8, "copper": None}, values(0.95)))
        spread = PLATE_V**2 + UNKNOWN_V**2
        self.assertAlmostEqual(u_v, 1.0 / math.sqrt(1.0 / spread + 1.0 / OWN_V**2))
        self.assertAlmostEqual(volts, 0.95, delta=0.01)

    def test_a_value_that_the_others_deny_is_left_out_and_named_and_one_just_within_is_not(self):
        found = believe(PRIOR, values(0.95, 0.96, 0.94, 0.1))
        self.assertEqual([(one.group, one.volts_v) for one in found.denied], [("group 3", 0.1)])
        self.assertEqual(found.used, 3)
        self.assertAlmostEqual(difference(found)[0], difference(believe(PRIOR, values(0.95, 0.96, 0.94)))[0])
        near = believe(PRIOR, values(0.95, 0.95, 0.95, 0.95 + 0.5 * DENIED * OWN_V))
        self.assertEqual((near.used, near.denied), (4, ()))

    def test_what_no_cell_gives_is_denied_before_anything_is_fitted(self):
        found = believe(PRIOR, values(940.0, 0.95, -20.0))
        self.assertEqual({one.volts_v for one in found.denied}, {940.0, -20.0})
        self.assertEqual(found.used, 1)


class ManyPlates(unittest.TestCase):
    """Against NumPy's least squares: priors are rows of their own, each row divided by its standard deviation."""

    def test_it_is_weighted_least_squares_over_what_is_left_when_the_odd_ones_are_out(self):
        rng = random.Random(5)
        prior = {"magnesium": -1.5, "zinc": -0.8, "tin": -0.2, "copper": 0.2, "graphite": None}
        true = {plate: rng.gauss(v or 0.3, 0.05) for plate, v in prior.items()}
        cells = [Cell(low, "lemon-juice", high) for low, high in itertools.combinations(prior, 2)] * 3
        sound = [GroupCell(f"g{n}", one, true[one.positive] - true[one.negative] + rng.gauss(0.0, 0.01))
                 for n, one in enumerate(cells)]  # fmt: skip
        odd = [GroupCell(f"odd {n}", cells[n], sound[n].volts_v + off) for n, off in enumerate((0.4, -0.6, 0.3))]
        found = believe(prior, [*odd, *sound])
        self.assertEqual({one.group for one in found.denied}, {"odd 0", "odd 1", "odd 2"})
        plates = list(prior)
        spread = [UNKNOWN_V if v is None else PLATE_V for v in prior.values()]
        a = [[float(plate == at) / u for at in plates] for plate, u in zip(plates, spread, strict=True)]
        y = [(v or 0.0) / u for v, u in zip(prior.values(), spread, strict=True)]
        a += [[((at == one.cell.positive) - (at == one.cell.negative)) / OWN_V for at in plates] for one in sound]
        y += [one.volts_v / OWN_V for one in sound]
        expected, *_ = np.linalg.lstsq(np.array(a), np.array(y), rcond=None)
        np.testing.assert_allclose(found.potential_v, expected, atol=1e-9)
        np.testing.assert_allclose(found.covariance_v2, np.linalg.inv(np.array(a).T @ np.array(a)), atol=1e-12)
        self.assertEqual(found.used, len(sound))


class WithoutOwn(unittest.TestCase):
    def test_a_groups_own_values_and_those_that_are_none_do_not_count(self):
        told = [GroupCell("Tern", CELL, 0.5), GroupCell("Knot", CELL, 0.95), GroupCell("Ruff", CELL, math.nan)]
        reference = Reference(["zinc", "copper"], ["lemon-juice"], told, without="Tern")
        alone = Reference(["zinc", "copper"], ["lemon-juice"], [told[1]], without="")
        self.assertEqual(reference.of(CELL).volts_v, alone.of(CELL).volts_v)
        self.assertIs(reference.of(CELL), reference.of(CELL))

    def test_the_ceiling_lies_above_table_account_and_class(self):
        for volts in (0.2, 0.95, 1.6):
            reference = Reference(["zinc", "copper"], ["lemon-juice"], values(*[volts] * 6), without="")
            found = reference.of(CELL)
            self.assertGreaterEqual(found.ceiling_v - HEADROOM_V, max(abs(found.volts_v), CELL.table_v) - 1e-12)
            self.assertEqual(found.others, 6)
