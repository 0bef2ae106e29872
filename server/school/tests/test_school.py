"""A school's accounts: the first, invitations, new passwords, heads, mail, the second step, the cupboard."""

import re
from datetime import timedelta
from io import StringIO
from threading import enumerate as enumerate_threads

from django.core import mail
from django.core.management import call_command
from django.test import Client, TestCase, override_settings
from django.utils import timezone
from django_otp.oath import TOTP, totp
from django_otp.plugins.otp_static.models import StaticToken
from django_otp.plugins.otp_totp.models import TOTPDevice

from server.materials.models import OwnMaterial
from server.people.models import Deed, Teacher
from server.records.retention import purge
from server.school.models import Link
from server.tests.support import KeptReadingsTestCase, as_teacher, send, teacher

LONG = "three unlike words"


def code() -> str:
    out = StringIO()
    call_command("first_code", stdout=out)
    return out.getvalue().strip()


def problem(answer) -> tuple[int, str]:
    return answer.status_code, answer.json()["code"]


def lab_of_key(client, key: str) -> str:
    """A lab of a plate and copper."""
    plan = {"title": "A sheet", "date": "2026-05-04", "minutes": 45, "electrolytes": ["rhubarb-juice"], "groups": ["Tern"]}
    return send(client, "/labs", plan | {"electrodes": [key, "copper"]}).json()["id"]


class First(TestCase):
    def test_the_code_of_the_terminal_makes_the_first_teacher_once_and_signs_them_in(self):
        client, typed = Client(), code()
        self.assertTrue(client.get("/api/who").json()["first"])
        self.assertNotIn(typed, str(list(Link.objects.values())))
        body = {"code": typed.upper(), "username": "ada", "password": LONG}
        self.assertEqual(problem(send(client, "/first", body | {"code": "0000"})), (404, "wrong_code"))
        self.assertEqual(problem(send(client, "/first", body | {"password": "short"})), (422, "weak_password"))
        self.assertEqual(send(client, "/first", body).json()["teacher"], "ada")
        self.assertTrue(Teacher.objects.get().is_head)
        self.assertEqual(client.get("/api/labs/list").status_code, 200)
        self.assertEqual(problem(send(Client(), "/first", body | {"username": "bob"})), (409, "not_first"))
        self.assertEqual(code(), "")
        self.assertFalse(Client().get("/api/who").json()["first"])

    def test_a_new_start_ends_the_code_before_and_a_day_ends_each(self):
        old, new = code(), code()
        body = {"username": "ada", "password": LONG}
        self.assertEqual(send(Client(), "/first", body | {"code": old}).status_code, 404)
        Link.objects.update(ends_at=timezone.now() - timedelta(seconds=1))
        self.assertEqual(send(Client(), "/first", body | {"code": new}).status_code, 404)


