"""One thing changed on purpose, in browsers: distance from the plan to the answer, and again from the same lab's table."""

import re

from playwright.sync_api import expect

from e2e.browser import PHONE
from e2e.live import BrowserTestCase
from server.entries.models import Actual
from server.labs.models import Lab
from server.materials.models import OwnMaterial
from server.materials.own import materials_of
from server.people.models import Teacher
from server.tests.support import group_of, lab_of, record, teacher

NAMES = ("Tern", "Knot", "Plover")


class Distance(BrowserTestCase):
    def plan(self, page):
        page.goto("/labs/new")
        page.get_by_label("Title").fill("How far apart")
        page.get_by_role("textbox", name="Minutes", exact=True).fill("60")
        page.get_by_role("radiogroup", name="What you change on purpose").get_by_text("spacing", exact=True).click()
        page.get_by_label("Settings to compare, one a line").fill("1\n4 cm apart\n8 cm")
        for name in ("aluminium", "magnesium", "steel", "tin"):
            ticked = page.locator("label:has([type=checkbox]:checked)").filter(has_text=re.compile(rf"\b{name}\b"))
            if ticked.count():
                ticked.first.click()
        page.get_by_label("Their names, one a line").fill("\n".join(NAMES))
        expect(page.get_by_text("You change spacing")).to_be_visible()
        expect(page.get_by_text("How small an effect it can see")).to_be_visible()
        self.check_access(page)
        page.get_by_role("button", name="Keep this plan").click()
        expect(page.get_by_role("heading", name="Who does what, when")).to_be_visible()
        self.sign_off(page)
        page.get_by_role("button", name="Open the bench").click()
        expect(page.get_by_role("heading", name="The room, minute by minute")).to_be_visible()

    def measure(self, page, lab):
        """Tern on a phone: its first cell by hand, with what the distance really was; noted without network."""
        self.joined(page, group_of(lab))
        page.get_by_role("button", name="Skip").click()
        first = group_of(lab).cells.first()
        level = first.condition.removeprefix("spacing ")
        expect(page.get_by_role("img", name=re.compile(f"spacing {level}"))).to_be_visible()
        for text in ("0.94", "0.95", "0.96"):
            self.type_reading(page, text)
        expect(page.get_by_role("heading", name="3 readings are in")).to_be_visible()
        page.get_by_role("button", name="What it really was").click()
        field = page.get_by_role("textbox", name="It really was")
        field.fill("wide")
        page.get_by_role("button", name="Keep it").click()
        expect(page.get_by_role("alert")).to_contain_text(f"for example {level}")
        expect(field).to_have_value("wide")
        page.context.set_offline(True)
        field.fill("1,2")
        page.get_by_role("button", name="Keep it").click()
        expect(page.get_by_text("safe on this device, not sent yet")).to_be_visible()
        page.context.set_offline(False)
        expect(page.get_by_text("spacing 1.2 cm").first).to_be_visible()
        self.check_access(page)
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), PHONE["width"])

    def answer(self, page):
        """What Compare says of distance, as text."""
        page.get_by_role("tab", name="what was changed").click()
        expect(page.get_by_role("heading", name=re.compile("volts against spacing"))).to_be_visible()
        return page.get_by_role("img", name=re.compile("volts against spacing")).get_attribute("aria-label")

    def test_distance_is_planned_measured_compared_and_found_again_in_its_table(self):
        teacher("ada")
        desk = self.device()
        self.signed_in(desk)
        self.plan(desk)
        lab = Lab.objects.get()
        self.assertEqual(lab.conditions, ["spacing 1 cm", "spacing 4 cm", "spacing 8 cm"])
        self.measure(self.device(PHONE, touch=True), lab)
        self.assertEqual(Actual.objects.get().value, 1.2)
        for n, name in enumerate(NAMES):
            for k, cell in enumerate(group_of(lab, name).cells.all()):
                if not cell.readings.exists():
                    record(cell, f"{0.94 + 0.02 * n + 0.001 * (k % 2):.3f}")
        desk.get_by_role("link", name="Compare", exact=True).first.click()
        said = self.answer(desk)
        self.assertIn("no effect on the volts seen", said)
        desk.get_by_text("logarithm", exact=True).click()
        self.check_access(desk)
        with desk.expect_download() as table:
            desk.get_by_role("link", name="readings", exact=True).click()
        desk.goto("/labs")
        desk.get_by_role("link", name="Bring in a table").click()
        desk.locator("input[type=file]").set_input_files(table.value.path())
        desk.get_by_role("button", name="Bring it in").click()
        self.assertEqual(self.answer(desk), said)
        desk.goto(f"/labs/{lab.id}/compare/projector")
        expect(desk.get_by_role("heading", name="Zn | Cu: volts against spacing")).to_be_visible()


