"""Claims are weighed against chemistry and the class's data; misconceptions are heard, and sound sentences are left alone."""

from __future__ import annotations

import unittest
from typing import get_args

from galvanic.cells import Cell
from galvanic.errors import NotEnoughData
from galvanic.findings.claims import CAUSES, weigh
from galvanic.findings.compare import ClassReading, compare
from galvanic.findings.misconceptions import heard_in, misconceptions
from galvanic.findings.tests.test_explain import small_class
from galvanic.findings.verdicts import ClaimData, Code, Verdict, data_of

RESULTS = compare(
    [
        *small_class(),
        *[ClassReading("Ruff", "tin", "magnesium", "rhubarb-juice", 0.03, 0.001) for _ in range(3)],
        *[ClassReading(g, "tin", "magnesium", "rhubarb-juice", 1.1, 0.001) for g in ("Tern", "Knot")],
        *[ClassReading("Ruff", "copper", "tin", "rhubarb-juice", -0.42, 0.001)],
        *[ClassReading(g, "copper", "tin", "rhubarb-juice", 0.43, 0.001) for g in ("Tern", "Knot")],
    ]
)


def about(negative: str, positive: str, group: str = "Ruff") -> ClaimData:
    return data_of(group, Cell(negative, "rhubarb-juice", positive), RESULTS)


