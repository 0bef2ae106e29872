"""A lab as it happens: two groups, a cut network, a crash, a wrong entry; and what the teacher does meanwhile."""

import asyncio
import io
import re
import threading

from django.db import connections
from django.test import override_settings
from PIL import Image
from playwright.sync_api import expect

from e2e.browser import PHONE
from e2e.live import BrowserTestCase
from e2e.process import ProcessTestCase
from galvanic.simulated.stream import CellStream
from server.entries.models import KeptTrace, Observation, Photo, Reading, UnderLoad
from server.findings.release import release
from server.labs.models import PlannedCell
from server.people.models import Group
from server.power.models import PackEntry
from server.practise.meter import SimulatedMeter, serve
from server.tests.support import cell_of, group_of, lab_of, record, teacher


async def _switch_off(server):
    """Close a meter's port and end the talks on it, so that nothing is left for the loop to do."""
    server.close()
    talks = [task for task in asyncio.all_tasks() if task is not asyncio.current_task()]
    for talk in talks:
        talk.cancel()
    await asyncio.gather(*talks, return_exceptions=True)


class TwoGroups(ProcessTestCase):
    """Every reading is there once, in order, whatever happens to the network and the server."""

    keeps_pages = True

    def tearDown(self):
        connections.close_all()
        super().tearDown()

    def next_cell(self, page):
        page.get_by_role("button", name="The next cell").click()
        expect(page.get_by_text("· cell 2 of 4")).to_be_visible()

    def test_two_groups_through_a_cut_network_an_offline_reload_a_crash_and_a_wrong_entry(self):
        lab = lab_of(teacher("ada"))
        tern, knot = group_of(lab, "Tern"), group_of(lab, "Knot")
        phone, laptop = self.device(PHONE, touch=True), self.device()
        self.join(phone, lab.join_code, tern.pin)
        self.join(laptop, lab.join_code, knot.pin)
        self.until_kept(phone, "/api/bench")

        for text in ("0.91", "0.92"):
            self.type_reading(phone, text)
        self.type_reading(laptop, "0.81")
        expect(phone.get_by_role("heading", name="Third reading of 3")).to_be_visible()

        phone.context.set_offline(True)
        self.type_reading(phone, "0.93")
        expect(phone.get_by_role("heading", name="3 readings are in")).to_be_visible()
        self.next_cell(phone)
        self.type_reading(phone, "0.51")
        phone.reload()  # the network is still away
        expect(phone.get_by_text(re.compile("[23] not sent yet"))).to_be_visible()
        expect(phone.get_by_role("heading", name="Second reading of 3")).to_be_visible()
        self.type_reading(phone, "0.52")
        self.type_reading(laptop, "0.82")
        expect(laptop.get_by_role("button", name="Correct 0.82 V")).to_be_visible()  # the server has it

        self.crash()
        self.type_reading(laptop, "8.3")
        expect(laptop.get_by_text("safe on this device, not sent yet")).to_be_visible()
        self.next_cell(laptop)
        self.type_reading(laptop, "0.41")
        laptop.reload()
        expect(laptop.get_by_text("2 not sent yet")).to_be_visible()

        type(self).start_server(self.port)
        phone.context.set_offline(False)
        for page in (phone, laptop):
            expect(page.get_by_text("All readings sent")).to_be_visible()

        laptop.get_by_role("button", name="The cell before").click()
        laptop.get_by_role("button", name="Correct 8.3 V").click()
        laptop.get_by_label("Why was it wrong?").fill("typed it wrong")
        self.type_reading(laptop, "0.83")
        expect(laptop.get_by_text("corrected: typed it wrong")).to_be_visible()
        laptop.reload()
        expect(laptop.get_by_text("corrected: typed it wrong")).to_be_visible()

        def kept(group):
            found = Reading.objects.filter(cell__group=group).order_by("received_at")
            return [(one.cell.position, one.text, one.corrects_id is not None) for one in found.select_related("cell")]

        self.assertEqual(
            kept(tern),
            [(1, "0.91", False), (1, "0.92", False), (1, "0.93", False), (2, "0.51", False), (2, "0.52", False)],
        )
        self.assertEqual(
            kept(knot),
            [(1, "0.81", False), (1, "0.82", False), (1, "8.3", False), (2, "0.41", False), (1, "0.83", True)],
        )
        offline = Reading.objects.get(cell__group=tern, text="0.51")
        self.assertLess(offline.taken_at, offline.received_at)


