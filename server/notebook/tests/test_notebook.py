"""Notebooks: written, kept with all versions, handed in, marked and given back; and who may see which."""

import uuid

from django.db import IntegrityError, connection, transaction
from django.test import TestCase
from django.test.utils import CaptureQueriesContext

from server.findings.release import release
from server.notebook.models import Words
from server.tests.support import as_group, as_teacher, cell_of, group_of, lab_of, record, send, teacher


def words(client, part="conclusion", text="It is lower.", **more):
    return send(client, "/bench/words", {"id": str(uuid.uuid4()), "part": part, "text": text, **more})


class TheClasss(TestCase):
    """What the class's notebook lacks, said by cell: with its liquid only where there are two."""

    def lacks(self, *liquids):
        ada = teacher(f"ada-{len(liquids)}")
        lab = lab_of(ada, electrodes=["zinc", "copper"], electrolytes=liquids, groups=["Tern"])
        for cell in lab.groups.get().cells.all():
            record(cell)
        return " ".join(as_teacher(ada).get(f"/api/labs/{lab.id}/notebook").json()["missing"])

    def test_cells_are_named_without_their_liquid_where_there_is_one(self):
        self.assertIn("Zn | Cu was read once only.", self.lacks("rhubarb-juice"))

    def test_cells_are_named_with_it_where_there_are_two(self):
        said = self.lacks("rhubarb-juice", "lemon-juice")
        self.assertIn("Zn | rhubarb juice | Cu, Zn | lemon juice | Cu were measured by one group only.", said)
        self.assertNotIn("Zn | Cu", said)


class Writing(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada)
        self.tern = group_of(self.lab)
        release(actor=self.ada, lab_id=self.lab.id, parts=("notebook",))
        self.device = as_group(self.tern)

    def part(self, key="conclusion", client=None):
        parts = (client or self.device).get("/api/bench/notebook").json()["parts"]
        return next(part for part in parts if part["key"] == key)

    def test_the_newest_version_counts_and_all_stay(self):
        words(self.device, text="It is lower.")
        words(self.device, text="It is lower, by 0.2 V.")
        self.assertEqual(self.part()["text"], "It is lower, by 0.2 V.")
        versions = self.device.get("/api/bench/words/conclusion").json()["versions"]
        self.assertEqual([one["text"] for one in versions], ["It is lower, by 0.2 V.", "It is lower."])

    def test_the_same_entry_twice_is_kept_once(self):
        body = {"id": str(uuid.uuid4()), "part": "question", "text": "Why?"}
        for _ in range(2):
            self.assertEqual(send(self.device, "/bench/words", body).status_code, 200)
        self.assertEqual(Words.objects.count(), 1)

    def test_another_groups_id_is_not_answered_with_its_words(self):
        body = {"id": str(uuid.uuid4()), "part": "question", "text": "Why?"}
        send(self.device, "/bench/words", body)
        other = send(as_group(group_of(self.lab, "Knot")), "/bench/words", body)
        self.assertEqual(other.status_code, 409)

    def test_two_devices_that_write_at_once_are_told_and_nothing_is_lost(self):
        first = str(uuid.uuid4())
        send(self.device, "/bench/words", {"id": first, "part": "conclusion", "text": "A start."})
        words(self.device, text="A start, and more.", follows=first)
        words(as_group(self.tern), text="Another end.", follows=first)
        self.assertTrue(self.part()["parallel"])
        self.assertEqual(self.part()["versions"], 3)

    def test_a_version_of_another_group_is_none_that_it_was_written_over(self):
        others = str(uuid.uuid4())
        send(as_group(group_of(self.lab, "Knot")), "/bench/words", {"id": others, "part": "conclusion", "text": "Ours."})
        self.assertEqual(words(self.device, text="Mine.", follows=others).status_code, 200)
        self.assertIsNone(Words.objects.get(group=self.tern).follows)

    def test_one_device_that_writes_on_is_told_nothing(self):
        first, second = str(uuid.uuid4()), str(uuid.uuid4())
        send(self.device, "/bench/words", {"id": first, "part": "conclusion", "text": "A start."})
        send(self.device, "/bench/words", {"id": second, "part": "conclusion", "text": "More.", "follows": first})
        self.assertFalse(self.part()["parallel"])

    def test_before_it_is_opened_words_wait_on_the_device(self):
        release(actor=self.ada, lab_id=self.lab.id, parts=())
        refused = words(self.device)
        self.assertEqual(refused.status_code, 403)
        self.assertTrue(refused.json()["passing"])
        self.assertEqual(Words.objects.count(), 0)

    def test_a_closed_lab_is_still_written_about(self):
        send(as_teacher(self.ada), f"/labs/{self.lab.id}/close")
        self.assertEqual(words(self.device).status_code, 200)

    def test_only_ones_own_readings_are_cited(self):
        own, theirs = record(cell_of(self.tern)), record(cell_of(group_of(self.lab, "Knot")))
        good = words(self.device, cites=[{"kind": "reading", "id": str(own.id)}])
        bad = words(self.device, cites=[{"kind": "reading", "id": str(theirs.id)}])
        self.assertEqual((good.status_code, bad.status_code), (200, 409))
        self.assertTrue(bad.json()["passing"])
        self.assertEqual(self.part()["cites"], [{"kind": "reading", "id": str(own.id)}])

    def test_a_text_longer_than_a_part_holds_is_refused(self):
        self.assertEqual(words(self.device, text="x" * 6001).status_code, 422)

    def test_the_database_refuses_to_change_what_was_written(self):
        words(self.device)
        for change in (lambda: Words.objects.update(text="No."), lambda: Words.objects.all().delete()):
            with self.assertRaises(IntegrityError), transaction.atomic():
                change()

    def test_an_empty_notebook_is_not_handed_in(self):
        refused = send(self.device, "/bench/hand-in", {"id": str(uuid.uuid4())})
        self.assertEqual((refused.status_code, refused.json()["code"]), (409, "empty"))


