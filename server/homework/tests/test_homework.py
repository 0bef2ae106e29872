"""Homework: set by a teacher, opened by a code, tried without a name, and what its teacher sees of it."""

import uuid
from datetime import timedelta
from io import StringIO
from unittest.mock import patch

from django.core.management import call_command
from django.db import connection, transaction
from django.db.utils import IntegrityError
from django.test import Client
from django.utils import timezone

from galvanic.simulated.drill import GROUPS, case
from server.homework import services
from server.homework.models import Homework, Tried
from server.people.models import Share
from server.tests.support import KeptReadingsTestCase, as_group, as_teacher, group_of, lab_of, send, teacher


class HomeworkTestCase(KeptReadingsTestCase):
    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada)
        self.desk, self.device = as_teacher(self.ada), Client()

    def set(self, symptoms=("zero", "low"), benches=3, client=None):
        body = {"symptoms": list(symptoms), "benches": benches}
        return send(client or self.desk, f"/labs/{self.lab.id}/homework", body)

    def page(self, client=None):
        return (client or self.desk).get(f"/api/labs/{self.lab.id}/homework")

    def code(self):
        self.assertEqual(self.set().status_code, 200)
        return self.page().json()["homework"][0]["code"]

    def tries(self, code, **changes):
        body = {"id": str(uuid.uuid4()), "code": code, "device": str(uuid.uuid4()), "symptom": "zero", "fault": "bridged"}
        return send(self.device, "/practise/tried", body | {"named": "loose", "hands": ["read"]} | changes)


class Setting(HomeworkTestCase):
    def test_a_teacher_sets_it_and_the_code_opens_it_on_any_device(self):
        code = self.code()
        self.assertIn(f"/practise?code={code}", self.page().json()["homework"][0]["link"]["address"])
        opened = send(self.device, "/practise/homework", {"code": code.lower().replace("-", " ")})
        self.assertEqual(opened.status_code, 200, opened.content)
        self.assertEqual(opened.json(), {"code": code, "lab": "A lab", "symptoms": ["zero", "low"], "benches": 3})

    def test_what_is_set_anew_ends_what_was_set_before(self):
        first, second = self.code(), self.code()
        self.assertEqual(send(self.device, "/practise/homework", {"code": first}).status_code, 404)
        self.assertEqual(send(self.device, "/practise/homework", {"code": second}).status_code, 200)
        self.assertEqual(self.tries(first).status_code, 200)  # by a device that has opened it before
        self.assertEqual([one["tries"] for one in self.page().json()["homework"]], [0, 1])

    def test_an_ended_one_opens_no_more_and_ending_twice_is_once(self):
        code = self.code()
        own = self.page().json()["homework"][0]["id"]
        for _ in range(2):
            self.assertEqual(send(self.desk, f"/homework/{own}/end").status_code, 200)
        self.assertEqual(send(self.device, "/practise/homework", {"code": code}).json()["code"], "wrong_code")
        deeds = [deed["what"] for deed in self.desk.get("/api/deeds").json()]
        self.assertEqual(deeds.count("Ended homework"), 1)

    def test_who_may_only_look_sees_it_and_sets_none_and_others_see_nothing(self):
        self.code()
        bea, cid = teacher("bea"), teacher("cid")
        Share.objects.create(lab=self.lab, teacher=bea, work=False)
        page = self.page(as_teacher(bea))
        self.assertEqual((page.status_code, page.json()["may_change"]), (200, False))
        own = page.json()["homework"][0]["id"]
        for client, status in ((as_teacher(bea), 403), (as_teacher(cid), 404)):
            self.assertEqual(self.set(client=client).status_code, status)
            self.assertEqual(send(client, f"/homework/{own}/end").status_code, status)
        self.assertEqual(self.page(as_teacher(cid)).status_code, 404)
        for client in (self.device, as_group(group_of(self.lab))):
            self.assertEqual(self.page(client).status_code, 401)

    def test_nothing_strange_is_set(self):
        for symptoms, benches in ((["nothing"], 3), ([], 3), (["zero"], 2), (["zero"], 21), (["Zero; --"], 3)):
            self.assertEqual(self.set(symptoms, benches).status_code, 422, symptoms)
        with patch.object(services, "MAX_HOMEWORK", 1):
            self.assertEqual([self.set().status_code, self.set().status_code], [200, 409])

    def test_a_deleted_labs_homework_opens_nothing(self):
        code = self.code()
        send(self.desk, f"/labs/{self.lab.id}/delete", {"title": "A lab"})
        self.assertEqual(send(self.device, "/practise/homework", {"code": code}).status_code, 404)
        self.assertEqual(self.tries(code).status_code, 404)


