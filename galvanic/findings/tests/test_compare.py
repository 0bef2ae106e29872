"""A class beside the table, the notes on it, and the simulated bench."""

import unittest
from dataclasses import replace

import numpy as np

from galvanic.bench.readings import parse
from galvanic.findings.bath_notes import bath_notes
from galvanic.findings.compare import ClassReading, compare
from galvanic.findings.ranked import notes
from galvanic.simulated.simulate import Bench, Meter

JUICE = "rhubarb-juice"


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
        note = notes(bath_notes(result))[0]
        self.assertEqual(note.title, "Al and Zn changed places")
        self.assertIn("0.36\u202fV", note.text)

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
        self.assertIn("loose", [note.code for note in notes(bath_notes(result))])
        self.assertEqual(compare([r("a", "copper", "copper", 0.01)])[0].rungs, ())

    def test_electrolytes_are_kept_apart_and_nothing_gives_nothing(self):
        found = compare([r("a", "copper", "zinc", 0.9), r("a", "copper", "zinc", 0.7, "kelp-brine")])
        self.assertEqual([x.electrolyte for x in found], [JUICE, "kelp-brine"])
        self.assertEqual(compare([]), ())

    def test_conditions_of_one_liquid_are_kept_apart(self):
        near = ClassReading("a", "copper", "zinc", JUICE, 0.95, 0.01, "1 cm apart")
        far = ClassReading("a", "copper", "zinc", JUICE, 0.93, 0.01, "8 cm apart")
        found = compare([near, far, near])
        self.assertEqual([(x.condition, x.cells[0].n) for x in found], [("1 cm apart", 2), ("8 cm apart", 1)])
        self.assertIn("rhubarb juice, 1 cm apart", found[0].cells[0].cell.notation)

    def test_the_widest_gap_comes_first_and_the_unlisted_last(self):
        readings = [r("a", "copper", "zinc", 1.0), r("a", "copper", "magnesium", 1.5), r("a", "graphite", "zinc", 1.1)]
        self.assertEqual([c.cell.short for c in compare(readings)[0].cells], ["Mg | Cu", "Zn | Cu", "Zn | C"])


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


class Again(unittest.TestCase):
    """What is kept of a comparison is kept only while nothing that goes into it has changed."""

    READINGS = tuple(
        ClassReading(group, red, black, liquid, level, 0.01)
        for group in ("Tern", "Knot")
        for liquid in ("lemon-juice", "kelp-brine")
        for black, red, level in (("zinc", "copper", 0.95), ("tin", "copper", 0.45), ("zinc", "tin", 0.50))
    )

    def test_a_new_reading_is_in_the_next_comparison_and_leaves_other_baths_alone(self):
        before = {one.electrolyte: one for one in compare(self.READINGS)}
        more = [*self.READINGS, ClassReading("Ruff", "copper", "zinc", "kelp-brine", 0.94, 0.01)]
        after = {one.electrolyte: one for one in compare(more)}
        self.assertIs(after["lemon-juice"], before["lemon-juice"])
        n = {key: next(c.n for c in found["kelp-brine"].cells if c.cell.positive == "copper" and c.cell.negative == "zinc")
             for key, found in (("before", before), ("after", after))}  # fmt: skip
        self.assertEqual(n, {"before": 2, "after": 3})

    def test_another_value_another_resolution_and_another_anchor_count_too(self):
        (lemon, *_) = compare(self.READINGS)
        for change in ({"volts_v": 0.951}, {"resolution_v": 0.001}):
            (other, *_) = compare([replace(self.READINGS[0], **change), *self.READINGS[1:]])
            self.assertIsNot(other, lemon, change)
        (held, *_) = compare(self.READINGS, {"lemon-juice": "zinc"})
        self.assertEqual(held.anchor, "zinc")

    def test_the_gap_in_per_cent_is_of_the_table_difference(self):
        (lemon, *_) = compare(self.READINGS)
        found = next(c for c in lemon.cells if (c.cell.negative, c.cell.positive) == ("zinc", "copper"))
        # Zn2+/Zn -0.7618 V, Cu2+/Cu 0.3419 V (CRC Handbook): 1.1037 V; 0.95 V is 13.9 % short of it.
        self.assertAlmostEqual(found.gap_percent, -13.9, delta=0.1)

    def test_one_mistyped_reading_of_three_widens_its_own_bar_and_nobody_elses(self):
        rng = np.random.default_rng(6)
        sound = [
            ClassReading(group, red, black, "lemon-juice", round(level + float(rng.normal(0.0, 0.003)), 3), 0.001)
            for group in ("Tern", "Knot", "Ruff")
            for black, red, level in (("zinc", "copper", 0.95), ("tin", "copper", 0.45), ("zinc", "tin", 0.50))
            for _ in range(3)
        ]
        wrong = [replace(sound[0], volts_v=940.0), *sound[1:]]
        (before,), (after,) = compare(sound), compare(wrong)
        self.assertLess(after.inside.s_v, 2.0 * before.inside.s_v)
        self.assertEqual([outlier.key for outlier in after.outliers], [("Tern", frozenset(("zinc", "copper")))])
        for one, other in zip(before.rungs, after.rungs, strict=True):
            self.assertAlmostEqual(one.class_v, other.class_v, delta=0.01)
            self.assertLess(other.u_v, 0.03)
