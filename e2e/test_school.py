"""A school's accounts as its teachers make them: the first by a code, a colleague by a link, a second step, a shared lab."""

import re

from django.utils import timezone
from django_otp.oath import totp
from django_otp.plugins.otp_totp.models import TOTPDevice
from playwright.sync_api import expect

from e2e.browser import PHONE
from e2e.live import BrowserTestCase
from server.labs.models import Lab
from server.people.models import Teacher
from server.school.links import first_code
from server.tests.support import lab_of

LONG = "three unlike words"


class School(BrowserTestCase):
    def test_from_nobody_to_two_colleagues_and_a_shared_lab(self):
        desk = self.device()
        desk.goto("/")
        expect(desk.get_by_role("heading", name="The first account")).to_be_visible()
        self.check_access(desk)
        desk.get_by_label("Code").fill("0000-0000")
        desk.get_by_label("Your name here").fill("ada")
        desk.get_by_label("Password").fill(LONG)
        desk.get_by_role("button", name="Make the account").click()
        expect(desk.get_by_role("alert")).to_contain_text("not the code in the terminal")
        desk.get_by_label("Code").fill(first_code() or "")
        desk.get_by_role("button", name="Make the account").click()
        expect(desk.get_by_role("heading", name="Your labs")).to_be_visible()

        desk.get_by_role("link", name="School").click()
        desk.get_by_label("For whom").fill("the new one")
        desk.get_by_role("button", name="Make a link").click()
        link = desk.locator("code").inner_text()
        expect(desk.get_by_text("Invitation, the new one")).to_be_visible()
        self.check_access(desk)

        phone = self.device(size=PHONE, touch=True)
        phone.goto(link[link.index("/link#") :])
        expect(phone.get_by_text("ada invites you")).to_be_visible()
        self.check_access(phone)
        phone.get_by_label("Your name here").fill("bob")
        phone.get_by_label("Password").fill(LONG)
        phone.get_by_role("button", name="Make the account").click()
        expect(phone.get_by_text("No labs yet.")).to_be_visible()
        again = self.device()
        again.goto(link[link.index("/link#") :])
        expect(again.get_by_text("was used, withdrawn, or is too old")).to_be_visible()

        lab = lab_of(Teacher.objects.get(username="ada"))
        desk.goto(f"/labs/{lab.id}/plan")
        desk.get_by_role("button", name="Share with a colleague").click()
        self.select(desk, "bob", "may look")
        expect(desk.get_by_text("with bob")).to_be_visible()
        self.check_access(desk)
        phone.reload()
        expect(phone.get_by_text("ada’s, to look at")).to_be_visible()
        phone.goto(f"/labs/{lab.id}/plan")
        expect(phone.get_by_text("ada’s lab: you may look")).to_be_visible()
        phone.get_by_role("link", name="Change title or question").click()
        phone.get_by_label("Title", exact=True).fill("Mine now")
        phone.get_by_role("button", name="Keep title and question").click()
        expect(phone.get_by_role("alert")).to_contain_text("shared with you to look at, so nothing was changed")
        self.assertEqual(phone.get_by_label("Title", exact=True).input_value(), "Mine now")
        self.assertEqual(Lab.objects.get().title, lab.title)
        self.select(desk, "may look bob", "may work in it")
        expect(desk.get_by_role("button", name=re.compile("may work in it bob"))).to_be_visible()
        phone.get_by_role("button", name="Keep title and question").click()
        expect(phone.get_by_text("Mine now").first).to_be_visible()

    def test_a_second_step_is_turned_on_asked_for_and_passed_with_a_recovery_code(self):
        Teacher.objects.create_user("ada", password="adaada-long-enough")
        page = self.device(size=PHONE, touch=True)
        self.signed_in(page)
        page.goto("/account")
        page.get_by_role("button", name="A second step").click()
        panel = page.get_by_role("group", name="A second step when signing in off")
        panel.get_by_label("Your password").fill("adaada-long-enough")
        panel.get_by_role("button", name="Begin").click()
        expect(page.get_by_role("img", name="Square code for your app")).to_be_visible()
        self.check_access(page)
        device = TOTPDevice.objects.get()
        page.get_by_label("The code the app shows now").fill(f"{totp(device.bin_key):06d}")
        page.get_by_role("button", name="Turn it on").click()
        expect(page.get_by_role("status").get_by_role("listitem")).to_have_count(10)
        codes = page.get_by_role("status").get_by_role("listitem").all_inner_texts()
        self.check_access(page)

        other = self.device()
        other.goto("/sign-in")
        other.get_by_label("Name").fill("ada")
        other.get_by_label("Password").fill("adaada-long-enough")
        other.get_by_role("button", name="Sign in").click()
        field = other.get_by_label("Code of your app")
        expect(field).to_be_focused()
        self.check_access(other)
        field.fill("000000")
        other.get_by_role("button", name="Sign in").click()
        expect(other.get_by_role("alert")).to_contain_text("not the code your app shows now")
        field.fill(codes[0])
        other.get_by_role("button", name="Sign in").click()
        expect(other.get_by_role("heading", name="Your labs")).to_be_visible()
        self.assertLess(Teacher.objects.get().last_login, timezone.now())
