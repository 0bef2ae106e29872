"""What may be changed in a what-if: its limits, and what each change has to do by the equation it stands for."""

import math
import unittest

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.gap import LAST_DIGIT_V, LEFT, explain
from galvanic.chemistry.half import Half
from galvanic.chemistry.plate_account import account_of
from galvanic.chemistry.polarisation import LoadedCell
from galvanic.chemistry.what_if import LEAST_INSIDE_A, METER_OHM, MOST_INSIDE, MOST_INSIDE_A, Change, inside_a, what_if
from galvanic.errors import OutOfRange

ZINC_COPPER = Cell("zinc", "lemon-juice", "copper")
LIMITS = {
    "ph": (0.0, 14.0),
    "celsius": (5.0, 60.0),
    "ions_mol_per_l": (1e-9, 2.0),
    "chloride_mol_per_l": (0.0, 5.0),
    "conductivity_s_per_m": (1e-4, 100.0),
    "oxygen": (0.0, 5.0),
    "stir": (0.2, 50.0),
}


class Limits(unittest.TestCase):
    def test_each_limit_itself_is_allowed_and_what_lies_beyond_is_refused_with_its_field_value_and_limit(self):
        for field, (low, high) in LIMITS.items():
            step = 1e-3 * (high - low)
            for limit, beyond in ((low, low - step), (high, high + step)):
                with self.subTest(field=field, limit=limit):
                    self.assertEqual(getattr(Change(**{field: limit}), field), limit)
                    with self.assertRaises(OutOfRange) as refused:
                        Change(**{field: beyond})
                    error = refused.exception
                    self.assertEqual((error.field, error.value, error.limit), (field, beyond, limit))

    def test_a_meter_has_an_ohm_and_may_have_any_number_of_them(self):
        self.assertEqual(Change(meter_ohm=math.inf).meter_ohm, math.inf)
        self.assertEqual(Change(meter_ohm=1.0).meter_ohm, 1.0)
        for ohm in (0.99, 0.0, -1e7, math.nan):
            with self.assertRaises(OutOfRange):
                Change(meter_ohm=ohm)

    def test_no_number_at_all_is_refused_everywhere(self):
        for field in LIMITS:
            with self.subTest(field), self.assertRaises(OutOfRange):
                Change(**{field: math.nan})


class Liquids(unittest.TestCase):
    def setUp(self):
        self.half = Half.of("zinc", "lemon-juice")

    def test_protons_are_given_in_moles_per_litre_and_used_per_cubic_metre(self):
        found = self.half.in_liquid(protons_mol_per_l=0.1).liquids.acid_mol_per_m3
        self.assertTrue(np.all(found == 100.0), found)

    def test_stirring_thins_the_still_layer_and_air_brings_oxygen_in_proportion(self):
        changed, usual = self.half.in_liquid(oxygen=0.5, stir=4.0).liquids, self.half.liquids
        np.testing.assert_allclose(changed.layer_m, usual.layer_m / 4.0)
        np.testing.assert_allclose(changed.oxygen, 0.5 * usual.oxygen)

    def test_what_is_not_named_stays(self):
        changed, usual = self.half.in_liquid(ph=3.0).liquids, self.half.liquids
        self.assertTrue(np.all(changed.ph == 3.0))
        for kept in ("chloride", "acid_mol_per_m3", "layer_m", "oxygen"):
            np.testing.assert_array_equal(getattr(changed, kept), getattr(usual, kept), kept)

    def test_a_scratched_plate_has_no_film_and_one_in_a_dull_state_more_oxide_to_use_up(self):
        self.assertFalse(self.half.bare().plates.filmed.any())
        for rubbed, dull in zip(self.half.plates.sides, self.half.dull().plates.sides, strict=True):
            np.testing.assert_array_equal(dull.stock, rubbed.dull)


