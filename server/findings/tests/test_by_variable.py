"""What a lab found of what it changed on purpose, through the API."""

import csv
import io
import uuid

from django.test import TestCase

from server.entries.models import SetAside
from server.labs.changes import announce
from server.tests.support import as_group, as_teacher, group_of, lab_of, record, send, teacher


class OneThingChanged(TestCase):
    """A lab of distances: volts and short circuits against the variable, for its teacher, out as a table."""

    def setUp(self):
        self.ada = teacher()
        changes = {"varies": "spacing", "conditions": ["1 cm apart", "4 cm apart"], "electrodes": ["zinc", "copper"]}
        self.lab = lab_of(self.ada, groups=("Tern", "Knot", "Plover"), short_circuit=True, **changes)
        for n, name in enumerate(("Tern", "Knot", "Plover")):
            device = as_group(group_of(self.lab, name))
            for cell in group_of(self.lab, name).cells.all():
                far = cell.condition == "4 cm apart"
                record(cell, f"{0.95 + 0.01 * n:.2f}")
                body = {"id": str(uuid.uuid4()), "cell_id": str(cell.id), "kind": "short", "unit": "mA"}
                send(device, "/bench/under-load", body | {"text": f"{(0.5 if far else 1.0) * (1.0 + 0.1 * n):.3f}"})
        self.desk = as_teacher(self.ada)

    def found(self):
        return {one["quantity"]: one for one in self.desk.get(f"/api/labs/{self.lab.id}/variables").json()["changed"]}

    def test_distance_moves_the_current_and_not_the_volts(self):
        found = self.found()
        self.assertEqual((found["volts"]["variable"], found["volts"]["short"]), ("spacing", "Zn | Cu"))
        self.assertEqual(found["volts"]["notes"][0]["code"], "no_effect")
        self.assertIn("smaller than", found["volts"]["notes"][0]["text"])
        self.assertEqual(found["current"]["notes"][0]["code"], "effect")
        self.assertIn("0.50 times the current", found["current"]["notes"][0]["text"])
        self.assertEqual({(tick["group"], tick["at"]) for tick in found["current"]["ticks"]},
                         {(name, at) for name in ("Tern", "Knot", "Plover") for at in (1.0, 4.0)})  # fmt: skip

    def test_a_group_that_is_set_aside_does_not_count(self):
        SetAside.objects.create(group=group_of(self.lab, "Plover"), teacher=self.ada, reason="wrong plates")
        announce(self.lab.id)
        self.assertEqual({tick["group"] for tick in self.found()["current"]["ticks"]}, {"Tern", "Knot"})
        self.assertEqual(self.found()["current"]["notes"][0]["code"], "too_little")

    def test_it_goes_out_as_a_table_and_to_nobody_else(self):
        rows = list(
            csv.DictReader(
                io.StringIO(self.desk.get(f"/api/labs/{self.lab.id}/tables/variables.csv").content.decode("utf-8-sig"))
            )
        )
        self.assertEqual(
            {(row["variable"], row["level"], row["unit"]) for row in rows},
            {("spacing", "1.0", "cm"), ("spacing", "4.0", "cm")},
        )
        self.assertEqual({row["in"] for row in rows}, {"V", "A"})
        self.assertEqual(as_teacher(teacher("bob")).get(f"/api/labs/{self.lab.id}/variables").status_code, 404)
