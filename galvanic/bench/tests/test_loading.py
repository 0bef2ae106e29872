"""A cell under a load: from where on a number is odd, and how uncertain a resistance inside is."""

import math
import unittest

from galvanic.bench.loading import LEAST_OHM, MOST_CELL_A, MOST_OHM, by_load, by_short, in_words, remark
from galvanic.errors import OutOfRange


class Limits(unittest.TestCase):
    def test_a_short_circuit_is_odd_above_an_ampere_either_way(self):
        self.assertEqual((remark("short", MOST_CELL_A, None), remark("short", -MOST_CELL_A, None)), ("", ""))
        for amperes in (1.001 * MOST_CELL_A, -1.001 * MOST_CELL_A):
            self.assertIn("Was it milliamperes?", remark("short", amperes, None))

    def test_as_many_volts_as_without_a_load_are_not_odd_and_more_are(self):
        self.assertEqual((remark("load", 0.95, 0.95), remark("load", -0.95, -0.95)), ("", ""))
        for volts, open_v in ((0.951, 0.95), (-0.951, -0.95)):
            self.assertIn("0.951\u202fV across the resistor is more than the 0.95\u202fV", remark("load", volts, open_v))

    def test_nothing_is_said_where_there_is_nothing_to_compare_with(self):
        self.assertEqual((remark("load", 0.5, None), remark("load", 0.5, 0.0), remark("load", 0.0, 0.95)), ("", "", ""))

    def test_the_least_and_the_largest_resistor_count_and_others_do_not(self):
        for ohm in (LEAST_OHM, MOST_OHM):
            self.assertAlmostEqual(by_load(1.0, 0.001, 0.5, 0.001, ohm).ohm / ohm, 1.0)
        for ohm, limit in ((0.99 * LEAST_OHM, LEAST_OHM), (1.01 * MOST_OHM, MOST_OHM), (math.nan, MOST_OHM)):
            with self.assertRaises(OutOfRange) as refused:
                by_load(1.0, 0.001, 0.5, 0.001, ohm)
            self.assertEqual((refused.exception.field, refused.exception.limit), ("load_ohm", limit))


class Uncertain(unittest.TestCase):
    """Propagated by JCGM 100:2008 (GUM), equation 10: relative parts of a quotient add in squares."""

    def test_by_a_short_circuit(self):
        found = by_short(-0.9, 0.009, 0.003, 0.00006)  # 1 % and 2 %
        self.assertAlmostEqual(found.ohm, 300.0)
        self.assertAlmostEqual(found.u_ohm, 300.0 * math.hypot(0.01, 0.02))

    def test_by_a_resistor(self):
        found = by_load(0.9, 0.009, 0.6, 0.012, 1000.0)  # R(U₀/U − 1): 500 Ω; U₀/U is 1.5, to 1 % and 2 %
        self.assertAlmostEqual(found.ohm, 500.0)
        self.assertAlmostEqual(found.u_ohm, 1500.0 * math.hypot(0.01, 0.02))

    def test_both_signs_turned_change_nothing(self):
        one, other = by_load(0.9, 0.009, 0.6, 0.012, 1000.0), by_load(-0.9, 0.009, -0.6, 0.012, 1000.0)
        self.assertAlmostEqual(one.ohm, other.ohm)
        self.assertAlmostEqual(one.u_ohm, other.u_ohm)

    def test_without_a_voltage_there_is_no_resistance(self):
        for open_v, short_a in ((0.0, 0.003), (math.nan, 0.003), (0.9, math.nan)):
            with self.assertRaises(OutOfRange):
                by_short(open_v, 0.01, short_a, 1e-5)

    def test_two_digits_are_said_and_by_which_way_it_was_found(self):
        self.assertEqual(
            in_words(by_short(0.9, 0.01, 0.0027, 1e-5)), "About 330\u202fΩ inside, from the short-circuit current."
        )
        self.assertEqual(
            in_words(by_load(0.9, 0.01, 0.899999, 0.01, 1000.0)), "About 0.0011\u202fΩ inside, under this resistor."
        )
