"""The demo class: complete, marked as simulated, the same every time."""

from io import StringIO
from unittest import mock

import numpy as np
from django.core.management import call_command
from django.db.models import Count
from django.test import TestCase

from galvanic.bench.readings import parse, parse_current
from server.entries.counting import reading_counts
from server.entries.models import Prediction, Reading
from server.findings.by_variable import changed_in
from server.labs.models import Lab
from server.people.models import Group, Teacher
from server.power.chain import chain_out
from server.power.models import PackEntry
from server.practise.services import TEACHER, _make_lab, make_demo
from server.tests.support import as_teacher


class Demo(TestCase):
    @classmethod
    def setUpTestData(cls):
        make_demo()

    def test_one_lab_is_finished_one_half_done_and_one_empty(self):
        counts = {}
        for lab in Lab.objects.with_group_count().filter(title__startswith="Tidewater"):
            counts[lab.state] = reading_counts([lab.id]).get(lab.id, 0)
            self.assertEqual((lab.group_count, len(lab.electrodes), len(lab.electrolytes)), (8, 8, 2))
            self.assertEqual(lab.simulated, lab.state != "draft")
        cells = Lab.objects.filter(state="closed", varies="pairs", title__startswith="Tidewater").aggregate(
            n=Count("groups__cells")
        )["n"]
        self.assertEqual(counts["closed"], 3 * cells)
        self.assertEqual(counts["draft"], 0)
        self.assertTrue(0.4 * counts["closed"] < counts["open"] < 0.8 * counts["closed"])

    def test_the_pins_are_the_same_every_time_even_where_chance_gave_them_to_another_group(self):
        expected = [f"{1904 + 11 * i}" for i in range(8)]
        Teacher.objects.create_user("other")
        with mock.patch("server.labs.services.pins", return_value=expected[1:] + expected[:1]):
            _make_lab(
                Teacher.objects.get(username="other"),
                {"title": "x", "days_ago": 0, "state": "draft", "done": 0},
                np.random.default_rng(1),
            )
        for lab in Lab.objects.filter(title__startswith="Tidewater"):
            self.assertEqual([group.pin for group in lab.groups.all()], expected)

    def test_cells_of_two_solutions_are_near_what_nernst_has(self):
        """Daniell 1.10 V; a concentration cell of copper sulfate 0.01 and 1 mol/L 0.03 V with activities."""
        lab = Lab.objects.get(title="Two cups and a bridge")
        shown = as_teacher(Teacher.objects.get(username=TEACHER)).get(f"/api/labs/{lab.id}/compare").json()
        cells = sorted((c["short"], round(c["mean_v"], 2)) for e in shown["electrolytes"] for c in e["cells"])
        self.assertEqual([short for short, _ in cells], ["Cu | Cu′", "Zn | Cu", "Zn | Cu"])
        for (_, found), expected in zip(cells, (0.03, 1.07, 1.10), strict=True):
            self.assertAlmostEqual(found, expected, delta=0.03)

    def test_every_reading_is_marked_as_simulated(self):
        self.assertEqual(set(Reading.objects.values_list("origin", flat=True)), {"simulated"})

    def test_every_number_is_what_its_text_says(self):
        """A device sends what was typed and what it took from it; the demo's rows are made past that door."""
        rows = [*Prediction.objects.exclude(text=""), *Reading.objects.all()]
        wrong = [f"{row.text} {row.unit}: {row.volts_v}" for row in rows if parse(row.text, row.unit).volts_v != row.volts_v]
        self.assertEqual(wrong, [])
        kinds = {"V": parse, "mA": parse_current}
        for one in PackEntry.objects.filter(unit__in=kinds):
            read = kinds[one.unit](one.text, one.unit)
            value = read.volts_v if one.unit == "V" else read.current_a
            self.assertAlmostEqual(one.value, value, delta=0.5 * one.resolution + 1e-12, msg=f"{one.text} {one.unit}")

    def test_the_deliberate_faults_are_there(self):
        finished = Reading.objects.filter(cell__group__lab__state="closed")
        self.assertEqual(finished.filter(corrects__isnull=False).get().reason, "typed millivolts as volts")
        self.assertTrue(finished.filter(cell__group__name="Fulmar", volts_v__lt=0).exists())
        self.assertTrue(finished.filter(cell__group__name="Knot", volts_v__lt=0.05, volts_v__gt=0).exists())

    def test_the_class_finds_aluminium_above_zinc(self):
        lab = Lab.objects.get(title="Tidewater cell survey")
        shown = as_teacher(Teacher.objects.get(username=TEACHER)).get(f"/api/labs/{lab.id}/compare").json()
        juice = shown["electrolytes"][0]
        self.assertIn(("aluminium", "zinc"), [(s["lower"], s["upper"]) for s in juice["swaps"]])

    def test_the_distance_lab_finds_no_volts_and_less_current(self):
        lab = Lab.objects.get(varies="spacing")
        found = {one.quantity: one for one in changed_in(lab)}
        self.assertEqual([found[kind].notes[0].code for kind in ("volts", "current")], ["no_effect", "effect"])
        self.assertTrue(lab.simulated)

    def test_three_cells_decide_between_the_table_and_what_plates_do_in_the_juice(self):
        lab = Lab.objects.get(title="Three cells that decide")
        hands = {tuple(sorted(cell.cell.short for cell in group.cells.all())) for group in lab.groups.all()}
        self.assertEqual(hands, {("Mg | Al", "Mg | Zn", "Sn | Cu")})
        told = as_teacher(Teacher.objects.get(username=TEACHER)).get(f"/api/labs/{lab.id}/deciding").json()
        self.assertEqual((told["cells"], len(told["steps"])), (3, 12))
        self.assertTrue(told["verdict"].startswith("Decided: "), told["verdict"])
        equal = {one["account"]: 1 / len(told["shares"]) for one in told["shares"]}
        first, last = told["steps"][0]["shares"], told["steps"][-1]["shares"]
        self.assertTrue(equal["rest"] < first["rest"] < last["rest"], (first, last))
        self.assertGreater(last["rest"], 0.95)

    def test_the_chain_lights_green_with_three(self):
        found = chain_out(Lab.objects.get(title="Tidewater cell survey"), None)
        self.assertEqual((found.load_name, found.lit_with, found.nearest), ("green LED", 3, ["Dunlin", "Gannet"]))

    def test_packs_carry_the_scenarios_faults_and_the_run_comes_back(self):
        lab = Lab.objects.get(title="Tidewater cell survey")
        client = as_teacher(Teacher.objects.get(username=TEACHER))
        packs = client.get(f"/api/labs/{lab.id}/packs").json()["packs"]
        said = {pack["group"]: [finding["code"] for finding in pack["findings"]] for pack in packs}
        self.assertEqual((said["Tern"], said["Plover"], said["Dunlin"]), (["bridged"], ["turned"], ["led_turned"]))
        self.assertEqual((said["Knot"], said["Fulmar"], said["Gannet"]), ([], [], []))
        run = next(pack for pack in packs if any(entry["kind"] == "run_v" for entry in pack["entries"]))
        told = client.get(f"/api/packs/{run['id']}/run").json()
        self.assertEqual((run["group"], [event["what"] for event in told["events"]]), ("Curlew", ["joined", "taken off"]))
        self.assertIn("It comes back", [note["title"] for note in told["notes"]])
        self.assertTrue(next(pack for pack in packs if pack["group"] == "Fulmar")["lit"])

    def test_loading_again_changes_nothing_and_says_how_to_get_in(self):
        before = Reading.objects.count()
        said = StringIO()
        call_command("prepare", "--demo", stdout=said)
        self.assertEqual(Reading.objects.count(), before)
        lab = Lab.objects.get(state="open")
        for word in (TEACHER, lab.join_code, Group.objects.get(lab=lab, name="Tern").pin):
            self.assertIn(word, said.getvalue())
