"""Nernst and cells, against chempy and worked examples."""

import math
import unittest

from chempy.electrochemistry.nernst import nernst_potential
from hypothesis import given
from hypothesis import strategies as st

from galvanic.cells import Cell, table_difference_v
from galvanic.chemistry.nernst import potential_v, standard_v, thermal_v
from galvanic.constants import FARADAY_C_PER_MOL, GAS_CONSTANT_J_PER_MOL_K
from galvanic.errors import OutOfRange
from galvanic.reference.catalogue import half_reactions

HALF = half_reactions()
ROOM_OR_NOT = st.floats(273.15, 333.15)
ACTIVITY = st.floats(1e-9, 2.0)


class Nernst(unittest.TestCase):
    def test_constants_are_those_of_the_si(self):
        # CODATA 2018: F = 96485.33212 C/mol, R = 8.314462618 J/(mol K), both exact products rounded.
        self.assertAlmostEqual(FARADAY_C_PER_MOL, 96485.33212, places=5)
        self.assertAlmostEqual(GAS_CONSTANT_J_PER_MOL_K, 8.314462618, places=9)
        self.assertAlmostEqual(thermal_v() * math.log(10), 0.05916, places=5)

    @given(ACTIVITY, ROOM_OR_NOT)
    def test_a_metal_and_its_ion_agree_with_chempy(self, activity, temperature_k):
        zinc = HALF["Zn2+/Zn"]
        # chempy gives RT/zF ln(out/in) with its own CODATA constants.
        shift = nernst_potential(activity, 1.0, 2, temperature_k)
        found = potential_v(zinc, {"Zn2+": activity}, temperature_k) - standard_v(zinc, temperature_k)
        self.assertAlmostEqual(found, shift, places=6)  # its constants are of an older CODATA

    def test_daniell_cell_is_1_10_v(self):
        # Standard Daniell cell, 1.10 V: any general chemistry text, for example Zumdahl, “Chemistry”, ch. 18.
        self.assertAlmostEqual(table_difference_v("copper", "zinc"), 1.10, delta=0.005)

    def test_silver_on_copper_is_0_46_v(self):
        # Cu | Cu2+ || Ag+ | Ag, 0.46 V: any general chemistry text.
        self.assertAlmostEqual(table_difference_v("silver", "copper"), 0.46, delta=0.005)

    def test_worked_daniell_examples(self):
        # Worked examples as in any general chemistry text: E = 1.10 − (0.0592/2) log([Zn2+]/[Cu2+]).
        for zn, cu, expected in [(1.0, 0.1, 1.07), (0.1, 1.0, 1.13), (1.0, 1e-4, 0.98), (0.5, 0.5, 1.10)]:
            with self.subTest(zn=zn, cu=cu):
                found = potential_v(HALF["Cu2+/Cu"], {"Cu2+": cu}) - potential_v(HALF["Zn2+/Zn"], {"Zn2+": zn})
                self.assertAlmostEqual(found, expected, delta=0.006)

    def test_hydrogen_falls_59_mv_a_ph_unit(self):
        found = [potential_v(HALF["H+/H2"], {"H+": 10.0**-ph, "H2": 1.0}) for ph in (0, 1, 7)]
        self.assertAlmostEqual(found[0] - found[1], 0.05916, places=5)
        self.assertAlmostEqual(found[2], -0.4141, places=4)

    def test_oxygen_in_acid_and_in_alkali_is_one_reaction(self):
        # E°(O2/H2O) − E°(O2/OH−) = 14 pH units (pKw 13.995) of 59.16 mV.
        acid = potential_v(HALF["O2/H2O"], {"O2": 1.0, "H+": 10**-13.995})
        self.assertAlmostEqual(acid, HALF["O2/OH-"].e_v.value, delta=0.002)

    @given(st.floats(273.15, 333.15), ACTIVITY)
    def test_a_concentration_cell_of_equal_strength_is_zero_and_its_sign_follows_the_ratio(self, t_k, a):
        copper = HALF["Cu2+/Cu"]
        self.assertEqual(potential_v(copper, {"Cu2+": a}, t_k) - potential_v(copper, {"Cu2+": a}, t_k), 0.0)
        self.assertGreater(potential_v(copper, {"Cu2+": 2 * a}, t_k), potential_v(copper, {"Cu2+": a}, t_k))

    def test_outside_its_range_it_refuses_with_the_reason(self):
        with self.assertRaisesRegex(OutOfRange, "0 to 60"):
            thermal_v(400.0)
        with self.assertRaisesRegex(OutOfRange, "above zero for Zn2"):
            potential_v(HALF["Zn2+/Zn"], {"Zn2+": 0.0})
        with self.assertRaisesRegex(OutOfRange, "above zero for H2"):
            potential_v(HALF["H+/H2"], {"H+": 1.0})
        with self.assertRaisesRegex(OutOfRange, "no temperature coefficient"):
            standard_v(HALF["H2O2/H2O"], 310.0)


class Cells(unittest.TestCase):
    def test_the_plate_the_table_makes_negative_stands_on_the_left(self):
        cell = Cell.of("copper", "rhubarb-juice", "zinc")
        self.assertEqual(cell.notation, "Zn | rhubarb juice | Cu")
        self.assertAlmostEqual(cell.table_v, 0.3419 + 0.7618)

    def test_graphite_stands_on_the_right_and_has_no_table_value(self):
        cell = Cell.of("graphite", "lemon-juice", "silver")
        self.assertEqual((cell.negative, cell.positive, cell.table_v), ("silver", "graphite", None))

    def test_two_plates_of_one_metal_make_one_cell_whichever_comes_first(self):
        self.assertEqual(Cell.of("copper", "potato", "copper-coin"), Cell.of("copper-coin", "potato", "copper"))
        self.assertEqual(Cell.of("graphite", "potato", "platinum"), Cell.of("platinum", "potato", "graphite"))

    def test_swapping_the_leads_flips_the_sign(self):
        cell = Cell.of("zinc", "rhubarb-juice", "copper")
        self.assertEqual(cell.as_written_v(0.94, red="copper"), 0.94)
        self.assertEqual(cell.as_written_v(-0.94, red="zinc"), 0.94)