class Claims(unittest.TestCase):
    def test_the_skin_explains_aluminium_and_not_zinc(self) -> None:
        found = weigh("film", about("aluminium", "zinc"))
        self.assertEqual(found.code, "fits")
        self.assertIn("the larger part of the gap", found.text)
        self.assertEqual(weigh("film", about("zinc", "copper")).code, "contradicted")

    def test_a_right_claim_is_not_contradicted_because_two_plates_cancel(self) -> None:
        """Neither plate of zinc and copper in juice has its own ions there: about a tenth of a volt each, which cancel."""
        data = about("zinc", "copper")
        parts = dict(data.by_plate("traces"))
        self.assertTrue(parts["copper"] < -0.05 and parts["zinc"] > 0.05, parts)
        found = weigh("no_ions", data)
        self.assertNotEqual(found.code, "contradicted")
        self.assertIn("through the copper", found.text)
        self.assertIn("through the zinc", found.text)

    def of_one(self, cause: str, black: str, red: str, volts: float, liquid: str = "lemon-juice") -> Verdict:
        results = compare([ClassReading("Ruff", red, black, liquid, volts, 0.01)])
        return weigh(cause, data_of("Ruff", results[0].cells[0].cell, results))

    def test_the_verdict_follows_what_was_measured(self) -> None:
        """The model's part is the same at 0.94 and at 0.30 V; what it comes to beside what nobody can explain is not."""
        near, far = (self.of_one("no_ions", "zinc", "copper", volts) for volts in (0.94, 0.30))
        self.assertEqual((near.code, far.code), ("cancels", "cannot_tell"))
        for found, missing in ((near, "\u22120.16"), (far, "\u22120.80")):
            self.assertIn(f"Your readings: {missing}\u202fV", found.text)
            self.assertIn("By the model", found.text)
            self.assertIn("together \u22120.03\u202fV", found.text)
        self.assertIn("cancels", near.text)
        self.assertIn("smaller than what nobody can explain", far.text)

    def test_of_aluminium_and_zinc_in_juice_one_cause_fits_and_the_others_do_not(self) -> None:
        codes = {key: self.of_one(key, "aluminium", "zinc", -0.23).code for key in ("film", "no_ions", "bound", "oxygen")}
        self.assertEqual([key for key, code in codes.items() if code == "fits"], ["film"])
        self.assertIn(codes["no_ions"], ("cancels", "cannot_tell"))

    def test_what_works_against_a_gap_is_there_and_does_not_make_it(self) -> None:
        found = self.of_one("film", "aluminium", "copper", 1.99)
        self.assertEqual(found.code, "cannot_tell")  # a cell with no gap: what is left is as large as the skin
        for cause in ("film", "oxygen"):
            found = self.of_one(cause, "aluminium", "zinc", 1.0)
            self.assertNotIn(found.code, ("fits", "part"), found.text)

    def test_a_bridge_is_borne_out_by_a_reading_near_nothing_only(self) -> None:
        self.assertEqual(weigh("bridge", about("magnesium", "tin")).code, "fits")
        self.assertEqual(weigh("bridge", about("zinc", "copper")).code, "contradicted")

    def test_a_bridge_leaves_less_than_a_quarter(self) -> None:
        # The limit is common practice, no source: the point of it is that just above, the claim is not borne out.
        for part, code in ((0.22, "fits"), (0.28, "contradicted"), (-0.22, "fits")):
            values = [("Tern", 1.0), ("Knot", 1.0), ("Ruff", part)]
            results = compare([ClassReading(g, "copper", "zinc", "rhubarb-juice", v, 0.001) for g, v in values])
            found = weigh("bridge", data_of("Ruff", Cell("zinc", "rhubarb-juice", "copper"), results))
            self.assertEqual(found.code, code, part)

    def test_swapped_leads_are_borne_out_by_a_turned_sign_only(self) -> None:
        self.assertEqual(weigh("leads", about("tin", "copper")).code, "fits")
        self.assertEqual(weigh("leads", about("zinc", "copper")).code, "contradicted")

    def test_electronegativity_fails_where_zinc_is_the_negative_plate(self) -> None:
        found = weigh("electronegativity", about("aluminium", "zinc"))
        self.assertEqual(found.code, "contradicted")
        self.assertIn("aluminium the negative plate", found.text)

    def changed(self, cause: str, unit: str, first: float, last: float) -> Verdict:
        readings = [
            ClassReading(group, "copper", "zinc", "lemon-juice", v + 0.002 * n + 0.0005 * (n % 2) * k, 0.001, condition)
            for k, (condition, v) in enumerate(((f"1{unit}", first), (f"8{unit}", last)))
            for n, group in enumerate(("Tern", "Knot", "Ruff", "Dunlin"))
        ]
        results = compare(readings)
        return weigh(cause, data_of("Tern", results[0].cells[0].cell, results))

    def test_size_is_weighed_on_the_class_s_own_slope_and_the_group_s_own(self) -> None:
        none = self.changed("size", " cm apart", 0.950, 0.951)
        self.assertEqual(none.code, "contradicted")
        self.assertIn("let more current flow", none.text)
        self.assertIn("You found +0.001", none.text)
        moved = self.changed("size", " cm apart", 0.95, 0.75)
        self.assertEqual(moved.code, "cannot_tell")
        self.assertIn("what else differed", moved.text)
        self.assertRegex(moved.text, "You found [-\u2212]0\\.200")

    def test_warmth_is_open_without_a_test_and_fits_where_the_class_s_slope_shows_it(self) -> None:
        self.assertEqual(weigh("warmth", about("zinc", "copper")).code, "cannot_tell")
        readings = [
            ClassReading(group, "copper", "zinc", "lemon-juice", v + 0.002 * n, 0.001, condition)
            for condition, v in (("temperature 10 °C", 0.90), ("temperature 40 °C", 1.02))
            for n, group in enumerate(("Tern", "Knot", "Ruff", "Dunlin"))
        ]
        results = compare(readings)
        self.assertEqual(weigh("warmth", data_of("Tern", results[0].cells[0].cell, results)).code, "fits")

    def test_the_meter_and_size_explain_no_half_volt(self) -> None:
        for cause in ("loading", "size"):
            self.assertEqual(weigh(cause, about("aluminium", "zinc", "Tern")).code, "contradicted", cause)
        self.assertNotEqual(weigh("offset", about("aluminium", "zinc", "Tern")).code, "fits")

    def test_a_mixture_may_be_one_only_where_the_plate_is_not_the_pure_metal(self) -> None:
        self.assertEqual(weigh("alloy", about("zinc", "copper")).code, "contradicted")
        steel = Cell.of("steel", "rhubarb-juice", "copper")
        results = compare([ClassReading(g, "copper", "steel", "rhubarb-juice", 0.45, 0.001) for g in ("Tern", "Knot")])
        found = weigh("alloy", data_of("Tern", steel, results))
        self.assertEqual(found.code, "cannot_tell")
        self.assertIn("mild steel may not be", found.text)

    def test_a_meter_is_off_where_all_its_cells_are(self) -> None:
        cells = (("zinc", "copper", 0.95), ("tin", "copper", 0.43), ("zinc", "tin", 0.52))
        readings = [
            ClassReading(group, red, black, "rhubarb-juice", level + off, 0.001)
            for group, off in (("Tern", 0.0), ("Knot", 0.002), ("Ruff", 0.15))
            for black, red, level in cells
        ]
        cell = Cell("zinc", "rhubarb-juice", "copper")
        self.assertEqual(weigh("offset", data_of("Ruff", cell, compare(readings))).code, "fits")
        self.assertNotEqual(weigh("offset", data_of("Tern", cell, compare(readings))).code, "fits")

    def test_every_claim_gets_numbers_or_a_reason_and_a_question_for_every_cell(self) -> None:
        for key, claim in CAUSES.items():
            for cell in (("zinc", "copper"), ("magnesium", "copper"), ("aluminium", "zinc"), ("magnesium", "tin")):
                found = weigh(key, about(*cell))
                self.assertIn(found.code, get_args(Code))
                self.assertTrue(found.question.endswith("?"), key)
                self.assertTrue(found.text and claim.implies)

    def test_a_cell_nobody_measured_is_said(self) -> None:
        with self.assertRaises(NotEnoughData):
            about("nickel", "silver")


