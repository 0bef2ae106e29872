"""Questions to a class: asked by a teacher, answered on any device without a name, summed up, gone in time."""

import uuid
from datetime import timedelta
from io import StringIO
from unittest.mock import patch

from django.core.management import call_command
from django.db import connection, transaction
from django.db.utils import IntegrityError
from django.test import Client
from django.utils import timezone

from server.asking import services
from server.asking.models import ClassAnswer, ClassQuestion
from server.people.models import Share
from server.tests.support import KeptReadingsTestCase, after_waiting, as_group, as_teacher, group_of, lab_of, send, teacher

TEXT = "What gives one cell more volts?"
OPTIONS = ("two metals that are further apart in the table", "bigger plates")


class AskingTestCase(KeptReadingsTestCase):
    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada)
        self.desk, self.device = as_teacher(self.ada), Client()

    def ask(self, text=TEXT, options=OPTIONS, fits=0, client=None):
        body = {"text": text, "options": list(options), "fits": fits}
        return send(client or self.desk, f"/labs/{self.lab.id}/asked", body)

    def page(self, client=None):
        return (client or self.desk).get(f"/api/labs/{self.lab.id}/asked")

    def code(self, *args, **kwargs):
        self.assertEqual(self.ask(*args, **kwargs).status_code, 200)
        return self.page().json()["asked"][0]["code"]

    def answer(self, code, choice=0, device=None, **changes):
        body = {"id": str(uuid.uuid4()), "code": code, "device": device or str(uuid.uuid4()), "choice": choice}
        return send(self.device, "/answer", body | changes)


class Asking(AskingTestCase):
    def test_a_teacher_asks_and_the_code_opens_it_on_any_device(self):
        code = self.code()
        self.assertIn(f"/answer?code={code}", self.page().json()["asked"][0]["link"]["address"])
        opened = send(self.device, "/answer/question", {"code": code.lower().replace("-", " ")})
        self.assertEqual(opened.json(), {"code": code, "lab": "A lab", "text": TEXT, "options": list(OPTIONS)})

    def test_the_next_question_ends_the_last_and_an_ended_one_takes_no_answer(self):
        first, second = self.code(), self.code()
        self.assertEqual(self.answer(first).json()["code"], "over")
        self.assertEqual(self.answer(second).status_code, 200)
        own = self.page().json()["asked"][0]["id"]
        for _ in range(2):
            self.assertEqual(send(self.desk, f"/asked/{own}/end").status_code, 200)
        self.assertEqual(self.answer(second).json()["code"], "over")
        self.assertEqual(send(self.device, "/answer/question", {"code": second}).json()["code"], "wrong_code")
        deeds = [deed["what"] for deed in self.desk.get("/api/deeds").json()]
        self.assertEqual(deeds.count("Ended a question to the class"), 1)

    def test_who_may_only_look_sees_sums_and_asks_nothing_and_others_see_nothing(self):
        self.code()
        bea, cid = teacher("bea"), teacher("cid")
        Share.objects.create(lab=self.lab, teacher=bea, work=False)
        page = self.page(as_teacher(bea))
        self.assertEqual((page.status_code, page.json()["may_change"]), (200, False))
        own = page.json()["asked"][0]["id"]
        for client, status in ((as_teacher(bea), 403), (as_teacher(cid), 404)):
            self.assertEqual(self.ask(client=client).status_code, status)
            self.assertEqual(send(client, f"/asked/{own}/end").status_code, status)
        self.assertEqual(self.page(as_teacher(cid)).status_code, 404)
        for client in (self.device, as_group(group_of(self.lab))):
            self.assertEqual(self.page(client).status_code, 401)

    def test_what_cannot_be_asked_is_refused(self):
        for text, options, fits in (("", OPTIONS, 0), (TEXT, ["one"], None), (TEXT, ["a", "a"], None), (TEXT, OPTIONS, 2),
                                    (TEXT, [], 0), (TEXT, [str(n) for n in range(7)], None)):  # fmt: skip
            self.assertEqual(self.ask(text, options, fits).status_code, 422, (text, options, fits))
        with patch.object(services, "MAX_QUESTIONS", 1):
            self.assertEqual([self.ask().status_code, self.ask().status_code], [200, 409])

    def test_a_deleted_labs_question_opens_nothing(self):
        code = self.code()
        send(self.desk, f"/labs/{self.lab.id}/delete", {"title": "A lab"})
        self.assertEqual(send(self.device, "/answer/question", {"code": code}).status_code, 404)
        self.assertEqual(self.answer(code).status_code, 404)

    def test_ready_questions_stand_in_the_labs_language_and_begin_with_its_own_plates(self):
        ready = self.page().json()["ready"]
        self.assertEqual(set(ready[0]["options"]), {"zinc", "copper"})
        self.lab.__class__.objects.filter(id=self.lab.id).update(language="de")
        german = self.page().json()["ready"]
        self.assertEqual(len(german), len(ready))
        self.assertIn("Zink", german[0]["options"])
        self.assertNotEqual(german[1]["text"], ready[1]["text"])


