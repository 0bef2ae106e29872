"""One more cell for a group that is early, at the board."""

import uuid

from django.test import TestCase

from server.labs.models import Lab, PlannedCell
from server.people.models import Deed
from server.tests.support import as_group, as_teacher, group_of, lab_of, record, teacher


class OneMore(TestCase):
    """`add_cell`."""

    def setUp(self) -> None:
        self.ada = teacher("ada")
        self.lab = lab_of(self.ada, minutes=40, electrodes=["zinc", "copper", "tin", "nickel", "magnesium"])
        self.group = group_of(self.lab)
        self.client = as_teacher(self.ada)
        has = {one.cell.pair for one in self.cells()}
        pairs = [
            ("magnesium", "nickel"),
            ("magnesium", "tin"),
            ("nickel", "tin"),
            ("zinc", "nickel"),
            ("magnesium", "copper"),
        ]
        low, high = next(pair for pair in pairs if pair not in has and pair[::-1] not in has)
        self.more = {"negative": high, "electrolyte": "rhubarb-juice", "positive": low}  # the wrong way round

    def cells(self) -> list[PlannedCell]:
        return list(PlannedCell.objects.filter(group=self.group).order_by("position"))

    def add(self, cell: dict[str, str] | None = None, group: uuid.UUID | None = None):
        path = f"/api/groups/{group or self.group.id}/cells"
        return self.client.post(path, cell or self.more, content_type="application/json")

    def test_it_stands_on_the_list_once_before_the_closing_shared_cell(self) -> None:
        before = self.cells()
        self.assertEqual([self.add().status_code, self.add().status_code], [200, 200])
        after = self.cells()
        self.assertEqual(len(after), len(before) + 1)
        self.assertEqual([one.position for one in after], list(range(before[0].position, before[0].position + len(after))))
        new = next(one for one in after if one not in before)
        self.assertEqual(after[-1].shared, before[-1].shared)
        self.assertIn(self.more["negative"], new.cell.pair)
        self.assertEqual(Deed.objects.filter(what="added_cell").count(), 1)
        bench = as_group(self.group).get("/api/bench").json()
        self.assertIn(str(new.id), str(bench))
        self.assertEqual(record(new, "0.71").cell_id, new.id)

    def test_after_a_closing_cell_that_is_begun_it_is_the_last(self) -> None:
        last = self.cells()[-1]
        record(last)
        self.add()
        self.assertEqual(self.cells()[-2], last)

    def test_what_the_lab_has_not_is_refused_in_words(self) -> None:
        for changed in (
            {"electrolyte": "lemon-juice"},
            {"positive": "silver"},
            {"positive": "unknown"},
            {"condition": "4 cm"},
        ):
            refused = self.add(self.more | changed)
            self.assertEqual((refused.status_code, refused.json()["code"]), (422, "not_here"), changed)
        same = self.add(self.more | {"positive": self.more["negative"]})
        self.assertEqual(same.status_code, 422)
        self.assertEqual(len(self.add(self.more | {"negative": "x" * 300}).json()["message"]) > 0, True)

    def test_only_an_open_lab_and_only_its_own_teacher(self) -> None:
        bob = teacher("bob")
        path = f"/api/groups/{self.group.id}/cells"
        self.assertEqual(as_teacher(bob).post(path, self.more, content_type="application/json").status_code, 404)
        self.assertEqual(as_group(self.group).post(path, self.more, content_type="application/json").status_code, 401)
        self.assertEqual(self.add(group=uuid.uuid4()).status_code, 404)
        Lab.objects.filter(id=self.lab.id).update(state=Lab.State.CLOSED)
        self.assertEqual((self.add().status_code, self.add().json()["code"]), (409, "not_open"))
