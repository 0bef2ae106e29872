"""Workings that a calculator agrees with, and what a notebook says it lacks."""

import math
import re
import unittest

from hypothesis import given
from hypothesis import strategies as st

from galvanic.findings.compare import ClassReading, compare
from galvanic.findings.notebook import PARTS, Book, CellInBook, missing, missing_numbers
from galvanic.findings.working import class_working, own_working
from galvanic.level import Level
from galvanic.notes import MINUS

NUMBER = re.compile(r"[\d.]+")


def calculated(sum_):
    """What a calculator gives for a sum as it is printed."""
    text = (
        sum_.replace(MINUS, "-").replace("÷", "/").replace("×", "*").replace(" V²", "").replace("²", "**2").replace(" V", "")
    )
    text = re.sub(r"√(\(|[\d.]+)", lambda m: "sqrt(" if m[1] == "(" else f"sqrt({m[1]})", text)
    return eval(text, {"__builtins__": {}, "sqrt": math.sqrt})  # noqa: S307  # our own sums, in a test


def printed(gives):
    """The first number of a result, with half a unit of its last digit."""
    text = gives.replace(MINUS, "-").replace("± ", "")
    found = re.match(r"-?[\d.]+", text)[0]
    return float(found), 0.5 * 10.0 ** -len(found.partition(".")[2])


class Workings(unittest.TestCase):
    def assert_calculates(self, lines, slack=0.0):
        for line in lines:
            if line.sum:
                value, half = printed(line.gives)
                self.assertAlmostEqual(calculated(line.sum), value, delta=1.01 * half + slack, msg=line)

    def test_three_readings_worked_by_hand(self):
        lines = own_working([0.94, 0.95, 0.93], [0.0, 0.0, 0.0], [0.01] * 3)
        self.assertEqual([line.name for line in lines][0], "mean")
        self.assertEqual(lines[0].sum, "(0.94 + 0.95 + 0.93) V ÷ 3")
        # By hand: s = √((0 + 0.0001 + 0.0001) ÷ 2) = 0.01; ÷ √3 = 0.0058; last digit 0.01 ÷ √12 = 0.0029; both 0.0065.
        self.assertEqual(
            [line.gives.split("\u202f")[0] for line in lines], ["0.940", "0.0100", "0.0058", "0.0029", "0.0065"]
        )

    def test_below_the_upper_level_no_root_is_drawn(self):
        given = ([0.94, 0.95, 0.93], [0.0, 0.0, 0.0], [0.01] * 3)
        mean, apart = own_working(*given, Level.MIDDLE)
        self.assertEqual((mean.gives, apart.sum, apart.gives), ("0.940\u202fV", "0.95 V − 0.93 V", "0.02\u202fV"))
        self.assertEqual(own_working(*given, Level.FIRST), (mean,))
        readings = [ClassReading(group, "copper", "zinc", "lemon-juice", v, 0.01) for group, v in (("a", 0.9), ("b", 0.95))]
        (result,) = compare(readings)
        mean, apart = class_working(result, result.cells[0], Level.MIDDLE)
        self.assertEqual((mean.sum, apart.sum), ("(0.900 + 0.950) V ÷ 2", "0.950 V − 0.900 V"))
        self.assert_calculates([mean, apart])

    def test_each_reading_stands_with_the_digits_that_were_typed(self):
        lines = own_working([0.9, 0.94, 0.95], [0.0] * 3, [0.1, 0.01, 0.01])
        self.assertEqual(lines[0].sum, "(0.9 + 0.94 + 0.95) V ÷ 3")
        self.assertEqual(lines[0].gives, "0.930\u202fV")
        self.assertTrue(own_working([0.9, 0.94], [0.0] * 2, [0.01] * 2)[0].sum.startswith("(0.90 + 0.94)"))
        self.assert_calculates(lines, slack=2e-4)
        self.assert_calculates(own_working([0.9, 0.94, 0.95], [0.004] * 3, [0.1, 0.01, 0.01]), slack=2e-4)

    @given(
        st.lists(st.integers(-1500, 1500), min_size=1, max_size=8),
        st.integers(-60, 60),
        st.sampled_from([0.1, 0.01, 0.001]),
    )
    def test_a_calculator_gives_what_is_printed(self, counts, offset, step):
        shown = [round(n * step, 3) for n in counts if abs(n * step) < 3.0] or [0.5]
        lines = own_working(shown, [round(offset * step, 3)] * len(shown), [step] * len(shown))
        # Sums are typed with rounded terms: each may be off by half its last digit, magnified at most by their number.
        self.assert_calculates(lines, slack=2e-4 if step < 0.1 else 2e-3)

    def test_the_offset_of_the_meter_is_taken_off_in_sight(self):
        lines = own_working([-0.52], [0.02], [0.01])
        self.assertEqual(lines[0].sum, f"{MINUS}0.52 V {MINUS} 0.02 V")
        self.assertEqual(lines[0].gives, f"{MINUS}0.54\u202fV")
        self.assertIn("one reading says nothing of its scatter", lines[-1].gives)

    def test_a_class_value_is_worked_out_to_its_interval(self):
        volts = {"Tern": (0.90, 0.92), "Knot": (0.95, 0.95), "Plover": (0.88, 0.90)}
        readings = [
            ClassReading(group, "copper", "zinc", "rhubarb-juice", v, 0.01) for group, both in volts.items() for v in both
        ] + [ClassReading(group, "tin", "zinc", "rhubarb-juice", v, 0.01) for group, v in (("Tern", 0.5), ("Knot", 0.54))]
        (result,) = compare(readings)
        for cell in result.cells:
            lines = class_working(result, cell)
            self.assert_calculates(lines, slack=2e-4)
            low, high = (float(n) for n in NUMBER.findall(lines[-1].gives)[1:3])
            self.assertAlmostEqual(low, cell.low_v, delta=0.001)
            self.assertAlmostEqual(high, cell.high_v, delta=0.001)

    def test_a_group_that_everything_contradicts_is_named_as_left_out(self):
        pairs = [("copper", "zinc", 0.95), ("tin", "zinc", 0.52), ("copper", "tin", 0.43)]
        readings = [
            ClassReading(group, red, black, "rhubarb-juice", v + 0.005 * n, 0.01)
            for n, group in enumerate(("Tern", "Knot", "Plover", "Dunlin"))
            for red, black, v in pairs
        ]
        readings[0] = ClassReading("Tern", "copper", "zinc", "rhubarb-juice", 0.20, 0.01)
        (result,) = compare(readings)
        cell = next(one for one in result.cells if one.outliers)
        lines = class_working(result, cell)
        self.assertEqual(lines[0].name, "Tern left out: all other cells contradict it")
        self.assertNotIn("0.200", lines[1].sum)

    def test_one_group_alone_gets_no_interval_and_is_told_why(self):
        (result,) = compare([ClassReading("Tern", "copper", "zinc", "rhubarb-juice", 0.9, 0.01)])
        self.assertIn("no cell of this liquid was measured by two groups", class_working(result, result.cells[0])[-1].gives)


