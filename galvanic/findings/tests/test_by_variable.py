"""What a class found of the one thing it changed, answered in words; classes simulated with known effects."""

import unittest

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.varied import levels_of
from galvanic.condition import Condition
from galvanic.findings.by_variable import current_by_variable, one_next_level, volts_by_variable
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
        self.assertEqual({str(tick.condition) for tick in found.ticks}, {f"spacing {cm} cm" for cm in (1, 2, 4, 8)})
        self.assertAlmostEqual(found.model[0].open_v, found.model[-1].open_v)

    def test_an_effect_is_told_with_its_size_and_interval(self):
        found = self.one("temperature", (10.0, 25.0, 40.0), lambda c: 0.9 + 0.004 * c, unit="°C", name="temperature")
        note = found.notes[0]
        self.assertEqual((note.code, found.form), ("effect", "linear"))
        self.assertRegex(note.text, r"\+0\.1[12]\d.V from 10 to 40 °C \(6 groups\)")
        self.assertTrue(found.fit.low < 0.004 < found.fit.high)

    def test_the_line_goes_from_the_lowest_to_the_highest_level_in_even_steps(self):
        found = self.one("temperature", (10.0, 25.0, 40.0), lambda c: 0.9 + 0.004 * c, unit="°C", name="temperature")
        at = [x for x, _ in found.line]
        np.testing.assert_allclose(at, np.linspace(10.0, 40.0, len(at)))
        slopes = {round((b[1] - a[1]) / (b[0] - a[0]), 9) for a, b in zip(found.line, found.line[1:], strict=False)}
        self.assertEqual(slopes, {round(found.fit.slope, 9)})

    def test_words_are_steps_in_their_order(self):
        found = self.one("surface", ("dull", "rubbed"), lambda word: 0.8 if word == "dull" else 0.95, name="surface")
        self.assertIn("from dull to rubbed", found.notes[0].text)
        self.assertNotIn("two_levels", {note.code for note in found.notes})

    def test_a_decade_is_laid_on_its_logarithm(self):
        found = self.one("dilution", (0.05, 0.3, 1.0), lambda p: 0.9 + 0.05 * np.log10(p), unit="part", name="dilution")
        self.assertEqual(found.form, "log")
        self.assertAlmostEqual(found.fit.slope, 0.05, delta=0.02)

    def test_a_teachers_own_setting_is_compared_without_a_model(self):
        found = self.one("", (1.0, 2.0, 5.0), lambda n: 0.8 + 0.02 * n, name="window", unit="panes")
        self.assertEqual((found.variable.name, found.variable.kind, found.model), ("window", "number", ()))
        self.assertEqual(found.notes[0].code, "effect")
        self.assertIn("from 1 to 5 panes", found.notes[0].text)
        words = self.one("", ("sill", "fridge", "shelf"), lambda word: 0.9 - 0.1 * (word == "fridge"), name="on the")
        steps = next(note.text for note in words.notes if note.code == "steps")
        self.assertRegex(
            steps, r"on the sill to on the fridge: \u22120\.\d+.V \(.* to .*\)\. on the fridge to on the shelf: \+0"
        )

    def test_what_a_cell_really_had_is_what_it_is_laid_against(self):
        results = compare(readings("spacing", (1.0, 4.0), lambda cm: 0.9 + 0.02 * cm, noise=1e-4))
        cell = Cell("zinc", "lemon-juice", "copper")
        really = {(group, cell, Condition("spacing", 4.0)): 2.0 for group in GROUPS}
        self.assertAlmostEqual(volts_by_variable(results)[0].fit.slope, 0.02, delta=0.001)
        found = volts_by_variable(results, really)[0]
        self.assertAlmostEqual(found.fit.slope, 0.06, delta=0.002)
        self.assertIn("from 1 to 2 cm", found.notes[0].text)

    def test_a_bend_is_said_and_a_straight_line_is_not(self):
        bent = self.one("spacing", (1.0, 2.0, 4.0, 8.0), lambda cm: 0.9 + 0.01 * (cm - 4.0) ** 2)
        straight = self.one("spacing", (1.0, 2.0, 4.0, 8.0), lambda cm: 0.9 + 0.01 * cm)
        self.assertIn("bend upwards", next(note.text for note in bent.notes if note.code == "bend"))
        self.assertNotIn("bend", {note.code for note in straight.notes})

    def test_two_numbers_are_too_few_for_a_bend_and_two_groups_for_an_answer(self):
        found = self.one("spacing", (1.0, 8.0), lambda _: 0.95)
        self.assertIn("two_levels", {note.code for note in found.notes})
        few = [reading for reading in readings("spacing", (1.0, 4.0), lambda _: 0.9) if reading.group in GROUPS[:2]]
        self.assertEqual(volts_by_variable(compare(few))[0].notes[0].code, "too_little")

    def test_one_next_level_is_said_of_each_variable(self):
        volts = self.one("spacing", (1.0, 2.0, 8.0), lambda cm: 0.9 + 0.02 * cm)
        pairs = self.one("temperature", (10.0, 25.0, 60.0), lambda n: 0.9, unit="°C", name="temperature")
        codes = [[note.code for note in one.notes].count("next_level") for one in one_next_level([volts, volts, pairs])]
        self.assertEqual(codes[:2], [1, 0])
        self.assertEqual(codes[2], [note.code for note in pairs.notes].count("next_level"))


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
            found.notes[0].text,
            r"^At the last level [23]\.\d\d times the current of the first, likely \d\.\d\d to \d\.\d\d .* to the power [01]\.\d\d \(",
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
