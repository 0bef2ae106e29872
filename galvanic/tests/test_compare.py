"""A class beside the table, the notes on it, the share-out and the simulated bench."""

import unittest
from collections import Counter

import numpy as np

from galvanic.cells import Cell
from galvanic.compare import ClassReading, compare
from galvanic.design import share_out, shared_cell, slots
from galvanic.errors import NotEnoughData
from galvanic.ladder import connected
from galvanic.notes import compare_notes, plan_notes
from galvanic.readings import parse
from galvanic.simulate import Bench, Meter

JUICE = "rhubarb-juice"
EIGHT = ["magnesium", "aluminium", "zinc", "steel", "nickel", "tin", "copper", "graphite"]


def r(group, red, black, volts, electrolyte=JUICE):
    return ClassReading(group, red, black, electrolyte, volts, 0.01)


class Compare(unittest.TestCase):
    def test_each_group_counts_once_however_often_it_read(self):
        readings = [r("Tern", "copper", "zinc", 0.90)] * 9 + [r("Knot", "copper", "zinc", 1.00)]
        cell = compare(readings)[0].cells[0]
        self.assertAlmostEqual(cell.mean_v, 0.95)
        self.assertEqual(cell.n, 10)
        self.assertAlmostEqual(cell.gap_v, 0.95 - 1.1037)

    def test_a_minus_sign_with_swapped_leads_is_the_same_evidence(self):
        one = compare([r("Tern", "copper", "zinc", 0.94), r("Knot", "copper", "zinc", 0.96)])[0]
        other = compare([r("Tern", "copper", "zinc", 0.94), r("Knot", "zinc", "copper", -0.96)])[0]
        self.assertEqual(one.cells[0].mean_v, other.cells[0].mean_v)

    def test_without_a_second_group_anywhere_there_is_no_uncertainty_to_state(self):
        cell = compare([r("Tern", "copper", "zinc", 0.94)])[0].cells[0]
        self.assertIsNone(cell.u_v)

    def test_a_cell_of_one_group_takes_the_scatter_between_groups_of_the_other_cells(self):
        readings = [r("Tern", "copper", "zinc", 0.90), r("Knot", "copper", "zinc", 1.00), r("Tern", "tin", "zinc", 0.5)]
        cells = {c.cell.short: c for c in compare(readings)[0].cells}
        self.assertAlmostEqual(cells["Zn | Sn"].u_v, (0.1**2 / 2 + 0.01**2 / 12) ** 0.5)
        self.assertAlmostEqual(cells["Zn | Sn"].u_v / cells["Zn | Cu"].u_v, 2**0.5, places=2)

    def test_the_interval_of_two_groups_by_hand(self):
        # Means 0.90 and 1.00: s = 0.0707, s/√2 = 0.05; last digit 0.01/√12; t(0.975, 1) = 12.706.
        cell = compare([r("Tern", "copper", "zinc", 0.90), r("Knot", "copper", "zinc", 1.00)])[0].cells[0]
        self.assertAlmostEqual(cell.u_v, 0.05008, places=5)
        self.assertAlmostEqual((cell.high_v - cell.low_v) / 2, 12.706 * 0.05008, places=3)

    def test_aluminium_above_zinc_is_found_as_a_swap(self):
        readings = [r(g, "zinc", "aluminium", -0.36 + d) for g, d in [("Tern", 0.01), ("Knot", -0.01)]]
        readings += [r(g, "copper", "zinc", 0.95 + d) for g, d in [("Tern", 0.01), ("Knot", -0.01)]]
        result = compare(readings)[0]
        self.assertEqual([(s.lower, s.upper) for s in result.swaps], [("aluminium", "zinc")])
        self.assertAlmostEqual(result.swaps[0].by_v, 0.36, places=6)
        note = compare_notes(result)[0]
        self.assertEqual(note.title, "Al and Zn changed places")
        self.assertIn("0.36\u2009V", note.text)

    def test_the_anchor_stays_at_its_table_value_and_the_rest_keep_their_distances(self):
        readings = [r("Tern", "copper", "zinc", 0.95), r("Tern", "tin", "zinc", 0.55), r("Tern", "graphite", "zinc", 1.1)]
        for anchor in ("zinc", "copper", "tin"):
            result = compare(readings, {JUICE: anchor})[0]
            rung = {x.electrode: x for x in result.rungs}
            self.assertEqual(rung[anchor].class_v, rung[anchor].table_v)
            self.assertEqual(rung[anchor].u_v, 0.0)
            self.assertAlmostEqual(rung["copper"].class_v - rung["zinc"].class_v, 0.95)
            self.assertIsNone(rung["graphite"].table_v)

    def test_the_default_anchor_is_the_middle_shift_and_an_inert_one_is_never_used(self):
        readings = [
            r("Tern", "copper", "zinc", 0.95),
            r("Tern", "zinc", "magnesium", 0.60),
            r("Tern", "graphite", "zinc", 1.1),
        ]
        result = compare(readings, {JUICE: "graphite"})[0]
        self.assertEqual(result.anchor, "zinc")  # shifts: copper −0.15, zinc 0, magnesium +1.01

    def test_loose_electrodes_are_named_and_only_inert_ones_give_no_stem(self):
        result = compare([r("a", "copper", "zinc", 0.9), r("a", "tin", "zinc", 0.5), r("a", "nickel", "steel", 0.2)])[0]
        self.assertEqual(set(result.loose), {"nickel", "steel"})
        self.assertIn("loose", [note.code for note in compare_notes(result)])
        self.assertEqual(compare([r("a", "copper", "copper", 0.01)])[0].rungs, ())

    def test_electrolytes_are_kept_apart_and_nothing_gives_nothing(self):
        found = compare([r("a", "copper", "zinc", 0.9), r("a", "copper", "zinc", 0.7, "kelp-brine")])
        self.assertEqual([x.electrolyte for x in found], [JUICE, "kelp-brine"])
        self.assertEqual(compare([]), ())

    def test_the_widest_gap_comes_first_and_the_unlisted_last(self):
        readings = [r("a", "copper", "zinc", 1.0), r("a", "copper", "magnesium", 1.5), r("a", "graphite", "zinc", 1.1)]
        self.assertEqual([c.cell.short for c in compare(readings)[0].cells], ["Mg | Cu", "Zn | Cu", "Zn | C"])


