"""Cells in time: diffusion against its textbook solutions, steady states against the models of rest and load."""

import math
import unittest

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry import currents
from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.demand import demand
from galvanic.chemistry.layer import Layer
from galvanic.chemistry.polarisation import Geometry, LoadedCell
from galvanic.chemistry.transient import Event, simulate
from galvanic.constants import FARADAY_C_PER_MOL as F
from galvanic.errors import OutOfRange

FIVE = Geometry(5e-4, 0.02)
LEMON = PackCell(Cell("zinc", "lemon-juice", "copper"), FIVE)
SALT = PackCell(Cell("zinc", "salt-water", "copper"), FIVE)
KINDS = (
    LEMON,
    SALT,
    PackCell(Cell("magnesium", "salt-water", "graphite"), FIVE),
    PackCell(Cell("aluminium-foil", "salt-water", "copper"), FIVE),
    PackCell(Cell("zinc", "daniell-pot", "copper"), FIVE),
)
D, THICK = 2e-9, 4e-4


def one_layer():
    """A layer of one kind at one plate."""
    return Layer.fresh(np.full((1, 1), D), np.full((1, 1), THICK))


class Diffusion(unittest.TestCase):
    def test_a_surface_held_empty_is_fed_as_cottrell_says(self):
        """flux = c·√(D/πt) while the layer seems endless (F. G. Cottrell 1903; A. J. Bard, L. R. Faulkner, 5.2.11)."""
        bulk, at_s, step, layer = 0.26, 0.0, 1e-3, one_layer()
        found = {}
        while at_s < 4.0:
            ahead = layer.ahead(step, at_s == 0.0)
            flux = -(bulk + ahead.level) / ahead.per_flux
            layer, at_s, step = ahead.with_flux(flux), at_s + step, min(1.1 * step, 0.1)
            found[at_s] = -float(flux[0, 0])
        for t, flux in found.items():
            if t > 0.3:
                self.assertAlmostEqual(flux / (bulk * math.sqrt(D / (math.pi * t))), 1.0, delta=0.02)

    def test_a_steady_flux_empties_the_surface_at_sands_time(self):
        """τ = πD(c/2j)² while the layer seems endless (H. J. S. Sand 1901; A. J. Bard, L. R. Faulkner, 8.2.14)."""
        bulk, flux = 1.0, 1.8e-5
        sand = math.pi * D * (bulk / (2.0 * flux)) ** 2
        self.assertLess(math.sqrt(D * sand), 0.3 * THICK)
        layer, step, at_s, left = one_layer(), sand / 200.0, 0.0, bulk
        while left > 0.0:
            ahead = layer.ahead(step, at_s == 0.0)
            before, left = left, bulk + float(ahead.level[0, 0]) - float(ahead.per_flux[0, 0]) * flux
            layer, at_s = ahead.with_flux(np.full((1, 1), -flux)), at_s + step
        crossed = at_s - step * left / (left - before) if left < 0.0 else at_s
        self.assertAlmostEqual(crossed / sand, 1.0, delta=0.02)

    def test_at_rest_the_level_falls_straight_through_the_layer(self):
        """Fick's first law: Δc = flux·δ/D, in one long step as in many short ones."""
        for steps in (1, 50):
            layer = one_layer()
            for k in range(steps):
                ahead = layer.ahead(1e5 / steps, k == 0)
                layer = ahead.with_flux(np.full((1, 1), -1e-6))
            level = ahead.level + ahead.per_flux * -1e-6
            self.assertAlmostEqual(float(level[0, 0]), -1e-6 * THICK / D, places=9)

    def test_stirring_takes_the_outer_part_away_and_keeps_what_lies_at_the_plate(self):
        layer = one_layer()
        for k in range(40):
            layer = layer.ahead(1.0, k == 0).with_flux(np.full((1, 1), -1e-6))
        same = layer.thinned(1.0)
        np.testing.assert_allclose(same.modes[0, 0, :8], layer.modes[0, 0, :8], atol=2e-3 * abs(layer.modes[0, 0, 0]))
        thin = layer.thinned(4.0)
        self.assertAlmostEqual(float(thin.thickness_m[0, 0]), THICK / 4.0)
        self.assertAlmostEqual(float(thin.modes.sum() / layer.modes.sum()), 1.0, delta=0.1)


