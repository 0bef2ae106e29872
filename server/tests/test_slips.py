"""Classes as they are, through every answer of the API: never a 5xx, nothing that is no number, nothing no cell can give."""

import json
import re
from collections import defaultdict
from contextlib import contextmanager

from django.db import transaction
from django.test import TestCase

from galvanic.simulated.slips import SLIPS, usual_slips, with_slips
from server.entries.models import Reading
from server.findings.release import release
from server.labs.models import PlannedCell
from server.tests.support import as_group, as_teacher, group_of, lab_of, record_all, teacher
from server.tests.walk import SCHEMA

GROUPS = ("Tern", "Knot", "Ruff", "Gull")
PLATES = ("magnesium", "zinc", "steel", "copper")
STREAMS = ("/events", "/meter", "/package")  # these never end, or are files
USUAL = 8  # classes with the mistakes of benches at their rates
MOST_V = 20.0  # no pair of plates, no sum of what a class finds lies beyond it
AS_TYPED = ("volts_v", "signed_v")  # a reading as it stands there, whatever it is
READS = {
    path: told["get"]
    for path, told in SCHEMA["paths"].items()
    if "get" in told and not path.endswith(STREAMS) and ("{" in path or "/bench" in path)
}


def no_number(name):
    raise AssertionError(f"{name} stands in an answer")


@contextmanager
def taken_back():
    """What is done inside is undone: every class meets an empty database."""
    with transaction.atomic():
        yield
        transaction.set_rollback(True)


class Slips(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.desk = as_teacher(self.ada)

    def lab(self, **more):
        asked = {"electrodes": list(PLATES), "electrolytes": ["lemon-juice"], "minutes": 90} | more
        lab = lab_of(self.ada, GROUPS, **asked)
        release(actor=self.ada, lab_id=lab.id, parts=("compare", "explain", "claims", "power", "notebook"))
        return lab

    def hands(self, lab):
        return [list(PlannedCell.objects.filter(group=group_of(lab, name)).order_by("position")) for name in GROUPS]

    def typed(self, lab, slips, seed):
        """What the class types, with the cell each number belongs to."""
        hands = self.hands(lab)
        entries = with_slips([[planned.cell for planned in hand] for hand in hands], seed, slips)
        return [(hands[entry.group][entry.place], entry.typed.text) for entry in entries]

    def everything(self, lab):
        """All that can be asked of a lab: by its teacher, and by its groups."""
        cell = PlannedCell.objects.filter(group__lab=lab).first()
        known = {"lab_id": lab.id, "group_id": cell.group_id, "cell_id": cell.id}
        asked = {"negative": cell.negative, "electrolyte": cell.electrolyte, "positive": cell.positive}
        asked |= {"cell": f"{cell.negative}|{cell.electrolyte}|{cell.positive}", "load": "led-red", "lab": str(lab.id)}
        for path, told in READS.items():
            names = set(re.findall(r"{(\w+)}", path))
            needed = {p["name"] for p in told.get("parameters", []) if p["in"] == "query" and p.get("required")}
            if names <= set(known) and needed <= set(asked):
                client = as_group(cell.group) if "/bench" in path else self.desk
                yield path, client.get(path.format(**known), {name: asked[name] for name in needed})

    def look(self, lab):
        for path, answer in self.everything(lab):
            self.assertLess(answer.status_code, 500, f"{path}: {answer.content[:300]!r}")
            if answer.status_code == 200 and "json" in answer["Content-Type"]:
                self.numbers(path, json.loads(answer.content, parse_constant=no_number))

    def numbers(self, path, value, name=""):
        """No voltage that is worked out lies beyond what cells give; what was typed may."""
        if isinstance(value, dict):
            for key, part in value.items():
                self.numbers(path, part, key)
        elif isinstance(value, list):
            for part in value:
                self.numbers(path, part, name)
        elif isinstance(value, float) and name.endswith("_v") and name not in AS_TYPED:
            self.assertLess(abs(value), MOST_V, f"{path}: {name}")

    def test_each_mistake_alone(self):
        for number, name in enumerate(SLIPS):
            with self.subTest(name), taken_back():
                lab = self.lab()
                record_all(self.typed(lab, [name], number))
                self.look(lab)

    def test_classes_with_the_mistakes_of_benches(self):
        for seed in range(USUAL):
            slips = usual_slips(seed)
            with self.subTest(seed=seed, slips=slips), taken_back():
                lab = self.lab()
                record_all(self.typed(lab, slips, seed))
                self.look(lab)

    def test_a_class_half_way_after_every_tenth_reading(self):
        lab = self.lab(electrolytes=["lemon-juice", "salt-water"])
        typed = self.typed(lab, ["a coarse meter", "a group that stops"], 3)
        waiting = [typed[at : at + 10] for at in range(0, len(typed), 10)]
        self.look(lab)
        for some in waiting[:12]:
            record_all(some)
            with self.subTest(readings=Reading.objects.count()):
                self.look(lab)

    def test_the_mistakes_are_those_that_they_are_called(self):
        lab = self.lab()
        sound = self.typed(lab, [], 1)
        for name in SLIPS:
            self.assertNotEqual(self.typed(lab, [name], 1), sound, name) if name != "a lost sign" else None
        by_cell = defaultdict(set)
        for planned, text in self.typed(lab, ["read once, written three times"], 1):
            by_cell[planned.id].add(text)
        self.assertGreaterEqual(sum(len(texts) == 1 for texts in by_cell.values()), 3)
        turned = [float(text) for _, text in self.typed(lab, ["leads turned in all"], 1)]
        self.assertEqual(turned, [-float(text) for _, text in sound])
