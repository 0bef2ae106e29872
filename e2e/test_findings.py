"""The end of the lesson: compare, set aside, explain, claims, and what groups see of it."""

import re
import uuid

from django.db import connections
from playwright.sync_api import expect

from e2e.browser import PHONE
from e2e.live import BrowserTestCase
from server.claims.schemas import ClaimIn
from server.claims.services import record_claim
from server.findings.models import Answer, Claim
from server.findings.release import release
from server.labs.schemas import CellIO
from server.tests.support import group_of, lab_of, member_of, record, record_all, teacher

TRUE_V = {"magnesium": -1.36, "aluminium": -0.50, "zinc": -0.78, "tin": -0.28, "copper": 0.17}


class Findings(BrowserTestCase):
    def setUp(self):
        super().setUp()
        self.ada = teacher("ada")
        self.lab = lab_of(
            self.ada, groups=("Tern", "Knot", "Ruff", "Gull"), electrodes=list(TRUE_V),
            electrolytes=["rhubarb-juice", "kelp-brine"], minutes=90,
        )  # fmt: skip
        bridged = group_of(self.lab, "Knot").cells.filter(shared=False, electrolyte="rhubarb-juice").first()
        readings = []
        for number, group in enumerate(self.lab.groups.order_by("position")):
            for place, cell in enumerate(group.cells.all()):
                volts = TRUE_V[cell.positive] - TRUE_V[cell.negative] + 0.006 * ((place + number) % 3 - 1)
                if group.name == "Knot" and cell == bridged:
                    volts *= 0.02
                readings += [(cell, f"{volts + 0.002 * nth:.3f}") for nth in range(3)]
        record_all(readings)
        self.page = self.device()
        self.signed_in(self.page)

    def tearDown(self):
        connections.close_all()
        super().tearDown()

    def open(self, path):
        self.page.goto(f"/labs/{self.lab.id}/{path}")

    def test_compare_tells_each_liquid_all_liquids_and_groups_and_passes_axe(self):
        self.open("compare")
        expect(self.page.get_by_text(re.compile("Knot’s .* does not fit")).first).to_be_visible()
        expect(self.page.get_by_text("Al and Zn changed places").first).to_be_visible()
        self.page.get_by_role("button", name="The numbers").first.click()
        expect(self.page.get_by_text("from the ladder of all other values").first).to_be_visible()
        self.check_access(self.page)
        self.page.get_by_role("button", name="Numbers of all cells and groups").click()
        self.page.get_by_role("button", name=re.compile("^class, V")).click()
        expect(self.page.get_by_role("columnheader", name=re.compile("^class, V"))).to_have_attribute(
            "aria-sort", "ascending"
        )
        self.page.get_by_role("tab", name="all liquids").click()
        expect(self.page.get_by_role("heading", name="The ladders side by side")).to_be_visible()
        expect(self.page.get_by_role("img", name=re.compile("Volts against pH"))).to_be_visible()
        self.check_access(self.page)
        self.page.get_by_role("tab", name="groups").click()
        expect(self.page.get_by_role("img", name=re.compile("Each group against the class"))).to_be_visible()
        self.check_access(self.page)

    def test_what_is_chosen_is_in_the_address_and_a_reload_shows_it_again(self):
        self.open("compare")
        self.page.get_by_role("tab", name="groups").click()
        expect(self.page).to_have_url(re.compile(r"tab=groups"))
        self.page.reload()
        expect(self.page.get_by_role("tab", name="groups")).to_have_attribute("aria-selected", "true")
        self.open("board")
        self.page.get_by_role("button", name="Tern, PIN and meter").click()
        expect(self.page.get_by_role("button", name="New PIN, all devices out")).to_be_visible()
        self.page.get_by_label("Address of a connected meter").fill("")
        self.check_access(self.page)
        self.page.get_by_role("button", name=re.compile("^Knot, ")).nth(1).click()
        expect(self.page.get_by_role("button", name="New PIN, all devices out")).to_have_count(0)
        self.page.reload()
        expect(self.page.get_by_role("columnheader", name="does it count?")).to_be_visible()
        self.page.get_by_role("button", name="Sign out").click()
        expect(self.page.get_by_role("button", name="Sign in")).to_be_visible()

    def test_setting_a_reading_aside_shows_at_once_what_changes_and_can_be_taken_back(self):
        self.open("compare")
        self.page.get_by_role("tab", name="groups").click()
        self.page.get_by_role("button", name="Readings of a group").click()
        self.page.get_by_role("button", name="Set aside, with a reason").first.click()
        self.page.get_by_label("Reason").fill("plates touched")
        self.page.get_by_label("Reason").press("Enter")
        expect(self.page.get_by_role("heading", name="What changed")).to_be_visible()
        expect(self.page.get_by_text("plates touched").first).to_be_visible()
        self.page.get_by_role("button", name="Take it back").first.click()
        expect(self.page.get_by_role("button", name="Take it back")).to_have_count(0)

    def test_explain_takes_a_gap_apart_answers_what_if_and_scores_the_accounts(self):
        self.open("explain")
        expect(self.page.get_by_role("heading", name=re.compile("where .* went"))).to_be_visible()
        self.page.get_by_role("button", name=re.compile("^Skin on")).first.click()
        expect(self.page.get_by_text("A test for it: rub the plate under the surface")).to_be_visible()
        expect(self.page.get_by_role("heading", name=re.compile("^Negative plate"))).to_be_visible()
        slider = self.page.get_by_role("slider", name=re.compile("ions in the liquid"))
        expect(slider).to_have_attribute("aria-valuetext", "as it is")
        slider.press("ArrowRight")
        expect(slider).to_have_attribute("aria-valuetext", re.compile("^10 to the power of .* moles per litre$"))
        expect(self.page.get_by_text("Which account fits all")).to_be_visible()
        expect(self.page.get_by_role("heading", name="What your values speak for")).to_be_visible()
        expect(self.page.get_by_role("img", name=re.compile("^Shares of a hundred after each of"))).to_be_visible()
        self.page.get_by_role("button", name="The shares, value by value").click()
        expect(self.page.get_by_role("columnheader", name="None of them")).to_be_visible()
        self.check_access(self.page)
        self.page.get_by_text("Films scratched off").click()
        shown = self.page.get_by_role("region", name="What if").locator("dd")
        usual = shown.filter(has_text="V").nth(0).inner_text()
        expect(shown.filter(has_text="V").nth(1)).not_to_have_text(usual)
        self.page.get_by_role("slider", name="Temperature").focus()
        self.page.keyboard.press("ArrowRight")
        expect(self.page.get_by_text("26 °C")).to_be_visible()

    def test_the_projector_goes_on_and_back_with_the_arrow_keys(self):
        self.open("compare/projector")
        expect(self.page.get_by_role("heading", level=1)).to_contain_text("Where each plate sits")
        self.page.keyboard.press("ArrowRight")
        expect(self.page.get_by_role("heading", level=1)).to_contain_text("widest gap first")
        self.check_access(self.page)
        self.page.keyboard.press("ArrowLeft")
        expect(self.page.get_by_role("heading", level=1)).to_contain_text("Where each plate sits")
        self.page.keyboard.press("PageDown")
        expect(self.page.get_by_role("heading", level=1)).to_contain_text("widest gap first")
        self.page.keyboard.press("PageUp")
        expect(self.page.get_by_role("heading", level=1)).to_contain_text("Where each plate sits")
        self.open("explain/projector")
        expect(self.page.get_by_role("heading", level=1)).to_contain_text("went")
        self.page.keyboard.press("ArrowRight")
        expect(self.page.get_by_role("heading", level=1)).to_contain_text("What goes round")
        ring = self.page.get_by_role("img", name=re.compile("^aluminium .* through 470 Ω: .* Electrons go through the wire"))
        expect(ring).to_be_visible()
        self.page.get_by_text("nothing", exact=True).click()
        expect(self.page.get_by_role("img", name=re.compile("No electrons go through the wire"))).to_be_visible()
        self.check_access(self.page)
        self.page.locator("body").click(position={"x": 5, "y": 5})
        self.page.get_by_role("button", name="The next slide").click()
        expect(self.page.get_by_role("heading", level=1)).to_contain_text("Which account fits")
        self.check_access(self.page)

    def test_a_claim_opens_where_the_volts_went_and_who_clicks_on_waits(self):
        release(actor=self.ada, lab_id=self.lab.id, parts=["claims"])
        phone = self.device(PHONE, touch=True)
        self.joined(phone, group_of(self.lab))
        phone.goto("/bench/explain")
        expect(phone.get_by_role("heading", name="First your claim")).to_be_visible()
        phone.get_by_role("link", name="To your claims").click()
        self.select(phone, "Where did the volts go?", "A skin on the metal holds it back")
        phone.get_by_role("group", name="Your readings that show it").get_by_role("button").first.click()
        phone.get_by_label("Why do these readings show it?").fill("It came back after rubbing.")
        expect(phone.get_by_text("your claim opens where the volts of this cell went")).to_be_visible()
        phone.get_by_label("What would speak against it?").fill("If rubbing changed nothing.")
        self.check_access(phone)
        phone.get_by_role("button", name="Claim it").dblclick()
        expect(phone.get_by_text("Against it would speak: “If rubbing changed nothing.”")).to_have_count(1)
        phone.get_by_role("button", name="Revise this").click()
        self.select(phone, "Where did the volts go?", "It is the acid (the pH)")
        phone.get_by_role("button", name="Keep the new version").click()
        expect(phone.get_by_text("This is version 2 in a short time.")).to_be_visible()
        self.check_access(phone)
        phone.get_by_role("link", name="Where its volts went").first.click()
        expect(phone.get_by_role("heading", name=re.compile("where .* (went|came from)")).first).to_be_visible()
        self.check_access(phone)

    def test_a_group_claims_on_its_phone_the_tool_asks_back_and_the_teacher_answers(self):
        phone = self.device(PHONE, touch=True)
        self.joined(phone, group_of(self.lab))
        phone.goto("/bench/results")
        expect(phone.get_by_role("heading", name="Not shown yet")).to_be_visible()
        self.open("explain")
        for part in ("the class’s results", "where the volts went", "a form for their own claims"):
            self.page.get_by_text(part, exact=True).click()
            expect(self.page.get_by_role("checkbox", name=part)).to_be_checked()
        phone.goto("/bench")
        phone.get_by_role("link", name="make your claim").click()
        phone.get_by_role("button", name=re.compile("Where did the volts go?")).click()
        phone.get_by_role("option", name="It is the acid (the pH)").click()
        phone.get_by_role("group", name="Your readings that show it").get_by_role("button").first.click()
        phone.get_by_label("Why do these readings show it?").fill("The fruit makes the electricity.")
        phone.get_by_text("Our teacher may show this to the class").click()
        self.check_access(phone)
        phone.get_by_role("button", name="Claim it").click()
        back = phone.get_by_role("region", name="A question back")
        expect(back.get_by_text("Do you mean “the fruit makes the electricity”?")).to_be_visible()
        expect(phone.get_by_text(re.compile("^You mean"))).to_have_count(0)
        self.check_access(phone)
        back.get_by_role("button", name="Yes").dblclick()
        expect(phone.get_by_text("You mean “the fruit makes the electricity”.")).to_be_visible()
        expect(phone.get_by_text("What is used up: the fruit, or one of the plates?")).to_be_visible()
        phone.get_by_role("button", name="Revise this").click()
        phone.get_by_label("Why do these readings show it?").fill("The zinc dissolves.")
        phone.get_by_role("button", name="Keep the new version").click()
        expect(phone.get_by_text("revised later")).to_be_visible()
        self.assertLessEqual(phone.evaluate("document.documentElement.scrollWidth"), PHONE["width"])
        self.assertEqual(Claim.objects.count(), 2)
        self.open("explain")
        expect(self.page.get_by_text("1 claim, 1 not answered yet.")).to_be_visible()
        self.page.get_by_role("link", name="Read and answer them").click()
        expect(self.page.get_by_text("“The zinc dissolves.”")).to_be_visible()
        self.page.get_by_label("Your answer").fill("How do you know?")
        self.page.get_by_label("Evidence, of 3").fill("two")
        self.page.get_by_role("button", name="Send").click()
        expect(self.page.get_by_text("0 to 3, or nothing")).to_be_visible()
        expect(self.page.get_by_label("Evidence, of 3")).to_have_value("two")
        expect(self.page.get_by_label("Evidence, of 3")).to_be_focused()
        self.page.get_by_label("Evidence, of 3").fill("2")
        self.page.get_by_role("button", name="Send").click()
        expect(self.page.get_by_text("All 1 claim answered.")).to_be_visible()
        self.check_access(self.page)
        phone.reload()
        expect(phone.get_by_text("How do you know?")).to_be_visible()
        phone.goto("/bench/results")
        expect(phone.get_by_role("heading", name="Where each plate sits")).to_be_visible()
        self.check_access(phone)
        phone.goto("/bench/explain")
        expect(phone.get_by_role("heading", name=re.compile("where .* went"))).to_be_visible()
        self.check_access(phone)

    def test_claims_of_all_groups_are_marked_one_after_the_other_by_keyboard_alone(self):
        release(actor=self.ada, lab_id=self.lab.id, parts=["claims"])
        for group in self.lab.groups.order_by("position"):
            cell = group.cells.first()
            entry = ClaimIn(
                id=uuid.uuid4(), cell=CellIO.of(cell.cell), cause="film", reasoning="The dull plate lifts it.", cited=[]
            )
            record_claim(actor=member_of(group), entry=entry)
        self.open("claims")
        self.page.get_by_role("option", name=re.compile("^Tern")).focus()
        keyboard = self.page.keyboard
        expect(self.page.get_by_role("heading", name="Tern")).to_be_visible()
        keyboard.press("Tab")
        expect(self.page.get_by_label("Claim, of 2")).to_be_focused()
        for group in ("Tern", "Knot", "Ruff", "Gull"):
            expect(self.page.get_by_role("heading", name=group, exact=True)).to_be_visible()
            expect(self.page.get_by_label("Claim, of 2")).to_be_focused()
            keyboard.type("1")
            keyboard.press("Tab")
            keyboard.type("2,5")
            keyboard.press("Tab")
            keyboard.press("Tab")
            keyboard.type("Which reading shows it?")
            keyboard.press("Control+Enter")
        expect(self.page.get_by_text("All 4 claims answered.")).to_be_visible()
        self.assertEqual([answer.marks for answer in Answer.objects.all()], 4 * [{"Claim": 1.0, "Evidence": 2.5}])
        self.check_access(self.page)


class OneThingChanged(BrowserTestCase):
    def tearDown(self):
        connections.close_all()
        super().tearDown()

    def test_distance_is_answered_for_volts_and_drawn_group_by_group(self):
        ada = teacher("ada")
        changes = {
            "varies": "spacing",
            "conditions": ["1 cm apart", "4 cm apart", "8 cm apart"],
            "electrodes": ["zinc", "copper"],
        }
        lab = lab_of(ada, groups=("Tern", "Knot", "Plover"), **changes)
        for n, name in enumerate(("Tern", "Knot", "Plover")):
            for cell in group_of(lab, name).cells.all():
                record(cell, f"{0.95 + 0.01 * n:.3f}")
        page = self.device()
        self.signed_in(page)
        page.goto(f"/labs/{lab.id}/compare")
        page.get_by_role("tab", name="what was changed").click()
        expect(page.get_by_role("img", name=re.compile("volts against spacing: 9 values of groups"))).to_be_visible()
        expect(page.get_by_text("Spacing: no effect on the volts seen")).to_be_visible()
        page.get_by_role("button", name="Numbers of every level").click()
        expect(page.get_by_role("row", name=re.compile("^Knot 0.960 0.960 0.960"))).to_be_visible()
        self.check_access(page)
