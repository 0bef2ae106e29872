"""Power: packs thought of by the teacher, from the class's own cells."""

import re

from django.db import connections
from playwright.sync_api import expect

from e2e.browser import PHONE
from e2e.live import BrowserTestCase
from server.findings.release import release
from server.power.models import ChainEntry, Pack, PackEntry
from server.tests.support import group_of, lab_of, record, teacher


class Power(BrowserTestCase):
    def setUp(self):
        super().setUp()
        self.ada = teacher("ada")
        self.lab = lab_of(self.ada)
        for name, volts in (("Tern", ("0.95", "0.45", "0.50")), ("Knot", ("0.97", "0.44", "0.52"))):
            for cell, text in zip(group_of(self.lab, name).cells.all(), volts, strict=False):
                record(cell, text)

    def tearDown(self):
        connections.close_all()
        super().tearDown()

    def open(self, query="", **device):
        page = self.device(**device)
        self.signed_in(page)
        page.goto(f"/labs/{self.lab.id}/power{query}")
        expect(page.get_by_role("img", name=re.compile("They meet at"))).to_be_visible()
        return page

    def test_a_pack_grows_until_it_runs_and_the_address_keeps_it(self):
        page = self.open()
        stems = page.get_by_role("img", name=re.compile("Cells standing on one another"))
        expect(stems).to_have_accessible_name(re.compile(r"2\.8\d"))
        page.get_by_role("button", name="More: in a row").click()
        expect(stems).to_have_accessible_name(re.compile(r"3\.8\d"))
        page.get_by_role("button", name="1 in a row: no").click()
        expect(page.get_by_text("Not with 1, not even at first", exact=True)).to_be_visible()
        page.get_by_text("pocket calculator").click()
        page.get_by_role("button", name=re.compile("^4 in a row")).click()
        expect(page.get_by_text("Do not join it")).to_be_visible()
        self.check_access(page)
        page.reload()
        expect(page.get_by_text("Do not join it")).to_be_visible()

    def test_compare_ranks_the_cells_under_load_and_leads_to_a_pack(self):
        page = self.device()
        self.signed_in(page)
        page.goto(f"/labs/{self.lab.id}/compare")
        page.get_by_role("tab", name="under load").click()
        page.get_by_text("volts", exact=True).click()
        first = page.get_by_role("row").nth(1)
        expect(first).to_contain_text("Zn | Cu")
        self.check_access(page)
        first.get_by_role("link").click()
        expect(page.get_by_role("img", name=re.compile("They meet at"))).to_be_visible()

    def test_a_resistor_is_typed_and_what_is_no_load_is_said(self):
        page = self.open("?load=470")
        field = page.get_by_label("Its resistance, Ω")
        expect(field).to_have_value("470")
        field.fill("4700")
        expect(page.get_by_role("img", name=re.compile("4700 Ω takes more"))).to_be_visible()
        field.fill("lamp")
        expect(page.get_by_role("alert")).to_contain_text("No load called “lamp”")

    def test_the_margin_changes_the_pack_and_a_phone_shows_it_all(self):
        page = self.open("?area=1", size=PHONE, touch=True)
        page.get_by_role("button", name=re.compile("^(Add|Twice)")).first.click()
        expect(page).to_have_url(re.compile("area=2|rows=2|pairs=2|cell="))
        self.check_access(page)
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), PHONE["width"])


