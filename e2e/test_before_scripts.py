"""A slow phone: what is seen and typed before the scripts are here."""

import re

from playwright.sync_api import expect

from e2e.browser import PHONE
from e2e.geometry import unreadable
from e2e.live import BrowserTestCase
from server.people.models import GroupSession
from server.tests.support import group_of, lab_of, teacher

SCRIPTS = re.compile(r"/static/app/assets/.*\.js")


class BeforeScripts(BrowserTestCase):
    def setUp(self):
        super().setUp()
        self.lab = lab_of(teacher("ada"))
        self.group = group_of(self.lab)

    def test_without_any_script_a_group_joins_all_the_same(self):
        context = self.browser.new_context(viewport=PHONE, base_url=self.url, java_script_enabled=False)
        page = context.new_page()
        page.goto(f"/join?code={self.lab.join_code}")
        page.get_by_label("PIN of your group").fill("1")
        page.get_by_role("button", name="Join").click()
        expect(page.get_by_role("alert")).to_contain_text("No open lab has that code and PIN")
        expect(page.get_by_label("Code")).to_have_value(self.lab.join_code)
        page.get_by_label("PIN of your group").fill(self.group.pin)
        page.get_by_role("button", name="Join").click()
        page.wait_for_url("**/bench")
        self.assertEqual(GroupSession.objects.get().group, self.group)

    def held_back(self, page):
        """Scripts that do not come until they are let through: what lets them."""
        held, away = [], [True]
        page.route(SCRIPTS, lambda route: held.append(route) if away else route.continue_())

        def let_through():
            away.clear()
            for route in held:
                route.continue_()

        return let_through

    def test_who_is_quicker_than_the_scripts_joins_on_the_same_page(self):
        page = self.device(PHONE, touch=True)
        let_through = self.held_back(page)
        page.goto(f"/join?code={self.lab.join_code}", wait_until="commit")
        page.evaluate("window.samePage = true")
        self.assertEqual(unreadable(page), [])
        pin, join = page.get_by_label("PIN of your group"), page.get_by_role("button", name="Join")
        pin.fill("1")
        join.click()
        expect(page.get_by_role("alert")).to_contain_text("No open lab has that code and PIN")
        page.context.set_offline(True)
        pin.fill(self.group.pin)
        join.click()
        expect(page.get_by_role("alert")).to_contain_text("What you typed stays here")
        expect(pin).to_have_value(self.group.pin)
        page.context.set_offline(False)
        join.evaluate("(button) => { button.click(); button.click(); }")
        expect(page.get_by_role("status")).to_have_text("One moment…")
        let_through()
        expect(page.get_by_role("heading", name="Build this cell")).to_be_visible()
        self.assertTrue(page.evaluate("window.samePage"), "what was on its way was fetched again")
        self.assertEqual(GroupSession.objects.get().group, self.group)

    def test_where_the_scripts_are_lost_the_bench_comes_with_a_new_page(self):
        page = self.device(PHONE, touch=True)
        page.route(SCRIPTS, lambda route: route.abort())
        page.goto(f"/join?code={self.lab.join_code}")
        page.get_by_label("PIN of your group").fill(self.group.pin)
        page.unroute(SCRIPTS)
        page.get_by_role("button", name="Join").click()
        expect(page.get_by_role("heading", name="Build this cell")).to_be_visible()

    def test_what_is_half_typed_is_there_when_the_scripts_come(self):
        page = self.device(PHONE, touch=True)
        let_through = self.held_back(page)
        page.goto(f"/join?code={self.lab.join_code}", wait_until="commit")
        pin = page.get_by_label("PIN of your group")
        pin.press_sequentially(self.group.pin[:2])
        let_through()
        page.locator("#first").wait_for(state="detached")
        expect(pin).to_have_value(self.group.pin[:2])
        expect(pin).to_be_focused()
        expect(page.get_by_label("Code")).to_have_value(self.lab.join_code)
        page.keyboard.type(self.group.pin[2:])
        page.get_by_role("button", name="Join").click()
        expect(page.get_by_role("heading", name="Build this cell")).to_be_visible()

    def test_a_device_whose_last_group_left_without_network_stays_with_the_one_that_joined(self):
        page = self.device(PHONE, touch=True)
        page.goto("/join")
        page.locator("#first").wait_for(state="detached")
        page.evaluate("localStorage.setItem('pipette:left', '1')")
        page.route(SCRIPTS, lambda route: route.abort())
        page.goto(f"/join?code={self.lab.join_code}")
        page.get_by_label("PIN of your group").fill(self.group.pin)
        page.unroute(SCRIPTS)
        page.get_by_role("button", name="Join").click()
        expect(page.get_by_role("heading", name="Build this cell")).to_be_visible()
        self.assertIsNone(page.evaluate("localStorage.getItem('pipette:left')"))
        self.assertNotIn("pipette_joined", page.evaluate("document.cookie"))
        self.assertEqual(GroupSession.objects.filter(ended_at__isnull=True).count(), 1)

    def test_the_next_who_joins_finds_no_pin(self):
        page = self.device(PHONE, touch=True)
        page.goto(f"/join?code={self.lab.join_code}")
        page.get_by_label("PIN of your group").fill(self.group.pin)
        page.locator("#first").wait_for(state="detached")
        page.get_by_role("button", name="Join").click()
        page.get_by_role("button", name="Leave this bench").click()
        page.get_by_role("alertdialog").get_by_role("button", name="Leave").click()
        expect(page.get_by_label("PIN of your group")).to_have_value("")
