"""A table of packs is read again as it went out, and faulty lines are named."""

import unittest
from datetime import UTC, datetime

from galvanic.bench.pack_table import MOST_FAULTS, corrected_by, read_packs
from galvanic.bench.table_rows import BadTableText

HEAD = 'group,pack,load,what,cell of the row,negative,electrolyte,positive,as typed,unit,"value, v or a",typed at,counts,why corrected'
AT = "2026-11-05T10:20:00+00:00"


def table(*lines, head=HEAD):
    return "\n".join([head, *lines]) + "\n"


def line(what, place="", typed="", unit="", value="", at="", counts="", why="", plates=",,"):
    return f"Tern,1,led-red,{what},{place},{plates},{typed},{unit},{value},{at},{counts},{why}"


class Read(unittest.TestCase):
    def one(self, *of, **more):
        (found,) = read_packs(table(line(*of, **more)), 10)
        return found

    def test_a_cell_has_its_plates_by_any_of_their_names(self):
        found = self.one("cell", "2", plates="Zn,lemon juice,Cu")
        self.assertEqual((found.kind, found.position, found.plates), ("cell", 2, ("zinc", "lemon-juice", "copper")))
        self.assertEqual((found.group, found.pack, found.load, found.line), ("Tern", "1", "led-red", 2))
        self.assertEqual((found.value, found.unit, found.counts, found.at), (None, "", True, None))

    def test_volts_have_their_offset_taken_off_in_the_column_beside(self):
        found = self.one("sum", "2", "1.86", "V", "1.85", AT, "yes")
        self.assertEqual((found.value, found.text, found.resolution), (1.85, "1.86", 0.01))
        self.assertEqual(found.at, datetime(2026, 11, 5, 10, 20, tzinfo=UTC))
        self.assertEqual(self.one("sum", "2", "1860", "mV").value, 1.86)
        self.assertEqual(self.one("load_v", "", "1.6").unit, "V")

    def test_an_offset_of_a_volt_is_the_most_that_belongs_to_what_was_typed(self):
        for value in ("2.86", "0.86"):
            self.assertEqual(self.one("sum", "2", "1.86", "V", value, AT).value, float(value))
        for value in ("2.87", "0.85", "nan"):
            with self.assertRaises(BadTableText) as refused:
                self.one("sum", "2", "1.86", "V", value, AT)
            ((at, why),) = refused.exception.rows
            self.assertEqual(at, 2)
            self.assertIn("do not belong together", why)

    def test_a_current_is_in_milliamperes_unless_it_says_otherwise(self):
        self.assertAlmostEqual(self.one("load_a", "", "0.42").value, 0.00042)
        self.assertAlmostEqual(self.one("load_a", "", "42", "µA").value, 0.000042)

    def test_words_are_words_without_the_mark_of_spreadsheets(self):
        found = self.one("note", "", "’=warm")
        self.assertEqual((found.text, found.value, found.position), ("=warm", None, None))

    def test_what_does_not_count_and_why_it_was_corrected(self):
        found = self.one("alone", "1", "0.95", "V", counts="no", why="a slip")
        self.assertEqual((found.counts, found.reason), (False, "a slip"))

    def test_faulty_lines_are_said_each_with_its_reason_and_nothing_is_taken(self):
        for wrong, said in (
            (line("dance"), "is none of"),
            (line("sum", "", "1.8", "V"), "place in the row"),
            (line("note", "3", "warm"), "place in the row"),
            (line("sum", "13", "1.8", "V"), "from 1 to 12"),
            (line("sum", "0", "1.8", "V"), "from 1 to 12"),
            (line("sum", "2", "1.8", "V", "3.0"), "do not belong together"),
            (line("sum", "2", "1.8", "V", "nan"), "do not belong together"),
            (line("sum", "2", "1.8", "V", at="2026-11-05T10:20:00"), "no time zone"),
            (line("sum", "2", "1.8", "V", counts="perhaps"), "yes or no"),
            (line("cell", "2", plates="unobtainium,lemon juice,Cu"), "unobtainium"),
            (line("sum", "2", "much", "V"), "much"),
            (",1,led-red,note,,,,,warm,,,,,", "no group or no pack"),
            ("Tern,,led-red,note,,,,,warm,,,,,", "no group or no pack"),
            ("Tern,1,toaster,note,,,,,warm,,,,,", "toaster"),
        ):
            with self.subTest(wrong), self.assertRaises(BadTableText) as caught:
                read_packs(table(line("note", "", "warm"), wrong), 10)
            self.assertEqual(caught.exception.code, "rows")
            ((number, reason),) = caught.exception.rows
            self.assertEqual(number, 3)
            self.assertIn(said, reason)

    def test_an_offset_of_a_meter_that_is_still_used_is_one_volt_at_most(self):
        self.assertEqual(self.one("sum", "2", "2.0", "V", "1.0").value, 1.0)

    def test_an_empty_table_missing_columns_and_too_many_lines(self):
        for text, most, code, said in (
            ("", 10, "empty", "empty"),
            (table(head="group,pack"), 10, "columns", "load, what"),
            (table(line("note"), line("note"), line("note")), 2, "too_long", "2 lines at most"),
        ):
            with self.subTest(code), self.assertRaises(BadTableText) as caught:
                read_packs(text, most)
            self.assertEqual(caught.exception.code, code)
            self.assertIn(said, str(caught.exception))
        self.assertEqual(len(read_packs(table(line("note"), line("note")), 2)), 2)

    def test_of_many_faults_the_first_are_named(self):
        with self.assertRaises(BadTableText) as caught:
            read_packs(table(*[line("dance")] * (MOST_FAULTS + 5)), 100)
        self.assertEqual(len(caught.exception.rows), MOST_FAULTS)
        self.assertIn(f"{MOST_FAULTS + 5} lines", str(caught.exception))

    def test_short_rows_and_columns_in_another_case_and_order(self):
        head = "What,GROUP,pack,load,cell of the row,negative,electrolyte,positive,as  typed,unit"
        (found,) = read_packs(table("note,Tern,1,470", head=head), 10)
        self.assertEqual(
            (found.kind, found.group, found.load, found.counts, found.reason), ("note", "Tern", "470", True, "")
        )


class Corrections(unittest.TestCase):
    def corrected(self, *lines):
        return corrected_by(read_packs(table(*lines), 20))

    def test_a_line_with_a_reason_corrects_the_latest_before_it_that_does_not_count(self):
        lines = (
            line("alone", "1", "9.5", "V", counts="no"),
            line("alone", "1", "0.59", "V", counts="no", why="the point"),
            line("alone", "2", "0.9", "V", counts="no"),
            line("alone", "1", "0.95", "V", why="turned digits"),
        )
        self.assertEqual(self.corrected(*lines), {1: 0, 3: 1})

    def test_one_that_counts_another_place_and_another_kind_are_not_corrected(self):
        self.assertEqual(self.corrected(line("alone", "1", "0.9", "V"), line("alone", "1", "0.95", "V", why="x")), {})
        self.assertEqual(
            self.corrected(line("alone", "2", "0.9", "V", counts="no"), line("alone", "1", "0.95", "V", why="x")), {}
        )
        self.assertEqual(
            self.corrected(line("sum", "1", "0.9", "V", counts="no"), line("alone", "1", "0.95", "V", why="x")), {}
        )

    def test_each_is_corrected_once(self):
        lines = (line("alone", "1", "9.5", "V", counts="no"), *[line("alone", "1", "0.95", "V", why="x")] * 2)
        self.assertEqual(self.corrected(*lines), {1: 0})


if __name__ == "__main__":
    unittest.main()
