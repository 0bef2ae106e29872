"""Changes by hand: what was asked happens, the rest stays, and the sentence says what else moved."""

import unittest
from collections import Counter
from dataclasses import replace
from itertools import combinations

from hypothesis import given, settings
from hypothesis import strategies as st

from galvanic.cells import Cell
from galvanic.planning.design import LOOSE, Task, design, judge
from galvanic.planning.replan import CannotChange, ban, fewer, fewest_missed, fill_free, more, move, shorter

JUICE, BRINE = "rhubarb-juice", "kelp-brine"
PLATES = ("magnesium", "zinc", "steel", "tin", "copper")
NAMES = ["Tern", "Plover", "Curlew", "Dunlin"]
TASK = Task(PLATES, (JUICE, BRINE), 4, 6)
PLAN = design(TASK)


def moved(before, after):
    """How many placements differ, over all groups."""
    gone = [Counter(a) - Counter(b) for a, b in zip(before.hands, after.hands, strict=True)]
    come = [Counter(b) - Counter(a) for a, b in zip(before.hands, after.hands, strict=True)]
    return sum(sum(c.values()) for c in gone), sum(sum(c.values()) for c in come)


class ByHand(unittest.TestCase):
    def a_cell(self, wanted):
        return next(cell for cell in TASK.cells if cell != TASK.shared and wanted(PLAN.counts[cell]))

    def test_one_more_takes_the_place_of_one_that_is_missed_least_and_says_which(self):
        cell = self.a_cell(lambda n: n == 0)
        done = more(TASK, PLAN, cell, NAMES)
        self.assertEqual(done.plan.counts[cell], 1)
        self.assertEqual(done.task.wished[cell], 1)
        self.assertEqual(moved(PLAN, done.plan), (1, 1))
        self.assertRegex(done.said[0], rf"^({'|'.join(NAMES)}) measures .* in place of .*\.$")

    def test_one_fewer_leaves_a_free_place_that_can_be_filled(self):
        cell = self.a_cell(lambda n: n == 2)
        done = fewer(TASK, PLAN, cell, NAMES)
        self.assertEqual((done.plan.counts[cell], moved(PLAN, done.plan)), (1, (1, 0)))
        self.assertIn("free place", done.said[0])
        full = fill_free(done.task, done.plan, NAMES)
        self.assertEqual(moved(done.plan, full.plan), (0, 1))
        self.assertEqual(full.plan.counts[cell], 1, "what the teacher lowered is not raised again")

    def test_a_moved_cell_is_pinned_and_a_full_group_gives_one_back(self):
        giver = next(g for g, hand in enumerate(PLAN.hands) if set(hand) - set(PLAN.hands[3]) and g != 3)
        cell = next(c for c in PLAN.hands[giver] if c not in PLAN.hands[3])
        done = move(TASK, PLAN, cell, giver, 3, NAMES)
        self.assertIn(cell, done.plan.hands[3])
        self.assertNotIn(cell, done.plan.hands[giver])
        self.assertEqual(done.task.pinned[3], (cell,))
        self.assertEqual({len(hand) for hand in done.plan.hands}, {6})
        self.assertEqual(design(done.task).hands[3].count(cell), 1, "a new plan keeps the pin")

    def test_a_banned_cell_stays_away_from_new_plans(self):
        cell = self.a_cell(lambda n: n == 2)
        done = ban(TASK, PLAN, cell)
        self.assertEqual(done.plan.counts[cell], 0)
        self.assertEqual(design(done.task).counts[cell], 0)

    def test_what_cannot_be_says_why(self):
        shared, other = TASK.shared, self.a_cell(lambda n: n == 0)
        elsewhere = Cell("silver", JUICE, "copper")
        for change in (
            lambda: more(TASK, PLAN, shared, NAMES), lambda: fewer(TASK, PLAN, shared, NAMES),
            lambda: fewer(TASK, PLAN, other, NAMES), lambda: more(TASK, PLAN, elsewhere, NAMES),
            lambda: move(TASK, PLAN, shared, 0, 1, NAMES), lambda: move(TASK, PLAN, other, 0, 1, NAMES),
            lambda: ban(TASK, PLAN, shared),
        ):  # fmt: skip
            with self.assertRaisesRegex(CannotChange, r"^[A-Z].*\.$"):
                change()

    def test_more_groups_than_plates_is_refused_with_the_number(self):
        task = Task(PLATES, (JUICE,), 4, 3, stock={"magnesium": 1})
        plan = design(task)
        free = Cell("magnesium", JUICE, "tin")
        done = more(task, plan, free, NAMES)
        with self.assertRaisesRegex(CannotChange, "There is magnesium for only 1 group, and 1 has it"):
            more(done.task, done.plan, free, NAMES)

    def test_the_cell_missed_least_is_one_of_a_triangle_not_of_a_chain(self):
        task = Task(("zinc", "tin", "copper", "silver"), (JUICE,), 1, 8, repeats=1)
        cells = [Cell.of(a, JUICE, b) for a, b in combinations(("zinc", "tin", "copper"), 2)]
        chain = Cell.of("copper", JUICE, "silver")
        plan = judge(task, [[task.shared, *(c for c in [*cells, chain] if c != task.shared)]])
        _, missed = fewest_missed(task, plan, [0])
        self.assertIn(missed, cells)

    @settings(max_examples=30)
    @given(st.data())
    def test_any_row_of_changes_leaves_a_sound_plan(self, data):
        task, plan = TASK, PLAN
        for _ in range(5):
            cell = data.draw(st.sampled_from(TASK.cells))
            kind = data.draw(st.sampled_from(["more", "fewer", "fill", "move"]))
            try:
                if kind == "fill":
                    done = fill_free(task, plan, NAMES)
                elif kind == "move":
                    giver, taker = data.draw(st.integers(0, 3)), data.draw(st.integers(0, 3))
                    done = move(task, plan, cell, giver, taker, NAMES)
                else:
                    done = {"more": more, "fewer": fewer}[kind](task, plan, cell, NAMES)
            except CannotChange:
                continue
            self.assertTrue(done.said)
            task, plan = done.task, done.plan
            for group, hand in enumerate(plan.hands):
                inner = [c for c in hand if c != plan.shared]
                self.assertEqual(len(inner), len(set(inner)))
                self.assertLessEqual(len(hand), task.places)
                self.assertTrue(set(task.pinned.get(group, ())) <= set(hand))


