"""The whole job in browsers: a teacher and two groups, from an empty list to a class result."""

import re

from playwright.sync_api import expect

from e2e.browser import PHONE
from e2e.live import BrowserTestCase
from server.entries.models import Reading
from server.labs.models import Lab
from server.people.models import Group
from server.tests.support import cell_of, group_of, lab_of, record, teacher

THIN = "\u202f"
MINUS = "\u2212"


class WholePath(BrowserTestCase):
    def choose(self, page, *names):
        for name in names:
            page.locator("label:has([type=checkbox])").filter(has_text=re.compile(rf"\b{name}\b")).first.click()

    def make_lab(self, page):
        page.get_by_role("link", name="Plan a lab").click()
        page.get_by_label("Title").fill("Three plates in lemon juice")
        page.get_by_role("textbox", name="Minutes", exact=True).fill("40")
        page.get_by_text("All pairs", exact=True).click()
        self.choose(page, "aluminium", "magnesium", "steel", "tin")
        page.get_by_label("Their names, one a line").fill("Tern\nKnot")
        expect(page.get_by_text("Fits: 38 of 40 minutes").first).to_be_visible()
        self.check_access(page)
        page.get_by_role("button", name="Keep this plan").click()
        expect(page.get_by_role("heading", name="Who does what, when")).to_be_visible()
        self.check_access(page)
        self.sign_off(page)
        page.get_by_role("button", name="Open the bench").click()
        expect(page.get_by_role("heading", name="The room, minute by minute")).to_be_visible()

    def test_a_class_measures_and_sees_its_voltages_beside_the_table(self):
        teacher("ada")
        board = self.device()
        self.sign_in(board)
        expect(board.get_by_text("No labs yet")).to_be_visible()
        self.check_access(board)
        self.make_lab(board)
        lab = Lab.objects.get()
        tern, knot = self.device(), self.device(PHONE, touch=True)
        self.join(tern, lab.join_code, group_of(lab, "Tern").pin)
        self.join(knot, lab.join_code.lower(), group_of(lab, "Knot").pin)

        # Tern: zinc and copper, three readings; one was typed in the wrong unit and is corrected.
        # Until they have predicted, or will not, nothing says which plate is negative.
        expect(tern.get_by_text("Predict, or skip, to see where the leads go.")).to_be_visible()
        self.assertNotIn("Black lead on", tern.content())
        tern.get_by_role("button", name="Skip").click()
        expect(tern.get_by_text("Black lead on zinc, red lead on copper")).to_be_visible()
        self.type_reading(tern, "0.94")
        expect(tern.get_by_role("heading", name="Second reading of 3")).to_be_visible()
        self.type_reading(tern, "950")
        tern.get_by_role("button", name="Correct 950 V").click()
        tern.get_by_role("button", name="wrong unit").click()
        tern.get_by_role("button", name="Type in mV").click()
        self.type_reading(tern, "950")
        expect(tern.locator("s")).to_have_text(f"950{THIN}V")
        expect(tern.get_by_text("corrected: wrong unit")).to_be_visible()
        self.type_reading(tern, "0.96")
        expect(tern.get_by_role("heading", name="3 readings are in")).to_be_visible()
        self.check_access(tern)

        # Knot, on a phone: a minus sign with swapped leads, kept as evidence.
        knot.get_by_role("button", name="Skip").click()
        knot.get_by_role("button", name="Swap leads").click()
        expect(knot.get_by_text("Black lead on copper, red lead on zinc")).to_be_visible()
        for text in ("-0.98", f"{MINUS}1.00", "-1.02"):
            self.type_reading(knot, text)
        expect(knot.get_by_text(f"{MINUS}1.02{THIN}V")).to_be_visible()
        self.check_access(knot)

        # Knot goes on to the next cell: what red and black show there is read with the planned leads.
        knot.get_by_role("button", name="The next cell").click()
        expect(knot.get_by_role("heading", name="First reading of 3")).to_be_visible()
        short = cell_of(group_of(lab, "Knot"), 2).cell.short
        self.type_reading(knot, "-0.36")
        expect(knot.get_by_text("All readings sent")).to_be_visible()

        # The teacher sees it come in, without touching anything.
        expect(board.get_by_text(f"{MINUS}0.36{THIN}V")).to_be_visible()
        expect(board.get_by_text("correction: wrong unit")).to_be_visible()
        expect(board.get_by_label("Tern, Zn | Cu in lemon juice, 3 of 3 readings")).to_be_visible()
        board.get_by_label("Knot, Zn | Cu in lemon juice").first.click()
        expect(board.get_by_role("heading", name="Knot, Zn | Cu in lemon juice")).to_be_visible()
        self.check_access(board)

        # Compare: Tern's mean is 0.95, Knot's 1.00, the class's 0.975; the table says 1.104.
        board.get_by_role("link", name="Compare", exact=True).first.click()
        expect(board.get_by_role("heading", name="Cells, widest gap first")).to_be_visible()
        board.get_by_role("button", name="Numbers of all cells and groups").click()
        row = board.get_by_role("row", name=re.compile("zinc, copper"))
        expect(row).to_contain_text("1.104")
        expect(row).to_contain_text("0.975")
        expect(row).to_contain_text(f"{MINUS}0.129")
        expect(row).to_contain_text("Tern 0.950 (3), Knot 1.000 (3)")
        expect(board.get_by_text(re.compile(r"2 groups · 7 readings"))).to_be_visible()
        self.check_access(board)
        self.assertEqual(short in ("Al | Zn", "Al | Cu"), True)
        self.assertEqual(Reading.objects.count(), 8)

    def test_a_group_cannot_open_a_teachers_page(self):
        lab = lab_of(teacher("ada"))
        page = self.device()
        self.join(page, lab.join_code, group_of(lab).pin)
        page.goto(f"/labs/{lab.id}/board")
        expect(page.get_by_role("heading", name="Teachers sign in")).to_be_visible()

    def test_another_teacher_is_told_there_is_no_such_lab(self):
        lab = lab_of(teacher("bob"))
        teacher("ada")
        page = self.device()
        self.signed_in(page)
        page.goto(f"/labs/{lab.id}/compare")
        expect(page.get_by_text("There is no such lab, or it is not yours.")).to_be_visible()

    def test_a_teacher_sent_to_sign_in_comes_back_to_the_page(self):
        lab = lab_of(teacher("ada"))
        page = self.device()
        page.goto(f"/labs/{lab.id}/plan")
        page.get_by_label("Name").fill("ada")
        page.get_by_label("Password").fill("wrong")
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_text("That name and password do not go together.")).to_be_visible()
        page.get_by_label("Password").fill("adaada-long-enough")
        page.keyboard.press("Enter")
        expect(page.get_by_role("heading", name="Who measures what")).to_be_visible()

    def test_the_plate_that_is_held_can_be_chosen_with_the_keyboard(self):
        lab = lab_of(teacher("ada"))
        for name in ("Tern", "Knot"):
            for cell, text in zip(group_of(lab, name).cells.all(), ("0.95", "0.45", "0.50"), strict=False):
                record(cell, text)
        page = self.device()
        self.signed_in(page)
        page.goto(f"/labs/{lab.id}/compare")
        choice = page.get_by_role("button", name=re.compile("Plate held"))
        choice.focus()
        page.keyboard.press("Enter")
        page.get_by_role("option", name="copper").press("Enter")
        page.get_by_role("button", name="Numbers of both stems").click()
        expect(page.get_by_role("row", name=re.compile("copper"))).to_contain_text("held")
        for size in (320, 640):  # 1280 px at 400 % and at 200 % zoom
            page.set_viewport_size({"width": size, "height": 800})
            self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), size)


