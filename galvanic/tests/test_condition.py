"""Conditions as data: written and read in one way; a teacher's words of today are understood."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from galvanic.cells import Cell
from galvanic.condition import Condition, as_found, canonical, condition_of, level, own_conditions, variable_named
from galvanic.errors import OutOfRange, UnknownMaterial
from galvanic.preparing import set_up
from galvanic.reference.variables import variables


class Conditions(unittest.TestCase):
    def test_at_least_the_variables_of_a_class_are_there_each_with_what_to_keep(self):
        self.assertGreaterEqual(len(variables()), 20)
        for variable in variables().values():
            self.assertTrue(variable.set_up.endswith("."), variable.key)
            self.assertTrue(variable.keep, variable.key)

    @given(st.sampled_from(sorted(key for key, one in variables().items() if one.kind == "number")), st.floats(0.0, 1.0))
    def test_a_number_comes_back_as_it_went_out(self, key, part):
        row = variables()[key]
        value = float(f"{row.low + part * (row.high - row.low):.4g}")
        value = float(round(value)) if row.whole else min(row.high, max(row.low, value))
        made = Condition(key, value)
        self.assertEqual(condition_of(str(made)), made)

    def test_every_word_comes_back_as_it_went_out(self):
        for row in variables().values():
            for word in row.words:
                made = Condition(row.key, word)
                self.assertEqual(condition_of(str(made)), made)

    def test_a_teachers_words_of_today_are_understood(self):
        for text, variable, value in (
            ("4 cm apart", "spacing", 4.0),
            ("2,5 cm deep", "depth", 2.5),
            ("1 part in 10", "dilution", 0.1),
            ("as it is", "dilution", 1.0),
            ("50 %", "dilution", 0.5),
            ("as it was", "surface", "dull"),
            ("rubbed", "surface", "rubbed"),
            ("40 °C", "temperature", 40.0),
            ("3 pairs", "pairs", 3.0),
        ):
            with self.subTest(text=text):
                self.assertEqual(condition_of(text), Condition(variable, value))

    def test_another_unit_of_the_same_thing_is_converted_and_of_another_refused(self):
        for key, text, value in (
            ("spacing", "12 mm", 1.2),
            ("area", "200 mm²", 2.0),
            ("area", "2 cm2", 2.0),
            ("temperature", "50 °F", 10.0),
            ("temperature", "293.15 K", 20.0),
            ("time", "90 s", 1.5),
            ("salt", "5 g/L", 0.5),
            ("concentration", "250 mmol/L", 0.25),
        ):
            self.assertEqual(level(variables()[key], text), Condition(key, value), text)
        for key, text in (("area", "12 cm"), ("area", "banana"), ("spacing", "200 mm²"), ("depth", "3 V")):
            for read in (level, lambda row, text: canonical(text, row)):
                with self.assertRaisesRegex(OutOfRange, "is no number of"):
                    read(variables()[key], text)

    def test_what_fits_no_variable_or_two_stays_the_teachers_own(self):
        for text in (
            "",
            "in the window",
            "1/2 lemon",
            "4 cm apart, 2 cm deep",
            "spacing -3 cm",
            "spacing 900 cm",
            "pairs 2.5",
        ):
            with self.subTest(text=text):
                self.assertIsNone(condition_of(text))

    def test_levels_are_numbers_with_or_without_their_unit_and_words(self):
        row = variables()["temperature"]
        self.assertEqual(level(row, "20 °C"), level(row, "20"))
        self.assertEqual(level(variables()["stirring"], "STIRRED").rank, 1)
        for text in ("warm", "nan", "inf", "1e400", "4 °C", "20 °F"):
            with self.subTest(text=text), self.assertRaises(OutOfRange):
                level(row, text)

    def test_numbers_are_kept_in_one_form_and_words_as_they_were_written(self):
        for text, kept in (
            ("4 cm apart", "spacing 4 cm"),
            (" at  40 °C", "temperature 40 °C"),
            ("3 pairs", "plate pairs 3"),
            ("as it was", "as it was"),
            ("1 part in 10", "1 part in 10"),
            ("on the sill", "on the sill"),
            ("", ""),
        ):
            self.assertEqual((canonical(text), canonical(canonical(text))), (kept, kept))

    def test_what_a_cell_really_had_is_read_with_and_without_its_unit_and_of_other_things_too(self):
        for text, found in (
            ("2,1", Condition("spacing", 2.1)),
            ("2.1 cm", Condition("spacing", 2.1)),
            ("23 °C", Condition("temperature", 23.0)),
            ("depth 3 cm", Condition("depth", 3.0)),
        ):
            self.assertEqual(as_found("spacing 2 cm", text), found)
        self.assertEqual(as_found("in the window", "23 °C"), Condition("temperature", 23.0))
        for planned, text, said in (
            ("spacing 2 cm", "far", "for example 2 cm"),
            ("spacing 2 cm", "900", "between 0.1 and 30 cm"),
            ("", "7", "for example 23 °C"),
        ):
            with self.assertRaisesRegex(OutOfRange, said):
                as_found(planned, text)

    def test_settings_of_ones_own_are_numbers_where_all_are_the_same_words_around_one(self):
        found = own_conditions(["shelf 2", "shelf 5", "shelf 2"])
        self.assertEqual({text: one.rank for text, one in found.items()}, {"shelf 2": 2.0, "shelf 5": 5.0})
        self.assertEqual({one.row.name for one in found.values()}, {"shelf"})
        mixed = own_conditions(["shelf 2", "floor", "sill 3"])
        self.assertEqual([one.rank for one in mixed.values()], [0, 1, 2])
        self.assertEqual(own_conditions(["only one"]), {})

    def test_a_name_that_is_none_says_the_nearest(self):
        with self.assertRaisesRegex(UnknownMaterial, "stirring"):
            variable_named("stiring")
        self.assertEqual(variable_named("Added salt").key, "salt")

    def test_a_card_says_how_to_set_it_up_and_what_to_take_care_of(self):
        warm = set_up(Cell("zinc", "lemon-juice", "copper", "temperature 50 °C"))
        self.assertTrue(warm.startswith("Temperature 50 °C. Stand the cup"))
        self.assertIn("scalds", warm)
        self.assertIn("rub them now", set_up(Cell("zinc", "lemon-juice", "copper", "freshly rubbed")))
        self.assertEqual(set_up(Cell("zinc", "lemon-juice", "copper")), "")
        self.assertIn("on the sill", set_up(Cell("zinc", "lemon-juice", "copper", "on the sill")))
