"""The practice bench on a phone: no account, no network once it has been opened."""

import re

from playwright.sync_api import expect

from e2e.browser import PHONE
from e2e.live import BrowserTestCase
from galvanic.simulated.drill import GROUPS, case
from galvanic.simulated.drill_bench import FLAT_GAIN
from galvanic.simulated.free_bench import DIP_V, PLATE_V, pair_table
from server.entries.models import Reading
from server.homework.models import Homework, Tried
from server.people.models import Teacher
from server.tests.support import lab_of, teacher

CASES = {one.symptom: one for one in map(case, GROUPS)}


class Drilling(BrowserTestCase):
    keeps_pages = True

    def drill(self):
        """The case that is on the page, found by the faults that it offers."""
        offered = set(self.page.get_by_role("radio").evaluate_all("all => all.map((one) => one.value)"))
        return next(one for one in CASES.values() if set(one.answers) == offered)

    def find(self):
        """Work one case out as a student who always takes the best next hand; returns the hands it took."""
        drill, seen = self.drill(), {}
        causes = tuple(drill.answers)
        while len(causes) > 1:
            hand = drill.best_hand(causes, tuple(seen))
            self.page.get_by_role("button", name=drill.hands[hand], exact=True).click()
            row = self.page.get_by_role("row").filter(has_text=drill.hands[hand][1:])
            said = row.locator("td").inner_text().strip()
            seen[hand] = next(own[hand].code for own in drill.answers.values() if own[hand].says == said)
            causes = drill.consistent(seen)
        self.page.locator(f"input[value={causes[0]}]").check(force=True)
        self.page.get_by_role("button", name="Say so, and mend it").click()
        expect(self.page.get_by_text("Yes.")).to_be_visible()
        return len(seen)

    def next_bench(self):
        """On to the next case; what is read after this is of that one."""
        self.page.get_by_role("button", name="Next bench").click()
        expect(self.page.get_by_role("heading", name="What is wrong here?")).to_be_focused()


class Practise(Drilling):
    def setUp(self):
        super().setUp()
        self.page = self.device(size=PHONE, touch=True)
        self.page.goto("/join")
        self.page.get_by_role("link", name="Practise without a kit").click()
        expect(self.page.get_by_role("heading", name="What is wrong here?")).to_be_visible()

    def test_a_whole_drill_with_the_network_cut(self):
        self.check_access(self.page)
        self.until_kept(self.page, "/api/practise")
        self.page.context.set_offline(True)
        self.page.reload()
        expect(self.page.get_by_role("heading", name="What is wrong here?")).to_be_visible()
        for _ in range(5):
            self.assertLessEqual(self.find(), 5)
            self.next_bench()
        self.page.get_by_role("tab", name="the subtraction").click()
        expect(self.page.get_by_role("heading", name=re.compile("what does the table give"))).to_be_visible()
        self.page.get_by_role("tab", name="reading a meter").click()
        expect(self.page.get_by_role("img", name=re.compile("A meter, its dial at"))).to_be_visible()
        self.assertEqual((Reading.objects.count(), Teacher.objects.count()), (0, 0))

    def test_the_free_bench_is_predicted_dipped_and_read_then_without_network(self):
        """The same plates, leads turned: the same number, about, with the other sign."""
        self.page.clock.install()  # half a minute's settling is not waited for
        self.page.get_by_role("tab", name="build your own").click()
        expect(self.page.get_by_role("heading", name="Build your own")).to_be_visible()
        self.check_access(self.page)
        self.page.context.set_offline(True)
        read = []
        for said in ("1,1", "-1,1"):
            dip = self.page.get_by_role("button", name="Dip the plates")
            expect(dip).to_be_disabled()
            self.page.get_by_label("First say what it will read").fill(said)
            dip.click()
            expect(self.page.get_by_text("It is still settling.")).to_be_visible()
            self.page.clock.fast_forward(30_000)
            expect(self.page.get_by_text("It stands.")).to_be_visible()
            self.page.get_by_role("button", name="Read it off").click()
            rows = self.page.locator("tbody tr")
            expect(rows).to_have_count(len(read) + 1)
            row = rows.first
            read.append(float(row.locator("td").nth(2).inner_text().replace("\u2212", "-").split("\u2009")[0]))
            self.page.get_by_role("button", name="Turn the leads").click()
        model = pair_table("lemon-juice", "zinc", "copper").volts_v
        self.assertAlmostEqual(read[0], model, delta=4 * PLATE_V)
        self.assertAlmostEqual(read[0], -read[1], delta=6 * DIP_V)
        self.sags_under_a_load()

    def sags_under_a_load(self):
        """A resistor is joined while the plates are in: the display falls second by second, and a flat battery lies."""
        meter = self.page.get_by_label(re.compile("^The meter shows"))
        shown = lambda: float(meter.inner_text().replace("\u2212", "-"))  # noqa: E731
        self.page.get_by_label("First say what it will read").fill("0.5")
        self.page.get_by_role("button", name="Dip the plates").click()
        self.page.clock.fast_forward(30_000)
        seen = [shown()]
        self.page.get_by_role("button", name=re.compile("Between the ends")).click()
        self.page.get_by_role("option", name="1 kΩ").click()
        expect(self.page.get_by_text("It sags.")).to_be_visible()
        for seconds in (2, 10, 600):
            self.page.clock.fast_forward(1000 * seconds)
            seen.append(shown())
        expect(self.page.get_by_text("It stands under the load.")).to_be_visible()
        self.assertEqual(sorted(map(abs, seen), reverse=True), list(map(abs, seen)))
        self.page.get_by_role("radio", name="200 mV").check(force=True)
        expect(meter).to_have_text("OL")
        self.page.get_by_role("radio", name="2 V", exact=True).check(force=True)
        expect(meter).not_to_have_text("OL")
        right = meter.inner_text()
        self.page.get_by_role("radio", name="flat").check(force=True)
        expect(meter).not_to_have_text(right)
        self.assertAlmostEqual(shown() / seen[-1], FLAT_GAIN, delta=0.1)

    def test_a_wrong_cause_is_met_with_what_speaks_against_it(self):
        drill = self.drill()
        first = next(iter(drill.hands))
        self.page.get_by_role("button", name=drill.hands[first], exact=True).click()
        for key in drill.answers:
            answered = self.page.get_by_role("status").get_by_role("strong")
            self.page.locator(f"input[value={key}]").check(force=True)
            expect(answered).to_have_count(0)
            self.page.get_by_role("button", name="Say so, and mend it").click()
            expect(answered).to_have_text(re.compile(r"^(Yes\.|Not that\.)"))
            if answered.inner_text().startswith("Yes."):
                break
            expect(self.page.get_by_text(re.compile("would have said|would tell|once more"))).to_be_visible()
        expect(self.page.get_by_text("Yes.")).to_be_visible()
        self.check_access(self.page)


