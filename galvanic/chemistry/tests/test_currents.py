"""No current without its reactants, and what people measure. Named sources stand beside their numbers."""

import math
import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from galvanic.cells import Cell
from galvanic.chemistry.accounts import predict
from galvanic.chemistry.currents import (
    D_ACID,
    D_ION,
    D_OXYGEN,
    D_PROTON,
    OXYGEN_SATURATED,
    arrives,
    cathodic,
    hydrogen,
    net,
    oxygen,
    oxygen_arrives,
)  # fmt: skip
from galvanic.chemistry.half import Half
from galvanic.chemistry.nernst import thermal_v
from galvanic.chemistry.plate_work import at_plates
from galvanic.chemistry.polarisation import Geometry, LoadedCell
from galvanic.chemistry.shorted import shorted
from galvanic.chemistry.warmth import oxygen_at_equilibrium, warmth
from galvanic.chemistry.what_if import Change, what_if
from galvanic.constants import FARADAY_C_PER_MOL as F
from galvanic.errors import OutOfRange
from galvanic.reference.catalogue import electrodes, electrolytes

PLATES = tuple(electrodes())
LIQUIDS = tuple(key for key, row in electrolytes().items() if row.negative_side is None)
FIVE = Geometry(5e-4, 0.02)


def short_ma(negative, liquid, positive, geometry=FIVE):
    """Short-circuit current in mA: first seconds, after a minute, steady."""
    found = shorted(Cell(negative, liquid, positive), geometry)
    return [1e3 * amps for amps in (found.first_a, found.minute_a, found.steady_a)]


def within_three(value, low, high):
    """Whether a value lies within a factor of three of a band."""
    return low / 3.0 <= value <= high * 3.0


class Reactants(unittest.TestCase):
    @given(st.sampled_from(PLATES), st.sampled_from(LIQUIDS), st.floats(-1.5, 0.5))
    def test_a_steady_cathodic_current_is_no_more_than_what_arrives_and_hydrogen_from_water(self, plate, liquid, e):
        half = Half.of(plate, liquid).after(math.inf)
        p, q, x = half.plates, half.liquids, half.pairing
        at = np.full((1, 1, 1), e) - x.off_v
        from_water = max(0.0, float(hydrogen(at, p, q)[0, 0, 0]))  # with H+ and acid, limited in themselves
        protons = F * float((arrives(q, D_PROTON, 1000.0 * 10.0**-q.ph) + arrives(q, D_ACID, q.acid_mol_per_m3))[0, 0, 0])
        alone = Half.of(plate, liquid).in_liquid(ph=14.0).after(math.inf)
        water = max(0.0, float(hydrogen(at, alone.plates, alone.liquids)[0, 0, 0]))
        self.assertLessEqual(from_water, 1.001 * (protons + water) + 1e-9)
        arriving = 4.0 * F * float(oxygen_arrives(p, q)[0, 0, 0])
        ions = 3.0 * F * D_ION * 1e3 * sum(electrolytes()[liquid].ions_mol_per_l.values()) / float(q.layer_m[0, 0, 0])
        self.assertGreaterEqual(
            float(net(np.full((1, 1, 1), e), p, q, x)[0, 0, 0]), -1.01 * (arriving + ions + from_water) - 1e-9
        )

    def test_without_oxygen_in_still_neutral_salt_water_only_hydrogen_is_left(self):
        half = Half.of("copper", "kcl-0.10").in_liquid(oxygen=0.0).after(math.inf)
        parts = cathodic(half.at(-1e-3)[:, None, None], half.plates, half.liquids, half.pairing)
        total = sum(float(part[0, 0, 0]) for part in parts.values())
        self.assertGreater(float(parts["hydrogen"][0, 0, 0]), 0.999 * total)

    def test_oxygen_alone_carries_the_steady_current_of_zinc_and_copper_in_salt_water(self):
        first, minute, steady = short_ma("zinc", "salt-water", "copper")
        by_oxygen = 1e3 * 5e-4 * 4.0 * F * D_OXYGEN * OXYGEN_SATURATED / 0.4e-3  # Fick's first law, still layer of 0.4 mm
        self.assertAlmostEqual(steady, by_oxygen, delta=0.05 * by_oxygen)
        self.assertTrue(first > 2.0 * minute > 2.0 * steady)

    def test_silver_and_graphite_do_no_better_once_what_they_carry_is_used_up(self):
        for plate in ("silver", "graphite"):
            self.assertLess(short_ma("zinc", "salt-water", plate)[2], 0.4)

    def test_oxygen_is_shared_between_water_and_peroxide(self):
        half = Half.of("graphite", "salt-water").after(math.inf)
        for at_v in (-1.2, -0.6, 0.0):
            whole, part = oxygen(np.full((1, 1, 1), at_v), half.plates, half.liquids)
            used = float((whole / 4.0 + part / 2.0)[0, 0, 0]) / F
            self.assertLessEqual(used, 1.0001 * float(oxygen_arrives(half.plates, half.liquids)[0, 0, 0]))

    def test_the_first_seconds_follow_cottrell(self):
        """A step to a limiting current: nFc·√(D/πt) (Cottrell; A. J. Bard, L. R. Faulkner)."""
        seconds = 4.0
        half = Half.of("copper", "salt-water").after(seconds)
        found = 4.0 * F * float(oxygen_arrives(half.plates, half.liquids)[0, 0, 0])
        self.assertAlmostEqual(found, 4.0 * F * OXYGEN_SATURATED * math.sqrt(D_OXYGEN / (math.pi * seconds)), places=6)


