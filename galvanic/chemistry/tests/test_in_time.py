"""A verdict has a time: how long a load keeps running, and that a forecast from measured values is not worse for them."""

from __future__ import annotations

import math
import unittest

from galvanic.cells import Cell
from galvanic.chemistry.anchoring import UnderLoad, anchored
from galvanic.chemistry.circuit import in_a_row
from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.expected import expect
from galvanic.chemistry.in_time import in_time

LEMON, CARD = (PackCell(Cell("zinc", liquid, "copper")) for liquid in ("lemon-juice", "salt-card"))
TWO_CUPS = PackCell(Cell("zinc", "daniell-bridge", "copper"))


class InTime(unittest.TestCase):
    def test_what_glows_at_first_may_be_dark_within_the_lesson(self) -> None:
        pile = in_a_row([CARD] * 10)
        found = in_time(pile, "led-red")
        self.assertEqual(expect(pile, "led-red").verdict, "runs")
        self.assertTrue(10.0 < found.runs_s < 600.0, found.runs_s)
        self.assertTrue(0.0 < found.low_s < found.runs_s < found.high_s)
        self.assertEqual(found.ends_by, "")
        # It is the same model: at that time half of what can be expected still runs.
        self.assertAlmostEqual(expect(pile, "led-red", found.runs_s).runs, 0.5, delta=0.15)

    def test_two_solutions_keep_a_calculator_until_something_is_used_up(self) -> None:
        found = in_time(in_a_row([TWO_CUPS] * 2), "calculator")
        self.assertGreater(found.runs_s, 86_400.0)
        self.assertEqual(found.ends_by, "water")
        self.assertEqual(found.runs_s, found.used_up_s)

    def test_what_never_runs_runs_for_no_time(self) -> None:
        found = in_time(in_a_row([LEMON]), "led-red")
        self.assertEqual((found.runs_s, found.low_s), (0.0, 0.0))

    def test_moments_fall_in_order_and_never_rise_by_more_than_a_little(self) -> None:
        for pack, load in ((in_a_row([LEMON] * 4), "led-red"), (in_a_row([CARD] * 4), 470.0)):
            currents = [moment.expected.current_a.middle for moment in in_time(pack, load).moments]
            for before, after in zip(currents, currents[1:], strict=False):
                self.assertLess(after, 1.05 * before)


class Measured(unittest.TestCase):
    """A cell that reads less with nothing joined does not give less into a short circuit for that."""

    def test_low_open_volts_shift_the_curve_at_rest_and_fade_under_the_load(self) -> None:
        low = anchored(CARD, 0.59)
        plain, held = (expect(in_a_row([cell] * 10), "led-red") for cell in (CARD, low))
        self.assertAlmostEqual(held.meeting.open_v, 5.9, delta=0.02)
        self.assertGreater(held.meeting.current_a, 0.5 * plain.meeting.current_a)  # practice: bright
        short = [expect(in_a_row([cell]), 0.0).meeting.current_a for cell in (CARD, low)]
        self.assertAlmostEqual(short[1] / short[0], 1.0, delta=0.01)

    def test_plates_of_which_the_model_knows_no_volts_keep_those_that_were_measured(self) -> None:
        alike = PackCell(Cell("copper", "lemon-juice", "copper"))
        self.assertAlmostEqual(expect(in_a_row([alike]), 1e9).meeting.open_v, 0.0, delta=0.01)
        found = expect(in_a_row([anchored(alike, 0.12)]), 1e9)
        self.assertAlmostEqual(found.meeting.open_v, 0.12, delta=0.002)

    def test_a_measured_short_circuit_is_what_the_pack_gives(self) -> None:
        for short_a in (2e-4, 1e-3):
            cell = anchored(LEMON, 0.9, 0.0, [UnderLoad(0.0, short_a)])
            found = expect(in_a_row([cell]), 0.0)
            self.assertAlmostEqual(found.meeting.current_a / short_a, 1.0, delta=0.02)

    def test_a_short_circuit_has_a_range_that_can_be(self) -> None:
        for load in (0.0, 0.01):
            for cell in (LEMON, anchored(LEMON, 0.95, 0.02)):
                found = expect(in_a_row([cell] * 2), load).current_a
                self.assertTrue(0.0 < found.low < found.middle < found.high < 0.02, (load, found))
                self.assertTrue(math.isfinite(found.high))