class Outcomes(unittest.TestCase):
    def test_the_liquid_s_resistance_is_that_of_a_prism_between_the_plates(self):
        # R = l/(κA), the definition of conductivity: any text on electrolytes. The plates' own part does not change with κ.
        near, far = (Change(conductivity_s_per_m=0.5, gap_m=gap_m) for gap_m in (0.02, 0.08))
        by_prism = (far.gap_m - near.gap_m) / (0.5 * near.area_m2)
        found = what_if(ZINC_COPPER, far).internal_ohm - what_if(ZINC_COPPER, near).internal_ohm
        self.assertAlmostEqual(found, by_prism, delta=0.02 * by_prism)

    def test_the_current_at_which_the_inside_is_stated_is_a_power_of_ten_that_the_cell_can_give(self):
        for cell in (ZINC_COPPER, Cell("tin", "rhubarb-juice", "copper"), Cell("magnesium", "kelp-brine", "copper")):
            at = inside_a(cell)
            with self.subTest(cell.short):
                self.assertAlmostEqual(math.log10(at), round(math.log10(at)), places=9)
                self.assertTrue(LEAST_INSIDE_A <= at <= MOST_INSIDE_A, at)
                steady = LoadedCell.of(cell).steady_a()
                self.assertTrue(
                    at <= max(MOST_INSIDE * steady, LEAST_INSIDE_A) < 10.0 * at or at == MOST_INSIDE_A, (at, steady)
                )

    def test_a_meter_takes_its_part_as_a_divider_of_volts(self):
        usual = what_if(ZINC_COPPER, Change())
        self.assertEqual(METER_OHM, 1e7)  # of cheap digital meters on volts: common practice, no source
        self.assertLess(usual.open_v - usual.shown_v, 1e-3)
        self.assertGreater(usual.shown_v, 0.0)
        poor = what_if(ZINC_COPPER, Change(meter_ohm=usual.internal_ohm))
        self.assertTrue(0.2 * usual.open_v < poor.shown_v < 0.8 * usual.open_v, (poor.shown_v, usual.open_v))
        without = what_if(ZINC_COPPER, Change(meter_ohm=1e12))
        self.assertAlmostEqual(without.shown_v, without.open_v, places=5)


class TestsOfCauses(unittest.TestCase):
    """What a cause says to try, and which way plate and reading then go."""

    CELLS = (ZINC_COPPER, Cell("aluminium", "kelp-brine", "copper"), Cell("magnesium", "rhubarb-juice", "tin"))

    def test_the_reading_goes_with_the_positive_plate_and_against_the_negative(self):
        seen = set()
        for cell in self.CELLS:
            steps = {(key, step.code): step for key in cell.pair for step in account_of(key, cell.electrolyte).steps}
            for cause in explain(cell, 0.9).causes:
                step = steps.get((cause.plate, cause.code))
                if step is None or not step.do or abs(step.moves_v) <= LAST_DIGIT_V:
                    continue
                sign = 1.0 if cause.plate == cell.positive else -1.0
                rest_v, up = account_of(cause.plate, cell.electrolyte).rest_v, step.moves_v > 0.0
                plate = f"{'more' if up == (rest_v >= 0.0) else 'less'} {'positive' if rest_v >= 0.0 else 'negative'}"
                reading = "rises" if sign * step.moves_v > 0.0 else "falls"
                self.assertIn(f"the plate gets {plate} by about ", cause.test)
                self.assertIn(f", the reading {reading}", cause.test)
                self.assertEqual(", and comes back as the skin grows" in cause.test, cause.code == "film")
                turned = next(
                    one for one in explain(cell, -0.9).causes if (one.plate, one.code) == (cause.plate, cause.code)
                )
                way = "nearer to" if sign * step.moves_v > 0.0 else "further from"
                self.assertIn(f", the reading goes {way} zero", turned.test)
                seen.add((sign, plate))
        self.assertGreaterEqual(len(seen), 2, "too few causes to say anything about both plates")

    def test_what_is_left_is_as_uncertain_as_the_measurement_and_all_causes_together(self):
        gap = explain(ZINC_COPPER, 0.9, u_measured_v=0.03)
        left = next(cause for cause in gap.causes if cause.code == LEFT)
        others = [cause for cause in gap.causes if cause.code != LEFT]
        self.assertAlmostEqual(left.u_v, math.hypot(0.03, *(cause.u_v for cause in others)))
        self.assertAlmostEqual(gap.start_v + sum(cause.volts_v for cause in gap.causes), 0.9, places=12)
