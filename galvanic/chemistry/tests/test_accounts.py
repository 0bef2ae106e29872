"""The four accounts, their scores, and the gap."""

import itertools
import math
import re
import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from galvanic.cells import Cell
from galvanic.chemistry.accounts import ACCOUNTS, predict, series
from galvanic.chemistry.gap import SMALL_V, drawn, explain
from galvanic.chemistry.polarisation import LoadedCell
from galvanic.errors import NotEnoughData, OutOfRange
from galvanic.reference.catalogue import electrodes, electrolytes
from galvanic.statistics.scoring import Values, contest, score, shared_v2, surely_misses_v

ANY_PLATE, ANY_LIQUID = st.sampled_from(sorted(electrodes())), st.sampled_from(sorted(electrolytes()))


class Accounts(unittest.TestCase):
    def one(self, negative, liquid, positive):
        return predict([Cell(negative, liquid, positive)], draws=16)[0]

    def test_the_standard_account_is_the_tables_difference(self):
        found = self.one("zinc", "lemon-juice", "copper")["standard"]
        self.assertAlmostEqual(found.volts_v, 0.3419 + 0.7618)
        self.assertLess(found.u_v, 0.005)

    def test_graphite_has_no_table_entry_and_says_why_while_the_others_answer(self):
        found = self.one("zinc", "lemon-juice", "graphite")
        self.assertIsNone(found["standard"].volts_v)
        self.assertIn("does not dissolve", found["standard"].reason)
        for account in ("hydrogen", "series", "rest"):
            self.assertIsNotNone(found[account].volts_v)

    def test_an_inert_negative_plate_has_no_hydrogen_account(self):
        self.assertIsNone(self.one("graphite", "lemon-juice", "platinum")["hydrogen"].volts_v)

    def test_a_range_counts_as_evenly_likely_within_it(self):
        # GUM (JCGM 100:2008) 4.3.7: half the width over √3, for each plate; both plates' together in quadrature.
        zinc, copper = series()["zinc"], series()["copper"]
        found = predict([Cell("zinc", "sea-water-flowing", "copper")])[0]["series"]
        halves = [(row.high - row.low) / 2.0 for row in (zinc, copper)]
        self.assertAlmostEqual(found.u_v, math.sqrt(sum(half**2 / 3.0 for half in halves)), places=12)
        middles = [(row.high + row.low) / 2.0 for row in (zinc, copper)]
        self.assertAlmostEqual(found.volts_v, middles[1] - middles[0], places=12)

    def test_the_hydrogen_account_by_hand(self):
        # pH 2.3: −0.0592·2.3 − (−0.7618 + 0.0296·(−6)) = 0.803 V; 59 mV less a unit of pH.
        lemon = self.one("zinc", "lemon-juice", "copper")["hydrogen"].volts_v
        potato = self.one("zinc", "potato", "copper")["hydrogen"].volts_v
        self.assertAlmostEqual(lemon, 0.803, places=3)
        self.assertAlmostEqual(lemon - potato, 0.05916 * (5.65 - 2.3), places=4)

    def test_the_series_account_by_hand(self):
        # LaQue chart: copper −0.335, zinc −1.005 V against calomel: 0.67 V.
        self.assertAlmostEqual(self.one("zinc", "sea-water", "copper")["series"].volts_v, 0.67, places=6)

    def test_every_account_answers_or_says_why_for_every_cell(self):
        cells = [Cell("zinc", liquid, plate) for liquid in electrolytes() for plate in electrodes()]
        for cell, found in zip(cells, predict(cells, draws=4), strict=True):
            self.assertEqual(tuple(found), ACCOUNTS)
            for prediction in found.values():
                self.assertTrue(prediction.volts_v is not None or prediction.reason, cell.notation)
                if prediction.volts_v is not None:
                    self.assertTrue(math.isfinite(prediction.volts_v) and prediction.u_v >= 0.0)

    @settings(max_examples=25, deadline=None)
    @given(ANY_PLATE, ANY_PLATE)
    def test_turning_a_cell_round_flips_the_sign_of_all_but_the_hydrogen_account(self, one, other):
        a, b = (self.one(x, "lemon-juice", y) for x, y in ((one, other), (other, one)))
        for account in ("standard", "series", "rest"):
            if a[account].volts_v is not None:
                self.assertAlmostEqual(a[account].volts_v, -b[account].volts_v, places=9)

    def test_nothing_asked_nothing_answered(self):
        self.assertEqual(predict([]), [])


