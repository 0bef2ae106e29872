"""Where two solutions meet: Henderson's equation against its closed forms and measured junctions."""

import math
import unittest

from galvanic.cells import Cell
from galvanic.chemistry.junction import henderson, junction, through
from galvanic.chemistry.polarisation import LoadedCell
from galvanic.chemistry.shorted import short_circuit
from galvanic.reference.additions import ions
from galvanic.reference.bridges import bridges

THERMAL_V = 0.025693


def hydrochloric(c):
    return {"H+": c, "Cl-": c}


def salt(ion, c):
    return {ion: c, "Cl-": c}


class Henderson(unittest.TestCase):
    def test_equal_strength_and_a_common_ion_give_the_closed_form(self):
        """RT/F · ln(Λ₁/Λ₂) (Lewis and Sargent 1909; Bard and Faulkner 2001, eq. 2.3.40): HCl | KCl 26.9 mV, NaCl | KCl −4.4 mV
        with limiting conductivities 426.1, 149.8 and 126.4 S·cm²/mol; measured 26.8 and −6.4 at 0.1 mol/L (MacInnes, “The
        Principles of Electrochemistry”, from memory)."""
        for first, second, volts, measured in (
            (hydrochloric(0.1), salt("K+", 0.1), THERMAL_V * math.log(426.1 / 149.8), 0.0268),
            (salt("Na+", 0.1), salt("K+", 0.1), THERMAL_V * math.log(126.4 / 149.8), -0.0064),
        ):
            self.assertAlmostEqual(henderson(first, second), volts, delta=1e-4)
            self.assertAlmostEqual(henderson(first, second), measured, delta=0.003)

    def test_one_salt_at_two_strengths_gives_the_transference_form(self):
        """(t₊ − t₋)·RT/F·ln(c₁/c₂) for a 1:1 salt (Bard and Faulkner, eq. 2.3.34): HCl 0.1 | 0.01, t₊ = 0.821: 38 mV."""
        t = 349.8 / 426.1
        self.assertAlmostEqual(
            henderson(hydrochloric(0.1), hydrochloric(0.01)), (2.0 * t - 1.0) * THERMAL_V * math.log(10.0), delta=1e-4
        )
        # potassium chloride's ions are nearly equally fast: that is why bridges are filled with it
        self.assertLess(abs(henderson(salt("K+", 1.0), salt("K+", 0.1))), 0.002)

    def test_turned_round_the_sign_turns_and_alike_there_is_none(self):
        one, other = {"Zn++": 1.0, "SO4--": 1.0}, {"Cu++": 0.1, "SO4--": 0.1}
        self.assertAlmostEqual(henderson(one, other), -henderson(other, one), places=12)
        self.assertAlmostEqual(henderson(one, one), 0.0, places=12)

    def test_where_both_conduct_alike_the_limit_is_met_from_both_sides(self):
        lam = {key: ion.s_cm2_per_mol.value for key, ion in ions().items()}
        one = {"Na+": 1.0, "Cl-": 1.0}
        alike = (lam["Na+"] + lam["Cl-"]) / (lam["K+"] + lam["NO3-"])
        middle = henderson(one, {"K+": alike, "NO3-": alike})
        for by in (1.0 - 1e-6, 1.0 + 1e-6):
            self.assertAlmostEqual(henderson(one, {"K+": alike * by, "NO3-": alike * by}), middle, delta=1e-6)

    def test_a_filled_bridge_leaves_less_than_the_solutions_would(self):
        acid, weak = hydrochloric(0.1), salt("K+", 0.1)
        self.assertLess(abs(through(acid, weak, bridges()["paper"]).volts_v), abs(henderson(acid, weak)) / 2.0)
        self.assertEqual(through(acid, weak, bridges()["pot"]).volts_v, henderson(acid, weak))


class InCells(unittest.TestCase):
    def test_one_liquid_has_none_and_a_daniell_cell_a_few_millivolts(self):
        self.assertEqual(junction(Cell("zinc", "lemon-juice", "copper")).volts_v, 0.0)
        found = junction(Cell("zinc", "daniell-bridge", "copper"))
        self.assertTrue(0.0 < abs(found.volts_v) < 0.005)

    def test_the_bridge_holds_the_current_back(self):
        pot, paper = (LoadedCell.of(Cell("zinc", key, "copper")) for key in ("daniell-pot", "daniell-bridge"))
        self.assertGreater(paper.solution_ohm, bridges()["paper"].ohm.low)
        self.assertGreater(short_circuit(pot).first_a, 5.0 * short_circuit(paper).first_a)
        self.assertAlmostEqual(short_circuit(paper).first_a * paper.solution_ohm, 1.0, delta=0.15)  # nearly all of 1.07 V
        open_v = paper.rest()[1] - paper.rest()[0]
        self.assertAlmostEqual(float(paper.volts(0.0)[0]), open_v, places=6)
        self.assertAlmostEqual(paper.at_load(1e9).volts_v, open_v, delta=1e-4)