class Colleagues(TestCase):
    def setUp(self):
        self.ada, self.bob = teacher("ada"), teacher("bob")
        Teacher.objects.filter(id=self.ada.id).update(is_head=True)
        self.head, self.other = as_teacher(self.ada), as_teacher(self.bob)

    def invited(self) -> str:
        return send(self.head, "/school/invitations", {"name": "the new one"}).json()["address"].partition("#")[2]

    def test_an_invitation_makes_one_account_within_seven_days(self):
        secret, client = self.invited(), Client()
        look = send(client, "/link/look", {"secret": secret}).json()
        self.assertEqual((look["kind"], look["name"], look["made_by"]), ("invite", "the new one", "ada"))
        taken = send(client, "/link/use", {"secret": secret, "username": "Bob", "password": LONG})
        self.assertEqual(problem(taken), (409, "name_taken"))
        self.assertEqual(send(client, "/link/use", {"secret": secret, "username": "cy", "password": LONG}).status_code, 200)
        self.assertEqual(client.get("/api/who").json()["teacher"], "cy")
        self.assertFalse(Teacher.objects.get(username="cy").is_head)
        again = send(Client(), "/link/use", {"secret": secret, "username": "dee", "password": LONG})
        self.assertEqual(problem(again), (404, "link_over"))
        late = self.invited()
        Link.objects.update(ends_at=timezone.now() - timedelta(seconds=1))
        self.assertEqual(send(client, "/link/look", {"secret": late}).status_code, 404)

    def test_a_link_is_withdrawn_and_only_its_hash_is_kept(self):
        secret = self.invited()
        self.assertFalse(Link.objects.filter(token_hash=secret).exists())
        [link] = self.head.get("/api/school").json()["links"]
        self.assertEqual(send(self.other, f"/school/links/{link['id']}/end").status_code, 403)
        self.assertEqual(send(self.head, f"/school/links/{link['id']}/end").status_code, 200)
        self.assertEqual(send(Client(), "/link/look", {"secret": secret}).status_code, 404)

    def test_a_link_for_a_new_password_signs_the_colleague_out_everywhere_else(self):
        secret = send(self.head, f"/school/teachers/{self.bob.id}/reset").json()["address"].partition("#")[2]
        elsewhere = Client()
        send(elsewhere, "/sign-in", {"username": "bob", "password": "bobbob-long-enough"})
        client = Client()
        self.assertEqual(send(client, "/link/use", {"secret": secret, "password": LONG}).json()["teacher"], "bob")
        self.assertEqual(elsewhere.get("/api/labs/list").status_code, 401)
        self.assertEqual(send(Client(), "/sign-in", {"username": "bob", "password": LONG}).status_code, 200)
        self.assertEqual(send(Client(), "/link/use", {"secret": secret, "password": LONG}).status_code, 404)

    def test_all_that_a_head_does_is_refused_to_others(self):
        ada = self.ada.id
        for verb, path, body in (
            ("post", "/school/invitations", {"name": ""}),
            ("post", f"/school/teachers/{ada}/reset", None),
            ("put", f"/school/teachers/{ada}/head", {"head": False}),
            ("put", f"/school/teachers/{ada}/active", {"active": False}),
            ("put", "/school/cupboard", {"teacher": self.bob.id}),
        ):
            with self.subTest(path):
                self.assertEqual(problem(send(self.other, path, body, verb=verb)), (403, "only_head"))
        self.assertEqual(self.other.get("/api/school/deeds").json(), [])
        seen = self.other.get("/api/school").json()
        self.assertEqual((seen["links"], {row["last"] for row in seen["teachers"]}), ([], {None}))
        self.assertEqual(Client().get("/api/school").status_code, 401)

    def test_a_school_keeps_a_head_and_an_ended_account_is_out_at_once_and_comes_back(self):
        def put(what, who, **body):
            return send(self.head, f"/school/teachers/{who.id}/{what}", body, verb="put")

        self.assertEqual(problem(put("head", self.ada, head=False)), (409, "last_head"))
        self.assertEqual(problem(put("active", self.ada, active=False)), (409, "own_account"))
        own = {"password": "adaada-long-enough"}
        self.assertEqual(problem(send(self.head, "/account/delete", own)), (409, "last_head"))
        signed_in = Client()
        send(signed_in, "/sign-in", {"username": "bob", "password": "bobbob-long-enough"})
        self.assertEqual(put("active", self.bob, active=False).status_code, 200)
        self.assertEqual(signed_in.get("/api/labs/list").status_code, 401)
        wrong = send(Client(), "/sign-in", {"username": "bob", "password": "bobbob-long-enough"})
        self.assertEqual(wrong.status_code, 401)
        self.assertEqual(put("active", self.bob, active=True).status_code, 200)
        back = Client()
        send(back, "/sign-in", {"username": "bob", "password": "bobbob-long-enough"})
        self.assertEqual(put("active", self.bob, active=True).status_code, 200)  # pressed twice
        self.assertEqual(back.get("/api/labs/list").status_code, 200)
        self.assertEqual(put("head", self.bob, head=True).status_code, 200)
        self.assertEqual(put("head", self.ada, head=False).status_code, 200)
        said = [row["what"] for row in as_teacher(Teacher.objects.get(id=self.bob.id)).get("/api/school/deeds").json()]
        self.assertIn("Ended a colleague’s account", said)
        self.assertEqual(self.head.get("/api/school/deeds").json(), [])

    def test_one_cupboard_for_the_school_is_seen_and_kept_by_all(self):
        send(self.head, "/shelf/zinc", {"count": 12, "price": None}, verb="put")
        own = {"name": "Roof sheet", "couple": "Zn2+/Zn", "surface": "zinc", "symbol": "Rf"}
        made = send(self.head, "/materials/electrodes", own)
        self.assertEqual(made.status_code, 201, made.content)

        def shelf(client):
            kept = client.get("/api/materials").json()["electrodes"]
            counts = {row["key"]: row["shelf"]["count"] for row in kept}
            return {key: n for key, n in counts.items() if n is not None}, {row["name"] for row in kept}

        self.assertEqual(shelf(self.other)[0], {})
        self.assertNotIn("Roof sheet", shelf(self.other)[1])
        send(self.head, "/school/cupboard", {"teacher": self.ada.id}, verb="put")
        self.assertEqual(shelf(self.other)[0], {"zinc": 12})
        self.assertIn("Roof sheet", shelf(self.other)[1])
        send(self.other, "/shelf/zinc", {"count": 9, "price": None}, verb="put")
        self.assertEqual(shelf(self.head)[0], {"zinc": 9})
        send(self.head, "/school/cupboard", {"teacher": None}, verb="put")
        self.assertEqual(shelf(self.other)[0], {})