class Trying(HomeworkTestCase):
    def test_the_same_id_again_changes_nothing(self):
        code, key = self.code(), str(uuid.uuid4())
        self.assertEqual([self.tries(code, id=key).status_code for _ in range(2)], [200, 200])
        self.assertEqual(Tried.objects.count(), 1)
        self.assertEqual(self.tries(self.code(), id=key).json()["code"], "id_taken")

    def test_what_the_drill_does_not_know_or_was_not_set_is_not_kept(self):
        code = self.code()
        for changes in (
            {"symptom": "high", "fault": "digit"}, {"fault": "turned"}, {"named": "turned"}, {"hands": ["shout"]},
            {"named": "Ada Lovelace"}, {"device": "phone"}, {"hands": ["read"] * 21},
        ):  # fmt: skip
            self.assertEqual(self.tries(code, **changes).status_code, 422, changes)
        self.assertFalse(Tried.objects.exists())

    def test_wrong_codes_are_slowed_down(self):
        said = [send(self.device, "/practise/homework", {"code": f"AMBER-{k}"}).status_code for k in range(100, 170)]
        self.assertEqual((said[0], said[-1]), (404, 429))

    def test_one_device_and_all_together_can_send_so_much(self):
        code, device = self.code(), str(uuid.uuid4())
        with patch.object(services, "MAX_OF_DEVICE", 1):
            self.assertEqual([self.tries(code, device=device).status_code for _ in range(2)], [200, 409])
        with patch.object(services, "MAX_TRIES", 2):
            self.assertEqual([self.tries(code).status_code for _ in range(2)], [200, 409])

    def test_no_try_names_anybody(self):
        names = {field.name for field in Tried._meta.get_fields()}
        self.assertEqual(names, {"id", "homework", "device", "symptom", "fault", "named", "hands", "received_at"})

    def test_the_database_keeps_tries_until_their_time_is_over(self):
        self.tries(self.code())
        with self.assertRaises(IntegrityError), transaction.atomic():
            Tried.objects.update(named="bridged")
        for days, left in ((89, 1), (91, 0)):
            Homework.objects.update(set_at=timezone.now() - timedelta(days=days))
            call_command("retention", stdout=StringIO())
            self.assertEqual((Homework.objects.count(), Tried.objects.count()), (left, left))
        connection.check_constraints()


class Seeing(HomeworkTestCase):
    def test_a_fault_that_the_class_does_not_find_comes_first_with_the_hand_that_tells(self):
        code = self.code()
        for k in range(8):
            device = str(uuid.uuid4())
            self.tries(code, device=device, named="bridged" if k == 0 else "loose")
            self.tries(code, device=device, fault="open_clip", named="open_clip")
            self.tries(code, device=device, symptom="low", fault="far", named="drifting" if k else "far")
        found = self.page().json()["homework"][0]
        self.assertEqual((found["devices"], found["through"], found["tries"]), (8, 8, 24))
        rows = {row["fault"]: row for row in found["faults"]}
        self.assertEqual([row["verdict"] for row in found["faults"]], ["not_yet", "not_yet", "found"])
        (taken,) = rows["bridged"]["taken_for"]
        self.assertEqual((rows["bridged"]["found"], taken["devices"]), (1, 7))
        drill = case("zero")
        telling = {drill.hands[hand] for hand in drill.hands if not drill.cannot_tell(hand, "bridged", "loose")}
        self.assertEqual(set(taken["tells"]), telling)
        self.assertEqual((rows["far"]["found"], len(rows["far"]["taken_for"])), (1, 1))
        self.assertAlmostEqual(rows["open_clip"]["guess"], 1 / len(GROUPS["zero"]))

    def test_the_page_asks_as_often_with_much_as_with_little(self):
        code = self.code()
        self.tries(code)
        with self.assertNumQueries(5):
            self.page()
        for _ in range(10):
            self.tries(code)
        with self.assertNumQueries(5):
            self.page()
