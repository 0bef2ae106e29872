"""Misconceptions heard in made-up sentences; a third of them was kept from tuning the rules."""

import csv
import hashlib
import unittest
from collections import Counter
from pathlib import Path

from galvanic.findings.misconceptions import keys_heard, misconceptions

TABLE = Path(__file__).parent / "data" / "sentences.csv"


def sentences():
    lines = [line for line in TABLE.read_text(encoding="utf-8").splitlines() if not line.startswith("#")]
    return list(csv.DictReader(lines))


def heard(rows):
    """Share of wrong sentences whose misconception is heard, and of right ones in which any is."""
    wrong = [row for row in rows if row["verdict"] == "wrong"]
    right = [row for row in rows if row["verdict"] == "right"]
    return (
        sum(row["misconception"] in keys_heard(row["sentence"]) for row in wrong) / len(wrong),
        sum(bool(keys_heard(row["sentence"])) for row in right) / len(right),
    )


class Sentences(unittest.TestCase):
    def test_there_are_enough_of_both_for_every_misconception_and_a_third_is_held_back(self):
        rows = sentences()
        counts = Counter(row["verdict"] for row in rows)
        self.assertGreaterEqual(min(counts.values()), 60)
        self.assertEqual(len({row["sentence"] for row in rows}), len(rows))
        of = Counter(row["misconception"] for row in rows if row["verdict"] == "wrong")
        self.assertLessEqual(set(of), set(misconceptions()))
        for row in rows:
            held = int(hashlib.sha256(row["sentence"].encode()).hexdigest(), 16) % 3 == 0
            self.assertEqual(row["held"] == "yes", held, row["sentence"])

    def test_nine_in_ten_are_heard_and_one_in_ten_misheard_at_most_also_among_those_held_back(self):
        rows = sentences()
        for held in ("no", "yes"):
            share, false = heard([row for row in rows if row["held"] == held])
            self.assertGreaterEqual(share, 0.9, held)
            self.assertLessEqual(false, 0.1, held)

    def test_a_question_and_a_denial_hold_none(self):
        self.assertEqual(keys_heard("More salt gives more volts."), ["ions_set_it"])
        self.assertEqual(keys_heard("Does more salt give more volts?"), [])
        self.assertEqual(keys_heard("More salt doesn\u2019t give more volts."), [])
        self.assertEqual(keys_heard("More salt gives more current. The volts stay the same."), [])
