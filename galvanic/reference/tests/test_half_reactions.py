"""Table potentials against formation energies: the values were written from memory and must agree with an outside table.

Outside: ΔfG°(aq) of the CRC Handbook, 97th ed., as shipped in `thermo` (`CRC_aqueous_thermodynamics`), ΔfH° and S° of
solids as shipped in `chemicals`, and certified/standard-potential-crosscheck.csv (four compilations).
"""

import csv
import unittest
from pathlib import Path

from galvanic.constants import FARADAY_C_PER_MOL
from galvanic.reference.catalogue import half_reactions

CROSSCHECK = Path(__file__).parents[2] / "tests" / "certified" / "standard-potential-crosscheck.csv"

# couple: (formula in thermo, charge, allowed difference in V). The differences are those between respectable tables.
IONS = {
    "Li+/Li": ("Li+", 1, 0.006), "K+/K": ("K+", 1, 0.006), "Ca2+/Ca": ("Ca+2", 2, 0.006), "Na+/Na": ("Na+", 1, 0.006),
    "Mn2+/Mn": ("Mn+2", 2, 0.006), "Zn2+/Zn": ("Zn+2", 2, 0.006), "Cd2+/Cd": ("Cd+2", 2, 0.006),
    "Co2+/Co": ("Co+2", 2, 0.006), "Sn2+/Sn": ("Sn+2", 2, 0.006), "Pb2+/Pb": ("Pb+2", 2, 0.006),
    "Cu2+/Cu": ("Cu+2", 2, 0.006), "Cu+/Cu": ("Cu+", 1, 0.006), "Ag+/Ag": ("Ag+", 1, 0.006), "Hg2+/Hg": ("Hg+2", 2, 0.006),
    "Mg2+/Mg": ("Mg+2", 2, 0.025), "Al3+/Al": ("Al+3", 3, 0.025), "Ni2+/Ni": ("Ni+2", 2, 0.025),
    "Fe2+/Fe": ("Fe+2", 2, 0.050), "Pd2+/Pd": ("Pd+2", 2, 0.050),
}  # fmt: skip


