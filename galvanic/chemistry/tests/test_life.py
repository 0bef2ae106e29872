"""Charge, energy, metal and what runs out first, against Faraday's law and worked examples."""

import math
import unittest

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.circuit import in_a_row
from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.life import DAY_S, life
from galvanic.chemistry.polarisation import Geometry, sides_of
from galvanic.chemistry.work import area_under, metal_used_g, work_of
from galvanic.errors import NotEnoughData, OutOfRange
from galvanic.reference.catalogue import electrolytes

LEMON = PackCell(Cell("zinc", "lemon-juice", "copper"), Geometry(5e-4, 0.02))
SALT = PackCell(Cell("zinc", "salt-water", "copper"), Geometry(5e-4, 0.02))


def ends(*arguments, **options):
    """The ends by what runs out."""
    return {end.what: end for end in life(*arguments, **options).ends}


class Work(unittest.TestCase):
    def test_the_practice_row_of_charge_and_zinc(self):
        """practice-loads.csv: 0.17 mA for 48 hours are 29 to 30 C, 10 mg of zinc (arithmetic)."""
        found = work_of([0.0, 86_400.0, 172_800.0], [0.17e-3] * 3, 0.005e-3)
        self.assertTrue(29.0 <= found.charge_c.value <= 30.0)
        self.assertAlmostEqual(1e3 * metal_used_g("zinc", found.charge_c.value), 10.0, delta=0.1)

    def test_faradays_law_as_general_chemistry_texts_work_it(self):
        """1.5 A for an hour deposit 1.78 g of copper: P. Flowers and others, Chemistry 2e, OpenStax, section 17.7 in kind (from
        memory); 1 F dissolves half a mole of zinc, 32.7 g."""
        self.assertAlmostEqual(metal_used_g("copper", 1.5 * 3600.0), 1.78, places=2)
        self.assertAlmostEqual(metal_used_g("zinc", 96_485.0), 32.69, places=2)
        self.assertIsNone(metal_used_g("graphite", 1.0))

    def test_a_straight_fall_is_exact_and_a_curved_one_knows_what_it_misses(self):
        straight = area_under([0.0, 1.0, 2.0, 4.0], [4.0, 3.0, 2.0, 0.0], 0.0)
        self.assertAlmostEqual(straight.value, 8.0)
        self.assertLess(straight.u, 1e-9)
        t = np.arange(0.0, 601.0, 30.0)
        curved = area_under(t, np.exp(-t / 60.0), 0.0)
        truth = 60.0 * (1.0 - math.exp(-10.0))
        self.assertLess(abs(curved.value - truth), 3.0 * curved.u)
        self.assertGreater(curved.u, 0.1 * abs(curved.value - truth))

    def test_energy_is_volts_times_charge(self):
        found = work_of([0.0, 100.0], [1e-3, 1e-3], 0.0, [0.5, 0.5])
        self.assertAlmostEqual(found.energy_j.value, 0.05)

    def test_one_sample_is_no_charge(self):
        with self.assertRaises(NotEnoughData):
            area_under([0.0], [1.0], 0.0)


class RunsOut(unittest.TestCase):
    def test_a_thin_coating_goes_before_the_acid_and_a_sheet_after_the_water(self):
        thin, sheet = life([LEMON] * 3, "led-red", 40.0, 10.0), life([LEMON] * 3, "led-red", 40.0)
        self.assertEqual(thin.ends[0].what, "metal")
        self.assertEqual(sheet.ends[0].what, "water")
        self.assertAlmostEqual(
            ends([LEMON], 470.0, 40.0, 10.0)["metal"].seconds.middle * 50.0,
            ends([LEMON], 470.0, 40.0, 500.0)["metal"].seconds.middle,
            delta=1.0,
        )

    def test_the_metal_lasts_as_faraday_says_for_load_and_corrosion_together(self):
        found = life([LEMON], 470.0, 40.0, 10.0)
        end = {e.what: e for e in found.ends}["metal"]
        grams = 7.14 * 5.0 * 10e-4  # g/cm³ × cm² × cm
        self.assertAlmostEqual(found.metal_g / grams, found.ends[0].seconds.middle / end.seconds.middle, delta=0.01)
        used_by_load = metal_used_g("zinc", found.expected.meeting.current_a * end.seconds.middle)
        self.assertAlmostEqual(used_by_load / grams, 1.0 - end.by_itself, delta=0.01)

    def test_acid_lasts_by_its_volume_and_neutral_salt_water_has_none(self):
        small, large = ends([LEMON], 470.0, 20.0), ends([LEMON], 470.0, 80.0)
        self.assertAlmostEqual(large["acid"].seconds.middle / small["acid"].seconds.middle, 4.0, places=3)
        self.assertNotIn("acid", ends([SALT], 470.0, 40.0))

    def test_oxygen_carries_salt_water_from_the_start(self):
        self.assertGreater(life([SALT], 470.0, 40.0).oxygen_share, 0.9)

    def test_every_end_has_a_range_and_they_stand_in_order(self):
        found = life([LEMON, SALT], "led-red", 40.0, 25.0)
        self.assertEqual(list(found.ends), sorted(found.ends, key=lambda end: end.seconds.middle))
        for end in found.ends:
            self.assertTrue(0.0 < end.seconds.low < end.seconds.middle < end.seconds.high)
        self.assertGreater(found.cost_per_kwh, 10.0 * found.bought_per_kwh)

    def test_two_solutions_end_by_their_salt_or_their_water_after_weeks_not_seconds(self):
        # 40 mL of 1 mol/L hold 0.04 mol of copper ions: 2·96485·0.04 C, nine tenths of them usable, by hand.
        cell = PackCell(Cell("zinc", "daniell-bridge", "copper"))
        found = {end.what: end for end in life([cell], 470.0).ends}
        current = life([cell], 470.0).expected.meeting.current_a
        salt = electrolytes()[sides_of(cell.cell)[1]].ions_mol_per_l["Cu2+"]
        self.assertAlmostEqual(found["ions"].seconds.middle * current / (0.9 * 2 * 96485.33 * 0.04 * salt), 1.0, delta=0.05)
        self.assertNotIn("acid", found)
        self.assertGreater(life([cell], 470.0).ends[0].seconds.low, 3.0 * DAY_S)

    def test_rows_share_the_current_and_so_last_longer(self):
        one, two = life(in_a_row([LEMON] * 2), 470.0), life(in_a_row([LEMON] * 2, 2), 470.0)
        acid = [next(end.seconds.middle for end in found.ends if end.what == "acid") for found in (one, two)]
        self.assertGreater(acid[1], acid[0])

    def test_a_card_dries_in_days_a_fruit_by_itself_and_nothing_lasts_for_ages(self):
        card = life([PackCell(Cell("zinc", "salt-card", "copper"))], 1e9)
        fruit = life([PackCell(Cell("zinc", "lemon-whole", "copper"))], 1e9)
        self.assertLess(card.ends[0].seconds.middle, 3.0 * DAY_S)
        self.assertIn("flesh", {end.what: end.words for end in fruit.ends}["water"])
        for found in (card, fruit):
            self.assertLess(max(end.seconds.middle for end in found.ends), 100.1 * 365 * DAY_S)

    def test_sizes_that_are_none_are_refused(self):
        for volume, thick in ((0.0, 10.0), (40.0, -1.0), (math.nan, 10.0), (1e6, 10.0)):
            with self.assertRaises(OutOfRange):
                life([LEMON], 470.0, volume, thick)