class Shorter(unittest.TestCase):
    """`shorter`."""

    def test_each_list_loses_what_is_missed_least_and_the_plates_stay_connected(self):
        done = shorter(TASK, PLAN, 5, NAMES)
        self.assertEqual({len(hand) for hand in done.plan.hands}, {5})
        self.assertEqual(len(done.said), len(NAMES))
        self.assertLess(done.plan.variance, LOOSE)
        self.assertTrue(all(hand[0] == hand[-1] == TASK.shared for hand in done.plan.hands))
        self.assertEqual(done.task.places, 5)

    def test_below_four_the_shared_cell_is_read_once(self):
        task = Task(PLATES, (JUICE,), 4, 4)
        done = shorter(task, design(task), 3, NAMES)
        self.assertEqual({len(hand) for hand in done.plan.hands}, {3})
        self.assertEqual({hand.count(task.shared) for hand in done.plan.hands}, {1})
        with self.assertRaises(CannotChange):
            shorter(task, design(task), 2, NAMES)

    def test_pinned_cells_stay_and_wishes_give_way_last(self):
        hand = [cell for cell in PLAN.hands[0] if cell != TASK.shared]
        pinned = replace(TASK, pinned={0: tuple(hand)})
        done = shorter(pinned, PLAN, 5, NAMES)
        self.assertEqual(done.plan.hands[0], PLAN.hands[0])
        self.assertIn("Tern keeps", done.said[0])
        wished = replace(TASK, wished={cell: PLAN.counts[cell] for cell in hand})
        done = shorter(wished, PLAN, 5, NAMES)
        for cell, n in done.task.wished.items():
            self.assertEqual(done.plan.counts[cell], n)
