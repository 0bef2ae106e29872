"""Files of data loggers, as different programs write them."""

from __future__ import annotations

import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from galvanic.bench.logger import judged, read_trace, settled_v, thinned
from galvanic.errors import NotEnoughData


def settling_rows(delimiter: str, mark: str, heading: str = "") -> bytes:
    """A trace that settles at 0.940 V, one sample a second."""
    lines = [heading] if heading else []
    for second in range(60):
        volts = f"{0.94 - 0.4 * math.exp(-second / 6.0):.4f}".replace(".", mark)
        lines.append(delimiter.join([f"{second}{mark}0", volts]))
    return "\n".join(lines).encode()


class LoggerTests(unittest.TestCase):
    """A file is understood, or refused in words; what was left out is named."""

    def test_comma_semicolon_tab_and_decimal_comma_give_the_same_trace(self) -> None:
        files = [
            settling_rows(",", ".", "Time (s),Voltage (V)"),
            settling_rows(";", ",", "Zeit (s);Spannung (V)"),
            settling_rows("\t", ",", "t\tU"),
            settling_rows(";", "."),
        ]
        traces = [read_trace(content) for content in files]
        for trace in traces:
            self.assertEqual(trace.times_s, traces[0].times_s)
            self.assertEqual(trace.volts_v, traces[0].volts_v)
            self.assertEqual(trace.skipped, ())
        self.assertEqual([(t.delimiter, t.decimal) for t in traces], [("comma", "."), ("semicolon", ","), ("tab", ","), ("semicolon", ".")])  # fmt: skip

    def test_columns_are_found_by_their_names_in_any_order(self) -> None:
        content = b"Potential (mV),Temperature (C),Elapsed time (min)\n540,21.5,0\n700,21.5,0.1\n810,21.6,0.2\n"
        trace = read_trace(content)
        self.assertEqual(trace.times_s, (0.0, 6.0, 12.0))
        self.assertEqual([round(v, 6) for v in trace.volts_v], [0.54, 0.70, 0.81])
        self.assertEqual((trace.time_column, trace.volts_column, trace.unit), ("Elapsed time (min)", "Potential (mV)", "mV"))
        self.assertEqual(trace.others, ("Temperature (C)",))
        self.assertAlmostEqual(trace.resolution_v, 1e-3)

    def test_clock_times_dates_and_lines_of_remarks_before_the_heading(self) -> None:
        clock = b"Logger export\nRun 1\nclock;U/V\n09:41:58;0,90\n09:42:00;0,92\n09:42:03;0,93\n"
        self.assertEqual(read_trace(clock).times_s, (0.0, 2.0, 5.0))
        dated = b"time,volts\n2026-11-26T09:41:58,0.90\n2026-11-26T09:42:00,0.92\n2026-11-26T09:42:03,0.93\n"
        self.assertEqual(read_trace(dated).times_s, (0.0, 2.0, 5.0))

    def test_lines_that_are_no_samples_are_left_out_and_named(self) -> None:
        trace = read_trace(b"t,V\n0,0.90\n1,overload\n2,0.92\n2,0.93\n3,9999\n4,0.94\n5\n")
        self.assertEqual(trace.times_s, (0.0, 2.0, 4.0))
        self.assertEqual([s.line for s in trace.skipped], [3, 5, 6, 8])

    def test_the_end_is_judged_and_read_off(self) -> None:
        trace = read_trace(settling_rows(",", ".", "t,V"))
        found = judged(trace)
        assert found is not None
        self.assertTrue(found.steady)
        self.assertAlmostEqual(settled_v(trace), 0.940, places=3)
        early = read_trace("\n".join(settling_rows(",", ".").decode().splitlines()[:8]).encode())
        begun = judged(early)
        assert begun is not None
        self.assertFalse(begun.steady)

    def test_what_cannot_be_a_trace_is_refused_in_words(self) -> None:
        for content in (
            b"",
            b"only words here\n",
            b"5\n6\n7\n",
            b"\x00\x01\x02\xff\xfe",
            b"3,1\n2,1\n1,1\n",
            b"a,b\n1,x\n2,y\n3,z\n",
        ):
            with self.assertRaises(NotEnoughData) as refusal:
                read_trace(content)
            self.assertGreater(len(str(refusal.exception)), 20)

    @given(st.binary(max_size=400))
    def test_any_bytes_give_a_trace_or_a_sentence(self, content: bytes) -> None:
        try:
            trace = read_trace(content)
        except NotEnoughData:
            return
        self.assertEqual(len(trace.times_s), len(trace.volts_v))
        self.assertTrue(all(b > a for a, b in zip(trace.times_s, trace.times_s[1:], strict=False)))

    def test_thinning_keeps_both_ends(self) -> None:
        trace = read_trace(settling_rows(",", "."))
        kept = thinned(trace, 10)
        self.assertLessEqual(len(kept), 11)
        self.assertEqual((kept[0][0], kept[-1][0]), (0.0, 59.0))
