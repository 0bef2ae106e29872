"""Oxidants of one's own: bounds that hold, nothing foretold, refused by age."""

import math
import unittest

from galvanic.cells import Cell
from galvanic.chemistry.accounts import predict
from galvanic.chemistry.gap import explain
from galvanic.chemistry.kinetics import forms
from galvanic.chemistry.made import made_fields
from galvanic.chemistry.oxidants import AREA_M2, CUP_L, in_words, lift, oxidising
from galvanic.chemistry.tests.test_made import row_of
from galvanic.planning.safety import AGE_BANDS, sheet
from galvanic.reference.additions import additions
from galvanic.reference.catalogue import Made, also, half_reactions


def with_oxidant(what, amount, base="salt-water"):
    return row_of("own oxidant", made_fields(Made(base, 100.0, ((what, amount),))))


class Bounds(unittest.TestCase):
    def test_half_reactions_are_the_handbooks(self):
        """H₂O₂ 1.776 V, MnO₂ 1.224 V (CRC Handbook); peroxymonosulfate 1.82 V (Steele and Appelman 1982; not the 2.7 V
        sometimes quoted), from memory."""
        for couple, volts in (("H2O2/H2O", 1.776), ("MnO2/Mn2+", 1.224), ("HSO5-/HSO4-", 1.82)):
            self.assertAlmostEqual(half_reactions()[couple].e_v.value, volts, delta=0.03)
        self.assertEqual(
            {addition.oxidant for addition in additions().values() if addition.oxidant},
            {"H2O2/H2O", "HSO5-/HSO4-", "MnO2/Mn2+", "CuO/Cu2O"},
        )

    def test_what_diffusion_brings_and_what_a_powder_holds_bound_the_current(self):
        peroxide = with_oxidant("hydrogen-peroxide", 10.0)
        with also(lambda: ([], [peroxide])):
            (found,) = oxidising(peroxide.key)
            # 2·F·D·c/δ with D = 1.3e-9 m²/s, c = 0.081 mol/L, δ near 0.4 mm: 51 A/m²
            layer_m = forms()["liquid"].layer_m.value
            self.assertAlmostEqual(found.limit_a_per_m2, 2 * 96485.33 * 1.3e-9 * 80.9 / layer_m, delta=1.0)
            self.assertIn(f"{1e3 * found.limit_a_per_m2 * AREA_M2:.2g} mA", in_words(peroxide.key))
        paste = with_oxidant("manganese-dioxide", 20.0, "salt-paste")
        with also(lambda: ([], [paste])):
            (found,) = oxidising(paste.key)
            self.assertTrue(math.isinf(found.limit_a_per_m2))
            # Faraday: 2 F per 86.94 g; 20 g in 100 mL, 40 mL of it
            self.assertAlmostEqual(found.charge_c_per_l * CUP_L, 2 * 96485.33 * 20.0 / 86.937 / 0.1 * 0.04, delta=5.0)

    def test_nothing_is_foretold_but_the_range_between_without_it_and_its_equilibrium(self):
        peroxide = with_oxidant("hydrogen-peroxide", 10.0)
        with also(lambda: ([], [peroxide])):
            cell, plain = Cell("zinc", peroxide.key, "copper"), Cell("zinc", "salt-water", "copper")
            found, without = (predict([one])[0]["rest"] for one in (cell, plain))
            self.assertIn("does not foretell", found.reason)
            self.assertGreater(found.u_v, 0.2)
            self.assertTrue(without.volts_v < found.volts_v < oxidising(peroxide.key)[0].at_v + 0.8)
            whole = explain(cell, 1.2)
            step = next(cause for cause in whole.causes if cause.code == "oxidant")
            self.assertEqual(step.plate, "copper")
            self.assertAlmostEqual(step.volts_v, found.volts_v - without.volts_v, delta=0.02)
            self.assertIn("same cell without it", step.test)
            self.assertAlmostEqual(
                whole.start_v + math.fsum(cause.volts_v for cause in whole.causes), whole.measured_v, delta=1e-9
            )
        self.assertEqual((oxidising("salt-water"), lift("salt-water", 0.0), in_words("salt-water")), ((), None, ""))

    def test_a_plate_above_the_oxidant_is_not_lifted(self):
        oxide = with_oxidant("copper-oxide", 10.0, "salt-paste")
        with also(lambda: ([], [oxide])):
            self.assertEqual(lift(oxide.key, 2.0).most_v, 0.0)
            self.assertGreater(lift(oxide.key, -0.5).most_v, 0.3)


class ByAge(unittest.TestCase):
    def test_strong_oxidants_and_strong_alkali_are_refused_and_weak_ones_cautioned(self):
        for what, amount, refused in (
            ("hydrogen-peroxide", 10.0, ()),
            ("copper-oxide", 5.0, ()),
            ("manganese-dioxide", 5.0, ("11-13",)),
            ("peroxymonosulfate", 2.0, AGE_BANDS),
        ):
            liquid = with_oxidant(what, amount)
            with self.subTest(what), also(lambda row=liquid: ([], [row])):
                for age in AGE_BANDS:
                    found = sheet(["zinc", "copper"], [liquid.key], age)
                    rule = additions()[what].oxidant
                    entries = [entry for entry in found.entries if entry.hazard.to == rule]
                    self.assertEqual([entry.refused for entry in entries], [age in refused])
                    self.assertTrue(entries[0].hazard.text)
        strong = row_of("own lye", {"form": "liquid", "ph": (13.5, 14.0), "conductivity_s_per_m": (10.0, 20.0),
                                    "chloride_mol_per_l": (1e-4, 1e-3)})  # fmt: skip
        with also(lambda: ([], [strong])):
            self.assertTrue(sheet(["carbon-felt", "zinc"], [strong.key], "16-18").refusals)
        self.assertFalse(sheet(["carbon-felt", "zinc"], ["naoh-0.1"], "16-18").refusals)

    def test_the_salt_of_peroxymonosulfate_is_sour(self):
        """About pH 2.1 at 1 % and 1.7 at 3 % (data sheets of the salt, from memory)."""
        found = with_oxidant("peroxymonosulfate", 1.0, "distilled-water")
        self.assertAlmostEqual(0.5 * (found.ph.low + found.ph.high), 2.0, delta=0.4)
