"""Numbers of packs and loads that no such cells give: asked about, repaired at a press, and counted nowhere."""

import unittest

from galvanic.bench.load_standing import PackRow, most_a, pack_standings, that_count, under_load_standing, usual
from galvanic.bench.loading import MOST_CELL_A
from galvanic.bench.pack_steps import odd_numbers, record_of
from galvanic.bench.repairs import number_repair
from galvanic.bench.standing import Stand
from galvanic.cells import Cell
from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.expected import strength

LEMON = Cell("zinc", "lemon-juice", "copper")


def rows(*numbers, cells=2):
    """A pack of lemon cells, then entries (kind, position, value)."""
    made = [PackRow("cell", k, None, "", LEMON) for k in range(1, cells + 1)]
    return [*made, *(PackRow(kind, at, value, "") for kind, at, value in numbers)]


def verdicts(*numbers, cells=2):
    return [(one.stand, one.code) for one in pack_standings(rows(*numbers, cells=cells))[cells:]]


class Verdicts(unittest.TestCase):
    def test_millivolts_typed_as_volts(self):
        found = verdicts(("alone", 1, 940.0), ("sum", 2, 1880.0), ("load_v", None, 1650.0), ("run_v", None, 1650.0))
        self.assertEqual(found, [(Stand.IMPOSSIBLE, "millivolts")] * 4)
        self.assertAlmostEqual(pack_standings(rows(("alone", 1, 940.0)))[-1].repaired_v, 0.94)

    def test_a_row_may_have_more_volts_the_more_cells_it_has(self):
        ceiling = usual(LEMON).ceiling_v
        for k in (1, 2, 5):
            self.assertEqual(verdicts(("sum", k, k * ceiling - 0.01), cells=5), [(Stand.SOUND, "")])
            self.assertEqual(verdicts(("sum", k, k * ceiling + 0.01), cells=5), [(Stand.IMPOSSIBLE, "too_high")])

    def test_a_decimal_point_that_slipped_or_was_lost(self):
        self.assertEqual(
            verdicts(("alone", 1, 9.5), ("alone", 1, 95.0)), [(Stand.IMPOSSIBLE, "tenth"), (Stand.IMPOSSIBLE, "hundredth")]
        )
        self.assertAlmostEqual(pack_standings(rows(("alone", 1, 95.0)))[-1].repaired_v, 0.95)
        self.assertEqual(verdicts(("sum", 2, 19.2)), [(Stand.IMPOSSIBLE, "tenth")])

    def test_under_a_load_a_cell_may_be_driven_backwards_and_the_pack_may_not(self):
        self.assertEqual(verdicts(("under", 2, -0.6)), [(Stand.SOUND, "")])
        self.assertEqual(verdicts(("load_v", None, -1.65)), [(Stand.TURNED, "reversed")])

    def test_a_hundred_and_twenty_milliamperes_from_juice_are_asked_about_and_a_milliampere_is_not(self):
        self.assertEqual(verdicts(("load_a", None, 0.120)), [(Stand.IMPOSSIBLE, "thousandth")])
        self.assertEqual(verdicts(("load_a", None, 0.001)), [(Stand.SOUND, "")])
        self.assertIn("120\u202fmA", under_load_standing(LEMON, "short", 0.120).why)

    def test_a_current_below_zero_counts_by_its_size_and_is_asked_about(self):
        self.assertEqual(verdicts(("load_a", None, -0.0003)), [(Stand.DOUBTFUL, "reversed")])
        self.assertEqual(that_count(rows(("load_a", None, -0.0003)))[-1].value, 0.0003)

    def test_a_cell_that_really_gives_much_is_believed(self):
        """Two solutions at 1 mol/L give tens of milliamperes: far above juice, and sound."""
        daniell = Cell("zinc", "daniell-pot", "copper")
        short_a = strength(PackCell(daniell)).short_a
        self.assertEqual(under_load_standing(daniell, "short", 5.0 * short_a).stand, Stand.SOUND)
        self.assertLessEqual(most_a(daniell), MOST_CELL_A)

    def test_without_its_plates_a_cell_could_be_any(self):
        self.assertEqual([one.stand for one in pack_standings([PackRow("alone", 1, 3.0, "")])], [Stand.SOUND])
        self.assertEqual([one.code for one in pack_standings([PackRow("alone", 1, 900.0, "")])], ["millivolts"])

    def test_a_number_that_was_looked_at_counts(self):
        self.assertEqual(pack_standings([PackRow("alone", 1, 9.0, "", None, decided=True)])[0].stand, Stand.SOUND)


class Counted(unittest.TestCase):
    def test_what_does_not_count_is_not_in_the_record_and_an_earlier_number_is(self):
        record = record_of("led-red", rows(("alone", 1, 0.95), ("alone", 1, 950.0), ("load_a", None, 0.12)))
        self.assertEqual((record.alone_v[0], record.load_a), (0.95, None))

    def test_what_is_odd_is_said_once_for_the_latest_and_not_of_a_runs_points(self):
        found = odd_numbers(rows(("alone", 1, 940.0), ("alone", 1, 0.94), ("sum", 2, 1880.0), ("run_v", None, 900.0)))
        self.assertEqual([(one.code, one.cell) for one in found], [("millivolts", 2)])
        self.assertIn("1.88\u202fV", found[0].text)


class Repairs(unittest.TestCase):
    def test_units_go_one_smaller_and_a_sign_is_taken_off(self):
        for code, text, unit, current, wanted in (
            ("millivolts", "940", "V", False, ("940", "mV")),
            ("millivolts", "-940", "V", False, ("−940", "mV")),
            ("thousandth", "120", "mA", True, ("120", "µA")),
            ("thousandth", "0,3", "A", True, ("0,3", "mA")),
            ("tenth", "9.5", "V", False, ("0.95", "V")),
            ("hundredth", "95", "V", False, ("0.95", "V")),
            ("reversed", "−0.30", "mA", True, ("0.30", "mA")),
            ("reversed", "-1.65 V", "V", False, ("1.65", "V")),
        ):
            with self.subTest(text=text, code=code):
                found = number_repair(code, text, unit, current)
                self.assertEqual((found.text, found.unit), wanted)

    def test_there_is_none_for_what_nobody_can_say(self):
        self.assertIsNone(number_repair("too_high", "9.4", "V", False))
        self.assertIsNone(number_repair("millivolts", "940", "mV", False))
        self.assertIsNone(number_repair("millivolts", "a lot", "V", False))
