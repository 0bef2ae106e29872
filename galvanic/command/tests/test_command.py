"""The command line, run as its user would."""

import csv
import io
import json
import subprocess
import sys
import unittest
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest import mock

from galvanic.cells import Cell
from galvanic.chemistry.accounts import predict
from galvanic.chemistry.circuit import in_a_row
from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.expected import expect
from galvanic.chemistry.polarisation import Geometry, LoadedCell
from galvanic.command.main import main


def outside(*arguments, text=None):
    """As its user would: a process of its own."""
    found = subprocess.run([sys.executable, "-m", "galvanic", *arguments], input=text, capture_output=True, text=True)
    return found.returncode, found.stdout, found.stderr


def run(*arguments, text=None):
    """The same in this process, which starts SciPy once."""
    out, err = io.StringIO(), io.StringIO()
    given = io.TextIOWrapper(io.BytesIO((text or "").encode()))
    with mock.patch.multiple(sys, stdin=given, stdout=out, stderr=err):
        try:
            code = main(arguments)
        except SystemExit as stopped:  # wrong arguments
            code = int(stopped.code or 0)
    return code, out.getvalue(), err.getvalue()


class Command(unittest.TestCase):
    def test_sentences_are_listed_with_their_place_from_code_and_tables(self):
        code, out, err = outside("sentences")
        self.assertEqual((code, err), (0, ""))
        rows = dict(reversed(line.split("\t", 1)) for line in out.splitlines())
        self.assertGreater(len(rows), 600)
        self.assertIn("bench/checks.py", rows["Leads the other way round?"])
        self.assertIn("misconceptions.toml", rows["Current flows; a voltage is a difference between two places."])
        self.assertTrue(any("{…}" in text for text in rows))
        self.assertNotIn("Every sentence the core can say, with where it stands.", rows, "a docstring is not said")
        self.assertFalse([text for text in rows if "59 mV per pH at most" in text or "exact where" in text])

    def test_notes_of_a_class_come_a_line_each_and_what_is_left_out_first(self):
        head = "group,red,black,electrolyte,volts\n"
        rows = [f"{group},copper,zinc,lemon juice,0.9{n}" for group in ("Tern", "Knot", "Ruff") for n in range(3)]
        code, out, err = run("notes", "-", text=head + "\n".join([*rows, "Gull,copper,zinc,lemon juice,970"]))
        self.assertEqual((code, err), (0, ""))
        lines = [line.split("\t") for line in out.splitlines()]
        self.assertTrue(all(len(line) == 2 for line in lines), lines)
        self.assertEqual(lines[0][0], "left_out_millivolts")
        self.assertIn("Gull", lines[0][1])
        self.assertIn("widest_gap", [code for code, _ in lines])
        for volts in ("0.00", "970", "-0.95"):  # it never fails on a table that can be read
            code, out, _ = run("notes", "-", text=head + "\n".join(f"{g},copper,zinc,lemon juice,{volts}" for g in "ABC"))
            self.assertEqual(code, 0, volts)
        code, out, err = run("ladder", "-", text=head + "\n".join([*rows, "Gull,copper,zinc,lemon juice,970"]))
        self.assertIn("left out: Gull, Zn | Cu, 970\u202fV", err)
        self.assertIn("zinc,-0.56", out)  # 0.91 V below copper, as the others have it

    def test_a_gap_that_no_cell_has_is_refused(self):
        code, out, err = run("gap", "zinc", "lemon juice", "copper", "940")
        self.assertEqual((code, out), (1, ""))
        self.assertIn("No cell of two plates gives 940 V", err)

    def test_predict_keeps_the_columns_and_adds_the_four_accounts(self):
        text = "note,negative,electrolyte,positive\nmine,Galvanised nail,lime juice,carbon\n,iron,sweet potato,Al foil\n"
        code, out, err = run("predict", "-", text=text)
        self.assertEqual((code, err), (0, ""))
        rows = list(csv.DictReader(io.StringIO(out)))
        self.assertEqual(
            list(rows[0]),
            ["note", "negative", "electrolyte", "positive", "standard_v", "hydrogen_v", "series_v", "rest_v", "u_rest_v"],
        )
        self.assertEqual((rows[0]["note"], rows[0]["standard_v"]), ("mine", ""))
        expected = predict(
            [Cell("galvanized-nail", "lime-juice", "graphite"), Cell("steel", "sweet-potato", "aluminium-foil")]
        )
        for row, found in zip(rows, expected, strict=True):
            self.assertAlmostEqual(float(row["rest_v"]), found["rest"].volts_v, places=5)
            self.assertAlmostEqual(float(row["u_rest_v"]), found["rest"].u_v, places=5)

    def test_predict_in_json_says_why_there_is_no_answer(self):
        code, out, _ = run("predict", "-", "--json", text="negative;electrolyte;positive\nZn;lemon;C\n")
        row = json.loads(out)[0]
        self.assertEqual((code, row["standard_v"]), (0, None))
        self.assertIn("does not dissolve", row["reasons"]["standard"])

    def test_an_unknown_name_gives_its_line_the_nearest_three_and_code_2(self):
        code, out, err = run(
            "predict", "-", text="negative,electrolyte,positive\nzinc,lemon juice,copper\nzinkk,lemon juice,copper\n"
        )
        self.assertEqual((code, out), (2, ""))
        self.assertIn("line 3", err)
        self.assertIn("Nearest: zinc", err)
        self.assertEqual(run("gap", "zinc", "gravy", "copper", "0.9")[0], 2)

    def test_ladder_prints_potentials_and_says_what_is_odd(self):
        rows = ["group,red,black,electrolyte,volts"]
        for group in "ABCD":
            rows += [f"{group},Cu,Zn,lemon juice,0.95", f"{group},Sn,Zn,lemon juice,0.55", f"{group},Cu,Sn,lemon juice,0.40"]
            rows += [f"{group},Cu,Fe,lemon juice,0.52", f"{group},Fe,Zn,lemon juice,0.43"]
        rows[-1] = "D,Fe,Zn,lemon juice,0.75"
        code, out, err = run("ladder", "-", text="\n".join(rows))
        self.assertEqual(code, 0)
        found = {row["electrode"]: row for row in csv.DictReader(io.StringIO(out))}
        self.assertEqual(
            list(next(iter(found.values()))),
            ["electrolyte", "electrode", "potential_v", "u_v", "low_v", "high_v", "table_v"],
        )
        self.assertAlmostEqual(float(found["tin"]["potential_v"]) - float(found["zinc"]["potential_v"]), 0.55, delta=0.08)
        self.assertRegex(err, r"odd: D, (Fe − Zn|Zn − Fe)")
        self.assertIn("lemon juice: Too few loops to tell. ", err)  # as the page says it: one group of four

    def test_ladder_says_what_it_could_not_do(self):
        text = "group,red,black,electrolyte,volts\nA,Cu,Zn,vinegar,0.9\nA,Sn,Ni,vinegar,0.1\nA,C,Pt,tap water,0.1\n"
        code, out, err = run("ladder", "-", text=text)
        self.assertEqual(code, 0)
        self.assertIn("no chain of cells connects", err)
        self.assertIn("no loop to check", err)

    def test_bad_rows_and_files_are_refused_with_their_line(self):
        head = "group,red,black,electrolyte,volts\n"
        for text, said in [
            (head + "A,Cu,Zn,vinegar,lots\n", "line 2"),
            (head + "A,Cu,Cu,vinegar,0\n", "same plate"),
            ("x,y\n1,2\n", "missing"),
        ]:
            code, out, err = run("ladder", "-", text=text)
            self.assertEqual((code, out), (1, ""))
            self.assertIn(said, err)
        self.assertEqual(run("ladder", "/nowhere.csv")[0], 1)

    def test_a_claim_is_weighed_on_the_reading(self):
        code, out, _ = run("claim", "no_ions", "zinc", "lemon juice", "copper", "0.94", "--json")
        told = json.loads(out)
        self.assertEqual((code, told["verdict"]), (0, "cancels"))
        code, out, _ = run("claim", "no_ions", "zinc", "lemon juice", "copper", "0.30")
        self.assertEqual((code, out.splitlines()[0]), (0, "cannot_tell"))
        self.assertEqual(run("claim", "witchcraft", "zinc", "lemon juice", "copper", "0.9")[0], 2)
        self.assertEqual(run("claim", "film", "zinc", "lemon juice", "copper", "940")[0], 1)

    def test_what_happens_at_the_plates_is_written_for_the_liquid(self):
        code, out, _ = run("plates", "zinc", "lemon juice", "copper", "--json")
        told = json.loads(out)
        self.assertEqual((code, told["negative"]["plate"], told["positive"]["plate"]), (0, "zinc", "copper"))
        shares = [row["share"] for row in told["positive"]["reactions"]]
        self.assertAlmostEqual(sum(shares), 1.0, delta=0.02)
        self.assertIn("Cu₂O + 2 H⁺ + 2 e⁻ → 2 Cu + H₂O", [row["equation"] for row in told["positive"]["reactions"]])
        self.assertIn("2 H⁺ + 2 e⁻ → H₂", run("plates", "magnesium", "lemon juice", "copper")[1].split("positive")[0])

    def test_gap_adds_up_in_text_and_json(self):
        code, out, _ = run("gap", "aluminium", "rhubarb juice", "copper", "0.60", "--json")
        found = json.loads(out)
        self.assertEqual(code, 0)
        self.assertAlmostEqual(found["start_v"] + sum(c["volts_v"] for c in found["causes"]), 0.6, places=9)
        text = run("gap", "aluminium", "rhubarb juice", "copper", "600 mV", "--offset-v", "-0.06")[1]
        self.assertIn("Meter offset", text)
        self.assertIn("+0.600 V  measured", text)

    def test_load_is_the_cores_and_takes_the_geometry(self):
        code, out, _ = run(
            "load", "zinc | lemon juice | copper", "0", "--area-cm2", "8", "--gap-cm", "1", "--pairs", "3", "--json"
        )
        expected = LoadedCell.of(Cell("zinc", "lemon-juice", "copper"), Geometry(8e-4, 0.01, 3)).at_load(0.0)
        self.assertEqual(code, 0)
        self.assertAlmostEqual(json.loads(out)["current_a"], expected.current_a, places=12)
        self.assertEqual(run("load", "zinc, copper", "0")[0], 1)
        self.assertEqual(run("load", "zinc|lemon|copper", "-5")[0], 1)
        self.assertIn("mA", run("load", "zinc|lemon|copper", "1000")[1])

    def test_a_cell_given_the_wrong_way_round_or_with_one_plate_twice_is_said(self):
        for command in (("gap", "copper", "lemon juice", "zinc", "-0.9"), ("load", "copper | lemon juice | zinc", "1000")):
            code, _, said = run(*command)
            self.assertEqual(code, 0)
            self.assertIn("Given the wrong way round: in lemon juice zinc is expected to be the negative plate.", said)
        code, out, said = run("load", "graphite | lemon juice | graphite", "1000")
        self.assertIn("Both plates are graphite", said)
        self.assertIn("0.0000 V, 0 mA", out)
        self.assertNotIn("-", out)
        self.assertEqual(run("gap", "zinc", "lemon juice", "copper", "0.9")[2], "")

    def test_a_meter_of_no_resistance_is_refused_in_words(self):
        for ohms in ("nan", "0", "-5"):
            code, _, said = run("gap", "zinc", "lemon juice", "copper", "0.9", "--meter-ohm", ohms)
            self.assertEqual(code, 1)
            self.assertIn("resistance is above zero", said)

    def test_every_number_of_a_material_leads_to_its_source(self):
        code, out, _ = run("materials", "zinc")
        self.assertEqual(code, 0)
        for said in (
            "-0.7618",
            "handbook: Electrochemical series",
            "CRC Handbook",
            "from memory",
            "Vetter",
            "Estimated for this catalogue",
        ):
            self.assertIn(said, out)
        self.assertIn("Approximate pH of Foods", run("materials", "lime juice")[1])
        self.assertEqual(run("materials", "cheese")[0], 2)
        listed = json.loads(run("materials", "--json")[1])
        self.assertGreaterEqual(sum(row["kind"] == "electrode" for row in listed), 24)
        self.assertGreaterEqual(sum(row["kind"] == "electrolyte" for row in listed), 40)
        self.assertIn("kinetics", json.loads(run("materials", "copper", "--json")[1]))

    def test_a_file_from_a_spreadsheet_is_read(self):
        with TemporaryDirectory() as folder:
            file = Path(folder) / "cells.csv"
            file.write_bytes("\ufeffNegative;Electrolyte;Positive\r\nZn;Zitronentee;Cu\r\n".encode())
            self.assertEqual(run("predict", str(file))[0], 2)
            file.write_bytes("\ufeff# a comment\r\nNegative\tElectrolyte\tPositive\r\nZn\tvinegar\tCu\r\n".encode())
            self.assertEqual(run("predict", str(file))[0], 0)


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


