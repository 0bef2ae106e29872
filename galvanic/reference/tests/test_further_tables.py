"""Elements, conductivities and loads, against outside tables."""

import math
import unittest

import phreeqc
from chemicals import MW, CAS_from_any

from galvanic.cells import Cell
from galvanic.chemistry.accounts import predict
from galvanic.errors import BadTable, OutOfRange
from galvanic.reference.catalogue import electrolytes
from galvanic.reference.further_tables import conductivities, conductivity_s_per_m, elements, loads, molar_mass
from galvanic.statistics.effects import liquid_effect


class Elements(unittest.TestCase):
    def test_molar_masses_agree_with_chemicals(self):
        for formula, name in {
            "KCl": "potassium chloride", "NaCl": "sodium chloride", "CuSO4": "copper(II) sulfate", "ZnSO4": "zinc sulfate",
            "C6H8O7": "citric acid", "C2H4O2": "acetic acid", "NaHCO3": "sodium bicarbonate", "H3PO4": "phosphoric acid",
            "Ca(OH)2": "calcium hydroxide", "H2SO4": "sulfuric acid", "KNO3": "potassium nitrate",
        }.items():  # fmt: skip
            with self.subTest(formula):
                self.assertAlmostEqual(molar_mass(formula), MW(CAS_from_any(name)), delta=0.02)

    def test_hydrates_count_their_water(self):
        # CuSO4·5H2O 249.69, ZnSO4·7H2O 287.6 g/mol: any bottle's label, from memory.
        self.assertAlmostEqual(molar_mass("CuSO4.5H2O"), 249.69, delta=0.02)
        self.assertAlmostEqual(molar_mass("ZnSO4·7H2O"), 287.6, delta=0.1)

    def test_what_is_no_formula_is_refused(self):
        for bad in ("", "Xx2", "cu", "Cu(SO4", "Cu SO4"):
            with self.assertRaises(BadTable):
                molar_mass(bad)

    def test_electronegativity_puts_aluminium_below_zinc_as_the_table_does(self):
        rank = {symbol: row.electronegativity.value for symbol, row in elements().items()}
        self.assertLess(rank["Mg"], rank["Al"])
        self.assertLess(rank["Al"], rank["Zn"])


class Conductivities(unittest.TestCase):
    def outside(self, salt, molality):
        run = phreeqc.Phreeqc()
        assert run.LoadBuiltInDatabase("phreeqc.dat") == 0
        run.SetSelectedOutputStringOn(True)
        text = f"SOLUTION 1\n units mol/kgw\n temp 25\n pH 7 charge\n {salt} {molality}\n Cl {molality}\nSELECTED_OUTPUT\nUSER_PUNCH\n -headings SC\n 10 PUNCH SC\nEND\n"
        assert run.RunString(text) == 0, run.GetErrorString()
        assert run.GetWarningString() == "", run.GetWarningString()
        return run.GetSelectedOutput()["SC"][-1] * 1e-4  # µS/cm to S/m

    def test_potassium_and_sodium_chloride_agree_with_phreeqc(self):
        for salt, element, molar in (("KCl", "K", 74.55), ("NaCl", "Na", 58.44)):
            for molality in (0.1, 0.3):
                percent = 100 * molality * molar / (1000 + molality * molar)
                with self.subTest(salt=salt, molality=molality):
                    outside = self.outside(element, molality)
                    self.assertAlmostEqual(conductivity_s_per_m(salt, percent) / outside, 1.0, delta=0.05)

    def test_the_potassium_chloride_standards(self):
        # 0.1 mol/kg 1.28246 S/m and 1 mol/kg 10.862 S/m at 25 °C: IUPAC standards, from memory.
        for molality, standard in ((0.1, 1.28246), (1.0, 10.862)):
            percent = 100 * molality * 74.55 / (1000 + molality * 74.55)
            self.assertAlmostEqual(conductivity_s_per_m("KCl", percent) / standard, 1.0, delta=0.04)

    def test_the_catalogues_ranges_hold_the_measured_values(self):
        for key, solute, percents in [
            ("salt-water", "NaCl", (3.2, 3.9)), ("salt-water-weak", "NaCl", (0.58,)), ("kno3-0.1", "KNO3", (1.0,)),
            ("citric-0.1", "citric acid", (1.9,)), ("acetic-0.1", "acetic acid", (0.6,)), ("baking-soda", "NaHCO3", (4.1,)),
            ("naoh-0.1", "NaOH", (0.4,)),
        ]:  # fmt: skip
            for percent in percents:
                with self.subTest(key=key, percent=percent):
                    low = conductivities()[solute].mass_percent[0]
                    found = conductivity_s_per_m(solute, max(percent, low)) * min(1.0, percent / low)
                    span = electrolytes()[key].conductivity_s_per_m
                    self.assertTrue(0.75 * span.low <= found <= 1.3 * span.high, found)

    def test_outside_the_table_it_refuses(self):
        for call in (("KCl", 50.0), ("honey", 1.0), ("KCl", 1.0, 90.0)):
            with self.assertRaises(OutOfRange):
                conductivity_s_per_m(*call)


class Loads(unittest.TestCase):
    def test_a_blue_lamp_needs_more_volts_than_a_red_one(self):
        self.assertGreater(loads()["led-blue"].voltage_v.low, loads()["led-red"].voltage_v.high)
        for row in loads().values():
            self.assertGreater(row.current_a.low, 0.0)


class LiquidEffects(unittest.TestCase):
    def test_the_model_moves_by_less_than_59_mv_a_unit_of_ph(self):
        liquids = ["lemon-juice", "orange-juice", "tomato-juice", "kno3-0.1", "baking-soda"]
        volts = {q: predict([Cell("zinc", q, "copper")], draws=0)[0]["rest"].volts_v for q in liquids}
        found = liquid_effect(volts)
        self.assertLess(abs(found.per_ph.slope), 0.0592)
        self.assertTrue(found.per_ph.low < found.per_ph.slope < found.per_ph.high)

    def test_a_true_slope_is_found(self):
        ph = {
            q: 0.5 * (electrolytes()[q].ph.low + electrolytes()[q].ph.high)
            for q in ("lemon-juice", "apple-juice", "potato", "milk")
        }
        found = liquid_effect({q: 1.0 - 0.03 * value for q, value in ph.items()})
        self.assertAlmostEqual(found.per_ph.slope, -0.03)
        self.assertTrue(math.isfinite(found.per_decade.slope))

    def test_two_liquids_give_no_slope_and_two_solution_cells_do_not_count(self):
        self.assertIsNone(liquid_effect({"lemon-juice": 0.9, "milk": 0.9}).per_ph)
        self.assertEqual(liquid_effect({"daniell-pot": 1.1}).n, 0)
