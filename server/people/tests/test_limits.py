"""Wrong tries make whoever tries wait; nobody is locked out."""

from datetime import timedelta
from unittest import mock

from django.test import Client, SimpleTestCase, TestCase
from django.utils import timezone

from server.base.problems import Problem
from server.labs.opening import close_lab
from server.people import limits
from server.people.device import COOKIE
from server.people.models import WrongTry
from server.tests.support import as_teacher, group_of, lab_of, send, teacher

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
        for _ in range(limits.NO_COOKIE_FREE - 1):
            self.join(Client(), pin="0000")
        self.assertEqual(self.join(Client()), 200)

    def test_without_the_cookie_of_a_browser_an_address_waits_after_many(self):
        for _ in range(limits.NO_COOKIE_FREE):
            self.join(Client(), pin="0000")
        self.assertEqual(self.join(Client()), 429)
        self.assertEqual(self.join(browser()), 200)
        WrongTry.objects.update(at=timezone.now() - timedelta(minutes=11))
        self.assertEqual(self.join(Client()), 200)

    def strangers(self, count, minutes=0):
        """Wrong PINs at the lab's code, each from a device that nobody has seen before."""
        WrongTry.objects.bulk_create(
            WrongTry(door="join", account=self.lab.join_code, address="127.0.3.1", device=f"d{k}") for k in range(count)
        )
        WrongTry.objects.update(at=timezone.now() - timedelta(minutes=minutes))

    def test_fresh_devices_do_not_refill_a_codes_budget_and_who_was_in_before_never_waits(self):
        was_in, new = browser(), browser()
        self.assertEqual(self.join(was_in), 200)
        send(was_in, "/leave")
        self.strangers(limits.CODE_FREE)
        self.assertEqual([self.join(new), self.join(browser())], [429, 429])
        self.assertEqual(self.join(was_in), 200)
        other = lab_of(teacher("bea"))
        self.assertEqual(send(new, "/join", {"code": other.join_code, "pin": group_of(other).pin}).status_code, 200)
        WrongTry.objects.update(at=timezone.now() - timedelta(seconds=3))
        self.assertEqual(self.join(browser()), 200)  # one try now and then

    def test_who_may_join_cannot_guess_the_others_pins_with_ever_new_devices_of_their_own_group(self):
        tried = 0
        for _ in range(2 * limits.CODE_FREE // limits.DEVICE_FREE):
            phone = browser()
            self.assertEqual(self.join(phone), 200)
            codes = [self.join(phone, pin="0000") for _ in range(limits.DEVICE_FREE)]
            tried += codes.count(404)
        self.assertEqual(tried, limits.CODE_FREE)

    def test_guessing_with_ever_new_devices_for_a_lesson_finds_a_pin_in_one_class_of_ten_at_most(self):
        """Against the wait as it stands: each try is made as soon as it is looked at."""
        now, tries = timezone.now(), limits.CODE_FREE
        end, last = now + timedelta(minutes=45), now
        while last < end:
            wait = limits.wait_s(tries, limits.CODE_FREE, last, last, limits.CODE_MOST_S)
            tries, last = tries + 1, last + timedelta(seconds=wait)
        groups = 8
        self.assertLess(1 - (1 - groups / 10_000) ** tries, 0.1)

    def test_a_new_code_ends_it_at_a_press_devices_stay_in_and_the_board_told_of_it(self):
        desk, phone = as_teacher(self.lab.owner), browser()
        self.assertEqual(self.join(phone), 200)
        self.strangers(limits.CODE_FREE)
        self.assertEqual(desk.get(f"/api/labs/{self.lab.id}/board").json()["wrong_pins"], limits.CODE_FREE)
        code = send(desk, f"/labs/{self.lab.id}/new-code").json()["code"]
        self.assertEqual(desk.get(f"/api/labs/{self.lab.id}/board").json()["wrong_pins"], 0)
        self.assertEqual(phone.get("/api/bench").status_code, 200)
        self.assertEqual(self.join(browser(), code=code), 200)
        WrongTry.objects.all().delete()
        self.assertEqual(self.join(browser()), 404)  # the old one
        close_lab(actor=self.lab.owner, lab_id=self.lab.id)
        self.assertEqual(send(desk, f"/labs/{self.lab.id}/new-code").json()["code"], "not_open")
        self.assertEqual(send(as_teacher(teacher("bob")), f"/labs/{self.lab.id}/new-code").status_code, 404)

    def test_the_board_is_made_anew_when_so_many_have_been_wrong(self):
        desk = as_teacher(self.lab.owner)
        self.strangers(limits.CODE_TOLD - 2)
        board = f"/api/labs/{self.lab.id}/board"
        self.assertEqual(desk.get(board).json()["wrong_pins"], 0)
        for _ in range(2):
            self.assertEqual(self.join(browser(), pin="0000"), 404)
        self.assertEqual(desk.get(board).json()["wrong_pins"], limits.CODE_TOLD)


class Answers(TestCase):
    """Made-up devices behind one connection do not fill what a class answers."""

    def test_after_many_new_devices_of_one_address_the_next_waits_and_known_and_other_ones_do_not(self):
        with mock.patch.object(limits, "DEVICES_FREE", 3):
            for device in ("a", "b", "c", "a"):
                limits.room_for_answer("FERN-1", "127.0.0.9", device)
            with self.assertRaises(Problem) as refused:
                limits.room_for_answer("FERN-1", "127.0.0.9", "d")
            self.assertEqual((refused.exception.refusal.status, refused.exception.refusal.code), (429, "too_many_tries"))
            limits.room_for_answer("FERN-1", "127.0.0.9", "b")
            limits.room_for_answer("FERN-1", "127.0.0.8", "d")
            limits.room_for_answer("FERN-2", "127.0.0.9", "d")

    def test_after_very_many_answers_of_one_address_known_ones_wait_too_and_not_for_good(self):
        with mock.patch.object(limits, "ANSWERS_FREE", 3):
            for _ in range(3):
                limits.room_for_answer("FERN-1", "127.0.0.9", "a")
            with self.assertRaises(Problem):
                limits.room_for_answer("FERN-1", "127.0.0.9", "a")
            WrongTry.objects.update(at=timezone.now() - timedelta(seconds=3))
            limits.room_for_answer("FERN-1", "127.0.0.9", "a")
