"""Liquids made up on the bench, against measured conductivities and textbook pH. Sources beside each."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from galvanic.chemistry.blending import added, blend, diluted, liquid, poured, strengthened, water
from galvanic.chemistry.made import own_liquid
from galvanic.errors import OutOfRange
from galvanic.reference.additions import additions
from galvanic.reference.catalogue import also
from galvanic.reference.further_tables import conductivities

A = additions()
PER_K = 1.02  # conductivity of salt solutions rises by about 2 % a kelvin: common practice, no source


def of(grams, what, litres=0.1):
    return added(water(litres), A[what], grams)


class Conductivity(unittest.TestCase):
    def test_salt_water_as_measured(self):
        """CRC Handbook, electrical conductivity of aqueous solutions, 20 °C (conductivity.toml)."""
        table = conductivities()
        for key, what, within in (
            ("NaCl", "table-salt", 0.1),
            ("KCl", "potassium-chloride", 0.11),
            ("KNO3", "potassium-nitrate", 0.11),
        ):
            for percent, measured in zip(table[key].mass_percent, table[key].s_per_m, strict=True):
                grams = 100.0 * percent / (100.0 - percent)  # in 100 mL of water
                found = of(grams, what).conductivity_s_per_m
                with self.subTest(key=key, percent=percent):
                    self.assertAlmostEqual(found / (measured * PER_K**5), 1.0, delta=within)

    def test_a_salt_raises_the_conductivity_whatever_it_goes_into(self):
        for base in ("hcl-0.1", "naoh-0.1", "cuso4-1.0", "vinegar", "salt-water"):
            for salt in ("epsom-salt", "table-salt", "sodium-sulfate", "zinc-sulfate", "potassium-nitrate"):
                if base == "hcl-0.1" and "SO4--" in A[salt].ions:
                    continue  # sulfate takes up a strong acid's protons, which carry most of the current
                steps = [liquid(base, 0.1)]
                steps += [added(steps[0], additions()[salt], grams) for grams in (2.0, 5.0, 12.0)]
                found = [one.conductivity_s_per_m for one in steps]
                with self.subTest(f"{salt} into {base}"):
                    self.assertEqual(found, sorted(found))

    def test_sugar_carries_nothing(self):
        self.assertLess(of(10.0, "sugar").conductivity_s_per_m, 1e-5)


class Acidity(unittest.TestCase):
    def test_sulfate_takes_up_protons_by_hydrogensulfates_constant(self):
        # By hand, pKₐ₂ 1.99: 0.0325 mol/L of sulfate and 0.0163 of protons leave 10^−2.28 (peroxymonosulfate, 10 g/L; its makers
        # give pH 2.1 to 2.3, from memory).
        self.assertAlmostEqual(of(1.0, "peroxymonosulfate").ph, 2.28, delta=0.03)
        self.assertAlmostEqual(of(14.2, "sodium-sulfate").ph, 7.0, delta=0.1)
        self.assertGreater(added(liquid("hcl-0.1", 0.1), A["sodium-sulfate"], 5.0).ph, 2.0)

    def test_a_teachers_own_sour_juice_buffers_like_one(self):
        numbers = {"form": "juice", "ph": (3.2, 3.6), "conductivity_s_per_m": (0.2, 0.4), "chloride_mol_per_l": (1e-3, 2e-3)}
        with also(lambda: ([], [own_liquid("own-plum", "plum", numbers)])):
            after = added(liquid("own-plum", 0.1), A["baking-soda-powder"], 0.05)
        self.assertLess(after.ph, 4.0)
        self.assertEqual(own_liquid("own-tap", "tap", numbers | {"form": "liquid"}).acids_mol_per_l, {})

    def test_textbook_solutions(self):
        """Citric acid 0.1 mol/L: pH 2.08 from pKa 3.13; hydrogencarbonate: (pKa1 + pKa2)/2 = 8.34; carbonate 0.1 mol/L: 11.6
        from Kw/Ka2 (any general chemistry text). Activities left out."""
        self.assertAlmostEqual(of(2.101, "citric-acid").ph, 2.08, delta=0.03)
        self.assertAlmostEqual(of(0.840, "baking-soda-powder").ph, 8.34, delta=0.03)
        self.assertAlmostEqual(of(2.862, "washing-soda-crystals").ph, 11.64, delta=0.05)

    def test_half_neutralised_vinegar_stands_at_its_pka(self):
        """Henderson and Hasselbalch: pH = pKa = 4.76 where half the acid is neutralised (here by carbonate that leaves as gas
        above what water holds, so a little above)."""
        made = blend(water(0.05), [(A["vinegar-5"], 50.0), (A["baking-soda-powder"], 0.5 * 0.837 * 0.05 * 84.007)])
        self.assertAlmostEqual(made.ph, 4.76, delta=0.08)

    def test_soda_in_lemon_foams_and_the_acid_goes(self):
        lemon = liquid("lemon-juice", 0.1)
        made = added(lemon, A["baking-soda-powder"], 5.0)
        self.assertGreater(made.ph, 5.0)
        self.assertLess(made.protons_mol_per_l, 0.5 * lemon.protons_mol_per_l)
        # 5 g are 0.0595 mol (84.007 g/mol); nearly all of its carbon dioxide leaves
        self.assertAlmostEqual(made.foamed_mol, 0.0595, delta=0.006)

    def test_water_hardly_moves_a_juice_and_salt_does_not_move_its_ph(self):
        lemon = liquid("lemon-juice", 0.1)
        self.assertAlmostEqual(
            diluted(lemon, 0.1).ph - lemon.ph, 0.25, delta=0.15
        )  # a buffer; a strong acid would move by 1
        self.assertAlmostEqual(added(lemon, A["table-salt"], 2.0).ph, lemon.ph, delta=0.01)


class Amounts(unittest.TestCase):
    @given(st.floats(0.01, 1.0), st.floats(0.0, 30.0))
    def test_chloride_is_what_was_weighed(self, litres, grams):
        made = added(water(litres), A["table-salt"], grams * litres * 10.0)
        self.assertAlmostEqual(made.chloride_mol_per_l, grams * 10.0 / 58.44, delta=1e-3 * (1.0 + grams))

    def test_pouring_the_same_together_changes_nothing(self):
        one = liquid("lemon-juice", 0.1)
        both = poured(one, liquid("lemon-juice", 0.3))
        self.assertAlmostEqual(both.volume_l, 0.4)
        self.assertAlmostEqual(both.ph, one.ph, places=6)
        self.assertAlmostEqual(both.conductivity_s_per_m, one.conductivity_s_per_m, places=6)

    def test_strength_up_and_down_come_back(self):
        salt = liquid("salt-water", 0.1)
        back = strengthened(strengthened(salt, 0.1), 10.0)
        self.assertAlmostEqual(back.conductivity_s_per_m, salt.conductivity_s_per_m, places=6)
        self.assertAlmostEqual(back.chloride_mol_per_l, salt.chloride_mol_per_l)

    def test_what_does_not_dissolve_or_is_no_amount_is_refused(self):
        for amount in (40.0, -1.0, float("nan"), float("inf")):
            with self.subTest(amount=amount), self.assertRaises(OutOfRange):
                of(amount, "table-salt")
        with self.assertRaisesRegex(OutOfRange, "35.9 g is the most"):
            of(40.0, "table-salt")
        with self.assertRaises(OutOfRange):
            diluted(water(0.1), 0.0)
        with self.assertRaises(OutOfRange):
            liquid("daniell-pot", 0.1)
        for litres in (0.0, 2000.0, float("nan"), float("inf")):
            with self.subTest(litres=litres), self.assertRaises(OutOfRange):
                water(litres)
