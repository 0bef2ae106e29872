"""What stays of a lab, through the real interface: notebooks, packages, tables brought in, years laid over each other."""

import io
import re
import uuid
from pathlib import Path
from tempfile import TemporaryDirectory

from django.test import override_settings
from playwright.sync_api import expect
from pypdf import PdfReader

from e2e.browser import PHONE
from e2e.live import BrowserTestCase
from server.entries.models import QuestionAnswer, Reading
from server.findings.release import release
from server.labs.models import Lab, PlannedCell
from server.notebook.models import HandedIn, Words
from server.tests.support import as_group, as_teacher, cell_of, group_of, lab_of, record_all, send, teacher

VOLTS = {("zinc", "copper"): 0.93, ("tin", "copper"): 0.42, ("zinc", "tin"): 0.51}
TABLE = "Team;Metal 1;Metal 2;Solution;Voltage (mV)\nTern;Zn;coper;lemon juice;940\nKnot;Cu;Zn;lemon juice;-910\n"


def filled(lab, shift=0.0):
    """Three readings of every cell of a lab."""
    readings = []
    for place, cell in enumerate(PlannedCell.objects.filter(group__lab=lab).order_by("group__position", "position")):
        volts = VOLTS[cell.negative, cell.positive] + shift * (cell.positive == "copper") + 0.004 * (place % 5 - 2)
        readings += [(cell, f"{volts + 0.001 * nth:.3f}") for nth in range(3)]
    record_all(readings)


