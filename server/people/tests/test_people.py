"""Signing in, joining, and who is let through."""

from base64 import b64decode
from datetime import timedelta
from io import StringIO

from django.core.management import CommandError, call_command
from django.test import Client, TestCase, override_settings
from django.test.client import RequestFactory
from django.utils import timezone

from server.labs.joining import LATE
from server.labs.models import Lab
from server.labs.opening import close_lab
from server.people.address import client_address
from server.people.codes import join_code, pins, plain_code
from server.people.models import GroupSession, Teacher
from server.tests.support import as_group, as_teacher, group_of, lab_of, send, teacher

FIREFOX = "Mozilla/5.0 (Windows NT 10.0; Win64; x64; rv:131.0) Gecko/20100101 Firefox/131.0"
IPHONE = "Mozilla/5.0 (iPhone; CPU iPhone OS 17_5 like Mac OS X) AppleWebKit/605.1.15 Version/17.5 Mobile Safari/604.1"


class Codes(TestCase):
    def test_a_code_is_understood_however_it_is_typed(self):
        code = join_code()
        for typed in (code, code.lower(), code.replace("-", ""), f" {code.replace('-', ' ')} "):
            self.assertEqual(plain_code(typed), code)

    def test_pins_are_different_and_have_four_digits(self):
        made = pins(40)
        self.assertEqual(len(set(made)), 40)
        self.assertTrue(all(len(pin) == 4 and pin.isdigit() for pin in made))


class SigningIn(TestCase):
    def setUp(self):
        self.ada = teacher("ada")

    def test_a_teacher_signs_in_and_out(self):
        client = Client()
        self.assertEqual(client.get("/api/labs/list").status_code, 401)
        answer = send(client, "/sign-in", {"username": "ada", "password": "adaada-long-enough"})
        self.assertEqual(answer.json(), {"teacher": "ada", "group": None, "first": False, "language": ""})
        self.assertEqual(client.get("/api/labs/list").status_code, 200)
        send(client, "/sign-out")
        self.assertEqual(client.get("/api/labs/list").status_code, 401)

    def test_capitals_and_spaces_around_the_name_do_not_matter_unless_two_names_differ_by_them(self):
        right = "adaada-long-enough"
        for typed in (" ada ", "Ada", "ADA"):
            self.assertEqual(send(Client(), "/sign-in", {"username": typed, "password": right}).status_code, 200, typed)
        teacher("ADA")
        self.assertEqual(send(Client(), "/sign-in", {"username": "ada", "password": right}).json()["teacher"], "ada")
        self.assertEqual(send(Client(), "/sign-in", {"username": "Ada", "password": right}).status_code, 401)

    def test_a_wrong_password_is_refused_in_one_shape(self):
        answer = send(Client(), "/sign-in", {"username": "ada", "password": "guess"})
        self.assertEqual(answer.status_code, 401)
        self.assertEqual(answer.json()["code"], "wrong_password")

    def test_writing_without_the_csrf_token_is_refused_for_teachers_and_groups(self):
        lab = lab_of(self.ada)
        strict = as_teacher(self.ada, enforce_csrf_checks=True)
        self.assertEqual(send(strict, f"/labs/{lab.id}/close").status_code, 403)
        device = as_group(group_of(lab), enforce_csrf_checks=True)
        self.assertEqual(send(device, "/bench/readings").status_code, 403)
        for path in ("/sign-in", "/join", "/leave", "/sign-out"):
            self.assertEqual(send(Client(enforce_csrf_checks=True), path, {"code": "a", "pin": "1"}).status_code, 403)


