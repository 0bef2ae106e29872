"""What is changed on purpose, against published numbers: conductivity with temperature, the hydrogen electrode, plate pairs."""

import unittest
from dataclasses import replace

from galvanic.cells import Cell
from galvanic.chemistry.accounts import hydrogen
from galvanic.chemistry.polarisation import Geometry, LoadedCell
from galvanic.chemistry.varied import levels_of
from galvanic.chemistry.warmth import warmth
from galvanic.chemistry.what_if import Change, what_if
from galvanic.condition import Condition
from galvanic.reference.catalogue import beside, electrolytes

LEMON = Cell("zinc", "lemon-juice", "copper")


class Conductivity(unittest.TestCase):
    def test_potassium_chloride_conducts_with_temperature_as_the_standard_solutions_do(self):
        """KCl 0.1 mol/L, S/m: 0.822, 0.933, 1.048, 1.167, 1.288, 1.412, 1.539 at 5 to 35 °C (OIML R 56 after Jones and
        Bradshaw 1933, from memory), as ratios to 25 °C."""
        for celsius, conductivity in ((5, 0.822), (10, 0.933), (15, 1.048), (20, 1.167), (30, 1.412), (35, 1.539)):
            self.assertAlmostEqual(warmth(celsius).conductivity / (conductivity / 1.288), 1.0, delta=0.04, msg=celsius)


class HydrogenElectrode(unittest.TestCase):
    def test_it_moves_59_millivolts_a_unit_of_ph_and_real_plates_do_not(self):
        """RT ln10/F = 59.16 mV at 25 °C, 58.17 at 20: Nernst’s equation for 2 H⁺ + 2 e⁻ ⇌ H₂, any text."""
        row = electrolytes()["lemon-juice"]
        found = {}
        for ph in (3.0, 4.0):
            one = replace(row, key=f"own-ph-{ph:g}", ph=replace(row.ph, low=ph, high=ph))
            with beside(one):
                cell = Cell("zinc", one.key, "copper")
                found[ph] = hydrogen(cell).volts_v, hydrogen(cell, 20.0).volts_v
        self.assertAlmostEqual(found[3.0][0] - found[4.0][0], 0.05916, delta=1e-4)
        self.assertAlmostEqual(found[3.0][1] - found[4.0][1], 0.05817, delta=1e-4)
        rest = [what_if(LEMON, Change(ph=ph)) for ph in (3.0, 4.0)]
        self.assertLess(abs(rest[0].positive_v - rest[1].positive_v), 0.045)
        self.assertLess(abs(rest[0].negative_v - rest[1].negative_v), 0.045)


class Plates(unittest.TestCase):
    def test_three_pairs_give_three_times_the_current_and_the_same_volts(self):
        """Plates side by side add currents (Kirchhoff); practice: 2.4 to 3.3 times in one fruit."""
        one, three = levels_of(LEMON, [Condition("pairs", 1.0), Condition("pairs", 3.0)])
        self.assertAlmostEqual(three.short_a / one.short_a, 3.0, delta=0.02)
        self.assertAlmostEqual(three.open_v, one.open_v, places=9)

    def test_the_liquids_part_of_the_resistance_grows_with_the_gap(self):
        near, far = (LoadedCell.of(LEMON, Geometry(gap_m=gap)).solution_ohm for gap in (0.01, 0.04))
        self.assertAlmostEqual(far / near, 4.0, places=9)
