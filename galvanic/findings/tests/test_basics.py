"""The basics: every piece has its words, and its numbers are those of the class."""

import math
import unittest

from galvanic.findings.basics import PIECES, Own, basics, example
from galvanic.findings.compare import ClassReading, compare
from galvanic.reference.further_tables import loads
from galvanic.words import speaking

OWN = Own("Zn | Cu", "zinc", "copper", 0.94, 1.1037, "zinc")


class Basics(unittest.TestCase):
    """`basics` and `example`."""

    def test_nine_pieces_each_begin_with_one_sentence(self) -> None:
        found = basics()
        self.assertEqual([one.key for one in found], list(PIECES))
        for one in found:
            self.assertTrue(one.title.endswith("?"))
            self.assertEqual(one.sentence.count(". ") + one.sentence.count("."), 1, one.sentence)
            self.assertLess(len(one.sentence), 130)
            self.assertEqual(one.own, "")

    def test_numbers_are_the_class_s_own(self) -> None:
        said = {one.key: one.own for one in basics(OWN)}
        self.assertIn("0.94", said["volt"])
        self.assertIn("1.88", said["add"])
        self.assertIn("the zinc is the anode", said["anode"])
        self.assertIn("1.10", said["potential"])
        self.assertIn("zinc", said["held"])
        self.assertIn("0.094", said["voltmeter"])  # 0.94 V through ten million ohms
        needed = math.ceil(loads()["led-red"].voltage_v.low / 0.94)
        self.assertIn(f"{needed} cups like your Zn | Cu", said["led"])
        self.assertEqual({key for key, text in said.items() if not text}, {"ampere", "liquid"})

    def test_two_cups_push_with_twice_what_is_printed_of_one(self) -> None:
        said = {one.key: one.own for one in basics(Own("Zn | Cu", "zinc", "copper", 0.957, 1.1037, "zinc"))}
        self.assertIn("0.96", said["add"])
        self.assertIn("1.92", said["add"])

    def test_the_example_is_the_cell_read_most_and_the_plates_as_they_were_found(self) -> None:
        readings = [ClassReading("Tern", "copper", "zinc", "lemon-juice", 0.94, 0.01) for _ in range(3)]
        readings += [ClassReading("Tern", "zinc", "aluminium", "lemon-juice", -0.30, 0.01) for _ in range(4)]
        found = example(compare(readings))
        assert found is not None
        self.assertEqual((found.negative, found.positive), ("zinc", "aluminium"))
        self.assertAlmostEqual(found.volts_v, 0.30)
        self.assertIsNone(example([]))
        self.assertIsNone(example(compare([ClassReading("Tern", "copper", "zinc", "lemon-juice", 0.0, 0.01)])))

    def test_what_has_no_table_value_is_not_compared_with_it(self) -> None:
        said = {one.key: one.own for one in basics(Own("Zn | C", "zinc", "graphite", 1.0, None, ""))}
        self.assertEqual((said["potential"], said["held"]), ("", ""))

    def test_german_has_all_of_it(self) -> None:
        english = basics(OWN)
        with speaking("de"):
            for one, other in zip(basics(OWN), english, strict=True):
                self.assertNotEqual(one.sentence, other.sentence)
                self.assertNotIn("0.94", one.own)
