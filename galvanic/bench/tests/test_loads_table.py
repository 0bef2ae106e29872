"""Loads of a class's own workbook, and what is shown of a table before it is kept."""

import unittest

from galvanic.bench.headings import heading
from galvanic.bench.loads_table import MOST_FAULTS, Loads, is_of_loads, look_at_loads, without_cell
from galvanic.bench.readings_table import look_at
from galvanic.bench.table_preview import cells_of, preview
from galvanic.bench.table_rows import BadTableText, rows_of
from galvanic.notes import THIN

HEAD = ("Group", "negative", "electrolyte", "positive", "condition", "kind", "load, Ω", "as typed", "unit", "typed at")
NONE = Loads((), ())


def rows(*lines):
    return [(1, HEAD), *((k, line) for k, line in enumerate(lines, start=2))]


def load(kind="load", ohm="1000", typed="0.45", unit="V", group="Tern", condition="", at="", negative="Zn"):
    return (group, negative, "lemon juice", "copper", condition, kind, ohm, typed, unit, at)


class LoadsIn(unittest.TestCase):
    def test_a_resistor_and_a_short_circuit(self):
        one, other = look_at_loads(
            rows(load(at="2026-11-05T10:20:00+00:00"), load("short", "", "2,2", "mA", condition="spacing 1 cm")), 10
        ).rows
        self.assertEqual((one.kind, one.load_ohm, one.measured.value, one.line), ("load", 1000.0, 0.45, 2))
        self.assertEqual(one.cell.pair, ("zinc", "copper"))
        self.assertEqual(one.typed_at.hour, 10)
        self.assertEqual((other.kind, other.load_ohm, other.typed_at), ("short", None, None))
        self.assertAlmostEqual(other.measured.value, 0.0022)
        self.assertEqual(other.cell.condition, "spacing 1 cm")

    def test_a_resistor_of_two_megohms_comes_in_as_it_went_out(self):
        (one,) = look_at_loads(rows(load(ohm="2200000.0")), 10).rows
        self.assertEqual(one.load_ohm, 2.2e6)

    def test_what_a_name_stands_for_can_be_told(self):
        self.assertIn("wurzium", look_at_loads(rows(load(negative="wurzium")), 10).faults[0][1])
        (one,) = look_at_loads(rows(load(negative="wurzium")), 10, {"Wurzium": "tin"}).rows
        self.assertEqual(one.cell.pair, ("tin", "copper"))

    def test_faulty_lines(self):
        for wrong, said in (
            (load(kind="resistor"), "neither short nor load"),
            (load(typed=""), "as typed: nothing there"),
            (load(group="", unit=""), "group, unit: nothing there"),
            (load(ohm=""), "a resistor lies between"),
            (load(ohm="0"), "a resistor lies between"),
            (load(ohm="1e9"), "no number"),
            (load(ohm="ten"), "no number"),
            (load(ohm="2e7"), "a resistor lies between"),
            (load(typed="much"), "much"),
            (load()[:-1], "9 fields"),
        ):
            with self.subTest(said):
                found = look_at_loads(rows(load(), wrong), 10)
                ((number, reason),) = found.faults
                self.assertEqual((number, len(found.rows)), (3, 1))
                self.assertIn(said, reason)

    def test_so_many_faults_and_rows_at_most(self):
        self.assertEqual(len(look_at_loads(rows(*[load(typed="much")] * 40), 40).faults), MOST_FAULTS)
        self.assertEqual(len(look_at_loads(rows(*[load()] * 3), 3).rows), 3)
        with self.assertRaises(BadTableText) as caught:
            look_at_loads(rows(*[load()] * 4), 3)
        self.assertEqual(caught.exception.code, "too_many_rows")
        self.assertEqual(look_at_loads([], 3), NONE)

    def test_a_sheet_is_known_by_all_its_columns(self):
        self.assertTrue(is_of_loads(HEAD))
        self.assertFalse(is_of_loads(HEAD[:6]))
        self.assertTrue(is_of_loads(["GROUP ", *HEAD[1:]]))


TABLE = "group;red;black;electrolyte;Voltage (mV);colour\nTern;Cu;Zn;lemon juice;940;red\nKnot;Zn;Cu;lemon juice;-910;\n"


