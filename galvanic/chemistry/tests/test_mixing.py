"""Making up solutions, against bench recipes and textbook examples."""

import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from galvanic.chemistry.mixing import (
    by_parts,
    for_groups,
    mass_for_molarity,
    metal_dissolved_g,
    parts_for_mass_percent,
    stock_volume,
)
from galvanic.errors import BadTable, OutOfRange
from galvanic.reference.further_tables import stocks

SOME = st.floats(0.01, 100.0)


class Recipes(unittest.TestCase):
    def test_bench_recipes(self):
        # Potassium chloride 0.10 mol/L: 7.46 g to 1.00 L. CuSO4·5H2O 1.0 mol/L: 62.4 g to 250 mL. ZnSO4·7H2O 0.5 mol/L:
        # 71.9 g to 500 mL. Any laboratory handbook, from memory.
        self.assertAlmostEqual(mass_for_molarity("KCl", 0.10, 1.0), 7.46, delta=0.01)
        self.assertAlmostEqual(mass_for_molarity("CuSO4.5H2O", 1.0, 0.25), 62.4, delta=0.05)
        self.assertAlmostEqual(mass_for_molarity("ZnSO4.7H2O", 0.5, 0.5), 71.9, delta=0.1)

    def test_bottles_as_bought(self):
        # Concentrated hydrochloric acid 12.0 mol/L, sulfuric acid 18.0, glacial acetic acid 17.4, vinegar 0.84, sodium
        # hydroxide 50 % 19.1: suppliers' tables, from memory.
        for name, molarity in {
            "hydrochloric acid, concentrated": 12.0, "sulfuric acid, concentrated": 18.0, "acetic acid, glacial": 17.4,
            "vinegar, 5 %": 0.84, "sodium hydroxide, 50 %": 19.1,
        }.items():  # fmt: skip
            with self.subTest(name):
                self.assertAlmostEqual(stocks()[name].mol_per_l / molarity, 1.0, delta=0.01)

    def test_diluting_concentrated_acid(self):
        # 0.10 mol/L from 12 mol/L: 8.3 mL to 1 L, textbook.
        self.assertAlmostEqual(stock_volume(12.0, 0.10, 1.0) * 1000, 8.33, delta=0.01)
        with self.assertRaisesRegex(OutOfRange, "stronger"):
            stock_volume(0.1, 0.2, 1.0)

    def test_per_cent_by_mass_and_its_hydrate(self):
        self.assertEqual(parts_for_mass_percent(3.5, 1000.0), (35.0, 965.0))
        # 5 % copper sulfate from the pentahydrate: 5 g of CuSO4 are 7.82 g of the blue crystals.
        solid, water = parts_for_mass_percent(5.0, 100.0, "CuSO4.5H2O", "CuSO4")
        self.assertAlmostEqual(solid, 7.82, delta=0.01)
        self.assertAlmostEqual(solid + water, 100.0)
        for percent in (0.0, 100.0, -1.0):
            with self.assertRaises(OutOfRange):
                parts_for_mass_percent(percent, 100.0)
        with self.assertRaisesRegex(OutOfRange, "too much water"):
            parts_for_mass_percent(70.0, 100.0, "CuSO4.5H2O", "CuSO4")

    @given(st.dictionaries(st.text(min_size=1, max_size=5), SOME, min_size=1, max_size=6), SOME)
    def test_parts_need_not_add_up_to_a_hundred(self, parts, total):
        found = by_parts(parts, total)
        self.assertAlmostEqual(math.fsum(found.values()), total, places=9)
        first = next(iter(parts))
        self.assertAlmostEqual(found[first] / total, parts[first] / math.fsum(parts.values()), places=9)

    def test_for_a_class_with_spare_and_round_amounts(self):
        self.assertAlmostEqual(for_groups(0.080, 8, 0.1), 0.704)
        self.assertAlmostEqual(for_groups(0.080, 8, 0.1, step=0.25), 0.75)
        self.assertAlmostEqual(for_groups(0.25, 4, 0.0, step=0.25), 1.0)

    @given(SOME, SOME, SOME)
    def test_making_up_twice_the_volume_takes_twice_the_solid(self, molarity, volume, factor):
        one, other = mass_for_molarity("NaCl", molarity, volume), mass_for_molarity("NaCl", molarity, volume * factor)
        self.assertAlmostEqual(other / one, factor, places=6)

    def test_nonsense_is_refused(self):
        for call in (
            lambda: mass_for_molarity("KCl", 0.0, 1.0),
            lambda: mass_for_molarity("KCl", 1.0, math.inf),
            lambda: by_parts({}, 1.0),
            lambda: by_parts({"a": -1.0}, 1.0),
            lambda: for_groups(1.0, 0),
            lambda: for_groups(1.0, 3, -0.5),
            lambda: metal_dissolved_g("Xx", 2, 1.0),
        ):
            with self.assertRaises(OutOfRange):
                call()
        with self.assertRaises(BadTable):
            mass_for_molarity("salt", 1.0, 1.0)


class Faraday(unittest.TestCase):
    def test_an_ampere_hour_dissolves(self):
        # Copper 1.186 g and zinc 1.220 g an ampere-hour, silver 4.025 g: electrochemical equivalents, CRC Handbook, from memory.
        for symbol, electrons, grams in (("Cu", 2, 1.186), ("Zn", 2, 1.220), ("Ag", 1, 4.025)):
            with self.subTest(symbol):
                self.assertAlmostEqual(metal_dissolved_g(symbol, electrons, 3600.0), grams, delta=0.001)
