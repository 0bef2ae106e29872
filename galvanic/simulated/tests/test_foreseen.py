"""What a plan foresees, against closed forms, against counting, and against itself with more of everything."""

import unittest
from dataclasses import replace

import numpy as np

from galvanic.cells import Cell
from galvanic.condition import condition_of
from galvanic.planning.design import Task, design
from galvanic.planning.schedule import Steps
from galvanic.simulated.foreseen import PACE, done_by, foresee, get_through
from galvanic.simulated.foreseen_levels import seen
from galvanic.simulated.foreseen_words import decided, of_levels, pace, saying
from galvanic.statistics.repeats import coverage

PLATES, JUICE = ("magnesium", "zinc", "steel", "tin", "copper"), "lemon-juice"
HOUR = 60.0


def hands(groups: int, places: int = 5) -> tuple[tuple[Cell, ...], ...]:
    """The planner's plan."""
    return design(Task(PLATES, (JUICE,), groups, places)).hands


class Ladder(unittest.TestCase):
    """`foresee`."""

    def test_more_groups_can_say_more(self) -> None:
        shares = [np.mean([one.can for one in foresee(hands(groups), Steps(), HOUR).sayings]) for groups in (2, 4, 8)]
        self.assertEqual(shares, sorted(shares))
        self.assertGreater(shares[-1] - shares[0], 5.0)

    def test_what_is_said_is_seldom_wrong(self) -> None:
        for groups in (2, 8):
            for one in foresee(hands(groups), Steps(), HOUR).sayings:
                self.assertLess(one.wrong, 2.5, one)
                self.assertLessEqual(one.can, 100.0)

    def test_who_gets_through_a_list_is_the_same_asked_alone(self) -> None:
        found = foresee(hands(4), Steps(), HOUR)
        self.assertAlmostEqual(get_through([len(hand) for hand in hands(4)], Steps(), HOUR), found.all_through)

    def test_another_seed_says_the_same(self) -> None:
        found, again = (foresee(hands(5), Steps(), HOUR, seed=seed) for seed in (0, 1))
        other = {(one.lower, one.upper): one.can for one in again.sayings}
        for one in found.sayings:
            self.assertAlmostEqual(one.can, other[one.lower, one.upper], delta=3.0)

    def test_a_surprise_is_what_the_table_has_the_other_way_round(self) -> None:
        plan = design(Task(("magnesium", "aluminium", "zinc", "copper"), (JUICE,), 6, 4)).hands
        surprises = {(one.lower, one.upper) for one in foresee(plan, Steps(), HOUR).sayings if one.surprise}
        self.assertEqual(surprises, {("zinc", "aluminium")})
        told = [saying(one) for one in foresee(plan, Steps(), HOUR).sayings if one.surprise]
        self.assertEqual(told, ["Zinc stands below aluminium, though the table has it above"])

    def test_who_has_no_time_does_not_get_through(self) -> None:
        short, long = (foresee(hands(4), Steps(), minutes) for minutes in (38.0, 120.0))
        self.assertLess(short.all_through, 10.0)
        self.assertGreater(long.all_through, 99.0)
        less = get_through([4, 4, 4, 4], Steps(), 38.0)
        self.assertGreater(less, short.all_through)
        said = f"0 of 100 classes like yours. With a cell less each, in {less:.0f}."
        self.assertIn(said, pace(short, "ABCD", less))
        self.assertNotIn("less each", pace(long, "ABCD", None))
        uneven = foresee([hand[: 5 - 4 * place] for place, hand in enumerate(hands(2))], Steps(), 38.0)
        self.assertIn("These will often not: A.", pace(uneven, "AB", None))

    def test_pace_is_counted_as_a_lognormal_is(self) -> None:
        """A list that just fits is got through by whoever is not slower than planned: half of them."""
        steps = Steps()
        rng = np.random.default_rng(4)
        minutes = steps.needed(5)
        share = np.mean([done_by(5, steps, minutes, rng) == 5 for _ in range(2000)])
        self.assertAlmostEqual(share, 0.5, delta=0.04)
        later = steps.start + (minutes - steps.clear - steps.start) * np.exp(PACE) + steps.clear
        self.assertAlmostEqual(np.mean([done_by(5, steps, later, rng) == 5 for _ in range(2000)]), 0.841, delta=0.03)

    def test_a_plan_of_one_cell_or_of_two_solutions_is_no_trouble(self) -> None:
        alone = foresee(((Cell("zinc", JUICE, "copper"),),), Steps(), HOUR)
        self.assertEqual([(one.lower, one.upper) for one in alone.sayings], [("zinc", "copper")])
        self.assertEqual(foresee(((),), Steps(), HOUR).sayings, ())

    def test_the_accounts_are_decided_between_more_often_by_more_cells(self) -> None:
        few, many = (foresee(hands(groups, places), Steps(), HOUR).decided for groups, places in ((2, 2), (8, 5)))
        assert few is not None and many is not None
        self.assertLess(few, many)
        self.assertIn(f"In {round(many)} of 100", decided(foresee(hands(8, 5), Steps(), HOUR)))
        self.assertEqual(decided(replace(foresee(hands(2, 2), Steps(), HOUR), decided=None)), "")


class Levels(unittest.TestCase):
    """`seen`."""

    CELL = Cell("zinc", JUICE, "copper")

    def of(self, texts: tuple[str, ...], groups: int) -> dict[str, float]:
        conditions = [one for text in texts if (one := condition_of(text)) is not None]
        self.assertEqual(len(conditions), len(texts))
        return {one.quantity: one.share for one in seen(self.CELL, conditions, groups)}

    def test_distance_changes_the_current_and_not_the_volts(self) -> None:
        found = self.of(("spacing 1 cm", "spacing 2 cm", "spacing 4 cm", "spacing 8 cm"), 6)
        self.assertGreater(found["current"], 90.0)
        self.assertLess(found["volts"], 10.0)

    def test_two_groups_see_little(self) -> None:
        texts = ("spacing 1 cm", "spacing 2 cm", "spacing 4 cm")
        self.assertLess(self.of(texts, 2)["current"], self.of(texts, 3)["current"])
        self.assertEqual(self.of(texts, 1), {})
        self.assertEqual(self.of(texts[:1], 6), {})

    def test_what_does_not_change_is_seen_as_often_as_the_level_says(self) -> None:
        """A 95 % interval leaves nought out in five classes of a hundred, if nothing changes."""
        found = self.of(("spacing 1 cm", "spacing 8 cm"), 200)
        self.assertAlmostEqual(found["volts"], 5.0, delta=1.0)

    def test_the_least_that_is_seen_is_the_interval(self) -> None:
        conditions = [one for text in ("spacing 1 cm", "spacing 4 cm") if (one := condition_of(text)) is not None]
        volts = seen(self.CELL, conditions, 4)[0]
        self.assertAlmostEqual(volts.least, coverage(3) * 0.02 * (2.0 / 4.0) ** 0.5, places=6)
        self.assertIn("you can see", of_levels(volts))
