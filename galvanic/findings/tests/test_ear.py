"""The trained ear: what it hears of sentences it has not learnt from, in both languages; and that its table is of these data."""

import csv
import io
import subprocess
import sys
import unittest
from contextlib import redirect_stdout
from pathlib import Path
from tempfile import TemporaryDirectory

import numpy as np

from galvanic.__main__ import main
from galvanic.findings.ear import TABLE, ear, features, hear, learnt_from, plain, sentences_of
from galvanic.findings.misconceptions import keys_heard, misconceptions

FRESH = Path(__file__).parent / "data" / "fresh.csv"


def fresh(language):
    """Sentences that it has not learnt from: those that hold a belief, and the others."""
    lines = [line for line in FRESH.read_text(encoding="utf-8").splitlines() if not line.startswith("#")]
    rows = [row for row in csv.DictReader(lines) if row["language"] == language]
    return [row for row in rows if row["belief"] != "-"], [row for row in rows if row["belief"] == "-"]


class Fresh(unittest.TestCase):
    def test_most_beliefs_are_heard_and_next_to_nothing_is_misheard(self):
        """As measured: 16 of 20 and 11 of 16, none of 36 misheard. The goal is nine in ten."""
        for language, least in (("en", 14), ("de", 10)):
            wrong, right = fresh(language)
            listen = keys_heard if language == "en" else hear
            found = sum(row["belief"] in listen(row["sentence"]) for row in wrong)
            misheard = [row["sentence"] for row in right if listen(row["sentence"])]
            with self.subTest(language):
                self.assertGreaterEqual(found, least)
                self.assertLessEqual(len(misheard), 1, misheard)

    def test_what_was_read_is_no_belief(self):
        for text in (
            "We read 0.94 V three times.",
            "The salt water read lower than the lemon.",
            "Wir haben 0,88 V gemessen.",
        ):
            self.assertEqual(keys_heard(text), [], text)

    def test_a_question_holds_none(self):
        self.assertEqual(hear("Does the lemon make the electricity?"), [])
        self.assertEqual(hear("The lemon makes the electricity."), ["fruit_makes_it"])


class Table(unittest.TestCase):
    def test_it_was_made_from_the_sentences_that_are_there(self):
        with np.load(TABLE) as kept:
            self.assertEqual(str(kept["digest"]), learnt_from(), "python -m tools.ear")

    def test_every_belief_that_is_heard_has_its_contradiction(self):
        self.assertLessEqual(set(ear().keys), set(misconceptions()))

    def test_it_needs_no_more_than_numpy(self):
        code = "import sys; from galvanic.findings.ear import hear; hear('x'); print('sklearn' in sys.modules)"
        said = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True).stdout
        self.assertEqual(said.strip(), "False")

    def test_a_denial_is_another_feature_in_its_own_clause(self):
        found = set(features("More salt gives more current, but not more volts."))
        self.assertTrue({"salt & current", "current & salt"} & found)
        self.assertIn("!volt", found)
        self.assertNotIn("volt", found)

    def test_numbers_become_their_units_and_end_no_sentence(self):
        self.assertIn("#v", plain("It was −0,94 V."))
        self.assertEqual(sentences_of("It was 0.94 V. So what?"), ["It was 0.94 V.", "So what?"])


class Command(unittest.TestCase):
    def test_a_line_a_sentence_keys_or_a_dash(self):
        with TemporaryDirectory() as folder:
            file = Path(folder) / "said.txt"
            file.write_text("The lemon makes the electricity.\n\nWe read 0.94 V.\n", encoding="utf-8")
            out = io.StringIO()
            with redirect_stdout(out):
                self.assertEqual(main(["hear", str(file)]), 0)
            self.assertEqual(out.getvalue(), "fruit_makes_it\n-\n")
            file.write_text("Die Zitrone macht den Strom.\n", encoding="utf-8")
            out = io.StringIO()
            with redirect_stdout(out):
                self.assertEqual(main(["hear", str(file), "--language", "de"]), 0)
            self.assertEqual(out.getvalue(), "fruit_makes_it\n")

    def test_a_file_that_is_not_there_is_said(self):
        self.assertEqual(main(["hear", "/nowhere.txt"]), 1)
