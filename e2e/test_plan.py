"""Planning in a browser: from a template to signed, printed and opened; edits by mouse and keyboard; predictions."""

import re

from django.utils import timezone
from playwright.sync_api import expect

from e2e.browser import PHONE
from e2e.live import BrowserTestCase
from galvanic.reference.catalogue import electrodes
from server.entries.models import Prediction
from server.labs.models import Lab, PlannedCell
from server.labs.opening import close_lab
from server.materials.models import OwnMaterial, Shelf
from server.tests.support import cell_of, group_of, lab_of, teacher

PLATES = ["magnesium", "zinc", "steel", "tin", "copper"]


class Planning(BrowserTestCase):
    def setUp(self):
        super().setUp()
        self.ada = teacher("ada")
        self.page = self.device()
        self.signed_in(self.page)

    def draft(self, **changes):
        plan = {"electrodes": PLATES, "groups": ["Tern", "Plover", "Curlew", "Knot"], "minutes": 60}
        return lab_of(self.ada, opened=False, **(plan | changes))

    def square(self, pair, liquid="rhubarb juice"):
        return self.page.get_by_role("button", name=re.compile(rf"^{re.escape(pair)}, {liquid}"))

    def test_a_template_becomes_a_lab_that_is_signed_printed_and_opened(self):
        page = self.page
        page.goto("/labs")
        page.get_by_role("link", name="Plan a lab").click()
        expect(page.get_by_label("Title")).to_have_value("Metals against copper")
        page.get_by_label("Their names, one a line").fill("Tern\nKnot\nPlover")
        expect(page.get_by_text(re.compile("Fits: ")).first).to_be_visible()
        page.get_by_role("button", name="Keep this plan").click()
        expect(page.locator("strong", has_text="Which metal is more negative than which?")).to_be_visible()
        lab = Lab.objects.get()
        self.assertTrue(all("copper" in cell.cell.pair for cell in PlannedCell.objects.filter(group__lab=lab)))
        page.get_by_role("link", name="Kit and mixing").click()
        expect(page.get_by_role("region", name="Plates").get_by_text("magnesium ribbon")).to_be_visible()
        expect(page.get_by_text(re.compile("Press and strain"))).to_be_visible()
        page.get_by_role("link", name="Bench cards").click()
        expect(page.get_by_role("img", name=re.compile(rf"{lab.join_code}"))).to_have_count(3)
        page.get_by_role("link", name="Plan", exact=True).first.click()
        self.sign_off(page)
        page.get_by_role("button", name="Open the bench").click()
        expect(page.get_by_role("heading", name="The room, minute by minute")).to_be_visible()

    def test_a_new_lab_opens_as_a_plan_and_what_is_typed_outlives_templates_and_leaving(self):
        page = self.page
        page.goto("/labs/new")
        expect(page.get_by_text(re.compile("Fits: ")).first).to_be_visible()
        page.get_by_label("How many groups").fill("5")
        page.get_by_label("How many groups").press("Enter")
        expect(page.get_by_label("Their names, one a line")).to_have_value(re.compile("Bench 5$"))
        expect(page.get_by_role("region", name="Who measures what").get_by_text("Bench 5")).to_be_visible()
        expect(page.get_by_text("Bench 6")).to_have_count(0)
        page.get_by_text("Spacing", exact=True).click()
        expect(page.get_by_label("Title")).to_have_value("Spacing")
        page.get_by_label("The question").fill("Why do ours differ?")
        page.get_by_text("One pair in many liquids").click()
        expect(page.get_by_label("The question")).to_have_value("Why do ours differ?")
        expect(page.get_by_label("Title")).to_have_value("One pair in many liquids")
        page.get_by_role("link", name="Pipette, start").click()
        page.get_by_role("link", name="Plan a lab").click()
        expect(page.get_by_text("You began this lab earlier")).to_be_visible()
        expect(page.get_by_label("The question")).to_have_value("Why do ours differ?")
        page.get_by_role("button", name="Begin a new one instead").click()
        expect(page.get_by_label("The question")).to_have_value("Which metal is more negative than which?")
        expect(page.get_by_text("You began this lab earlier")).to_have_count(0)

    def test_what_a_change_of_the_lab_moves_is_said_and_changes_of_the_plan_are_taken_back(self):
        lab, page = self.draft(), self.page
        page.goto(f"/labs/{lab.id}/plan")
        self.square("Mg | Zn").click()
        page.get_by_role("button", name="Clear my wishes").click()
        expect(page.get_by_text("1 number you asked for is free again.")).to_be_visible()
        page.get_by_role("button", name="Take back the last change").click()
        expect(page.get_by_role("button", name="Clear my wishes")).to_be_visible()
        page.get_by_role("button", name="Take back the last change").click()
        expect(page.get_by_role("button", name="Take back the last change")).to_have_count(0)
        page.get_by_role("link", name="Change question, materials or groups").click()
        page.get_by_role("checkbox", name=re.compile("zinc")).first.press("Space")
        expect(page.get_by_text(re.compile(r"instead of Zn \| Cu"))).to_be_visible()
        page.get_by_role("button", name="Keep this plan").click()
        expect(page.get_by_role("heading", name="Who does what, when")).to_be_visible()
        expect(page.get_by_text(re.compile(r"instead of Zn \| Cu"))).to_be_visible()
        self.check_access(page)

    def test_counts_are_changed_by_mouse_and_keyboard_and_the_margin_says_what_moved(self):
        lab, page = self.draft(), self.page
        page.goto(f"/labs/{lab.id}/plan")
        self.square("Mg | Zn").click()
        expect(page.get_by_text(re.compile(r"measures Mg \| Zn"))).to_be_visible()
        before = PlannedCell.objects.filter(group__lab=lab, negative="magnesium", positive="zinc").count()
        self.square("Mg | Zn").press("-")
        expect(page.get_by_text(re.compile("has a free place"))).to_be_visible()
        after = PlannedCell.objects.filter(group__lab=lab, negative="magnesium", positive="zinc").count()
        self.assertEqual(after, before - 1)
        page.get_by_role("button", name="Fill them").click()
        expect(page.get_by_role("status").get_by_text(re.compile("too\\."))).to_be_visible()
        self.square("Mg | Zn").focus()
        page.keyboard.press("ArrowRight")
        expect(self.square("Mg | Fe")).to_be_focused()
        page.keyboard.press("Delete")
        expect(page.get_by_text("No group measures Mg | rhubarb juice | Fe.")).to_be_visible()
        expect(self.square("Mg | Fe")).to_have_text("×")
        self.check_access(page)

    def test_a_cell_is_given_to_another_group_and_the_plan_made_anew_around_it(self):
        lab, page = self.draft(), self.page
        page.goto(f"/labs/{lab.id}/plan")
        knot = {p.cell for p in group_of(lab, "Knot").cells.all()}
        cell = next(p.cell for p in group_of(lab).cells.all() if p.cell not in knot)
        page.get_by_role("button", name=f"Tern, {cell.short}", exact=True).click()
        page.get_by_role("menuitem", name="Knot").click()
        expect(page.get_by_role("button", name=f"Knot, {cell.short}, pinned")).to_be_visible()
        page.get_by_role("button", name="Plan anew").click()
        expect(page.get_by_text("The plan is made anew around 1 pinned or wished cell.")).to_be_visible()
        expect(page.get_by_role("button", name=f"Knot, {cell.short}, pinned")).to_be_visible()
        page.get_by_role("button", name="Look for a better plan").click()
        expect(page.get_by_text(re.compile("A better plan|No better plan"))).to_be_visible()

    def test_what_is_foreseen_is_mended_where_it_is_read_also_after_the_network_was_cut(self):
        lab, page = self.draft(minutes=56), self.page
        page.goto(f"/labs/{lab.id}/plan")
        foreseen = page.locator("section", has=page.get_by_role("heading", name="What you will be able to say")).last
        shorter = foreseen.get_by_role("button", name="A cell less each")
        shorter.wait_for()
        longest = max(group.cells.count() for group in lab.groups.all())
        page.context.set_offline(True)
        shorter.click()
        expect(foreseen.get_by_role("alert")).to_contain_text("cannot be reached")
        page.context.set_offline(False)
        shorter.dblclick()
        expect(foreseen.get_by_text("minutes of the period are left for slower groups")).to_be_visible()
        expect(foreseen.get_by_role("alert")).to_have_count(0)
        self.assertEqual(max(group.cells.count() for group in lab.groups.all()), longest - 1)
        foreseen.get_by_role("button", name="Plan to decide").click()
        expect(foreseen.get_by_text(re.compile("The accounts part most|decides more often"))).to_be_visible()

    def test_a_late_start_says_what_to_drop_and_planning_anew_fits_again(self):
        lab, page = self.draft(), self.page
        page.goto(f"/labs/{lab.id}/plan")
        page.get_by_role("button", name=re.compile("Minutes")).click()
        page.get_by_role("textbox", name="Late start").fill("9")
        page.get_by_role("button", name="Set the minutes").click()
        expect(page.get_by_text("Too long: 65 of 60 minutes")).to_be_visible()
        expect(page.get_by_role("button", name=re.compile("^Drop "))).to_be_visible()
        page.get_by_role("button", name="Plan anew").click()
        expect(page.get_by_text("Fits: 59 of 60 minutes")).to_be_visible()

    def test_a_plan_with_lead_is_refused_and_the_way_out_is_shown(self):
        lab = self.draft(electrodes=["lead", "zinc", "copper"])
        self.page.goto(f"/labs/{lab.id}/safety")
        expect(self.page.get_by_text("This plan is not for students")).to_be_visible()
        expect(self.page.get_by_role("status")).to_contain_text("This sheet cannot be signed off: lead: Lead is poisonous")
        expect(self.page.get_by_role("button", name="Sign off the safety sheet")).to_have_count(0)
        self.page.get_by_role("link", name="Change the materials or the age").click()
        said = self.page.get_by_role("status", name="Safety of what is chosen")
        expect(said.get_by_role("heading", name="Not with this class: lead")).to_be_visible()
        self.page.get_by_role("checkbox", name=re.compile("lead")).first.press("Space")
        self.page.get_by_role("button", name="Keep this plan").click()
        expect(self.page.get_by_role("heading", name="Who does what, when")).to_be_visible()
        self.assertEqual(Lab.objects.get().electrodes, ["zinc", "copper"])

    def test_the_cupboard_keeps_counts_and_own_plates_which_the_plan_then_knows(self):
        page = self.page
        page.goto("/materials")
        plates = page.get_by_role("region", name="Plates")
        plates.get_by_role("button", name=re.compile("Mg magnesium$")).click()
        expect(page.get_by_role("heading", name="What it is good for")).to_be_visible()
        expect(page.get_by_role("definition").first).to_contain_text("CRC Handbook")
        page.get_by_label("How many there are").fill("2")
        page.get_by_label("How many there are").press("Tab")
        page.get_by_label("Price of one piece").fill("0.40")
        page.get_by_label("Price of one piece").press("Tab")
        expect(plates.get_by_role("button", name=re.compile("Mg × 2 magnesium"))).to_be_visible()
        self.check_access(page)
        page.get_by_role("button", name="A plate of your own").click()
        page.get_by_role("textbox", name="Name", exact=True).first.fill("Old roof zinc")
        page.get_by_label("Short sign").fill("Zn°")
        self.check_access(page)
        held, free = [], []  # an answer that comes when somebody has opened something else already
        page.route("**/api/labs/short", lambda route: route.continue_() if free else held.append(route))
        page.get_by_role("button", name="Keep this plate").click()
        plates.get_by_role("button", name=re.compile("Old roof zinc")).click()
        free.append(True)
        for route in held:
            route.continue_()
        self.assertEqual(OwnMaterial.objects.get().name, "Old roof zinc")
        self.assertEqual((Shelf.objects.get().count, float(Shelf.objects.get().price)), (2, 0.4))
        page.wait_for_load_state("networkidle")
        page.get_by_role("button", name="Change Old roof zinc").click()
        page.get_by_role("region", name="Change Old roof zinc").get_by_label("Short sign").fill("Zn*")
        page.get_by_role("button", name="Keep the changed plate").click()
        expect(plates.get_by_role("button", name=re.compile("Old roof zinc"))).to_contain_text("Zn*")
        page.get_by_label("Search").fill("penny")
        expect(plates.get_by_role("button")).to_have_count(2)
        page.get_by_label("Search").fill("unobtainium")
        expect(page.get_by_text("Nothing is called that here")).to_be_visible()
        self.assertEqual(OwnMaterial.objects.filter(retired_at=None).count(), 1)
        self.assertEqual(OwnMaterial.objects.count(), 2)
        page.goto("/labs/new")
        expect(page.get_by_role("checkbox", name=re.compile("Old roof zinc"))).to_have_count(1)
        expect(page.get_by_role("checkbox", name=re.compile("2 there"))).to_have_count(1)

    def test_a_copy_is_a_new_draft(self):
        lab = lab_of(self.ada)
        self.page.goto(f"/labs/{lab.id}/plan")
        self.page.get_by_role("button", name="Copy this lab").click()
        expect(self.page.get_by_text("draft, not open to groups")).to_be_visible()
        self.assertEqual(Lab.objects.count(), 2)
        self.page.get_by_role("button", name="Rename this lab").click()
        self.page.get_by_label("Title").fill("Tuesday's class")
        self.page.get_by_role("button", name="Keep this title").click()
        expect(self.page.get_by_role("banner").get_by_text("Tuesday's class")).to_be_visible()

    def test_a_form_in_two_tabs_says_that_the_other_has_kept_and_takes_nothing_back_unasked(self):
        lab = lab_of(self.ada, opened=False)
        first, second = self.page, self.page.context.new_page()
        for tab in (first, second):
            tab.goto(f"/labs/{lab.id}/setup")
            expect(tab.get_by_role("button", name="Keep this plan")).to_be_enabled()
        first.get_by_label("The question").fill("What does acid do?")
        first.get_by_role("button", name="Keep this plan").dblclick()
        expect(first.get_by_role("heading", name="Who does what, when")).to_be_visible()
        second.get_by_label("Title").fill("From the other tab")
        second.get_by_role("button", name="Keep this plan").click()
        expect(second.get_by_text("changed in another window")).to_be_visible()
        lab.refresh_from_db()
        self.assertEqual((lab.title, lab.question), ("A lab", "What does acid do?"))
        expect(second.get_by_label("Title")).to_have_value("From the other tab")
        second.get_by_role("button", name="Keep this plan").click()
        expect(second.get_by_role("heading", name="Who does what, when")).to_be_visible()
        lab.refresh_from_db()
        self.assertEqual(lab.title, "From the other tab")

    def test_of_a_closed_lab_it_is_shown_what_was_planned_and_its_title_and_question_can_be_changed(self):
        lab = lab_of(self.ada, question="Is the table right?")
        close_lab(actor=self.ada, lab_id=lab.id)
        self.page.goto(f"/labs/{lab.id}/setup")
        expect(self.page.get_by_role("banner").get_by_text("closed")).to_be_visible()
        expect(self.page.get_by_text("No plan can be shown")).to_have_count(0)
        expect(self.page.get_by_text("zinc; copper; tin")).to_be_visible()
        self.check_access(self.page)
        self.page.get_by_label("The question").fill("What does acid do?")
        self.page.get_by_role("button", name="Keep title and question").click()
        expect(self.page.get_by_text("Kept.", exact=True)).to_be_visible()
        lab.refresh_from_db()
        self.assertEqual((lab.title, lab.question, lab.state), ("A lab", "What does acid do?", "closed"))


