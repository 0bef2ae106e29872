"""One thing changed on purpose: what has to hold whatever the rates are."""

import unittest

from galvanic.cells import Cell
from galvanic.chemistry.varied import change_of, has_model, levels_of, usual_levels
from galvanic.condition import Condition, level
from galvanic.errors import OutOfRange
from galvanic.reference.variables import variables

LEMON = Cell("zinc", "lemon-juice", "copper")
SALT = Cell("zinc", "salt-water", "copper")


def at(cell, variable, *values):
    return levels_of(cell, [level(variables()[variable], str(value)) for value in values])


class Levels(unittest.TestCase):
    def test_further_apart_the_same_volts_and_less_current(self):
        found = at(LEMON, "spacing", 1, 2, 4, 8)
        for one in found:
            self.assertAlmostEqual(one.open_v, found[0].open_v, places=9)
        amps = [one.short_a for one in found]
        self.assertEqual(amps, sorted(amps, reverse=True))

    def test_three_pairs_give_three_times_the_current_and_the_same_volts(self):
        one, three = at(LEMON, "pairs", 1, 3)
        self.assertAlmostEqual(three.short_a / one.short_a, 3.0, places=6)
        self.assertAlmostEqual(three.open_v, one.open_v, places=9)

    def test_twice_the_area_or_the_depth_is_twice_the_current(self):
        for variable, low, high in (("area", 4, 8), ("depth", 2, 4)):
            small, large = at(LEMON, variable, low, high)
            self.assertAlmostEqual(large.short_a / small.short_a, 2.0, places=6)

    def test_a_pure_dilution_of_one_part_and_no_salt_change_nothing(self):
        usual = at(LEMON, "spacing", 2)[0]
        for variable, value in (("dilution", 1), ("salt", 0), ("soda", 0), ("acid", 0)):
            found = at(LEMON, variable, value)[0]
            self.assertAlmostEqual(found.open_v, usual.open_v, delta=2e-4, msg=variable)

    def test_warmer_is_more_current_in_juice(self):
        cold, warm = at(LEMON, "temperature", 5, 40)
        self.assertGreater(warm.short_a, 1.2 * cold.short_a)

    def test_a_poor_meter_reads_less_and_a_good_one_all(self):
        poor, good = at(LEMON, "meter", 0.02, 10)
        self.assertLess(poor.open_v, good.open_v - 0.02)

    def test_scratching_aluminium_under_salt_water_lays_its_metal_bare(self):
        no, yes = at(Cell("aluminium", "salt-water", "copper"), "skin", "no", "yes")
        self.assertGreater(yes.open_v, no.open_v + 0.3)

    def test_the_climb_after_dipping_ends_at_the_rest(self):
        end = at(SALT, "time", 1, 60)[-1]
        self.assertAlmostEqual(end.open_v, at(SALT, "spacing", 2)[0].open_v, delta=0.003)
        self.assertIsNone(end.short_a)

    def test_every_variable_with_a_model_has_usual_levels_it_can_foretell(self):
        for variable in variables().values():
            if has_model(variable):
                cell = SALT if variable.key == "concentration" else LEMON
                with self.subTest(variable=variable.key):
                    self.assertEqual(len(levels_of(cell, usual_levels(variable))), len(usual_levels(variable)))

    def test_what_the_model_has_no_part_in_is_said(self):
        with self.assertRaisesRegex(OutOfRange, "compared, not foretold"):
            levels_of(LEMON, [Condition("cooked", "raw")])
        with self.assertRaisesRegex(OutOfRange, "vary its dilution"):
            change_of(LEMON, Condition("concentration", 0.1))
