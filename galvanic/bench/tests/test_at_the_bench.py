"""Load measurements, what a meter answers, the simulated meter's cell, and the sheet of symptoms."""

from __future__ import annotations

import ast
import unittest
from dataclasses import replace
from pathlib import Path

import numpy as np

from galvanic.bench import checks, pack_faults, pack_sums
from galvanic.bench.faults import faults, symptoms, tries_for, tries_of
from galvanic.bench.loading import by_load, by_short, in_words
from galvanic.bench.readings import as_shown, parse, parse_current
from galvanic.bench.scpi import volts_of
from galvanic.bench.settling import settling
from galvanic.cells import Cell
from galvanic.errors import OutOfRange, UnreadableReading
from galvanic.simulated.faults import SHOWN
from galvanic.simulated.stream import CellStream


class LoadTests(unittest.TestCase):
    """Inner resistance from a short circuit or a known resistor."""

    def test_a_source_with_a_resistor_inside_gives_it_back_both_ways(self) -> None:
        emf, inside = 0.94, 620.0
        short = by_short(emf, 0.001, emf / inside, 1e-6)
        loaded = by_load(emf, 0.001, emf * 1000.0 / 1620.0, 0.001, 1000.0)
        self.assertAlmostEqual(short.ohm, inside, places=6)
        self.assertAlmostEqual(loaded.ohm, inside, places=6)
        self.assertLess(short.u_ohm, 5.0)
        self.assertEqual(in_words(loaded), "About 620\u202fΩ inside, under this resistor.")
        for ohm, said in ((0.416, "0.42"), (4.16, "4.2"), (41.6, "42"), (4160.0, "4200")):
            self.assertIn(f"About {said}\u202fΩ", in_words(replace(loaded, ohm=ohm)))

    def test_the_uncertainty_covers_what_rounding_does(self) -> None:
        rng = np.random.default_rng(3)
        found = [
            by_load(0.94 + rng.normal(0, 0.002), 0.002, 0.58 + rng.normal(0, 0.002), 0.002, 1000.0) for _ in range(4000)
        ]
        spread = float(np.std([one.ohm for one in found]))
        self.assertAlmostEqual(found[0].u_ohm / spread, 1.0, delta=0.08)

    def test_what_no_cell_does_is_refused(self) -> None:
        for open_v, load_v in ((0.94, 0.95), (0.94, -0.2), (0.94, 0.0), (0.0, 0.1)):
            with self.assertRaises(OutOfRange):
                by_load(open_v, 0.001, load_v, 0.001, 1000.0)
        with self.assertRaises(OutOfRange):
            by_short(0.94, 0.001, 0.0, 1e-6)

    def test_currents_are_read_in_their_units(self) -> None:
        self.assertAlmostEqual(parse_current("1,52").current_a, 1.52e-3)
        self.assertAlmostEqual(parse_current("152 \u00b5A").current_a, 152e-6)
        self.assertAlmostEqual(parse_current("152 \u03bcA", "A").current_a, 152e-6)
        self.assertAlmostEqual(parse_current("0.0015", "A").resolution_a, 1e-4)
        for text in ("1.5 V", "two", "", "1e3"):
            with self.assertRaises(UnreadableReading):
                parse_current(text)

    def test_a_number_off_the_ohm_range_is_refused_with_the_reason(self) -> None:
        for text in ("620 \u2126", "620 \u03a9", "0.6 kohm", "12 Ohm"):
            with self.assertRaisesRegex(UnreadableReading, "Never use the ohm range"):
                parse(text)


