"""Short circuits read off runs, and plates rubbed under the liquid."""

from __future__ import annotations

import unittest

from galvanic.cells import Cell
from galvanic.chemistry.half import Half
from galvanic.chemistry.plate_work import at_plates
from galvanic.chemistry.polarisation import Geometry, LoadedCell
from galvanic.chemistry.rubbing import BARED, CAPACITY_F_PER_M2, REGROWS_C_PER_M2, rubbed
from galvanic.chemistry.shorted import joined, short_circuit, shorted
from galvanic.chemistry.what_if import Change, what_if
from galvanic.constants import FARADAY_C_PER_MOL


class Shorted(unittest.TestCase):
    def test_more_salt_gives_more_current_until_something_else_limits_it(self):
        cell = Cell("zinc", "tap-water", "copper")
        found = [what_if(cell, Change(conductivity_s_per_m=k)).short_a for k in (0.01, 0.03, 0.1, 1.0, 5.0, 20.0)]
        self.assertTrue(all(a <= b * 1.005 for a, b in zip(found, found[1:], strict=False)), found)
        self.assertGreater(found[3], 2.0 * found[0])
        self.assertLess(found[5], 1.1 * found[4])

    def test_it_falls_to_what_arrives_and_the_liquid_alone_bounds_it(self):
        cell = Cell("zinc", "salt-water", "copper")
        found = shorted(cell, Geometry(5e-4, 0.02))
        self.assertTrue(found.first_a > found.minute_a > 0.98 * found.steady_a)
        # Oxygen to a plate of 5 cm² through 0.4 mm of still water: 4·F·D·c·A/δ = 0.25 mA (A. J. Bard, L. R. Faulkner).
        by_hand = 4.0 * FARADAY_C_PER_MOL * 2e-9 * 0.26 * 5e-4 / 4e-4
        self.assertAlmostEqual(found.steady_a / by_hand, 1.0, delta=0.15)
        loaded = LoadedCell.of(Cell("zinc", "tap-water", "copper"))
        low_v, high_v = loaded.rest()
        self.assertLess(short_circuit(loaded).first_a, (high_v - low_v) / loaded.solution_ohm)

    def test_a_large_resistor_takes_what_ohm_says(self):
        loaded = LoadedCell.of(Cell("zinc", "lemon-juice", "copper"))
        low_v, high_v = loaded.rest()
        self.assertAlmostEqual(joined(loaded, 1e7).first_a * 1e7, high_v - low_v, delta=0.02)

    def test_in_juice_hydrogen_carries_a_short_circuit_and_oxygen_holds_the_plate_up_with_nothing_joined(self):
        """Bubbles at the copper plate of a shorted lemon cell: common practice, no source."""
        found = {row.part: row for row in at_plates(Cell("zinc", "lemon-juice", "copper")).at_positive}
        self.assertGreater(found["hydrogen"].share, 0.7)
        self.assertGreater(found["oxygen"].resting, 0.9)
        salty = {row.part: row for row in at_plates(Cell("zinc", "salt-water", "copper")).at_positive}
        self.assertGreater(salty["oxygen"].share, 0.5)
        self.assertNotIn("hydrogen", salty)


class Rubbed(unittest.TestCase):
    def test_aluminium_falls_by_some_tenths_of_a_volt_and_is_back_in_seconds(self):
        found = rubbed(Half.of("aluminium", "salt-water"))
        self.assertAlmostEqual(found.falls_v, BARED * REGROWS_C_PER_M2 / CAPACITY_F_PER_M2, delta=0.03)
        self.assertTrue(0.05 < found.low_v < found.falls_v < found.high_v < 1.1)
        self.assertTrue(0.5 < found.back_s < 60.0)

    def test_no_further_than_a_bare_plate_stands(self):
        for plate, liquid in (("tin", "salt-water"), ("stainless", "lemon-juice"), ("magnesium", "tap-water")):
            half = Half.of(plate, liquid)
            self.assertLessEqual(rubbed(half).high_v, half.rest() - half.bare().rest() + 1e-9)

    def test_a_plate_whose_liquid_brings_it_back_at_once_shows_nothing(self):
        self.assertLess(rubbed(Half.of("magnesium", "lemon-juice")).falls_v, 0.01)

    def test_a_plate_without_a_skin_stays(self):
        self.assertEqual(rubbed(Half.of("zinc", "lemon-juice")).falls_v, 0.0)
