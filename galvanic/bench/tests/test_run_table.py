"""Runs as tables: units are named, or asked for; never guessed."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from galvanic.bench.columns import column
from galvanic.bench.logger import read_trace
from galvanic.bench.run_table import BadRun, read_run
from galvanic.errors import NotEnoughData


class Columns(unittest.TestCase):
    def test_headings_say_what_they_hold(self):
        for heading, kind, unit in (
            ("t_s", "time", "s"), ("t_min", "time", "min"), ("t_h", "time", "h"), ("Time (s)", "time", "s"),
            ("hours", "time", "h"), ("time_min", "time", "min"), ("Elapsed time (min)", "time", "min"), ("Zeit [h]", "time", "h"),
            ("volts_v", "volts", "V"), ("U/mV", "volts", "mV"), ("Potential (mV)", "volts", "mV"), ("voltage", "volts", None),
            ("current_ma", "current", "mA"), ("I / µA", "current", "uA"), ("Strom (A)", "current", "A"), ("mA", "current", "mA"),
            ("Temperature (C)", "other", None), ("", "other", None), ("t", "time", None), ("days", "time", "d"),
        ):  # fmt: skip
            with self.subTest(heading):
                found = column(heading)
                self.assertEqual((found.kind, found.unit), (kind, unit))

    def test_a_unit_that_is_not_known_is_kept_to_be_named(self):
        self.assertEqual(column("time (weeks)").unknown, "weeks")


class Tables(unittest.TestCase):
    def test_times_and_values_come_in_seconds_volts_and_amperes(self):
        found = read_run("t_min;current_ma;note\n0;1,5;\n".replace("1,5", "1.5") + "2;1.0;stirred\n")
        self.assertEqual((found.t_s, found.current_a, found.volts_v), ((0.0, 120.0), (0.0015, 0.001), ()))
        self.assertEqual(found.unused, ("note",))

    @given(st.lists(st.floats(-1.0, 3.0), min_size=2, max_size=20))
    def test_what_is_written_is_read(self, volts):
        text = "t_h,volts_mv\n" + "".join(f"{i},{1000 * v!r}\n" for i, v in enumerate(volts))
        found = read_run(text)
        for mine, other in zip(found.volts_v, volts, strict=True):
            self.assertAlmostEqual(mine, other, places=9)
        self.assertEqual(found.t_s[-1], 3600.0 * (len(volts) - 1))

    def test_refusals_say_what_is_wrong_and_what_would_be_right(self):
        for text, said in (
            ("", "is empty"),
            ("t_s,note\n0,a\n", "volts_v or current_ma"),
            ("volts_v\n1\n", "t_s, t_min or t_h"),
            ("t_weeks,volts_v\n0,1\n", "“weeks” is no unit"),
            ("t_s,voltage\n0,1\n", "names no unit"),
            ("t_s,volts_v,U/mV\n0,1,1000\n", "two columns"),
            ("t_s,volts_v\n0,1\n0,2\n", "line 3: its time"),
            ("t_s,volts_v\n0,one\n", "line 2: “one” is no number"),
            ("t_s,volts_v\n0,nan\n", "line 2"),
            ("t_s,volts_v\n0,880\n", "not a voltage of such a cell"),
            ("t_s,volts_v\n0,1,2\n", "line 2: 3 fields"),
        ):
            with self.subTest(text), self.assertRaisesRegex(BadRun, said):
                read_run(text)

    def test_a_unit_that_was_asked_for_is_used(self):
        self.assertEqual(read_run("t,voltage\n0,900\n1,800\n", {"t": "min", "voltage": "mV"}).volts_v, (0.9, 0.8))


class LoggerUnits(unittest.TestCase):
    def test_minutes_and_hours_are_no_seconds_whatever_marks_stand_between(self):
        for heading, last in (("time_min", 120.0), ("hours", 7200.0), ("time(h)", 7200.0), ("t_min", 120.0)):
            self.assertEqual(read_trace(f"{heading},volts_v\n0,0.9\n1,0.8\n2,0.7\n".encode()).times_s[-1], last)

    def test_a_file_of_current_alone_is_not_offered_as_volts(self):
        with self.assertRaisesRegex(NotEnoughData, "is a current"):
            read_trace(b"t_s,current_ma\n0,0.9\n1,0.8\n2,0.7\n")

    def test_an_unknown_unit_of_time_is_asked_for(self):
        with self.assertRaisesRegex(NotEnoughData, "seconds, minutes"):
            read_trace(b"time (weeks),volts\n0,0.9\n1,0.8\n2,0.7\n")