class Predicting(BrowserTestCase):
    def setUp(self):
        super().setUp()
        self.ada = teacher("ada")
        self.lab = lab_of(self.ada)

    def test_two_taps_and_a_number_on_a_phone_with_the_network_cut(self):
        page = self.device(PHONE, touch=True)
        self.joined(page, group_of(self.lab))
        page.context.set_offline(True)
        page.get_by_role("button", name="zinc", exact=True).tap()
        expect(page.get_by_text("minus a minus is plus")).to_be_visible()
        expect(page.get_by_text("V = ?")).to_be_visible()
        self.check_access(page)
        page.get_by_label("How many volts by the table?").fill("1.1")
        page.get_by_text("less than the table", exact=True).tap()
        page.get_by_role("button", name="of what is in the liquid").tap()
        page.get_by_role("button", name="Keep this prediction").tap()
        said = page.get_by_role("region", name="Your prediction")
        expect(said).to_contain_text("You predicted: zinc negative, 1.1\u202fV")
        expect(said).to_contain_text("The meter will show less than the table.")
        expect(said).not_to_contain_text("by the table")  # the working comes when the meter has spoken
        self.assertEqual(Prediction.objects.count(), 0)
        page.context.set_offline(False)
        expect(page.get_by_text("All readings sent")).to_be_visible()
        kept = Prediction.objects.get()
        self.assertEqual((kept.text, kept.way, kept.because), ("1.1", "less", "the liquid"))
        self.type_reading(page, "0.95")
        expect(said).to_contain_text("You said less. It is less, by 0.15\u202fV.")
        expect(said).to_contain_text("by the table")
        self.check_access(page)

    def test_help_fades_and_a_wrong_way_stands_until_the_meter_speaks(self):
        page, tern = self.device(PHONE, touch=True), group_of(self.lab)
        for position in (1, 2):
            cell = cell_of(tern, position)
            Prediction.objects.create(
                cell=cell, negative=cell.negative, text="1", unit="V", volts_v=1.0, received_at=timezone.now()
            )
        self.joined(page, tern, "/bench/3")
        cell = cell_of(tern, 3)
        page.get_by_role("button", name=electrodes()[cell.positive].name, exact=True).tap()  # the other way round
        expect(page.get_by_text("V = ?")).to_have_count(0)
        page.get_by_role("button", name="The two values").tap()
        expect(page.get_by_text(re.compile("^E°"))).to_have_count(2)
        page.get_by_role("button", name="The lines").tap()
        expect(page.get_by_text("V = ?")).to_be_visible()
        page.get_by_label("How many volts by the table?").fill("0.5")
        page.get_by_role("button", name="Keep this prediction").tap()
        said = page.get_by_role("region", name="Your prediction")
        expect(said).to_contain_text("You predicted")
        expect(said).not_to_contain_text("below zero")
        self.type_reading(page, "0.5")
        expect(said).to_contain_text("below zero: by the table the other plate is the negative one")

    def test_help_fades_for_what_waits_on_the_device_too(self):
        page, tern = self.device(PHONE, touch=True), group_of(self.lab)
        self.joined(page, tern)
        page.context.set_offline(True)
        page.get_by_role("button", name=electrodes()[cell_of(tern).negative].name, exact=True).tap()
        expect(page.get_by_text("V = ?")).to_be_visible()
        page.get_by_label("How many volts by the table?").fill("1.1")
        page.get_by_role("button", name="Keep this prediction").tap()
        expect(page.get_by_role("region", name="Your prediction")).to_be_visible()
        page.get_by_role("button", name=re.compile("Cell 2")).or_(
            page.get_by_role("link", name=re.compile("Cell 2"))
        ).first.tap()
        page.get_by_role("button", name=electrodes()[cell_of(tern, 2).negative].name, exact=True).tap()
        expect(page.get_by_text("V = ?")).to_have_count(0)
        expect(page.get_by_text(re.compile("^E°"))).to_have_count(2)

    def test_of_a_plate_that_is_not_in_the_table_the_table_is_not_asked_about(self):
        tern = group_of(lab_of(self.ada, electrodes=["graphite", "copper"], groups=["Tern"]))
        page = self.device(PHONE, touch=True)
        self.joined(page, tern)
        page.get_by_role("button", name="copper", exact=True).tap()
        page.get_by_label("How many volts?").fill("0.3")
        expect(page.get_by_text("less than the table")).to_have_count(0)
        page.get_by_role("button", name="it is a guess").tap()
        page.get_by_role("button", name="Keep this prediction").tap()
        self.until(page, lambda: Prediction.objects.filter(because="a guess", way="").exists(), "not kept")

    def test_another_level_asks_what_the_change_will_do_once(self):
        lab = lab_of(
            self.ada, varies="spacing", conditions=["1 cm apart", "2 cm apart", "4 cm apart"], electrodes=["zinc", "copper"]
        )
        tern = group_of(lab)
        first, second, third = (tern.cells.filter(condition=at).first() for at in self.levels(tern))
        page = self.device(PHONE, touch=True)
        self.joined(page, tern, f"/bench/{second.position}")
        expect(page.get_by_text(f"Predict: {second.condition} instead of {first.condition}")).to_be_visible()
        self.check_access(page)
        page.get_by_text(f"about the same as with {first.condition}").or_(
            page.get_by_text("about the same", exact=True)
        ).tap()
        page.get_by_role("button", name="Keep this prediction").tap()
        expect(page.get_by_text(f"You predicted: about the same as with {first.condition}")).to_be_visible()
        self.until(page, lambda: Prediction.objects.filter(cell=second, way="same", text="").exists(), "not kept")
        page.goto(f"/bench/{third.position}")
        expect(page.get_by_role("textbox", name="Reading in")).to_be_visible()
        expect(page.get_by_role("region", name="Predict")).to_have_count(0)

    def levels(self, group):
        """The conditions of a group's cells of its first kind, in the order of its list."""
        return list(dict.fromkeys(group.cells.order_by("position").values_list("condition", flat=True)))

    def test_what_is_no_number_comes_back_and_measuring_goes_on_without(self):
        page = self.device()
        self.joined(page, group_of(self.lab))
        page.get_by_role("button", name="copper", exact=True).click()
        page.get_by_label("How many volts by the table?").fill("lots")
        page.get_by_role("button", name="Keep this prediction").click()
        expect(page.get_by_role("alert")).to_contain_text("lots")
        expect(page.get_by_label("How many volts by the table?")).to_have_value("lots")
        page.get_by_role("button", name="Skip").click()
        expect(page.get_by_role("button", name="Predict this cell first")).to_be_visible()
        self.type_reading(page, "0.95")
        expect(page.get_by_role("heading", name="Second reading of 3")).to_be_visible()
        expect(page.get_by_role("button", name="Predict this cell first")).to_have_count(0)
        expect(page.get_by_text("All readings sent")).to_be_visible()
        self.assertEqual((Prediction.objects.count(), cell_of(group_of(self.lab)).readings.count()), (0, 1))