class WithPacks(BrowserTestCase):
    """What hands do on a bench of packs."""

    groups = ("Tern", "Knot")

    def setUp(self):
        super().setUp()
        self.ada = teacher("ada")
        self.lab = lab_of(self.ada, groups=self.groups)
        release(actor=self.ada, lab_id=self.lab.id, parts=("claims", "power"))

    def tearDown(self):
        connections.close_all()
        super().tearDown()

    def bench(self, name="Tern", cut=False):
        page = self.device(size=PHONE, touch=True, keeps_pages=cut)
        self.joined(page, group_of(self.lab, name))
        if cut:  # the page of packs was never opened with the network there
            self.until_kept(page, "/api/bench/packs", script="BenchPacks")
            page.context.set_offline(True)
        page.get_by_role("link", name="build packs that run something").click()
        expect(page.get_by_role("heading", name="What should it run?")).to_be_visible()
        return page

    def record(self, page, label, text, again=False):
        field = page.get_by_label(label, exact=True)
        if again:
            page.get_by_role("button", name="Measure again").last.click()
        field.fill(text)
        field.press("Enter")
        expect(page.get_by_text(re.compile(rf"^{re.escape(text)}.*(recorded|safe on this device)")).last).to_be_visible()

    def step(self, page, cell, alone, total):
        page.get_by_role("button", name="Begin with this cell" if cell == 1 else "Join the next cell").click()
        self.record(page, f"Cell {cell} alone, V", alone)
        self.record(page, "Cell 1, V" if cell == 1 else f"Cells 1 to {cell}, V", total)
        if page.evaluate("navigator.onLine"):  # what arrives from the server moves the buttons below it
            expect(page.get_by_text("safe on this device")).to_have_count(0)


