"""A class whose hands slip, on every page: each says the same of each reading."""

import re

from django.db import connections
from playwright.sync_api import expect

from e2e.browser import PHONE
from e2e.live import BrowserTestCase
from server.entries.models import Reading
from server.findings.release import release
from server.labs.models import PlannedCell
from server.tests.support import as_teacher, group_of, lab_of, record, record_all, teacher

MINUS = "\u2212"


class Slips(BrowserTestCase):
    def setUp(self):
        super().setUp()
        self.ada = teacher("ada")
        self.lab = lab_of(self.ada, groups=("Tern", "Knot", "Ruff"))
        readings = []
        for number, name in enumerate(("Tern", "Knot", "Ruff")):
            for planned in group_of(self.lab, name).cells.all():
                volts = {("zinc", "copper"): 0.95, ("zinc", "tin"): 0.53}.get((planned.negative, planned.positive), 0.42)
                readings += [(planned, f"{volts + 0.005 * number + 0.001 * nth:.3f}") for nth in range(2)]
        record_all(readings)
        self.cell = PlannedCell.objects.filter(group=group_of(self.lab, "Knot"), negative="zinc", positive="copper").first()

    def tearDown(self):
        connections.close_all()
        super().tearDown()

    def page(self, path):
        page = self.device()
        self.signed_in(page)
        page.goto(f"/labs/{self.lab.id}/{path}")
        return page

    def test_millivolts_typed_as_volts_count_nowhere_and_every_page_says_so_until_the_teacher_lets_them(self):
        wrong = record(self.cell, "970")
        phone = self.device(size=PHONE, touch=True)
        release(actor=self.ada, lab_id=self.lab.id, parts=("compare", "notebook"))
        self.joined(phone, group_of(self.lab, "Knot"), f"/bench/{self.cell.position}")
        expect(
            phone.get_by_role("heading", name="Third reading of 3")
        ).to_be_visible()  # what does not count is none of three
        phone.goto("/bench/notebook")
        expect(phone.get_by_text(re.compile("does not count yet: 970.*a thousand times too much")).first).to_be_visible()

        desk = self.page("compare")
        expect(desk.get_by_role("heading", name="Where each plate sits")).to_be_visible()
        expect(desk.get_by_text("Knot: millivolts written as volts?")).to_be_visible()
        expect(desk.get_by_role("main").get_by_text(re.compile(r"\+94\.|970|32\d\.\d"))).to_have_count(0)
        expect(desk.get_by_text("1 value lies outside the picture: it does not count.")).to_be_visible()
        desk.get_by_role("button", name="Which, and why").click()
        table = desk.get_by_role("region", name="Readings that do not count yet")
        expect(table).to_contain_text("970")
        self.check_access(desk)

        board = self.page("board")
        board.get_by_role("button", name=re.compile("Knot.*Zn.*Cu|Zn.*Cu.*Knot")).first.click()
        expect(board.get_by_text(re.compile("does not count yet: 970"))).to_be_visible()

        out = as_teacher(self.ada).get(f"/api/labs/{self.lab.id}/tables/readings.csv").content.decode()
        (row,) = [line for line in out.splitlines() if ",970," in line]
        self.assertRegex(row, r",no,.*,impossible,")
        table.get_by_role("button", name="Count it all the same").click()
        expect(table).to_have_count(0)
        self.assertEqual(Reading.objects.get(id=wrong.id).set_aside.get().reason, "")

    def test_leads_that_are_turned_leave_the_others_values_alone(self):
        record(self.cell, "-0.95")
        desk = self.page("compare?tab=groups")
        expect(desk.get_by_text("Knot: leads the other way round?")).to_be_visible()
        region = desk.get_by_role("region", name="Readings that do not count yet")
        expect(region).to_contain_text(f"{MINUS}0.95")
        expect(region).to_contain_text("Put right, it would be +0.95\u202fV; other groups have +0.96\u202fV.")
        expect(region.get_by_role("button", name="Ask the group for a new reading")).to_be_visible()
        region.get_by_role("button", name="Ask the group for a new reading").click()
        expect(region.get_by_text("A new reading is asked for.")).to_be_visible()
        phone = self.device(size=PHONE, touch=True)
        self.joined(phone, group_of(self.lab, "Knot"))
        expect(phone.get_by_role("status", name="For the whole group")).to_contain_text("asks for a new reading")

    def test_a_number_of_another_cup_goes_to_its_cell_at_one_press_and_comes_back_by_a_correction(self):
        """A value typed at the wrong cell, pressed twice with the network cut: one correction, where it was read."""
        own = group_of(self.lab, "Knot").cells.filter(negative="zinc", positive="tin").first()
        phone = self.device(size=PHONE, touch=True)
        self.joined(phone, group_of(self.lab, "Knot"), f"/bench/{self.cell.position}")
        self.type_reading(phone, "0.53")
        said = phone.get_by_role("status", name="What this reading says")
        button = said.get_by_role("button", name=re.compile(f"That was cell {own.position}"))
        expect(button).to_be_visible()
        self.check_access(phone)
        phone.context.set_offline(True)
        button.dblclick()
        phone.context.set_offline(False)
        self.until(phone, lambda: Reading.objects.filter(corrects__isnull=False).exists(), "no correction came")
        moved = Reading.objects.get(corrects__isnull=False)
        self.assertEqual(
            (moved.cell_id, moved.text, moved.red, moved.reason), (own.id, "0.53", "tin", "belongs to another cell")
        )
        expect(phone.get_by_text("corrected: it was another cell’s")).to_be_visible()


