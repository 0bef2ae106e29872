"""A class's own fit of a cell, from its open voltages, loads and runs; for its teacher alone."""

import uuid
from datetime import UTC, datetime, timedelta
from unittest import mock

from django.test import TestCase
from django.utils import timezone

from galvanic.cells import Cell
from server.entries.beside import record_under_load
from server.entries.entry import UnderLoadIn
from server.labs.models import Lab
from server.power.own_fit import fit_in
from server.room.services import set_group_aside
from server.tests.support import as_group, as_teacher, group_of, lab_of, member_of, record_all, send, teacher

BEGAN = datetime(2026, 5, 4, 9, 0, tzinfo=UTC)
CELL = {"negative": "zinc", "electrolyte": "rhubarb-juice", "positive": "copper"}


class OwnFit(TestCase):
    def setUp(self):
        self.ada, self.now = teacher(), timezone.now()
        self.lab = lab_of(self.ada, load_ohm=470.0, short_circuit=True)
        record_all(
            (cell, "0.95" if cell.cell.pair == ("zinc", "copper") else "0.50")
            for name in ("Tern", "Knot")
            for cell in group_of(self.lab, name).cells.all()
        )

    def under(self, kind="load", text="0.21", group="Tern", unit="V", **changes):
        cell = group_of(self.lab, group).cells.filter(negative="zinc", positive="copper").first()
        entry = UnderLoadIn(id=uuid.uuid4(), cell_id=cell.id, kind=kind, text=text, unit=unit, **changes)
        record_under_load(actor=member_of(group_of(self.lab, group)), entry=entry)

    def asked(self, client=None, **changes):
        return (client or as_teacher(self.ada)).get(f"/api/labs/{self.lab.id}/own-fit", CELL | changes)

    def enter(self, client, pack, kind, text, after_s=0, **more):
        body = {"id": str(uuid.uuid4()), "pack_id": pack, "kind": kind, "text": text}
        times = {
            "device_at": (BEGAN + timedelta(seconds=after_s)).isoformat(),
            "sent_at": (BEGAN + timedelta(hours=1)).isoformat(),
        }
        with mock.patch("django.utils.timezone.now", return_value=self.now):  # however long the requests take
            answer = send(client, "/bench/pack-entries", body | times | more)
        self.assertEqual(answer.status_code, 200, answer.content)

    def fresh(self):
        return Lab.objects.get(id=self.lab.id)

    def test_open_voltages_alone_say_what_to_measure(self):
        found = self.asked().json()
        self.assertEqual((found["quantities"], found["left_out"]), ([], []))
        self.assertIn("100 Ω", found["measure_next"])

    def test_loads_are_fitted_and_each_is_left_out_in_turn(self):
        self.under()
        self.under("short", "0.9", unit="mA")
        found = self.asked().json()
        self.assertEqual([one["key"] for one in found["quantities"]][:2], ["oxygen", "area"])
        self.assertEqual(
            [one["what"] for one in found["left_out"]],
            ["open", "short circuit, after 3\u00a0s", "across 470\u00a0Ω, after 10\u00a0s"],
        )
        self.assertEqual(found["left_out"][1]["measured"], "0.9 mA")
        for one in found["quantities"]:
            self.assertLessEqual(one["least"], one["low"])
            self.assertLessEqual(one["low"], one["high"])
            self.assertLessEqual(one["high"], one["most"] * 1.0001)

    def test_what_is_set_aside_is_not_fitted(self):
        self.under()
        set_group_aside(actor=self.ada, reason="noise", group_id=group_of(self.lab, "Tern").id)
        self.assertEqual(fit_in(self.fresh(), Cell(**CELL)).quantities, ())

    def test_a_run_of_one_such_cell_into_a_resistor_counts_in_time(self):
        tern, pack = as_group(group_of(self.lab, "Tern")), str(uuid.uuid4())
        send(tern, "/bench/packs", {"id": pack, "load": "100"})
        for kind, text, more in (("cell", "", {"position": 1} | CELL), ("alone", "0.95", {"position": 1, "unit": "V"})):
            self.enter(tern, pack, kind, text, **more)
        self.enter(tern, pack, "event", "joined", after_s=0)
        for after_s, volts in ((3, 0.08), (10, 0.07), (30, 0.065), (60, 0.06), (300, 0.06)):
            self.enter(tern, pack, "run_v", f"{volts:.3f}", after_s=after_s, unit="V")
        whats = [one.what for one in fit_in(self.fresh(), Cell(**CELL)).left_out]
        self.assertIn("across 100\u00a0Ω, after 10\u00a0s", whats)
        self.assertIn("across 100\u00a0Ω, after 60\u00a0s", whats)

    def test_a_run_counts_from_joining_to_what_was_done_next_and_not_of_a_group_set_aside(self):
        tern, pack = as_group(group_of(self.lab, "Tern")), str(uuid.uuid4())
        send(tern, "/bench/packs", {"id": pack, "load": "100"})
        turned = {"negative": "copper", "electrolyte": "rhubarb-juice", "positive": "zinc"}  # named by its leads
        self.enter(tern, pack, "cell", "", position=1, **turned)
        self.enter(tern, pack, "run_v", "0.950", unit="V")
        self.enter(tern, pack, "event", "joined", after_s=5)
        self.enter(tern, pack, "run_v", "0.070", after_s=15, unit="V")
        self.enter(tern, pack, "event", "shorted", after_s=30)
        self.enter(tern, pack, "run_v", "0.001", after_s=35, unit="V")
        whats = [one.what for one in fit_in(self.fresh(), Cell(**CELL)).left_out]
        self.assertEqual(whats, ["open", "across 100\u00a0Ω, after 10\u00a0s"])
        set_group_aside(actor=self.ada, reason="noise", group_id=group_of(self.lab, "Tern").id)
        self.assertEqual(fit_in(self.fresh(), Cell(**CELL)).left_out, ())

    def test_for_their_teacher_and_for_cells_that_were_measured(self):
        self.assertEqual(self.asked(as_teacher(teacher("grace"))).status_code, 404)
        self.assertEqual(self.asked(as_group(group_of(self.lab))).status_code, 401)
        self.assertEqual(self.asked(positive="gold").status_code, 404)
        self.assertEqual(self.asked(condition="spacing=4 cm").status_code, 404)
