"""Wrong tries make whoever tries wait; nobody is locked out."""

from datetime import timedelta
from unittest import mock

from django.test import Client, SimpleTestCase, TestCase
from django.utils import timezone

from server.people import limits
from server.people.device import COOKIE
from server.people.models import WrongTry
from server.tests.support import group_of, lab_of, send, teacher

PASSWORD = "adaada-long-enough"


def browser(**options) -> Client:
    """A browser that has opened the page, and so has the device's cookie."""
    client = Client(**options)
    client.get("/join")
    return client


class Waits(SimpleTestCase):
    def test_each_wrong_try_doubles_the_wait_up_to_a_minute_and_time_counts(self):
        now = timezone.now()
        self.assertEqual([limits.wait_s(n, 5, now, now) for n in (0, 4, 5, 6, 7, 50)], [0, 0, 2, 4, 8, 60])
        self.assertEqual(limits.wait_s(7, 5, now - timedelta(seconds=5), now), 3.0)


class SigningIn(TestCase):
    def setUp(self):
        self.ada = teacher("ada")

    def sign_in(self, client, password=PASSWORD):
        return send(client, "/sign-in", {"username": "ada", "password": password})

    def wrong(self, client, times):
        return [self.sign_in(client, "guess").status_code for _ in range(times)]

    def later(self, seconds):
        WrongTry.objects.update(at=timezone.now() - timedelta(seconds=seconds))

    def test_after_five_wrong_passwords_a_device_waits_longer_each_time_and_never_for_good(self):
        stranger = browser()
        self.assertEqual(self.wrong(stranger, 7), [401] * 5 + [429] * 2)
        refused = self.sign_in(stranger)
        self.assertEqual((refused.status_code, refused.json()["code"]), (429, "too_many_tries"))
        self.assertIn(int(refused["Retry-After"]), (1, 2))
        self.later(3)
        self.assertEqual(self.sign_in(stranger).status_code, 200)

    def test_what_is_tried_while_waiting_is_not_looked_at_and_makes_the_wait_no_longer(self):
        stranger = browser()
        self.wrong(stranger, 5)
        with mock.patch("server.people.services.authenticate") as looked:
            for _ in range(10):
                self.sign_in(stranger)
        self.assertFalse(looked.called)
        self.assertEqual(WrongTry.objects.count(), 5)
        self.later(3)
        self.assertEqual(self.sign_in(stranger).status_code, 200)
        self.assertEqual(WrongTry.objects.count(), 0)

    def test_a_device_signed_in_before_is_not_stopped_by_its_own_seven_or_anybodys_wrong_passwords(self):
        own = browser()
        self.assertEqual(self.sign_in(own).status_code, 200)
        send(own, "/sign-out")
        for k in range(9):
            self.wrong(browser(REMOTE_ADDR=f"127.0.1.{k}"), 5)
        self.wrong(own, 7)
        self.assertEqual(self.sign_in(own).status_code, 200)

    def test_strangers_with_ever_new_devices_wait_for_the_account(self):
        for k in range(5):
            self.wrong(browser(REMOTE_ADDR=f"127.0.1.{k}"), 5)
        self.assertEqual(self.wrong(browser(REMOTE_ADDR="127.0.1.200"), 1), [429])

    def test_a_device_cookie_cannot_be_made_up(self):
        own = browser()
        own.cookies[COOKIE] = own.cookies[COOKIE].value[:-1]
        self.assertEqual(self.wrong(own, 6), [401] * 5 + [429])


class Joining(TestCase):
    def setUp(self):
        self.lab = lab_of(teacher())
        self.right = {"code": self.lab.join_code, "pin": group_of(self.lab).pin}

    def join(self, client, **changes):
        return send(client, "/join", self.right | changes).status_code

    def test_thirty_wrong_pins_from_one_school_address_stop_no_other_group(self):
        wild = browser()
        codes = [self.join(wild, pin="0000") for _ in range(30)]
        self.assertEqual(codes, [404] * 5 + [429] * 25)
        self.assertEqual(self.join(browser()), 200)
        for _ in range(30):
            self.join(Client(), pin="0000")
        self.assertEqual(self.join(Client()), 200)

    def test_without_the_cookie_of_a_browser_an_address_waits_after_many(self):
        for _ in range(limits.NO_COOKIE_FREE):
            self.join(Client(), pin="0000")
        self.assertEqual(self.join(Client()), 429)
        self.assertEqual(self.join(browser()), 200)
        WrongTry.objects.update(at=timezone.now() - timedelta(minutes=11))
        self.assertEqual(self.join(Client()), 200)

    def test_in_a_storm_of_guesses_at_a_code_a_device_that_has_just_come_waits_a_minute_and_others_do_not(self):
        WrongTry.objects.bulk_create(
            WrongTry(door="join", account=self.lab.join_code, address="127.0.3.1", device=f"d{k}")
            for k in range(limits.CODE_STORM)
        )
        phone = browser()
        self.assertEqual(self.join(phone), 429)
        with mock.patch("server.people.limits.time.time", return_value=__import__("time").time() + 61):
            self.assertEqual(self.join(phone), 200)
        other = lab_of(teacher("bea"))
        self.assertEqual(send(browser(), "/join", {"code": other.join_code, "pin": group_of(other).pin}).status_code, 200)
