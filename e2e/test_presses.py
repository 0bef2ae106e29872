"""Hands that slip: everything is pressed twice at once, and chosen anew before the answer to the last choice is here."""

import re
import threading

from django.db import connections
from playwright.sync_api import expect

from e2e.browser import PHONE
from e2e.live import BrowserTestCase
from e2e.test_records import filled
from server.findings.models import Claim
from server.findings.release import release
from server.labs.models import Lab
from server.notebook.models import HandedIn, Returned, Words
from server.people.models import Deed
from server.power.models import Pack
from server.tests.support import as_teacher, group_of, lab_of, record, teacher

TWICE = "(button) => { button.click(); button.click(); }"


class Presses(BrowserTestCase):
    def setUp(self):
        super().setUp()
        self.ada = teacher("ada")
        self.lab = lab_of(self.ada, question="Is the table right?")
        filled(self.lab)
        self.tern = group_of(self.lab)

    def tearDown(self):
        connections.close_all()
        super().tearDown()

    def twice(self, button):
        """Press before anything can answer the first press, and again as a hand does that trembles."""
        expect(button).to_be_enabled()
        button.evaluate(TWICE)

    def teacher(self, path):
        page = self.device()
        self.signed_in(page)
        page.goto(path)
        return page

    def test_a_package_brought_in_by_a_double_press_makes_one_lab(self):
        content = as_teacher(self.ada).get(f"/api/labs/{self.lab.id}/package.zip").content
        page = self.teacher("/labs/import")
        with page.expect_file_chooser() as chooser:
            page.get_by_role("button", name=re.compile("Choose")).click()
        chooser.value.set_files([{"name": "lab.zip", "mimeType": "application/zip", "buffer": content}])
        self.twice(page.get_by_role("button", name="Bring the package in"))
        expect(page.get_by_text("“A lab (2)” came in")).to_be_visible()
        self.assertEqual(Lab.objects.count(), 2)

    def test_what_was_done_although_its_answer_was_lost_is_not_done_again(self):
        page = self.teacher(f"/labs/{self.lab.id}/board")
        lost = []

        def lose(route):
            if not lost:
                lost.append(route.fetch().status)  # the server has done it
                route.abort()
            else:
                route.continue_()

        page.route("**/minutes", lose)
        more = page.get_by_role("button", name=re.compile("5 min more"))
        more.click()
        expect(page.get_by_text("The server cannot be reached.").first).to_be_visible()
        more.click()
        back = page.get_by_role("button", name="Take the 5 min back")
        expect(back).to_be_visible()
        self.assertEqual((lost, Lab.objects.get().minutes), ([200], 50))
        more.click()  # and pressed on purpose once more it is done once more
        self.until(page, lambda: Lab.objects.get().minutes == 55, "five more minutes did not come")
        self.assertEqual(Deed.objects.filter(what="minutes").count(), 2)

    def test_a_pack_begun_and_a_notebook_handed_in_by_a_double_press_are_one_each(self):
        release(actor=self.ada, lab_id=self.lab.id, parts=("power", "notebook"))
        phone = self.device(size=PHONE, touch=True)
        self.joined(phone, self.tern, "/bench")
        phone.goto("/bench/packs")
        self.twice(phone.get_by_role("button", name=re.compile("Begin")))
        expect(phone).to_have_url(re.compile("/bench/packs/[0-9a-f-]{36}"))
        phone.wait_for_timeout(500)
        self.assertEqual(Pack.objects.count(), 1)
        phone.goto("/bench/notebook")
        field = phone.get_by_label("What is your answer to the question")
        field.fill("Lower than the table.")
        field.blur()
        self.until(phone, Words.objects.exists, "the words did not come")
        self.twice(phone.get_by_role("button", name="Hand in").first)
        expect(phone.get_by_role("heading", name=re.compile("Handed in"))).to_be_visible()
        phone.wait_for_timeout(500)
        self.assertEqual(HandedIn.objects.count(), 1)
        desk = self.teacher(f"/labs/{self.lab.id}/report")
        desk.get_by_role("link", name="Tern").click()
        desk.get_by_label("To the whole").fill("Clear.")
        self.twice(desk.get_by_role("button", name="Give it back"))
        expect(desk.get_by_text("Given back; the group sees it in its notebook.")).to_be_visible()
        self.assertEqual(Returned.objects.count(), 1)

    def test_a_claim_by_a_double_press_is_one(self):
        release(actor=self.ada, lab_id=self.lab.id, parts=("claims",))
        phone = self.device(size=PHONE, touch=True)
        self.joined(phone, self.tern, "/bench")
        phone.get_by_role("link", name="make your claim").click()
        phone.get_by_role("button", name=re.compile("Where did the volts go?")).click()
        phone.get_by_role("option", name="It is the acid (the pH)").click()
        phone.get_by_role("group", name="Your readings that show it").get_by_role("button").first.click()
        phone.get_by_label("Why do these readings show it?").fill("It was dull.")
        self.twice(phone.get_by_role("button", name="Claim it"))
        expect(phone.get_by_role("button", name="Revise this")).to_be_visible()
        self.assertEqual(Claim.objects.count(), 1)