HELD = {
    "fruit_makes_it": "The lemon makes the electricity.",
    "electrons_in_liquid": "Electrons travel through the juice to the copper.",
    "anode_positive": "The anode is the positive plate.",
    "cathode_dissolves": "The copper dissolves into the juice.",
    "acid_sets_it": "More acid gives a higher voltage.",
    "ions_set_it": "With more salt the voltage increases.",
    "bigger_more": "A bigger plate gives more volts.",
    "closer_more": "If the plates are closer the voltage is higher.",
    "electronegativity_volts": "It is because of the electronegativity of magnesium.",
    "minus_is_error": "We got a minus sign so the reading is wrong.",
    "table_is_truth": "The table is right, so we did something wrong.",
    "current_used_up": "The current is used up in the bulb.",
    "voltage_flows": "The voltage flows through the wire.",
    "single_plate": "Zinc has its own voltage.",
    "charge_stored": "The plate stores charge until it is empty.",
    "heat_or_light": "When it is warmer the voltage is higher.",
    "average_fixes": "The average removes the offset of the meter.",
    "reactive_more": "The more reactive metal always gives the higher voltage.",
    "salt_makes_current": "The salt makes the current.",
    "metals_react_together": "Zinc and copper react with each other.",
    "meter_uses_up": "It was used up by the meter.",
    "more_electrons": "Copper has more electrons.",
    "dries_out": "The voltage drops because it dries out.",
    # only the trained ear hears these
    "copper_is_anode": "In our cup the anode is copper.",
    "copper_takes_ions": "The copper gets its plus because it takes positive ions.",
    "zinc_loses_protons": "Zinc gives away its protons.",
    "current_in_volts": "We had a current of 0.93 volts.",
    "cathode_grows_zinc": "The zinc settles on the copper and makes it heavier.",
    "metals_let_electrodes_go": "The electrodes run through the wire to the copper.",
    "aluminium_plus": "Aluminium has the biggest number, so it is the plus.",
    "depth_no_matter": "The depth doesn't matter for the current.",
    "pairs_in_one_fruit": "Two pairs in one lemon give double the volts.",
    "one_cell_lights_led": "One lemon is enough to light an LED.",
    "parallel_more_volts": "Side by side the cells give more volts.",
    "aa_acid": "An AA battery gets its power from the acid inside.",
}
SOUND = (
    "Zinc dissolves at the negative plate and gives its electrons to the wire.",
    "There are no copper ions in the juice, so hydrogen and oxygen react at the copper.",
    "The oxide skin on aluminium holds it back; when we scratched it the reading jumped.",
    "Bigger plates give more current but the same voltage.",
    "The minus sign is not wrong, it shows that red was on the negative plate.",
    "A skin can hold a reactive metal back, so it is not always more negative.",
    "Ions carry the charge in the liquid.",
    "The zinc reacts with the acid, not with the copper.",
    "Our dry cell gave 1.55 V.",
    "More salt lets more current flow.",
    "Our voltmeter draws hardly any current.",
    "The table holds for 1 mol/L of ions, and our juice has other conditions.",
)


class Misconceptions(unittest.TestCase):
    def test_there_are_at_least_fifteen_and_each_is_heard_in_a_typical_sentence(self) -> None:
        self.assertGreaterEqual(len(misconceptions()), 15)
        self.assertEqual(set(HELD), set(misconceptions()))
        for key, sentence in HELD.items():
            self.assertIn(key, [one.key for one in heard_in(sentence, about("zinc", "copper"))], sentence)

    def test_sound_sentences_are_left_alone(self) -> None:
        for sentence in SOUND:
            self.assertEqual(heard_in(sentence, about("zinc", "copper")), [], sentence)

    def test_the_contradiction_comes_from_this_class(self) -> None:
        (heard,) = heard_in(HELD["fruit_makes_it"], about("zinc", "copper"))
        self.assertIn("In the same liquid", heard.in_data)
        self.assertRegex(heard.in_data, r"\d\.\d\d")
        order = heard_in(HELD["electronegativity_volts"], about("zinc", "copper"))[0]
        self.assertIn("Al | Zn", order.in_data)

    def test_every_one_asks_a_question_back(self) -> None:
        self.assertTrue(
            all(
                misconception.question.endswith("?") and misconception.against for misconception in misconceptions().values()
            )
        )


class Slopes(unittest.TestCase):
    """That no slope shows is no proof that there is none."""

    def verdict(self, volts: tuple[float, ...]) -> str:
        liquids = ("rhubarb-juice", "soda-water", "kelp-brine", "lemon-juice")
        readings = [
            ClassReading(group, "copper", "zinc", liquid, level, 0.001)
            for liquid, level in zip(liquids, volts, strict=False)
            for group in ("Tern", "Knot")
        ]
        return weigh("acid", data_of("Tern", Cell("zinc", "rhubarb-juice", "copper"), compare(readings))).code

    def test_scatter_over_few_liquids_leaves_it_open(self) -> None:
        self.assertEqual(self.verdict((0.95, 0.70, 0.93)), "cannot_tell")

    def test_the_same_voltage_everywhere_speaks_against_it(self) -> None:
        self.assertEqual(self.verdict((0.950, 0.951, 0.950, 0.951)), "contradicted")

    def test_two_liquids_leave_it_open(self) -> None:
        self.assertEqual(self.verdict((0.95, 0.70)), "cannot_tell")
