"""How fruit, card and paste are prepared: on the card, in the kit, and asked for where a reading is low."""

import unittest
from dataclasses import replace

from galvanic.bench.checks import Expectation, check
from galvanic.cells import Cell
from galvanic.chemistry.kinetics import forms
from galvanic.planning.kit import kit
from galvanic.planning.recipes import batch
from galvanic.preparing import preparation, set_up, skipped, steps, usual_steps
from galvanic.reference.preparations import preparations_of

WHOLE = Cell("zinc", "lemon-whole", "copper")


class Steps(unittest.TestCase):
    def test_forms_are_known_and_every_step_can_be_missed(self):
        for form in ("juice", "whole", "card", "acid-card", "paste"):
            self.assertIn(form, forms())
            self.assertTrue(preparations_of(form))
            self.assertTrue(all(one.asks.strip() and one.text.endswith(".") for one in preparations_of(form)))
        self.assertEqual(preparations_of("liquid"), ())

    def test_a_whole_fruit_is_rolled_and_slit_as_far_apart_as_the_cell_is_set(self):
        self.assertEqual(set_up(WHOLE), "")  # the card says it once for all its cells
        self.assertIn("3 cm deep, 2 cm apart", " ".join(usual_steps(WHOLE)))
        self.assertIn("Roll the fruit", preparation(WHOLE))
        apart = Cell("zinc", "lemon-whole", "copper", "spacing 4 cm")
        self.assertIn("3 cm deep, 4 cm apart", set_up(apart))
        deep = Cell("zinc", "lemon-whole", "copper", "depth 1.5 cm")
        self.assertIn("1.5 cm deep, 2 cm apart", set_up(deep))

    def test_only_what_gives_is_rolled_and_a_setting_has_the_steps_that_fit_it(self):
        potato = replace(WHOLE, electrolyte="potato")
        self.assertNotIn("Roll", preparation(potato))
        self.assertNotIn("rolled", " ".join(skipped(potato)))
        whole, halves = (replace(WHOLE, condition=f"whole or halves {word}") for word in ("whole", "two halves"))
        self.assertNotIn("slit", " ".join(usual_steps(halves)))  # the card says for each what is its own
        self.assertIn("both in the same half", set_up(whole))
        self.assertIn("One slit", set_up(halves))
        self.assertNotIn("same half", preparation(halves))
        self.assertEqual(steps(replace(WHOLE, condition="fruit or cup cup of its juice")), ())

    def test_the_kit_says_what_for_with_numbers(self):
        halves = replace(WHOLE, condition="whole or halves two halves")
        lines = [line for line in kit([[WHOLE, halves]]).bench if "knife" in line.name]
        self.assertEqual([line.groups for line in lines], [1])
        self.assertFalse([line for line in kit([[WHOLE]]).bench if "{" in line.why])

    def test_a_cup_of_liquid_has_no_steps(self):
        cup = Cell("zinc", "vinegar", "copper")
        self.assertEqual((steps(cup), skipped(cup), set_up(cup)), ((), (), ""))

    def test_the_kit_counts_for_the_steps_of_the_groups_that_have_them(self):
        card, cup = Cell("zinc", "salt-card", "copper"), Cell("zinc", "vinegar", "copper")
        lines = {line.name: line for line in kit([[card], [card, cup], [cup]]).bench}
        self.assertEqual((lines["scissors"].groups, lines["scissors"].total), (2, 3))
        self.assertNotIn("spatula", lines)
        self.assertNotIn("scissors", {line.name for line in kit([[cup]]).bench})
        cloth = kit([[Cell("zinc", "salt-cloth", "copper")]]).vessels
        self.assertIn("pieces of felt or cotton cloth", " ".join(line.name for line in cloth))

    def test_a_paste_is_made_by_mass(self):
        amounts = {ingredient.name: ingredient.amount for ingredient in batch("salt-paste", 0.2).ingredients}
        self.assertAlmostEqual(amounts["plain flour"] / sum(amounts.values()), 0.40, places=6)
        self.assertAlmostEqual(sum(amounts.values()), 200.0, places=6)

    def test_a_low_reading_is_asked_which_step_was_skipped_and_a_high_one_is_not(self):
        expected = Expectation(0.95, 0.05, 3, 1.6)
        low = check(WHOLE, 0.55, 0.001, [], expected)[0]
        self.assertEqual(low.code, "far")
        self.assertTrue(set(skipped(WHOLE)) <= set(low.tries))
        nothing = check(Cell("zinc", "salt-card", "copper"), 0.01, 0.001, [], expected)[0]
        self.assertIn("wet right through", " ".join(nothing.tries))
        high = check(WHOLE, 1.25, 0.001, [], expected)[0]
        self.assertFalse(set(skipped(WHOLE)) & set(high.tries))
