"""The safety sheet: what refuses, what warns, and a fingerprint that changes with what is on it. Common practice, no source."""

import unittest
from unittest import mock

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from galvanic.cells import Cell
from galvanic.chemistry.currents import hydrogen
from galvanic.chemistry.polarisation import LoadedCell
from galvanic.errors import BadTable, OutOfRange
from galvanic.planning.asked import Asked
from galvanic.planning.safety import (
    ACTIVITIES,
    AGE_BANDS,
    LOCAL_RULES,
    bench_cautions,
    build_hazard,
    hazards,
    set_up_notes,
    sheet,
)
from galvanic.reference.catalogue import also, electrodes, electrolytes, shipped_electrolytes
from galvanic.reference.reader import read_table


def keys(found, refused=None):
    return [entry.hazard.key for entry in found.entries if refused is None or entry.refused == refused]


class Sheets(unittest.TestCase):
    def test_lead_is_refused_at_every_age(self):
        for plate in ("lead", "lead-solder"):
            for age in AGE_BANDS:
                self.assertEqual(keys(sheet([plate, "copper"], ["milk"], age), refused=True), ["lead-poison"])

    def test_no_food_of_any_kind_is_eaten_and_of_what_a_class_makes_nobody_can_say(self):
        eaten = {key for key, liquid in shipped_electrolytes().items() if "food" in keys(sheet(["zinc"], [key], "14-15"))}
        self.assertTrue(
            {"vinegar", "cola", "milk", "salt-water", "kelp-brine", "pickle-brine", "beet-brine", "ketchup", "potato",
             "lemon-card", "salt-paste", "baking-soda", "sports-drink", "soda-water"} <= eaten
        )  # fmt: skip
        self.assertFalse({"cuso4-1.0", "h2so4-0.1", "naoh-0.1", "daniell-pot", "distilled-water"} & eaten)

    def test_drain_or_no_drain_is_one_answer_for_the_sheet(self):
        for plates, liquid, drain in (
            (["magnesium", "steel", "graphite"], "lemon-juice", True),
            (["magnesium", "steel"], "washing-soda", True),
            (["magnesium", "copper"], "lemon-juice", False),
            (["zinc", "graphite"], "salt-water", False),
            (["steel", "graphite"], "cuso4-0.1", False),
        ):
            found = sheet(plates, [liquid], "16-18")
            self.assertEqual("may go down the drain" in found.used_liquid, drain, (plates, liquid))
            for entry in found.entries:
                self.assertNotIn("drain", entry.hazard.do + entry.hazard.dispose, entry.hazard.key)

    def test_a_strength_is_that_of_the_substance_it_is_said_of(self):
        said = " ".join(entry.hazard.text for entry in sheet(["zinc"], ["washing-soda"], "16-18").entries)
        self.assertIn("Alkali attacks eyes", said)
        self.assertNotIn("Sodium hydroxide", said)
        self.assertIn("sodium-hydroxide", keys(sheet(["zinc"], ["naoh-0.1"], "16-18")))

    def test_leds_are_spoken_of_only_where_there_are_some(self):
        self.assertNotIn(
            "LED", " ".join(entry.hazard.text + entry.hazard.do for entry in sheet(["zinc"], ["milk"], "14-15").entries)
        )
        self.assertIn("led", keys(sheet(["zinc"], ["milk"], "14-15", asked=Asked(packs=True))))

    def test_outside_supplies_grinding_and_opened_batteries_are_refused_at_every_age(self):
        for age in AGE_BANDS:
            for activity in ("supply", "grinding", "open-battery"):
                self.assertTrue(sheet(["zinc"], ["milk"], age, [activity]).refusals, activity)
            self.assertFalse(sheet(["zinc"], ["milk"], age, ["cutting", "flame"]).refusals)

    def test_alkali_is_a_warning_up_to_a_tenth_molar_and_refused_above(self):
        usual = sheet(["zinc"], ["naoh-0.1"], "16-18")
        self.assertIn("alkali", keys(usual))
        self.assertFalse(usual.refusals)
        from dataclasses import replace

        base = electrolytes()["naoh-0.1"]
        strong = replace(base, key="own-strong", name="caustic soda", ph=replace(base.ph, low=13.5, high=13.9))
        with also(lambda: ([], [strong])):
            self.assertEqual(keys(sheet(["zinc"], ["own-strong"], "16-18"), refused=True), ["strong-alkali"])

    def test_magnesium_nickel_salts_food_and_slits_are_named_with_what_to_do(self):
        found = sheet(["magnesium", "nickel-plated", "copper"], ["lemon-whole", "cuso4-0.1", "daniell-pot"], "14-15")
        self.assertTrue(
            {"magnesium-fire", "nickel-skin", "copper-salts", "zinc-salts", "food", "slits", "weak-acid"} <= set(keys(found))
        )
        for entry in found.entries:
            self.assertTrue(entry.hazard.do and entry.because)
        fire = next(entry for entry in found.entries if entry.hazard.key == "magnesium-fire")
        self.assertIn("never water", fire.hazard.first_aid)
        self.assertEqual(fire.because, ("magnesium",))

    def test_a_coating_warns_for_what_is_beneath_it_too(self):
        nickel = [e for e in electrodes().values() if e.beneath == "nickel" or e.surface == "nickel"]
        for plate in nickel:
            self.assertIn("nickel-skin", keys(sheet([plate.key], ["milk"], "14-15")), plate.key)

    def test_warnings_stand_before_cautions_and_refusals_before_all(self):
        found = sheet(["lead", "magnesium"], ["lemon-juice"], "14-15")
        rank = [(not e.refused, e.hazard.severity == "caution") for e in found.entries]
        self.assertEqual(rank, sorted(rank))

    def test_the_fingerprint_changes_with_materials_age_and_activities_and_not_otherwise(self):
        one = sheet(["zinc", "copper"], ["milk"], "14-15").fingerprint
        self.assertEqual(one, sheet(["zinc", "copper"], ["milk"], "14-15").fingerprint)
        others = {
            sheet(["zinc", "copper", "nickel"], ["milk"], "14-15").fingerprint,
            sheet(["zinc", "copper"], ["vinegar"], "14-15").fingerprint,
            sheet(["zinc", "copper"], ["milk"], "16-18").fingerprint,
            sheet(["zinc", "copper"], ["milk"], "14-15", ["flame"]).fingerprint,
        }
        self.assertEqual(len(others - {one}), 4)

    def test_another_edition_of_the_tables_asks_for_a_new_signature(self):
        before = sheet(["zinc", "copper"], ["milk"], "14-15").fingerprint
        with mock.patch("galvanic.planning.safety.edition", return_value="1999-01"):
            self.assertNotEqual(sheet(["zinc", "copper"], ["milk"], "14-15").fingerprint, before)

    def test_an_unknown_age_or_activity_is_refused(self):
        for bad in (("5-6", ()), ("14-15", ("juggling",))):
            with self.assertRaises(OutOfRange):
                sheet(["zinc"], ["milk"], *bad)

    @settings(max_examples=50)
    @given(
        st.lists(st.sampled_from(sorted(electrodes())), max_size=6), st.lists(st.sampled_from(sorted(electrolytes())), max_size=4),
        st.sampled_from(AGE_BANDS), st.lists(st.sampled_from(sorted(ACTIVITIES)), max_size=3),
    )  # fmt: skip
    def test_every_lab_is_told_the_usual_and_more_materials_never_mean_fewer_rules(self, plates, liquids, age, activities):
        found = sheet(plates, liquids, age, activities)
        self.assertTrue({"eyes", "supply", "gas", "clear-up"} <= set(keys(found)))
        self.assertTrue(set(keys(found)) <= set(keys(sheet([*plates, "magnesium"], [*liquids, "hcl-0.1"], age, activities))))


