"""Liquids made by recipe and cells of two of them: their numbers, their cells against Nernst, what is refused."""

import unittest
from contextlib import contextmanager

from galvanic.cells import Cell
from galvanic.chemistry.accounts import predict
from galvanic.chemistry.fitting import refusal
from galvanic.chemistry.gap import explain
from galvanic.chemistry.made import composition, grams_for, made_fields, own_liquid, strength_of, two_fields
from galvanic.errors import OutOfRange
from galvanic.planning.design import Task, design
from galvanic.planning.kit import kit
from galvanic.planning.recipes import batch
from galvanic.reference.catalogue import Made, also
from galvanic.reference.reader import Range


def row_of(key, fields):
    """A liquid as the server keeps it."""
    return own_liquid(key, key, fields)


def solution(salt, mol_per_l):
    made = Made("water", 100.0, ((salt, grams_for(salt, mol_per_l, 0.1)),))
    return row_of(f"own {salt} {mol_per_l:g}", made_fields(made))


@contextmanager
def two(left, right, bridge="paper"):
    """A catalogue in which “own-two” is made of two salts' solutions; yields its key."""
    sides = list({one.key: one for one in (solution(*left), solution(*right))}.values())
    with also(lambda: ([], sides)):
        pair = row_of("own-two", two_fields(sides[0].key, sides[-1].key, bridge))
    with also(lambda: ([], [*sides, pair])):
        yield "own-two"


class Recipes(unittest.TestCase):
    def test_a_metals_salt_conducts_and_sours_as_handbooks_have_it(self):
        """Copper sulfate 0.1 and 1 mol/L: 0.85 and 4.6 S/m at 25 °C; pH 4.2 and 3.7; zinc sulfate 1 mol/L pH 4.5 (handbook
        conductivities at 20 °C plus a tenth; hydrolysis constants of Baes and Mesmer 1976; from memory)."""
        for salt, c, conductivity, ph in (
            ("copper-sulfate", 0.1, 0.85, 4.5),
            ("copper-sulfate", 1.0, 4.6, 4.0),
            ("zinc-sulfate", 1.0, 4.7, 4.5),
            ("silver-nitrate", 0.1, 1.09, 6.5),
        ):
            found = solution(salt, c)
            middle = (found.conductivity_s_per_m.low * found.conductivity_s_per_m.high) ** 0.5
            with self.subTest(salt, c=c):
                self.assertAlmostEqual(middle / conductivity, 1.0, delta=0.2)
                self.assertTrue(found.ph.low - 0.3 <= ph <= found.ph.high + 0.3, found.ph)

    def test_salt_in_lemon_juice_brings_its_chloride_and_keeps_its_spread(self):
        made = Made("lemon-juice", 100.0, (("table-salt", 2.0),))
        fields = made_fields(made)
        low, high = fields["chloride_mol_per_l"]
        self.assertAlmostEqual((low * high) ** 0.5, 2.0 / 58.44 / 0.1, delta=0.03)
        self.assertGreater(fields["acids_mol_per_l"]["citric"], 0.2)
        self.assertEqual((fields["form"], fields["ions_mol_per_l"]), ("juice", {}))

    def test_what_to_weigh_comes_with_its_water_and_its_hazard(self):
        """Copper sulfate pentahydrate, 249.69 g/mol: 25.0 g for 100 mL of 1 mol/L (any table)."""
        self.assertAlmostEqual(grams_for("copper-sulfate", 1.0, 0.1), 24.97, delta=0.01)
        half = solution("copper-sulfate", 0.5)
        with also(lambda: ([], [half])):
            found = batch("own copper-sulfate 0.5", 0.4)
        self.assertEqual([round(ingredient.amount, 1) for ingredient in found.ingredients], [49.9, 400.0])
        self.assertIn("CuSO4·5H2O", found.ingredients[0].name)
        self.assertIn("splash goggles", found.method)
        self.assertEqual(strength_of(Made("water", 200.0, (("zinc-sulfate", 28.755),))), "zinc sulfate 0.5 mol/L")

    def test_what_cannot_be_made_says_why(self):
        for made, said in (
            (
                Made("water", 100.0, (("copper-sulfate", 500.0),)),
                r"^500 g of .* dissolve in 100 mL: 32 g is the most, 1\.3 mol/L",
            ),
            (Made("water", 100.0, (("moon-dust", 1.0),)), "nothing called"),
            (Made("daniell-pot", 100.0, (("table-salt", 1.0),)), "two solutions"),
            (Made("water", 0.0, (("table-salt", 1.0),)), "above zero"),
        ):
            with self.subTest(said), self.assertRaisesRegex(OutOfRange, said):
                composition(made)


