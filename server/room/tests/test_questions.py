"""What groups ask about their cells, and what their teacher makes of it."""

import uuid

from django.test import TestCase

from server.labs.models import PlannedCell
from server.tests.support import as_group, as_teacher, cell_of, group_of, lab_of, record, send, teacher


class Questions(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada)
        self.tern = group_of(self.lab)
        self.cell = cell_of(self.tern)
        self.device, self.desk = as_group(self.tern), as_teacher(self.ada)

    def ask(self, text="Why does it bubble?", **more):
        body = {"id": str(uuid.uuid4()), "cell_id": str(self.cell.id), "text": text, **more}
        answer = send(self.device, "/bench/questions", body)
        self.assertEqual(answer.status_code, 200, answer.content)
        return answer.json()["id"]

    def answer(self, question, client=None, **body):
        return send(client or self.desk, f"/questions/{question}/answer", body)

    def waiting(self):
        return self.desk.get(f"/api/labs/{self.lab.id}/board").json()["questions"]

    def at_bench(self):
        cells = self.device.get("/api/bench").json()["cells"]
        return next(cell for cell in cells if cell["id"] == str(self.cell.id))["beside"]["questions"]

    def test_a_question_waits_on_the_board_until_it_is_answered_and_the_group_reads_the_answer(self):
        question = self.ask()
        (row,) = self.waiting()
        self.assertEqual((row["group"], row["text"], row["short"]), ("Tern", "Why does it bubble?", self.cell.cell.short))
        self.assertEqual(self.answer(question, kind="answered", text="Which plate bubbles?").status_code, 200)
        self.assertEqual(self.waiting(), [])
        self.assertEqual(self.at_bench()[0]["answer"]["text"], "Which plate bubbles?")

    def test_a_parked_question_waits_no_longer_and_says_so(self):
        question = self.ask()
        self.answer(question, kind="parked")
        self.assertEqual((self.waiting(), self.at_bench()[0]["answer"]["kind"]), ([], "parked"))

    def test_a_question_that_a_lab_is_planned_about_waits_no_longer_and_says_what_it_was_asked_at(self):
        question = self.ask()
        (row,) = self.waiting()
        cell = self.cell.cell
        self.assertEqual(
            [row["made_of"][name] for name in ("negative", "electrolyte", "positive")],
            [cell.negative, cell.electrolyte, cell.positive],
        )
        self.assertEqual(self.answer(question, kind="planned").status_code, 200)
        self.assertEqual((self.waiting(), self.at_bench()[0]["answer"]["kind"]), ([], "planned"))

    def test_an_answer_without_words_is_refused(self):
        question = self.ask()
        self.assertEqual(self.answer(question, kind="answered", text=" ").status_code, 422)
        self.assertEqual(len(self.waiting()), 1)

    def test_the_question_becomes_the_next_cell_before_the_shared_one_that_closes_the_list(self):
        before = list(PlannedCell.objects.filter(group=self.tern).order_by("position"))
        self.assertTrue(before[-1].shared)
        question = self.ask()
        other = {"negative": "zinc", "electrolyte": "vinegar", "positive": "copper"}
        self.assertEqual(self.answer(question, kind="cell", text="Try it in vinegar.", cell=other).status_code, 200)
        after = list(PlannedCell.objects.filter(group=self.tern).order_by("position"))
        self.assertEqual([one.id for one in after if one.id in {b.id for b in before}], [b.id for b in before])
        self.assertEqual((after[-2].electrolyte, after[-1].shared), ("vinegar", True))
        record(after[-2], "0.9")
        self.assertEqual(self.desk.get(f"/api/labs/{self.lab.id}/compare").status_code, 200)

    def test_without_another_cell_it_is_the_same_again(self):
        self.answer(self.ask(), kind="cell")
        again = PlannedCell.objects.filter(group=self.tern, electrolyte=self.cell.electrolyte)
        self.assertIn(self.cell.cell, [one.cell for one in again.exclude(id=self.cell.id)])

    def test_a_closed_lab_gets_no_cell_but_an_answer(self):
        question = self.ask()
        send(self.desk, f"/labs/{self.lab.id}/close")
        self.assertEqual(self.answer(question, kind="cell").status_code, 409)
        self.assertEqual(self.answer(question, kind="answered", text="Next time.").status_code, 200)

    def test_the_same_question_sent_twice_is_one(self):
        key = str(uuid.uuid4())
        for _ in range(2):
            self.ask(id=key)
        self.assertEqual(len(self.waiting()), 1)

    def test_strangers_answer_nothing(self):
        question = self.ask()
        self.assertEqual(self.answer(question, as_teacher(teacher("eve")), kind="parked").status_code, 404)
        self.assertEqual(self.answer(question, as_group(self.tern), kind="parked").status_code, 401)
