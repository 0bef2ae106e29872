"""Every page at both sizes: reachable, readable, without a fault of accessibility, and kind when something is not there."""

import re

from django.contrib.sessions.models import Session
from playwright.sync_api import expect

from e2e.browser import LAPTOP, PHONE
from e2e.live import BrowserTestCase
from server.labs.models import Lab
from server.tests.support import cell_of, group_of, lab_of, record, teacher


class WithALab(BrowserTestCase):
    """A lab in which two groups have read three cells."""

    def setUp(self):
        super().setUp()
        self.ada = teacher("ada")
        self.lab = lab_of(self.ada)
        for name, volts in (("Tern", ("0.95", "0.45", "0.50")), ("Knot", ("0.97", "0.44", "0.52"))):
            for cell, text in zip(group_of(self.lab, name).cells.all(), volts, strict=False):
                record(cell, text)


class AtBothSizes(WithALab):
    """A page is opened once and looked at on a laptop, then as wide as a phone."""

    def look(self, page, path, heading, sizes):
        page.set_viewport_size(LAPTOP)
        page.goto(path)
        expect(page.get_by_role("heading", name=heading).first).to_be_visible()
        page.wait_for_load_state("networkidle")
        for size in (LAPTOP, PHONE):
            page.set_viewport_size(size)
            if size in sizes:
                self.check_access(page)
            width = page.evaluate("[document.documentElement.scrollWidth, window.innerWidth]")
            self.assertLessEqual(width[0], width[1], f"{path} is wider than the screen")
        expect(page).to_have_title(re.compile("Pipette"))

    def test_all_pages_of_a_teacher_fit_and_are_accessible(self):
        twin = lab_of(self.ada, title="Another class")
        for cell, text in zip(group_of(twin).cells.all(), ("0.93", "0.44", "0.51"), strict=False):
            record(cell, text)
        draft = lab_of(self.ada, opened=False, title="Draft", electrolytes=["rhubarb-juice", "kcl-0.10"], minutes=60)
        page = self.device()
        self.signed_in(page)
        for path, heading in {
            "/labs": "Your labs",
            "/labs/new": "Plan a lab",
            "/labs/import": "Bring in last week’s table",
            "/materials": "Your cupboard",
            f"/labs/{self.lab.id}/plan": "Who measures what",
            f"/labs/{draft.id}/plan": "Who does what, when",
            f"/labs/{draft.id}/setup": "Change the lab",
            f"/labs/{draft.id}/kit": "Kit and mixing",
            f"/labs/{draft.id}/safety": "Safety sheet",
            f"/labs/{draft.id}/cards": "Bench cards",
            f"/labs/{draft.id}/print": "Safety sheet",
            f"/labs/{self.lab.id}/predict": "What groups expect",
            f"/labs/{self.lab.id}/board": "The room, minute by minute",
            f"/labs/{self.lab.id}/compare": "Where each plate sits",
            f"/labs/{self.lab.id}/power": "What should it run?",
            f"/labs/{self.lab.id}/report": "Notebooks",
            f"/labs/{self.lab.id}/notebook": "How each value came about",
            f"/labs/{self.lab.id}/notebook/{group_of(self.lab).id}": "What we recorded",
            f"/years?lab={self.lab.id}&lab={twin.id}": "What to expect here",
            "/nowhere": "There is no page here",
        }.items():
            with self.subTest(path=path):
                self.look(page, path, heading, [LAPTOP])  # a teacher's, which fit a phone too

    def test_pages_without_a_sign_in_fit_and_are_accessible(self):
        page = self.device()
        for path, heading in {
            "/": "Join your lab",
            "/practise": "What is wrong here?",
            "/sign-in": "Teachers sign in",
        }.items():
            with self.subTest(path=path):
                self.look(page, path, heading, [LAPTOP, PHONE])


