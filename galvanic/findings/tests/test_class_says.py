"""What went wrong in a class is named first, and what that explains is silent. `bench/explained.py` tries many more classes."""

from __future__ import annotations

import unittest
from functools import cache

from galvanic.cells import Cell
from galvanic.findings.class_says import class_says
from galvanic.findings.class_standing import standing_readings
from galvanic.findings.compare import ClassReading, compare
from galvanic.findings.group_lists import visits
from galvanic.findings.ranked import EXPLAINS, FALSIFIES, OF_THE_LADDER, Ranked, unexplained
from galvanic.notes import Note
from galvanic.planning.design import Task, design
from galvanic.simulated.rehearsal import Entry
from galvanic.simulated.slips import with_slips
from galvanic.statistics.drift import Shared

PLATES = ("magnesium", "zinc", "steel", "tin", "nickel", "copper")
JUICE = "lemon-juice"


@cache
def hands(groups: int) -> tuple[tuple[Cell, ...], ...]:
    return tuple(tuple(hand) for hand in design(Task(PLATES, (JUICE,), groups, 6)).hands)


def readings(entries: list[Entry]) -> list[ClassReading]:
    rows = []
    for one in entries:
        step, cell = 10.0 ** -len(one.typed.text.partition(".")[2]), one.cell
        name = f"Bench {one.group + 1}"
        rows.append(ClassReading(name, cell.positive, cell.negative, JUICE, float(one.typed.text), step))
    return rows


def notes(*slips: str, groups: int = 5, seed: int = 1) -> list[Note]:
    every = readings(with_slips(hands(groups), seed, slips))
    counting, left_out = standing_readings(every)
    return list(class_says(every, counting, left_out, compare(counting)).in_order)


class Mistakes(unittest.TestCase):
    """Each mistake of a class by its name, before anything that it explains."""

    def first(self, slip: str, code: str, *silent: str, groups: int = 5) -> Note:
        for seed in (1, 2, 3):
            with self.subTest(slip=slip, seed=seed):
                said = notes(slip, groups=groups, seed=seed)
                self.assertEqual(said[0].code, code)
                self.assertEqual({note.code for note in said} & set(silent), set())
        return said[0]

    def test_lists_that_are_no_measurements_are_named_and_nobody_is_called_odd_for_them(self) -> None:
        self.first("one number for every cell", "constant", "outlier", "offset", "plate_changed", "scale")
        self.first("copied from the table", "copied", "outlier", "offset", "plate_changed")
        self.first("noise of a volt", "noise", "outlier", "left_out_reversed", "offset")
        self.first("one group zero", "nothing_read", "outlier", "constant", "offset")

    def test_what_is_wrong_for_everybody_silences_the_ladder(self) -> None:
        for slip, code in (
            ("all zero", "nothing_read"),
            ("all copied from the table", "copied"),
            ("leads turned in all", "left_out_reversed"),
            ("all in millivolts", "left_out_millivolts"),
        ):
            self.first(slip, code, *OF_THE_LADDER)

    def test_of_two_ways_to_see_a_drift_one_is_said(self) -> None:
        every = readings(with_slips(hands(5), 1, ["a drift with the order of cells"]))
        group_level = [Shared(f"Bench {g}", m, 0.95 - 0.002 * m) for g in range(1, 6) for m in (5.0, 6.0, 45.0, 46.0)]
        codes = [note.code for note in class_says(every, every, [], compare(every), group_level).in_order]
        self.assertIn("drift", codes)
        self.assertNotIn("order_drift", codes)

    def test_what_holds_for_everybody_silences_what_liquids_do_too(self) -> None:
        def in_two(volts: float) -> set[str]:
            of = {"copper": 1.0, "tin": 0.5}
            rows = [
                ClassReading(f"G{g}", red, "zinc", liquid, round(volts * of[red] * (0.9 + 0.02 * g), 3), 0.001)
                for g in range(4)
                for liquid in (JUICE, "salt-water")
                for red in ("copper", "tin")
            ]
            return {note.code for note in class_says(rows, rows, [], compare(rows)).in_order}

        self.assertIn("what_matters", in_two(1.0))
        self.assertNotIn("what_matters", in_two(0.0))

    def test_a_note_for_everybody_says_all_groups(self) -> None:
        self.assertTrue(notes("all zero")[0].title.startswith("All groups"))

    def test_what_goes_with_the_order_of_cells(self) -> None:
        drift = self.first("a drift with the order of cells", "order_drift", "no_drift")
        self.assertIn("less, whatever the cell", drift.text)
        for note in (notes("a drift with the order of cells", seed=seed)[0] for seed in range(4, 8)):
            part = float(note.text.partition("read ")[2].split()[0])
            self.assertLess(abs(part - 0.8), 0.7)  # 0.8 % a cell was put in
        self.first("a flat meter", "scale", "offset", groups=8)

    def test_a_number_of_another_cup_a_lost_point_and_tenths(self) -> None:
        self.first("a lost comma", "left_out_comma")
        self.first("a coarse meter", "coarse")
        said = [
            note for seed in range(12) for note in notes("a value of another cup", seed=seed) if note.code == "same_numbers"
        ]
        self.assertGreater(len(said), 3)
        self.assertIn("the very numbers of", said[0].text)

    def test_nothing_of_this_is_said_of_sound_classes(self) -> None:
        mistakes = {*FALSIFIES, "scale", "plate_changed", "order_drift", "repeated", "coarse", "same_numbers"}
        for groups in (2, 3, 5, 8):
            for seed in range(100, 110):
                self.assertEqual({note.code for note in notes(groups=groups, seed=seed)} & mistakes, set(), (groups, seed))