class Practice(unittest.TestCase):
    """What people measure: practice-loads.csv, common practice, no source; within a factor of three of each row."""

    def test_one_pair_in_lime_juice_gives_up_to_a_milliamp_in_the_first_seconds(self):
        self.assertTrue(within_three(short_ma("zinc", "lemon-juice", "copper")[0], 0.3, 1.0))

    def test_three_pairs_give_about_three_times_the_current(self):
        one = short_ma("zinc", "lemon-whole", "copper")[0]
        three = short_ma("zinc", "lemon-whole", "copper", Geometry(5e-4, 0.02, 3))[0]
        self.assertTrue(2.4 <= three / one <= 3.3)

    def test_potato_and_card_start_with_what_their_plates_carry(self):
        self.assertTrue(within_three(short_ma("zinc", "potato", "copper")[0], 0.2, 0.8))
        self.assertTrue(within_three(short_ma("zinc", "salt-card", "copper", Geometry(4e-4, 1e-3))[0], 0.15, 1.5))

    def test_a_dull_plate_gives_more_at_first_and_no_more_in_the_end(self):
        cell = Cell("zinc", "salt-water", "copper")
        rubbed, dull = what_if(cell, Change()), what_if(cell, Change(dull=True))
        self.assertGreater(dull.short_a, 2.0 * rubbed.short_a)
        self.assertAlmostEqual(dull.steady_a / rubbed.steady_a, 1.0, places=6)


