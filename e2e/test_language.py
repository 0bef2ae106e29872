"""Readers of another language, and a class whose cards speak another one than its teacher's screen."""

import re

from playwright.sync_api import expect

from e2e.browser import PHONE
from e2e.live import PASSWORD, BrowserTestCase
from server.entries.models import Reading
from server.tests.support import group_of, lab_of, teacher


class Languages(BrowserTestCase):
    def setUp(self):
        super().setUp()
        self.ada = teacher("ada")

    def test_a_german_phone_joins_measures_without_network_and_changes_its_mind(self):
        lab = lab_of(self.ada)
        page = self.device(PHONE, locale="de-DE", keeps_pages=True)
        page.goto("/join")
        page.get_by_label("Code").fill(lab.join_code)
        page.get_by_label("PIN eurer Gruppe").fill(group_of(lab).pin)
        page.get_by_role("button", name="Mitmachen").click()
        expect(page.get_by_role("heading", name="Diese Zelle bauen")).to_be_visible()
        field = page.get_by_role("textbox", name="Messwert in")
        field.fill("0,91")
        field.press("Enter")
        expect(page.get_by_role("button", name="0,91 V berichtigen")).to_be_visible()
        expect(page.get_by_text("Alle Messwerte gesendet")).to_be_visible()
        self.assertEqual(list(Reading.objects.values_list("text", "volts_v")), [("0,91", 0.91)])
        self.check_access(page)

        self.until_kept(page, "/api/bench")
        page.context.set_offline(True)
        page.reload()
        expect(page.get_by_role("heading", name="Diese Zelle bauen")).to_be_visible()
        self.assertEqual(page.locator("html").get_attribute("lang"), "de")
        page.context.set_offline(False)

        page.goto("/join")
        page.get_by_role("button", name="English").click()
        expect(page.get_by_label("PIN of your group")).to_be_visible()
        page.goto("/bench")
        expect(page.get_by_role("button", name="Correct 0,91 V")).to_be_visible()

    def test_a_choice_in_the_account_is_there_on_the_next_device(self):
        page = self.device()
        self.signed_in(page)
        page.goto("/account")
        page.get_by_role("button", name="Deutsch").click()
        expect(page.get_by_role("heading", name="Ihr Konto")).to_be_visible()
        self.check_access(page)
        other = self.device()
        other.goto("/sign-in")
        other.get_by_label("Name").fill("ada")
        other.get_by_label("Password").fill(PASSWORD)
        other.get_by_role("button", name="Sign in").click()
        expect(other.get_by_role("heading", name="Ihre Versuche")).to_be_visible()

    def test_cards_speak_the_class_s_language_and_the_way_back_the_teachers(self):
        lab = lab_of(self.ada, opened=False, language="de")
        page = self.device()
        self.signed_in(page)
        page.goto(f"/labs/{lab.id}/plan")
        page.get_by_role("link", name="Bench cards").click()
        expect(page.locator("html")).to_have_attribute("lang", "de")
        expect(page.get_by_text(re.compile("Hebt zwischen den Messwerten die Platten heraus")).first).to_be_visible()
        page.goto(f"/labs/{lab.id}/projector")
        expect(page.locator("html")).to_have_attribute("lang", "de")
        page.goto(f"/labs/{lab.id}/cards")
        page.get_by_role("link", name=re.compile("Plan")).first.click()
        expect(page.get_by_role("link", name="Bench cards")).to_be_visible()