class Joining(TestCase):
    def setUp(self):
        self.lab = lab_of(teacher())
        self.tern = group_of(self.lab)

    def test_a_group_joins_with_code_and_pin_and_leaves(self):
        client = Client()
        answer = send(client, "/join", {"code": self.lab.join_code.lower(), "pin": f" {self.tern.pin} "})
        self.assertEqual(answer.json()["group"], "Tern")
        self.assertEqual(client.get("/api/bench").json()["group"], "Tern")
        send(client, "/leave")
        self.assertEqual(client.get("/api/bench").status_code, 401)

    def test_a_wrong_code_and_a_wrong_pin_look_the_same(self):
        wrong_pin = send(Client(), "/join", {"code": self.lab.join_code, "pin": "0000"})
        wrong_code = send(Client(), "/join", {"code": "NOWHERE-1", "pin": self.tern.pin})
        self.assertEqual(wrong_pin.status_code, 404)
        self.assertEqual(wrong_pin.json(), wrong_code.json())

    def test_a_teacher_gives_a_new_pin_and_the_devices_with_the_old_one_are_out(self):
        device, ada = as_group(self.tern), as_teacher(self.lab.owner)
        pin = send(ada, f"/groups/{self.tern.id}/new-pin").json()["pin"]
        self.assertNotEqual(pin, self.tern.pin)
        self.assertEqual(device.get("/api/bench").status_code, 401)
        self.assertEqual(send(Client(), "/join", {"code": self.lab.join_code, "pin": pin}).status_code, 200)
        self.assertEqual(send(as_teacher(teacher("bob")), f"/groups/{self.tern.id}/new-pin").status_code, 404)
        self.assertEqual(send(device, f"/groups/{self.tern.id}/new-pin").status_code, 401)

    def test_a_lab_closed_for_long_and_a_draft_let_nobody_in(self):
        right = {"code": self.lab.join_code, "pin": self.tern.pin}
        close_lab(actor=self.lab.owner, lab_id=self.lab.id)
        Lab.objects.filter(id=self.lab.id).update(closed_at=timezone.now() - LATE - timedelta(minutes=1))
        self.assertEqual(send(Client(), "/join", right).status_code, 404)
        Lab.objects.filter(id=self.lab.id).update(state="draft")
        self.assertEqual(send(Client(), "/join", right).status_code, 404)

    def test_the_cookie_names_neither_group_nor_pin_and_a_copy_of_it_is_dead_after_leaving(self):
        client, copy = Client(), Client()
        send(client, "/join", {"code": self.lab.join_code, "pin": self.tern.pin})
        value = client.cookies["pipette_group"].value
        for part in value.split(":")[:1]:
            plain = b64decode(part.lstrip(".") + "=" * (-len(part) % 4), altchars=b"-_")
            for secret in (self.tern.pin.encode(), str(self.tern.id).encode()):
                self.assertNotIn(secret, plain)
        copy.cookies["pipette_group"] = value
        self.assertEqual(copy.get("/api/bench").status_code, 200)
        send(client, "/leave")
        self.assertEqual(copy.get("/api/bench").status_code, 401)
        self.assertEqual(send(copy, "/bench/readings", {}).status_code, 401)

    def test_a_group_that_joins_ends_the_session_of_the_one_before_on_that_device(self):
        device, copy = as_group(self.tern), Client()
        copy.cookies["pipette_group"] = device.cookies["pipette_group"].value
        send(device, "/join", {"code": self.lab.join_code, "pin": group_of(self.lab, "Knot").pin})
        self.assertEqual(device.get("/api/bench").json()["group"], "Knot")
        self.assertEqual(copy.get("/api/bench").status_code, 401)

    def test_a_session_ends_after_twelve_hours(self):
        client = as_group(self.tern)
        GroupSession.objects.update(joined_at=timezone.now() - timedelta(hours=13))
        self.assertEqual(client.get("/api/bench").status_code, 401)

    def test_a_forged_cookie_is_nobody(self):
        client = as_group(self.tern)
        client.cookies["pipette_group"] = client.cookies["pipette_group"].value[:-2] + "xx"
        self.assertEqual(client.get("/api/bench").status_code, 401)
        self.assertEqual(client.get("/api/who").json(), {"teacher": None, "group": None, "first": False})


class Addresses(TestCase):
    def test_forwarded_addresses_count_only_behind_our_own_proxies(self):
        request = RequestFactory().get("/", REMOTE_ADDR="127.0.0.1", HTTP_X_FORWARDED_FOR="1.1.1.1, 2.2.2.2")
        self.assertEqual(client_address(request), "127.0.0.1")
        with override_settings(TRUSTED_PROXIES=1):
            self.assertEqual(client_address(request), "2.2.2.2")

    def test_junk_from_our_own_proxies_is_refused_and_from_others_not_looked_at(self):
        for name, junk in (("HTTP_X_FORWARDED_FOR", "1.1.1.1, nobody"), ("HTTP_X_FORWARDED_PROTO", "gopher")):
            self.assertEqual(self.client.get("/api/who", **{name: junk}).status_code, 200)
            with override_settings(TRUSTED_PROXIES=1):
                answer = self.client.get("/api/who", **{name: junk})
                self.assertEqual((answer.status_code, answer.json()["code"]), (400, "bad_request"))