class OneThingChanged(unittest.TestCase):
    def asked(self, *arguments):
        code, out, err = run(*arguments, "--json")
        self.assertEqual(code, 0, err)
        return json.loads(out)

    def test_vary_gives_volts_and_amperes_at_each_level(self):
        found = self.asked("vary", "zinc | lemon juice | copper", "spacing", "1", "2", "4 cm", "8")
        self.assertEqual([(one["value"], one["unit"]) for one in found], [(v, "cm") for v in (1.0, 2.0, 4.0, 8.0)])
        self.assertTrue(all(one["u_open_v"] > 0.0 for one in found))
        self.assertGreater(found[0]["short_a"], found[-1]["short_a"])

    def test_vary_without_levels_takes_the_usual_ones_and_says_what_to_keep(self):
        code, out, err = run("vary", "zinc | lemon juice | copper", "stirring")
        self.assertEqual((code, len(out.splitlines())), (0, 3))
        self.assertIn("Keep the same: depth", err)

    def test_mix_gives_acidity_conductivity_and_chloride(self):
        found = self.asked("mix", "lemon juice", "--add", "table salt 2 g", "--volume-ml", "100")
        self.assertAlmostEqual(found["chloride_mol_per_l"], 2.0 / 58.44 / 0.1 + 0.002, delta=1e-3)  # 58.44 g/mol
        self.assertGreater(found["conductivity_s_per_m"], 5.0 * found["before"]["conductivity_s_per_m"])
        self.assertEqual(found["ph"], found["before"]["ph"])

    def test_mix_takes_liquids_several_things_and_a_pair_of_plates(self):
        found = self.asked(
            "mix", "tap water", "--add", "10 mL lemon juice", "--add", "water 0.04 L", "--plates", "zinc | copper"
        )
        self.assertEqual(found["volume_ml"], 150.0)
        self.assertLess(found["ph"], 4.0)
        self.assertGreater(found["cell"]["short_a"], found["cell"]["short_a_before"])

    def test_refusals_name_what_is_wrong(self):
        juice = "zinc | lemon juice | copper"
        for arguments, code, said in (
            (("vary", juice, "stiring"), 2, "Nearest: stirring"),
            (("vary", juice, "spacing", "900"), 1, "lies between"),
            (("vary", juice, "spacing", "nan"), 1, "is no number"),
            (("vary", juice, "cooked", "raw"), 1, "compared, not foretold"),
            (("vary", juice, "concentration", "1"), 1, "vary its dilution"),
            (("mix", "lemon juice", "--add", "salt"), 1, "is not understood"),
            (("mix", "lemon juice", "--add", "salt 2 mL"), 1, "measured in g"),
            (("mix", "lemon juice", "--add", "kryptonite 2 g"), 2, "No addition"),
            (("mix", "lemon juice", "--add", "salt 90 g"), 1, "do not dissolve"),
            (("mix", "lemon juice", "--volume-ml", "0"), 1, "above zero"),
            (("mix", "lemon juice", "--plates", "zinc"), 1, "Write the plates"),
        ):
            with self.subTest(arguments):
                found, out, err = run(*arguments)
                self.assertEqual((found, out), (code, ""))
                self.assertIn(said, err)


