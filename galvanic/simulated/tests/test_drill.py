"""The drills: every fault can be found, none by the look of the symptom, and every answer is what the bench would do."""

import unittest
from dataclasses import replace

import numpy as np

from galvanic.bench.faults import faults, symptoms
from galvanic.chemistry.polarisation import LoadedCell
from galvanic.simulated.drill import GROUPS, case, cell_of, drilled, faulty
from galvanic.simulated.drill_bench import METER_OHM, SHUNT_OHM, FaultyBench, kind_of
from galvanic.simulated.drill_packs import CELLS, LED_V, _joints, _numbers, faulty_pack, sound_pack
from galvanic.simulated.drill_readings import SAME, displays
from galvanic.simulated.drill_sums import SAME_V, sums

MOST_HANDS = 5


class Faults(unittest.TestCase):
    def test_at_least_fourteen_faults_all_of_the_one_list(self):
        self.assertGreaterEqual(len(drilled()), 14)
        self.assertEqual({key for group in GROUPS.values() for key in group} - set(faults()), set())
        self.assertEqual(set(GROUPS) - set(symptoms()), set())

    def test_no_symptom_is_called_out_that_has_fewer_than_four_causes(self):
        for symptom, group in GROUPS.items():
            self.assertGreaterEqual(len(group), 4, symptom)

    def test_who_always_takes_the_best_next_hand_finds_every_fault_in_at_most_five(self):
        for symptom in GROUPS:
            found = case(symptom)
            for key in found.answers:
                causes, seen = tuple(found.answers), {}
                while len(causes) > 1:
                    hand = found.best_hand(causes, tuple(seen))
                    seen[hand] = found.answers[key][hand].code
                    causes = found.consistent(seen)
                    self.assertLessEqual(len(seen), MOST_HANDS, (symptom, key))
                self.assertEqual(causes, (key,))

    def test_who_guesses_from_the_symptom_does_no_better_than_chance(self):
        rng, right, expected, rounds = np.random.default_rng(1), 0, 0.0, 4000
        for _ in range(rounds):
            symptom = list(GROUPS)[rng.integers(len(GROUPS))]
            found = case(symptom)
            causes = found.consistent({})  # all that is called out
            truth, guess = causes[rng.integers(len(causes))], causes[rng.integers(len(causes))]
            right, expected = right + (truth == guess), expected + 1.0 / len(causes)
        self.assertAlmostEqual(right / rounds, expected / rounds, delta=3.0 * 0.5 / rounds**0.5)

    def test_every_two_causes_are_told_apart_by_some_hand_and_what_cannot_is_named(self):
        for symptom in GROUPS:
            found = case(symptom)
            keys = list(found.answers)
            for one in keys:
                for other in keys:
                    if one != other:
                        blind = [hand for hand in found.hands if found.cannot_tell(hand, one, other)]
                        self.assertLess(len(blind), len(found.hands), (symptom, one, other))
        self.assertTrue(case("low").cannot_tell("dry_cell", "far", "bridged"))
        self.assertFalse(case("low").cannot_tell("wipe", "far", "bridged"))

    def test_what_mends_a_fault_brings_the_right_number_back(self):
        mends = {"bridged": "wipe", "open_clip": "press", "loose": "press", "far": "rub", "reversed": "swap"}
        for symptom, group in GROUPS.items():
            for key in group:
                if symptom != "pack" and key in mends:
                    self.assertEqual(case(symptom).answers[key][mends[key]].code, "right", (symptom, key))


class True_(unittest.TestCase):
    """The same bench built in the core: its cell under the load that the fault is."""

    def test_a_bridge_is_what_the_core_has_for_such_a_load(self):
        for symptom in ("zero", "low"):
            cell, right_v, inner_ohm = cell_of(symptom)
            bench = faulty("bridged", symptom, FaultyBench(right_v, inner_ohm))
            core = LoadedCell.of(cell).at_load(bench.bridge_ohm).volts_v
            self.assertEqual(kind_of(core, right_v), case(symptom).answers["bridged"]["read"].code, (symptom, core))

    def test_a_cell_that_drives_through_the_shunt_is_all_but_shorted(self):
        cell, right_v, _ = cell_of("zero")
        self.assertLess(LoadedCell.of(cell).at_load(SHUNT_OHM).volts_v, 0.06)

    def test_a_meter_takes_nothing_that_is_seen_from_a_sound_cell(self):
        cell, right_v, inner_ohm = cell_of("low")
        core = LoadedCell.of(cell).at_load(METER_OHM).volts_v
        self.assertAlmostEqual(FaultyBench(right_v, inner_ohm).shows(), core, delta=0.01)

    def test_leads_the_other_way_round_turn_every_number(self):
        bench = FaultyBench(0.9, 700.0)
        self.assertEqual(bench.shows(), -FaultyBench(0.9, 700.0, turned=True).shows())

    def test_a_pack_with_any_fault_keeps_its_led_dark_and_a_sound_one_lights_it(self):
        _, right_v, inner_ohm = cell_of("pack")
        sound = sound_pack(right_v, inner_ohm)
        self.assertGreater(sound.current_a(), 0.2e-3)
        for key in GROUPS["pack"]:
            self.assertLess(faulty_pack(key, sound).current_a(), 0.35 * sound.current_a(), key)

    def test_voltages_round_the_packs_loop_add_up_to_nothing(self):
        """Kirchhoff: cells, joints and LED."""
        _, right_v, inner_ohm = cell_of("pack")
        for key in GROUPS["pack"]:
            pack = faulty_pack(key, sound_pack(right_v, inner_ohm))
            i = pack.current_a()
            if i > 0.0:
                total = sum(pack.across_v(k) for k in range(CELLS)) - i * (sum(pack.joint_ohm) + 40.0) - LED_V
                self.assertAlmostEqual(total, 0.0, delta=1e-9)