class WhileChoosing(unittest.TestCase):
    def notes(self, plates, liquids, age="14-15", activities=()):
        return {note.code: note for note in set_up_notes(plates, liquids, age, activities)}

    def test_what_is_not_for_this_age_is_said_with_the_age_it_is_for(self):
        said = self.notes(["lead", "copper"], ["salt-water"])["refused-lead-poison"]
        self.assertEqual(said.tone, "wrong")
        self.assertIn("not for students of any age", said.text)
        self.assertIn("cannot be signed off", said.text)
        younger = self.notes(["aluminium", "copper"], ["washing-soda"])["refused-gas-aluminium"]
        self.assertIn("16-18 may", younger.text)

    def test_what_else_goes_on_in_the_room_is_said_at_once(self):
        said = self.notes(["zinc", "copper"], ["lemon-juice"], activities=["supply", "cutting"])
        self.assertEqual((said["refused-external-supply"].tone, said["warning-cutting"].tone), ("wrong", "caution"))
        self.assertIn("Board", said["warning-cutting"].text)
        self.assertNotIn("warning-cutting", self.notes(["zinc", "copper"], ["lemon-juice"]))

    def test_pairs_that_make_much_gas_are_named(self):
        self.assertEqual(self.notes(["magnesium", "copper"], ["lemon-juice"])["warning-gas-magnesium"].title,
                         "magnesium in lemon juice")  # fmt: skip
        self.assertIn("refused-gas-aluminium", self.notes(["aluminium", "copper"], ["naoh-0.1"]))
        self.assertIn("refused-gas-magnesium-strong", self.notes(["magnesium", "copper"], ["hcl-0.1"], "11-13"))
        self.assertIn("warning-gas-zinc", self.notes(["zinc", "copper"], ["hcl-0.1"]))
        self.assertEqual(self.notes(["magnesium", "zinc", "copper"], ["salt-water"]), {})

    def test_the_model_finds_more_hydrogen_where_the_rule_warns_of_magnesium_than_anywhere_else(self):
        # 20 A/m² of hydrogen are 0.15 mL a minute on 10 cm² (Faraday's law, 24 L/mol): bubbles that rise all the time.
        for liquid in ("lemon-juice", "vinegar", "rhubarb-juice", "h2so4-0.1"):
            self.assertIn("warning-gas-magnesium", self.notes(["magnesium", "graphite"], [liquid]))
            self.assertGreater(hydrogen_at_rest("magnesium", liquid), 20.0)
        for plate, liquid in (("zinc", "lemon-juice"), ("magnesium", "salt-water"), ("steel", "vinegar")):
            self.assertLess(hydrogen_at_rest(plate, liquid), 20.0)


