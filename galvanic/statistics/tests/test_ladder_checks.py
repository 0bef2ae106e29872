"""What a ladder says of itself, against closed forms, simulation and statsmodels."""

import math
import random
import unittest
from itertools import combinations

import numpy as np
import statsmodels.api as sm
from scipy.special import ndtr, ndtri
from statsmodels.datasets import stackloss

from galvanic.errors import NotEnoughData
from galvanic.statistics.ladder import Difference, fit
from galvanic.statistics.ladder_checks import (
    group_offsets,
    next_cells,
    odd_readings,
    rank_agreement,
    robust_ladder,
)
from galvanic.statistics.robust import huber

NAMES = ["a", "b", "c", "d", "e"]
TRUE = dict(zip(NAMES, [0.0, 0.3, 0.5, 0.9, 1.4], strict=True))


def everything(seed, scatter=0.02, u=0.02, offsets=None, groups=4):
    rng = random.Random(seed)
    return [
        Difference(y, x, TRUE[y] - TRUE[x] + (offsets or {}).get(f"g{g}", 0.0) + rng.gauss(0, scatter), u, f"g{g}")
        for g in range(groups)
        for x, y in combinations(NAMES, 2)
    ]


class Odd(unittest.TestCase):
    def test_a_wild_reading_is_named_first_and_sound_ones_are_rarely_named(self):
        data = everything(2)
        data[7] = Difference(data[7].red, data[7].black, data[7].volts_v - 0.9, 0.02, data[7].group)
        self.assertIs(odd_readings(data, fit(data))[0][0], data[7])
        sound = sum(len(odd_readings(d, fit(d))) for d in (everything(seed) for seed in range(30)))
        self.assertLess(sound / (30 * 40), 0.01)

    def test_the_robust_ladder_is_not_dragged_along(self):
        data = everything(3)
        data[7] = Difference(data[7].red, data[7].black, data[7].volts_v - 0.9, 0.02, data[7].group)
        potentials, weights = robust_ladder(data)
        for name in NAMES:
            self.assertAlmostEqual(potentials[name] - potentials["a"], TRUE[name], delta=0.03)
        self.assertLess(weights[7], 0.1)
        self.assertEqual(min(weights), weights[7])

    def test_huber_agrees_with_statsmodels_on_stackloss(self):
        # Outside: statsmodels RLM with HuberT(1.345) and its MAD scale on the stackloss data set.
        data = stackloss.load()
        x = sm.add_constant(np.asarray(data.exog, float))
        y = np.asarray(data.endog, float)
        outside = sm.RLM(y, x, M=sm.robust.norms.HuberT(1.345)).fit(maxiter=500, tol=1e-12)
        np.testing.assert_allclose(huber(x, y).coefficients, outside.params, rtol=1e-4)

    def test_huber_refuses_too_few_readings(self):
        with self.assertRaises(NotEnoughData):
            huber(np.ones((1, 2)), np.ones(1))
        with self.assertRaises(NotEnoughData):
            robust_ladder([])


class Order(unittest.TestCase):
    def test_rank_agreement_is_one_in_order_and_minus_one_turned_round(self):
        found = fit(everything(4))
        self.assertAlmostEqual(rank_agreement(found, TRUE).tau, 1.0)
        turned = rank_agreement(found, {name: -value for name, value in TRUE.items()})
        self.assertAlmostEqual(turned.tau, -1.0)
        self.assertAlmostEqual(turned.high, -1.0)
        with self.assertRaises(NotEnoughData):
            rank_agreement(found, {"a": 1.0, "b": 2.0})

    def test_rank_interval_is_wide_where_plates_are_close(self):
        close = {"a": 0.0, "b": 0.001, "c": 0.002}
        data = [Difference(y, x, close[y] - close[x], 0.02) for x, y in combinations(close, 2)]
        found = rank_agreement(fit(data), close)
        self.assertLess(found.low, 0.0)


