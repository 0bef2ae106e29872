"""A class's own fit: many cells at once are single cells, what was put in comes out, and what cannot be told is said."""

import math
from unittest import TestCase

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.class_fit import CHI_95, Measured, fit_cell
from galvanic.chemistry.many_cells import Asked, ManyCells
from galvanic.chemistry.polarisation import Geometry, LoadedCell
from galvanic.errors import OutOfRange
from galvanic.findings.own_fit import own_fit

CELL = Cell("zinc", "lemon-juice", "copper")
OPEN = math.inf
LOADS = (OPEN, 1000.0, 100.0, 10.0)


def measured(many: ManyCells, guess: np.ndarray, u_part: float = 0.02) -> list[Measured]:
    """What a class would read of a cell, without errors."""
    answers = many.answers(guess[None], [Asked(ohm, 10.0) for ohm in LOADS])[0]
    return [Measured(ohm, 10.0, float(v), 0.005 + u_part * float(v)) for ohm, v in zip(LOADS, answers, strict=True)]


class ManyAtOnce(TestCase):
    def test_each_is_the_single_cell_of_that_load_and_moment(self):
        many = ManyCells.of(CELL, Geometry())
        for ohm, after_s in ((1000.0, 10.0), (47.0, 60.0), (0.0, 3.0), (10_000.0, 600.0)):
            with self.subTest(ohm=ohm, after_s=after_s):
                alone = LoadedCell.of(CELL).after(after_s).at_load(ohm)
                said = many.answers(many.usual()[None], [Asked(ohm, after_s)])[0, 0]
                self.assertAlmostEqual(said, alone.current_a if ohm == 0.0 else alone.volts_v, delta=2e-6)
        low_v, high_v = LoadedCell.of(CELL).after(10.0).rest()
        self.assertAlmostEqual(many.answers(many.usual()[None], [Asked(OPEN, 10.0)])[0, 0], high_v - low_v, delta=2e-6)

    def test_a_larger_plate_is_a_larger_geometry(self):
        many = ManyCells.of(CELL, Geometry())
        guess = many.usual()
        guess[many.knobs.index("area")] = math.log(2.0)
        large = LoadedCell.of(CELL, Geometry(8e-4)).after(10.0).at_load(100.0)
        self.assertAlmostEqual(many.answers(guess[None], [Asked(100.0, 10.0)])[0, 0], large.volts_v, delta=2e-6)

    def test_a_larger_plate_does_not_widen_the_bridge_of_two_solutions(self):
        cell = Cell("zinc", "daniell-bridge", "copper")
        many = ManyCells.of(cell, Geometry())
        guess = many.usual()
        guess[many.knobs.index("area")] = math.log(4.0)
        large = LoadedCell.of(cell, Geometry(16e-4)).after(10.0).at_load(100.0)
        self.assertAlmostEqual(many.answers(guess[None], [Asked(100.0, 10.0)])[0, 0], large.volts_v, delta=5e-6)

    def test_what_a_cell_has_not_cannot_be_turned(self):
        self.assertNotIn("ions", ManyCells.of(Cell("zinc", "lemon-juice", "graphite"), Geometry()).knobs)
        self.assertNotIn("ions", ManyCells.of(Cell("zinc", "cuso4-0.1", "copper"), Geometry()).knobs)


class Fits(TestCase):
    def test_an_area_that_was_put_in_comes_out(self):
        many = ManyCells.of(CELL, Geometry())
        true = many.usual()
        true[many.knobs.index("area")] = math.log(0.5)
        found = {one.knob: one for one in fit_cell(CELL, measured(many, true)).found}
        self.assertEqual(found["area"].verdict, "known")
        self.assertLess(found["area"].low, 0.5)
        self.assertGreater(found["area"].high, 0.5)
        self.assertLess(found["area"].high / found["area"].low, 8.0)

    def test_what_acid_has_eaten_cannot_be_told(self):
        many = ManyCells.of(CELL, Geometry())
        found = {one.knob: one for one in fit_cell(CELL, measured(many, many.usual())).found}
        self.assertEqual(found["oxide"].verdict, "cannot tell")

    def test_sharper_values_say_more(self):
        many = ManyCells.of(CELL, Geometry())
        true = many.usual()
        widths = []
        for u_part in (0.02, 0.25):
            area = next(one for one in fit_cell(CELL, measured(many, true, u_part)).found if one.knob == "area")
            widths.append(area.high / area.low)
        self.assertLess(widths[0], widths[1])

    def test_a_load_that_was_left_out_is_foretold_better_than_by_the_model_alone(self):
        many = ManyCells.of(CELL, Geometry())
        true = many.usual()
        true[many.knobs.index("area")] = math.log(0.4)
        found = fit_cell(CELL, measured(many, true))
        self.assertTrue(found.helps)
        for one in found.held_out[1:]:
            self.assertLess(abs(one.fitted - one.measured.value), abs(one.plain - one.measured.value))

    def test_the_limit_is_that_of_the_table(self):
        # 3.841, the 95th percentile of chi-squared with one degree of freedom: any table of statistics.
        self.assertAlmostEqual(CHI_95, 3.841, delta=1e-3)

    def test_one_value_is_too_few(self):
        with self.assertRaises(OutOfRange):
            fit_cell(CELL, [Measured(OPEN, 10.0, 0.9, 0.01)])


class InWords(TestCase):
    def test_open_voltages_alone_say_what_to_measure(self):
        said = own_fit(CELL, [Measured(OPEN, 10.0, 0.9, 0.01)])
        self.assertEqual(said.quantities, ())
        self.assertIn("100 Ω", said.measure_next)

    def test_quantities_are_said_with_their_interval(self):
        many = ManyCells.of(CELL, Geometry())
        true = many.usual()
        true[many.knobs.index("area")] = math.log(0.5)
        said = {one.key: one for one in own_fit(CELL, measured(many, true)).quantities}
        self.assertIn("likely", said["area"].says)
        self.assertIn("cannot tell", said["oxide"].says)

    def test_a_cell_of_another_kind_is_not_explained_away(self):
        said = own_fit(
            CELL, [Measured(OPEN, 10.0, 0.2, 0.01), Measured(100.0, 10.0, 0.19, 0.005), Measured(10.0, 10.0, 0.18, 0.005)]
        )
        self.assertIn("something else", said.verdict)