class AtTheBench(BrowserTestCase):
    """What a bench has besides the number."""

    def setUp(self):
        super().setUp()
        self.ada = teacher("ada")
        self.lab = lab_of(self.ada, short_circuit=True, load_ohm=1000.0)
        self.tern = group_of(self.lab)

    def tearDown(self):
        connections.close_all()
        super().tearDown()

    def bench(self, **options):
        page = self.device(**options)
        self.joined(page, self.tern)
        return page

    def test_a_whole_cell_by_keyboard_alone(self):
        page = self.bench()
        page.get_by_role("button", name="Skip").press("Enter")
        expect(page.get_by_role("textbox", name="Reading in")).to_be_focused()
        page.keyboard.type("s")
        expect(page.get_by_role("button", name="Swap leads back")).to_be_visible()
        page.keyboard.type("d")
        expect(page.get_by_text("Wait for it to settle")).to_be_visible()
        for text in ("-0.91", "-0.92", "-.93"):
            page.keyboard.type(text)
            page.keyboard.press("Enter")
        expect(page.get_by_role("heading", name="3 readings are in")).to_be_visible()
        page.keyboard.type("?")
        expect(page.get_by_role("heading", name="What do you see on the meter?")).to_be_visible()
        self.check_access(page)
        page.keyboard.type("?")
        page.keyboard.press("ArrowRight")
        expect(page.get_by_text("Nothing recorded for this cell yet.")).to_be_visible()
        self.assertEqual(sorted(Reading.objects.values_list("volts_v", flat=True)), [-0.93, -0.92, -0.91])

    def test_shortcuts_work_wherever_the_focus_is_and_it_comes_back_to_the_entry(self):
        page = self.bench()
        entry = page.get_by_role("textbox", name="Reading in")
        page.get_by_role("button", name="Skip").press("Enter")
        page.get_by_role("button", name="Check it later").press("Enter")
        expect(entry).to_be_focused()
        off = page.get_by_role("button", name="Something is off")
        off.focus()
        page.keyboard.type("s")
        expect(page.get_by_role("button", name="Swap leads back")).to_be_visible()
        page.keyboard.type("sm")
        expect(page.get_by_role("textbox", name="Reading in millivolts")).to_be_visible()
        page.keyboard.type("v")
        expect(page.get_by_role("textbox", name="Reading in volts")).to_be_visible()
        expect(off).to_be_focused()
        page.keyboard.type("d")
        expect(entry).to_be_focused()
        page.keyboard.type("0.94")
        page.locator("h1").click()
        page.keyboard.press("Enter")
        expect(page.get_by_role("heading", name="Second reading of 3")).to_be_visible()
        page.get_by_role("button", name="What you see").press("Enter")
        words = page.get_by_role("textbox", name="What do you see?")
        words.fill("bubbles")
        words.press("ArrowLeft")
        page.keyboard.type("sdr?")
        expect(words).to_have_value("bubblesdr?s")
        expect(page).to_have_url(re.compile("/bench/1$"))

    def test_loads_notes_photographs_and_a_loggers_file_by_touch(self):
        page = self.bench(size=PHONE, touch=True)
        self.type_reading(page, "0.94")
        page.get_by_role("button", name="Under load").tap()
        page.get_by_label("Voltage, V").fill("0.47")
        page.get_by_label("Voltage, V").press("Enter")
        expect(page.get_by_text("inside, under this resistor")).to_be_visible()
        expect(page.get_by_text("Hold it on for 3 s at most")).to_be_visible()
        page.get_by_role("button", name="What you see").tap()
        page.get_by_role("button", name="bubbles").tap()
        page.get_by_role("button", name="Keep this note").tap()
        expect(page.get_by_label("What you noted")).to_contain_text("bubbles")
        picture = io.BytesIO()
        Image.new("RGB", (3000, 2000), (160, 90, 40)).save(picture, "PNG")
        with page.expect_file_chooser() as chooser:
            page.get_by_role("button", name="Add a photograph").tap()
        chooser.value.set_files({"name": "cell.png", "mimeType": "image/png", "buffer": picture.getvalue()})
        expect(page.get_by_role("img", name=re.compile("Photograph 1"))).to_be_visible()
        with page.expect_file_chooser() as chooser:
            page.get_by_role("button", name="Add a photograph").tap()
        chooser.value.set_files({"name": "no.png", "mimeType": "image/png", "buffer": b"not a picture"})
        expect(page.get_by_role("alert")).to_contain_text("no picture this browser can read")
        page.get_by_role("button", name="From a data logger").tap()
        rows = "\n".join(f"{t};{0.95 if t > 9 else 0.6:.3f}".replace(".", ",") for t in range(40))
        with page.expect_file_chooser() as chooser:
            page.get_by_role("button", name="Choose a file").tap()
        chooser.value.set_files({"name": "run.csv", "mimeType": "text/csv", "buffer": f"Zeit (s);U (V)\n{rows}".encode()})
        expect(page.get_by_text("semicolon between columns, decimal comma")).to_be_visible()
        self.check_access(page)
        page.get_by_role("button", name="Keep the trace, put 0.950 V in the box").tap()
        expect(page.get_by_role("textbox", name="Reading in")).to_have_value("0.950")
        page.get_by_role("button", name="Record").first.tap()
        expect(page.get_by_text("from a file")).to_be_visible()
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), PHONE["width"])
        counts = [model.objects.count() for model in (UnderLoad, Observation, Photo, KeptTrace)]
        self.assertEqual(counts, [1, 1, 1, 1])
        self.assertEqual((Photo.objects.get().width, Photo.objects.get().height), (1600, 1067))

    def test_a_browser_that_stores_nothing_says_so_and_still_sends(self):
        page = self.device()
        page.add_init_script("indexedDB.open = () => { throw new DOMException('no', 'SecurityError'); };")
        self.joined(page, self.tern)
        self.type_reading(page, "0.94")
        expect(page.get_by_text("This browser keeps nothing")).to_be_visible()
        expect(page.get_by_text("All readings sent")).to_be_visible()
        page.context.set_offline(True)
        self.type_reading(page, "0.95")
        expect(page.get_by_text("1 entry in this page only")).to_be_visible()
        page.context.set_offline(False)
        expect(page.get_by_text("All readings sent")).to_be_visible()
        self.assertEqual(Reading.objects.count(), 2)

    def test_a_page_closed_while_it_keeps_a_reading_loses_nothing(self):
        page = self.device()
        self.joined(page, self.tern)
        self.type_reading(page, "0.94")
        expect(page.get_by_text("All readings sent")).to_be_visible()
        page.evaluate("IDBObjectStore.prototype.get = () => ({})")  # the browser's store never answers again
        self.type_reading(page, "0.95")
        expect(page.get_by_role("textbox", name="Reading in")).to_have_value("")
        page.reload()
        expect(page.get_by_role("heading", name="Third reading of 3")).to_be_visible()
        expect(page.get_by_text("All readings sent")).to_be_visible()
        self.assertEqual(sorted(Reading.objects.values_list("text", flat=True)), ["0.94", "0.95"])

    def test_a_full_device_says_so(self):
        page = self.device()
        page.add_init_script(
            "IDBObjectStore.prototype.put = () => { throw new DOMException('full', 'QuotaExceededError'); };"
        )
        self.joined(page, self.tern)
        self.type_reading(page, "0.94")
        expect(page.get_by_text("This device is full")).to_be_visible()
        expect(page.get_by_role("button", name="Correct 0.94 V")).to_be_visible()

    def test_a_wrong_clock_is_said_and_does_not_matter(self):
        page = self.device()
        page.add_init_script("const real = Date.now; Date.now = () => real() - 3_600_000;")
        self.joined(page, self.tern)
        expect(page.get_by_text("This device’s clock is off")).to_be_visible()
        expect(page.get_by_text("By 60 minutes.")).to_be_visible()
        expect(page.get_by_text(re.compile(r"4\d:\d\d left"))).to_be_visible()

    def a_run_that_the_meter_types(self, page):
        release(actor=self.lab.owner, lab_id=self.lab.id, parts=("power",))
        page.goto("/bench/packs")
        page.get_by_role("button", name="Begin a pack").click()
        page.get_by_role("button", name="Begin with this cell").click()
        page.get_by_role("button", name="Over time").click()
        page.get_by_text("10 s", exact=True).click()
        page.get_by_text("Let the connected meter type it, every 10 s").click()
        expect(page.get_by_text(re.compile(r"It shows \d\.\d{3} V"))).to_be_visible()
        typed = PackEntry.objects.filter(kind="run_v")
        self.until(page, typed.exists, "the meter typed nothing")
        self.assertRegex(typed.first().text, r"^\d\.\d{3}$")

    def test_a_connected_meter_fills_the_entry_and_its_trouble_is_said(self):
        loop = asyncio.new_event_loop()
        thread = threading.Thread(target=loop.run_forever, daemon=True)
        thread.start()
        meter = SimulatedMeter(CellStream(0.0, settle_s=0.5), seed=1)
        server = asyncio.run_coroutine_threadsafe(serve(meter, 0), loop).result(10)
        port = server.sockets[0].getsockname()[1]
        self.enterContext(override_settings(METER_NETWORKS=[f"127.0.0.1:{port}"]))
        Group.objects.filter(id=self.tern.id).update(meter_address=f"127.0.0.1:{port}")
        page = self.bench()
        expect(page.get_by_text("Steady: read it.")).to_be_visible()
        page.get_by_role("textbox", name="Reading in").focus()
        page.keyboard.type("r")
        page.keyboard.press("Enter")
        expect(page.get_by_role("button", name=re.compile(r"Correct \d\.\d{3} V"))).to_be_visible()
        kept = Reading.objects.get()
        self.assertEqual((kept.origin, kept.resolution_v), ("simulated", 0.001))
        self.check_access(page)
        meter.obey("SIM:FAULT", "nonsense")
        expect(page.get_by_text("The meter’s answer is no voltage.")).to_be_visible()
        meter.obey("SIM:FAULT", "none")
        self.a_run_that_the_meter_types(page)
        page.close()
        asyncio.run_coroutine_threadsafe(_switch_off(server), loop).result(10)
        loop.call_soon_threadsafe(loop.stop)
        thread.join(10)
        loop.close()


