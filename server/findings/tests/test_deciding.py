"""The accounts' shares and the most telling cells, as a lab's teacher gets them."""

from django.test import TestCase

from galvanic.chemistry.accounts import predict
from server.labs.models import Lab, PlannedCell
from server.materials.models import Shelf
from server.tests.support import as_group, as_teacher, group_of, lab_of, record, teacher

PLATES = ["zinc", "copper", "tin", "aluminium"]


class Deciding(TestCase):
    """`/labs/{id}/deciding`."""

    def setUp(self) -> None:
        self.ada = teacher("ada")
        self.lab = lab_of(self.ada, electrodes=PLATES)
        self.client = as_teacher(self.ada)

    def get(self):
        return self.client.get(f"/api/labs/{self.lab.id}/deciding")

    def read(self) -> None:
        """Every group reads what the rest-potential model says."""
        for planned in PlannedCell.objects.filter(group__lab=self.lab).select_related("group__lab"):
            value = predict([planned.cell], 0)[0]["rest"].volts_v
            assert value is not None
            record(planned, f"{value:.2f}", red=planned.positive, black=planned.negative)

    def test_before_a_reading_all_are_alike_and_a_cell_is_named(self) -> None:
        found = self.get().json()
        self.assertEqual([one["share"] for one in found["shares"]], [20] * 5)
        self.assertEqual((found["steps"], found["verdict"], found["cells"]), ([], "", 0))
        self.assertTrue(all(one["here"] for one in found["telling"]))

    def test_shares_move_with_each_value_in_the_order_of_time(self) -> None:
        self.read()
        found = self.get().json()
        best = max(found["shares"], key=lambda one: one["share"])
        self.assertEqual(best["account"], "rest")
        self.assertIn(best["name"], found["verdict"])
        self.assertEqual(
            len(found["steps"]),
            PlannedCell.objects.filter(group__lab=self.lab).values("group", "negative", "positive").distinct().count(),
        )
        self.assertAlmostEqual(sum(found["steps"][0]["shares"].values()), 1.0)

    def test_the_next_lab_may_have_what_is_in_the_cupboard(self) -> None:
        Shelf.objects.create(owner=self.ada, material="magnesium", count=3)
        Shelf.objects.create(owner=self.ada, material="silver", count=0)

        def of_cells() -> set[str]:
            return {one["cell"][end] for one in self.get().json()["telling"] for end in ("negative", "positive")}

        self.assertNotIn("magnesium", of_cells())
        Lab.objects.filter(id=self.lab.id).update(state=Lab.State.CLOSED, changes=7)
        self.assertNotIn("silver", of_cells())
        self.assertIn("magnesium", of_cells())

    def test_strangers_and_groups_get_nothing(self) -> None:
        bob = teacher("bob")
        path = f"/api/labs/{self.lab.id}/deciding"
        self.assertEqual(as_teacher(bob).get(path).status_code, 404)
        self.assertEqual(as_group(group_of(self.lab)).get(path).status_code, 401)