class BenchOfPacks(WithPacks):
    """A group's packs on a phone, with the network cut in the middle."""

    def test_cells_are_joined_judged_mended_and_the_load_is_tried_through_a_cut_network(self):
        page = self.bench(cut=True)
        page.get_by_role("button", name="Begin a pack").click()
        self.step(page, 1, "0.95", "0.95")
        self.step(page, 2, "0.93", "1.05")
        expect(page.get_by_text("7 not sent yet")).to_be_visible()
        page.reload()
        expect(page.get_by_role("heading", name="2 in a row for the red LED")).to_be_visible()
        page.context.set_offline(False)
        said = page.get_by_role("status", name="What this pack says")
        expect(said).to_contain_text("Cell 2 adds almost nothing")
        expect(page.get_by_role("cell", name="0.83")).to_be_visible()
        self.record(page, "Cells 1 to 2, V", "1.87", again=True)
        expect(said).to_have_text("")
        self.check_access(page)
        page.get_by_role("button", name="Try the red LED").click()
        trial = page.get_by_role("region", name="Try the red LED")
        trial.get_by_text("dark", exact=True).click()
        self.record(page, "Across the load, V", "1.86")
        self.record(page, "Through the load, mA", "0.00")
        expect(said).to_contain_text("the wrong way round?")
        trial.get_by_text("glows in the dark", exact=True).click()
        expect(said).to_contain_text("The ammeter shows nothing")
        self.record(page, "Through the load, mA", "0.06", again=True)
        expect(said).to_have_text("")
        expect(page.get_by_text("All sent")).to_be_visible()
        self.check_access(page)
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), PHONE["width"])
        self.assertEqual(Pack.objects.count(), 1)
        self.assertEqual(list(PackEntry.objects.filter(kind="sum").values_list("text", flat=True)), ["0.95", "1.05", "1.87"])

    def test_what_cannot_be_read_and_was_typed_without_network_stays_in_sight_with_the_reason(self):
        page = self.bench(cut=True)
        page.get_by_role("button", name="Begin a pack").click()
        page.get_by_role("button", name="Begin with this cell").click()
        self.record(page, "Cell 1 alone, V", "o.95")
        expect(
            page.get_by_text("not sent yet, safe here")
        ).to_be_visible()  # else the refusal still comes to the field itself
        page.context.set_offline(False)
        line = page.get_by_role("status", name="Not recorded")
        expect(line).to_contain_text("Not recorded: o.95 V.")
        self.check_access(page)
        line.get_by_role("button", name="Put this line away").click()
        expect(line).to_have_text("")
        self.record(page, "Cell 1 alone, V", "0.95")

    def test_a_wrong_number_is_corrected_with_a_reason_and_the_teacher_sees_the_pack(self):
        page = self.bench("Knot")
        page.get_by_role("button", name="Begin a pack").click()
        self.step(page, 1, "9.5", "0.95")
        expect(page.get_by_role("status", name="What this pack says")).to_contain_text("Is the decimal point in its place?")
        page.get_by_role("button", name="Typed wrong?").first.click()
        page.get_by_label("Cell 1 alone, V").fill("0.95")
        page.get_by_label("Why was it wrong?").fill("the point was missing")
        page.get_by_role("button", name="Correct", exact=True).click()
        expect(page.get_by_role("status", name="What this pack says")).to_have_text("")
        fixed = PackEntry.objects.get(corrects__isnull=False)
        self.assertEqual((fixed.text, fixed.corrects.text, fixed.reason), ("0.95", "9.5", "the point was missing"))
        for cell in group_of(self.lab, "Tern").cells.all():
            record(cell, "0.5")
        board = self.device()
        self.signed_in(board)
        board.goto(f"/labs/{self.lab.id}/power")
        board.get_by_role("button", name="What groups have built: 1 pack").click()
        expect(board.get_by_role("row", name=re.compile("Knot red LED 1 0.95 0.95"))).to_be_visible()

    def test_millivolts_are_put_right_at_one_press_and_what_no_juice_gives_is_asked_about(self):
        page = self.bench("Knot")
        page.get_by_role("button", name="Begin a pack").click()
        self.step(page, 1, "940", "0.94")
        said = page.get_by_role("status", name="What this pack says")
        expect(said).to_contain_text("Millivolts, not volts?")
        expect(page.get_by_text("recorded, does not count yet")).to_be_visible()
        self.check_access(page)
        page.get_by_role("button", name="It was millivolts").dblclick()
        expect(said).to_have_text("")
        fixed = PackEntry.objects.get(corrects__isnull=False)
        self.assertEqual((fixed.text, fixed.unit, fixed.reason), ("940", "mV", "wrong unit"))
        page.get_by_role("button", name="Try the red LED").click()
        self.record(page, "Through the load, mA", "120")
        expect(said).to_contain_text("120\u202fmA is more than these cells can drive")
        expect(page.get_by_role("button", name="It was microamperes")).to_be_visible()

    def test_a_bridge_that_was_dried_is_forgotten_when_the_newest_whole_fits(self):
        page = self.bench()
        page.get_by_role("button", name="Begin a pack").click()
        self.step(page, 1, "0.95", "0.95")
        self.step(page, 2, "0.93", "1.15")
        said = page.get_by_role("status", name="What this pack says")
        expect(said).to_contain_text("Cell 2 adds")
        self.record(page, "Across cell 2, all joined, V", "0.21")
        self.check_access(page)
        self.step(page, 3, "0.94", "2.80")  # dried, and the next cell joined
        expect(said).to_have_text("")
        page.get_by_role("button", name="Measure an earlier step again").click()
        page.get_by_role("group", name="Measure an earlier step again").get_by_role(
            "button", name="Measure again"
        ).last.click()
        page.get_by_label("Cells 1 to 2, V").fill("1.87")
        page.get_by_label("Cells 1 to 2, V").press("Enter")
        self.until(page, lambda: PackEntry.objects.filter(kind="sum", text="1.87").exists(), "not kept")
        self.check_access(page)

    def test_a_run_is_typed_over_time_and_told(self):
        page = self.bench()
        page.get_by_text("a resistor", exact=True).click()
        page.get_by_role("button", name="Begin a pack").click()
        page.get_by_role("button", name="Begin with this cell").click()
        page.get_by_role("button", name="Over time").click()
        for text in ("0.93", "0.94", "0.94"):
            self.record_next(page, text)
        page.get_by_role("button", name="Join the load").click()
        for text in ("0.50", "0.42", "0.38"):
            self.record_next(page, text)
        chart = page.get_by_role("img", name=re.compile("Volts against time: 6 numbers"))
        expect(chart).to_have_accessible_name(re.compile("joined after"))
        self.check_access(page)
        self.assertEqual(PackEntry.objects.filter(kind="run_v").count(), 6)

    def record_next(self, page, text):
        run = PackEntry.objects.filter(kind="run_v")
        before = run.count()
        field = page.get_by_label("Next number, V")
        field.fill(text)
        field.press("Enter")
        expect(field).to_have_value("")
        self.until(page, lambda: run.count() > before, "the number was not kept")