class Round(unittest.TestCase):
    """What a meter says round a pack, by its limits in volts: common practice, no source."""

    def test_each_number_is_called_what_it_is_just_within_and_just_beyond_its_limit(self):
        found = _numbers([0.94, 0.84, 0.82, 0.98, 0.05, -0.05, -0.07], [0.89, 0.89, 0.89, 0.89, 0.89, 0.89, 0.89])[1]
        self.assertEqual(found, "right,right,less,more,nothing,nothing,minus")

    def test_a_joint_that_loses_six_hundredths_is_found_and_one_that_loses_four_is_not(self):
        sound = sound_pack(2.0, 100.0)
        drives_v = 3 * 2.0 - LED_V
        for lost_v, code in ((0.04, "none"), (0.06, "lost")):
            ohm = lost_v * (drives_v / sound.current_a()) / (drives_v - lost_v)
            pack = replace(sound, joint_ohm=(0.0, ohm, 0.0))
            self.assertAlmostEqual(pack.current_a() * ohm, lost_v)
            self.assertEqual(_joints(pack)[1], f"none,{code},none")


class Sums(unittest.TestCase):
    def test_right_answers_are_the_tables_differences(self):
        zinc_copper = next(one for one in sums() if (one.first, one.second) == ("zinc", "copper"))
        self.assertAlmostEqual(zinc_copper.right_v, 1.10, delta=0.005)  # CRC Handbook: 0.3419 − (−0.7618)
        self.assertEqual(zinc_copper.negative, "zinc")

    def test_each_slip_is_understood_as_what_it_is(self):
        one = next(one for one in sums() if (one.first, one.second) == ("zinc", "copper"))
        did = {round(slip.volts_v, 2): slip.did for slip in one.slips}
        self.assertIn("added", did[round(0.3419 - 0.7618, 2)])
        self.assertIn("upside down", did[-1.10])
        self.assertIn("electrons", did[round(2 * 1.1037, 2)])

    def test_where_two_slips_give_one_number_both_are_said_and_a_minus_stands_in_brackets(self):
        for one in sums():
            if one.right_v is None:
                continue
            low, high = sorted((one.first_v, one.second_v))
            turned = next((slip.did for slip in one.slips if abs(slip.volts_v + one.right_v) < SAME_V), "")
            signs_out = [slip for slip in one.slips if slip.did == "You left the signs out."]
            with self.subTest(one.first + one.second):
                if high < 0.0:  # −0.14 − (−0.76) and 0.14 − 0.76: left out or turned, the number is the same
                    self.assertIn("Which was it?", turned)
                    self.assertEqual(signs_out, [])
                elif low > 0.0:
                    self.assertIn("upside down", turned)
                    self.assertEqual(signs_out, [], "there are no signs to leave out")
                added = next((slip.look for slip in one.slips if "added the two" in slip.did), None)
                if added is not None and low < 0.0:
                    self.assertRegex(added, "\u2212 \\(\u2212[0-9.]+\u202fV\\)")

    def test_no_slip_is_near_the_right_answer_or_another(self):
        for one in sums():
            values = [slip.volts_v for slip in one.slips] + ([] if one.right_v is None else [one.right_v])
            values.sort()
            self.assertTrue(all(b - a > SAME_V for a, b in zip(values, values[1:], strict=False)), one)

    def test_graphite_is_not_in_the_table_and_has_no_answer(self):
        graphite = [one for one in sums() if "graphite" in (one.first, one.second)]
        self.assertTrue(graphite and all(one.right_v is None for one in graphite))


class Readings(unittest.TestCase):
    def test_the_display_says_the_value(self):
        for one in displays():
            if one.needle is not None:
                self.assertAlmostEqual(one.needle * one.range_v, one.volts_v, delta=1e-3)
            else:
                shown = float(one.digits.replace("\u2212", "-")) / (1000.0 if one.unit == "mV" else 1.0)
                self.assertAlmostEqual(shown, one.volts_v)
                self.assertLessEqual(abs(shown), one.range_v)

    def test_needles_digits_minus_signs_millivolts_and_a_flat_battery_all_come(self):
        all_ = displays()
        self.assertTrue(any(one.needle is not None for one in all_) and any(one.volts_v < 0 for one in all_))
        self.assertTrue(any(one.unit == "mV" for one in all_) and any(one.battery for one in all_))

    def test_no_misreading_is_the_reading(self):
        for one in displays():
            for wrong in one.misread:
                self.assertGreater(abs(wrong.volts_v - one.volts_v), SAME * one.range_v)

    def test_the_same_seed_the_same_displays(self):
        self.assertEqual(displays(), displays())
        self.assertNotEqual(displays(), displays(seed=8))
