"""What a plan foresees, as its teacher gets it."""

from django.test import TestCase

from server.labs.models import PlannedCell
from server.tests.support import as_group, as_teacher, group_of, lab_of, send, teacher


class Foreseen(TestCase):
    """`/labs/{id}/foreseen`."""

    def setUp(self) -> None:
        self.ada = teacher("ada")
        self.client = as_teacher(self.ada)

    def get(self, lab):
        return self.client.get(f"/api/labs/{lab.id}/foreseen")

    def test_a_draft_says_what_it_will_be_able_to_say(self) -> None:
        lab = lab_of(self.ada, opened=False, groups=["Tern", "Knot", "Ruff"], electrodes=["zinc", "tin", "copper"])
        found = self.get(lab).json()
        self.assertEqual({one["what"] for one in found["lines"]}, {"Zinc stands below tin", "Tin stands below copper"})
        self.assertTrue(all(50.0 < one["share"] <= 100.0 for one in found["lines"]))
        self.assertIn("of 100 classes", found["pace"])
        self.assertIn("decide which account is right", found["decided"])
        self.assertIn("across a resistor", found["loads"])
        self.assertEqual(self.get(lab_of(self.ada, opened=False, load_ohm=100.0)).json()["loads"], "")

    def test_what_the_shared_cell_costs_and_buys_is_said_and_can_be_given_up(self) -> None:
        plates = ["magnesium", "zinc", "tin", "nickel", "copper"]
        lab = lab_of(self.ada, opened=False, groups=["Tern", "Knot", "Ruff", "Gull"], electrodes=plates)
        self.assertIn("Without it the ladder would be", self.get(lab).json()["trade"])
        parted = send(self.client, f"/labs/{lab.id}/plan", {"kind": "apart"}).json()
        self.assertFalse(any(cell["shared"] for group in parted["lab"]["groups"] for cell in group["cells"]))
        self.assertIn("Plan anew", parted["said"][0])
        self.assertEqual(self.get(lab).json()["trade"], "")
        again = send(self.client, f"/labs/{lab.id}/plan", {"kind": "apart"})  # one deed, however often it is pressed
        self.assertEqual((again.status_code, again.json()["lab"]["groups"]), (200, parted["lab"]["groups"]))
        back = send(self.client, f"/labs/{lab.id}/plan", {"kind": "undo"}).json()["lab"]
        self.assertTrue(all(group["cells"][0]["shared"] for group in back["groups"]))

    def test_lists_that_are_too_long_are_made_shorter_at_a_press_and_longer_again(self) -> None:
        plates = ["magnesium", "zinc", "tin", "nickel", "copper"]
        names = ["Tern", "Knot", "Ruff", "Gull", "Crake", "Dunlin"]
        lab = lab_of(self.ada, opened=False, groups=names, electrodes=plates, minutes=56)
        before = self.get(lab).json()
        self.assertIn("With a cell less each", before["pace"])
        longest = before["shorter"] + 1

        def lengths(answer):
            return [len(group["cells"]) for group in answer["groups"]]

        self.assertEqual(max(lengths(self.client.get(f"/api/labs/{lab.id}").json())), longest)
        for _ in range(2):  # pressed twice
            made = send(self.client, f"/labs/{lab.id}/plan", {"kind": "shorter", "places": before["shorter"]}).json()["lab"]
        self.assertEqual(max(lengths(made)), longest - 1)
        self.assertNotIn("free_places", [note["code"] for note in made["notes"]])
        after = self.get(lab).json()["pace"]
        self.assertEqual(after.split(" of 100")[0].split()[-1], before["pace"].rstrip(".").split()[-1])
        anew = send(self.client, f"/labs/{lab.id}/plan", {"kind": "anew"}).json()["lab"]
        self.assertEqual(max(lengths(anew)), longest - 1)
        send(self.client, f"/labs/{lab.id}/plan", {"kind": "undo"})
        back = send(self.client, f"/labs/{lab.id}/plan", {"kind": "undo"}).json()["lab"]
        self.assertEqual((max(lengths(back)), back["settings"]["steps"]["spare"]), (longest, 0.0))

    def test_a_plan_is_made_to_decide_at_a_press(self) -> None:
        plates = ["zinc", "tin", "copper", "graphite"]
        lab = lab_of(self.ada, opened=False, groups=["Tern", "Knot"], electrodes=plates, minutes=40)
        made = send(self.client, f"/labs/{lab.id}/plan", {"kind": "decide"}).json()
        self.assertRegex(made["said"][0], r"^The accounts part most on .*Sn \| Cu.*: with those, \d+ of 100 classes decide")
        share = made["said"][0].split("with those, ")[1].split()[0]
        self.assertIn(f"In {share} of 100 classes", self.get(lab).json()["decided"])
        again = send(self.client, f"/labs/{lab.id}/plan", {"kind": "decide"}).json()
        self.assertEqual(again["lab"]["groups"], made["lab"]["groups"])
        self.assertIn("decides more often", again["said"][0])

    def test_liquids_are_named_where_there_are_two(self) -> None:
        lab = lab_of(self.ada, opened=False, electrolytes=["rhubarb-juice", "kelp-brine"], electrodes=["zinc", "copper"])
        self.assertEqual(
            {one["what"] for one in self.get(lab).json()["lines"]},
            {"Zinc stands below copper (rhubarb juice)", "Zinc stands below copper (kelp brine)"},
        )

    def test_a_lab_that_changes_one_thing_says_what_of_it_will_be_seen(self) -> None:
        about = {"varies": "spacing", "conditions": ["1 cm", "4 cm"], "electrodes": ["zinc", "copper"]}
        lab = lab_of(self.ada, opened=False, groups=["Tern", "Knot", "Ruff"], short_circuit=True, **about)
        found = self.get(lab).json()
        self.assertEqual([one["what"] for one in found["lines"]], ["that the volts change", "that the current changes"])
        self.assertLess(found["lines"][0]["share"], found["lines"][1]["share"])
        self.assertIn("times the current", found["lines"][1]["remark"])
        without = self.get(lab_of(self.ada, opened=False, **about)).json()
        self.assertEqual([one["what"] for one in without["lines"]], ["that the volts change"])

    def test_a_lab_without_cells_foresees_nothing(self) -> None:
        lab = lab_of(self.ada, opened=False)
        PlannedCell.objects.filter(group__lab=lab).delete()
        self.assertEqual(
            self.get(lab).json(), {"lines": [], "pace": "", "shorter": None, "decided": "", "trade": "", "loads": ""}
        )

    def test_only_who_may_see_the_lab(self) -> None:
        bob = teacher("bob")
        lab = lab_of(self.ada)
        path = f"/api/labs/{lab.id}/foreseen"
        self.assertEqual(as_teacher(bob).get(path).status_code, 404)
        self.assertEqual(as_group(group_of(lab)).get(path).status_code, 401)
