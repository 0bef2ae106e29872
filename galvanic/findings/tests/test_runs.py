"""Runs as they are told: cut where something was done, fitted, charged, and beside the model."""

import re
import unittest

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.demand import demand
from galvanic.chemistry.polarisation import Geometry
from galvanic.chemistry.transient import Event, simulate
from galvanic.findings.runs import Done, RunPoint, lasted, tell

SALT = PackCell(Cell("zinc", "salt-water", "copper"), Geometry(5e-4, 0.02))
OHM = 470.0
LOAD = demand(OHM)
EVENTS = (Done(120.0, "joined"), Done(720.0, "taken off"))


def recorded(load=LOAD, until=1500.0, every=15.0, seed=1):
    """What a group would type of the simulated cell: volts to two decimals."""
    trace = simulate([SALT], [Event(120.0, "load", load), Event(720.0, "open")], until)
    at = np.arange(5.0, until, every)
    noise = np.random.default_rng(seed).normal(0.0, 0.003, len(at))
    rows = zip(at, trace.at(at)[0], noise, strict=True)
    return tuple(RunPoint(float(t), round(float(v + e), 3)) for t, v, e in rows)


def codes(run):
    """Notes by code."""
    return {note.code: note for note in run.notes}


class Told(unittest.TestCase):
    def test_a_run_is_cut_where_something_was_done_and_each_part_is_told(self):
        run = tell((SALT,), OHM, recorded(), (), EVENTS)
        self.assertEqual(
            [(stretch.name, stretch.joined) for stretch in run.stretches],
            [("open", False), ("joined", True), ("open again", False)],
        )
        notes = codes(run)
        self.assertIn("It falls while it works", notes["under"].title)
        self.assertEqual(notes["back"].title, "It comes back")
        said = re.findall(r"([\d.]+)\u202f(k?)Ω after", notes["inside"].text)
        first, last = (float(text) * (1000.0 if kilo else 1.0) for text, kilo in said)
        self.assertTrue(100.0 < first < last < 10_000.0, notes["inside"].text)

    def test_the_charge_is_the_models_and_the_metal_is_faradays(self):
        run = tell((SALT,), OHM, recorded(), (), EVENTS)
        trace = simulate([SALT], [Event(120.0, "load", LOAD), Event(720.0, "open")], 1500.0)
        on = (trace.t_s > 120.0) & (trace.t_s <= 720.0)
        truth = float(np.trapezoid(trace.current_a[on], trace.t_s[on]))
        self.assertAlmostEqual(run.charge_c.value / truth, 1.0, delta=0.15)
        self.assertAlmostEqual(run.metal_g, run.charge_c.value * 65.38 / (2 * 96485.0), delta=1e-6)

    def test_currents_that_were_measured_count_before_those_from_ohms_law(self):
        amps = [RunPoint(120.0 + t, 1e-3) for t in (0.0, 300.0, 600.0)]
        run = tell((SALT,), OHM, recorded(), tuple(amps), EVENTS)
        self.assertAlmostEqual(run.charge_c.value, 0.6, places=3)

    def test_a_lamps_current_is_not_guessed_from_its_volts_and_a_short_has_none_without_an_ammeter(self):
        self.assertIsNone(tell((SALT,), "led-red", recorded(), (), EVENTS).charge_c)
        self.assertIsNone(tell((SALT,), OHM, recorded(), (), (Done(120.0, "shorted"),)).charge_c)

    def test_cells_of_different_metals_have_no_one_mass(self):
        other = PackCell(Cell("magnesium", "salt-water", "copper"), Geometry(5e-4, 0.02))
        run = tell((SALT, other), OHM, recorded(), (), EVENTS)
        self.assertIsNone(run.metal_g)
        self.assertIsNotNone(run.charge_c)

    def test_the_models_trace_stands_beside_and_is_near_where_the_model_made_it(self):
        points = recorded()
        run = tell((SALT,), OHM, points, (), EVENTS)
        t, v = zip(*run.model, strict=True)
        off = [abs(np.interp(p.t_s, t, v) - p.value) for p in points]
        self.assertLess(float(np.median(off)), 0.02)

    def test_a_cell_that_does_not_come_back_is_said(self):
        spent = [RunPoint(t, 0.9) for t in (0.0, 30.0, 60.0)] + [RunPoint(130.0 + 30 * k, 0.3) for k in range(6)]
        spent += [RunPoint(740.0 + 30 * k, 0.5) for k in range(6)]
        self.assertEqual(codes(tell((SALT,), OHM, tuple(spent), (), EVENTS))["back"].title, "It does not come back")

    def test_times_shorter_than_the_time_between_two_points_are_not_told(self):
        points = [RunPoint(20.0 * k, round(0.07 + 0.15 * 0.5**k, 2)) for k in range(21)]
        (one,) = tell((SALT,), OHM, tuple(points), (), (Done(0.0, "joined"),)).stretches
        self.assertEqual(len(one.fit.parts), 1)

    def test_two_values_that_take_turns_are_fitted_and_one_value_is_not(self):
        turns = tuple(RunPoint(20.0 * k, 0.9 if k < 4 else 0.8) for k in range(12))
        still = tuple(RunPoint(20.0 * k, 0.9) for k in range(12))
        fits = [tell((SALT,), OHM, points, (), (Done(0.0, "joined"),)).stretches[0].fit for points in (turns, still)]
        self.assertIsNotNone(fits[0])
        self.assertIsNone(fits[1])

    def test_nothing_recorded_is_nothing_told(self):
        run = tell((), None, (), (), ())
        self.assertEqual((run.stretches, run.notes, run.charge_c, run.model), ((), (), None, ()))

    def test_a_run_of_days_is_told_without_the_model(self):
        points = [RunPoint(86_400.0 * k, 0.9 - 0.05 * k) for k in range(6)]
        run = tell((SALT,), OHM, tuple(points), (), (Done(0.0, "joined"),))
        self.assertEqual(run.model, ())
        self.assertGreater(run.charge_c.value, 100.0)


class Lasting(unittest.TestCase):
    def test_how_long_it_ran_lies_between_the_last_time_lit_and_the_first_time_dark(self):
        note = lasted([(0.0, True), (10_800.0, True), (64_800.0, False)])
        self.assertEqual(note.title, "How long it ran")
        self.assertRegex(note.text, r"for 3.* at least and 18.* at most")

    def test_one_look_tells_nothing_and_a_dark_one_before_is_not_the_end(self):
        self.assertIsNone(lasted([(0.0, True)]))
        self.assertIsNone(lasted([(0.0, False), (60.0, False)]))
        self.assertEqual(lasted([(0.0, False), (60.0, True), (3600.0, True)]).title, "Still going")