class MeterTests(unittest.TestCase):
    """What a meter on the network answers."""

    def test_answers_as_the_standard_writes_them(self) -> None:
        # SCPI-1999 section 7.2: NR1, NR2 and NR3 numbers are all allowed.
        for answer, volts in (("+9.41230000E-01\n", 0.94123), ("0.94", 0.94), ("-460E-3", -0.46), (" 1 ", 1.0)):
            self.assertAlmostEqual(volts_of(answer), volts)

    def test_overload_and_nonsense_are_said_in_words(self) -> None:
        for answer in ("9.9E37", "-9.9E+37", "", "READY", "0.94 V?", "nan", "inf", "1e999", "0x10", "5000"):
            with self.assertRaises(UnreadableReading):
                volts_of(answer)

    def test_digits_follow_the_resolution_and_zero_has_no_minus(self) -> None:
        self.assertEqual([as_shown(0.94123, 0.001), as_shown(-0.46, 0.001), as_shown(-0.0002, 0.001), as_shown(0.94123, 0.01)], ["0.941", "-0.460", "0.000", "0.94"])  # fmt: skip


class StreamTests(unittest.TestCase):
    """The simulated meter's cell."""

    def test_it_settles_to_its_end_and_the_wait_is_foreseen(self) -> None:
        stream, rng = CellStream(end_v=0.94), np.random.default_rng(1)
        times = [0.5 * k for k in range(120)]
        volts = [stream.at(t, rng) for t in times]
        self.assertLess(volts[0], 0.6)
        self.assertTrue(settling(times, volts).steady)
        early = settling(times[:24], volts[:24])
        self.assertFalse(early.steady)
        assert early.wait_s is not None
        self.assertGreater(early.wait_s, 5.0)

    def test_faults_do_what_they_are_called(self) -> None:
        def end(fault: str) -> float:
            rng = np.random.default_rng(2)
            return float(np.mean([CellStream(0.94, fault).at(120.0 + k, rng) for k in range(50)]))

        self.assertLess(abs(end("bridged")), 0.05)
        self.assertLess(end("reversed"), -0.9)
        self.assertLess(end("loose"), 0.85)
        self.assertAlmostEqual(end("none"), 0.94, delta=0.01)
        self.assertGreater(end("drift"), 1.0)

    def test_another_cell_hangs_on_the_same_meter(self) -> None:
        stream = CellStream(0.0, offset_v=0.06).of(Cell("zinc", "lemon-juice", "copper"))
        self.assertTrue(0.7 < stream.end_v < 1.2)
        self.assertEqual(stream.offset_v, 0.06)


class OneListOfFaults(unittest.TestCase):
    """The sheet behind “Something is off”, the checks and the simulator speak of the same faults."""

    def codes_in(self, module, name):
        tree = ast.parse(Path(module.__file__).read_text(encoding="utf-8"))
        calls = [node for node in ast.walk(tree) if isinstance(node, ast.Call) and getattr(node.func, "id", "") == name]
        return {node.args[0].value for node in calls if node.args and isinstance(node.args[0], ast.Constant)}

    def test_every_finding_of_the_checks_has_a_fault_that_it_is_made_for(self):
        codes = self.codes_in(checks, "Finding")
        self.assertGreaterEqual(len(codes), 8)
        made_for = {fault.codes[0] for fault in faults().values() if fault.of != "pack" and fault.codes}
        self.assertEqual(made_for - {"ohm_range"}, codes)
        self.assertTrue(all(tries_for(code) for code in codes))

    def test_of_packs_only_what_the_checks_of_packs_find(self):
        found = {code for fault in faults().values() if fault.of == "pack" for code in fault.codes}
        said = self.codes_in(pack_faults, "PackFinding") | self.codes_in(pack_sums, "PackFinding")
        self.assertLessEqual(found, said)
        self.assertGreaterEqual(len(found), 6)

    def test_what_is_simulated_is_on_the_list_and_there_are_enough_to_practise(self):
        self.assertLessEqual(set(SHOWN), set(faults()))
        self.assertGreaterEqual(len(faults()), 14)

    def test_each_symptom_says_what_to_try_and_each_fault_how_it_is_mended_and_why(self):
        for symptom in symptoms().values():
            self.assertTrue(symptom.seen and symptom.means.endswith("."))
            self.assertGreaterEqual(len(tries_of(symptom.key)), 2, symptom.key)
        for fault in faults().values():
            for sentence in (*fault.tries, fault.mend, fault.why):
                self.assertRegex(sentence, r"^[A-Z].*[.?]$", fault.key)