class AddTeacher(TestCase):
    def test_a_teacher_is_made_with_a_password_that_is_shown_once(self):
        said = StringIO()
        call_command("add_teacher", "grace", stdout=said)
        password = said.getvalue().split("Password: ")[1].strip()
        self.assertTrue(Teacher.objects.get(username="grace").check_password(password))
        with self.assertRaises(CommandError):
            call_command("add_teacher", " ")

    def test_a_teacher_who_is_there_keeps_the_password_unless_asked(self):
        teacher("ada")
        with self.assertRaisesRegex(CommandError, "already"):
            call_command("add_teacher", "Ada", stdout=StringIO())
        self.assertTrue(Teacher.objects.get().check_password("adaada-long-enough"))
        call_command("add_teacher", "ada", "--new-password", stdout=StringIO())
        self.assertFalse(Teacher.objects.get().check_password("adaada-long-enough"))


class Accounts(TestCase):
    """Another password, and the browsers a teacher is signed in."""

    def setUp(self):
        teacher("ada")
        self.laptop, self.phone = (self.signed_in(agent) for agent in (FIREFOX, IPHONE))

    def signed_in(self, agent, word="adaada-long-enough"):
        client = Client(HTTP_USER_AGENT=agent)
        answer = send(client, "/sign-in", {"username": "ada", "password": word})
        self.assertEqual(answer.status_code, 200, answer.content)
        return client

    def browsers(self, client):
        return [(one["browser"], one["here"]) for one in client.get("/api/account/sign-ins").json()]

    def test_browsers_are_listed_and_one_is_ended_from_the_other(self):
        self.assertEqual(self.browsers(self.laptop), [("Safari on an iPhone", False), ("Firefox on Windows", True)])
        found = self.laptop.get("/api/account/sign-ins").json()[0]
        self.assertEqual(send(self.laptop, f"/account/sign-ins/{found['id']}/end").status_code, 200)
        self.assertEqual(self.phone.get("/api/deeds").status_code, 401)
        self.assertEqual(self.browsers(self.laptop), [("Firefox on Windows", True)])
        teacher("eve")
        eve = as_teacher(Teacher.objects.get(username="eve"))
        self.assertEqual(eve.get("/api/account/sign-ins").json(), [])
        own = self.laptop.get("/api/account/sign-ins").json()[0]["id"]
        self.assertEqual(send(eve, f"/account/sign-ins/{own}/end").status_code, 404)
        send(self.laptop, "/sign-out")
        self.assertEqual(self.browsers(self.signed_in(IPHONE)), [("Safari on an iPhone", True)])

    def test_a_new_password_signs_all_others_out_and_the_old_one_is_worth_nothing(self):
        def change(old, new):
            return send(self.laptop, "/account/password", {"old": old, "new": new})

        self.assertEqual(change("wrong", "harbour kelp nine").json()["code"], "wrong_password")
        for weak in ("short", "password123", "ada.ada.ada.ada-ada", "xx ADA-adaada 12"):
            self.assertEqual(change("adaada-long-enough", weak).json()["code"], "weak_password")
        self.assertEqual(self.phone.get("/api/deeds").status_code, 200)
        self.assertEqual(change("adaada-long-enough", "harbour kelp nine").status_code, 200)
        self.assertEqual((self.laptop.get("/api/deeds").status_code, self.phone.get("/api/deeds").status_code), (200, 401))
        self.assertEqual(self.browsers(self.laptop), [("Firefox on Windows", True)])
        refused = send(Client(), "/sign-in", {"username": "ada", "password": "adaada-long-enough"})
        self.assertEqual(refused.status_code, 401)
        self.signed_in(FIREFOX, "harbour kelp nine")
        self.assertIn("Changed the password", [deed["what"] for deed in self.laptop.get("/api/deeds").json()])
        self.assertEqual(send(Client(), "/account/password", {"old": "a", "new": "b"}).status_code, 401)
