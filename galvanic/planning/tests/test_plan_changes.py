"""What a plan made anew moved is said whole: the shared cell and why, pins and wishes that went, groups with other cells."""

import unittest
from dataclasses import replace

from galvanic.cells import Cell
from galvanic.planning.design import Shared, Task, design, judge
from galvanic.planning.plan_changes import Laid, what_moved

JUICE = "rhubarb-juice"
PLATES = ("magnesium", "aluminium", "zinc", "steel", "nickel", "tin", "copper")
NAMES = ("Tern", "Plover", "Curlew", "Dunlin")
TASK = Task(PLATES, (JUICE,), 4, 6)
PLAN = design(TASK)
SHARED = Cell("zinc", JUICE, "copper")


def laid(task=TASK, plan=PLAN, names=NAMES):
    return Laid(task, plan, names)


def with_pins(n):
    """The plan with its first cells pinned, none of them the shared one."""
    cells = [(g, cell) for g, hand in enumerate(PLAN.hands) for cell in dict.fromkeys(hand) if cell != SHARED][:n]
    pinned = {g: tuple(cell for at, cell in cells if at == g) for g, _ in cells}
    return replace(TASK, pinned=pinned), [f"{cell.short} of {NAMES[g]}" for g, cell in cells]


class WhatMoved(unittest.TestCase):
    def test_nothing_is_said_where_nothing_moved(self):
        self.assertEqual(what_moved(laid(), laid()), ())
        order = replace(PLAN, hands=tuple(tuple(reversed(hand)) for hand in PLAN.hands))
        self.assertEqual(what_moved(laid(), laid(plan=order)), (), "the same cells in another order are the same cells")

    def test_lost_pins_are_named_up_to_four_and_counted_beyond(self):
        free = "Not pinned any more, for want of time: "
        for n, ends in ((1, 1), (2, 2), (5, 5), (6, 5)):
            task, pins = with_pins(n)
            (said,) = what_moved(laid(task), laid())
            self.assertTrue(said.startswith(free))
            self.assertEqual(sum(pin in said for pin in pins), 4 if n == 6 else n)
            listed = said.removeprefix(free)
            self.assertEqual(listed.count(", ") + listed.count(" and ") + 1, ends)
            self.assertEqual("2 more" in said, n == 6)
        self.assertEqual(what_moved(laid(with_pins(1)[0]), laid())[0], f"{free}{with_pins(1)[1][0]}.")

    def test_a_pin_or_wish_whose_cell_is_no_more_goes_with_it(self):
        task, pins = with_pins(1)
        cell = task.pinned[0][0]
        task = replace(task, wished={cell: 2})
        less = replace(TASK, electrodes=tuple(plate for plate in PLATES if plate not in cell.pair or plate in SHARED.pair))
        said = what_moved(laid(task), laid(less, design(less)))
        self.assertIn(f"Pinned, and not part of the plan any more: {pins[0]}.", said)
        self.assertIn(f"The number you asked for went with its cell: {cell.notation}.", said)

    def test_the_shared_cell_says_why_it_moved(self):
        other = Cell("tin", JUICE, "copper")
        for task, why in (
            (replace(TASK, stock={"zinc": 2}), "there is zinc for only 2 of 4 groups"),
            (replace(TASK, electrodes=("tin", "copper", "steel")), "Zn | Cu does not belong to the plan any more"),
            (replace(TASK, wished={SHARED: 1}), "you asked for 1 of it"),
        ):
            moved = replace(task, held=Shared(other))
            plan = judge(moved, [(other,)] * 4)
            self.assertIn(
                f"Every group measures Sn | Cu now instead of Zn | Cu: {why}.", what_moved(laid(), laid(moved, plan))
            )
        none = replace(TASK, stock={"zinc": 2}, held=Shared(None))
        said = what_moved(laid(), laid(none, judge(none, PLAN.hands)))
        self.assertIn("No cell is everybody’s any more: there is zinc for only 2 of 4 groups.", said)
        back = what_moved(laid(none, judge(none, PLAN.hands)), laid())
        self.assertIn("Zn | Cu is everybody’s now, so groups can be compared.", back)

    def test_groups_with_other_cells_are_named_and_new_groups_are_not(self):
        hands = (PLAN.hands[1], *PLAN.hands[1:])
        self.assertEqual(what_moved(laid(), laid(plan=judge(TASK, hands))), ("Other cells than before for Tern.",))
        turned = judge(TASK, (*PLAN.hands[1:], PLAN.hands[0]))
        self.assertEqual(what_moved(laid(), laid(plan=turned)), ("Other cells than before for all groups.",))
        self.assertEqual(what_moved(laid(), laid(plan=turned, names=("Gull", "Ruff", "Stint", "Knot"))), ())
