"""The meter check, and whom to go and see."""

import unittest

from galvanic.attention import GroupState, visits
from galvanic.checks import Finding
from galvanic.meter import judge
from galvanic.readings import parse


class MeterCheck(unittest.TestCase):
    def verdict(self, leads, dry):
        return judge(parse(leads), parse(dry))

    def test_each_meter_gets_its_verdict(self):
        # A fresh dry cell reads 1.5 to 1.6 V: any battery's label.
        for leads, dry, code in [
            ("0.000", "1.58", "sound"), ("0.002", "1.52", "sound"), ("-0.060", "1.52", "offset"), ("0.06", "1.62", "offset"),
            ("0.00", "1.31", "low_dry_cell"), ("0.00", "3.1", "coarse"), ("0.00", "3.10", "high_dry_cell"),
            ("1.2", "1.5", "large_offset"), ("0.0", "1.5", "coarse"), ("0.00", "-1.55", "sound"),
        ]:  # fmt: skip
            with self.subTest(leads=leads, dry=dry):
                self.assertEqual(self.verdict(leads, dry).code, code)

    def test_the_offset_is_taken_off_the_dry_cell_too(self):
        self.assertEqual(self.verdict("0.10", "1.60").code, "offset")
        self.assertEqual(self.verdict("0.10", "1.50").code, "low_dry_cell")
        self.assertAlmostEqual(self.verdict("-0.060", "1.46").offset_v, -0.06)

    def test_every_verdict_says_what_to_do(self):
        for leads, dry in [("0", "1.5"), ("0.00", "1.5"), ("0.9", "1.5"), ("0.00", "0.2")]:
            found = self.verdict(leads, dry)
            self.assertTrue(found.text.endswith(".") and found.do.endswith("."))


def state(group, **changes):
    usual = {
        "silent_min": 1.0, "done": 3, "due": 3.0, "findings": (), "shared_off_v": None, "shared_u_v": 0.03, "checked": True,
        "finished": False,
    }  # fmt: skip
    return GroupState(group, **(usual | changes))


class GoAndSee(unittest.TestCase):
    def test_a_fault_comes_before_lateness_and_lateness_before_a_missing_check(self):
        fault = (
            "Zn | Cu",
            Finding("near_zero", "likely", "Close to nothing", "About 1 V was expected.", ("Look.", "Look again.")),
        )
        found = visits([
            state("late", done=1), state("fault", findings=[fault]), state("fine"), state("unchecked", checked=False),
            state("silent", silent_min=12.0), state("off", shared_off_v=-0.2),
        ])  # fmt: skip
        self.assertEqual([v.group for v in found], ["fault", "off", "late", "silent", "unchecked"])
        self.assertIn("\u22120.20 V", found[1].text)
        self.assertEqual(found[0].cell, "Zn | Cu")

    def test_who_is_finished_is_neither_late_nor_silent(self):
        self.assertEqual(visits([state("done", silent_min=30.0, done=7, due=9.0, finished=True)]), [])

    def test_the_list_is_short(self):
        self.assertEqual(len(visits([state(f"g{k}", silent_min=20.0) for k in range(12)])), 6)