class TwoSolutions(unittest.TestCase):
    def test_the_model_is_near_nernst_with_activities(self):
        """Daniell 1.10 V to 15 mV; silver and copper nitrate, 0.1 mol/L each: 0.435 V with Davies; silver concentration cell
        0.001 | 0.1 mol/L: 0.118 V with concentrations, 0.113 with activities (Nernst's equation)."""
        for left, right, plates, volts, within in (
            (("zinc-sulfate", 1.0), ("copper-sulfate", 1.0), ("zinc", "copper"), 1.10, 0.015),
            (("copper-nitrate", 0.1), ("silver-nitrate", 0.1), ("copper", "silver"), 0.435, 0.01),
            (("silver-nitrate", 0.001), ("silver-nitrate", 0.1), ("silver", "silver-second"), 0.113, 0.005),
            (("copper-sulfate", 0.01), ("copper-sulfate", 1.0), ("copper", "copper-second"), 0.030, 0.005),
        ):
            with self.subTest(plates), two(left, right) as key:
                cell = Cell.of(plates[0], key, plates[1])
                found = predict([cell])[0]["rest"]
                self.assertAlmostEqual(found.volts_v, volts, delta=within)
                self.assertLess(found.u_v, 0.03)
                self.assertEqual(refusal(cell), "")
                whole = explain(cell, found.volts_v)
                self.assertIn("junction", [cause.code for cause in whole.causes])
                self.assertAlmostEqual(whole.causes[-1].volts_v, 0.0, delta=0.002)  # nothing left over

    def test_plates_in_the_wrong_salt_are_refused_with_their_reason(self):
        with two(("zinc-sulfate", 1.0), ("copper-sulfate", 0.1)) as key:
            for plates, said in (
                (("zinc", "copper"), ""),
                (("steel", "copper"), "none of its own ions"),
                (("zinc", "steel"), "covered with copper"),
                (("zinc", "graphite"), ""),
                (("zinc", "copper-second"), "copper on both sides"),
            ):
                self.assertIn(said, refusal(Cell(plates[0], key, plates[1])))
                self.assertEqual(bool(said), bool(refusal(Cell(plates[0], key, plates[1]))))
        with two(("iron-sulfate", 0.5), ("copper-sulfate", 0.1)) as key:
            self.assertIn("Zinc in own iron-sulfate 0.5 is covered with mild steel", refusal(Cell("zinc", key, "copper")))
            self.assertEqual(refusal(Cell("steel", key, "copper")), "")
        self.assertEqual(refusal(Cell("zinc", "cuso4-0.1", "copper")), "")  # one liquid: that is its own lesson

    def test_solutions_that_may_not_meet_are_refused(self):
        for left, right, said in (
            (("zinc-sulfate", 1.0), ("silver-nitrate", 0.1), "silver sulfate falls out"),
            (("silver-nitrate", 0.1), ("copper-chloride", 0.1), "silver chloride falls out"),
            (("lead-nitrate", 0.1), ("copper-sulfate", 0.1), "lead sulfate falls out"),
        ):
            with self.subTest(said), self.assertRaisesRegex(OutOfRange, said), two(left, right):
                pass
        for sides, said in (
            (("zinc-sulfate", "x"), "no liquid"),
            (("znso4-1.0", "lemon-whole"), "cannot be one of two cups"),
            (("znso4-1.0", "washing-soda"), "carbonate|hydroxide"),
        ):
            with self.subTest(said), self.assertRaisesRegex(OutOfRange, said):
                two_fields(*sides, "paper")
        with self.assertRaisesRegex(OutOfRange, "need a bridge"):
            two_fields("znso4-1.0", "cuso4-1.0", "string")

    def test_a_plan_gives_each_pair_of_solutions_its_own_plates_and_the_kit_both_cups(self):
        with two(("zinc-sulfate", 1.0), ("copper-sulfate", 0.01)) as key:
            task = Task(("zinc", "copper", "steel"), (key, "lemon-juice"), 4, 6)
            self.assertEqual({cell.pair for cell in task.cells if cell.electrolyte == key}, {("zinc", "copper")})
            self.assertEqual((task.plates_in[key, ""], task.links), (("zinc", "copper"), 3))
            plan = design(task)
            self.assertEqual(plan.repeats, 2)
            self.assertTrue(all(count >= 2 for count in plan.counts.values()))
            self.assertGreater(plan.nearness, 0.8)
            found = kit(plan.hands)
            self.assertIn("strip of filter paper", " ".join(line.name for line in found.vessels))
            made = {one.electrolyte for one in found.batches}
            self.assertLessEqual({"own zinc-sulfate 1", "own copper-sulfate 0.01"}, made)


class Middle(unittest.TestCase):
    def test_ranges_are_kept_in_order(self):
        for salt in ("zinc-sulfate", "silver-nitrate", "iron-sulfate"):
            found = solution(salt, 0.05)
            for known in (found.ph, found.conductivity_s_per_m, found.chloride_mol_per_l):
                self.assertIsInstance(known, Range)
                self.assertLess(known.low, known.high)
