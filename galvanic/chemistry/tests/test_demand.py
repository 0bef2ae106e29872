"""What loads take: Shockley's equation by its closed form and by iteration, devices, names."""

import math
import unittest
from dataclasses import replace

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import brentq
from scipy.special import lambertw

from galvanic.chemistry.demand import demand, load_of, shockley
from galvanic.errors import OutOfRange, UnknownMaterial
from galvanic.reference.further_tables import loads

LEDS = [key for key, row in loads().items() if row.kind == "diode"]


def takes(load, volts_v):
    """Current in A of a load at a voltage."""
    return float(demand(load).takes.current_a(np.array([[volts_v]]))[0, 0])


class Led(unittest.TestCase):
    def test_the_curve_goes_through_both_practice_points(self):
        for key in LEDS:
            row = loads()[key]
            self.assertAlmostEqual(takes(key, row.voltage_v.low) / row.current_a.low, 1.0, places=3)
            self.assertAlmostEqual(takes(key, row.voltage_v.high) / row.current_a.high, 1.0, places=3)

    def test_without_a_resistance_left_it_is_a_straight_logarithm(self):
        """Ten times the current every 0.05 V is less than its ideality asks for: the slope then is what the points give."""
        row = loads()["led-red"]
        near = row.voltage_v.low + 0.05
        steep = replace(row, voltage_v=replace(row.voltage_v, high=near))
        steep = replace(steep, current_a=replace(row.current_a, high=10.0 * row.current_a.low))
        n_vt, i0, ohm = shockley(steep)
        self.assertEqual(ohm, 0.0)
        self.assertAlmostEqual(n_vt, 0.05 / math.log(10.0))
        self.assertAlmostEqual(i0 * math.exp(near / n_vt) / (10.0 * row.current_a.low), 1.0)

    def test_it_is_the_closed_form_by_lambert_w(self):
        """I = (nVt/R)·W((I₀R/nVt)·exp((V + I₀R)/nVt)) − I₀: A. Ortiz-Conde and others, Solid-State Electron. 44 (2000) 1861
        (from memory)."""
        for key in LEDS:
            n_vt, i0, ohm = shockley(loads()[key])
            for volts in (0.3, 1.0, 1.5, 2.0, 2.5):
                inner = i0 * ohm / n_vt * math.exp((volts + i0 * ohm) / n_vt)
                closed = n_vt / ohm * lambertw(inner).real - i0
                self.assertAlmostEqual(takes(key, volts) / closed, 1.0, places=6)

    def test_it_is_the_root_of_shockleys_equation(self):
        n_vt, i0, ohm = shockley(loads()["led-red"])
        for volts in (1.2, 1.7, 2.4):
            root = brentq(lambda i, v=volts: n_vt * math.log1p(i / i0) + i * ohm - v, 0.0, volts / ohm, xtol=1e-15)
            self.assertAlmostEqual(takes("led-red", volts) / root, 1.0, places=6)

    def test_the_wrong_way_round_it_takes_nothing(self):
        for volts in (-3.0, -0.5, 0.0):
            self.assertLess(takes("led-red", volts), 1e-12)

    def test_levels_follow_the_current(self):
        lamp = demand("led-red")
        levels = [lamp.level(1.7, amps) for amps in (1e-6, 3e-5, 3e-4, 3e-3)]
        self.assertEqual(levels, ["dark", "glows in the dark", "glows by day", "bright"])


class Devices(unittest.TestCase):
    @given(st.sampled_from([*loads(), 47.0, 1e4]), st.floats(-2.0, 6.0), st.floats(0.0, 1.0))
    def test_every_load_takes_more_at_more_volts(self, load, volts, more):
        self.assertLessEqual(takes(load, volts), takes(load, volts + more) + 1e-15)

    def test_a_device_refuses_more_volts_than_it_stands(self):
        clock, buzzer = demand("clock"), demand("buzzer")
        self.assertEqual(clock.harms(2.9, 1e-5), "")
        self.assertIn("3.3 V at most", clock.harms(3.6, 1e-5))
        self.assertEqual(buzzer.harms(1.8, 1e-3), "", "it sees the volts that are left")
        self.assertIn("7 V at most", buzzer.harms(8.0, 1e-2))
        self.assertIn("20 mA at most", demand("led-red").harms(2.4, 0.03))

    def test_a_motor_starts_where_it_has_its_volts(self):
        motor = demand("motor")
        for volts, runs in ((0.3, False), (0.45, True)):
            amps = motor.takes.current_a(np.array([[volts]]))
            self.assertEqual(bool(motor.runs(np.array([[volts]]), amps)[0, 0]), runs)
        self.assertAlmostEqual(takes("motor", 0.4), 0.01)


class Names(unittest.TestCase):
    def test_loads_are_found_by_key_by_name_and_as_ohms(self):
        self.assertEqual([load_of(text) for text in ("led-red", "Red LED", "LED red")], ["led-red"] * 3)
        self.assertEqual(
            [load_of(text) for text in ("470", "470 Ω", "4,7k", "0", "1 kohm")], [470.0, 470.0, 4700.0, 0.0, 1000.0]
        )

    def test_what_is_no_load_is_refused(self):
        with self.assertRaisesRegex(UnknownMaterial, "type ohms"):
            load_of("lamp oil")
        for text in ("nan", "inf", "-3"):
            with self.assertRaises(OutOfRange):
                demand(load_of(text))