class Gone(KeptReadingsTestCase):
    def test_what_colleagues_may_use_of_somebody_who_is_gone_for_good_stays_with_a_head(self):
        ada, bob = teacher("ada"), teacher("bob")
        Teacher.objects.filter(id=ada.id).update(is_head=True)
        desk, leaving = as_teacher(ada), as_teacher(bob)
        own = {"name": "Roof sheet", "couple": "Zn2+/Zn", "surface": "zinc", "symbol": "Rf"}
        send(leaving, "/materials/electrodes", own)
        send(leaving, "/shelf/zinc", {"count": 7, "price": None}, verb="put")
        send(desk, "/school/cupboard", {"teacher": bob.id}, verb="put")
        key = OwnMaterial.objects.get().key
        lab = lab_of_key(desk, key)
        Teacher.objects.filter(id=bob.id).update(deleted_at=timezone.now() - timedelta(days=31))
        purge()
        self.assertFalse(Teacher.objects.filter(id=bob.id).exists())
        self.assertEqual(desk.get(f"/api/labs/{lab}").status_code, 200)
        rows = {row["key"]: row for row in desk.get("/api/materials").json()["electrodes"]}
        self.assertEqual((rows["zinc"]["shelf"]["count"], rows[key]["retired"]), (7, False))


class ByMail(TestCase):
    def setUp(self):
        self.ada = teacher("ada")

    def test_without_mail_it_is_said_who_helps(self):
        self.assertEqual(problem(send(Client(), "/forgotten", {"username": "ada"})), (409, "no_mail"))

    @override_settings(MAIL="smtp://localhost")
    def test_a_link_comes_to_the_address_that_was_confirmed_with_the_password_and_to_no_other(self):
        client = as_teacher(self.ada)
        body = {"email": "ada@school.example", "password": "guess"}
        self.assertEqual(problem(send(client, "/account/email", body)), (401, "wrong_password"))
        body["password"] = "adaada-long-enough"
        self.assertEqual(problem(send(client, "/account/email", body | {"email": "ada at school"})), (422, "bad_email"))
        self.assertEqual(send(client, "/account/email", body).status_code, 200)
        answers = [send(Client(), "/forgotten", {"username": name}).json() for name in ("ada", "nobody", "ada")]
        self.assertEqual(answers, [{"ok": True}] * 3)
        for thread in enumerate_threads():
            if thread.name == "mail":
                thread.join(10)
        [sent] = mail.outbox  # the second within five minutes is not sent
        self.assertEqual(sent.to, ["ada@school.example"])
        secret = re.search(r"/link#(\w+)", sent.body)[1]
        self.assertEqual(send(Client(), "/link/use", {"secret": secret, "password": LONG}).status_code, 200)
        self.assertEqual(send(Client(), "/sign-in", {"username": "ada", "password": LONG}).status_code, 200)


