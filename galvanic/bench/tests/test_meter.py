"""The meter check, and whom to go and see."""

import unittest

from galvanic.bench.attention import SHARED_U_V, GroupState, Left, of_most, relief, sound_values, visits
from galvanic.bench.checks import Finding
from galvanic.bench.class_reference import GroupCell
from galvanic.bench.meter import judge
from galvanic.bench.readings import parse
from galvanic.cells import Cell


class MeterCheck(unittest.TestCase):
    def verdict(self, leads, dry):
        return judge(parse(leads), parse(dry))

    def test_each_meter_gets_its_verdict(self):
        # A fresh dry cell reads 1.5 to 1.6 V: any battery's label.
        for leads, dry, code in [
            ("0.000", "1.58", "sound"), ("0.002", "1.52", "sound"), ("-0.020", "1.52", "offset"), ("0.06", "1.62", "odd_offset"),
            ("-0.12", "1.45", "odd_offset"), ("0", "1600", "dry_millivolts"), ("0.00", "1580", "dry_millivolts"),
            ("0.00", "1.31", "low_dry_cell"), ("0.00", "3.1", "coarse"), ("0.00", "3.10", "high_dry_cell"),
            ("1.2", "1.5", "large_offset"), ("0.0", "1.5", "coarse"), ("0.00", "-1.55", "dry_cell_turned"),
            ("0.00", "-0.90", "low_dry_cell"), ("0.02", "-1.54", "dry_cell_turned"),
        ]:  # fmt: skip
            with self.subTest(leads=leads, dry=dry):
                self.assertEqual(self.verdict(leads, dry).code, code)

    def test_the_offset_is_taken_off_the_dry_cell_too(self):
        self.assertEqual(self.verdict("0.02", "1.60").code, "offset")
        self.assertEqual(self.verdict("0.10", "1.50").code, "low_dry_cell")
        self.assertAlmostEqual(self.verdict("-0.060", "1.46").offset_v, -0.06)

    def test_numbers_in_millivolts_are_named_and_nothing_is_taken_off(self):
        found = self.verdict("12", "1600")
        self.assertEqual((found.code, found.taken_off_v), ("dry_millivolts", 0.0))
        self.assertIn("1.60", found.do)
        self.assertEqual(self.verdict("0.12", "1.60").taken_off_v, 0.12)

    def test_every_verdict_says_what_to_do(self):
        for leads, dry in [("0", "1.5"), ("0.00", "1.5"), ("0.9", "1.5"), ("0.00", "0.2")]:
            found = self.verdict(leads, dry)
            self.assertTrue(found.text.endswith(".") and found.do.endswith("."))


def state(group, **changes):
    usual = {
        "silent_min": 1.0, "done": 3, "left": 4, "due": 3.0, "wanted": 3, "cell_min": 6.0, "findings": (),
        "shared_off_v": None, "meter": ("good", "Sound."),
    }  # fmt: skip
    return GroupState(group, **(usual | changes))


class Judging(unittest.TestCase):
    """By whose values the others are judged."""

    CELL = Cell("zinc", "lemon-juice", "copper")

    def test_one_swapped_lead_does_not_count_against_the_others(self):
        values = [GroupCell(g, self.CELL, v) for g, v in (("A", 0.95), ("B", -0.94), ("C", 0.96))]
        self.assertEqual([value.group for value in sound_values(values, {("B", self.CELL)})], ["A", "C"])
        self.assertEqual([value.group for value in sound_values(values[:2], {("B", self.CELL)})], ["A"])

    def test_where_most_groups_go_against_the_account_all_of_them_count(self):
        values = [GroupCell(g, self.CELL, v) for g, v in (("A", -0.95), ("B", -0.94), ("C", 0.96))]
        self.assertEqual(sound_values(values, {("A", self.CELL), ("B", self.CELL)}), values)