class AsHomework(Drilling):
    def test_it_is_set_opened_by_its_code_done_without_network_and_comes_in_without_a_name(self):
        ada = teacher("ada")
        lab, desk = lab_of(ada), self.device()
        self.signed_in(desk)
        desk.goto(f"/labs/{lab.id}/plan")
        desk.get_by_role("link", name="Practice as homework").click()
        desk.get_by_label("Benches on each device").fill("two")
        desk.get_by_role("button", name="Set homework").click()
        expect(desk.get_by_text("A whole number from 3 to 20.")).to_be_visible()
        desk.get_by_label("Benches on each device").fill("3")
        desk.get_by_role("button", name="Set homework").click()
        expect(desk.get_by_text("Nothing has come in yet.")).to_be_visible()
        code = Homework.objects.get().code

        self.page = self.device(size=PHONE, touch=True)
        self.page.goto("/practise")
        self.page.get_by_role("button", name=re.compile("Homework.*code")).click()
        self.page.get_by_label("Code of the homework").fill("amber 1")
        self.page.get_by_role("button", name="Begin the homework").click()
        expect(self.page.get_by_text("No homework has that code")).to_be_visible()
        self.page.goto(f"/practise?code={code}")
        self.page.get_by_role("button", name="Begin the homework").click()
        expect(self.page.get_by_text("3 benches to go.")).to_be_visible()
        self.check_access(self.page)
        self.until_kept(self.page, "/api/practise")
        self.page.context.set_offline(True)
        for _ in range(3):
            self.find()
            self.next_bench()
        expect(self.page.get_by_text("3 answers are on this device")).to_be_visible()
        self.page.reload()
        expect(self.page.get_by_text("All 3 benches are done.")).to_be_visible()
        self.says_what_waits_before_the_network_answers()
        expect(self.page.get_by_text("All answers are sent.")).to_be_visible()

        self.assertEqual([one.named == one.fault for one in Tried.objects.all()], [True] * 3)
        desk.reload()
        expect(desk.get_by_text("3 benches on 1 device; 1 of them did all 3.")).to_be_visible()
        self.check_access(desk)
        desk.get_by_role("button", name="End it").click()
        expect(desk.get_by_text("Ended ")).to_be_visible()
        self.page.get_by_role("button", name="Leave the homework").click()
        expect(self.page.get_by_role("button", name=re.compile("Homework.*code"))).to_be_visible()

    def says_what_waits_before_the_network_answers(self):
        """A network that is there and says nothing: what is only on this device is not called sent."""
        held, url = [], "**/api/practise/tried"
        self.page.route(url, lambda route: held.append(route))
        self.page.context.set_offline(False)
        self.page.reload()
        self.assertNotIn("are sent", self.page.get_by_role("status").filter(has_text="All 3 benches are done.").inner_text())
        expect(self.page.get_by_text("3 answers are on this device")).to_be_visible()
        self.until(self.page, lambda: held, "nothing was sent")
        self.assertEqual(Tried.objects.count(), 0)
        self.page.unroute(url)  # what was held goes on
