"""The class's chain, and a pack step by step."""

import unittest

from galvanic.bench.chain import Link, Seen, chain_findings, lit_with, nearest, rises, votes_in_words
from galvanic.bench.pack_steps import (
    SEEN_DEVICE,
    SEEN_LAMP,
    PackRow,
    known_load,
    record_of,
    steps_of,
    too_much,
    what_is_seen,
)


class Chain(unittest.TestCase):
    links = (Link(0.95, 0.95), Link(0.90, 1.84), Link(None, 0.92), Link(0.93, 1.84))

    def test_each_cell_adds_what_the_row_reads_more(self):
        for rise, wanted in zip(rises(self.links), (0.95, 0.89, -0.92, 0.92), strict=True):
            self.assertAlmostEqual(rise, wanted)
        self.assertEqual(rises(()), [])

    def test_a_cell_that_is_turned_round_is_named_as_in_any_pack(self):
        turned = (Link(0.95, 0.95), Link(0.90, 1.85), Link(0.92, 0.93))
        codes = [finding.code for finding in chain_findings("led-red", turned, ())]
        self.assertIn("turned", codes)
        sound = (Link(0.95, 0.95), Link(0.90, 1.85), Link(0.92, 2.77))
        self.assertNotIn("turned", [finding.code for finding in chain_findings("led-red", sound, ())])

    def test_the_load_ran_with_the_fewest_cells_with_which_it_was_seen_to(self):
        seen = [Seen("dark", 1), Seen("glows by day", 3), Seen("glows in the dark", 2), Seen("dark", 2)]
        self.assertEqual(lit_with(seen), 2)
        self.assertIsNone(lit_with(seen[:1]))
        self.assertIsNone(lit_with([]))

    def test_votes_are_laid_beside_what_it_took(self):
        votes = {"Tern": 3, "Knot": 6, "Ruff": 5}
        self.assertEqual(votes_in_words(votes, 4), "3 groups voted for 3 to 6 cells. It ran with 4; nearest: Ruff, Tern.")
        self.assertEqual(votes_in_words({"Tern": 3, "Knot": 3}, None), "2 groups voted for 3 cells.")
        self.assertEqual(votes_in_words({}, 4), "")

    def test_the_latest_sight_of_the_load_is_part_of_the_record(self):
        low = (Link(0.95, 0.95), Link(0.90, 1.85), Link(0.92, 2.77))
        dark, lit = (chain_findings("led-red", low, [Seen("bright", 1), Seen(text, 3)]) for text in ("dark", "bright"))
        self.assertNotEqual([finding.code for finding in dark], [finding.code for finding in lit])

    def test_the_vote_that_came_nearest_above_or_below(self):
        self.assertEqual(nearest({"Tern": 2, "Knot": 5, "Ruff": 4, "Gull": 7}, 3), ["Ruff", "Tern"])
        self.assertEqual(nearest({"Knot": 5}, 3), ["Knot"])
        self.assertEqual(nearest({}, 3), [])


def row(kind, position=None, value=None, text=""):
    return PackRow(kind, position, value, text)


class Steps(unittest.TestCase):
    def test_of_each_thing_the_latest_entry_counts(self):
        record = record_of(
            "led-red",
            [row("alone", 1, 0.9), row("alone", 1, 0.95), row("alone", 2, 0.93), row("sum", 2, 1.86), row("under", 2, 0.4),
             row("load_v", None, 1.6), row("load_a", None, 0.0004), row("seen", None, None, "dark"),
             row("seen", None, None, "bright"), row("cell", 3)],
        )  # fmt: skip
        self.assertEqual(record.alone_v, (0.95, 0.93, None))
        self.assertEqual(record.sums_v, (None, 1.86, None))
        self.assertEqual(record.under_v, (None, 0.4, None))
        self.assertEqual((record.load_v, record.load_a, record.lit), (1.6, 0.0004, True))
        self.assertEqual(record_of("led-red", [row("seen", None, None, "dark")]).lit, False)
        self.assertIsNone(record_of("led-red", []).lit)
        self.assertEqual(record_of("led-red", []).alone_v, ())

    def test_notes_and_readings_in_time_join_no_cell(self):
        self.assertEqual(record_of("led-red", [row("under", 4, 0.4), row("note", 5, None, "warm")]).alone_v, ())

    def test_each_step_is_short_of_the_singles_as_far_as_they_are_known(self):
        record = record_of(
            "led-red",
            [row("alone", 1, 0.95), row("sum", 1, 0.95), row("alone", 2, 0.93), row("sum", 2, 1.80), row("sum", 3, 2.7),
             row("alone", 4, 0.9), row("sum", 4, 3.6)],
        )  # fmt: skip
        steps = steps_of(record)
        self.assertEqual([step.cell for step in steps], [1, 2, 3, 4])
        self.assertAlmostEqual(steps[1].singles_v, 1.88)
        self.assertAlmostEqual(steps[1].short_v, 0.08)
        self.assertEqual([step.short_v is None for step in steps], [False, False, True, True])
        self.assertEqual([step.singles_v is None for step in steps], [False, False, True, True])

    def test_a_load_that_is_none_is_unknown(self):
        self.assertIsNone(known_load("a toaster"))
        self.assertIsNone(record_of("a toaster", []).load)
        self.assertIsNotNone(known_load("470"))

    def test_what_a_lamp_a_device_and_a_resistor_can_be_seen_to_do(self):
        self.assertEqual(what_is_seen(known_load("led-red")), SEEN_LAMP)
        self.assertEqual(what_is_seen(known_load("clock")), SEEN_DEVICE)
        self.assertEqual(what_is_seen(known_load("470")), ())
        self.assertEqual(what_is_seen(None), ())

    def test_a_device_is_not_joined_to_more_than_it_stands(self):
        clock = known_load("clock")
        self.assertEqual(too_much(clock, clock.row.most_v.value - 0.1), "")
        self.assertIn("V", too_much(clock, clock.row.most_v.value + 0.5))
        self.assertEqual(too_much(clock, None), "")
        self.assertEqual(too_much(known_load("470"), 30.0), "")
        self.assertEqual(too_much(known_load("led-red"), 30.0), "")
        self.assertEqual(too_much(None, 30.0), "")


if __name__ == "__main__":
    unittest.main()