class Answering(AskingTestCase):
    def test_a_devices_latest_answer_counts_and_the_same_id_again_changes_nothing(self):
        code, device, key = self.code(), str(uuid.uuid4()), str(uuid.uuid4())
        self.answer(code, 0, device)
        for _ in range(2):
            self.assertEqual(self.answer(code, 1, device, id=key).status_code, 200)
        self.answer(code, 0)
        found = self.page().json()["asked"][0]
        self.assertEqual((found["devices"], [one["chosen"] for one in found["options"]]), (2, [1, 1]))
        self.assertEqual(self.answer(self.code(), id=key).json()["code"], "id_taken")

    def test_what_is_no_answer_is_refused(self):
        code = self.code()
        for changes in ({"choice": None}, {"choice": 2}, {"choice": None, "text": "words"}):
            self.assertEqual(self.answer(code, **changes).json()["code"], "no_answer", changes)
        words = self.code("What is unclear?", (), None)
        self.assertEqual(self.answer(words, None, text="  ").json()["code"], "no_answer")
        self.assertEqual(self.answer(words, 0, text="where the electrons   go").status_code, 200)
        found = self.page().json()["asked"][0]
        self.assertEqual((found["texts"], found["options"]), (["where the electrons go"], []))

    def test_wrong_codes_are_slowed_down(self):
        said = [send(self.device, "/answer/question", {"code": f"AMBER-{k}"}).status_code for k in range(100, 170)]
        self.assertEqual((said[0], said[-1]), (404, 429))

    def test_one_device_and_all_together_can_send_so_much(self):
        code, device = self.code(), str(uuid.uuid4())
        with patch.object(services, "MAX_OF_DEVICE", 1):
            self.assertEqual([self.answer(code, device=device).status_code for _ in range(2)], [200, 409])
        with patch.object(services, "MAX_ANSWERS", 2):
            self.assertEqual([self.answer(code).status_code for _ in range(2)], [200, 409])

    def test_no_answer_names_anybody(self):
        names = {field.name for field in ClassAnswer._meta.get_fields()}
        self.assertEqual(names, {"id", "question", "device", "choice", "text", "received_at"})

    def test_the_database_keeps_answers_until_their_time_is_over(self):
        self.answer(self.code())
        with self.assertRaises(IntegrityError), transaction.atomic():
            ClassAnswer.objects.update(choice=1)
        for days, left in ((89, 1), (91, 0)):
            ClassQuestion.objects.update(asked_at=timezone.now() - timedelta(days=days))
            call_command("retention", stdout=StringIO())
            self.assertEqual((ClassQuestion.objects.count(), ClassAnswer.objects.count()), (left, left))
        connection.check_constraints()

    def test_words_of_an_answer_are_taken_out_on_request(self):
        self.answer(self.code("What is unclear?", (), None), None, text="Ask Robin Miller")
        found = self.desk.get(f"/api/labs/{self.lab.id}/words", {"words": "Miller"})
        (one,) = found.json()["found"]
        self.assertEqual((one["kind"], one["group"]), ("answer", ""))
        body = {"things": [{"kind": "answer", "id": one["id"]}]}
        self.assertEqual(send(self.desk, f"/labs/{self.lab.id}/words/remove", body).status_code, 200)
        after_waiting()
        call_command("retention", stdout=StringIO())
        self.assertNotIn("Miller", self.page().content.decode())


class Summing(AskingTestCase):
    def test_the_thought_behind_what_was_chosen_or_written_is_named_with_what_speaks_against_it(self):
        code = self.code()
        for choice in (1, 1, 0):
            self.answer(code, choice)
        (thought,) = self.page().json()["asked"][0]["thoughts"]
        self.assertEqual((thought["name"], thought["answers"]), ("Bigger plates, more volts", 2))
        self.assertTrue(thought["against"] and thought["question"].endswith("?"))
        words = self.code("Why other volts?", (), None)
        self.answer(words, None, text="The bigger the plates the more volts you get.")
        self.answer(words, None, text="Our juice was cold.")
        self.assertEqual([one["name"] for one in self.page().json()["asked"][0]["thoughts"]], ["Bigger plates, more volts"])

    def test_the_same_question_again_shows_its_first_sums_beside_it(self):
        first = self.code()
        for choice in (1, 1, 0):
            self.answer(first, choice)
        again = self.code()
        self.answer(again, 0)
        newest, oldest = self.page().json()["asked"]
        self.assertEqual((newest["before"], oldest["before"]), ([1, 2], []))
        self.assertEqual([one["chosen"] for one in newest["options"]], [1, 0])

    def test_the_page_asks_as_often_with_much_as_with_little(self):
        self.answer(self.code())
        with self.assertNumQueries(7):
            self.page()
        code = self.code()
        for _ in range(10):
            self.answer(code)
        with self.assertNumQueries(7):
            self.page()
