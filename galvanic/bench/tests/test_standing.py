"""One verdict on each reading, on classes whose mistakes are known."""

import itertools
import unittest
from collections import Counter
from dataclasses import dataclass
from typing import Any

from galvanic.bench.class_reference import Reference
from galvanic.bench.readings import parse
from galvanic.bench.standing import Stand, doubtful, previewed, standings, values_that_count
from galvanic.cells import Cell
from galvanic.simulated.slips import SLIPS, with_slips

PLATES = ("magnesium", "zinc", "steel", "copper", "tin")
LIQUID = "lemon-juice"
PAIRS = [Cell.of(a, LIQUID, b) for a, b in itertools.combinations(PLATES, 2)]
ZINC_COPPER = Cell.of("zinc", LIQUID, "copper")
ACCOUNT = Reference(PLATES, (LIQUID,), [], "")


@dataclass(frozen=True)
class Said:
    """A reading as the verdicts take it."""

    id: Any
    group: Any
    cell_id: Any
    cell: Cell
    signed_v: float
    resolution_v: float = 0.01
    decided: bool = False


def said(values, cell=ZINC_COPPER, decided=False):
    """One reading of each group of one cell, by group."""
    return [Said(n, f"G{n}", n, cell, v, decided=decided) for n, v in enumerate(values)]


def hands(groups, cells=6):
    return [[PAIRS[(3 * group + k) % len(PAIRS)] for k in range(cells)] for group in range(groups)]


def rows_of(entries):
    rows = []
    for number, entry in enumerate(entries):
        parsed = parse(entry.typed.text, entry.typed.unit)
        rows.append(Said(number, entry.group, (entry.group, entry.place), entry.cell, parsed.volts_v, parsed.resolution_v))
    return rows


def verdicts(values, **more):
    found = standings(said(values, **more), ACCOUNT)
    return [found[n].stand.value if n in found else "counts" for n in range(len(values))]


class Previews(unittest.TestCase):
    def test_what_could_be_put_right_says_what_it_would_be_beside_the_others(self):
        rows = said([0.95, -0.97, 0.93, 970.0])
        shown = previewed(rows, standings(rows, ACCOUNT))
        for number, would_be in ((1, "+0.97"), (3, "+0.97")):
            self.assertIn(f"it would be {would_be}\u202fV; other groups have +0.94\u202fV", shown[number].why)
        self.assertEqual(set(shown), {1, 3})

    def test_where_nobody_else_has_the_cell_it_says_so(self):
        rows = said([970.0])
        self.assertIn("no other group has this cell", previewed(rows, standings(rows, ACCOUNT))[0].why)


class Verdicts(unittest.TestCase):
    def test_a_number_a_thousand_times_too_large_is_impossible_and_says_what_it_would_be(self):
        found = standings(said([0.95, 970.0, 0.93]), ACCOUNT)
        self.assertEqual(set(found), {1})
        self.assertEqual((found[1].stand, found[1].code, found[1].repaired_v), (Stand.IMPOSSIBLE, "millivolts", 0.97))
        self.assertFalse(found[1].counts)
        self.assertIn("0.97", found[1].why)
        self.assertEqual(standings(said([0.95, 123456.0]), ACCOUNT)[1].code, "beyond")

    def test_more_than_these_plates_give_is_impossible_unless_another_group_found_the_like(self):
        self.assertEqual(verdicts([0.95, 1.61, 0.93]), ["counts", "impossible", "counts"])
        self.assertEqual(verdicts([1.61, 1.60, 0.93]), ["counts", "counts", "counts"])
        self.assertEqual(verdicts([9.4, 9.5, 0.93]), ["impossible", "impossible", "counts"])  # which no two plates give

    def test_of_two_groups_with_opposite_signs_it_is_the_one_whom_the_account_denies(self):
        magnesium = Cell.of("magnesium", LIQUID, "copper")
        found = standings(said([1.48, -1.62], cell=magnesium), ACCOUNT)
        self.assertEqual({key: one.stand for key, one in found.items()}, {1: Stand.TURNED})
        self.assertEqual(found[1].repaired_v, 1.62)

    def test_a_group_alone_with_its_sign_among_many_is_turned_whatever_the_account_says(self):
        close = Cell.of("steel", LIQUID, "tin")
        self.assertEqual(verdicts([0.2, 0.21, -0.2, 0.19], cell=close), ["counts", "counts", "turned", "counts"])
        self.assertEqual(verdicts([0.2, -0.2], cell=close), ["counts", "counts"])  # who is right nobody can say

    def test_a_sign_lost_once_is_told_by_the_groups_own_other_readings(self):
        close = Cell.of("steel", LIQUID, "tin")
        rows = [Said(n, "G", "c", close, v) for n, v in enumerate((-0.2, 0.21, -0.2))]
        self.assertEqual({key: one.stand for key, one in standings(rows, ACCOUNT).items()}, {1: Stand.TURNED})

    def test_what_a_teacher_has_decided_counts(self):
        self.assertEqual(verdicts([0.95, 970.0], decided=True), ["counts", "counts"])

    def test_what_is_doubtful_counts_and_says_why(self):
        reference = Reference(PLATES, (LIQUID,), values_that_count(said([0.95, 0.93, 0.94]), {}), "G9")
        [found] = doubtful([Said("x", "G9", "c", ZINC_COPPER, 0.4)], reference).values()
        self.assertEqual((found.stand, found.code, found.counts), (Stand.DOUBTFUL, "far", True))


class Classes(unittest.TestCase):
    """On simulated classes: nothing sound is left out, and what is certain is found."""

    def tried(self, name, groups=(2, 4, 8), seeds=12):
        told = Counter()
        for n in groups:
            for seed in range(seeds):
                entries = with_slips(hands(n), seed, [name] if name else [])
                found = standings(rows_of(entries), ACCOUNT)
                told.update((entry.kind, number not in found) for number, entry in enumerate(entries))
        return told

    def test_no_reading_of_a_sound_class_is_left_out(self):
        self.assertEqual(self.tried(None)["", False], 0)

    def test_no_sound_reading_is_left_out_for_anybodys_mistake(self):
        for name in SLIPS:
            if name not in ("half-way", "two groups", "a group that stops"):
                self.assertEqual(self.tried(name, groups=(4,), seeds=8)["", False], 0, name)

    def test_most_of_what_is_turned_or_in_millivolts_is_found(self):
        for name, kind, least in (
            ("one value in millivolts", "millivolts", 0.95),
            ("one group in millivolts", "millivolts", 0.95),
            ("all in millivolts", "millivolts", 0.95),
            ("one impossible value", "impossible", 1.0),
            ("leads turned in one group", "turned", 0.9),
            ("leads turned in all", "turned", 0.85),
            ("leads turned in one cell", "turned", 0.65),  # where nobody else has it and the account is unsure, nobody can
        ):
            told = self.tried(name)
            found = told[kind, False] / (told[kind, False] + told[kind, True])
            self.assertGreaterEqual(found, least, name)