class Lists(unittest.TestCase):
    def test_a_cell_that_is_come_back_to_is_another_visit_and_two_devices_in_turn_are_not(self) -> None:
        def taken(cells: str) -> list[ClassReading]:
            red = {"a": "copper", "b": "tin", "c": "nickel", "d": "steel"}
            return [ClassReading("G", red[one], "zinc", JUICE, 0.5, 0.01) for one in cells]

        (come_back,) = visits(taken("aabbccaa")).values()
        self.assertEqual([len(visit.values) for visit in come_back], [2, 2, 2, 2])
        self.assertEqual([visit.place for visit in come_back], [0, 1, 2, 3])
        (in_turn,) = visits(taken("ababcdcd")).values()
        self.assertEqual([len(visit.values) for visit in in_turn], [2, 2, 2, 2])


class Table(unittest.TestCase):
    """The table of which note explains which."""

    def ranked(self, code: str, weight: int, *groups: str, everybody: bool = False) -> Ranked:
        return Ranked(weight, Note(code, "plain", "", ""), frozenset(groups), everybody)

    def said(self, *found: Ranked) -> list[str]:
        return [one.note.code for one in unexplained(found)]

    def test_a_finding_about_a_group_explains_what_is_said_of_that_group_only(self) -> None:
        constant = self.ranked("constant", 98, "A")
        self.assertEqual(self.said(self.ranked("outlier", 90, "A"), constant), ["constant"])
        self.assertEqual(self.said(self.ranked("outlier", 90, "B"), constant), ["constant", "outlier"])

    def test_only_what_holds_for_everybody_silences_the_class(self) -> None:
        shift = self.ranked("plate_shift", 70)
        self.assertEqual(self.said(shift, self.ranked("noise", 97, "A")), ["noise", "plate_shift"])
        self.assertEqual(self.said(shift, self.ranked("noise", 97, "A", everybody=True)), ["noise"])

    def test_what_is_explained_itself_explains_nothing(self) -> None:
        found = (self.ranked("noise", 97, "A"), self.ranked("left_out_reversed", 95, "A"), self.ranked("outlier", 90, "B"))
        self.assertEqual(self.said(*found), ["noise", "outlier"])

    def test_no_two_findings_explain_each_other(self) -> None:
        for code, explained in EXPLAINS.items():
            for other in explained:
                self.assertNotIn(code, EXPLAINS.get(other, ()), (code, other))
