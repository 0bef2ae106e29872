"""Checks: what each fault's number says, on simulated classes with stated rates, and that nothing sound is troubled."""

import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from galvanic.bench.checks import Expectation, check
from galvanic.bench.class_reference import GroupCell, Reference, believe
from galvanic.bench.faults import faults
from galvanic.bench.repairs import repair
from galvanic.cells import Cell
from galvanic.planning.design import Task, design
from galvanic.simulated.check_score import score
from galvanic.simulated.faults import SHOWN
from galvanic.simulated.rehearsal import Spread, simulated_class

JUICE = "rhubarb-juice"
ZN_CU = Cell("zinc", JUICE, "copper")
USUAL = Expectation(0.95, 0.05, 6, 1.4)
PLATES = ("magnesium", "aluminium", "zinc", "steel", "nickel", "tin", "copper", "graphite")


def codes(v, earlier=(), expected=USUAL, resolution=0.01):
    return [one.code for one in check(ZN_CU, v, resolution, earlier, expected)]


class OneReading(unittest.TestCase):
    def test_a_sound_reading_is_not_remarked_on(self):
        for v in (0.95, 0.90, 1.02, 0.85):
            self.assertEqual(codes(v, (0.94, 0.95)[:1] if v == 0.95 else ()), [])

    def test_each_wrong_number_gets_its_own_explanation(self):
        for v, code in [
            (-0.94, "reversed"), (0.02, "near_zero"), (-0.01, "near_zero"), (940.0, "millivolts"), (-940.0, "millivolts"),
            (9.4, "digit"), (0.094, "digit"), (2.6, "too_high"), (0.45, "far"), (-2.6, "too_high"),
        ]:  # fmt: skip
            with self.subTest(v=v):
                self.assertIn(code, codes(v))

    def test_a_climb_and_a_jump_are_seen_in_the_readings_before(self):
        self.assertEqual(codes(0.94, (0.87, 0.91)), ["drifting"])
        self.assertEqual(codes(0.86, (0.93, 0.90)), ["drifting"])
        self.assertEqual(codes(0.85, (1.02,)), ["jump"])
        self.assertEqual(codes(0.95, (0.94, 0.96)), [])

    def test_the_same_size_with_the_other_sign_is_a_changed_sign_and_no_jump(self):
        wide = Expectation(0.0, 0.2, 0, 1.4)  # two plates that lie close: either sign can be
        found = check(ZN_CU, 0.10, 0.01, (-0.12,), wide)
        self.assertEqual([(one.code, one.sure) for one in found], [("reversed", "possible")])
        self.assertIn("the size is as before, the sign is not", found[0].text)
        self.assertEqual(codes(0.25, (-0.12,), wide), ["jump"])
        self.assertEqual(codes(0.02, (-0.02,), wide), [], "within the scatter of dips a sign says nothing")

    def test_a_step_up_to_80_mv_is_no_jump_and_a_climb_within_the_scatter_of_dips_is_no_drift(self):
        # Common practice, no source: 80 mV, and three times the scatter of one dip (12 mV).
        self.assertEqual(codes(0.95, (0.873,), resolution=0.001), [])
        self.assertEqual(codes(0.95, (0.867,), resolution=0.001), ["jump"])
        self.assertEqual(codes(0.95, (0.867,)), [], "a meter that shows 10 mV steps scatters more")
        self.assertEqual(codes(0.95, (0.917, 0.932), resolution=0.001), [])
        self.assertEqual(codes(0.95, (0.910, 0.930), resolution=0.001), ["drifting"])

    def test_a_sound_reading_after_a_wrong_one_is_left_in_peace(self):
        for wrong in (0.01, -0.94, 940.0, 9.4, 2.6):
            self.assertEqual(codes(0.95, (wrong,)), [])
            self.assertEqual(codes(0.95, (wrong, 0.94)), [])

    def test_with_nothing_to_expect_only_the_impossible_is_remarked_on(self):
        self.assertEqual(codes(-0.4, expected=None), [])
        self.assertEqual(codes(5.0, expected=None), ["too_high"])
        self.assertEqual(codes(940.0, expected=None), ["millivolts"])

    def test_a_minus_sign_that_can_be_expected_is_no_fault(self):
        # Aluminium stands above zinc in juice although the table says below: a minus is evidence, not an error.
        expected = Reference(("aluminium", "zinc"), (JUICE,), [], "me").of(Cell("aluminium", JUICE, "zinc"))
        self.assertLess(expected.volts_v, 0.0)
        self.assertEqual(check(Cell("aluminium", JUICE, "zinc"), -0.27, 0.01, (), expected), [])

    def test_every_finding_says_what_to_try_in_whole_sentences_and_orders_nothing(self):
        for v, earlier in [
            (-0.94, ()),
            (0.02, ()),
            (940.0, ()),
            (9.4, ()),
            (2.6, ()),
            (0.45, ()),
            (0.94, (0.87, 0.91)),
            (0.85, (1.02,)),
        ]:
            for finding in check(ZN_CU, v, 0.01, earlier, USUAL):
                self.assertGreaterEqual(len(finding.tries), 2)
                for sentence in (finding.text, *finding.tries):
                    self.assertRegex(sentence, r"^[A-Z0-9\u2212].*[.?]$")
                self.assertIn(finding.sure, ("likely", "possible"))

    @given(st.floats(-1e3, 1e3), st.lists(st.floats(-10, 10), max_size=5), st.sampled_from([0.1, 0.01, 0.001]))
    def test_any_reading_gets_an_answer(self, v, earlier, resolution):
        for expected in (None, USUAL, Expectation(0.0, 0.05, 0, 0.3)):
            self.assertLessEqual(len(check(ZN_CU, v, resolution, earlier, expected)), 4)


