"""Two solutions near equilibrium, against worked examples of general chemistry texts."""

import math
import unittest

from galvanic.chemistry.two_solutions import NotTwoSolutions, two_solutions
from galvanic.errors import GalvanicError, OutOfRange

DANIELL = "zinc | zinc sulfate {} mol/L || copper sulfate {} mol/L | copper"


class Worked(unittest.TestCase):
    def test_daniell_and_its_neighbours(self):
        """Daniell 1.10 V; copper and silver 0.46 V; zinc and silver 1.56 V, all at 1 mol/L: standard potentials, any text."""
        for text, volts, within in (
            (DANIELL.format(1.0, 1.0), 1.10, 0.01),
            ("copper | copper nitrate 1 M || silver nitrate 1 M | silver", 0.458, 0.002),
            ("zinc | zinc nitrate 1 M || silver nitrate 1 M | silver", 1.561, 0.002),
        ):
            with self.subTest(text):
                self.assertAlmostEqual(two_solutions(text).nernst_v, volts, delta=within)
        self.assertAlmostEqual(two_solutions(DANIELL.format(1.0, 1.0)).volts_v, 1.10, delta=0.01)

    def test_concentration_cells_to_two_millivolts(self):
        """0.05916 V/z times the decades, for example Cu | 0.010 M || 1.0 M | Cu: 0.0592 V; Ag | 0.0010 M || 0.10 M | Ag: 0.118 V;
        Ni | 0.0010 M || 0.10 M | Ni: 0.0592 V (Nernst's equation, any text)."""
        for text, volts in (
            ("copper | copper sulfate 0.010 M || copper sulfate 1.0 M | copper", 0.0592),
            ("silver | silver nitrate 0.0010 M || silver nitrate 0.10 M | silver", 0.1183),
            ("nickel | nickel nitrate 1 mmol/L || nickel nitrate 0.10 mol/L | nickel", 0.0592),
        ):
            with self.subTest(text):
                self.assertAlmostEqual(two_solutions(text).nernst_v, volts, delta=0.002)

    def test_diluting_copper_lowers_a_daniell_cell_by_thirty_millivolts_a_decade(self):
        first, second = (two_solutions(DANIELL.format(1.0, c)).nernst_v for c in (1.0, 0.1))
        self.assertAlmostEqual(first - second, 0.05916 / 2.0, delta=1e-4)

    def test_only_what_is_stronger_than_davies_holds_for_is_less_sure(self):
        """Davies' equation is good to about 0.1 mol/L (any text of physical chemistry, from memory)."""
        text = "silver | silver nitrate {} M || silver nitrate 0.01 M | silver"
        at, beyond = (two_solutions(text.format(c)) for c in (0.1, 0.11))
        self.assertLess(at.u_v, 0.006)
        self.assertGreater(beyond.u_v, 1.2 * at.u_v)

    def test_activities_make_a_concentration_cell_smaller(self):
        """γ± of copper sulfate: 0.41 at 0.01, 0.043 at 1 mol/kg (Robinson and Stokes): 30 mV of the 59 are left."""
        found = two_solutions("copper | copper sulfate 0.010 M || copper sulfate 1.0 M | copper")
        self.assertAlmostEqual(found.volts_v, 0.012846 * math.log(0.043 / 0.0041), delta=0.003)

    def test_warmth_follows_the_couples_own_slopes(self):
        """Daniell: dE/dT about -0.1 mV/K (handbook coefficients of both couples); the concentration term grows as T."""
        cold, warm = (two_solutions(DANIELL.format(1.0, 1.0), c).nernst_v for c in (25.0, 45.0))
        self.assertAlmostEqual((warm - cold) / 20.0, -1e-4, delta=1.5e-4)
        apart = [
            two_solutions("copper | copper sulfate 0.01 M || copper sulfate 1 M | copper", c).nernst_v for c in (25.0, 45.0)
        ]
        self.assertAlmostEqual(apart[1] / apart[0], 318.15 / 298.15, places=6)
        with self.assertRaises(OutOfRange):
            two_solutions(DANIELL.format(1.0, 1.0), 90.0).nernst_v  # noqa: B018

    def test_magnesium_and_aluminium_are_known_to_within_half_a_volt_only(self):
        found = two_solutions("aluminium | aluminium sulfate 0.1 M || copper sulfate 1 M | copper")
        self.assertEqual(found.far, ["aluminium"])
        self.assertGreater(found.u_v, 0.4)
        self.assertEqual(two_solutions(DANIELL.format(1.0, 1.0)).far, [])

    def test_turned_round_the_sign_turns(self):
        there = two_solutions(DANIELL.format(0.5, 0.2))
        back = two_solutions("copper | copper sulfate 0.2 mol/L || zinc sulfate 0.5 mol/L | zinc")
        self.assertAlmostEqual(there.volts_v, -back.volts_v, places=12)


class Refused(unittest.TestCase):
    def test_each_with_its_reason(self):
        for text, said in (
            ("zinc | copper sulfate 1 M || copper sulfate 1 M | copper", "displacement"),
            ("copper | zinc sulfate 1 M || copper sulfate 1 M | copper", "none of its own ions"),
            ("graphite | zinc sulfate 1 M || copper sulfate 1 M | copper", "no ions of its own"),
            ("silver | silver chloride 1 M || copper sulfate 1 M | copper", "hardly dissolves"),
            ("lead | lead nitrate 0.1 M || copper sulfate 1 M | copper", "lead sulfate falls out"),
            ("silver | silver nitrate 0.1 M || copper chloride 1 M | copper", "nitrate"),
            ("zinc | zinc sulfate 1 M | copper sulfate 1 M | copper", "double bar"),
            ("zinc | zinc phosphate 1 M || copper sulfate 1 M | copper", "no salt that is known"),
            ("zinc | zinc sulfate || copper sulfate 1 M | copper", "name the salt and its strength"),
        ):
            with self.subTest(text), self.assertRaisesRegex(NotTwoSolutions, said):
                two_solutions(text)
        for strength in ("0", "9"):
            with self.assertRaises(OutOfRange):
                two_solutions(DANIELL.format(strength, 1.0))
        with self.assertRaises(GalvanicError):
            two_solutions("kryptonite | kryptonite sulfate 1 M || copper sulfate 1 M | copper")