class NearEquilibrium(unittest.TestCase):
    def test_the_daniell_cell_reads_1_10_v(self):
        """Any general chemistry text: 1.10 V."""
        low, high = LoadedCell.of(Cell("zinc", "daniell-pot", "copper")).rest()
        self.assertAlmostEqual(high - low, 1.10, delta=0.0101)

    def test_aluminium_tin_and_lead_dissolve_in_strong_alkali(self):
        """Aluminium near −1.3 to −1.5 V, tin towards stannite at −0.9 V, lead towards plumbite at −0.5 V (from memory)."""
        self.assertTrue(-1.5 <= Half.of("aluminium", "naoh-0.1").rest() <= -1.3)
        self.assertTrue(-1.0 <= Half.of("tin", "naoh-0.1").rest() <= -0.7)
        self.assertTrue(-0.6 <= Half.of("lead", "naoh-0.1").rest() <= -0.35)

    def test_copper_plates_out_on_zinc_in_copper_sulfate(self):
        sulfate, alike = Half.of("zinc", "cuso4-1.0"), Half.of("zinc", "na2so4-0.1")
        self.assertGreater(sulfate.rest(), alike.rest() + 0.05)
        parts = cathodic(np.full((1, 1, 1), sulfate.rest()), sulfate.plates, sulfate.liquids, sulfate.pairing)
        self.assertGreater(float(parts["plating"][0, 0, 0]), 0.9 * sum(float(v[0, 0, 0]) for v in parts.values()))
        for metal in ("zinc", "steel", "magnesium"):
            said = " ".join(row.remark for row in at_plates(Cell(metal, "cuso4-1.0", "copper")).at_negative)
            self.assertIn("does not last", said, metal)
        self.assertEqual(at_plates(Cell("zinc", "daniell-pot", "copper")).at_negative[0].remark, "")
        self.assertEqual(float(Half.of("copper", "cuso4-1.0").pairing.foreign_mol_per_m3[0, 0, 0]), 0.0)

    def test_graphite_stands_where_its_surface_groups_hold_it(self):
        """Zinc and graphite in vinegar: 1.05 to 1.15 V with fruit (common practice, no source); without groups 1.47 V."""
        low, high = LoadedCell.of(Cell("zinc", "vinegar", "graphite")).rest()
        self.assertTrue(1.05 <= high - low <= 1.18)
        steps = [Half.of("graphite", "kcl-0.10").in_liquid(ph=ph).rest() for ph in (4.0, 5.0)]
        self.assertAlmostEqual(steps[0] - steps[1], 0.059, delta=0.01)


class Names(unittest.TestCase):
    def test_what_carries_the_current_is_named_by_its_own_reaction(self):
        for liquid in ("lemon-juice", "salt-water", "potato"):
            with self.subTest(liquid):
                found = at_plates(Cell("zinc", liquid, "copper"))
                self.assertNotIn("come back from the solution", " ".join(row.remark for row in found.at_positive))
                self.assertAlmostEqual(sum(row.share for row in found.at_positive), 1.0, delta=0.02)
        shorted = Half.of("copper", "salt-water")
        for seconds, least, most in ((10.0, 0.5, 1.0), (math.inf, 0.0, 0.0)):
            half = shorted.after(seconds)
            parts = cathodic(np.full((1, 1, 1), -0.6), half.plates, half.liquids, half.pairing)
            share = float(parts["solids"][0, 0, 0]) / sum(float(part[0, 0, 0]) for part in parts.values())
            self.assertTrue(least <= share <= most, share)
        said = " ".join(row.equation for row in at_plates(Cell("zinc", "vinegar", "graphite")).at_positive)
        self.assertIn("hydroquinone", said)

    def test_copper_dissolves_as_its_chloride_complex_in_salt_water_and_zinc_as_zincate_in_alkali(self):
        self.assertIn("CuCl₂⁻", at_plates(Cell("copper", "salt-water", "silver")).at_negative[0].equation)
        self.assertIn("Zn(OH)₄²⁻", at_plates(Cell("zinc", "naoh-0.1", "copper")).at_negative[0].equation)
        self.assertIn("Al(OH)₄⁻", at_plates(Cell("aluminium", "naoh-0.1", "copper")).at_negative[0].equation)
        for liquid in ("kelp-brine", "salt-water", "lemon-juice"):
            self.assertIn("Al³⁺", at_plates(Cell("aluminium", liquid, "copper")).at_negative[0].equation)