class Missing(unittest.TestCase):
    def test_an_empty_notebook_lacks_every_part_and_is_given_none(self):
        says = missing(Book({}, cites=False, cells=(), meter_checked=True))
        self.assertEqual(len(says), len(PARTS))
        self.assertIn("No conclusion yet.", says)

    def test_a_whole_notebook_lacks_nothing(self):
        words = {part.key: "Because." for part in PARTS}
        self.assertEqual(missing(Book(words, True, (CellInBook("Zn | Cu", 3, 2),), True)), ())

    def test_numbers_that_are_missing_are_named_by_cell(self):
        says = missing_numbers(
            [
                CellInBook("Zn | Cu", 0, 0),
                CellInBook("Sn | Cu", 1, 2),
                CellInBook("Zn | Sn", 3, 1),
                CellInBook("Fe | Cu", 3, 1),
            ]
        )
        self.assertEqual(
            says,
            (
                "Zn | Cu has no reading.",
                "Sn | Cu was read once only.",
                "Zn | Sn, Fe | Cu were measured by one group only.",
            ),
        )

    def test_who_else_measured_a_covered_cell_is_not_said(self):
        self.assertEqual(missing_numbers([CellInBook("Zn | Cu", 3, None)]), ())

    def test_words_without_evidence_are_remarked_on(self):
        words = {part.key: "Because." for part in PARTS}
        self.assertEqual(
            missing(Book(words, False, (), False))[:2], ("No reading is cited as evidence.", "The meter was never checked.")
        )