class FlatAndHalf(BrowserTestCase):
    """A group whose meter's battery is flat reads too much in proportion; another stops after one cell."""

    def setUp(self):
        super().setUp()
        self.ada = teacher("ada")
        self.lab = lab_of(self.ada, groups=("Tern", "Knot", "Ruff", "Gannet"))
        readings = []
        for number, name in enumerate(("Tern", "Knot", "Ruff", "Gannet")):
            cells = list(group_of(self.lab, name).cells.all())
            for planned in cells[: 1 if name == "Gannet" else len(cells)]:
                volts = {("zinc", "copper"): 0.95, ("zinc", "tin"): 0.53}.get((planned.negative, planned.positive), 0.42)
                part = 1.25 if name == "Ruff" else 1.0
                readings += [(planned, f"{part * (volts + 0.004 * number + 0.001 * nth):.3f}") for nth in range(3)]
        record_all(readings)

    def tearDown(self):
        connections.close_all()
        super().tearDown()

    def test_every_page_names_the_meter_and_the_group_that_stopped_and_none_breaks(self):
        desk = self.device()
        self.signed_in(desk)
        base = f"/labs/{self.lab.id}"
        desk.goto(f"{base}/compare")
        expect(desk.get_by_text("Ruff’s meter reads too much")).to_be_visible()
        expect(desk.get_by_role("complementary").get_by_text("does not fit")).to_have_count(0)  # one cause, one sentence
        self.check_access(desk)
        desk.goto(f"{base}/board")
        gannet = desk.get_by_role("button", name=re.compile("Gannet.*0 of 3 readings|Gannet, .*, 0 of 3"))
        expect(gannet.first).to_be_visible()
        for path in ("explain", "power", "report", "notebook", f"notebook/{group_of(self.lab, 'Gannet').id}"):
            desk.goto(f"{base}/{path}")
            expect(desk.get_by_role("heading").first).to_be_visible()
            expect(desk.get_by_text("Something went wrong")).to_have_count(0)
            expect(desk.get_by_text(re.compile("NaN|Infinity"))).to_have_count(0)
        phone = self.device(size=PHONE, touch=True)
        release(actor=self.ada, lab_id=self.lab.id, parts=("compare", "notebook"))
        self.joined(phone, group_of(self.lab, "Gannet"))
        for path in ("/bench/results", "/bench/notebook"):
            phone.goto(path)
            expect(phone.get_by_role("heading").first).to_be_visible()
            self.assertLessEqual(phone.evaluate("document.documentElement.scrollWidth"), PHONE["width"])
            expect(phone.get_by_text(re.compile("NaN|Something went wrong"))).to_have_count(0)
