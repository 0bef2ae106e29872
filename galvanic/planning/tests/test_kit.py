"""The kit: amounts against hand calculation and bottle labels, nothing forgotten, every recipe makes its electrolyte."""

import unittest

from galvanic.cells import Cell
from galvanic.errors import BadTable, OutOfRange
from galvanic.planning.asked import Asked
from galvanic.planning.design import Task, design
from galvanic.planning.kit import kit
from galvanic.planning.recipes import batch, build_recipe, recipes
from galvanic.planning.safety import bench_cautions, sheet
from galvanic.reference.catalogue import electrodes, electrolytes, shipped_electrolytes
from galvanic.reference.reader import read_table

JUICE = "rhubarb-juice"


def plan_for(*liquids, plates=("zinc", "copper", "tin"), groups=8):
    return design(Task(plates, liquids, groups, 6)).hands


class Mixing(unittest.TestCase):
    def grams(self, key, litres):
        return batch(key, litres).ingredients[0].amount

    def test_salts_weigh_what_their_labels_say(self):
        # Molar masses on any bottle, from memory: KCl 74.55, CuSO4·5H2O 249.69, ZnSO4·7H2O 287.56, citric acid·H2O 210.14,
        # Na2CO3·10H2O 286.14 g/mol.
        for key, molar, mol_per_l in [
            ("kcl-0.10", 74.55, 0.1), ("cuso4-1.0", 249.69, 1.0), ("znso4-1.0", 287.56, 1.0),
            ("citric-0.1", 210.14, 0.1), ("washing-soda", 286.14, 0.2),
        ]:  # fmt: skip
            with self.subTest(key):
                self.assertAlmostEqual(self.grams(key, 1.0), molar * mol_per_l, delta=0.03)

    def test_the_demo_reference_solution(self):
        # Potassium chloride, 74.55 g/mol on the label: 7.455 g for 1.00 L of 0.10 mol/L.
        self.assertAlmostEqual(self.grams("kcl-0.10", 1.0), 7.455, delta=0.001)

    def test_concentrated_acid_is_diluted_by_the_usual_rule(self):
        # 37 % hydrochloric acid is about 12 mol/L (any lab manual, from memory): 8.3 mL for 1 L of 0.1 mol/L.
        found = batch("hcl-0.1", 1.0)
        self.assertAlmostEqual(found.ingredients[0].amount, 8.3, delta=0.1)
        self.assertIn("never the other way round", found.method)
        self.assertNotIn("fume cupboard", batch("acetic-0.1", 1.0).method)

    def test_salt_water_has_the_chloride_the_catalogue_states(self):
        salt = self.grams("salt-water", 1.0) / 58.44
        chloride = electrolytes()["salt-water"].chloride_mol_per_l
        self.assertTrue(chloride.low <= salt <= chloride.high, salt)

    def test_kelp_brine_too_from_parts_that_do_not_add_to_100(self):
        salt = next(part.amount for part in batch("kelp-brine", 1.0).ingredients if part.name == "table salt") / 58.44
        chloride = electrolytes()["kelp-brine"].chloride_mol_per_l
        self.assertTrue(chloride.low <= salt <= chloride.high, salt)
        self.assertAlmostEqual(sum(recipes()["kelp-brine"].parts.values()), 100.0)

    def test_juice_counts_with_the_lower_yield(self):
        found = batch("lemon-juice", 0.4)
        self.assertAlmostEqual(found.ingredients[0].amount, 400 * 1.1 / 40)
        self.assertIn("40 to 50 mL", found.method)

    def test_every_electrolyte_has_a_recipe_and_every_poured_one_can_be_made(self):
        self.assertEqual(set(recipes()), set(shipped_electrolytes()))
        for key, recipe in recipes().items():
            if recipe.kind not in ("whole", "card", "two"):
                made = batch(key, 0.5)
                self.assertTrue(made.ingredients and made.method)
                self.assertTrue(all(part.amount > 0.0 for part in made.ingredients))

    def test_a_bad_recipe_is_no_table(self):
        head = 'edition = "x"\n[[recipe]]\nkey = "milk"\n'
        for row in ('kind = "magic"', 'kind = "dilute"\nstock = "tea"', 'kind = "juice"', 'kind = "bought"\nflavour = 1'):
            with self.assertRaises(BadTable):
                read_table("recipes", "recipe", build_recipe, head + row)


