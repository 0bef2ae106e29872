"""Which language a visitor gets, where it is kept, and that nobody gets what was said for another."""

import re

from django.test import Client, RequestFactory, TestCase

from server.base.language import language_of
from server.labs.models import Lab
from server.labs.policy import sheet_of
from server.people.models import Teacher
from server.tests.support import as_group, as_teacher, group_of, lab_of, send, teacher

GERMAN = {"Accept-Language": "de-AT,de;q=0.9,en;q=0.8"}
HTML = re.compile(r'<html lang="(\w+)" data-own="(\w+)">')


def speaks(client, path="/", **headers):
    """The languages of a page and of its reader."""
    return HTML.search(client.get(path, headers=headers).content.decode()).groups()


def choose(client, code):
    return client.put("/api/language", {"language": code}, content_type="application/json")


class Asked(TestCase):
    """By a browser, a device, a page, a stream."""

    def test_a_browser_is_answered_in_its_language_or_else_in_english(self):
        for wanted, code in (
            ("de-AT,de;q=0.9", "de"),
            ("fr,de;q=0.5", "de"),
            ("fr-CA", "en"),
            ("", "en"),
            ("x" * 4000, "en"),
        ):
            with self.subTest(wanted[:20]):
                self.assertEqual(speaks(Client(), **{"Accept-Language": wanted}), (code, code))

    def test_an_error_is_said_in_it_and_caches_are_told(self):
        def refused(**headers):
            answer = Client(headers=headers).post(
                "/api/join", {"code": "HEKTAR-17", "pin": "1234"}, content_type="application/json"
            )
            return answer.json(), answer["Vary"]

        (english, _), (german, vary) = refused(), refused(**GERMAN)
        self.assertEqual(english["code"], german["code"])
        self.assertIn("Versuch", german["message"])
        self.assertNotIn("Versuch", english["message"])
        self.assertIn("Accept-Language", vary)

    def test_what_a_schema_refuses_is_said_in_it(self):
        answer = Client(headers=GERMAN).post("/api/join", {"code": "", "pin": 3}, content_type="application/json")
        self.assertEqual(answer.status_code, 422)
        self.assertIn("noch nichts getippt", answer.json()["message"])

    def test_a_choice_on_the_device_outranks_its_browser(self):
        client = Client()
        self.assertEqual(choose(client, "de").status_code, 200)
        self.assertEqual(speaks(client), ("de", "de"))
        choose(client, "en")
        self.assertEqual(speaks(client, **GERMAN), ("en", "en"))

    def test_a_language_nobody_speaks_here_is_refused_and_nothing_is_kept(self):
        client = Client()
        for code in ("fr", "", "de'; --", None, 7, "d" * 5000):
            self.assertEqual(choose(client, code).status_code, 422, code)
        self.assertNotIn("pipette_language", client.cookies)
        client.cookies["pipette_language"] = "tlh"
        self.assertEqual(speaks(client), ("en", "en"))

    def test_a_choice_needs_the_token(self):
        self.assertEqual(choose(Client(enforce_csrf_checks=True), "de").status_code, 403)

    def test_a_page_says_by_header_and_a_stream_by_its_address_which_language_it_is_in(self):
        ask = RequestFactory()
        self.assertEqual(language_of(ask.get("/", headers={"Accept-Language": "de"})), "de")
        self.assertEqual(language_of(ask.get("/?lang=de")), "de")
        self.assertEqual(language_of(ask.get("/?lang=xx", headers=GERMAN)), "de")
        switched = ask.get("/", headers={"Accept-Language": "de"})
        switched.COOKIES["pipette_language"] = "en"
        self.assertEqual(language_of(switched), "de", "an open page stays in its language")


class Accounts(TestCase):
    def test_a_choice_goes_with_the_account_to_other_devices(self):
        teacher()
        here, there = as_teacher(Teacher.objects.get()), Client()
        choose(here, "de")
        self.assertEqual(Teacher.objects.get().language, "de")
        send(there, "/sign-in", {"username": "ada", "password": "adaada-long-enough"})
        self.assertEqual(speaks(there), ("de", "de"))

    def test_a_group_s_choice_stays_on_its_device(self):
        lab = lab_of(teacher())
        choose(as_group(group_of(lab)), "de")
        self.assertEqual(Teacher.objects.get().language, "")
        self.assertEqual(speaks(as_group(group_of(lab))), ("en", "en"))


class OfTheLab(TestCase):
    """What the class holds and sees speaks the lab's language, whoever has it on their screen."""

    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada, language="de")
        self.client = as_teacher(self.ada)

    def test_cards_sheets_and_projectors_speak_the_labs_language(self):
        for page in ("cards", "print", "projector", "power/projector"):
            self.assertEqual(speaks(self.client, f"/labs/{self.lab.id}/{page}"), ("de", "en"), page)
        for page in ("", "/plan", "/board", "/projectors", "/cards/more"):
            self.assertEqual(speaks(self.client, f"/labs/{self.lab.id}{page}"), ("en", "en"), page)

    def test_another_teachers_lab_tells_nobody_its_language(self):
        for client in (as_teacher(teacher("bob")), Client(), as_group(group_of(self.lab))):
            self.assertEqual(speaks(client, f"/labs/{self.lab.id}/cards"), ("en", "en"))

    def test_it_is_chosen_in_the_plan_and_goes_with_a_copy(self):
        self.assertEqual(self.client.get(f"/api/labs/{self.lab.id}").json()["settings"]["language"], "de")
        copied = send(self.client, f"/labs/{self.lab.id}/copy", {"title": "Again", "date": "2026-06-01"}).json()
        self.assertEqual(Lab.objects.get(id=copied["id"]).language, "de")

    def test_claims_are_marked_by_the_rows_in_the_labs_language(self):
        english, german = (
            self.client.get(f"/api/labs/{self.lab.id}/claims", headers={"Accept-Language": code}).json()["rubric"]
            for code in ("en", "de")
        )
        self.assertEqual(english, german)


class Kept(TestCase):
    """Answers that are kept for many readers are kept for each language."""

    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada, opened=False)
        self.client = as_teacher(self.ada)

    def names(self, code):
        kit = self.client.get(f"/api/labs/{self.lab.id}/kit", headers={"Accept-Language": code}).json()
        return [line["name"] for line in kit["plates"]]

    def test_one_readers_language_never_comes_to_another(self):
        for _ in range(2):
            self.assertIn("zinc strip", self.names("en"))
            self.assertIn("Zinkstreifen", self.names("de"))

    def test_a_sheet_signed_off_in_one_language_is_signed_in_all(self):
        shown = self.client.get(f"/api/labs/{self.lab.id}/safety", headers={"Accept-Language": "de"}).json()
        self.assertEqual(shown["fingerprint"], sheet_of(self.lab).fingerprint)
        signed = self.client.post(
            f"/api/labs/{self.lab.id}/safety", {"fingerprint": shown["fingerprint"]}, content_type="application/json",
            headers={"Accept-Language": "de"},
        )  # fmt: skip
        self.assertEqual(signed.status_code, 200)
        self.assertEqual(send(self.client, f"/labs/{self.lab.id}/open").status_code, 200)
