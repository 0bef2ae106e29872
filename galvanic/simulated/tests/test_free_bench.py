"""The free bench's tables are the core's own numbers."""

import unittest

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.demand import demand
from galvanic.chemistry.polarisation import LoadedCell
from galvanic.chemistry.transient import Event, simulate
from galvanic.errors import UnknownMaterial
from galvanic.simulated.free_bench import (
    CHANGES,
    CHOICES,
    MET_OHM,
    METERS,
    RESTED_S,
    SECONDS,
    liquids,
    pair_table,
    pair_tables,
    plates,
    settling,
    shown_v,
)


class FreeBench(unittest.TestCase):
    def test_a_pair_gives_what_the_core_has_for_it_at_rest(self):
        table = pair_table("lemon-juice", "zinc", "copper")
        low, high = LoadedCell.of(Cell.of("zinc", "lemon-juice", "copper")).rest()
        self.assertAlmostEqual(table.volts_v, high - low)
        self.assertEqual((table.negative, table.positive), ("zinc", "copper"))
        self.assertEqual(table, pair_table("lemon-juice", "copper", "zinc"))

    def test_what_is_kept_is_what_the_model_has_now(self):
        """All pairs in all liquids, and some of each liquid computed again."""
        kept = pair_tables()
        self.assertEqual(len(kept), len(liquids()) * len(plates()) * (len(plates()) - 1) // 2)
        for table in kept[3::29]:
            now = pair_table(table.electrolyte, table.negative, table.positive)
            with self.subTest(table.electrolyte, pair=(table.negative, table.positive)):
                self.assertEqual((now.negative, now.positive), (table.negative, table.positive))
                self.assertAlmostEqual(table.volts_v / now.volts_v, 1.0, delta=1e-3)
                np.testing.assert_allclose(table.shorted_a, now.shorted_a, rtol=1e-3)
                np.testing.assert_allclose(table.left, now.left, atol=1e-3)
                for is_kept, is_now in zip(table.changes, now.changes, strict=True):
                    self.assertEqual(is_kept.name, is_now.name)
                    self.assertAlmostEqual(is_kept.adds_v, is_now.adds_v, delta=1e-3)
                    self.assertAlmostEqual(is_kept.times / is_now.times, 1.0, delta=1e-3)

    def test_volts_are_above_zero_whatever_the_table_of_potentials_says(self):
        """In juice aluminium lies above zinc, against the table."""
        table = pair_table("lemon-juice", "aluminium", "zinc")
        self.assertGreater(table.volts_v, 0.0)
        self.assertEqual(table.negative, "zinc")

    def test_plates_farther_apart_give_the_same_volts_and_less_current(self):
        changes = {change.name: change for change in pair_table("lemon-juice", "zinc", "copper").changes}
        self.assertEqual(set(changes), set(CHANGES))
        self.assertAlmostEqual(changes["8 cm apart"].adds_v, 0.0, places=6)
        self.assertLess(changes["8 cm apart"].times, changes["4 cm apart"].times)
        self.assertGreater(changes["4 g of salt"].times, 1.0)

    def test_each_change_is_offered_once_beside_what_stands_without_it(self):
        offered = [name for choice in CHOICES for name in choice.levels.values() if name]
        self.assertEqual(sorted(offered), sorted(CHANGES))
        for choice in CHOICES:
            with self.subTest(choice.name):
                self.assertEqual(len({CHANGES[name].variable for name in choice.levels.values() if name}), 1)
                self.assertEqual(list(choice.levels.values()).count(""), 1)

    def test_a_load_meets_the_cell_nearly_as_the_core_has_it_while_it_sags(self):
        """Between the points of the curve too, and where salt lets more current through."""
        at = np.array([1.0, 6.0, 17.0, 45.0, 90.0])
        for plates_in in (
            ("zinc", "lemon-juice", "copper"),
            ("steel", "vinegar", "graphite"),
            ("magnesium", "sea-water", "copper"),
        ):
            table = next(one for one in pair_tables() if (one.negative, one.electrolyte, one.positive) == plates_in)
            for ohm in MET_OHM:
                event = Event(RESTED_S, "load", demand(ohm))
                core, _ = simulate([PackCell(Cell.of(*plates_in))], [event], RESTED_S + 130.0).at(RESTED_S + at)
                for seconds, volts in zip(at, core, strict=True):
                    self.assertAlmostEqual(shown_v(table, (), 1, ohm, seconds), volts, delta=0.05, msg=(ohm, seconds))
        for ohm in (300.0, 1000.0):
            self.assertGreater(shown_v(table, ("4 g of salt",), 1, ohm), 0.9 * shown_v(table, (), 1, ohm))

    def test_two_cells_in_a_row_on_a_load_are_each_one_on_half_of_it(self):
        cell, event = PackCell(Cell.of("zinc", "lemon-juice", "copper")), Event(RESTED_S, "load", demand(1000.0))
        table = pair_table("lemon-juice", "zinc", "copper")
        core, _ = simulate([cell, cell], [event], RESTED_S + 70.0).at(RESTED_S + np.array([1.0, 10.0, 60.0]))
        for seconds, volts in zip((1.0, 10.0, 60.0), core, strict=True):
            self.assertAlmostEqual(shown_v(table, (), 2, 1000.0, seconds), volts, delta=0.03, msg=seconds)

    def test_a_short_takes_what_the_core_has_at_each_time(self):
        table = pair_table("lemon-juice", "zinc", "copper")
        trace = simulate([PackCell(Cell.of("zinc", "lemon-juice", "copper"))], [Event(RESTED_S, "short")], RESTED_S + 310.0)
        np.testing.assert_allclose(table.shorted_a, trace.at(RESTED_S + np.array(SECONDS))[1], rtol=0.02)

    def test_a_flat_battery_makes_a_digital_meter_read_too_much_and_a_needle_as_before(self):
        self.assertEqual([meter.flat_times > 1.0 for meter in METERS], [True, True, False])

    def test_cells_in_a_row_add_up_and_a_short_leaves_nothing(self):
        table = pair_table("lemon-juice", "zinc", "copper")
        self.assertAlmostEqual(shown_v(table, (), 3, None), 3.0 * table.volts_v)
        self.assertEqual(shown_v(table, (), 3, 0.0), 0.0)

    def test_one_ohm_is_a_load_and_not_a_wire(self):
        self.assertGreater(shown_v(pair_table("lemon-juice", "zinc", "copper"), (), 1, 1.0), 0.0)

    def test_what_is_not_offered_is_refused(self):
        for electrolyte, one, other in (("kcl-0.10", "zinc", "copper"), ("lemon-juice", "zinc", "zinc"), ("x", "y", "z")):
            with self.assertRaises(UnknownMaterial):
                pair_table(electrolyte, one, other)

    def test_there_are_plates_liquids_and_three_kinds_of_meters(self):
        self.assertGreaterEqual(len(plates()), 6)
        self.assertGreaterEqual(len(liquids()), 3)
        self.assertEqual([meter.key for meter in METERS], ["fine", "coarse", "needle"])
        self.assertTrue(0.0 < settling().begin < 1.0)
