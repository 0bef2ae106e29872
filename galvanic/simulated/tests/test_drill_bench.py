"""A bench with something the matter, against the circuit drawn by hand: Ohm's law and the divider of volts."""

import math
import unittest
from dataclasses import replace

from galvanic.simulated.drill_bench import (
    DRY_CELL_V,
    FLAT_GAIN,
    METER_OHM,
    NEAR_V,
    NOTHING_V,
    SETTLES_S,
    SHUNT_OHM,
    FaultyBench,
    kind_of,
    text_of,
)

SOUND = FaultyBench(0.95, 800.0)


class Circuit(unittest.TestCase):
    def test_a_sound_cell_loses_the_meter_s_part_only(self):
        self.assertAlmostEqual(SOUND.shows(), 0.95 * METER_OHM / (METER_OHM + 800.0))

    def test_liquid_over_the_clips_is_a_second_load(self):
        wet = replace(SOUND, bridge_ohm=20.0)
        self.assertLess(wet.shows(), 0.05)
        for bridge_ohm in (20.0, METER_OHM):  # two equal resistances side by side are half of one
            outer = bridge_ohm * METER_OHM / (bridge_ohm + METER_OHM)
            found = replace(SOUND, inner_ohm=METER_OHM, bridge_ohm=bridge_ohm).shows()
            self.assertAlmostEqual(found, 0.95 * outer / (METER_OHM + outer))

    def test_a_bad_clip_is_in_row_with_the_meter_and_one_that_is_off_lets_nothing_through(self):
        loose = replace(SOUND, clips_ohm=(METER_OHM, 0.0))
        self.assertAlmostEqual(loose.shows(0), 0.95 * METER_OHM / (2.0 * METER_OHM + 800.0))
        self.assertAlmostEqual(loose.shows(1), SOUND.shows())  # it touches, then not, then again
        self.assertAlmostEqual(loose.shows(2), loose.shows(0))
        self.assertEqual(replace(SOUND, clips_ohm=(math.inf, math.inf)).shows(), 0.0)

    def test_films_and_what_has_not_settled_take_volts_and_other_sources_add_them(self):
        part = METER_OHM / (METER_OHM + 800.0)
        self.assertAlmostEqual(
            replace(SOUND, film_v=0.2, missing_v=0.1, other_v=0.05).shows(), (0.95 - 0.2 - 0.1 + 0.05) * part
        )

    def test_what_has_not_settled_goes_away_and_the_film_does_not(self):
        later = replace(SOUND, film_v=0.2, missing_v=0.1).later(SETTLES_S)
        self.assertAlmostEqual(later.missing_v, 0.1 / math.e)
        self.assertEqual(later.film_v, 0.2)

    def test_a_lead_in_the_milliampere_socket_shorts_the_cell_and_the_display_shows_nothing(self):
        wrong = replace(SOUND, ma_socket=True)
        self.assertEqual(wrong.shows(), 0.0)
        self.assertAlmostEqual(wrong.at_meter_v(), 0.95 * SHUNT_OHM / (800.0 + SHUNT_OHM))

    def test_a_flat_battery_in_the_meter_lifts_all_numbers_and_turned_leads_their_sign(self):
        self.assertAlmostEqual(replace(SOUND, flat=True).shows(), FLAT_GAIN * SOUND.shows())
        self.assertAlmostEqual(replace(SOUND, turned=True).shows(), -SOUND.shows())

    def test_a_fresh_dry_cell_shows_what_the_meter_does_and_nothing_of_the_bench(self):
        poor = FaultyBench(
            0.3, 5e6, film_v=0.2, missing_v=0.1, other_v=0.1, bridge_ohm=3.0, clips_ohm=(1e9, 1e9), turned=True
        )
        self.assertAlmostEqual(poor.dry_cell().shows(), DRY_CELL_V, places=5)
        self.assertAlmostEqual(replace(poor, flat=True).dry_cell().shows(), FLAT_GAIN * DRY_CELL_V, places=4)


class Read(unittest.TestCase):
    def test_on_ohms_no_voltage_is_shown(self):
        on_ohms = replace(SOUND, dial="ohms")
        self.assertIsNone(on_ohms.shows())
        self.assertIn("kΩ", text_of(on_ohms.shows(), on_ohms))
        self.assertEqual(text_of(None, SOUND), "no number")
        self.assertEqual(text_of(-0.954, SOUND), "\u22120.95\u202fV")
        self.assertEqual(text_of(0.9544, SOUND, 3), "0.954\u202fV")

    def test_a_number_is_named_by_what_it_is_beside_the_right_one(self):
        right = 0.95
        for volts, kind in (
            (right + NEAR_V - 1e-9, "right"), (right - NEAR_V + 1e-9, "right"), (right + NEAR_V + 1e-9, "more"),
            (right - NEAR_V - 1e-9, "less"), (NOTHING_V, "nothing"), (-NOTHING_V, "nothing"), (NOTHING_V + 1e-9, "less"),
            (-NOTHING_V - 1e-9, "minus"), (None, "no_number"),
        ):  # fmt: skip
            with self.subTest(volts=volts):
                self.assertEqual(kind_of(volts, right), kind)
        self.assertEqual(kind_of(0.03, 0.05), "right")  # near counts before next to nothing