def hydrogen_at_rest(plate, liquid):
    """Hydrogen at a plate that nothing is drawn from, A/m², by the rest-potential model."""
    cell = Cell.of(plate, liquid, "graphite")
    loaded = LoadedCell.of(cell)
    place = 0 if cell.negative == plate else 1
    half = (loaded.negative, loaded.positive)[place]
    return float(np.ravel(hydrogen(np.full((1, 1, 1), loaded.rest()[place]), half.plates, half.liquids))[0])


class Rules(unittest.TestCase):
    def test_a_rule_about_nothing_known_is_no_rule(self):
        row = """edition = "x"
[[hazard]]
key = "k"
applies = "{}"
to = {}
severity = "{}"
text = "t"
short = ""
do = "d"
dispose = ""
first_aid = ""
refuse = [{}]
source = "common-practice"
"""
        for bad in [
            ("surface", '"cheese"', "caution", ""), ("moon", '"any"', "caution", ""), ("ph-above", '"high"', "caution", ""),
            ("any", '"any"', "deadly", ""), ("any", '"any"', "caution", '"3-4"'),
        ]:  # fmt: skip
            with self.subTest(bad), self.assertRaises(BadTable):
                read_table("hazards", "hazard", build_hazard, row.format(*bad))

    def test_groups_read_short_lines_and_local_rules_are_kept_for_last(self):
        found = bench_cautions(["zinc", "copper"], ["rhubarb-juice"])
        self.assertLess(max(len(line) for line in found), 80)
        self.assertIn("No mains, no supply, no bought battery; a fresh one only to check the meter.", found)
        self.assertIn("come first", LOCAL_RULES)

    def test_every_rule_has_a_source_and_something_to_do(self):
        for rule in hazards().values():
            self.assertTrue(rule.do and rule.text.endswith("."), rule.key)