class WhatToExpect(unittest.TestCase):
    def test_without_others_it_is_the_account_and_wide(self):
        found = Reference(PLATES, (JUICE,), [], "me").of(ZN_CU)
        self.assertAlmostEqual(found.u_v, math.hypot(0.09, 0.09), places=6)
        self.assertEqual(found.others, 0)

    def test_others_sharpen_it_also_through_other_cells(self):
        others = [GroupCell("a", Cell("zinc", JUICE, "tin"), 0.62), GroupCell("b", Cell("tin", JUICE, "copper"), 0.41)]
        found = Reference(PLATES, (JUICE,), others, "me").of(ZN_CU)
        self.assertAlmostEqual(found.volts_v, 1.03, delta=0.02)
        self.assertLess(found.u_v, 0.06)

    def test_ones_own_values_and_other_liquids_say_nothing(self):
        own = [GroupCell("me", ZN_CU, 0.5), GroupCell("a", Cell("zinc", "kelp-brine", "copper"), 0.2)]
        self.assertEqual(Reference(PLATES, (JUICE,), own, "me").of(ZN_CU).others, 0)

    def test_one_wild_value_does_not_make_the_others_look_wrong(self):
        good = [GroupCell(str(k), ZN_CU, 0.95 + 0.01 * k) for k in range(3)]
        for wild in (9.5, -0.95, 0.02, 940.0):
            found = believe({"zinc": -0.76, "copper": 0.2}, [GroupCell("w", ZN_CU, wild), *good])
            self.assertEqual([one.group for one in found.denied], ["w"])
            self.assertAlmostEqual(float(found.potential_v[1] - found.potential_v[0]), 0.96, delta=0.01)

    def test_it_is_the_posterior_of_a_textbook(self):
        # One plate pair, one value: precision-weighted mean, any text on Bayesian statistics.
        found = believe({"zinc": 0.0, "copper": 1.0}, [GroupCell("a", ZN_CU, 1.1)])
        prior, datum = 1.0 / (2 * 0.09**2), 1.0 / 0.03**2
        mean = (1.0 * prior + 1.1 * datum) / (prior + datum)
        self.assertAlmostEqual(float(found.potential_v[1] - found.potential_v[0]), mean)
        c = found.covariance_v2
        self.assertAlmostEqual(float(c[0, 0] + c[1, 1] - 2 * c[0, 1]), 1.0 / (prior + datum))

    def test_a_plate_that_no_account_knows_is_left_open(self):
        found = believe({"zinc": -0.76, "graphite": None}, [])
        self.assertAlmostEqual(float(found.covariance_v2[1, 1]), 1.0)


