"""What a plan by levels is told."""

import unittest

from galvanic.planning.level_notes import level_notes


def codes(conditions, groups=6):
    return [note.code for note in level_notes(conditions, groups)]


class Levels(unittest.TestCase):
    def test_a_good_plan_hears_what_stays_the_same_and_what_it_can_see(self):
        found = {note.code: note for note in level_notes(["1 cm apart", "2 cm apart", "8 cm apart"], 6)}
        self.assertEqual(set(found), {"keep", "smallest_effect"})
        self.assertIn("depth in the liquid", found["keep"].text)
        self.assertRegex(found["smallest_effect"].text, r"0\.0\d.V")

    def test_more_groups_see_less(self):
        def least(groups):
            text = next(n.text for n in level_notes(["1 cm apart", "8 cm apart"], groups) if n.code == "smallest_effect")
            return float(text.split("a change of ")[1].split("\u202f")[0])

        self.assertLess(least(12), least(3))

    def test_two_levels_two_things_and_own_words_are_said(self):
        self.assertIn("few_levels", codes(["1 cm apart", "8 cm apart"]))
        self.assertNotIn("few_levels", codes(["dull", "rubbed"]))
        self.assertEqual(codes(["1 cm apart", "40 °C"]), ["two_changed"])
        self.assertIn("own_words", codes(["1 cm apart", "2 cm apart", "4 cm apart", "on the sill"]))
        self.assertEqual(codes([""]) + codes(["on the sill", "in the fridge"]), [])
        self.assertNotIn("smallest_effect", codes(["1 cm apart", "2 cm apart", "4 cm apart"], 2))
        self.assertEqual(codes(["1 cm apart", "2 cm apart", "4 cm apart"], 2)[0], "too_few_groups")
        self.assertNotIn("too_few_groups", codes(["1 cm apart", "2 cm apart", "4 cm apart"], 3))
