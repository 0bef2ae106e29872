"""What is said about a plan: true, with a number, and with a way out."""

import unittest

from galvanic.cells import Cell
from galvanic.planning.design import Task, design, judge
from galvanic.planning.plan_notes import packs_note, plan_notes
from galvanic.planning.schedule import Steps

JUICE, BRINE = "rhubarb-juice", "kelp-brine"
EIGHT = ("magnesium", "aluminium", "zinc", "steel", "tin", "nickel", "copper", "graphite")
NAMES = ["Tern", "Plover", "Curlew", "Dunlin", "Knot", "Gannet", "Fulmar", "Turnstone"]


def notes(task, plan=None, steps=None, minutes=60.0):
    found = plan_notes(task, plan or design(task), steps or Steps(), minutes, NAMES)
    return {note.code: note for note in found}


class Notes(unittest.TestCase):
    def test_a_plan_that_fits_says_how_long_it_takes(self):
        said = notes(Task(EIGHT, (JUICE, BRINE), 8, 7))
        self.assertEqual((said["fits"].title, said["fits"].tone), ("Fits: 56 of 60 minutes", "good"))
        self.assertNotIn("unconnected", said)

    def test_minutes_for_packs_are_counted_and_missed_where_packs_are_asked_for(self):
        task = Task(EIGHT, (JUICE, BRINE), 8, 7)
        said = notes(task, steps=Steps(packs=15.0), minutes=75.0)
        self.assertEqual(said["fits"].title, "Fits: 71 of 75 minutes")
        self.assertIn("packs 15", said["fits"].text)
        self.assertEqual(packs_note(Steps()).code, "no_minutes_for_packs")
        self.assertIsNone(packs_note(Steps(packs=15.0)))

    def test_sixty_cells_in_twenty_minutes_name_who_is_over_time_and_what_is_missed_least(self):
        task = Task(EIGHT, (JUICE, BRINE), 8, 1)
        hand = [cell for cell in task.cells if cell != task.shared][:50]
        said = notes(task, judge(task, [[task.shared, *hand]] * 8), minutes=20)["too_long"]
        self.assertRegex(said.title, r"^Too long: 320 of 20 minutes$")
        self.assertIn("Tern, Plover, Curlew and 5 more", said.text)
        self.assertEqual(said.action.kind, "drop")
        self.assertIn(said.action.cell, hand)

    def test_a_ladder_in_pieces_names_the_loose_plates_and_how_many_places_it_takes(self):
        said = notes(Task(EIGHT, (JUICE,), 1, 3))["unconnected"]
        self.assertIn("rhubarb juice", said.text)
        self.assertIn("need 6 places", said.text)  # a tree on 8 plates has 7 cells, one of them shared

    def test_what_the_plan_tells_apart_is_offered_with_the_cheapest_help(self):
        said = notes(Task(EIGHT, (JUICE, BRINE), 8, 7))["tells_apart"]
        self.assertIn("Ni and Cu in kelp brine", said.text)
        self.assertEqual((said.action.kind, said.action.cell), ("more", Cell("nickel", BRINE, "copper")))

    def test_free_places_scarce_plates_and_wishes_that_do_not_fit(self):
        task = Task(EIGHT, (JUICE,), 8, 7, stock={"graphite": 2}, wished={Cell("nickel", JUICE, "graphite"): 6})
        plan = design(task)
        said = notes(task, judge(task, [hand[:-2] + hand[-1:] for hand in plan.hands]))
        self.assertEqual(said["free_places"].action.kind, "fill")
        self.assertEqual(said["scarce"].title, "graphite for only 2 of 8 groups")
        self.assertIn("wished 6", said["wishes"].text)

    def test_without_a_shared_cell_that_is_said(self):
        self.assertIn("no_shared", notes(Task(("zinc", "copper"), (JUICE,), 8, 4, stock={"zinc": 3})))

    def test_every_note_has_a_number_and_ends_like_a_sentence(self):
        for task in (
            Task(EIGHT, (JUICE, BRINE), 8, 7),
            Task(EIGHT, (JUICE,), 1, 3),
            Task(("zinc", "copper"), (JUICE,), 2, 2),
        ):
            for note in notes(task).values():
                self.assertRegex(note.title + note.text, r"\d")
                self.assertTrue(note.text.endswith("."), note)
