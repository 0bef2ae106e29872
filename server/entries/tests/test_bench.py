"""Readings: kept as typed, once, for ever, by the right group only."""

import uuid
from concurrent.futures import ThreadPoolExecutor

from django.db import IntegrityError, connection, connections, transaction
from django.test import TestCase

from server.base.problems import Problem
from server.entries.models import Reading
from server.entries.services import MAX_READINGS_PER_CELL, record_reading
from server.labs.opening import close_lab
from server.people.models import Group
from server.tests.support import (
    KeptReadingsTestCase,
    as_group,
    as_teacher,
    cell_of,
    entry,
    group_of,
    lab_of,
    member_of,
    record,
    send,
    teacher,
    without_times,
)


class Recording(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada)
        self.tern, self.knot = group_of(self.lab, "Tern"), group_of(self.lab, "Knot")
        self.cell = cell_of(self.tern)
        self.client = as_group(self.tern)

    def post(self, client=None, **changes):
        made = {
            "id": str(uuid.uuid4()),
            "cell_id": str(self.cell.id),
            "red": "copper",
            "black": "zinc",
            "text": "0.94",
            "unit": "V",
        }
        return send(client or self.client, "/bench/readings", made | changes)

    def refused(self, status, code, **changes):
        answer = self.post(**changes)
        self.assertEqual((answer.status_code, answer.json()["code"]), (status, code))
        return answer.json()

    def test_a_reading_is_kept_as_typed_with_volts_and_resolution(self):
        kept = self.post(text=" 1.10", device_at="2026-05-04T09:30:00Z").json()
        self.assertEqual((kept["text"], kept["volts_v"], kept["resolution_v"]), ("1.10", 1.10, 0.01))
        self.assertEqual(Reading.objects.get().device_at.isoformat(), "2026-05-04T09:30:00+00:00")

    def test_a_minus_sign_and_where_the_leads_were_are_kept(self):
        kept = self.post(text="\u2212460", unit="mV", red="zinc", black="copper").json()
        self.assertEqual((kept["volts_v"], kept["signed_v"], kept["red"], kept["unit"]), (-0.46, 0.46, "zinc", "mV"))

    def test_a_group_cannot_say_that_a_reading_came_from_where_it_has_none(self):
        for origin in ("simulated", "meter"):
            self.refused(422, "not_yours", origin=origin)
        Group.objects.filter(id=self.tern.id).update(meter_address="127.0.0.1:5025")
        self.assertEqual(
            [self.post(origin=origin).json()["origin"] for origin in ("typed", "imported", "meter")],
            ["typed", "imported", "meter"],
        )

    def test_what_no_meter_shows_is_refused_with_the_reason(self):
        self.assertIn("10 kV", self.refused(422, "unreadable_reading", text="12000")["message"])

    def test_sending_twice_keeps_one(self):
        same = str(uuid.uuid4())
        first, second = self.post(id=same).json(), self.post(id=same, text="5").json()
        self.assertEqual(first, second)
        self.assertEqual(Reading.objects.count(), 1)

    def test_an_id_of_another_groups_reading_is_refused_and_shows_nothing_of_it(self):
        other = record(cell_of(self.knot), "0.91")
        said = self.refused(409, "id_taken", id=str(other.id))
        self.assertNotIn("0.91", str(said))

    def test_what_cannot_be_kept_is_refused_and_nothing_is_kept(self):
        self.refused(422, "unreadable_reading", text="abc")
        self.refused(422, "unreadable_reading", text="9" * 150)
        self.refused(422, "invalid", text="9" * 500)
        self.refused(422, "invalid", unit="kV")
        self.refused(422, "invalid", id="7")
        self.refused(422, "wrong_leads", red="zinc", black="zinc")
        self.refused(422, "wrong_leads", red="copper", black="tin")
        self.refused(404, "not_found", cell_id=str(uuid.uuid4()))
        self.refused(404, "not_found", cell_id=str(cell_of(self.knot).id))
        close_lab(actor=self.ada, lab_id=self.lab.id)
        self.refused(409, "lab_closed")
        self.assertEqual(Reading.objects.count(), 0)

    def test_a_teacher_is_no_group(self):
        self.assertEqual(self.post(as_teacher(self.ada)).status_code, 401)

    def test_a_cell_holds_only_so_many_entries(self):
        Reading.objects.bulk_create(
            Reading(
                cell=self.cell,
                red="copper",
                black="zinc",
                text="1",
                unit="V",
                volts_v=1,
                resolution_v=1,
                received_at="2026-05-04T09:00Z",
            )
            for _ in range(MAX_READINGS_PER_CELL)
        )
        self.refused(409, "enough")

    def test_a_group_sees_its_own_cells_and_readings_only(self):
        record(self.cell, "0.94")
        record(cell_of(self.knot), "0.77")
        shown = self.client.get("/api/bench")
        self.assertEqual([len(c["readings"]) for c in shown.json()["cells"]], [1, 0, 0, 0])
        self.assertNotIn("0.77", without_times(shown))
        self.assertNotIn(self.knot.name, shown.content.decode())
        self.assertNotIn('"pin"', shown.content.decode())

    def test_the_bench_says_how_to_take_care_with_these_materials(self):
        cautions = " ".join(self.client.get("/api/bench").json()["cells"][0]["cautions"])
        for said in ("Eye protection", "not eaten", "water life", "school’s own rules"):
            self.assertIn(said, cautions)

    def test_the_bench_needs_few_queries_however_many_readings(self):
        for _ in range(5):
            record(self.cell)
        # group, own materials, lab, groups, cells, readings, asked, meter check, set aside; what there is beside them
        with self.assertNumQueries(9):
            self.client.get("/api/bench")