class NextCells(unittest.TestCase):
    def brute(self, data, red, black, order, u_v):
        """Expected neighbours in the right order after one more value, by refitting with each value it may well have."""
        before = fit(data)
        by_v, own_v = before.difference_v(red, black)
        chances = (np.arange(41) + 0.5) / 41.0
        found = []
        for quantile in ndtri(chances):
            value = by_v + float(quantile) * (own_v**2 + u_v**2) ** 0.5
            after = fit([*data, Difference(red, black, value, u_v)])
            pairs = [after.difference_v(a, b) for a, b in zip(order, order[1:], strict=False)]
            found.append(sum(float(ndtr(abs(d) / u)) for d, u in pairs))
        return float(np.mean(found))

    def test_it_is_among_the_best_two_of_all_cells_on_fifty_small_classes(self):
        hits = 0
        for seed in range(50):
            rng = np.random.default_rng(seed)
            true = dict(zip("abcde", np.sort(rng.normal(0.0, 0.06, 5)), strict=True))
            pairs = [
                *zip("bcde", "abcd", strict=True),
                *[tuple(rng.choice(list("abcde"), 2, replace=False)) for _ in range(2)],
            ]
            data = [Difference(str(r), str(b), true[str(r)] - true[str(b)] + rng.normal(0.0, 0.001), 0.03) for r, b in pairs]
            fitted = fit(data)
            order = sorted("abcde", key=lambda name: -fitted.potential_v[fitted.electrodes.index(name)])
            found = next_cells(fitted, order, 0.03)
            values = {(c.red, c.black): self.brute(data, c.red, c.black, order, 0.03) for c in found}
            best = sorted(values, key=lambda pair: -values[pair])[:2]
            hits += (found[0].red, found[0].black) in best
            self.assertAlmostEqual(found[0].then, values[found[0].red, found[0].black], delta=0.02)
            self.assertGreaterEqual(found[0].then, found[0].now)
        self.assertGreaterEqual(hits, 45)

    def test_two_plates_that_lie_close_are_worth_measuring_against_each_other(self):
        chain = [Difference("b", "a", 0.004, 0.02), Difference("c", "b", 0.5, 0.02), Difference("d", "c", 0.5, 0.02)]
        found = next_cells(fit(chain), ["d", "c", "b", "a"], 0.02)
        self.assertEqual({found[0].red, found[0].black}, {"a", "b"})
        self.assertLess(found[0].now, 2.7)


class Offsets(unittest.TestCase):
    def test_an_offset_meter_is_found(self):
        found = group_offsets(everything(5, offsets={"g2": -0.06}))
        self.assertEqual(found[0].group, "g2")
        self.assertAlmostEqual(found[0].volts_v, -0.06, delta=0.02)  # against the three others, of which it is no part
        self.assertLess(found[0].u_v, 0.02)
        self.assertTrue(found[0].low_v < -0.06 < found[0].high_v)

    def test_a_meter_that_is_off_does_not_make_the_others_look_off(self):
        found = group_offsets(everything(5, offsets={"g2": -0.2}))
        self.assertEqual([o.group for o in found if o.sure], ["g2"])
        others = [o.volts_v for o in found if o.group != "g2"]
        self.assertAlmostEqual(math.fsum(others), 0.0, places=6)
        self.assertLess(max(map(abs, others)), 0.03)

    def test_two_groups_differ_by_what_one_is_off(self):
        found = group_offsets(everything(5, offsets={"g1": 0.06}, groups=2))
        self.assertEqual([round(o.volts_v + found[1 - k].volts_v, 9) for k, o in enumerate(found)], [0.0, 0.0])
        self.assertAlmostEqual(next(o for o in found if o.group == "g1").volts_v, 0.06, delta=0.025)

    def test_without_offsets_none_is_far_from_zero(self):
        wide = [abs(o.volts_v) / o.u_v for seed in range(40) for o in group_offsets(everything(seed))]
        self.assertLess(sum(w > 2.0 for w in wide) / len(wide), 0.09)

    def test_what_cannot_be_told_apart_is_refused(self):
        with self.assertRaisesRegex(NotEnoughData, "two groups"):
            group_offsets(everything(1, groups=1))
        alone = [Difference("b", "a", 1.0, 0.1, "g1"), Difference("d", "c", 1.0, 0.1, "g2")]
        with self.assertRaisesRegex(NotEnoughData, "shared cell"):
            group_offsets(alone)