class SecondStep(TestCase):
    """TOTP against the vectors of RFC 6238 (its appendix B), and what an account does with it."""

    def setUp(self):
        self.ada = teacher("ada")
        self.client = as_teacher(self.ada)
        self.body = {"username": "ada", "password": "adaada-long-enough"}

    def now(self) -> str:
        device = TOTPDevice.objects.get()
        device.last_t = -1
        device.save()
        return f"{totp(device.bin_key):06d}"

    def turn_on(self) -> list[str]:
        begun = send(self.client, "/account/second", {"password": "adaada-long-enough"}).json()
        self.assertRegex(begun["secret"], r"^([A-Z2-7]{4} ?)+$")
        return send(self.client, "/account/second/confirm", {"code": self.now()}).json()["codes"]

    def test_the_codes_are_those_of_the_standard(self):
        secret = b"12345678901234567890"  # RFC 6238, appendix B, SHA-1, last six digits
        for at, digits in ((59, 287082), (1111111109, 81804), (1234567890, 5924), (2000000000, 279037)):
            made = TOTP(secret, step=30, digits=6)
            made.time = at
            self.assertEqual(made.token(), digits)

    def test_signing_in_asks_for_the_code_and_takes_each_once(self):
        self.assertEqual(problem(send(self.client, "/account/second", {"password": "guess"})), (401, "wrong_password"))
        self.turn_on()
        self.assertEqual(problem(send(Client(), "/sign-in", self.body)), (401, "code_asked"))
        self.assertEqual(problem(send(Client(), "/sign-in", self.body | {"code": "000 000"})), (401, "wrong_code"))
        self.assertEqual(problem(send(Client(), "/sign-in", self.body | {"password": "x"})), (401, "wrong_password"))
        right = self.body | {"code": self.now()}
        self.assertEqual(send(Client(), "/sign-in", right).status_code, 200)
        self.assertEqual(send(Client(), "/sign-in", right).status_code, 401)

    def test_a_recovery_code_counts_once_and_is_kept_as_a_hash(self):
        codes = self.turn_on()
        self.assertEqual(len(set(codes)), 10)
        for code in codes:
            self.assertRegex(code, r"^[0-9a-f]{4}(-[0-9a-f]{4}){2}$")
        self.assertFalse(
            {code.replace("-", "") for code in codes} & set(StaticToken.objects.values_list("token", flat=True))
        )
        right = self.body | {"code": codes[3].upper()}
        self.assertEqual(send(Client(), "/sign-in", right).status_code, 200)
        self.assertEqual(problem(send(Client(), "/sign-in", right)), (401, "wrong_code"))
        self.assertEqual(self.client.get("/api/account").json()["recovery"], 9)
        self.assertEqual(Deed.objects.get(what="recovery_code").about, "9 left")

    def test_guessing_codes_is_slowed_down_and_a_head_can_turn_it_off_by_a_link(self):
        self.turn_on()
        client = Client()
        answers = [send(client, "/sign-in", self.body | {"code": f"{n:06d}"}).status_code for n in range(8)]
        self.assertIn(429, answers)
        head = teacher("bob")
        Teacher.objects.filter(id=head.id).update(is_head=True)
        secret = send(as_teacher(head), f"/school/teachers/{self.ada.id}/reset").json()["address"].partition("#")[2]
        self.assertEqual(send(Client(), "/link/use", {"secret": secret, "password": LONG}).json()["teacher"], "ada")
        self.assertFalse(TOTPDevice.objects.exists())

    def test_it_is_turned_off_with_the_password(self):
        self.turn_on()
        self.assertEqual(
            problem(send(self.client, "/account/second", {"password": "adaada-long-enough"})), (409, "second_on")
        )
        self.assertEqual(send(self.client, "/account/second/end", {"password": "adaada-long-enough"}).status_code, 200)
        self.assertEqual(send(Client(), "/sign-in", self.body).status_code, 200)