class TheWholeClass(WithPacks):
    """Eight groups vote and build one chain; four of them packs of their own, and say what was wrong; one is cut off."""

    groups = ("Tern", "Knot", "Plover", "Dunlin", "Gannet", "Fulmar", "Curlew", "Turnstone")

    def setUp(self):
        super().setUp()
        for name in self.groups:
            for cell in group_of(self.lab, name).cells.all():
                if {cell.negative, cell.positive} == {"zinc", "copper"}:
                    record(cell, "0.95")

    def vote(self, page, cells):
        for _ in range(abs(cells - 3)):
            page.get_by_role("button", name="More: cells" if cells > 3 else "Less: cells").click()
        page.get_by_role("button", name="Vote", exact=True).click()
        expect(page.get_by_text(f"Your vote: {cells} cells.")).to_be_visible()

    def join_chain(self, page, whole):
        page.get_by_role("button", name="We join our cell to the chain").click()
        field = page.get_by_label("The whole chain with it, V")
        field.fill(whole)
        field.press("Enter")
        expect(field).to_have_count(0)

    def test_eight_groups_vote_chain_build_try_and_explain_with_a_cut_network(self):
        desk = self.device()
        self.signed_in(desk)
        desk.goto(f"/labs/{self.lab.id}/power?load=led-green")
        desk.get_by_role("button", name="Begin a chain").click()
        desk.get_by_role("link", name="On the projector").click()
        expect(desk.get_by_role("heading", name="The green LED: how many cells will it take?")).to_be_visible()
        phones = {name: self.bench(name) for name in self.groups}
        knot = phones["Knot"]
        for cells, (name, page) in enumerate(phones.items(), start=2):
            if name == "Knot":
                page.context.set_offline(True)
            self.vote(page, cells)
        expect(desk.get_by_text("7 groups have voted")).to_be_visible()
        knot.context.set_offline(False)
        expect(desk.get_by_text("8 groups have voted")).to_be_visible()
        for name in self.groups[4:]:  # they go on to clear up
            phones.pop(name).context.close()

        wholes = ("0.95", "1.89", "2.84", "3.78")
        for name, whole in zip(self.groups, wholes, strict=False):
            if name == "Knot":
                knot.context.set_offline(True)
            self.join_chain(phones[name], whole)
            if name == "Knot":
                expect(knot.get_by_text("1 entry safe on this device")).to_be_visible()
                knot.context.set_offline(False)
            expect(desk.get_by_role("img", name=re.compile(f"{name} {whole}"))).to_be_visible()
        phones["Dunlin"].get_by_text("glows by day", exact=True).click()
        expect(desk.get_by_role("heading", name="The green LED runs with 4")).to_be_visible()
        expect(desk.get_by_text("Nearest vote: Plover.")).to_be_visible()
        self.check_access(desk)
        self.check_access(knot)

        for name, page in phones.items():
            page.get_by_role("button", name="Begin a pack").click()
            self.step(page, 1, "0.95", "0.95")
            self.step(page, 2, "0.94", "1.02" if name == "Tern" else "1.89")
        tern = phones["Tern"]
        expect(tern.get_by_role("status", name="What this pack says")).to_contain_text("Cell 2 adds almost nothing")
        tern.goto("/bench/claims")
        self.select(tern, "About what?", "your pack: 2 in a row for the red LED")
        self.select(tern, "What is it about this pack?", "One cell is the trouble")
        tern.get_by_label("Which of your numbers show it, and why?").fill("Its step is 0.07 V, alone it gave 0.94 V.")
        tern.get_by_role("button", name="Claim it").click()
        expect(tern.get_by_text("The numbers bear it out.")).to_be_visible()
        self.check_access(tern)

        desk.goto(f"/labs/{self.lab.id}/power")
        desk.get_by_role("button", name="What groups have built: 4 packs").click()
        expect(desk.get_by_role("row", name=re.compile("Tern red LED 2 1.89 1.02"))).to_be_visible()
        desk.goto(f"/labs/{self.lab.id}/explain")
        expect(desk.get_by_role("region", name="Under load").get_by_text("One cell is the trouble")).to_be_visible()
        self.check_access(desk)
        self.assertEqual(ChainEntry.objects.filter(kind="vote").count(), 8)
        self.assertEqual(PackEntry.objects.filter(kind="sum").count(), 8)