class Steady(unittest.TestCase):
    def test_left_alone_every_plate_comes_to_its_rest_potential(self):
        for kind in KINDS:
            rest = LoadedCell.of(kind.cell, FIVE).after(math.inf).rest()
            found = simulate([kind], [], 1e6).plates_v[-1]
            for mine, other in zip(found, rest, strict=True):
                self.assertAlmostEqual(mine, other, delta=1e-3)

    def test_under_a_load_it_comes_to_the_steady_working_point(self):
        for kind in KINDS:
            point = LoadedCell.of(kind.cell, FIVE).after(math.inf).at_load(470.0)
            found = simulate([kind], [Event(100.0, "load", demand(470.0))], 1e6)
            self.assertAlmostEqual(found.volts_v[-1], point.volts_v, delta=1e-3)
            self.assertAlmostEqual(found.current_a[-1] / point.current_a, 1.0, delta=5e-3)

    def test_it_falls_as_the_model_of_first_seconds_minute_and_steady_says(self):
        """Two ways to the same: layers that grow as √(πDt) with oxide spread over the time, and both in time; within a half.
        (A short circuit of plates that carry oxide uses it up in its first seconds: there the spread says too much.)"""
        for one, load in ((LEMON, 0.0), (SALT, 470.0), (SALT, 4700.0)):
            found = simulate([one], [Event(120.0, "load", demand(load))], 1e4)
            for seconds in (3.0, 10.0, 60.0):
                amps = float(found.at(np.array([120.0 + seconds]))[1][0])
                point = LoadedCell.of(one.cell, FIVE).after(seconds).at_load(load)
                self.assertAlmostEqual(amps / point.current_a, 1.0, delta=0.5)

    def test_steps_may_be_long(self):
        events = [Event(120.0, "load", demand(470.0)), Event(720.0, "open")]
        at = np.array([1.0, 60.0, 121.0, 130.0, 180.0, 600.0, 722.0, 760.0, 3000.0])
        for kind in KINDS:
            coarse, fine = (simulate([kind], events, 3600.0, moves_v=v).at(at)[0] for v in (0.04, 0.004))
            np.testing.assert_allclose(coarse, fine, atol=0.02)


class WhatPeopleSee(unittest.TestCase):
    def test_it_climbs_after_dipping_sags_under_load_and_comes_back(self):
        found = simulate([SALT], [Event(120.0, "load", demand(470.0)), Event(720.0, "open")], 1800.0)
        dipped, before, first, last, back = found.at(np.array([0.1, 119.0, 121.0, 719.0, 1800.0]))[0]
        self.assertTrue(dipped < before and last < first < before)
        self.assertGreater(back, 0.97 * before)

    def test_stirring_brings_more_current_and_leaving_it_takes_it_back(self):
        found = simulate(
            [SALT], [Event(0.0, "short"), Event(600.0, "stir", times=4.0), Event(900.0, "stir", times=1.0)], 1800.0
        )
        still, stirred, again = found.at(np.array([599.0, 899.0, 1799.0]))[1]
        self.assertGreater(stirred, 2.0 * still)
        self.assertAlmostEqual(again / still, 1.0, delta=0.05)

    def test_a_dull_plate_carries_more_charge_and_no_more_than_it_has(self):
        rubbed, dull = (simulate([SALT], [Event(0.0, "short")], 600.0, dull=d) for d in (False, True))
        steady = rubbed.current_a[-1]
        extra = [float(np.trapezoid(run.current_a - steady, run.t_s)) for run in (rubbed, dull)]
        self.assertGreater(extra[1], extra[0])
        half = LoadedCell.of(SALT.cell, FIVE).positive.dull()
        stock = sum(float(side.stock[0, 0, 0]) for side in half.plates.sides) * FIVE.area_m2
        oxygen = 4.0 * F * currents.OXYGEN_SATURATED * 4e-4 * FIVE.area_m2  # what lay dissolved in the layer
        self.assertLess(extra[1] - extra[0], 1.03 * (stock + oxygen))

    def test_cells_in_a_row_light_a_lamp_and_fade(self):
        found = simulate([LEMON] * 4, [Event(60.0, "load", demand("led-red"))], 3600.0)
        one = simulate([LEMON], [], 60.0)
        self.assertAlmostEqual(found.at(np.array([59.0]))[0][0], 4 * one.at(np.array([59.0]))[0][0], delta=5e-3)
        first, last = found.at(np.array([61.0, 3599.0]))[1]
        self.assertTrue(1e-3 > first > last > 2e-5)

    def test_nothing_joined_no_current(self):
        self.assertEqual(float(np.abs(simulate([LEMON], [Event(5.0, "open")], 60.0).current_a).max()), 0.0)

    def test_what_cannot_be_is_refused(self):
        with self.assertRaisesRegex(OutOfRange, "runs back"):
            simulate([LEMON], [Event(50.0, "short"), Event(20.0, "open")], 100.0)
        for build in (lambda: Event(-1.0, "open"), lambda: Event(0.0, "stir", times=1e3), lambda: simulate([], [], 10.0)):
            with self.assertRaises(OutOfRange):
                build()
        with self.assertRaises(OutOfRange):
            simulate([LEMON], [], math.nan)