class WholeClasses(unittest.TestCase):
    def test_faults_are_caught_and_sound_readings_left_alone(self):
        # bench/checks.py prints the rates over many classes: at least 90 % of each kind, under 3 % of sound readings.
        plan = design(Task(PLATES, (JUICE, "kelp-brine"), 12, 7))
        tried = caught = sound = flagged = 0
        for seed in range(3):
            found = score(simulated_class(plan.hands, seed))
            tried, caught = tried + sum(found.tried.values()), caught + sum(found.caught.values())
            sound, flagged = sound + found.sound, flagged + found.flagged
        self.assertGreater(tried, 15)
        self.assertGreaterEqual(caught / tried, 0.9)
        self.assertLess(flagged / sound, 0.03)

    def test_without_faults_hardly_anything_is_said(self):
        plan = design(Task(PLATES, (JUICE,), 8, 6))
        entries = list(simulated_class(plan.hands, 5, Spread(faulty=0.0)))
        found = score(entries)
        self.assertEqual((sum(found.tried.values()), found.sound), (0, len(entries)))
        self.assertLess(found.flagged / found.sound, 0.03)

    def test_the_same_seed_gives_the_same_class_and_every_fault_has_a_name(self):
        hands = design(Task(PLATES, (JUICE,), 4, 5)).hands
        self.assertEqual(list(simulated_class(hands, 3)), list(simulated_class(hands, 3)))
        self.assertNotEqual(list(simulated_class(hands, 3)), list(simulated_class(hands, 4)))
        for fault in SHOWN:
            self.assertTrue(faults()[fault].codes)


class Repairs(unittest.TestCase):
    """A remark carries what would put it right, and a hint that leaves the thinking to the group."""

    def said(self, v, resolution=0.01):
        expected = Expectation(0.95, 0.05, 3, 1.4)
        return check(Cell.of("zinc", "lemon-juice", "copper"), v, resolution, [], expected)

    def test_each_remark_names_the_correction_that_would_make_it_fit(self):
        for v, kinds in (
            (970.0, ("millivolts",)),
            (95.0, ("hundredth", "millivolts")),
            (-0.95, ("leads",)),
            (9.5, ("tenth",)),
        ):
            self.assertEqual(self.said(v)[0].repairs, kinds, v)
        self.assertEqual(self.said(0.4)[0].repairs, ())

    def test_a_repair_keeps_the_digits_that_were_typed(self):
        for kind, text, unit, gives in (
            ("hundredth", "95", "V", ("0.95", "V", False)),
            ("tenth", "9,50", "V", ("0.950", "V", False)),
            ("tenfold", "0.095", "V", ("0.95", "V", False)),
            ("millivolts", "970", "V", ("970", "mV", False)),
            ("leads", "\u22120.95", "V", ("-0.95", "V", True)),
        ):
            found = repair(kind, text, unit)
            self.assertEqual((found.text, found.unit, found.turned), gives)
            self.assertTrue(found.label and found.reason)
        self.assertEqual(repair("hundredth", " 95 V", "V").text, "0.95")
        self.assertEqual(repair("tenth", "9500", "mV").text, "950.0")
        self.assertIsNone(repair("tenth", "about one", "V"))
        self.assertIsNone(repair("millivolts", "20000", "mV"), "they are millivolts already")

    def test_a_hint_tells_neither_the_number_nor_the_plate(self):
        for v in (0.4, 0.02, -0.95, 1.9):
            (first, *_) = self.said(v)
            self.assertTrue(first.hint)
            self.assertNotIn("zinc", first.hint)
            self.assertNotIn("copper", first.hint)
            self.assertNotIn("0.9", first.hint)
