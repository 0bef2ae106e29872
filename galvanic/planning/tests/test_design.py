"""Plans: counts against closed forms and balanced designs, hands and order against brute force, wishes kept."""

import unittest
from collections import Counter
from dataclasses import replace
from itertools import combinations, permutations

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from galvanic.cells import Cell
from galvanic.errors import NotEnoughData
from galvanic.planning.assign import changes, in_order, path_changes
from galvanic.planning.design import LOOSE, Task, design, improve, judge, repeats_that_connect
from galvanic.planning.optimal import Counts, Demand, exchange, fill, lower_bound
from galvanic.reference.catalogue import electrodes
from galvanic.statistics.ladder import connected

JUICE, BRINE = "rhubarb-juice", "kelp-brine"
EIGHT = ("magnesium", "aluminium", "zinc", "steel", "tin", "nickel", "copper", "graphite")
FIVE = (JUICE, BRINE, "soda-water", "beet-brine", "kcl-0.10")


def demand(plates, places, repeats=1, groups=60, **changes):
    cells = tuple(Cell(a, JUICE, b) for a, b in combinations(plates, 2))
    made = Demand(tuple(plates), ((JUICE, ""),), cells, places, repeats, groups, {}, {}, {}, {}, {})
    return replace(made, **changes)


def filled(task):
    counts = Counts(task)
    fill(counts)
    exchange(counts, 200)
    return counts


class Repeats(unittest.TestCase):
    """How many groups a cell can have so that all plates still hang together: places against links, counted by hand."""

    def repeats(self, plates, groups, places, wished=3, liquids=(JUICE,)):
        task = Task(EIGHT[:plates], liquids, groups, places, wished)
        return repeats_that_connect(task), task

    def test_no_more_than_groups_or_than_was_wished(self):
        self.assertEqual(self.repeats(3, 2, 9)[0], 2)
        self.assertEqual(self.repeats(3, 9, 9, wished=1)[0], 1)
        self.assertEqual(self.repeats(3, 9, 9, wished=3)[0], 3)

    def test_as_many_as_there_are_places_for_every_link(self):
        for plates in (3, 5, 8):
            for groups in (2, 4, 8):
                for places in (2, 3, 4, 6):
                    found, task = self.repeats(plates, groups, places)
                    links = task.links - bool(task.shared)
                    fits = [r for r in (1, 2, 3) if r <= groups and r * links <= task.free * groups]
                    with self.subTest(plates=plates, groups=groups, places=places):
                        self.assertEqual(found, max(fits, default=1))

    def test_one_where_not_even_one_of_each_fits(self):
        self.assertEqual(self.repeats(8, 1, 2)[0], 1)

    def test_every_liquid_has_a_ladder_of_its_own_to_connect(self):
        self.assertEqual((self.repeats(5, 4, 6)[1].links, self.repeats(5, 4, 6, liquids=(JUICE, BRINE))[1].links), (4, 8))
        self.assertGreaterEqual(self.repeats(5, 4, 4)[0], self.repeats(5, 4, 4, liquids=(JUICE, BRINE))[0])