class Correcting(TestCase):
    def setUp(self):
        self.lab = lab_of(teacher())
        self.cell = cell_of(group_of(self.lab))
        self.wrong = record(self.cell, "94")

    def refused(self, code, **changes):
        with self.assertRaises(Problem) as caught:
            record(self.cell, "0.94", **changes)
        self.assertEqual(caught.exception.code, code)

    def test_a_correction_is_a_new_entry_that_says_why_and_the_old_one_stays(self):
        right = record(self.cell, "0.94", corrects=self.wrong.id, reason=" wrong unit ")
        self.assertEqual([r.text for r in Reading.objects.all()], ["94", "0.94"])
        self.assertEqual([r.id for r in Reading.objects.current()], [right.id])
        shown = as_group(self.cell.group).get("/api/bench").json()["cells"][0]["readings"]
        self.assertEqual(shown[0]["corrected_by"], str(right.id))
        self.assertEqual((shown[1]["corrects"], shown[1]["reason"]), (str(self.wrong.id), "wrong unit"))

    def test_a_correction_without_a_reason_or_of_the_wrong_thing_is_refused(self):
        self.refused("no_reason", corrects=self.wrong.id)
        self.refused("not_found", corrects=uuid.uuid4(), reason="why")
        other = record(cell_of(group_of(self.lab, "Knot")), "1")
        self.refused("not_found", corrects=other.id, reason="why")

    def test_a_number_typed_at_the_wrong_cell_is_corrected_at_its_own(self):
        group = self.cell.group
        own = cell_of(group, 2)
        moved = record(own, "0.53", corrects=self.wrong.id, reason="belongs to another cell")
        cells = {cell["id"]: cell for cell in as_group(group).get("/api/bench").json()["cells"]}
        (old,) = cells[str(self.cell.id)]["readings"]
        self.assertEqual((old["corrected_by"], old["standing"]), (str(moved.id), "set aside"))
        self.assertEqual([one["text"] for one in cells[str(own.id)]["readings"]], ["0.53"])
        self.assertEqual([r.id for r in Reading.objects.current()], [moved.id])

    def test_an_entry_is_corrected_once_and_a_correction_can_be_corrected(self):
        right = record(self.cell, "9.4", corrects=self.wrong.id, reason="unit")
        self.refused("already_corrected", corrects=self.wrong.id, reason="unit")
        record(self.cell, "0.94", corrects=right.id, reason="comma")
        self.assertEqual([r.text for r in Reading.objects.current()], ["0.94"])

    def test_repeating_an_entry_that_was_corrected_since_says_so(self):
        right = record(self.cell, "0.94", corrects=self.wrong.id, reason="unit")
        again = send(
            as_group(self.cell.group),
            "/bench/readings",
            {
                "id": str(self.wrong.id),
                "cell_id": str(self.cell.id),
                "red": "copper",
                "black": "zinc",
                "text": "94",
                "unit": "V",
            },
        )
        self.assertEqual(again.json()["corrected_by"], str(right.id))


