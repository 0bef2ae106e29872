"""The command line on packs, runs and how long they last."""

import csv
import io
import json
import unittest

from galvanic.cells import Cell
from galvanic.chemistry.circuit import in_a_row
from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.expected import expect
from galvanic.chemistry.polarisation import Geometry
from galvanic.command.tests.running import run


class Power(unittest.TestCase):
    """Packs, runs, fits and life, as they are asked for from outside."""

    LEMON = "zinc | lemon juice | copper"

    def asked(self, *arguments, text=None):
        code, out, err = run(*arguments, "--json", text=text)
        self.assertEqual(code, 0, err)
        return json.loads(out)

    def test_a_pack_gives_its_numbers_by_their_names(self):
        found = self.asked("pack", f"4 * {self.LEMON}", "--load", "led-red", "--area-cm2", "5")
        expected = expect(in_a_row([PackCell(Cell("zinc", "lemon-juice", "copper"), Geometry(5e-4, 0.02))] * 4), "led-red")
        self.assertEqual((found["verdict"], found["runs"]), ("runs", expected.runs))
        self.assertAlmostEqual(found["current_a"], expected.meeting.current_a)
        self.assertEqual(len(found["cells"]), 4)
        self.assertAlmostEqual(sum(cell["volts_v"] for cell in found["cells"]), found["volts_v"], delta=2e-3)
        for key in ("open_v", "volts_v", "options", "holds_back"):
            self.assertIn(key, found)

    def test_kinds_rows_and_ohms(self):
        found = self.asked("pack", f"2 * {self.LEMON} + Mg | salt water | Cu", "--load", "470", "--rows", "2")
        self.assertEqual([cell["cell"][:2] for cell in found["cells"]], ["Zn", "Zn", "Mg"] * 2)
        self.assertAlmostEqual(found["current_a"], found["volts_v"] / 470.0, delta=1e-6)
        self.assertEqual(found["verdict"], "runs")

    def test_the_smallest_pack(self):
        found = self.asked("smallest", self.LEMON, "--load", "red LED")
        self.assertTrue(1 < found["cells"] <= 4)
        self.assertEqual(found["verdict"], "runs")
        none = self.asked("smallest", "zinc | tap water | copper", "--load", "motor")
        self.assertEqual((none["cells"], none["verdict"]), (None, "no"))

    def test_a_run_has_its_rows_and_its_events(self):
        code, out, _ = run(
            "run", self.LEMON, "--events", "0 open; 120 load 470; 720 open", "--until", "1200", "--every", "10"
        )
        rows = list(csv.DictReader(io.StringIO(out)))
        self.assertEqual((code, len(rows), list(rows[0])), (0, 121, ["t_s", "volts_v", "current_a"]))
        volts = {float(row["t_s"]): float(row["volts_v"]) for row in rows}
        self.assertTrue(volts[710.0] < volts[130.0] < volts[110.0] and volts[1200.0] > 0.95 * volts[110.0])
        at_600 = next(row for row in rows if float(row["t_s"]) == 600.0)
        self.assertAlmostEqual(float(at_600["current_a"]), float(at_600["volts_v"]) / 470.0, delta=2e-6)

    def test_a_fit_comes_in_seconds_and_volts(self):
        rows = "".join(f"{t / 60},{1000 * (0.3 + 0.4 * 2.718281828 ** (-t / 60.0))}\n" for t in range(0, 601, 20))
        found = self.asked("fit", "-", text=f"t_min,volts_mv\n{rows}")
        self.assertAlmostEqual(found["volts_v"]["level"]["value"], 0.3, places=4)
        self.assertAlmostEqual(found["volts_v"]["parts"][0]["time_s"]["value"], 60.0, places=2)

    def test_life_says_what_ends_first(self):
        found = self.asked("life", f"3 * {self.LEMON}", "--load", "led-red", "--volume-ml", "40", "--zinc-um", "10")
        self.assertEqual(found["first"], "metal")
        self.assertEqual({end["what"] for end in found["ends"]}, {"acid", "metal", "room", "water"})

    def test_refusals_name_what_is_wrong(self):
        for arguments, code, said in (
            (("pack", f"2 * {self.LEMON}", "--load", "led-red", "--one-vessel"), 1, "share one liquid"),
            (("pack", "zinc | lemon juice", "--load", "led-red"), 1, "is not understood"),
            (("pack", "zinkk | lemon juice | copper", "--load", "led-red"), 2, "Nearest"),
            (("pack", self.LEMON, "--load", "lamp oil"), 2, "type ohms"),
            (("pack", f"0 * {self.LEMON}", "--load", "led-red"), 1, "from one to"),
            (("pack", self.LEMON, "--load", "led-red", "--after", "nan"), 1, "after joining"),
            (("life", self.LEMON, "--load", "470", "--cup-price", "nan"), 1, "A price"),
            (("run", self.LEMON, "--until", "100", "--events", "50 explode"), 1, "is no event"),
            (("run", self.LEMON, "--until", "100", "--events", "50 short; 10 open"), 1, "runs back"),
            (("run", self.LEMON, "--until", "nan"), 1, "lasts from"),
            (("run", self.LEMON, "--until", "1e6", "--every", "0.1"), 1, "longer step"),
            (("life", self.LEMON, "--load", "470", "--volume-ml", "0"), 1, "A cup holds"),
            (("fit", "/nowhere.csv"), 1, "cannot be read"),
        ):
            with self.subTest(arguments):
                found, out, err = run(*arguments)
                self.assertEqual((found, out), (code, ""))
                self.assertIn(said, err)
        code, _, err = run("fit", "-", text="t_weeks,volts_v\n0,1\n")
        self.assertEqual(code, 1)
        self.assertIn("is no unit", err)

    def test_a_pack_the_wrong_way_round_is_said(self):
        self.assertIn("wrong way round", run("pack", "copper | lemon juice | zinc", "--load", "led-red")[2])