class Notebooks(BrowserTestCase):
    def setUp(self):
        super().setUp()
        self.ada = teacher("ada")
        self.lab = lab_of(self.ada, question="Is the table right?", level="upper")
        filled(self.lab)
        self.tern = group_of(self.lab)
        release(actor=self.ada, lab_id=self.lab.id, parts=("compare", "notebook"))

    def write(self, page, label, text):
        field = page.get_by_label(label)
        field.fill(text)
        field.blur()

    def test_what_somebody_typed_stands_as_typed_in_every_sentence(self):
        typed = 'same <b>cup</b>, x < 3, <0>liquid</0> & "jug"'
        type(self.lab).objects.filter(id=self.lab.id).update(kept=typed, question=f"Why {typed}?")
        page = self.device()
        self.signed_in(page)
        for path in (f"notebook/{self.tern.id}", "notebook", "plan"):
            page.goto(f"/labs/{self.lab.id}/{path}")
            expect(page.get_by_text(f"Kept the same: {typed}").first).to_be_visible()
            expect(page.get_by_text(f"Why {typed}?").first).to_be_visible()

    def test_written_without_network_reloaded_handed_in_marked_and_given_back(self):
        phone, desk = self.device(size=PHONE, touch=True, keeps_pages=True), self.device()
        self.joined(phone, self.tern)
        phone.get_by_role("link", name="write your notebook").click()
        expect(phone.get_by_text("No conclusion yet.")).to_be_visible()
        self.check_access(phone)
        self.until_kept(phone, "/api/bench/notebook", script="Notebook")
        phone.context.set_offline(True)
        self.write(phone, "What is your answer to the question", "Lower than the table, by about 0.2 V.")
        expect(phone.get_by_text("safe on this device, not sent yet")).to_be_visible()
        phone.reload()
        expect(phone.get_by_label("What is your answer to the question")).to_have_value(
            "Lower than the table, by about 0.2 V."
        )
        self.assertEqual(Words.objects.count(), 0)
        phone.context.set_offline(False)
        expect(phone.get_by_text("No conclusion yet.")).to_have_count(0)
        self.assertEqual(Words.objects.get().text, "Lower than the table, by about 0.2 V.")
        conclusion = phone.get_by_role("region", name="Conclusion", exact=True)
        conclusion.get_by_role("button", name=re.compile("Point at your evidence")).click()
        conclusion.get_by_role("button", name=re.compile(r"^0\.9")).first.click()
        expect(conclusion.get_by_text("Evidence:")).to_be_visible()
        phone.get_by_role("button", name="Hand in").first.click()
        expect(phone.get_by_role("heading", name=re.compile("Handed in"))).to_be_visible()
        self.assertEqual(HandedIn.objects.count(), 1)

        self.signed_in(desk)
        desk.goto("/labs")
        expect(desk.get_by_text("1 notebook handed in")).to_be_visible()
        desk.goto(f"/labs/{self.lab.id}/report")
        expect(desk.get_by_text("1 notebook waits for you.")).to_be_visible()
        desk.get_by_role("link", name="Tern").click()
        desk.get_by_label("Your remark on “Conclusion”").fill("How sure are you?")
        desk.get_by_label("Evidence, of 3").fill("2,5")
        desk.get_by_label("To the whole").fill("Clear and short.")
        desk.get_by_role("button", name="Give it back").click()
        expect(desk.get_by_text("Given back; the group sees it in its notebook.")).to_be_visible()
        phone.reload()
        expect(phone.get_by_text("Clear and short.")).to_be_visible()
        expect(phone.get_by_text("Evidence 2.5")).to_be_visible()
        expect(phone.get_by_role("region", name="Conclusion", exact=True)).to_contain_text("How sure are you?")

    def rests(self, page, seen):
        """Whether the device's store was left alone for a second; `seen` holds the count before."""
        before, seen[0] = seen[0], page.evaluate("window.looks")
        if before != seen[0]:
            page.wait_for_timeout(1000)
        return before == seen[0]

    def test_a_page_that_is_only_looked_at_leaves_the_device_at_rest(self):
        page = self.device(size=PHONE, touch=True)
        page.add_init_script(
            "const open = IDBDatabase.prototype.transaction; window.looks = 0;"
            "IDBDatabase.prototype.transaction = function (...of) { window.looks += 1; return open.apply(this, of); };"
        )
        release(actor=self.ada, lab_id=self.lab.id, parts=("compare", "notebook", "power"))
        self.joined(page, self.tern)
        for path, shown in (("", "Build this cell"), ("/notebook", "What did you want"), ("/packs", "What should it run?")):
            with self.subTest(path):
                page.goto(f"/bench{path}")
                expect(page.get_by_text(shown).first).to_be_visible()
                seen = [-1]
                # However slow the machine is: the page has come to rest once nothing was looked at for a whole second.
                self.until(page, lambda seen=seen: self.rests(page, seen), f"{path} never comes to rest")
                before = page.evaluate("window.looks")
                page.wait_for_timeout(2000)
                # It looks every three seconds whether something waits to be sent, and not whenever it has looked.
                self.assertLess(page.evaluate("window.looks") - before, 12)

    def test_two_devices_writing_at_once_lose_nothing(self):
        one, other = self.device(), self.device()
        for page in (one, other):
            self.joined(page, self.tern)
            page.goto("/bench/notebook")
        label = "What would you change or measure next"
        one.get_by_label(label).fill("Fresh plates.")
        other.get_by_label(label).fill("Another juice.")
        one.get_by_label(label).blur()
        expect(one.get_by_text("kept", exact=True)).to_be_visible()
        other.get_by_label(label).blur()
        expect(other.get_by_text("Another device of your group wrote here at the same time.")).to_be_visible()
        self.assertEqual({words.text for words in Words.objects.all()}, {"Fresh plates.", "Another juice."})

    def pages(self, page, paper):
        return [one.extract_text() for one in PdfReader(io.BytesIO(page.pdf(format=paper))).pages]

    def test_the_class_and_a_group_are_printed_and_read_page_by_page(self):
        words = {"id": str(uuid.uuid4()), "part": "conclusion", "text": "Lower than the table."}
        send(as_group(self.tern), "/bench/words", words)
        page = self.device()
        self.signed_in(page)
        for paper in ("A4", "Letter"):
            page.goto(f"/labs/{self.lab.id}/notebook")
            expect(page.get_by_role("heading", name="How each value came about")).to_be_visible()
            expect(page.get_by_role("img", name=re.compile("Two upright scales"))).to_be_visible()
            printed = self.pages(page, paper)
            for nth, text in enumerate(printed, start=1):
                self.assertIn(f"{nth} / {len(printed)}", text)
            whole = "\n".join(printed)
            for said in ("Is the table right?", "mean of the groups", "95 % interval", "Tern: conclusion", "Safety"):
                self.assertIn(said, whole)
            self.assertNotIn("Sign out", whole)
            page.goto(f"/labs/{self.lab.id}/notebook/{self.tern.id}")
            expect(page.get_by_role("heading", name="Conclusion")).to_be_visible()
            own = "\n".join(self.pages(page, paper))
            for said in ("Lower than the table.", "Nothing is written here.", "scatter of the readings", "0.9"):
                self.assertIn(said, own)
            self.assertNotIn("Your remark on", own)

    def test_it_is_saved_as_one_file_that_needs_nothing_else(self):
        page = self.device()
        self.joined(page, self.tern)
        page.goto("/bench/notebook")
        self.write(page, "What did you want to find out?", "Is <it> & right?")
        expect(page.get_by_text("kept", exact=True)).to_be_visible()
        expect(page.get_by_text("No question yet.")).to_have_count(0)
        with page.expect_download() as started:
            page.get_by_role("button", name="Save as one file").click()
        html = Path(started.value.path()).read_text()
        self.assertNotRegex(html, r'(src|href)="(/|http)')
        self.assertNotIn("<script", html)
        self.assertIn("default-src 'none'", html)  # a policy of its own
        self.assertNotRegex(html, "<a [^>]*href=.[^#]")
        alone = self.device()
        alone.context.set_offline(True)
        alone.set_content(html)
        expect(alone.get_by_text("Is <it> & right?")).to_be_visible()
        expect(alone.get_by_role("heading", name="What we recorded")).to_be_visible()
        self.assertEqual(alone.locator("textarea:visible").count(), 0)