class GoAndSee(unittest.TestCase):
    def fault(self, sure, code="far", cells=("Zn | Cu",)):
        return [(cell, Finding(code, sure, "Far from expected", "It lies far.", ("Look.",))) for cell in cells]

    def codes(self, *states):
        return [[one.code for one in visit.reasons] for visit in visits(states)]

    def test_who_has_the_most_readings_at_stake_comes_first(self):
        poor, failed = ("caution", "The last digit is 0.1 V."), ("wrong", "0.3 V with the leads together.")
        found = visits([
            state("late", done=1, left=6), state("fault", findings=self.fault("likely")), state("fine"),
            state("unchecked", meter=None), state("silent", silent_min=12.0), state("off", shared_off_v=-0.2),
            state("poor", meter=poor), state("failed", meter=failed),
        ])  # fmt: skip
        order = [visit.group for visit in found]
        self.assertEqual(order, ["failed", "fault", "off", "poor", "late", "silent", "unchecked"])
        self.assertIn("\u22120.20 V", found[2].reasons[0].text)
        self.assertEqual((found[1].reasons[0].cell, found[0].reasons[0].tone), ("Zn | Cu", "wrong"))

    def test_every_reason_of_a_group_is_said_the_weightiest_first(self):
        found = self.codes(state("a", silent_min=9.0, done=1, left=6, meter=None, findings=self.fault("possible")))
        self.assertEqual(found, [["far", "behind", "silent", "unchecked"]])

    def test_a_fault_at_several_cells_weighs_as_many_and_less_where_little_is_left(self):
        many = state("many", findings=self.fault("likely", cells=("Zn | Cu", "Fe | Cu")))
        one, last = state("one", findings=self.fault("likely")), state("last", left=0, findings=self.fault("likely"))
        saves = [visit.saves for visit in visits([last, one, many])]
        self.assertEqual([visit.group for visit in visits([last, one, many])], ["many", "one", "last"])
        self.assertAlmostEqual(saves[0] - saves[1], 3 * 0.9)

    def test_who_is_finished_is_neither_late_nor_silent(self):
        self.assertEqual(visits([state("done", silent_min=30.0, done=7, left=0, due=9.0)]), [])

    def test_nobody_is_cut_off_and_equals_stand_by_name(self):
        found = visits([state(f"g{k}", silent_min=20.0) for k in reversed(range(9))])
        self.assertEqual([visit.group for visit in found], [f"g{k}" for k in range(9)])

    def test_a_shared_cell_is_off_only_beyond_what_groups_differ_by_anyway(self):
        for off in (-3.1, -2.9, 2.9, 3.1):
            found = self.codes(state("one", shared_off_v=off * SHARED_U_V))
            self.assertEqual(found, [["shared_off"]] if abs(off) > 3.0 else [], off)

    def test_less_than_a_whole_cell_behind_and_a_short_silence_are_nothing(self):
        self.assertEqual(visits([state("one", done=2, due=3.0), state("two", silent_min=7.9)]), [])
        self.assertEqual(self.codes(state("one", done=1, due=3.0)), [["behind"]])
        self.assertEqual(self.codes(state("two", silent_min=8.1)), [["silent"]])

    def test_silence_costs_the_more_the_shorter_a_cell_is(self):
        quick, slow = state("quick", silent_min=12.0, cell_min=4.0), state("slow", silent_min=12.0, cell_min=8.0)
        self.assertEqual([visit.saves for visit in visits([slow, quick])], [4.5, 2.25])

    def test_what_most_groups_have_is_said_once_of_the_class(self):
        late = [state(f"g{k}", done=1, left=6, silent_min=9.0 if k < 2 else 1.0) for k in range(3)]
        said, left = of_most(visits([*late, state("fine")]), 4)
        self.assertEqual([one.code for one in said], ["behind"])
        self.assertIn("3 of 4 groups", said[0].text)
        self.assertEqual([[one.code for one in v.reasons] for v in left], [["silent"], ["silent"]])
        self.assertEqual(of_most(visits(late[:2]), 4)[0], [])  # half of them are not most of them
        self.assertEqual(of_most(visits(late[:1]), 1)[0], [])  # a group alone is no class

    def test_a_likely_fault_comes_before_a_possible_one(self):
        found = visits([state("b", findings=self.fault("possible")), state("a", findings=self.fault("likely"))])
        self.assertEqual([(v.group, v.reasons[0].tone) for v in found], [("a", "wrong"), ("b", "caution")])


def cell(negative, positive="copper"):
    return Cell(negative, "rhubarb-juice", positive)


class Relief(unittest.TestCase):
    """Which cell a group that is behind could give away, and to whom."""

    SHARED = Left(cell("zinc"), True, shared=True)

    def lists(self, **others):
        return {
            "Tern": [self.SHARED, Left(cell("tin"), True), Left(cell("steel"), False), Left(cell("nickel"), False)]
        } | others

    def test_the_last_cell_not_begun_goes_to_whoever_has_the_least_left(self):
        lists = self.lists(
            Knot=[self.SHARED, Left(cell("magnesium"), False), Left(cell("aluminium"), False)],
            Ruff=[self.SHARED, Left(cell("magnesium"), True), Left(cell("aluminium"), False)],
        )
        self.assertEqual(relief("Tern", lists, ["Tern"]), (3, "Ruff"))

    def test_nobody_gets_a_cell_it_has_or_while_it_is_late_itself(self):
        lists = self.lists(Knot=[self.SHARED, Left(cell("nickel"), True)], Ruff=[self.SHARED], Plover=[self.SHARED])
        self.assertEqual(relief("Tern", lists, ["Tern", "Ruff"]), (3, "Plover"))
        self.assertIsNone(relief("Tern", lists, ["Tern", "Ruff", "Plover"]))

    def test_equals_are_served_in_the_order_of_groups(self):
        lists = self.lists(Knot=[self.SHARED], Ruff=[self.SHARED])
        self.assertEqual(relief("Tern", lists, ["Tern"]), (3, "Knot"))

    def test_the_shared_cell_and_what_is_begun_stay(self):
        own = [Left(cell("zinc"), False, shared=True), Left(cell("tin"), True), Left(cell("zinc"), False, shared=True)]
        self.assertIsNone(relief("Tern", {"Tern": own, "Knot": []}, ["Tern"]))