class CountsOfCells(unittest.TestCase):
    def test_a_complete_graph_has_the_closed_form_and_is_the_bound(self):
        # Laplacian of λ·K_v has v−1 eigenvalues λv, so Σ tr(L⁺) = (v−1)/(λv): any text on graph spectra.
        for v, times in [(3, 1), (5, 2), (8, 1)]:
            task = demand(EIGHT[:v], times * v * (v - 1) // 2)
            counts = filled(task)
            self.assertEqual(set(counts.n.tolist()), {times})
            self.assertAlmostEqual(counts.value, (v - 1) / (times * v), places=3)
            self.assertAlmostEqual(lower_bound(task), (v - 1) / (times * v), places=3)

    def test_the_counts_of_known_balanced_incomplete_block_designs_are_found(self):
        # BIBD(v, k, λ) exist for (8,4,3), (9,3,1), (13,4,1) (Fisher and Yates, “Statistical Tables”, from memory): in each,
        # every pair of the v meets λ times, in λv(v−1)/2 meetings in all.
        plates = list(electrodes())
        for v, _k, times in [(8, 4, 3), (9, 3, 1), (13, 4, 1)]:
            with self.subTest(v=v):
                counts = filled(demand(plates[:v], times * v * (v - 1) // 2))
                self.assertEqual(set(counts.n.tolist()), {times})

    def test_a_tree_is_a_star_when_only_a_tree_can_be_had(self):
        # Of all trees the star has the smallest Σ tr(L⁺), the path the largest (Kirchhoff index: Gutman and Mohar, 1996).
        counts = filled(demand(EIGHT, 7))
        degrees = Counter(plate for cell, n in zip(counts.cells, counts.n, strict=True) if n for plate in cell.pair)
        self.assertEqual(max(degrees.values()), 7)

    def test_no_plan_is_better_than_the_bound_and_exchange_beats_chance(self):
        rng = np.random.default_rng(5)
        for places in (9, 14, 20, 33):
            task = demand(EIGHT, places)
            found, bound = filled(task).value, lower_bound(task)
            self.assertLessEqual(bound, found + 1e-6)
            by_chance = Counts(task)
            for _ in range(30):
                by_chance.n = rng.multinomial(places, np.full(28, 1 / 28))
                by_chance.refresh()
                self.assertGreaterEqual(by_chance.value, bound - 1e-6)
                self.assertGreaterEqual(by_chance.value, found - 1e-6)

    def test_the_best_of_all_small_designs_is_found(self):
        # Brute force: every way to give 5 places to the 6 pairs of 4 plates.
        task = demand(EIGHT[:4], 5)
        counts = Counts(task)
        best = np.inf
        for n in np.ndindex(*(6,) * 6):
            if sum(n) == 5:
                counts.n = np.array(n)
                counts.refresh()
                best = min(best, counts.value)
        self.assertAlmostEqual(filled(task).value, best, places=6)


class OrderOfCells(unittest.TestCase):
    def test_the_order_is_the_best_of_all(self):
        rng = np.random.default_rng(2)
        first = Cell("zinc", JUICE, "copper")
        every = [Cell(a, q, b) for q in (JUICE, BRINE) for a, b in combinations(EIGHT, 2)]
        for _ in range(6):
            cells = [every[k] for k in rng.choice(len(every), 6, replace=False)]
            best = min(path_changes([first, *order, first]) for order in permutations(cells))
            self.assertEqual(path_changes([first, *in_order(cells, first, first), first]), best)

    def test_what_changes_between_two_cells(self):
        one = Cell("zinc", JUICE, "copper")
        self.assertEqual(changes(one, Cell("tin", JUICE, "copper")), 1)
        self.assertEqual(changes(one, Cell("zinc", BRINE, "copper")), 1)
        self.assertEqual(changes(one, Cell("tin", BRINE, "nickel")), 3)
        self.assertEqual(changes(one, Cell("zinc", JUICE, "copper", "4 cm apart")), 1)

    def test_more_cells_than_the_exact_way_takes_are_all_kept(self):
        cells = [Cell(a, JUICE, b) for a, b in combinations(EIGHT, 2)][:15]
        self.assertEqual(set(in_order(cells, None, None)), set(cells))


class WholePlans(unittest.TestCase):
    def sound(self, task, plan):
        """What must hold for every plan."""
        self.assertEqual(len(plan.hands), task.groups)
        for group, hand in enumerate(plan.hands):
            inner = [cell for cell in hand if cell != plan.shared]
            self.assertEqual(len(inner), len(set(inner)), "a cell twice")
            self.assertLessEqual(len(hand), max(task.places, 1))
            self.assertTrue(set(task.pinned.get(group, ())) <= set(hand), "a pinned cell moved")
            if plan.shared:
                self.assertEqual(hand[0], plan.shared)
        for plate, there in task.stock.items():
            holders = sum(any(plate in cell.pair for cell in hand) for hand in plan.hands)
            self.assertLessEqual(holders, there, f"more groups need {plate} than there are plates")
        for cell, wish in task.wished.items():
            self.assertLessEqual(plan.counts[cell], wish)

    def test_the_demo_class_is_connected_with_every_cell_by_two_groups(self):
        task = Task(EIGHT, (JUICE, BRINE), 8, 7)
        plan = design(task)
        self.sound(task, plan)
        self.assertEqual(plan.repeats, 2)
        for bath in task.baths:
            pairs = [cell.pair for hand in plan.hands for cell in hand if cell.bath == bath]
            self.assertEqual(len(connected(EIGHT, pairs)), 1)
        self.assertTrue(all(hand[0] == hand[-1] == Cell("zinc", JUICE, "copper") for hand in plan.hands))
        self.assertGreater(plan.nearness, 0.7)

    def test_the_same_task_gives_the_same_plan(self):
        task = Task(EIGHT, FIVE, 12, 8)
        self.assertEqual(design(task), design(Task(EIGHT, FIVE, 12, 8)))
        self.assertEqual(improve(task, design(task), 2), improve(task, design(task), 2))

    def test_a_round_of_looking_never_makes_it_worse(self):
        task = Task(EIGHT, (JUICE, BRINE), 8, 6)
        plan = design(task)
        for number in (1, 2, 3):
            better = improve(task, plan, number)
            self.sound(task, better)
            self.assertTrue((better.variance, better.changes) <= (plan.variance * (1 + 1e-6), 10**6))
            plan = better

    def test_a_short_period_still_connects_every_plate(self):
        task = Task(EIGHT, (JUICE,), 8, 2)
        plan = design(task)
        self.assertEqual(plan.repeats, 1)
        self.assertEqual(len(connected(EIGHT, [cell.pair for hand in plan.hands for cell in hand])), 1)

    def test_where_not_all_can_be_connected_one_ladder_grows_instead_of_loose_pairs(self):
        plan = design(Task(EIGHT, (JUICE,), 1, 4))
        self.assertGreater(plan.variance, LOOSE)
        cells = {cell for hand in plan.hands for cell in hand}
        self.assertEqual(len(connected(EIGHT, [cell.pair for cell in cells])[0]), len(cells) + 1)

    def test_scarce_plates_wishes_and_pins_are_respected_together(self):
        task = Task(
            EIGHT, (JUICE, BRINE), 8, 7,
            wished={Cell("magnesium", BRINE, "graphite"): 3, Cell("nickel", JUICE, "copper"): 0},
            pinned={2: (Cell("tin", JUICE, "nickel"),)}, stock={"graphite": 3, "magnesium": 5},
        )  # fmt: skip
        plan = design(task)
        self.sound(task, plan)
        self.assertEqual(plan.counts[Cell("magnesium", BRINE, "graphite")], 3)
        self.assertEqual(plan.counts[Cell("nickel", JUICE, "copper")], 0)

    def test_conditions_are_ladders_of_their_own(self):
        task = Task(("zinc", "copper"), (JUICE,), 4, 5, conditions=("1 cm apart", "4 cm apart", "8 cm apart"))
        plan = design(task)
        self.assertEqual({cell.condition for hand in plan.hands for cell in hand}, set(task.conditions))

    def test_against_one_plate_only(self):
        plan = design(Task(EIGHT, (JUICE,), 6, 6, against="copper"))
        self.assertTrue(all("copper" in cell.pair for hand in plan.hands for cell in hand))

    def test_the_shared_cell_is_one_that_every_group_can_have(self):
        self.assertEqual(Task(EIGHT, (JUICE,), 8, 5, stock={"zinc": 4}).shared.pair, ("magnesium", "nickel"))
        self.assertIsNone(Task(("zinc", "copper"), (JUICE,), 8, 5, stock={"zinc": 4}).shared)
        plan = design(Task(("zinc", "copper"), (JUICE,), 8, 5, stock={"zinc": 4}))
        self.assertEqual(sum(bool(hand) for hand in plan.hands), 4)

    def test_a_plan_far_from_the_bound_says_so(self):
        task = Task(EIGHT, (JUICE,), 8, 7)
        good, hand = design(task), design(task).hands[0]
        poor = judge(task, [hand] * 8)
        self.assertLess(poor.nearness, 0.5 * good.nearness)
        self.assertAlmostEqual(good.nearness, good.bound / good.variance, places=12)
        self.assertTrue(0.6 < good.nearness <= 1.0)

    def test_one_possible_cell_is_measured_once_by_every_group(self):
        plan = design(Task(("zinc", "copper"), (JUICE,), 3, 4))
        self.assertEqual(plan.hands, ((Cell("zinc", JUICE, "copper"),),) * 3)

    def test_impossible_wishes_are_refused_with_a_sentence(self):
        for bad in (
            lambda: Task(("zinc",), (JUICE,), 3, 3), lambda: Task(("zinc", "zinc"), (JUICE,), 3, 3),
            lambda: Task(EIGHT, (), 3, 3), lambda: Task(EIGHT, (JUICE,), 0, 3), lambda: design(Task(EIGHT, (JUICE,), 3, 0)),
        ):  # fmt: skip
            with self.assertRaisesRegex(NotEnoughData, r"^[A-Z].*\.$"):
                bad()

    @settings(max_examples=25)
    @given(st.data())
    def test_any_task_gives_a_sound_plan(self, data):
        plates = tuple(data.draw(st.lists(st.sampled_from(EIGHT), min_size=2, max_size=8, unique=True)))
        liquids = FIVE[: data.draw(st.integers(1, 3))]
        groups, places = data.draw(st.integers(1, 9)), data.draw(st.integers(1, 8))
        stock = data.draw(st.dictionaries(st.sampled_from(plates), st.integers(0, 6), max_size=2))
        task = Task(plates, liquids, groups, places, data.draw(st.integers(1, 3)), stock=stock)
        wishes = data.draw(st.dictionaries(st.sampled_from(task.cells), st.integers(0, groups), max_size=3))
        task = replace(task, wished=wishes)
        plan = design(task)
        self.sound(task, plan)
        self.assertEqual(judge(task, plan.hands).variance, plan.variance)