class Scores(unittest.TestCase):
    def test_a_score_by_hand(self):
        found = score([1.0, 0.5, None, -0.2], [0.9, 0.6, 1.0, 0.2])
        self.assertEqual((found.n, found.left_out, found.signs_right), (3, 1, 2))
        self.assertAlmostEqual(found.bias_v, (0.1 - 0.1 - 0.4) / 3)
        self.assertAlmostEqual(found.rms_v, math.sqrt((0.01 + 0.01 + 0.16) / 3))

    def values(self, rng, groups=6, shared_v=0.0):
        """A class's values of ten pairs of five plates, by groups that keep their meters; what all share is in each plate."""
        pairs = np.array([(i, j) for i in range(5) for j in range(i)])
        made_of = np.zeros((len(pairs) * groups, 5))
        rows = np.arange(len(made_of))
        made_of[rows, np.tile(pairs[:, 0], groups)], made_of[rows, np.tile(pairs[:, 1], groups)] = 1.0, -1.0
        true = made_of @ np.array([0.0, 0.3, 0.5, 0.9, 1.4])
        same = np.equal.outer(rows // len(pairs), rows // len(pairs))
        covariance = 0.01**2 * same + 0.015**2 * np.eye(len(rows))
        noise = np.linalg.cholesky(covariance) @ rng.normal(size=len(rows)) + made_of @ rng.normal(0.0, shared_v, 5)
        return true, Values(true + noise, made_of, covariance, groups)

    def test_the_nearer_account_wins_and_equal_ones_draw(self):
        true, values = self.values(np.random.default_rng(1))
        won = contest(true + 0.3 * (values.made_of[:, 0] - values.made_of[:, 4]), true, values)
        self.assertGreater(won.low_v, 0.0)
        drawn = contest(true, true, values)
        self.assertEqual((drawn.low_v, drawn.high_v), (0.0, 0.0))

    def test_the_interval_holds_its_promise(self):
        # What a class's plates share moves all its cells together: groups alone would not show it.
        held = 0
        for seed in range(100):
            true, values = self.values(np.random.default_rng(seed), shared_v=0.08)
            far = true + values.made_of @ np.array([0.2, -0.1, 0.0, 0.1, -0.2])
            found = contest(far, true, values)
            noise = 2.0 * 0.08**2 + 0.01**2 + 0.015**2
            due = math.sqrt(float(((far - true) ** 2).mean()) + noise) - math.sqrt(noise)
            held += found.low_v <= due <= found.high_v
        self.assertGreaterEqual(held, 88)
        self.assertLessEqual(held, 99)

    def test_what_plates_share_is_found_and_none_may_be_good_enough(self):
        true, values = self.values(np.random.default_rng(3), shared_v=0.3)
        self.assertGreater(math.sqrt(shared_v2(true, values)), 0.1)
        self.assertGreater(surely_misses_v(true, values), 0.1)
        true, values = self.values(np.random.default_rng(3))
        self.assertLess(math.sqrt(shared_v2(true, values)), 0.06)
        self.assertLess(surely_misses_v(true, values), 0.03)

    def test_too_little_is_refused(self):
        with self.assertRaises(NotEnoughData):
            score([None], [1.0])
        true, values = self.values(np.random.default_rng(1), groups=1)
        with self.assertRaises(NotEnoughData):
            contest(true, true, values)


class Gaps(unittest.TestCase):
    @settings(max_examples=60, deadline=None)
    @given(ANY_PLATE, ANY_LIQUID, ANY_PLATE, st.floats(-2.0, 3.0), st.floats(1e5, 1e10), st.floats(-0.1, 0.1))
    def test_the_parts_add_up_exactly_for_any_cell(self, negative, liquid, positive, measured, meter, offset):
        found = explain(Cell(negative, liquid, positive), measured, meter, offset)
        self.assertAlmostEqual(found.start_v + math.fsum(c.volts_v for c in found.causes), measured, delta=1e-9)
        for cause in found.causes:
            self.assertTrue(math.isfinite(cause.volts_v) and cause.u_v >= 0.0 and cause.equation and cause.test)

    def cause(self, cell, measured, code, plate=None):
        return next(c for c in explain(cell, measured).parts if c.code == code and c.plate == plate)

    def test_the_meters_share_is_that_of_its_working_point(self):
        for negative, liquid, positive in (("zinc", "vinegar", "graphite"), ("magnesium", "lemon-juice", "copper")):
            cell = Cell(negative, liquid, positive)
            for meter in (1e7, 1e5):
                found = explain(cell, 1.0, meter)
                at = LoadedCell.of(cell).at_load(meter)
                loading = next(c.volts_v for c in found.parts if c.code == "loading")
                self.assertAlmostEqual(loading, at.volts_v - at.open_v, delta=1e-9)
                # Kirchhoff and Ohm: the terminal voltage at the current through the meter is the current times its resistance.
                self.assertAlmostEqual(float(LoadedCell.of(cell).volts(at.current_a)[0]), at.current_a * meter, delta=1e-3)

    def test_a_meter_without_resistance_is_refused(self):
        for meter in (0.0, -1e6, math.nan, math.inf):
            with self.assertRaises(OutOfRange):
                explain(Cell("zinc", "lemon-juice", "copper"), 0.9, meter)

    def test_the_steps_as_drawn_join_and_lead_from_the_start_to_what_was_measured(self):
        for negative, positive, measured in (("aluminium", "zinc", -0.36), ("zinc", "copper", 0.95), ("tin", "copper", 0.4)):
            found = explain(Cell(negative, "rhubarb-juice", positive), measured)
            steps = drawn(found)
            self.assertEqual(steps[0].from_v, found.start_v)
            for before, after in itertools.pairwise(steps):
                self.assertEqual(before.to_v, after.from_v)
            self.assertAlmostEqual(steps[-1].to_v, measured, delta=1e-9)
            self.assertEqual(sorted(c.name for step in steps for c in step.causes), sorted(c.name for c in found.causes))
            self.assertEqual((steps[-1].code[:4], len(steps[-1].causes)), ("left", 1), "what is left stands last, by itself")
            small = [step for step in steps if step.code == "small"]
            self.assertTrue(all(abs(c.volts_v) < SMALL_V for step in small for c in step.causes))
            self.assertTrue(all(len(step.causes) > 1 for step in small))

    def test_only_a_step_that_is_a_large_part_of_the_gap_is_big(self):
        big = [step.name for step in drawn(explain(Cell("aluminium", "rhubarb-juice", "zinc"), -0.36)) if step.big]
        self.assertEqual(big, ["Skin on aluminium"])

    def test_aluminium_lost_its_volts_in_its_skin_and_zinc_has_none(self):
        cell = Cell("aluminium", "rhubarb-juice", "copper")
        self.assertLess(self.cause(cell, 0.6, "film", "aluminium").volts_v, -0.7)
        self.assertNotIn("film", [c.code for c in explain(Cell("zinc", "rhubarb-juice", "copper"), 0.95).causes])

    def test_chloride_binds_copper_in_salt_water(self):
        salt = self.cause(Cell("zinc", "salt-water", "copper"), 0.75, "complexing", "copper").volts_v
        juice = self.cause(Cell("zinc", "lemon-juice", "copper"), 0.95, "complexing", "copper").volts_v
        self.assertLess(salt, -0.1)
        self.assertGreater(juice, -0.05)

    def test_traces_follow_nernst(self):
        # 0.0296 V a decade for two electrons: zinc near 7e-4 mol/L lies 0.094 V lower, which adds to the cell.
        traces = self.cause(Cell("zinc", "lemon-juice", "copper"), 0.95, "traces", "zinc")
        digits, power = re.search(r"log ([\d.]+)\s×\s10⁻(\S)", traces.equation).groups()
        level = float(digits) * 10.0 ** -"⁰¹²³⁴⁵⁶⁷⁸⁹".index(power)
        self.assertAlmostEqual(traces.volts_v, -0.02958 * math.log10(level), delta=0.001)

    def test_a_poor_meter_loads_the_cell_by_the_voltage_divider(self):
        cell = Cell("aluminium", "lemon-juice", "copper")
        good, poor = (next(c for c in explain(cell, 0.6, meter).parts if c.code == "loading") for meter in (1e9, 1e5))
        self.assertTrue(poor.volts_v < good.volts_v <= 0.0)

    def test_graphite_starts_from_hydrogen(self):
        found = explain(Cell("zinc", "lemon-juice", "graphite"), 1.1)
        self.assertIn("hydrogen", found.start)
        self.assertAlmostEqual(found.start_v, -0.05916 * 2.3 + 0.7618, places=4)
        self.assertIn("measured", found.text())

    def test_an_offset_is_a_cause_of_its_own(self):
        cell = Cell("zinc", "lemon-juice", "copper")
        offset = next(c for c in explain(cell, 0.9, offset_v=-0.06).causes if c.code == "offset")
        self.assertEqual(offset.volts_v, -0.06)