class TwoSolutions(unittest.TestCase):
    DANIELL = "zinc | zinc sulfate 1.0 mol/L || copper sulfate 1.0 mol/L | copper"

    def test_predict_and_gap_read_a_cell_with_a_bridge(self):
        code, out, _ = run("predict", self.DANIELL, "--json")
        found = json.loads(out)[0]
        self.assertEqual(code, 0)
        self.assertAlmostEqual(found["rest_v"], 1.10, delta=0.01)
        code, out, _ = run("gap", self.DANIELL, "1.08", "--json")
        steps = json.loads(out)
        self.assertEqual(code, 0)
        whole = steps["start_v"] + steps["strength_v"] + steps["activity_v"] + steps["junction_v"] + steps["left_v"]
        self.assertAlmostEqual(whole, steps["measured_v"], places=9)

    def test_a_file_may_have_two_solutions_with_what_they_are_made_up_to_beside_cells_of_one_liquid(self):
        strengths = "zinc sulfate 1.0 mol/L || copper sulfate 1.0 mol/L"
        text = f"negative,electrolyte,positive\nZinc,{strengths},copper\nzinc,lemon juice,copper\n"
        code, out, err = run("predict", "-", text=text)
        self.assertEqual((code, err), (0, ""))
        two, one = csv.DictReader(io.StringIO(out))
        self.assertEqual((two["negative"], two["electrolyte"], two["hydrogen_v"]), ("Zinc", strengths, ""))
        alone = json.loads(run("predict", self.DANIELL, "--json")[1])[0]
        self.assertAlmostEqual(float(two["rest_v"]), alone["rest_v"], places=6)
        self.assertTrue(one["hydrogen_v"])
        rows = json.loads(run("predict", "-", "--json", text=text)[1])
        self.assertAlmostEqual(rows[0]["nernst_v"], alone["nernst_v"])
        code, out, err = run("predict", "-", text=text.replace("zinc sulfate 1.0 mol/L ||", "gravy ||"))
        self.assertEqual((code, out), (1, ""))
        self.assertIn("line 2: “gravy” is no solution", err)

    def test_what_cannot_be_is_refused_in_words(self):
        for text, said in (
            ("zinc | copper sulfate 1.0 mol/L || copper sulfate 1.0 mol/L | copper", "displacement"),
            ("silver | silver nitrate 0.1 mol/L || zinc chloride 0.1 mol/L | zinc", "silver chloride falls out"),
            ("zinc | zinc sulfate || copper sulfate 1 mol/L | copper", "is no solution"),
            ("zinc || copper", "Write both sides"),
        ):
            with self.subTest(text):
                code, out, err = run("predict", text)
                self.assertEqual((code, out), (1, ""))
                self.assertIn(said, err)
        self.assertIn("Name the negative plate", run("gap", "zinc", "0.9")[2])