class TwoCups(BrowserTestCase):
    """Two solutions, from the cupboard's form to a bench that draws both cups."""

    def test_two_solutions_are_made_planned_and_drawn(self):
        teacher("ada")
        desk = self.device()
        self.signed_in(desk)
        desk.goto("/materials")
        desk.get_by_role("button", name="Two solutions").click()
        right = desk.get_by_role("group", name="Right cup")
        right.get_by_role("textbox", name="mol/L").fill("0.02")
        expect(desk.get_by_role("status", name="What it would give")).to_contain_text("The bridge adds")
        self.check_access(desk)
        desk.get_by_role("group", name="Left cup").get_by_role("button", name=re.compile("Plate")).click()
        desk.get_by_role("option", name="mild steel").click()
        expect(desk.get_by_text("none of its own ions in zinc sulfate")).to_be_visible()
        desk.get_by_role("group", name="Left cup").get_by_role("button", name=re.compile("Plate")).click()
        desk.get_by_role("option", name="zinc", exact=True).click()
        desk.get_by_label("Name").fill("Two jars")
        desk.get_by_role("button", name="Keep these two solutions").click()
        expect(desk.get_by_role("heading", name="Two jars")).to_be_visible()
        key = OwnMaterial.objects.get(name="Two jars").key
        with materials_of(Teacher.objects.get()):
            lab = lab_of(Teacher.objects.get(), electrodes=["zinc", "copper"], electrolytes=[key], predict=False)
        phone = self.device(PHONE, touch=True)
        self.joined(phone, group_of(lab))
        drawn = phone.get_by_role(
            "img", name=re.compile("Two cups: Zn in zinc sulfate 1.0 mol.L, Cu in copper sulfate 0.02")
        )
        expect(drawn).to_be_visible()
        expect(phone.get_by_text("joined by a strip of filter paper")).to_be_visible()
        self.check_access(phone)


class MadeLiquid(BrowserTestCase):
    """A liquid with something stirred in: any of what there is, with a slip and without network."""

    def test_a_liquid_is_made_of_anything_there_is_and_what_is_typed_stays(self):
        teacher("ada")
        desk = self.device()
        self.signed_in(desk)
        desk.goto("/materials")
        desk.get_by_role("button", name="Make a liquid").click()
        desk.get_by_role("button", name="table salt Stir in").click()
        for name in ("baking soda", "vinegar 5 %", "hydrogen peroxide 3 %", "copper sulfate 1.0 mol/L (poured)"):
            expect(desk.get_by_role("option", name=name, exact=True)).to_be_attached()
        desk.get_by_role("option", name="baking soda", exact=True).click()
        expect(desk.get_by_role("status", name="What it comes to")).to_contain_text("It foams")
        amount = desk.get_by_label("How much")
        amount.fill("two")
        desk.get_by_role("button", name="Keep this liquid").click()
        expect(desk.get_by_role("alert")).to_contain_text("What you typed is still here")
        amount.fill("3")
        desk.get_by_label("Name").fill("Fizzed lemon")
        desk.context.set_offline(True)
        desk.get_by_role("button", name="Keep this liquid").click()
        expect(desk.get_by_role("alert").first).to_be_visible()
        desk.context.set_offline(False)
        desk.reload()
        expect(amount).to_have_value("3")
        self.check_access(desk)
        desk.get_by_role("button", name="Keep this liquid").click()
        expect(desk.get_by_role("heading", name="Fizzed lemon")).to_be_visible()
        [step] = OwnMaterial.objects.get(name="Fizzed lemon").data["made"]["steps"]
        self.assertEqual(step, ["baking-soda-powder", 3.0])