class Overtaken(BrowserTestCase):
    def setUp(self):
        super().setUp()
        self.ada = teacher("ada")
        self.lab = lab_of(self.ada)
        for cell, text in zip(group_of(self.lab).cells.all(), ("0.95", "0.45", "0.50"), strict=False):
            record(cell, text)

    def tearDown(self):
        connections.close_all()
        super().tearDown()

    def held(self, page, pattern):
        """From now on answers of an address wait until the event is set."""
        go = threading.Event()
        waiting = []
        page.route(pattern, lambda route: route.continue_() if go.is_set() else waiting.append(route))
        return lambda: (go.set(), [route.continue_() for route in waiting])

    def test_what_is_said_of_another_load_is_greyed_until_this_ones_answer_is_here(self):
        page = self.device()
        self.signed_in(page)
        page.goto(f"/labs/{self.lab.id}/power")
        picture = page.get_by_role("img", name=re.compile("They meet at"))
        expect(picture).to_be_visible()
        expect(page.get_by_role("heading", name="How many in a row?")).to_be_visible()
        expect(page.locator("[aria-busy=true]")).to_have_count(0)
        release_answers = self.held(page, re.compile("/power/(pack|advice)"))
        page.get_by_text("pocket calculator").click()
        expect(page.locator("[aria-busy=true]").filter(has=picture)).to_have_count(1)
        self.assertEqual(page.locator("[aria-busy=true]").count(), 4)  # the stems, the picture, how many, the notes
        release_answers()
        expect(page.locator("[aria-busy=true]")).to_have_count(0)
        expect(page.get_by_text(re.compile("what the pocket calculator takes"))).to_be_visible()

    def test_a_liquids_numbers_belong_to_the_amount_that_is_typed(self):
        page = self.device()
        self.signed_in(page)
        page.goto("/materials")
        page.get_by_role("button", name=re.compile("Make a liquid")).click()
        says = page.get_by_role("status", name="What it comes to")
        expect(says).to_contain_text("table salt 2 g")
        release_answers = self.held(page, "**/made/preview")
        page.get_by_label("How much").fill("2,5")
        expect(page.locator("[aria-busy=true]").filter(has=says)).to_have_count(1)
        release_answers()
        expect(says).to_contain_text("table salt 2.5 g")
        expect(page.locator("[aria-busy=true]")).to_have_count(0)

    def test_four_ticks_in_a_row_are_kept_however_slow_the_answers_and_two_tabs_take_nothing_from_each_other(self):
        page = self.device()
        self.signed_in(page)
        page.goto(f"/labs/{self.lab.id}/compare")
        other = page.context.new_page()
        other.goto(f"/labs/{self.lab.id}/compare")
        page.route("**/release", lambda route: (page.wait_for_timeout(0), threading.Event().wait(0.3), route.continue_()))
        shown = page.get_by_role("group", name="Groups see")
        for name in ("the class’s results", "where the volts went", "a form for their own claims", "a bench for packs"):
            shown.get_by_text(name).click()
        wanted = {"compare", "explain", "claims", "power"}
        self.until(page, lambda: set(Lab.objects.get().released) == wanted, "a tick was lost")
        box = other.get_by_role("group", name="Groups see")
        other.reload()
        box.get_by_text("their notebook").click()
        self.until(other, lambda: set(Lab.objects.get().released) == wanted | {"notebook"}, "the other tab took a tick back")