class Kits(unittest.TestCase):
    def test_every_group_that_measures_with_a_plate_has_one_and_spares_are_counted(self):
        hands = plan_for(JUICE)
        found = kit(hands)
        for line in found.plates:
            needing = sum(any(line.key in cell.pair for cell in hand) for hand in hands)
            self.assertEqual((line.groups, line.total), (needing, needing + line.spare))
            self.assertGreaterEqual(line.spare, 1)
        self.assertEqual({line.key for line in found.plates}, {p for hand in hands for cell in hand for p in cell.pair})
        self.assertEqual(sum(len(things) for things in found.for_group), sum(line.groups for line in found.plates) + 8)

    def test_what_is_short_and_what_it_costs(self):
        found = kit(plan_for(JUICE), {"zinc": 5, "copper": 20}, {"zinc": 0.4, "copper": 0.5})
        by_key = {line.key: line for line in found.plates}
        self.assertEqual((by_key["zinc"].short, by_key["copper"].short, by_key["tin"].short), (3, 0, 0))
        self.assertAlmostEqual(found.cost, 9 * 0.4 + 9 * 0.5)
        self.assertIsNone(kit(plan_for(JUICE)).cost)

    def test_liquids_are_made_for_the_cups_with_spare_in_whole_steps(self):
        found = kit(plan_for("kcl-0.10"))
        self.assertAlmostEqual(found.batches[0].volume_l, 0.4)  # 8 cups of 40 mL and a tenth, up to the next 100 mL
        self.assertAlmostEqual(kit(plan_for("kcl-0.10"), cup_ml=100).batches[0].volume_l, 0.9)

    def test_whole_fruit_card_and_two_solutions_need_their_own_things(self):
        names = {
            liquid: [line.name for line in kit(plan_for(liquid)).vessels]
            for liquid in ("lemon-whole", "salt-card", "daniell-pot")
        }
        self.assertEqual(names["lemon-whole"], ["lemon"])
        self.assertIn("pieces of card for salt-soaked card", names["salt-card"])
        self.assertEqual(names["daniell-pot"][0], "unglazed pot")
        two = next(line for line in kit(plan_for("daniell-pot", groups=4)).vessels if line.name.startswith("cup"))
        self.assertEqual(two.total - two.spare, 8, "each group has a cup for each of the two solutions")
        sides = {one.electrolyte for one in kit(plan_for("daniell-pot")).batches}
        self.assertEqual(sides, {"znso4-1.0", "cuso4-1.0"})
        self.assertEqual({one.electrolyte for one in kit(plan_for("salt-card")).batches}, {"salt-water"})

    def test_packs_take_five_of_each_plate_and_what_five_cells_stand_in(self):
        packs = Asked(packs=True)
        hands = plan_for("kcl-0.10")
        found, without = kit(hands, asked=packs), kit(hands)
        fives = {line.key for line in found.plates if line.per_group == 5}
        self.assertEqual(len(fives), 2)
        self.assertTrue(all(any(set(cell.pair) == fives for cell in hand) for hand in hands))
        for line in found.plates:
            self.assertEqual(line.total, line.groups * (line.per_group or 0) + line.spare)
        more = found.batches[0].volume_l - without.batches[0].volume_l
        self.assertAlmostEqual(more, len(hands) * 5 * 0.04 * 1.1, delta=0.1)  # up to the next 100 mL
        fruit = kit(plan_for("lemon-whole"), asked=packs).vessels
        self.assertEqual([(line.name, line.per_group) for line in fruit], [("lemon", 1), ("lemon", 5)])
        card = kit(plan_for("salt-card"), asked=packs).vessels
        self.assertEqual([line.per_group for line in card if "card" in line.name][-1], 5)
        two = kit(plan_for("daniell-pot"), asked=packs)
        self.assertEqual({one.electrolyte for one in two.batches}, {"znso4-1.0", "cuso4-1.0"})
        self.assertEqual(kit([[]], asked=packs).plates, ())

    def test_one_cup_a_dilution(self):
        cells = [Cell("zinc", "milk", "copper", setting) for setting in ("undiluted", "1 part in 10")]
        cups = next(line for line in kit([cells, cells]).vessels if line.name.startswith("cup"))
        self.assertEqual(cups.total - cups.spare, 4)

    def test_every_liquid_of_the_catalogue_gives_a_kit(self):
        for liquid in electrolytes():
            found = kit(plan_for(liquid, groups=2))
            self.assertTrue(found.vessels, liquid)
        self.assertIn(electrodes()["zinc"].supplied, found.for_group[0])

    def test_no_cup_is_refused(self):
        for bad in (0.0, 1e6):
            with self.assertRaises(OutOfRange):
                kit(plan_for(JUICE), cup_ml=bad)


class AskedBesides(unittest.TestCase):
    """What is measured besides open voltages brings its things and its rules, and only then."""

    HANDS = [[Cell("zinc", "milk", "copper")]] * 4

    def names(self, asked):
        """What lies on every bench."""
        return " ".join(line.name for line in kit(self.HANDS, asked=asked).bench)

    def test_a_short_circuit_needs_an_ammeter_a_load_its_resistor_packs_wires_cups_and_lamps(self):
        plain = self.names(Asked())
        for word in ("ammeter", "resistor", "LED"):
            self.assertNotIn(word, plain)
        self.assertIn("ammeter", self.names(Asked(short_circuit=True)))
        self.assertIn("resistor, 470 Ω", self.names(Asked(load_ohm=470.0)))
        packs = self.names(Asked(packs=True))
        for word in ("ammeter", "wire with a clip", "small cup", "red LED"):
            self.assertIn(word, packs)

    def test_the_sheet_speaks_of_what_is_asked_and_never_says_that_only_a_meter_is_joined(self):
        def found(asked):
            return {entry.hazard.key: entry for entry in sheet(["zinc", "copper"], ["milk"], "14-15", (), asked).entries}

        self.assertFalse({"asked-short", "asked-load", "asked-packs"} & set(found(Asked())))
        every = found(Asked(True, 470.0, True))
        self.assertTrue({"asked-short", "asked-load", "asked-packs"} <= set(every))
        self.assertNotIn("nothing else is ever connected", every["supply"].hazard.do)
        self.assertEqual(every["asked-packs"].because, ("packs of cells",))
        said = bench_cautions(["zinc", "copper"], ["milk"], Asked(short_circuit=True))
        self.assertIn("Short circuit: three seconds, then the red lead back into V.", said)

    def test_asking_for_more_needs_a_new_signature(self):
        plain, more = (sheet(["zinc"], ["milk"], "14-15", (), asked) for asked in (Asked(), Asked(packs=True)))
        self.assertNotEqual(plain.fingerprint, more.fingerprint)
