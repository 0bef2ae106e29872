"""What a lab found of what it changed on purpose, through the API."""

import csv
import io
import uuid
from datetime import date

import numpy as np
from django.db import DatabaseError, transaction
from django.test import TestCase

from server.entries.models import Actual, SetAside
from server.labs.changes import announce
from server.records.services import import_readings
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
                far = cell.condition == "spacing 4 cm"
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

    def test_what_a_cell_really_had_counts_and_comes_back_from_the_table(self):
        tern = as_group(group_of(self.lab))
        far = group_of(self.lab).cells.filter(condition="spacing 4 cm")
        said = [send(tern, "/bench/actuals", {"id": str(uuid.uuid4()), "cell_id": str(c.id), "text": "3,5"}) for c in far]
        self.assertEqual(said[0].json() | {"id": ""}, {"id": "", "name": "spacing", "text": "3.5 cm"})
        ticks = self.found()["volts"]["ticks"]
        self.assertIn(("Tern", 4.0, 3.5), {(t["group"], t["level"], t["at"]) for t in ticks})
        again = self.desk.get(f"/api/labs/{self.lab.id}/tables/readings.csv").content.decode("utf-8-sig")
        other = import_readings(actor=self.ada, text=again, title="again", on=date(2026, 5, 5))
        self.assertEqual((other.unused, other.lab.varies), ((), "spacing"))
        same = {one["quantity"]: one for one in self.desk.get(f"/api/labs/{other.lab.id}/variables").json()["changed"]}
        for key in ("ticks", "line", "model", "notes"):
            self.assertEqual(same["volts"][key], self.found()["volts"][key], key)

    def test_what_cannot_be_understood_is_refused_with_a_reason_and_the_rows_stay_for_good(self):
        cell = group_of(self.lab).cells.first()
        body = {"id": str(uuid.uuid4()), "cell_id": str(cell.id)}
        tern, knot = as_group(group_of(self.lab)), as_group(group_of(self.lab, "Knot"))
        self.assertIn("It was not recorded", send(tern, "/bench/actuals", body | {"text": "wide"}).json()["message"])
        self.assertEqual(send(knot, "/bench/actuals", body | {"text": "2"}).status_code, 404)
        for _ in range(2):
            self.assertEqual(send(tern, "/bench/actuals", body | {"text": "2"}).status_code, 200)
        self.assertEqual(Actual.objects.count(), 1)
        with self.assertRaises(DatabaseError), transaction.atomic():
            Actual.objects.update(value=9.0)


class EveryVariableOnce(TestCase):
    """Plan, bench and compare of labs that change temperature, strength or pairs of plates."""

    def through(self, varies, conditions, liquid, volts, amps):
        ada = teacher()
        lab = lab_of(
            ada, groups=("Tern", "Knot", "Plover", "Ruff"), electrodes=["zinc", "copper"], electrolytes=[liquid],
            varies=varies, conditions=conditions, short_circuit=True, repeats=4, minutes=90,
        )  # fmt: skip
        rng = np.random.default_rng(3)
        for name in ("Tern", "Knot", "Plover", "Ruff"):
            device = as_group(group_of(lab, name))
            bench = device.get("/api/bench").json()["cells"]
            self.assertEqual({cell["level"]["text"] for cell in bench}, set(conditions))
            for cell in bench:
                at = float(cell["level"]["text"].split()[0])
                self.assertIn(cell["level"]["text"], cell["preparation"])
                ids = {"cell_id": cell["id"], "red": "copper", "black": "zinc", "unit": "V"}
                read = f"{volts(at) + rng.normal(0.0, 0.003):.3f}"
                sent = send(device, "/bench/readings", ids | {"id": str(uuid.uuid4()), "text": read})
                self.assertEqual(sent.status_code, 200)
                short = {"id": str(uuid.uuid4()), "cell_id": cell["id"], "kind": "short", "unit": "mA"}
                send(device, "/bench/under-load", short | {"text": f"{amps(at) * np.exp(rng.normal(0.0, 0.05)):.3f}"})
        found = as_teacher(ada).get(f"/api/labs/{lab.id}/variables").json()["changed"]
        self.assertEqual({one["short"] for one in found}, {"Zn | Cu"})
        return {one["quantity"]: one for one in found}

    def test_temperature_moves_the_current_as_arrhenius_has_it(self):
        found = self.through(
            "temperature", ["10 °C", "25 °C", "40 °C"], "lemon-juice", lambda c: 0.95,
            lambda c: 0.8 * np.exp(20e3 / 8.314 * (1.0 / 298.15 - 1.0 / (c + 273.15))),
        )  # fmt: skip
        said = found["current"]["notes"][0]["text"]
        self.assertRegex(said, r"As Arrhenius has it: (1[89]|2[012]) kJ/mol")
        self.assertEqual(found["volts"]["notes"][0]["code"], "no_effect")
        self.assertGreater(len(found["current"]["model"]), 2)

    def test_strength_is_laid_on_its_logarithm(self):
        found = self.through(
            "concentration", ["0.01 mol/L", "0.1 mol/L", "1 mol/L"], "cuso4-0.1",
            lambda c: 1.0 + 0.0296 * np.log10(c), lambda c: 2.0 * c**0.5,
        )  # fmt: skip
        self.assertRegex(found["volts"]["notes"][0]["text"], r"\+0\.0(2[789]|3[012]).V .* per decade")

    def test_three_pairs_give_three_times_the_current_and_the_same_volts(self):
        found = self.through("plate-pairs", ["1", "2", "3"], "lemon-juice", lambda n: 0.95, lambda n: 0.7 * n)
        self.assertRegex(found["current"]["notes"][0]["text"], r"(2\.9|3\.0|3\.1)\d times the current")
        self.assertEqual(found["volts"]["notes"][0]["code"], "no_effect")
        model = found["current"]["model"]
        self.assertAlmostEqual(model[-1]["value"] / model[0]["value"], 3.0, delta=0.05)