class Pages(WithALab):
    def test_a_lab_without_readings_says_what_to_do_next(self):
        empty = lab_of(self.ada, opened=False, title="Empty")
        page = self.device()
        self.signed_in(page)
        page.goto(f"/labs/{empty.id}/compare")
        expect(page.get_by_role("heading", name="Nothing to compare yet")).to_be_visible()
        page.get_by_role("link", name="To the plan").click()
        expect(page.get_by_role("heading", name="Who does what, when")).to_be_visible()
        page.goto(f"/labs/{empty.id}/board")
        expect(page.get_by_text("Groups cannot join until you open the bench.")).to_be_visible()

    def test_what_is_still_out_is_not_claimed(self):
        """Every answer of a page can be late by itself: nothing is said of it before it is there."""
        draft, held = lab_of(self.ada, opened=False, title="Draft"), []
        page = self.device()
        self.signed_in(page)
        about = f"/labs/{self.lab.id}"
        for path, late, heading, never in (
            (
                f"/labs/{draft.id}/setup",
                "**/api/labs/preview*",
                "Change the lab",
                re.compile("No plan can|appear here as soon"),
            ),
            (f"{about}/explain", "**/api/what-if", "What if", re.compile(r"^(7\.0|0\.500)$")),
            (f"{about}/explain", f"**/api{about}/accounts", "What if", "No account"),
            (f"{about}/power", f"**/api{about}/power/pack?*", "What should it run?", "takes (dashed)"),
            (f"{about}/compare", "**/api/materials", "Where each plate sits", re.compile(r"\w-(juice|brine)")),
        ):
            with self.subTest(late=late):
                page.route(late, lambda route: held.append(route))
                page.goto(path)
                expect(page.get_by_role("heading", name=heading).first).to_be_visible()
                self.until(page, lambda: held, "nothing was held back")
                expect(page.get_by_text(never)).to_have_count(0)
                page.unroute(late)
                held.clear()
        page.route(f"**/api{about}/chain", lambda route: held.append(route))
        page.goto(f"{about}/power")
        expect(page.get_by_role("button", name="Begin a chain")).to_be_disabled()

    def test_a_part_of_a_page_whose_answer_fails_says_so(self):
        page, said = self.device(), "It broke on the server, says the test."
        self.signed_in(page)
        body = {"code": "broken", "message": said, "field": None, "passing": False, "rows": []}
        about = f"/labs/{self.lab.id}"
        for path, part in {
            f"{about}/explain": (
                f"{about}/accounts",
                f"{about}/claims",
                f"{about}/evidence",
                f"{about}/packs/causes",
                "/what-if",
            ),
            f"{about}/power": (f"{about}/power/advice", f"{about}/packs", f"{about}/chain"),
            f"{about}/board": (f"{about}/packs",),
            f"{about}/plan": (f"{about}/shares",),
            f"{about}/report": (f"{about}/kept",),
            "/account": ("/account", "/account/sign-ins"),
            "/labs": ("/labs/deleted",),
            "/materials": ("/labs/short",),
        }.items():
            urls = [re.compile(rf"/api{re.escape(one)}(\?|$)") for one in part]
            for url in urls:
                page.route(url, lambda route: route.fulfill(status=403, json=body))
            page.goto(path)
            with self.subTest(path=path):
                expect(page.get_by_text(said)).to_have_count(len(part))
            for url in urls:
                page.unroute(url)

    def test_every_stage_of_a_lab_is_a_link(self):
        page = self.device()
        self.signed_in(page)
        page.goto(f"/labs/{self.lab.id}/compare")
        stages = page.get_by_role("navigation", name="Stages of this lab")
        for name in ("Plan", "Predict", "Measure", "Compare", "Explain", "Power"):
            expect(stages.get_by_role("link", name=name)).to_be_visible()
        expect(stages.get_by_role("link", name="Compare")).to_have_attribute("aria-current", "page")

    def test_closing_and_opening_the_bench(self):
        page, device = self.device(), self.device()
        self.signed_in(page)
        self.joined(device, group_of(self.lab))
        page.goto(f"/labs/{self.lab.id}/board")
        page.get_by_role("button", name="Close the bench").dblclick()
        expect(page.get_by_role("button", name="Open the bench again")).to_be_visible()
        self.assertEqual(Lab.objects.get().state, "closed")
        device.reload()
        expect(device.get_by_text("The lab is closed")).to_be_visible()
        expect(device.get_by_role("textbox", name="Reading in")).to_be_disabled()
        page.get_by_role("button", name="Open the bench again").click()
        expect(page.get_by_role("button", name="Close the bench")).to_be_visible()
        device.reload()
        expect(device.get_by_role("textbox", name="Reading in")).to_be_enabled()

    def test_signing_out_and_leaving(self):
        page = self.device()
        self.sign_in(page)
        page.get_by_role("button", name="Sign out").click()
        expect(page.get_by_role("heading", name="Teachers sign in")).to_be_visible()
        page.reload()
        expect(page.get_by_role("heading", name="Teachers sign in")).to_be_visible()
        self.joined(page, group_of(self.lab))
        page.get_by_role("button", name="Leave this bench").click()
        dialog = page.get_by_role("alertdialog")
        expect(dialog).to_contain_text("types the code and its PIN again")
        dialog.get_by_role("button", name="Stay").click()
        expect(dialog).to_be_hidden()
        page.get_by_role("button", name="Leave this bench").click()
        page.get_by_role("button", name="Leave", exact=True).click()
        expect(page.get_by_role("heading", name="Join your lab")).to_be_visible()
        page.goto("/bench")
        expect(page.get_by_role("heading", name="Join your lab")).to_be_visible()

    def test_signing_out_in_one_tab_blanks_all_and_takes_what_was_begun_along(self):
        desk = self.device()
        self.signed_in(desk)
        desk.goto(f"/labs/{self.lab.id}/board")
        expect(desk.get_by_text(re.compile(f"PIN {group_of(self.lab).pin}")).first).to_be_visible()
        desk.evaluate("sessionStorage.setItem('pipette:give-back:1', '\"Well done\"')")
        kept = f"pipette:{group_of(self.lab).id}:words:discussion"
        desk.evaluate("(key) => sessionStorage.setItem(key, '\"a group is writing\"')", kept)
        other = desk.context.new_page()
        other.goto("/labs")
        other.get_by_role("button", name="Sign out").click()
        for page in (desk, other):
            expect(page.get_by_role("heading", name="Teachers sign in")).to_be_visible()
        self.assertEqual(desk.evaluate("Object.keys(sessionStorage).filter((key) => key.startsWith('pipette:'))"), [kept])

    def test_who_is_signed_out_by_the_server_is_asked_to_sign_in_and_sees_no_pin(self):
        desk = self.device()
        self.signed_in(desk)
        desk.goto(f"/labs/{self.lab.id}/board")
        pin = desk.get_by_text(re.compile(f"PIN {group_of(self.lab).pin}"))
        expect(pin.first).to_be_visible()
        Session.objects.all().delete()
        desk.evaluate("window.dispatchEvent(new Event('visibilitychange'))")  # a look at the page asks again
        expect(desk.get_by_role("heading", name="Teachers sign in")).to_be_visible()
        expect(pin).to_have_count(0)

    def test_a_wrong_pin_is_said_and_what_was_typed_stays(self):
        page = self.device()
        page.goto("/join")
        page.get_by_label("Code").fill(self.lab.join_code)
        page.get_by_label("PIN of your group").fill("0000")
        page.get_by_role("button", name="Join").click()
        expect(page.get_by_role("alert")).to_contain_text("No open lab has that code and PIN")
        expect(page.get_by_label("Code")).to_have_value(self.lab.join_code)

    def test_every_chart_has_a_sentence_and_a_table_behind_it(self):
        page = self.device()
        self.signed_in(page)
        page.goto(f"/labs/{self.lab.id}/compare")
        expect(page.get_by_role("img", name=re.compile("Two upright scales in volts.*copper table \\+0.34"))).to_be_visible()
        expect(page.get_by_role("img", name=re.compile("3 cells, class mean beside table difference"))).to_be_visible()
        page.get_by_role("button", name="Numbers of both stems").press("Enter")
        expect(page.get_by_role("table").get_by_role("row")).to_have_count(4)

    def test_a_plan_in_the_making_outlives_a_reload_and_materials_are_found_by_name(self):
        page = self.device()
        self.signed_in(page)
        page.goto("/labs/new")
        page.get_by_label("Title").fill("Half done")
        page.get_by_label("Find in plates").fill("silv")
        page.locator("label").filter(has_text="silver").first.click()
        page.get_by_label("Find in plates").fill("brass")
        page.locator("label").filter(has_text="brass").first.click()
        page.get_by_label("Find in plates").fill("unobtainium")
        expect(page.get_by_text("None of that name.")).to_be_visible()
        page.reload()
        expect(page.get_by_label("Title")).to_have_value("Half done")
        expect(page.get_by_role("checkbox", name=re.compile("silver"))).to_be_checked()
        expect(page.get_by_role("checkbox", name=re.compile("brass"))).to_be_checked()
        expect(page.get_by_role("checkbox", name=re.compile("lemon juice")).first).to_be_checked()  # of the template
        page.get_by_role("textbox", name="Minutes", exact=True).fill("4")
        expect(page.get_by_role("alert")).to_contain_text("10 or more")

    def test_a_lab_is_planned_with_the_keyboard_alone(self):
        page = self.device()
        self.signed_in(page)
        page.goto("/labs/new")
        page.get_by_label("Title").focus()
        keys = page.keyboard
        keys.press("Control+a")
        keys.type("By keyboard")
        page.get_by_role("checkbox", name=re.compile("steel")).first.focus()
        keys.press("Space")
        page.get_by_role("button", name="Keep this plan").focus()
        keys.press("Enter")
        page.get_by_role("link", name="Sign off the safety sheet").first.press("Enter")
        page.get_by_role("checkbox", name="I have read this sheet").press("Space")
        page.get_by_role("button", name="Sign off the safety sheet").press("Enter")
        page.get_by_role("link", name="To the plan").press("Enter")
        page.get_by_role("button", name="Open the bench").focus()
        keys.press("Enter")
        expect(page.get_by_role("heading", name="The room, minute by minute")).to_be_visible()
        box = page.get_by_label(re.compile("Bench 1, Zn | Cu in lemon juice, 0 of 3"))
        box.first.focus()
        keys.press("Enter")
        expect(page.get_by_text("No reading yet.")).to_be_visible()

    def test_a_cell_that_is_not_there(self):
        page = self.device()
        self.joined(page, group_of(self.lab))
        page.goto("/bench/99")
        expect(page.get_by_role("heading", name="There is no cell 99")).to_be_visible()
        page.get_by_role("link", name="To your next cell").click()
        expect(page.get_by_role("heading", name="Build this cell")).to_be_visible()

    def test_an_absurd_reading_does_not_break_the_drawing(self):
        cell = cell_of(group_of(self.lab))
        for text in ("941", "-9999", "0.000001"):
            record(cell, text)
        page = self.device()
        self.joined(page, group_of(self.lab), "/bench/1")
        for where in ("above", "below"):
            expect(page.get_by_text(where, exact=True)).to_be_visible()
        page.wait_for_load_state("networkidle")
        other = self.device()
        self.signed_in(other)
        other.goto(f"/labs/{self.lab.id}/compare")
        expect(other.get_by_role("heading", name="Cells, widest gap first")).to_be_visible()