class AppendOnly(TestCase):
    """The database refuses, whatever the application does."""

    def setUp(self):
        self.reading = record(cell_of(group_of(lab_of(teacher()))))

    def refused(self, change):
        with self.assertRaisesRegex(IntegrityError, "never changed or removed"), transaction.atomic():
            change()

    def test_a_reading_cannot_be_changed_or_removed(self):
        self.refused(lambda: Reading.objects.update(text="9"))
        self.refused(lambda: Reading.objects.all().delete())
        self.assertEqual(Reading.objects.get().text, "0.94")

    def test_a_reading_holds_its_lab_and_cell_in_place(self):
        with self.assertRaises(IntegrityError), transaction.atomic():
            self.reading.cell.delete()

    def test_a_correction_without_a_reason_is_refused_by_the_database_too(self):
        with self.assertRaisesRegex(IntegrityError, "correction_says_why"), transaction.atomic():
            Reading.objects.create(
                cell=self.reading.cell, red="copper", black="zinc", text="1", unit="V", volts_v=1, resolution_v=1,
                corrects=self.reading, received_at="2026-05-04T09:00Z",
            )  # fmt: skip


class Board(TestCase):
    def test_the_teacher_sees_all_groups_and_the_latest_first(self):
        ada = teacher()
        lab = lab_of(ada)
        record(cell_of(group_of(lab, "Tern")), "0.94")
        record(cell_of(group_of(lab, "Knot")), "-0.9")
        shown = as_teacher(ada).get(f"/api/labs/{lab.id}/board").json()
        self.assertEqual([g["name"] for g in shown["groups"]], ["Tern", "Knot"])
        self.assertEqual(
            [(j["group"], j["reading"]["text"], j["nth"]) for j in shown["just_in"]],
            [("Knot", "-0.9", 1), ("Tern", "0.94", 1)],
        )
        self.assertEqual(shown["join_code"], lab.join_code)


class AtOnce(KeptReadingsTestCase):
    def test_the_whole_table_cannot_be_emptied(self):
        record(cell_of(group_of(lab_of(teacher()))))
        with self.assertRaisesRegex(IntegrityError, "TRUNCATE"), connection.cursor() as cursor:
            cursor.execute("TRUNCATE bench_reading CASCADE")
        self.assertEqual(Reading.objects.count(), 1)

    def test_the_same_entry_from_many_threads_at_once_is_kept_once(self):
        cell = cell_of(group_of(lab_of(teacher())))
        same = entry(cell)

        def go(_):
            try:
                return record_reading(actor=member_of(cell.group), entry=same).reading.id
            finally:
                connections.close_all()

        with ThreadPoolExecutor(8) as threads:
            kept = set(threads.map(go, range(8)))
        self.assertEqual(kept, {same.id})
        self.assertEqual(Reading.objects.count(), 1)

    def test_two_corrections_of_one_entry_at_once_leave_one(self):
        cell = cell_of(group_of(lab_of(teacher())))
        wrong = record(cell, "94")

        def go(_):
            try:
                record(cell, "0.94", corrects=wrong.id, reason="unit")
                return "kept"
            except Problem as problem:
                return problem.code
            finally:
                connections.close_all()

        with ThreadPoolExecutor(4) as threads:
            outcomes = sorted(threads.map(go, range(4)))
        self.assertEqual(outcomes, ["already_corrected"] * 3 + ["kept"])