class Reading(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada)
        self.tern, self.knot = group_of(self.lab), group_of(self.lab, "Knot")
        release(actor=self.ada, lab_id=self.lab.id, parts=("notebook",))
        self.device, self.desk = as_group(self.tern), as_teacher(self.ada)

    def test_it_holds_every_reading_as_typed_and_the_working_of_those_that_count(self):
        cell = cell_of(self.tern)
        wrong = record(cell, "9.4")
        record(cell, "0.94", corrects=wrong.id, reason="the point slipped")
        record(cell, "0.96")
        book = self.device.get("/api/bench/notebook").json()
        first = book["cells"][0]
        self.assertEqual([one["text"] for one in first["readings"]], ["9.4", "0.94", "0.96"])
        self.assertAlmostEqual(first["own"]["mean_v"], 0.95)
        self.assertEqual(first["own"]["working"][0]["sum"], "(0.94 + 0.96) V ÷ 2")

    def test_the_classs_values_stay_covered_until_they_are_shown(self):
        record(cell_of(self.tern), "0.94")
        record(cell_of(self.knot), "0.8713")
        covered = self.device.get("/api/bench/notebook")
        self.assertNotIn("0.8713", covered.content.decode())
        self.assertTrue(all(cell["classes"] is None for cell in covered.json()["cells"]))
        release(actor=self.ada, lab_id=self.lab.id, parts=("notebook", "compare"))
        shown = self.device.get("/api/bench/notebook").json()["cells"][0]
        self.assertEqual(shown["classes"]["groups"], 2)

    def test_what_is_missing_is_said_and_nothing_is_written_for_the_group(self):
        book = self.device.get("/api/bench/notebook").json()
        self.assertIn("No conclusion yet.", book["missing"])
        self.assertTrue(all(part["text"] == "" for part in book["parts"]))

    def test_the_teacher_reads_marks_and_gives_back_and_the_group_sees_it(self):
        words(self.device)
        send(self.device, "/bench/hand-in", {"id": str(uuid.uuid4())})
        line = self.desk.get(f"/api/labs/{self.lab.id}/notebooks").json()["notebooks"][0]
        self.assertEqual((line["state"], line["parts"]), ("handed_in", 1))
        back = {"text": "Sound.", "remarks": {"conclusion": "How sure?"}, "marks": {"Claim": 2}}
        self.assertEqual(send(self.desk, f"/groups/{self.tern.id}/notebook", back).status_code, 200)
        book = self.device.get("/api/bench/notebook").json()
        self.assertEqual((book["returned"]["text"], book["returned"]["marks"]), ("Sound.", {"Claim": 2}))
        self.assertEqual(next(p["remark"] for p in book["parts"] if p["key"] == "conclusion"), "How sure?")
        self.assertFalse(book["written_since"])
        words(self.device, text="Quite sure.")
        self.assertTrue(self.device.get("/api/bench/notebook").json()["written_since"])

    def test_more_points_than_the_rubric_gives_are_refused(self):
        refused = send(self.desk, f"/groups/{self.tern.id}/notebook", {"marks": {"Claim": 3}})
        self.assertEqual((refused.status_code, refused.json()["code"]), (422, "marks"))

    def test_the_classs_notebook_works_every_value_out_and_says_who_is_missing(self):
        for group in (self.tern, self.knot):
            record(cell_of(group), "0.94")
        book = self.desk.get(f"/api/labs/{self.lab.id}/notebook").json()
        self.assertEqual(book["cells"][0]["classes"]["working"][0]["name"], "mean of the groups")
        self.assertIn("Tern, Knot have not handed in.", book["missing"])
        self.assertTrue(any("have no reading" in lack for lack in book["missing"]))

    def test_strangers_and_other_groups_find_nothing(self):
        words(self.device)
        eve = as_teacher(teacher("eve"))
        for path in (
            f"/api/labs/{self.lab.id}/notebook",
            f"/api/labs/{self.lab.id}/notebooks",
            f"/api/groups/{self.tern.id}/notebook",
            f"/api/groups/{self.tern.id}/words/conclusion",
        ):
            self.assertEqual(eve.get(path).status_code, 404, path)
        self.assertEqual(send(eve, f"/groups/{self.tern.id}/notebook", {"text": "Mine."}).status_code, 404)
        other = as_group(self.knot).get("/api/bench/notebook").json()
        self.assertTrue(all(part["text"] == "" for part in other["parts"]))

    def test_a_notebook_takes_the_same_queries_however_much_is_in_it(self):
        def queries():
            with CaptureQueriesContext(
                connection,
            ) as caught:
                self.desk.get(f"/api/groups/{self.tern.id}/notebook")
            return len(caught)

        record(cell_of(self.tern), "0.94")
        words(self.device)
        before = queries()
        for position in (1, 2):
            record(cell_of(self.tern, position), "0.91")
        words(self.device, part="next", text="More.")
        self.assertLessEqual(queries(), before)
