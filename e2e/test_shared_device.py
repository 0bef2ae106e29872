"""One tablet, one group after the other: the next sees nothing of the last, and nothing of the last is lost."""

import re

from playwright.sync_api import expect

from e2e.browser import PHONE
from e2e.live import BrowserTestCase
from server.entries.models import Reading
from server.findings.release import release
from server.people.models import GroupSession
from server.tests.support import cell_of, group_of, lab_of, record, teacher

KEPT = """async () => {
    const data = await caches.open("pipette-bench-1");
    return (await Promise.all((await data.keys()).map(async (one) => (await data.match(one)).text()))).join("");
}"""


class SharedDevice(BrowserTestCase):
    keeps_pages = True

    def setUp(self):
        super().setUp()
        self.ada = teacher("ada")
        self.lab = lab_of(self.ada)
        self.tern, self.knot = group_of(self.lab), group_of(self.lab, "Knot")

    def kept_when_joined(self, page):
        self.until_kept(page, "/api/bench")
        self.assertIn("Tern", page.evaluate(KEPT))

    def test_leaving_without_network_names_what_is_unsent_and_shows_nothing_of_the_group_any_more(self):
        page = self.device(size=PHONE)
        self.join(page, self.lab.join_code, self.tern.pin)
        self.kept_when_joined(page)
        page.context.set_offline(True)
        self.type_reading(page, "0.914")
        expect(page.get_by_text("1 not sent yet")).to_be_visible()
        page.get_by_role("textbox", name="Reading in").fill("0.77")
        page.get_by_role("button", name="Leave").click()
        dialog = page.get_by_role("alertdialog")
        expect(dialog).to_contain_text("1 reading, 1 text you have begun")
        expect(dialog).to_contain_text("only Tern sees it")
        page.get_by_role("button", name="Leave all the same").click()
        expect(page.get_by_role("heading", name="Join your lab")).to_be_visible()
        self.assertNotIn("Tern", page.evaluate(KEPT))
        page.go_back()
        expect(page.get_by_role("heading", name="Join your lab")).to_be_visible()
        for hidden in ("0.914", "Tern", "0.77"):
            self.assertNotIn(hidden, page.content())
        self.assertEqual(GroupSession.objects.alive().count(), 1)  # the server has not heard of it yet
        page.context.set_offline(False)
        self.until(page, lambda: not GroupSession.objects.alive().exists(), "the group is still there")
        self.assertEqual(Reading.objects.count(), 0)

        self.join(page, self.lab.join_code, self.knot.pin)
        expect(page.get_by_text("All readings sent")).to_be_visible()
        for hidden in ("0.914", "0.77"):
            self.assertNotIn(hidden, page.content())
        self.assertEqual(Reading.objects.count(), 0)
        self.leave(page)
        expect(page.get_by_role("heading", name="Join your lab")).to_be_visible()

        self.join(page, self.lab.join_code, self.tern.pin)
        expect(page.get_by_role("button", name="Correct 0.914 V")).to_be_visible()
        expect(page.get_by_role("textbox", name="Reading in")).to_have_value("0.77")
        self.assertEqual(Reading.objects.get().cell.group_id, self.tern.id)

    def test_a_copied_cookie_is_dead_after_leaving_and_another_tab_shows_nothing(self):
        page = self.device()
        self.join(page, self.lab.join_code, self.tern.pin)
        other = page.context.new_page()
        other.goto("/bench")
        expect(other.get_by_role("heading", name="Build this cell")).to_be_visible()
        thief = self.browser.new_context(base_url=self.url)
        thief.add_cookies(page.context.cookies())
        stolen = thief.new_page()
        stolen.goto("/bench")
        expect(stolen.get_by_role("heading", name="Build this cell")).to_be_visible()
        self.leave(page)
        expect(page.get_by_role("heading", name="Join your lab")).to_be_visible()
        expect(other.get_by_role("heading", name="Join your lab")).to_be_visible()
        stolen.reload()
        expect(stolen.get_by_role("heading", name="Join your lab")).to_be_visible()
        thief.close()

    def test_the_next_group_sees_nothing_of_an_unsent_claim_and_the_first_finds_it_again(self):
        for group in (self.tern, self.knot):
            record(cell_of(group), "0.94")
        release(actor=self.ada, lab_id=self.lab.id, parts=["claims"])
        page = self.device()
        self.join(page, self.lab.join_code, self.tern.pin)
        page.goto("/bench/claims")
        words = "The film on our plate took half a volt"
        page.get_by_label(re.compile("^Why|reasoning|shows it", re.I)).last.fill(words)
        page.goto("/bench")
        page.get_by_role("button", name="Leave").click()
        expect(page.get_by_role("alertdialog")).to_contain_text("1 text you have begun")
        page.get_by_role("button", name="Leave all the same").click()
        self.join(page, self.lab.join_code, self.knot.pin)
        page.goto("/bench/claims")
        expect(page.get_by_text("Where did the volts go?").first).to_be_visible()
        self.assertNotIn(words, page.content())
        page.goto("/bench")
        self.leave(page)
        self.join(page, self.lab.join_code, self.tern.pin)
        page.goto("/bench/claims")
        expect(page.get_by_text(words)).to_be_visible()
