"""What a setting asks for: words and dilutions read as their writer meant them, and kit, jugs and cards that follow."""

import unittest

from galvanic.cells import Cell
from galvanic.conditions import Surface, part_of, plate_sets, setting, surface_of
from galvanic.planning.kit import kit
from galvanic.preparing import preparation

JUICE = "lemon-juice"


def hands(*conditions, groups=4):
    """Groups that measure zinc and copper in lemon juice at each setting."""
    return groups * [tuple(Cell("zinc", JUICE, "copper", condition) for condition in conditions)]


class Words(unittest.TestCase):
    def test_surfaces(self):
        for text, surface in [
            ("freshly rubbed", Surface.BARE), ("bare", Surface.BARE), ("cleaned", Surface.BARE), ("as it was", Surface.DULL),
            ("as they lay", Surface.DULL), ("not rubbed", Surface.DULL), ("dull", Surface.DULL), ("tarnished", Surface.DULL),
            ("4 cm apart", None), ("undiluted", None), ("1 part in 10", None), ("", None), ("not stirred", None),
            ("3 days old", None), ("fresh juice", None), ("clean water", None), ("unpolished", Surface.DULL),
            ("frisch gerieben", Surface.BARE), ("nicht gerieben", Surface.DULL), ("wie es war", Surface.DULL),
            ("angelaufen", Surface.DULL), ("4 cm auseinander", None), ("blank", None), ("blanke Platten", Surface.BARE),
        ]:  # fmt: skip
            with self.subTest(text):
                self.assertEqual(surface_of(text), surface)

    def test_dilutions(self):
        for text, part in [
            ("undiluted", 1.0), ("1 part in 2", 0.5), ("1 part in 10", 0.1), ("1 in 100", 0.01), ("1/4", 0.25), ("20 %", 0.2),
            ("1 part to 9 of water", 0.1), ("2,5 parts in 10", 0.25), ("3 in 2", None), ("0 in 10", None), ("weak", None),
            ("as it was", None), ("1 cm apart", None), ("150 %", None), ("2 of 3 pairs", None), ("1/2 lemon", None),
            ("pure water", None), ("unverdünnt", 1.0), ("1 Teil in 10", 0.1), ("1 Teil auf 9", 0.1), ("20 Prozent", 0.2),
        ]:  # fmt: skip
            with self.subTest(text):
                self.assertEqual(part_of(text), part)


class Kits(unittest.TestCase):
    def test_a_rubbed_and_a_dull_plate_are_two_plates_and_share_a_cup(self):
        found = kit(hands("freshly rubbed", "as it was"), there={"zinc": 6})
        names = [line.name for line in found.plates]
        self.assertEqual(sum("zinc" in name and "as it was" in name for name in names), 1)
        self.assertEqual(len(names), 4)
        self.assertEqual([line.total for line in found.plates], 4 * [5])
        zinc = [line for line in found.plates if line.key == "zinc"]
        self.assertEqual([line.there for line in zinc], [6, 1], "what the first takes is not there for the second")
        dull = next(line for line in zinc if "as it was" in line.name)
        self.assertIn("do not rub", dull.why)
        self.assertEqual(next(line for line in found.vessels if line.name.startswith("cup")).per_group, None)
        self.assertEqual(next(line for line in found.vessels if line.name.startswith("cup")).groups, 4)
        self.assertEqual(plate_sets(["freshly rubbed", "as it was"]), 2)
        self.assertEqual(plate_sets([""]), 1)
        self.assertEqual(plate_sets(["rubbed", "polished", "dull"]), 3, "as many as the kit marks")

    def test_every_dilution_is_made_and_the_juice_for_it_is_pressed(self):
        # By hand: four cups of 40 mL and a tenth to spare are 0.176 L, in steps of 0.1 L: 0.2 L of each; neat 0.2 L, a half
        # of 0.2 L, a tenth of 0.2 L: 0.32 L of juice, so 0.4 L are pressed.
        found = kit(hands("undiluted", "1 part in 2", "1 part in 10"))
        self.assertEqual(
            [(batch.name, round(batch.volume_l, 3)) for batch in found.batches],
            [("lemon juice", 0.4), ("lemon juice, 1 part in 2", 0.2), ("lemon juice, 1 part in 10", 0.2)],
        )
        tenth = found.batches[2]
        self.assertEqual([(part.name, round(part.amount, 6)) for part in tenth.ingredients][0], ("lemon juice", 20.0))
        self.assertAlmostEqual(tenth.ingredients[1].amount, 200.0)
        self.assertIn("Make lemon juice, 1 part in 10, 0.20 L.", found.day_before)
        self.assertEqual(found.for_group[0][-3:], tuple(f"lemon juice, {one}" for one in
                                                        ("undiluted", "1 part in 2", "1 part in 10")))  # fmt: skip
        self.assertEqual(next(line for line in found.vessels if line.name.startswith("cup")).groups, 12)

    def test_spacing_takes_one_cup(self):
        found = kit(hands("1 cm apart", "4 cm apart"))
        self.assertEqual(next(line for line in found.vessels if line.name.startswith("cup")).groups, 4)
        self.assertEqual(len(found.plates), 2)


class Cards(unittest.TestCase):
    def test_a_dull_plate_is_not_rubbed_and_a_bare_one_is(self):
        dull = preparation(Cell("zinc", JUICE, "copper", "as it was"))
        self.assertIn("Do not rub", dull)
        self.assertNotIn("Rub with", dull)
        bare = preparation(Cell("zinc", JUICE, "copper", "freshly rubbed"))
        self.assertNotIn("Do not rub", bare)
        self.assertIn("rub them now", bare)

    def test_other_settings_say_what_to_set(self):
        self.assertIn("jug marked “1 part in 10”", setting(Cell("zinc", JUICE, "copper", "1 part in 10")))
        self.assertEqual(setting(Cell("zinc", JUICE, "copper", "4 cm apart")), "Set it up so: 4 cm apart.")
        self.assertEqual(setting(Cell("zinc", JUICE, "copper")), "")
        self.assertTrue(preparation(Cell("zinc", JUICE, "copper")).endswith("Clips stay above the liquid."))
