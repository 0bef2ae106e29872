"""Margin notes on simulated classes: what is there is found, what is not there is not said."""

from __future__ import annotations

import unittest
from collections.abc import Callable
from itertools import combinations

import numpy as np

from galvanic.findings.bath_notes import bath_notes
from galvanic.findings.class_notes import class_notes
from galvanic.findings.compare import ClassReading, compare
from galvanic.findings.ranked import notes
from galvanic.notes import Note
from galvanic.statistics.drift import Shared
from galvanic.statistics.outliers import downweight_outliers

PLATES = ("magnesium", "zinc", "steel", "nickel", "tin", "copper")
TRUE_V = {"magnesium": -1.36, "zinc": -0.78, "steel": -0.42, "nickel": -0.14, "tin": -0.25, "copper": 0.20}
GROUPS = tuple(f"Group {n}" for n in range(1, 9))
LIQUIDS = ("rhubarb-juice", "kelp-brine")
Twist = Callable[[str, str, str, float], float]


def sound_class(seed: int, twist: Twist | None = None) -> list[ClassReading]:
    """Eight groups with seven cells each in two liquids: plates of their own ± 20 mV, dips ± 4 mV; `twist` adds a fault."""
    rng = np.random.default_rng(seed)
    pairs = list(combinations(PLATES, 2))
    found = []
    for number, group in enumerate(GROUPS):
        own = {(plate, liquid): float(rng.normal(0.0, 0.02)) for plate in PLATES for liquid in LIQUIDS}
        hand = [("zinc", "copper"), *(pairs[i] for i in rng.choice(len(pairs), 6, replace=False))]
        for place, (black, red) in enumerate(hand):
            liquid = LIQUIDS[(number + place // 4) % 2]
            level = TRUE_V[red] + own[red, liquid] - TRUE_V[black] - own[black, liquid]
            for _ in range(3):
                volts = level + float(rng.normal(0.0, 0.004))
                volts = volts if twist is None else twist(group, black, red, volts)
                found.append(ClassReading(group, red, black, liquid, round(volts, 3), 0.001))
    return found


def shared_readings(seed: int, v_per_hour: float) -> list[Shared]:
    """The shared cell first and last, three readings each, by eight groups."""
    rng = np.random.default_rng(seed)
    found = []
    for group in GROUPS:
        level = float(rng.normal(0.98, 0.025))
        for minute in (8.0, 9.0, 10.0, 48.0, 49.0, 50.0):
            found.append(Shared(group, minute, level + v_per_hour * minute / 60.0 + float(rng.normal(0.0, 0.005))))
    return found


def notes_of(readings: list[ClassReading], shared: list[Shared] | None = None) -> list[Note]:
    results = compare(readings)
    return [note for result in results for note in notes(bath_notes(result))] + notes(class_notes(results, shared or []))


def swap_is_true(note: Note) -> bool:
    """Whether the plates of a note on changed places truly stand in the other order than the table's."""
    symbols = {"Mg": "magnesium", "Zn": "zinc", "Fe": "steel", "Ni": "nickel", "Sn": "tin", "Cu": "copper"}
    lower, upper = (symbols[word] for word in note.title.replace(" changed places", "").split(" and "))
    return TRUE_V[lower] > TRUE_V[upper]


class WhereAPlateSits(unittest.TestCase):
    """A plate that is elsewhere than the table has it, by what that does to its cells on either side."""

    def note(self, plate: str, shift: float) -> Note:
        """Of a class that finds the table's values, but for one plate."""
        from galvanic.reference.catalogue import electrodes

        found = []
        for group in GROUPS[:4]:
            for black, red in combinations(sorted(PLATES, key=lambda key: electrodes()[key].table_v()), 2):
                volts = (
                    electrodes()[red].table_v() - electrodes()[black].table_v() + shift * ((red == plate) - (black == plate))
                )
                found += [
                    ClassReading(group, red, black, "lemon-juice", round(volts + step, 3), 0.001) for step in (0.0, 0.002)
                ]
        return next(note for note in notes_of(found) if note.code == "plate_shift")

    def test_the_sentence_follows_the_sign_of_the_shift_on_both_sides(self) -> None:
        for shift, words, less, more in (
            (0.5, "above", "Sn, Cu", "Mg, Fe"),
            (-0.5, "below", "Mg, Fe", "Sn, Cu"),
        ):
            with self.subTest(shift=shift):
                note = self.note("nickel", shift)
                self.assertIn(f"0.5\u202fV {words} the table", note.title)
                self.assertIn(f"0.50\u202fV {words} its table value", note.text)
                for names, does in ((less, "makes its cells read less than the table"), (more, "it makes them read more")):
                    sentence = next(one for one in note.text.split(".") if does in one)
                    for name in names.split(", "):
                        self.assertIn(name, sentence, note.text)

    def test_a_plate_at_the_end_of_the_table_has_one_side(self) -> None:
        low = self.note("magnesium", 0.8)
        self.assertIn("read less than the table", low.text)
        self.assertNotIn("read more", low.text)


class FalseNotes(unittest.TestCase):
    """On sound classes fewer than one note in twenty says something that is not so (the issue is the reader's trust)."""

    def test_sound_classes_are_left_in_peace(self) -> None:
        said = wrong = 0
        for seed in range(60):
            for note in notes_of(sound_class(seed), shared_readings(seed, 0.0)):
                said += 1
                if note.code in ("outlier", "offset", "drift", "loop"):
                    wrong += 1
                elif note.code == "swapped":
                    wrong += not swap_is_true(note)
                elif note.code == "plate_shift":
                    wrong += "Magnesium" not in note.title and "Nickel" not in note.title
        self.assertGreater(said, 600)
        self.assertLess(wrong / said, 0.05)

    def test_of_the_notes_that_accuse_somebody_few_are_false(self) -> None:
        accused = sum(
            note.code in ("outlier", "offset", "loop", "drift")
            for seed in range(100, 160)
            for note in notes_of(sound_class(seed), shared_readings(seed, 0.0))
        )
        self.assertLessEqual(accused, 6)  # of 60 classes with two liquids, eight meters and a shared cell each


class FoundNotes(unittest.TestCase):
    """What is put into a class is found and named."""

    def codes(self, seed: int, twist: Twist) -> list[tuple[str, str]]:
        return [(note.code, note.title) for note in notes_of(sound_class(seed, twist))]

    def test_a_bridged_cell_is_named_and_does_not_drag_the_ladder(self) -> None:
        def bridge(group: str, black: str, red: str, volts: float) -> float:
            return 0.03 * volts if (group, black, red) == ("Group 3", "magnesium", "tin") else volts

        found, there = 0, 0
        for seed in range(30):
            readings = sound_class(seed, bridge)
            if not any(r.group == "Group 3" and (r.black, r.red) == ("magnesium", "tin") for r in readings):
                continue
            there += 1
            for result in compare(readings):
                if result.outliers:
                    note = next(n for n in notes(bath_notes(result)) if n.code == "outlier")
                    found += note.title == "Group 3’s Mg | Sn does not fit" and "bridge" in note.text
                    rungs = {rung.electrode: rung.class_v for rung in result.rungs}
                    self.assertAlmostEqual(rungs["copper"] - rungs["magnesium"], 1.56, delta=0.12)
        self.assertGreaterEqual(there, 8)
        self.assertGreaterEqual(found, 0.8 * there)

    def test_a_meter_that_is_off_is_named(self) -> None:
        def off(group: str, black: str, red: str, volts: float) -> float:
            return volts - 0.09 if group == "Group 5" else volts

        found = sum(("offset", "Group 5 reads low") in self.codes(seed, off) for seed in range(20))
        self.assertGreaterEqual(found, 16)

    def test_a_plate_that_is_off_everywhere_is_named_with_all_its_cells(self) -> None:
        notes = [n for seed in range(10) for n in notes_of(sound_class(seed)) if n.code == "plate_shift"]
        titles = [note.title for note in notes]
        self.assertGreaterEqual(sum("Magnesium sits 1" in title or "Magnesium sits 0.9" in title for title in titles), 10)
        self.assertTrue(all(len(note.evidence) >= 2 for note in notes))

    def test_nickel_and_tin_changed_places(self) -> None:
        titles = [title for seed in range(10) for _, title in self.codes(seed, lambda g, b, r, v: v)]
        self.assertGreaterEqual(titles.count("Ni and Sn changed places"), 10)

    def test_a_drift_of_the_shared_cell_is_named(self) -> None:
        found = sum(
            any(n.code == "drift" for n in notes(class_notes([], shared_readings(seed, -0.06)))) for seed in range(20)
        )
        self.assertGreaterEqual(found, 19)

    def test_every_note_that_claims_something_has_numbers_behind_it(self) -> None:
        for note in notes_of(sound_class(1), shared_readings(1, -0.06)):
            if note.code not in ("anchor", "widest_gap", "more_swaps", "next", "loose", "no_check"):
                self.assertTrue(note.evidence, note.code)


class Wildness(unittest.TestCase):
    """Values that all others contradict."""

    def test_with_too_little_to_spare_nobody_is_called_an_outlier(self) -> None:
        readings = [
            ClassReading("A", "copper", "zinc", "kelp-brine", 0.9, 0.01),
            ClassReading("A", "tin", "zinc", "kelp-brine", 0.5, 0.01),
            ClassReading("A", "copper", "tin", "kelp-brine", 3.0, 0.01),
        ]
        (result,) = compare(readings)
        self.assertEqual(result.outliers, ())

    def test_sound_values_are_fitted_as_they_are(self) -> None:
        from galvanic.findings.compare import differences_of

        for result in compare(sound_class(3)):
            kept, outliers = downweight_outliers(differences_of(result))
            self.assertEqual(outliers, [])
            self.assertEqual(kept, differences_of(result))


class Slope(unittest.TestCase):
    def test_a_few_minutes_say_nothing_and_a_lesson_says_the_slope_with_its_interval(self):
        shared = shared_readings(4, 0.0)
        soon = [Shared(one.group, 8.0 + (one.minute - 8.0) / 14.0, one.volts_v) for one in shared]
        results = compare(sound_class(4))
        self.assertFalse([note for note in notes(class_notes(results, soon)) if "drift" in note.code])
        (held,) = [note for note in notes(class_notes(results, shared)) if note.code == "no_drift"]
        self.assertIn("99 % from", held.text)
        (moved,) = [note for note in notes(class_notes(results, shared_readings(4, 0.2))) if note.code == "drift"]
        self.assertIn("rose by 0.14", moved.text)


class ManySwaps(unittest.TestCase):
    def test_three_changed_places_are_notes_of_their_own_and_the_rest_are_counted(self):
        """A class whose ladder stands on its head."""
        readings = sound_class(5, lambda group, black, red, v: -v)
        (result,) = compare([reading for reading in readings if reading.electrolyte == "rhubarb-juice"])
        codes = [note for note in notes(bath_notes(result)) if note.code in ("swapped", "more_swaps")]
        swapped = [note for note in codes if note.code == "swapped"]
        (more,) = [note for note in codes if note.code == "more_swaps"]
        self.assertEqual(len(swapped), 3)
        self.assertEqual(more.title, f"{len(result.swaps) - 3} more changed places")
        self.assertEqual(more.text.count(" and "), len(result.swaps) - 3)


class Turned(unittest.TestCase):
    """Leads the other way round are told first, also where nobody in the class could contradict them."""

    def first(self, turned, groups=GROUPS):
        readings = sound_class(3, lambda group, black, red, v: -v if group in turned else v)
        return notes(class_notes(compare([reading for reading in readings if reading.group in groups])))[0]

    def test_one_of_three_groups_and_all_of_them_are_told_first(self):
        few = GROUPS[:3]
        self.assertEqual(self.first({few[1]}, few).title, "Group 2: red and black the other way round?")
        self.assertEqual(self.first(set(few), few).title, "All groups: red and black the other way round?")
        self.assertEqual(self.first(set(GROUPS)).code, "turned")

    def test_a_sound_class_is_not_accused(self):
        for seed in range(12):
            self.assertNotIn("turned", [note.code for note in notes(class_notes(compare(sound_class(seed))))])

    def test_a_reading_that_no_cell_gives_is_named_however_few_there_are(self):
        readings = [ClassReading("Tern", "copper", "zinc", "rhubarb-juice", 950.0, 1.0)]
        readings += [ClassReading(g, "copper", "zinc", "rhubarb-juice", 0.95, 0.01) for g in ("Knot", "Ruff")]
        (result,) = compare(readings)
        self.assertEqual([outlier.difference.group for outlier in result.outliers], ["Tern"])
        self.assertAlmostEqual(result.cells[0].mean_v, 0.95)
        self.assertAlmostEqual(result.ladder.difference_v("copper", "zinc")[0], 0.95, delta=0.01)
        self.assertIn("outlier", [note.code for note in notes(bath_notes(result))])

    def test_single_readings_do_not_make_narrow_bars(self):
        """One reading a cell, nothing twice over: the last digit alone would say ±0.003 V."""
        readings = [
            ClassReading("Tern", red, "zinc", "rhubarb-juice", v, 0.01) for red, v in (("copper", 0.95), ("tin", 0.5))
        ]
        (result,) = compare(readings)
        for rung in result.rungs:
            if rung.electrode != result.anchor:
                self.assertGreater(rung.high_v - rung.low_v, 0.1)
        self.assertIn("no_check", [note.code for note in notes(bath_notes(result))])
