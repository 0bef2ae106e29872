"""The ladder against statsmodels' weighted least squares, closed forms and its own symmetries."""

import math
import random
import unittest
from itertools import combinations

import numpy as np
import statsmodels.api as sm
from hypothesis import given, settings
from hypothesis import strategies as st

from galvanic.errors import NotEnoughData
from galvanic.statistics.ladder import Difference, connected, fit

NAMES = ["copper", "zinc", "steel", "tin", "nickel"]
TRUE = dict(zip(NAMES, [0.2, -0.8, -0.4, -0.2, 0.0], strict=True))


def noisy(seed, n=14, scatter=0.02, u=0.02):
    rng = random.Random(seed)
    chain = list(zip(NAMES, NAMES[1:], strict=False))
    pairs = chain + [tuple(rng.sample(NAMES, 2)) for _ in range(n - len(chain))]
    return [
        Difference(r, b, TRUE[r] - TRUE[b] + rng.gauss(0, scatter), u * rng.uniform(0.5, 2), f"g{i % 4}")
        for i, (r, b) in enumerate(pairs)
    ]


class Fit(unittest.TestCase):
    def test_potentials_and_uncertainties_agree_with_statsmodels_wls(self):
        # Outside: statsmodels WLS with zinc held at 0 by leaving out its column; fixed scale, no extra scatter.
        data = noisy(1, scatter=0.005)
        found = fit(data)
        self.assertEqual(found.tau_v, 0.0)
        free = [name for name in NAMES if name != "zinc"]
        x = [[(d.red == name) - (d.black == name) for name in free] for d in data]
        outside = sm.WLS([d.volts_v for d in data], np.array(x, float), weights=[d.u_v**-2 for d in data]).fit(
            cov_type="fixed scale"
        )
        for i, name in enumerate(free):
            value, u = found.difference_v(name, "zinc")
            self.assertAlmostEqual(value, outside.params[i], places=10)
            self.assertAlmostEqual(u, outside.bse[i], places=10)

    def test_studentised_residuals_agree_with_statsmodels(self):
        data = [Difference(d.red, d.black, d.volts_v, 0.05, d.group) for d in noisy(2)]
        found = fit(data)
        x = [[(d.red == name) - (d.black == name) for name in NAMES[1:]] for d in data]
        outside = sm.OLS([d.volts_v for d in data], np.array(x, float)).fit()
        scale = math.sqrt(outside.scale) / math.sqrt(0.05**2 + found.tau_v**2)
        expected = outside.get_influence().resid_studentized_internal * scale
        np.testing.assert_allclose(found.studentised, expected, atol=1e-9)

    def test_a_complete_graph_has_the_closed_form(self):
        # Complete graph on p electrodes, one reading a pair, equal u: var(E_i − E_j) = 2u²/p (resistance of K_p).
        for p in (3, 5, 8):
            names = [f"m{i}" for i in range(p)]
            found = fit([Difference(a, b, 0.0, 0.1) for a, b in combinations(names, 2)])
            self.assertAlmostEqual(found.difference_v("m0", "m1")[1], 0.1 * math.sqrt(2 / p), places=12)

    def test_cells_in_a_row_add_like_voltages_and_their_variances_like_variances(self):
        found = fit([Difference("b", "a", 1.0, 0.03), Difference("c", "b", 0.5, 0.04)])
        value, u = found.difference_v("c", "a")
        self.assertAlmostEqual(value, 1.5)
        self.assertAlmostEqual(u, 0.05)
        self.assertIsNone(found.tau_v)
        self.assertTrue(np.isnan(found.studentised).all())

    def test_extra_scatter_is_set_so_that_chi_square_meets_the_degrees_of_freedom(self):
        found = fit(noisy(3, n=40, scatter=0.1, u=0.01))
        self.assertAlmostEqual(found.chi2, found.dof, places=6)
        self.assertAlmostEqual(found.tau_v, 0.1, delta=0.03)

    def test_a_loop_that_does_not_close_shows_in_the_residuals(self):
        found = fit([Difference("b", "a", 1.0, 0.01), Difference("c", "b", 1.0, 0.01), Difference("c", "a", 2.3, 0.01)])
        self.assertAlmostEqual(float(np.abs(found.residual_v).max()), 0.1)
        self.assertEqual(found.dof, 1)

    @settings(max_examples=40)
    @given(st.integers(0, 10_000))
    def test_swapping_the_leads_flips_the_sign_and_leaves_the_ladder(self, seed):
        data = noisy(seed)
        rng = random.Random(seed)
        turned = [Difference(d.black, d.red, -d.volts_v, d.u_v, d.group) if rng.random() < 0.5 else d for d in data]
        one, other = fit(data), fit(turned)
        for name in NAMES[1:]:
            np.testing.assert_allclose(one.difference_v(name, "copper"), other.difference_v(name, "copper"), atol=1e-9)

    @settings(max_examples=40)
    @given(st.integers(0, 10_000), st.randoms())
    def test_the_order_of_readings_does_not_matter(self, seed, rng):
        data = noisy(seed)
        mixed = data[:]
        rng.shuffle(mixed)
        np.testing.assert_allclose(
            fit(data).difference_v("tin", "steel"), fit(mixed).difference_v("tin", "steel"), atol=1e-9
        )

    def test_a_true_ladder_is_found_inside_its_own_uncertainty(self):
        # Of many seeded classes, about 68 % of distances lie within one standard uncertainty.
        hits = [
            abs(v - (TRUE["copper"] - TRUE["zinc"])) < u
            for v, u in (fit(noisy(s, n=20, u=0.016)).difference_v("copper", "zinc") for s in range(300))
        ]
        self.assertTrue(0.58 < sum(hits) / len(hits) < 0.80, sum(hits) / len(hits))


class Connectivity(unittest.TestCase):
    def test_unconnected_parts_are_kept_apart(self):
        found = fit([Difference("b", "a", 1.0, 0.1), Difference("d", "c", 1.0, 0.1), Difference("e", "d", 1.0, 0.1)])
        self.assertEqual([len(part) for part in found.parts], [3, 2])
        with self.assertRaisesRegex(NotEnoughData, "No chain"):
            found.difference_v("a", "c")

    def test_a_name_without_pairs_is_a_part_of_its_own(self):
        self.assertEqual(connected(["a", "b", "c"], [("a", "c")]), (("a", "c"), ("b",)))

    def test_what_cannot_be_fitted_is_refused(self):
        for bad in (
            [],
            [Difference("a", "a", 0.0, 0.1)],
            [Difference("a", "b", 0.0, 0.0)],
            [Difference("a", "b", math.nan, 0.1)],
        ):
            with self.assertRaises(NotEnoughData):
                fit(bad)
