"""Packs that groups build: kept once, as typed, corrected by new entries, judged by the core, seen by their own alone."""

import uuid
from datetime import UTC, datetime, timedelta
from unittest import mock

from django.db import connection, transaction
from django.db.utils import IntegrityError
from django.test import TestCase
from django.utils import timezone

from server.labs.opening import close_lab
from server.power.models import Pack, PackEntry
from server.power.packs import counting
from server.records.sheets import all_sheets
from server.tests.support import as_group, as_teacher, group_of, lab_of, send, teacher


class Packs(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada)
        self.tern = as_group(group_of(self.lab, "Tern"))
        self.pack = self.begin()

    def begin(self, load="led-red", client=None, **changes):
        key = str(uuid.uuid4())
        answer = send(client or self.tern, "/bench/packs", {"id": key, "load": load} | changes)
        self.assertEqual(answer.status_code, 200, answer.content)
        return key

    def enter(self, kind, text="", client=None, **changes):
        body = {"id": str(uuid.uuid4()), "pack_id": self.pack, "kind": kind, "text": text} | changes
        return send(client or self.tern, "/bench/pack-entries", body)

    def join(self, position, alone, total, positive="copper"):
        plates = {"negative": "zinc", "electrolyte": "rhubarb-juice", "positive": positive}
        for answer in (
            self.enter("cell", position=position, **plates),
            self.enter("alone", alone, position=position, unit="V"),
            self.enter("sum", total, position=position, unit="V"),
        ):
            self.assertEqual(answer.status_code, 200, answer.content)

    def shown(self, client=None):
        return (client or self.tern).get("/api/bench/packs").json()["packs"]

    def test_a_pack_is_built_cell_by_cell_and_each_step_is_judged(self):
        self.join(1, "0.95", "0.95")
        self.join(2, "0.94", "1.88")
        self.assertEqual(self.shown()[0]["findings"], [])
        self.join(3, "0.93", "2.05")
        found = self.shown()[0]["findings"]
        self.assertEqual([(one["code"], one["cell"]) for one in found], [("bridged", 3)])
        self.assertIn("measure across cell 3, then across cell 2", found[0]["tries"][0])
        self.enter("sum", "2.80", position=3)  # dried, measured again: the latest counts
        self.assertEqual(self.shown()[0]["findings"], [])
        self.assertAlmostEqual(self.shown()[0]["open_v"], 2.80)

    def test_the_meters_offset_is_taken_off_and_the_text_stays_as_typed(self):
        send(self.tern, "/bench/meter-checks", {"id": str(uuid.uuid4()), "leads": "0.050", "dry": "1.61"})
        self.join(1, "1.00", "1.00")
        self.join(2, "1.00", "1.95")  # each has the offset once; the sum of two has it once too
        shown = self.shown()[0]
        self.assertEqual(shown["findings"], [])
        self.assertAlmostEqual(shown["steps"][1]["short_v"], 0.0, places=6)
        self.assertAlmostEqual(shown["open_v"], 1.90)
        self.assertEqual([entry["text"] for entry in shown["entries"] if entry["kind"] == "sum"], ["1.00", "1.95"])

    def test_the_load_is_tried_and_the_milliamps_are_read(self):
        for k, total in enumerate(("0.95", "1.90", "2.85"), start=1):
            self.join(k, "0.95", total)
        self.enter("seen", "dark")
        self.enter("load_v", "2.84")
        self.enter("load_a", "0.000", unit="mA")
        pack = self.shown()[0]
        self.assertEqual([finding["code"] for finding in pack["findings"]], ["led_turned"])
        self.assertEqual(pack["seen"], ["dark", "glows in the dark", "glows by day", "bright"])
        self.enter("seen", "glows by day")
        self.enter("load_a", "0.12", unit="mA")
        pack = self.shown()[0]
        self.assertEqual((pack["findings"], pack["lit"]), ([], True))
        amps = [entry for entry in pack["entries"] if entry["kind"] == "load_a"]
        self.assertAlmostEqual(amps[-1]["value"], 0.12e-3)

    def test_a_device_is_not_to_be_joined_above_its_volts(self):
        self.pack = self.begin("calculator")
        for k, total in enumerate(("0.95", "1.90", "2.85"), start=1):
            self.join(k, "0.95", total)
        self.assertEqual(self.shown()[1]["harm"], "")  # benches run it on three weak cells in a row
        self.join(4, "0.95", "3.80")
        self.assertIn("3.3 V at most", self.shown()[1]["harm"])

    def test_a_correction_says_why_and_the_old_number_stays(self):
        self.join(1, "9.5", "0.95")
        wrong = next(entry for entry in self.shown()[0]["entries"] if entry["kind"] == "alone")
        fix = {"position": 1, "unit": "V", "corrects": wrong["id"]}
        self.assertEqual(self.enter("alone", "0.95", **fix).json()["code"], "no_reason")
        self.assertEqual(self.enter("alone", "0.95", reason="typed it wrong", **fix).status_code, 200)
        self.assertEqual(self.enter("alone", "0.96", reason="again", **fix).json()["code"], "already_corrected")
        entries = [entry for entry in self.shown()[0]["entries"] if entry["kind"] == "alone"]
        self.assertEqual([entry["text"] for entry in entries], ["9.5", "0.95"])
        self.assertEqual(entries[0]["corrected_by"], entries[1]["id"])
        self.assertEqual(self.shown()[0]["findings"], [])

    def test_what_is_corrected_does_not_count_and_its_correction_is_no_newer_than_it(self):
        self.join(1, "0.95", "0.95")
        wrong = next(entry for entry in self.shown()[0]["entries"] if entry["kind"] == "sum")
        self.enter("sum", "0.93", position=1, unit="V")  # the clips pressed on, measured again
        self.enter("sum", "0.59", position=1, unit="V", corrects=wrong["id"], reason="digits swapped")
        self.assertAlmostEqual(self.shown()[0]["open_v"], 0.93)
        pack = Pack.objects.get()
        rows = counting(pack.entries.order_by("received_at"))
        self.assertEqual([row.text for row in rows if row.kind == "sum"], ["0.59", "0.93"])

    def test_across_single_cells_tells_what_is_wrong_and_is_no_number_under_the_load(self):
        self.join(1, "0.95", "0.95")
        self.join(2, "0.94", "1.05")
        for place, text in ((1, "0.01"), (2, "0.93")):
            self.assertEqual(self.enter("across", text, position=place, unit="V").status_code, 200)
        (said,) = self.shown()[0]["findings"]
        self.assertIn("Do the plates of cell 1 touch?", said["title"])
        self.enter("sum", "1.88", position=2, unit="V")
        self.enter("seen", "glows in the dark")
        self.enter("load_v", "1.6")
        self.assertEqual(self.shown()[0]["findings"], [], "measured without a load, it says nothing of clips under one")

    def test_a_number_that_cannot_be_counts_nowhere_and_is_put_right_at_a_press(self):
        self.join(1, "0.95", "0.95")
        self.join(2, "940", "1.89")
        pack = self.shown()[0]
        odd = next(entry for entry in pack["entries"] if entry["text"] == "940")
        self.assertEqual((odd["standing"], odd["repair"]["text"], odd["repair"]["unit"]), ("impossible", "940", "mV"))
        self.assertEqual([(one["code"], one["cell"]) for one in pack["findings"]], [("millivolts", 2)])
        self.assertIsNone(pack["steps"][1]["alone_v"])
        told = {key: odd["repair"][key] for key in ("text", "unit", "reason")}
        fixed = self.enter("alone", position=2, corrects=odd["id"], **told)
        self.assertEqual(fixed.status_code, 200, fixed.content)
        pack = self.shown()[0]
        self.assertEqual((pack["findings"], pack["steps"][1]["alone_v"]), ([], 0.94))

    def test_currents_that_no_juice_gives_and_currents_below_zero_are_asked_about(self):
        self.join(1, "0.95", "0.95")
        self.enter("load_a", "120", unit="mA")
        self.assertEqual([one["code"] for one in self.shown()[0]["findings"]], ["thousandth"])
        self.enter("load_a", "-0.3", unit="mA")
        pack = self.shown()[0]
        entry = pack["entries"][-1]
        self.assertEqual((entry["standing"], entry["repair"]["text"]), ("doubtful", "0.3"))
        self.assertEqual([one["code"] for one in pack["findings"]], ["reversed"])

    def test_a_runs_values_beyond_its_cells_are_left_out_and_counted(self):
        self.join(1, "0.95", "0.95")
        for text in ("0.90", "0.89", "890"):
            self.enter("run_v", text, unit="V")
        run = self.tern.get(f"/api/packs/{self.pack}/run").json()
        self.assertEqual((len(run["volts"]), run["left_out"]), (2, 1))

    def test_a_number_corrected_to_itself_has_been_looked_at_and_counts(self):
        self.join(1, "4.2", "0.95")
        wrong = next(entry for entry in self.shown()[0]["entries"] if entry["kind"] == "alone")
        self.assertEqual(wrong["standing"], "impossible")
        self.enter("alone", "4.2", position=1, unit="V", corrects=wrong["id"], reason="looked again")
        self.assertEqual(self.shown()[0]["steps"][0]["alone_v"], 4.2)

    def test_the_table_of_packs_says_how_each_number_stands(self):
        self.join(1, "940", "0.94")
        table = next(sheet for sheet in all_sheets(self.lab) if sheet.name == "packs")
        rows = [dict(zip(table.headings, row, strict=True)) for row in table.rows]
        self.assertEqual([(row["counts"], row["standing"]) for row in rows if row["what"] != "cell"],
                         [("no", "impossible"), ("yes", "sound")])  # fmt: skip

    def test_a_correction_is_of_the_same_cell(self):
        self.join(1, "0.95", "0.95")
        first = next(entry for entry in self.shown()[0]["entries"] if entry["kind"] == "alone")
        answer = self.enter("alone", "0.9", position=2, unit="V", corrects=first["id"], reason="x")
        self.assertEqual(answer.json()["code"], "not_found")

    def test_sending_twice_keeps_one_and_another_groups_id_is_refused(self):
        body = {"id": str(uuid.uuid4()), "pack_id": self.pack, "kind": "note", "text": "it bubbles"}
        for _ in range(2):
            self.assertEqual(send(self.tern, "/bench/pack-entries", body).status_code, 200)
        self.assertEqual(PackEntry.objects.count(), 1)
        knot = as_group(group_of(self.lab, "Knot"))
        self.assertEqual(send(knot, "/bench/pack-entries", body).json()["code"], "id_taken")
        self.assertEqual(send(knot, "/bench/packs", {"id": self.pack, "load": "led-red"}).json()["code"], "id_taken")

    def test_refusals_keep_nothing_and_say_what_to_do(self):
        for kind, text, changes, code in (
            ("alone", "o.95", {"position": 1}, "unreadable_reading"),
            ("alone", "0.95", {}, "place"),
            ("load_v", "0.95", {"position": 1}, "place"),
            ("load_a", "50", {"unit": "A"}, "unreadable_reading"),
            ("seen", " ", {}, "empty"),
            ("cell", "", {"position": 1, "negative": "cheese"}, "unknown_material"),
            ("alone", "0.95", {"position": 1, "corrects": str(uuid.uuid4()), "reason": "x"}, "not_found"),
            ("note", "x", {"pack_id": str(uuid.uuid4())}, "not_found"),
        ):
            with self.subTest(kind=kind, code=code):
                answer = self.enter(kind, text, **changes)
                self.assertEqual(answer.json()["code"], code, answer.content)
                self.assertTrue(answer.json()["message"])
        self.assertEqual(PackEntry.objects.count(), 0)
        answer = send(self.tern, "/bench/packs", {"id": str(uuid.uuid4()), "load": "lamp oil"})
        self.assertEqual(answer.json()["code"], "unknown_material")
        answer = send(self.tern, "/bench/packs", {"id": str(uuid.uuid4()), "load": "-3"})
        self.assertEqual(answer.json()["code"], "out_of_range")
        self.assertEqual(Pack.objects.count(), 1)

    def test_groups_see_their_own_and_teachers_their_labs(self):
        knot = as_group(group_of(self.lab, "Knot"))
        self.begin(client=knot)
        self.join(1, "0.95", "0.95")
        self.assertEqual(len(self.shown()), 1)
        self.assertEqual(self.enter("note", "x", client=knot).json()["code"], "not_found")
        both = as_teacher(self.ada).get(f"/api/labs/{self.lab.id}/packs").json()["packs"]
        self.assertEqual([pack["group"] for pack in both], ["Tern", "Knot"])
        self.assertEqual(as_teacher(teacher("bea")).get(f"/api/labs/{self.lab.id}/packs").status_code, 404)
        self.assertEqual(self.tern.get(f"/api/labs/{self.lab.id}/packs").status_code, 401)
        self.assertEqual(as_teacher(self.ada).get("/api/bench/packs").status_code, 401)

    def test_after_closing_it_waits_on_the_device(self):
        close_lab(actor=self.ada, lab_id=self.lab.id)
        answer = self.enter("note", "x")
        self.assertEqual((answer.status_code, answer.json()["code"], answer.json()["passing"]), (409, "lab_closed", True))

    def test_the_database_refuses_changes(self):
        self.join(1, "0.95", "0.95")
        for table in (Pack, PackEntry):
            with (
                self.subTest(table.__name__),
                self.assertRaises(IntegrityError),
                transaction.atomic(),
                connection.cursor() as cursor,
            ):
                cursor.execute(f"DELETE FROM {table._meta.db_table}")

    def test_a_run_is_told_from_its_entries_and_their_own_times(self):
        self.join(1, "0.84", "0.84")
        began = datetime(2026, 5, 4, 9, 0, tzinfo=UTC)
        sent, now = {"sent_at": (began + timedelta(seconds=400)).isoformat()}, timezone.now()
        for second, kind, text in (
            *((10 * k, "run_v", "0.84") for k in range(3)),
            (30, "event", "joined"),
            *((35 + 20 * k, "run_v", f"{0.3 + 0.3 * 0.6**k:.2f}") for k in range(8)),
            (200, "event", "taken off"),
            *((205 + 20 * k, "run_v", f"{0.83 - 0.4 * 0.5**k:.2f}") for k in range(7)),
        ):
            at = (began + timedelta(seconds=second)).isoformat()
            with mock.patch("django.utils.timezone.now", return_value=now):  # however long the requests take
                self.assertEqual(self.enter(kind, text, device_at=at, **sent).status_code, 200)
        run = self.tern.get(f"/api/packs/{self.pack}/run").json()
        self.assertEqual([round(point["t_s"]) for point in run["volts"][:4]], [0, 10, 20, 35])
        self.assertEqual([event["what"] for event in run["events"]], ["joined", "taken off"])
        self.assertEqual([stretch["joined"] for stretch in run["stretches"]], [False, True, False])
        self.assertTrue({"under", "back"} <= {note["code"] for note in run["notes"]})
        self.assertTrue(run["model"])
        self.assertEqual(as_teacher(self.ada).get(f"/api/packs/{self.pack}/run").json()["volts"], run["volts"])
        for other in (as_group(group_of(self.lab, "Knot")), as_teacher(teacher("bea"))):
            self.assertEqual(other.get(f"/api/packs/{self.pack}/run").status_code, 404)

    def test_a_pack_without_a_run_has_an_empty_one(self):
        run = self.tern.get(f"/api/packs/{self.pack}/run").json()
        self.assertEqual((run["volts"], run["notes"], run["charge_c"]), ([], [], None))

    def test_a_few_queries_whatever_the_number_of_packs(self):
        for _ in range(3):
            self.pack = self.begin()
            self.join(1, "0.95", "0.95")
        with self.assertNumQueries(7):  # session with group, packs, entries, files, own materials, the lab, its chain
            self.shown()