class BringingInATable(BrowserTestCase):
    def test_bad_rows_are_named_and_the_mended_file_shows_the_result(self):
        teacher("ada")
        page = self.device()
        self.signed_in(page)
        page.goto("/labs/import")
        header = "group,red,black,electrolyte,volts\n"
        rows = "Tern,copper,zinc,lemon juice,0.94\nKnot,copper,zinc,lemon juice,{}\n"

        def choose(text):
            file = {"name": "class-10b.csv", "mimeType": "text/csv", "buffer": (header + text).encode()}
            page.locator("input[type=file]").set_input_files([file])

        choose(rows.format("lots"))
        shown = page.get_by_role("region", name="How it was understood")
        expect(shown).to_contain_text("line 3")
        expect(shown).to_contain_text("“lots” is not one number")
        expect(page.get_by_role("button", name="Bring it in")).to_be_disabled()
        self.check_access(page)
        self.assertEqual(Lab.objects.count(), 0)
        choose(rows.format("0.98"))
        expect(shown).to_contain_text("2 readings of 1 cell")
        page.get_by_role("button", name="Bring it in").click()
        expect(page.get_by_role("heading", name="Cells, widest gap first")).to_be_visible()
        expect(page.get_by_text("class 10b")).to_be_visible()
        self.assertEqual(Group.objects.count(), 2)