class Warm(unittest.TestCase):
    def test_nothing_changes_at_25_degrees_and_nernsts_slope_is_rt_over_f(self):
        usual = warmth(25.0)
        for name in ("slope", "hydrogen", "oxygen", "metal", "film", "diffusion", "oxygen_dissolved", "conductivity"):
            self.assertAlmostEqual(getattr(usual, name), 1.0, places=12)
        self.assertAlmostEqual(warmth(40.0).nernst_v, math.log(10.0) * thermal_v(313.15), places=9)

    def test_oxygen_dissolves_as_the_tables_say(self):
        # B. B. Benson, D. Krause, Limnology and Oceanography 25 (1980) 662, as printed in tables of water analysis, mg/L under
        # moist air, from memory.
        for celsius, mg_per_l in ((5.0, 12.77), (15.0, 10.08), (25.0, 8.26), (35.0, 6.95), (50.0, 5.5)):
            self.assertAlmostEqual(8.26 * oxygen_at_equilibrium(celsius) / mg_per_l, 1.0, delta=0.09)
        # A cup that was just warmed has hardly lost any, one just cooled hardly taken any up.
        self.assertTrue(oxygen_at_equilibrium(50.0) + 0.2 < warmth(50.0).oxygen_dissolved < 1.0)
        self.assertTrue(1.0 < warmth(5.0).oxygen_dissolved < 1.1)

    def test_a_warm_cell_gives_more_current_and_hardly_another_voltage(self):
        cell = Cell("zinc", "lemon-juice", "copper")
        cold, usual, warm = (what_if(cell, Change(celsius=c)) for c in (5.0, 25.0, 45.0))
        self.assertTrue(cold.short_a < usual.short_a < warm.short_a)
        self.assertTrue(cold.steady_a < usual.steady_a < warm.steady_a)
        self.assertLess(abs(warm.open_v - cold.open_v), 0.1)

    def test_every_account_goes_with_the_temperature(self):
        cell = Cell("zinc", "lemon-juice", "copper")
        usual, warm = (predict([cell], draws=0, celsius=c)[0] for c in (25.0, 45.0))
        # Daniell couples: about -0.1 mV/K (S. G. Bratsch, J. Phys. Chem. Ref. Data 18 (1989) 1, from memory).
        self.assertAlmostEqual(warm["standard"].volts_v - usual["standard"].volts_v, -2e-3, delta=2e-3)
        self.assertNotAlmostEqual(warm["hydrogen"].volts_v, usual["hydrogen"].volts_v, places=5)
        self.assertAlmostEqual(warm["rest"].volts_v, what_if(cell, Change(celsius=45.0)).open_v, places=9)
        self.assertEqual(warm["series"], usual["series"])
        with self.assertRaises(OutOfRange):
            predict([cell], celsius=80.0)

    def test_where_the_rates_do_not_hold_it_is_refused(self):
        for celsius in (4.0, 61.0, math.nan):
            with self.assertRaises(OutOfRange):
                warmth(celsius)


class Inside(unittest.TestCase):
    @given(st.sampled_from(["zinc", "aluminium", "magnesium"]), st.sampled_from(["lemon-juice", "salt-water", "potato"]))
    def test_the_resistance_inside_falls_steadily_as_the_plates_come_nearer(self, plate, liquid):
        found = [
            what_if(Cell(plate, liquid, "copper"), Change(gap_m=g)).internal_ohm for g in (0.1, 0.05, 0.02, 0.01, 0.005)
        ]
        self.assertTrue(all(a >= b for a, b in zip(found, found[1:], strict=False)), found)

    def test_more_pairs_more_salt_and_better_conduction_give_more_current(self):
        cell = Cell("zinc", "lemon-juice", "copper")
        usual = what_if(cell, Change())
        self.assertAlmostEqual(what_if(cell, Change(pairs=3)).short_a / usual.short_a, 3.0, delta=0.02)
        self.assertGreater(what_if(cell, Change(conductivity_s_per_m=5.0)).short_a, usual.short_a)
        self.assertLess(what_if(cell, Change(chloride_mol_per_l=0.5)).positive_v, usual.positive_v - 0.05)
