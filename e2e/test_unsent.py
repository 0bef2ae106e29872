"""What waits on the device: held and offered again, late, stepped aside, or never to be kept; nothing of it is lost."""

from datetime import timedelta

from django.utils import timezone
from playwright.sync_api import expect

from e2e.live import BrowserTestCase
from server.entries.models import Reading
from server.labs.models import Lab
from server.labs.opening import close_lab, open_lab
from server.tests.support import group_of, lab_of, teacher


class Unsent(BrowserTestCase):
    def setUp(self):
        super().setUp()
        self.ada = teacher("ada")
        self.lab = lab_of(self.ada)
        self.tern = group_of(self.lab)

    def bench(self, **options):
        page = self.device(**options)
        self.joined(page, self.tern)
        return page

    def kept(self):
        return list(Reading.objects.order_by("received_at").values_list("text", "unit"))

    def soon(self, page):
        """Half a minute later by the page's clock, when what was held is offered again."""
        page.evaluate("() => { const real = Date.now; Date.now = () => real() + 31_000; }")

    def test_what_is_typed_after_closing_stays_here_and_is_sent_when_the_lab_is_open_again(self):
        page = self.device()
        page.route("**/events", lambda route: route.abort())  # a page that has not heard of it
        self.joined(page, self.tern)
        close_lab(actor=self.ada, lab_id=self.lab.id)
        Lab.objects.filter(id=self.lab.id).update(closed_at=timezone.now() - timedelta(minutes=1))
        self.type_reading(page, "0.94")
        expect(page.get_by_text("1 entry kept here, to be offered again")).to_be_visible()
        expect(page.get_by_text("safe on this device. The lab is closed, so this is not recorded yet.")).to_be_visible()
        self.assertEqual(self.kept(), [])
        open_lab(actor=self.ada, lab_id=self.lab.id)
        self.soon(page)
        expect(page.get_by_role("button", name="Correct 0.94 V")).to_be_visible()
        self.assertEqual(self.kept(), [("0.94", "V")])

    def test_what_was_typed_before_closing_without_network_counts_and_the_teacher_sees_it(self):
        page = self.bench()
        page.context.set_offline(True)
        self.type_reading(page, "0.94")
        expect(page.get_by_text("1 not sent yet")).to_be_visible()
        close_lab(actor=self.ada, lab_id=self.lab.id)
        Lab.objects.filter(id=self.lab.id).update(
            closed_at=timezone.now() + timedelta(seconds=5)
        )  # surely after it was typed
        page.context.set_offline(False)
        expect(page.get_by_text("came in after closing")).to_be_visible()
        teacher = self.device()
        self.signed_in(teacher)
        teacher.goto(f"/labs/{self.lab.id}/compare")
        expect(teacher.get_by_text("1 reading came in after closing")).to_be_visible()
        teacher.get_by_role("button", name="Show the late readings").click()
        expect(teacher.get_by_role("heading", name="Came in after closing", exact=True)).to_be_visible()
        self.check_access(teacher)

    def test_what_the_server_breaks_over_steps_aside_after_three_tries(self):
        page = self.bench()
        broken = []

        def breaks(route):
            if "0.11" in (route.request.post_data or "") and len(broken) < 3:
                broken.append(1)
                return route.fulfill(status=500, json={"code": "broken", "message": "Something went wrong here.",
                                                      "field": None, "passing": True, "rows": []})  # fmt: skip
            return route.continue_()

        page.route("**/api/bench/readings", breaks)
        self.type_reading(page, "0.11")
        self.type_reading(page, "0.94")
        expect(page.get_by_role("button", name="Correct 0.94 V")).to_be_visible()
        self.assertEqual((len(broken), self.kept()), (3, [("0.94", "V")]))
        expect(page.get_by_text("1 entry kept here, to be offered again")).to_be_visible()
        self.soon(page)
        expect(page.get_by_role("button", name="Correct 0.11 V")).to_be_visible()

    def test_a_number_that_will_never_be_kept_can_be_copied(self):
        page = self.bench()
        page.context.set_offline(True)
        self.type_reading(page, "hello 0.94")
        expect(page.get_by_text("1 not sent yet")).to_be_visible()
        expect(page.get_by_text("1 entry safe on this device")).to_be_visible()  # sending it was tried, and given up for now
        page.context.set_offline(False)
        expect(page.get_by_text("not recorded: “hello 0.94” is not one number")).to_be_visible()
        page.get_by_role("button", name="Copy hello 0.94").click()
        expect(page.get_by_text("Copied")).to_be_visible()

    def test_it_can_be_copied_on_plain_http_too_where_a_browser_has_no_clipboard(self):
        page = self.bench()
        page.evaluate("""() => {
          delete Navigator.prototype.clipboard;
          document.addEventListener("copy", () => { window.copied = document.activeElement.value; });
        }""")
        page.context.set_offline(True)
        self.type_reading(page, "hello 0.94")
        expect(page.get_by_text("1 not sent yet")).to_be_visible()
        page.context.set_offline(False)
        page.get_by_role("button", name="Copy hello 0.94").click()
        expect(page.get_by_text("Copied")).to_be_visible()
        self.assertEqual(page.evaluate("window.copied"), "hello 0.94 V")

    def test_words_are_no_reading_while_the_network_is_away(self):
        page = self.bench()
        page.context.set_offline(True)
        self.type_reading(page, "hello")
        expect(page.get_by_text("1 not sent yet")).to_be_visible()
        expect(page.get_by_role("heading", name="First reading of 3")).to_be_visible()

    def test_what_waits_is_corrected_before_it_is_sent_and_both_are_kept(self):
        page = self.bench()
        page.context.set_offline(True)
        self.type_reading(page, "0.49")
        page.get_by_role("button", name="Correct before it is sent: 0.49 V").click()
        expect(page.get_by_role("heading", name="Correct 0.49 V")).to_be_visible()
        page.get_by_role("button", name="typed it wrong").click()
        self.type_reading(page, "0.94")
        expect(page.get_by_role("heading", name="Second reading of 3")).to_be_visible()  # of the two one counts
        expect(page.get_by_role("button", name="Correct before it is sent")).to_have_count(1)
        page.context.set_offline(False)
        expect(page.get_by_role("button", name="Correct 0.94 V")).to_be_visible()
        wrong, right = Reading.objects.order_by("received_at")
        self.assertEqual((wrong.text, right.text, right.corrects, right.reason), ("0.49", "0.94", wrong, "typed it wrong"))