class StandardPotentialsAgainstFormationEnergies(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        from thermo.electrochem import CRC_aqueous_thermodynamics as table

        cls.gf = {row["Formula"]: float(row["Gf(aq)"]) for _, row in table.iterrows()}
        cls.s = {row["Formula"]: float(row["S(aq)"]) for _, row in table.iterrows()}

    def test_metals_agree_with_crc_formation_energies_of_their_ions(self):
        for couple, (ion, charge, allowed) in IONS.items():
            with self.subTest(couple):
                # M^z+ + z/2 H2 -> M + z H+ : E° = ΔfG°(M^z+) / zF, with H+ and the elements at zero.
                expected = self.gf[ion] / (charge * FARADAY_C_PER_MOL)
                self.assertAlmostEqual(half_reactions()[couple].e_v.value, expected, delta=allowed)

    def test_reactions_of_water_agree_with_crc_formation_energies(self):
        water = -237129.0  # ΔfG° of liquid water, J/mol, CRC Handbook (from memory)
        oh, f = self.gf["OH-"], FARADAY_C_PER_MOL
        for couple, expected in {
            "O2/H2O": -2 * water / (4 * f),
            "O2/OH-": -(4 * oh - 2 * water) / (4 * f),
            "H2O/H2 OH-": -(2 * oh - 2 * water) / (2 * f),
            "Fe3+/Fe2+": -(self.gf["Fe+2"] - self.gf["Fe+3"]) / f,
            "Hg2 2+/Hg": self.gf["Hg2+2"] / (2 * f),
        }.items():
            with self.subTest(couple):
                self.assertAlmostEqual(half_reactions()[couple].e_v.value, expected, delta=0.006)

    def test_solids_agree_with_enthalpies_and_entropies(self):
        from chemicals import Hfs, S0s

        def g(cas, elements):  # ΔfG° = ΔfH° − TΔfS°, elements' entropies from the CRC Handbook
            return Hfs(cas) - 298.15 * (S0s(cas) - elements)

        o2, h2, cl2 = 205.2, 130.7, 223.1
        oh, water, chloride, sulfate, f = self.gf["OH-"], -237129.0, self.gf["Cl-"], self.gf["SO4-2"], FARADAY_C_PER_MOL
        silver, mercury, copper, zinc, lead, magnesium = 42.6, 75.9, 33.2, 41.6, 64.8, 32.7
        cu2o = g("1317-39-1", 2 * copper + o2 / 2)
        pbso4 = g("7446-14-2", lead + 32.1 + 2 * o2)
        for couple, expected in {
            "AgCl/Ag": -(chloride - g("7783-90-6", silver + cl2 / 2)) / f,
            "Hg2Cl2/Hg": -(2 * chloride - g("10112-91-1", 2 * mercury + cl2)) / (2 * f),
            "Ag2O/Ag": -(2 * oh - g("20667-12-3", 2 * silver + o2 / 2) - water) / (2 * f),
            "Cu2O/Cu": -(2 * oh - cu2o - water) / (2 * f),
            "CuO/Cu2O": -(cu2o + 2 * oh - 2 * g("1317-38-0", copper + o2 / 2) - water) / (2 * f),
            "ZnO/Zn": -(2 * oh - g("1314-13-2", zinc + o2 / 2) - water) / (2 * f),
            "Zn(OH)2/Zn": -(2 * oh - g("20427-58-1", zinc + o2 + h2)) / (2 * f),
            "Mg(OH)2/Mg": -(2 * oh - g("1309-42-8", magnesium + o2 + h2)) / (2 * f),
            "PbSO4/Pb": -(sulfate - pbso4) / (2 * f),
            "PbO2/PbSO4": -(pbso4 + 2 * water - g("1309-60-0", lead + o2) - sulfate) / (2 * f),
            "MnO2/Mn2+": -(self.gf["Mn+2"] + 2 * water - g("1313-13-9", 32.0 + o2)) / (2 * f),
        }.items():
            with self.subTest(couple):
                self.assertAlmostEqual(half_reactions()[couple].e_v.value, expected, delta=0.015)

    def test_temperature_coefficients_agree_with_crc_entropies(self):
        entropy = {"Zn": 41.6, "Cu": 33.2, "Ag": 42.6, "Mg": 32.7, "Al": 28.3, "Fe": 27.3}  # J/(mol K), CRC Handbook
        for couple, (ion, charge, _) in IONS.items():
            metal = couple.split("/")[1]
            if metal in entropy and couple != "Cu+/Cu":
                with self.subTest(couple):
                    change = entropy[metal] - self.s[ion] - charge / 2 * 130.7
                    found = half_reactions()[couple].de_dt_v_per_k.value
                    self.assertAlmostEqual(found, change / (charge * FARADAY_C_PER_MOL), delta=2e-6)

    def test_copper_chloride_lies_between_the_published_stability_constants(self):
        # log β2(CuCl2-) between 4.9 and 5.9: Smith & Martell, “Critical Stability Constants”, from memory.
        base = half_reactions()["Cu+/Cu"].e_v.value
        low, high = base - 0.05916 * 5.9, base - 0.05916 * 4.9
        self.assertTrue(low <= half_reactions()["CuCl2-/Cu"].e_v.value <= high)


class StandardPotentialsAgainstCompilations(unittest.TestCase):
    def rows(self):
        lines = [line for line in CROSSCHECK.read_text().splitlines() if not line.startswith("#")]
        return {row.pop("couple"): row for row in csv.DictReader(lines)}

    def test_the_stated_spread_is_that_of_the_compilations(self):
        for couple, row in self.rows().items():
            listed = [float(row[name]) for name in ("crc", "tc", "llnl", "obigt") if row[name]]
            spread = half_reactions()[couple].spread_v if couple in half_reactions() else None
            if spread and half_reactions()[couple].spread_source == "compilations":
                with self.subTest(couple):
                    self.assertEqual(spread, (min(listed), max(listed)))

    def test_every_couple_of_the_cross_check_lies_within_70_mv_of_every_compilation(self):
        left_out = {"Pt2+/Pt"}  # known to differ by 0.15 V
        for couple, row in self.rows().items():
            for name in ("crc", "tc", "llnl", "obigt"):
                if row[name] and couple not in left_out:
                    with self.subTest(couple=couple, compilation=name):
                        self.assertAlmostEqual(half_reactions()[couple].e_v.value, float(row[name]), delta=0.07)