class OutAndIn(BrowserTestCase):
    def setUp(self):
        super().setUp()
        self.ada = teacher("ada")
        self.lab = lab_of(self.ada, title="Shore cells")
        filled(self.lab)
        send(as_teacher(self.ada), f"/labs/{self.lab.id}/close")

    def numbers(self, page):
        """Every number of the tables of Compare as they are read."""
        for name in ("Numbers of both stems", "Numbers of all cells and groups"):
            page.get_by_role("button", name=name).click()
            expect(page.get_by_role("button", name=name, expanded=True)).to_be_visible()
        return page.locator("table").all_inner_texts()

    def choose(self, page, name, content):
        with page.expect_file_chooser() as chooser:
            page.get_by_role("button", name=re.compile("Choose")).click()
        chooser.value.set_files({"name": name, "mimeType": "application/octet-stream", "buffer": content})

    def test_a_package_goes_out_of_one_database_and_into_another_with_the_same_numbers(self):
        here, there = self.device(), self.device()
        self.signed_in(here)
        here.goto(f"/labs/{self.lab.id}/compare")
        before = self.numbers(here)
        here.get_by_role("link", name="Shore cells").click()
        with here.expect_download() as started:
            here.get_by_role("link", name="The whole lab as a package").click()
        with TemporaryDirectory() as folder:
            file = Path(folder) / "lab.zip"
            started.value.save_as(file)
            content = file.read_bytes()
        there.goto("/sign-in")
        self._fixture_teardown()  # the other installation: nothing of this one is left in its database
        self.assertEqual(Lab.objects.count(), 0)
        teacher("bea")
        there.get_by_label("Name").fill("bea")
        there.get_by_label("Password").fill("beabea-long-enough")
        there.get_by_role("button", name="Sign in").click()
        there.get_by_role("link", name="Bring in a table").click()
        self.choose(there, "lab.zip", content)
        there.get_by_role("button", name="Bring the package in").click()
        expect(there.get_by_text("“Shore cells” came in")).to_be_visible()
        there.get_by_role("link", name="See the result").click()
        expect(there.get_by_role("heading", name="Where each plate sits")).to_be_visible()
        self.assertEqual(self.numbers(there), before)
        self.assertEqual(Lab.objects.get().owner.username, "bea")

    @override_settings(BESIDE=True)
    def test_a_table_is_looked_at_a_name_is_told_and_it_comes_in(self):
        page = self.device()
        self.signed_in(page)
        page.goto("/labs/import")
        self.choose(page, "last week.csv", TABLE.encode("utf-16"))
        expect(page.get_by_role("heading", name="How it was understood")).to_be_visible()
        self.check_access(page)
        expect(page.get_by_role("button", name="Bring it in")).to_be_disabled()
        page.get_by_role("button", name=re.compile("“coper”")).click()
        page.get_by_role("option", name="copper", exact=True).click()
        expect(page.get_by_text("2 readings of 1 cell")).to_be_visible()
        page.get_by_label("Title of the lab").fill("Last week")
        page.get_by_role("button", name="Bring it in").click()
        expect(page.get_by_role("heading", name="Where each plate sits")).to_be_visible()
        self.assertEqual(Lab.objects.get(title="Last week").groups.count(), 2)

    @override_settings(BESIDE=True)
    def test_a_table_is_mended_cell_by_cell_and_line_by_line_before_it_comes_in(self):
        page = self.device()
        self.signed_in(page)
        page.goto("/labs/import")
        rows = ["Cells of 7b", "group,red,black,electrolyte,volts", "Tern,copper,zinc,lemon juice,0.94"]
        rows += ["Knot,copper,zinc,lemon juice,O.98", "Knot,copper,zinc,lemon juice,see below"]
        self.choose(page, "7b.csv", "\n".join(rows).encode())
        grid = page.get_by_role("region", name="Lines of the file")
        expect(grid).to_be_visible()
        self.check_access(page)
        grid.get_by_label("line 4, column 5").fill("0.98")
        page.keyboard.press("Enter")
        expect(page.get_by_role("heading", name="1 faulty line")).to_be_visible()
        grid.get_by_label("leave line 5 out").check()
        expect(page.get_by_text("2 readings of 1 cell")).to_be_visible()
        expect(grid.get_by_label("line 5, column 5")).to_be_disabled()
        grid.get_by_label("line 3 is the heading").check()  # pressed by mistake: said, and taken back
        expect(page.get_by_role("alert")).to_contain_text("The first line must name the columns")
        page.get_by_role("button", name="look for the heading again").click()
        expect(page.get_by_text("2 readings of 1 cell")).to_be_visible()
        page.get_by_role("button", name="Bring it in").click()
        expect(page.get_by_role("heading", name="Where each plate sits")).to_be_visible()
        kept = Reading.objects.filter(cell__group__lab__title="7b").values_list("text", flat=True)
        self.assertEqual(sorted(kept), ["0.94", "0.98"])

    def test_labs_are_found_tagged_put_away_and_laid_over_each_other(self):
        for k in (1, 2):
            lab = lab_of(self.ada, title=f"Fruit cells {k}")
            filled(lab, 0.02 * k)
            send(as_teacher(self.ada), f"/labs/{lab.id}/close")
        page = self.device()
        self.signed_in(page)
        page.goto("/labs")
        expect(page.get_by_role("img", name=re.compile("Its ladder in rhubarb juice")).first).to_be_visible()
        page.get_by_role("button", name="Tags of Shore cells").click()
        page.get_by_label("Tags, with commas").fill("year 10, shore")
        page.get_by_role("button", name="Keep the tags").click()
        page.get_by_role("button", name="Find labs tagged year 10").click()
        expect(page.get_by_role("link", name="Shore cells")).to_be_visible()
        expect(page.get_by_role("link", name="Fruit cells 1")).to_have_count(0)
        page.get_by_label("Find a title").fill("")
        page.get_by_role("button", name="Lay labs over each other").click()
        for title in ("Shore cells", "Fruit cells 1", "Fruit cells 2"):
            page.get_by_text(title, exact=True).click()
        page.get_by_role("link", name="Lay 3 over each other").click()
        expect(page.get_by_role("heading", name="What to expect here")).to_be_visible()
        expect(page.get_by_role("columnheader", name="the next, V")).to_be_visible()
        page.goto("/labs")
        page.get_by_role("button", name="Put away Fruit cells 2").click()
        expect(page.get_by_role("link", name="Fruit cells 2")).to_have_count(0)
        page.get_by_role("button", name="1 lab put away").click()
        expect(page.get_by_role("link", name="Fruit cells 2")).to_be_visible()

    def test_a_question_is_asked_at_the_bench_and_answered_from_the_board(self):
        lab = lab_of(self.ada, title="Open")
        device, desk = self.device(size=PHONE, touch=True), self.device()
        self.joined(device, group_of(lab))
        device.get_by_role("button", name=re.compile("Ask about this cell")).click()
        device.get_by_label("Your question").fill("Why does it bubble?")
        device.get_by_role("button", name="Leave it for your teacher").click()
        expect(device.get_by_text("Not looked at yet.")).to_be_visible()
        self.signed_in(desk)
        desk.goto(f"/labs/{lab.id}/board")
        desk.get_by_label("Your answer, or a question back").fill("Which plate bubbles?")
        desk.get_by_role("button", name="Answer", exact=True).click()
        expect(desk.get_by_text("asks about")).to_have_count(0)
        expect(device.get_by_text("Which plate bubbles?")).to_be_visible()

    def test_a_question_becomes_the_next_lab(self):
        lab = lab_of(self.ada, title="Open")
        cell = cell_of(group_of(lab))
        asked = {"id": str(uuid.uuid4()), "cell_id": str(cell.id), "text": "Does size matter?"}
        self.assertEqual(send(as_group(group_of(lab)), "/bench/questions", asked).status_code, 200)
        page = self.device()
        self.signed_in(page)
        page.goto(f"/labs/{lab.id}/board")
        page.get_by_role("button", name="Plan a lab about it").click()
        expect(page.get_by_label("The question")).to_have_value("Does size matter?")
        made_of = {cell.negative, cell.positive, cell.electrolyte}
        chosen = page.get_by_role("checkbox", checked=True).evaluate_all("boxes => boxes.map((box) => box.value)")
        self.assertEqual(made_of - set(chosen), set(), chosen)
        self.assertEqual(QuestionAnswer.objects.get().kind, "planned")

    def test_values_from_elsewhere_stand_beside_a_cell(self):
        page = self.device()
        self.signed_in(page)
        page.goto(f"/labs/{self.lab.id}/compare")
        page.get_by_role("button", name=re.compile("Values from elsewhere")).click()
        page.get_by_label(re.compile("^Volts of")).fill("0.98")
        page.get_by_label("Where it is from").fill("A leaflet")
        page.get_by_role("button", name="Put it beside the class’s").click()
        expect(page.get_by_text("from elsewhere, see below")).to_be_visible()
        page.get_by_role("button", name="Take the value of A leaflet away").click()
        expect(page.get_by_text("from elsewhere, see below")).to_have_count(0)