class ShareOut(unittest.TestCase):
    def test_every_group_starts_with_the_shared_cell_and_no_cell_comes_twice(self):
        hands = share_out(EIGHT, [JUICE, "kelp-brine"], 8, slots(60))
        for hand in hands:
            self.assertEqual(hand[0], Cell("zinc", JUICE, "copper"))
            self.assertEqual(len(hand), len(set(hand)))

    def test_work_is_even_and_each_cell_goes_to_two_groups_where_there_is_room(self):
        hands = share_out(EIGHT, [JUICE], 8, 7)
        self.assertEqual({len(hand) for hand in hands}, {7})
        counts = Counter(cell for hand in hands for cell in hand[1:])
        self.assertEqual(set(counts.values()), {2})
        self.assertEqual(len(counts), 24)

    def test_with_little_room_no_cell_comes_twice_before_every_electrode_is_reached(self):
        hands = share_out(EIGHT, [JUICE, "kelp-brine"], 4, 4)
        counts = Counter(cell for hand in hands for cell in hand[1:])
        self.assertEqual(set(counts.values()), {1})

    def test_a_short_period_still_connects_every_electrode(self):
        hands = share_out(EIGHT, [JUICE], 8, 2)
        pairs = [(cell.negative, cell.positive) for hand in hands for cell in hand]
        self.assertEqual(len(connected(EIGHT, pairs)), 1)
        self.assertFalse([n for n in plan_notes(hands, EIGHT, [JUICE], 26) if n.code == "unconnected"])

    def test_too_few_cells_for_the_ladder_is_said(self):
        hands = share_out(EIGHT, [JUICE], 1, 3)
        note = next(n for n in plan_notes(hands, EIGHT, [JUICE], 32) if n.code == "unconnected")
        self.assertIn("rhubarb juice", note.text)

    def test_small_and_odd_wishes(self):
        self.assertEqual(share_out(["zinc", "copper"], [JUICE], 3, 4), [[Cell("zinc", JUICE, "copper")]] * 3)
        self.assertEqual(shared_cell(["tin", "silver", "magnesium"], [JUICE]), Cell("magnesium", JUICE, "tin"))
        for bad in ((["zinc"], [JUICE], 3, 3), (EIGHT, [], 3, 3), (EIGHT, [JUICE], 0, 3), (EIGHT, [JUICE], 3, 0)):
            with self.assertRaises(NotEnoughData):
                share_out(*bad)


class Simulated(unittest.TestCase):
    def bench(self, seed, **meter):
        return Bench({"zinc": -0.8, "copper": 0.15}, np.random.default_rng(seed), Meter(**meter), 0.01, 0.003)

    def test_the_same_seed_gives_the_same_class(self):
        self.assertEqual(self.bench(5).read("copper", "zinc"), self.bench(5).read("copper", "zinc"))
        self.assertNotEqual(self.bench(5).read("copper", "zinc"), self.bench(6).read("copper", "zinc"))

    def test_readings_scatter_about_the_true_value_with_the_meters_offset_and_digits(self):
        values = [float(self.bench(s, offset_v=0.06, decimals=2).read("copper", "zinc")) for s in range(400)]
        self.assertAlmostEqual(sum(values) / 400, 1.01, delta=0.003)
        self.assertAlmostEqual(float(np.std(values)), (2 * 0.01**2 + 0.003**2 + 0.01**2 / 12) ** 0.5, delta=0.002)
        self.assertEqual(parse(self.bench(1, decimals=2).read("copper", "zinc")).resolution_v, 0.01)