class Shown(unittest.TestCase):
    def shown(self, text, loads=NONE, **told):
        return preview(look_at(rows_of(text), 100, **told), loads)

    def test_columns_as_they_were_understood_with_their_first_values(self):
        seen = self.shown(TABLE)
        self.assertEqual([column.means for column in seen.columns], ["group", "red", "black", "electrolyte", "volts", ""])
        volts = seen.columns[4]
        self.assertEqual((volts.heading, volts.unit, volts.examples), ("Voltage (mV)", "mV", ("940", "-910")))
        self.assertEqual((seen.readings, seen.groups, seen.cells, seen.aside, seen.loads), (2, ("Tern", "Knot"), 1, 0, 0))
        self.assertTrue(seen.ready and seen.whole)

    def test_what_exports_tell_of_themselves_is_named_as_known(self):
        seen = self.shown("group,red,black,electrolyte,volts,origin\nTern,Cu,Zn,lemon juice,0.94,typed\n")
        self.assertEqual(seen.columns[-1].means, "origin")

    def test_signs_and_leads_are_said(self):
        self.assertEqual(
            self.shown(TABLE).says,
            ("In 1 of 2 rows red is on the plate that the table makes negative; such a cell is the same cell turned round, and"
             " its sign turns with it.", "1 value has a minus sign: there the red plate was the negative one.",
             "In millivolts: 2 of 2 values.", f"The largest value is 0.940{THIN}V, in line 2."),
        )  # fmt: skip
        minus = TABLE.replace("940", "-940")
        self.assertIn("2 values have a minus sign", self.shown(minus).says[1])
        plain = "group;red;black;electrolyte;volts\nTern;Cu;Zn;lemon juice;0,94\nTern;Cu;Zn;lemon juice;1.20\n"
        says = self.shown(plain).says
        self.assertEqual(says[0], "In every row red is on the plate that the table makes positive.")
        self.assertIn("No value has a minus sign.", says[1])
        self.assertEqual(
            says[2:], ("With a decimal comma: 1 of 2 values.", f"The largest value is 1.200{THIN}V, in line 3.")
        )

    def test_nothing_is_said_of_nothing_and_it_is_not_ready(self):
        seen = self.shown("group,red,black,electrolyte,volts\nTern,Cu,Zn,lemon juice,much\n")
        self.assertEqual((seen.says, seen.ready, len(seen.faults)), ((), False, 1))

    def test_what_does_not_count_is_counted(self):
        text = "group,red,black,electrolyte,volts,counts\nTern,Cu,Zn,lemon juice,0.94,no\nTern,Cu,Zn,lemon juice,0.9,yes\n"
        self.assertEqual(self.shown(text).aside, 1)

    def test_a_load_whose_cell_has_no_reading_is_a_fault_of_the_table_of_loads(self):
        loads = look_at_loads(rows(load(), load(group="Ruff"), load(typed="much")), 10)
        seen = self.shown(TABLE, loads)
        self.assertEqual((seen.loads, seen.ready), (2, False))
        self.assertEqual([number for number, _ in seen.faults], [4, 3])
        self.assertTrue(all(reason.startswith("in the table of loads: ") for _, reason in seen.faults))
        self.assertIn("Ruff has no reading of Zn | Cu", seen.faults[1][1])

    def test_groups_are_the_same_in_any_case(self):
        cells = cells_of(look_at(rows_of(TABLE), 10).readings)
        self.assertEqual(set(cells), {"tern", "knot"})
        self.assertEqual(without_cell(look_at_loads(rows(load(group="TERN")), 10).rows, cells), ())

    def test_a_column_can_be_told_and_be_left_out(self):
        text = "who,red,black,electrolyte,volts\nTern,Cu,Zn,lemon juice,0.94\n"
        with self.assertRaises(BadTableText):
            look_at(rows_of(text), 10)
        self.assertEqual(self.shown(text, columns={"who": "group"}).groups, ("Tern",))
        more = "group,red,black,electrolyte,volts,e\nTern,Cu,Zn,lemon juice,0.94,1\n"
        with self.assertRaises(BadTableText):
            look_at(rows_of(more), 10)
        self.assertEqual(self.shown(more, columns={"e": ""}).columns[-1].means, "")


class Headings(unittest.TestCase):
    def test_units_stand_in_headings_in_many_ways(self):
        for text, means, unit in (
            ("Voltage (mV)", "volts", "mV"), ("Voltage [V]", "volts", "V"), ("reading in millivolts", "volts", "mV"),
            ("EMF / V", "volts", "V"), ("(mV)", "volts", "mV"), ("mV", "volts", "mV"), ("Millivolts", "volts", "mV"),
            ("potential difference, volts", "volts", "V"), ("Spannung", "volts", None), ("Metal 1", "black", None),
            ("  Group   NAME ", "group", None), ("origin", "", None), ("price (V)", "", None), ("colour", "", None),
            ("offset taken off, V", "offset taken off, v", None),
        ):  # fmt: skip
            with self.subTest(text):
                found = heading(text)
                self.assertEqual((found.text, found.means, found.unit), (text, means, unit))


if __name__ == "__main__":
    unittest.main()
