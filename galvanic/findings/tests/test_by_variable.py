"""What a class found of the one thing it changed, answered in words; classes simulated with known effects."""

import unittest

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.varied import levels_of
from galvanic.condition import Condition
from galvanic.findings.by_variable import current_by_variable, volts_by_variable
from galvanic.findings.compare import ClassReading, compare

GROUPS = ("Tern", "Knot", "Plover", "Dunlin", "Gannet", "Fulmar")


def readings(variable, values, volts, noise=0.01, seed=1, unit="cm", name="spacing"):
    rng = np.random.default_rng(seed)
    out = []
    for group in GROUPS:
        own = rng.normal(0.0, 0.03)
        for value in values:
            text = f"{name} {value:g} {unit}" if isinstance(value, float) else f"{name} {value}"
            read = volts(value) + own + rng.normal(0.0, noise)
            out.append(ClassReading(group, "copper", "zinc", "lemon-juice", round(read, 3), 0.001, text))
    return out


class Volts(unittest.TestCase):
    def one(self, *args, **more):
        found = volts_by_variable(compare(readings(*args, **more)))
        self.assertEqual(len(found), 1)
        return found[0]

    def test_no_effect_says_how_large_one_could_be(self):
        found = self.one("spacing", (1.0, 2.0, 4.0, 8.0), lambda _: 0.95)
        note = found.notes[0]
        self.assertEqual(note.code, "no_effect")
        self.assertRegex(note.text, r"smaller than 0\.0\d\d.V")
        self.assertEqual(
            [str(one) for one in found.levels], ["spacing 1 cm", "spacing 2 cm", "spacing 4 cm", "spacing 8 cm"]
        )
        self.assertAlmostEqual(found.model[0].open_v, found.model[-1].open_v)

    def test_an_effect_is_told_with_its_size_and_interval(self):
        found = self.one("temperature", (10.0, 25.0, 40.0), lambda c: 0.9 + 0.004 * c, unit="°C", name="temperature")
        note = found.notes[0]
        self.assertEqual((note.code, found.form), ("effect", "linear"))
        self.assertRegex(note.text, r"\+0\.1[12]\d.V from 10 to 40 °C \(6 groups\)")
        self.assertTrue(found.fit.low < 0.004 < found.fit.high)

    def test_words_are_steps_in_their_order(self):
        found = self.one("surface", ("dull", "rubbed"), lambda word: 0.8 if word == "dull" else 0.95, name="surface")
        self.assertIn("from dull to rubbed", found.notes[0].text)
        self.assertNotIn("two_levels", {note.code for note in found.notes})

    def test_a_decade_is_laid_on_its_logarithm_and_a_teachers_own_words_are_left_alone(self):
        found = self.one("dilution", (0.05, 0.3, 1.0), lambda p: 0.9 + 0.05 * np.log10(p), unit="part", name="dilution")
        self.assertEqual(found.form, "log")
        self.assertAlmostEqual(found.fit.slope, 0.05, delta=0.02)
        self.assertEqual(volts_by_variable(compare(readings("", (1.0, 2.0), lambda _: 0.9, name="window", unit="pane"))), [])

    def test_two_numbers_are_too_few_for_a_bend_and_two_groups_for_an_answer(self):
        found = self.one("spacing", (1.0, 8.0), lambda _: 0.95)
        self.assertIn("two_levels", {note.code for note in found.notes})
        few = [one for one in readings("spacing", (1.0, 4.0), lambda _: 0.9) if one.group in GROUPS[:2]]
        self.assertEqual(volts_by_variable(compare(few))[0].notes[0].code, "too_little")


class Currents(unittest.TestCase):
    def simulated(self, variable, values, spread=0.05):
        rng = np.random.default_rng(2)
        cell = Cell("zinc", "lemon-juice", "copper")
        conditions = [Condition(variable, value) for value in values]
        foretold = levels_of(cell, conditions)
        out = []
        for group in GROUPS:
            own = float(np.exp(rng.normal(0.0, 0.3)))
            for one in foretold:
                amps = one.short_a * own * float(np.exp(rng.normal(0.0, spread)))
                out.append((group, Cell(*cell.pair[:1], cell.electrolyte, cell.positive, str(one.condition)), amps))
        return current_by_variable(out)[0]

    def test_three_pairs_are_in_proportion(self):
        found = self.simulated("pairs", (1.0, 2.0, 3.0))
        self.assertEqual(found.form, "power")
        self.assertTrue(found.fit.low < 1.0 < found.fit.high)
        self.assertAlmostEqual(found.fit.slope, 1.0, delta=0.1)
        self.assertRegex(
            found.notes[0].text, r"^[23]\.\d\d times the current at the last level .* to the power [01]\.\d\d \("
        )

    def test_distance_has_a_fixed_part_in_centimetres(self):
        found = self.simulated("spacing", (1.0, 2.0, 4.0, 8.0))
        self.assertEqual((found.form, found.notes[0].code), ("inverse", "effect"))
        self.assertRegex(found.notes[0].text, r"as much as \d+\.\d cm of liquid")

    def test_temperature_goes_as_arrhenius_has_it(self):
        found = self.simulated("temperature", (5.0, 20.0, 40.0))
        ratio = found.model[-1].short_a / found.model[0].short_a
        meant = 8.314e-3 * np.log(ratio) / (1 / 278.15 - 1 / 313.15)
        self.assertAlmostEqual(-8.314e-3 * found.fit.slope, meant, delta=3.0)
