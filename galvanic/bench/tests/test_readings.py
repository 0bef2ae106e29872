"""Typed text to volts and resolution."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from galvanic.bench.readings import READABLE, as_shown, parse, parse_current
from galvanic.errors import UnreadableReading

GOOD = [
    ("0.94", "V", 0.94, 0.01, False), ("0,94", "V", 0.94, 0.01, False), ("940 mV", "V", 0.94, 0.001, False),
    ("940", "mV", 0.94, 0.001, False), ("-0.46", "V", -0.46, 0.01, True), (".9", "V", 0.9, 0.1, False),
    ("1.10", "V", 1.10, 0.01, False), ("\u22120.46", "V", -0.46, 0.01, True), (" - 0.46 V ", "V", -0.46, 0.01, True),
    ("+1.2", "V", 1.2, 0.1, False), ("2", "V", 2.0, 1.0, False), ("9.", "V", 9.0, 1.0, False), ("0.94V", "mV", 0.94, 0.01, False),
    ("-0.00", "V", 0.0, 0.01, True), ("–12.5 mv", "V", -0.0125, 0.0001, True), ("９４０", "mV", 0.94, 0.001, False),
    ("0.5 volts", "mV", 0.5, 0.1, False),
]  # fmt: skip
BAD = [
    "", "   ", "abc", "0.9 0.8", "0.9, 0.8", "nan", "inf", "1e9", "1.2.3", "1,234.5", "--1", "V", "-", ".", "0.94 A", "1/2",
    "12345678", "0x10", "½", "0.9;", "9" * 40, "1 2", "0.9-0.8", "٣",
]  # fmt: skip


class Readings(unittest.TestCase):
    def test_what_people_type_is_read_with_its_resolution(self):
        for text, unit, volts, resolution, negative in GOOD:
            with self.subTest(text=text, unit=unit):
                found = parse(text, unit)
                self.assertAlmostEqual(found.volts_v, volts, places=12)
                self.assertAlmostEqual(found.resolution_v, resolution, places=12)
                self.assertEqual((found.negative, found.text), (negative, text))

    def test_what_is_not_one_number_is_refused_with_a_sentence(self):
        for text in BAD:
            with self.subTest(text=text), self.assertRaises(UnreadableReading) as caught:
                parse(text)
            self.assertTrue(str(caught.exception).endswith("."))

    def test_what_a_page_without_network_takes_for_a_number_is_what_is_read(self):
        import re
        import unicodedata

        pattern = re.compile(READABLE, re.IGNORECASE)
        like = lambda text: bool(pattern.match(re.sub(r"\s+", "", unicodedata.normalize("NFKC", text))))  # noqa: E731
        for text, *_ in GOOD:
            self.assertTrue(like(text), text)
        for text in set(BAD) - {"0.9 0.8", "0.9, 0.8", "12345678", "1 2", "9" * 40}:
            self.assertFalse(like(text), text)
        self.assertFalse(like("hello"))

    def test_a_unit_that_is_not_a_voltage_is_refused(self):
        with self.assertRaises(UnreadableReading):
            parse("0.9", "kV")

    @given(st.decimals(-9, 9, places=3))
    def test_every_display_is_read_back_exactly(self, number):
        found = parse(f"{number:.3f}")
        self.assertEqual(found.volts_v, float(number))
        self.assertEqual(found.resolution_v, 0.001)

    @given(st.text(max_size=40))
    def test_any_text_is_read_or_refused_never_a_crash(self, text):
        try:
            found = parse(text)
        except UnreadableReading:
            return
        self.assertTrue(any(mark.isdigit() for mark in text))
        self.assertLess(abs(found.volts_v), 1e7)


class Limits(unittest.TestCase):
    def test_what_no_meter_shows_is_refused_and_what_one_could_show_is_kept(self):
        for text in ("10001", "-10001 V", "9999999"):
            with self.assertRaisesRegex(UnreadableReading, "10 kV"):
                parse(text)
        for text, volts in (("940", 940.0), ("10000", 10_000.0), ("9999999 mV", 9999.999)):
            self.assertAlmostEqual(parse(text).volts_v, volts)
        with self.assertRaisesRegex(UnreadableReading, "20 A"):
            parse_current("21", "A")
        self.assertEqual(parse_current("5000", "mA").current_a, 5.0)


class Currents(unittest.TestCase):
    def test_what_people_type_is_read_with_its_resolution(self):
        for text, unit, amperes, resolution in [
            ("1.25", "mA", 1.25e-3, 1e-5), ("1,25 mA", "A", 1.25e-3, 1e-5), ("870", "\u00b5A", 8.7e-4, 1e-6), ("0.002", "A", 0.002, 0.001),
            ("35 uA", "mA", 3.5e-5, 1e-6), ("35 \u03bcA", "mA", 3.5e-5, 1e-6), ("-0.4", "mA", -4e-4, 1e-4), ("2 amps", "mA", 2.0, 1.0),
        ]:  # fmt: skip
            with self.subTest(text=text, unit=unit):
                found = parse_current(text, unit)
                self.assertAlmostEqual(found.current_a, amperes, places=12)
                self.assertAlmostEqual(found.resolution_a, resolution, places=12)

    def test_volts_are_no_current_and_amperes_no_voltage(self):
        for read, text in ((parse_current, "0.94 V"), (parse, "0.94 mA")):
            with self.assertRaisesRegex(UnreadableReading, "is not one number"):
                read(text)

    def test_the_ohm_range_is_refused_with_its_reason_whatever_was_asked_for(self):
        for read in (parse, parse_current):
            for text in ("470 \u03a9", "470\u2126", "1.2 kOhm", "3 M\u03a9", "12 ohms"):
                with self.subTest(text=text), self.assertRaisesRegex(UnreadableReading, "two loads|resistor|live|current"):
                    read(text)


class Shown(unittest.TestCase):
    def test_a_voltage_has_as_many_digits_as_the_resolution_bears(self):
        for value, resolution, text in [
            (0.9449, 0.01, "0.94"), (0.9449, 0.001, "0.945"), (-0.46, 0.01, "-0.46"), (-0.001, 0.01, "0.00"), (1.0, 0.1, "1.0"),
            (3.0, 1.0, "3"),
        ]:  # fmt: skip
            self.assertEqual(as_shown(value, resolution), text)

    @given(st.floats(-9, 9), st.sampled_from([0.1, 0.01, 0.001, 0.0001]))
    def test_what_is_shown_is_read_back_within_half_a_step_with_its_resolution(self, value, resolution):
        found = parse(as_shown(value, resolution))
        self.assertAlmostEqual(found.resolution_v, resolution, places=12)
        self.assertLessEqual(abs(found.volts_v - value), 0.5001 * resolution)
