"""The command line on cells, classes and materials, run as its user would."""

import csv
import io
import json
import unittest
from pathlib import Path
from tempfile import TemporaryDirectory

from galvanic.cells import Cell
from galvanic.chemistry.accounts import predict
from galvanic.chemistry.polarisation import Geometry, LoadedCell
from galvanic.command.tests.running import outside, run


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

    def test_which_account_a_class_speaks_for_is_said_of_a_hundred(self):
        head = "group,red,black,electrolyte,volts\n"
        pairs = [("copper", "zinc", 0.98), ("tin", "zinc", 0.55), ("copper", "tin", 0.43), ("zinc", "magnesium", 0.62)]
        rows = [
            f"{group},{red},{black},lemon juice,{volts}" for group in ("Tern", "Knot", "Ruff") for red, black, volts in pairs
        ]
        code, out, err = run("decide", "-", text=head + "\n".join(rows))
        self.assertEqual(code, 0)
        shares = {row["account"]: int(row["share"]) for row in csv.DictReader(io.StringIO(out))}
        self.assertEqual(sum(shares.values()), 100)
        self.assertEqual(max(shares, key=lambda name: shares[name]), "rest")
        self.assertIn("Rest-potential model", err)
        code, out, _ = run("decide", "-", "--json", text=head + rows[0])
        found = json.loads(out)
        self.assertEqual((code, found["cells"], len(found["shares"])), (0, 1, 5))
        self.assertEqual([one["cell"] for one in found["telling"]], ["Zn | lemon juice | Cu"])

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

    def test_names_and_sentences_come_in_german_and_columns_as_ever(self):
        text = "group,red,black,electrolyte,volts\nTern,Kupfer,Zink,Zitronensaft,970\nTern,copper,zinc,lemon juice,0.94\n"
        for arguments in (("--language", "de", "notes", "-"), ("notes", "-", "--language", "de")):
            code, out, err = run(*arguments, text=text)
            self.assertEqual((code, err), (0, ""))
            self.assertIn("left_out_millivolts\tTern: Millivolt als Volt geschrieben?", out)
        _, out, _ = run("ladder", "-", "--language", "de", text=text)
        self.assertTrue(out.startswith("electrolyte,electrode,potential_v"))
        self.assertIn("Zitronensaft,Zink,-0.5", out)
        self.assertIn("lemon juice,zinc,-0.5", run("ladder", "-", text=text)[1])  # and the next one speaks English again
        self.assertEqual(run("--language", "xx", "notes", "-", text=text)[0], 2)

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
        self.assertEqual(told["positive"]["reactions"][0]["equation"], "2 H⁺ + 2 e⁻ → H₂")
        self.assertIn("Cu₂O + 2 H⁺ + 2 e⁻ → 2 Cu + H₂O", run("plates", "zinc", "potato", "copper")[1])
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
