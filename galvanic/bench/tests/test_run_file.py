"""Loggers' files as runs: units asked for, never guessed; shapes are the tests' own."""

import unittest

from galvanic.bench.run_file import run_of_file, thinned_run
from galvanic.bench.run_table import BadRun, UnitAsked

PLAIN = b"t_min,volts_v\n0,0.95\n1,0.90\n2,0.88\n"
OWN = (
    "Logger 7\nserial;0042\n\nTime (s);Voltage (V)\n" + "".join(f"{10 * k};0,{950 - k:03d}\n" for k in range(30))
).encode()


class RunFiles(unittest.TestCase):
    def test_a_plain_table_keeps_its_units(self):
        found = run_of_file(PLAIN)
        self.assertEqual((found.t_s, found.volts_v), ((0.0, 60.0, 120.0), (0.95, 0.9, 0.88)))

    def test_a_loggers_own_file_with_a_preamble_and_decimal_commas_is_read(self):
        found = run_of_file(OWN)
        self.assertEqual(len(found.t_s), 30)
        self.assertEqual((found.t_s[1], found.volts_v[1]), (10.0, 0.949))

    def test_a_unit_that_is_missing_is_asked_for_and_then_taken(self):
        bare = b"time,current\n0,1.5\n1,1.4\n"
        with self.assertRaisesRegex(UnitAsked, "time.*names no unit"):
            run_of_file(bare)
        with self.assertRaisesRegex(UnitAsked, "current.*names no unit"):
            run_of_file(bare, {"time": "h"})
        found = run_of_file(bare, {"time": "h", "current": "mA"})
        self.assertEqual((found.t_s, found.current_a), ((0.0, 3600.0), (0.0015, 0.0014)))

    def test_what_is_no_run_is_said(self):
        for content, says in ((b"", "empty"), (b"a,b\n1,2\n", "No column is a time"), (b"\x00\x01\xff\xfe\x00", ""),
                              (b"t_s,volts_v\n0,0.5\n", "two samples"), (b"t_s,volts_v\n5,0.5\n4,0.4\n", "line 3")):  # fmt: skip
            with self.subTest(content=content), self.assertRaisesRegex(BadRun, says):
                run_of_file(content)

    def test_thinning_keeps_both_ends_and_what_belongs_together(self):
        rows = "".join(f"{k},{k / 1000}\n" for k in range(1001))
        found = thinned_run(run_of_file(b"t_s,volts_v\n" + rows.encode()), 100)
        self.assertLessEqual(len(found.t_s), 100)
        self.assertEqual((found.t_s[0], found.t_s[-1]), (0.0, 1000.0))
        self.assertTrue(all(abs(v - t / 1000) < 1e-9 for t, v in zip(found.t_s, found.volts_v, strict=True)))