class TheTeachersHand(BrowserTestCase):
    """The board while the lab runs."""

    def setUp(self):
        super().setUp()
        self.ada = teacher("ada")
        self.lab = lab_of(
            self.ada, electrodes=["zinc", "copper", "tin", "nickel", "magnesium", "steel", "silver"], minutes=60, repeats=1
        )
        self.tern, self.knot = group_of(self.lab, "Tern"), group_of(self.lab, "Knot")
        self.board = self.device()
        self.signed_in(self.board)
        self.board.goto(f"/labs/{self.lab.id}/board")

    def tearDown(self):
        connections.close_all()
        super().tearDown()

    def pick(self, cell):
        name = re.compile(f"^{cell.group.name}, {re.escape(cell.cell.short)} in")
        self.board.get_by_role("button", name=name).first.click()

    def test_set_aside_with_a_reason_and_take_it_back(self):
        cell = cell_of(self.tern)
        record(cell, "9.4")
        bench = self.device()
        self.joined(bench, self.tern)
        self.pick(cell)
        self.board.get_by_role("button", name="Set aside, with a reason").click()
        self.board.get_by_label("Reason").fill("a slipped point")
        self.board.get_by_label("Reason").press("Enter")
        expect(self.board.get_by_text("set aside: a slipped point").first).to_be_visible()
        self.check_access(self.board)
        expect(bench.get_by_text("set aside by your teacher: a slipped point")).to_be_visible()
        expect(bench.get_by_role("heading", name="First reading of 3")).to_be_visible()
        self.board.get_by_role("button", name="Take it back").click()
        expect(bench.get_by_role("heading", name="Second reading of 3")).to_be_visible()

    def test_a_cell_goes_to_another_group_while_both_work(self):
        theirs = {one.cell for one in PlannedCell.objects.filter(group=self.knot)}
        given = next(c for c in PlannedCell.objects.filter(group=self.tern, shared=False) if c.cell not in theirs)
        bench = self.device()
        self.joined(bench, self.knot)
        before = PlannedCell.objects.filter(group=self.knot).count()
        self.pick(given)
        self.board.get_by_role("button", name=re.compile("Give this cell to")).click()
        self.board.get_by_role("option", name="Knot").click()
        expect(bench.get_by_text(f"cell 1 of {before + 1}")).to_be_visible()
        self.assertEqual(PlannedCell.objects.get(id=given.id).group_id, self.knot.id)

    def test_pause_more_minutes_and_class_values_reach_the_bench(self):
        for text in ("0.94", "0.95", "0.96"):
            record(cell_of(self.tern), text)
        record(cell_of(self.knot), "0.90")
        bench = self.device()
        self.joined(bench, self.tern, "/bench/1")
        self.board.get_by_role("button", name="Pause").click()
        expect(bench.get_by_text(re.compile("paused, .* left"))).to_be_visible()
        self.board.get_by_role("button", name="Go on").click()
        expect(bench.get_by_text(re.compile("paused, .* left"))).to_have_count(0)
        self.board.get_by_role("button", name="5 min more").click()
        expect(bench.get_by_text(re.compile(r"6[45]:\d\d left"))).to_be_visible()
        expect(bench.get_by_text("stay covered until your teacher shows them.")).to_be_visible()
        self.board.get_by_role("button", name="Show them").click()
        expect(bench.get_by_text(re.compile("0.90.V on average, 1 group"))).to_be_visible()
        self.board.get_by_role("link", name="Projector").click()
        expect(self.board.get_by_text("Back to the board")).to_be_visible()
        expect(self.board.get_by_text(self.tern.pin)).to_have_count(0)
        self.check_access(self.board)
