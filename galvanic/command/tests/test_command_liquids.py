"""The command line on one thing changed, on mixtures, and on cells of two solutions."""

import csv
import io
import json
import unittest

from galvanic.command.tests.running import run


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
