"""The bench when hands are wet and the network is not there."""

import re

from django.db import connections
from playwright.sync_api import expect

from e2e.browser import PHONE
from e2e.live import BrowserTestCase
from server.entries.meter_checks import ask_again
from server.entries.models import Reading
from server.labs.models import PlannedCell
from server.room.cells import give_cell
from server.room.services import pause
from server.tests.support import cell_of, group_of, lab_of, record, teacher

THIN = "\u202f"
MINUS = "\u2212"


class Bench(BrowserTestCase):
    def setUp(self):
        super().setUp()
        self.ada = teacher("ada")
        self.lab = lab_of(self.ada)
        self.tern = group_of(self.lab)

    def bench(self, **options):
        page = self.device(**options)
        self.joined(page, self.tern)
        return page

    def kept(self):
        return list(Reading.objects.order_by("received_at").values_list("text", "unit"))

    def test_with_the_network_cut_readings_stay_on_the_device_and_are_sent_once_in_order(self):
        page = self.bench(size=PHONE)
        page.context.set_offline(True)
        for text in ("0.91", "0.92"):
            self.type_reading(page, text)
            expect(page.get_by_role("textbox", name="Reading in")).to_have_value("")
        expect(page.get_by_text("2 entries safe on this device")).to_be_visible()
        expect(page.get_by_role("heading", name="Third reading of 3")).to_be_visible()
        self.assertEqual(self.kept(), [])
        page.context.set_offline(False)
        expect(page.get_by_text("All readings sent")).to_be_visible()
        self.assertEqual(self.kept(), [("0.91", "V"), ("0.92", "V")])

    def test_a_reading_typed_while_the_server_is_down_survives_a_reload_and_arrives_once(self):
        page = self.bench()
        self.type_reading(page, "0.90")
        expect(page.get_by_role("button", name="Correct 0.90 V")).to_be_visible()
        port = self.port
        self.stop_server()
        try:
            self.type_reading(page, "0.93")
            expect(page.get_by_text("safe on this device, not sent yet")).to_be_visible()
        finally:
            type(self).start_server(port)
        page.reload()
        expect(page.get_by_text("All readings sent")).to_be_visible()
        expect(page.get_by_role("heading", name="Third reading of 3")).to_be_visible()
        self.assertEqual(self.kept(), [("0.90", "V"), ("0.93", "V")])

    def test_an_answer_that_is_lost_on_the_way_does_not_make_two_readings(self):
        page = self.bench()
        lost = []

        def lose(route):
            if lost:
                route.continue_()
            else:
                lost.append(route.fetch().status)  # the server has kept it; the device never hears so
                route.abort()

        page.route("**/api/bench/readings", lose)
        self.type_reading(page, "0.95")
        expect(page.get_by_text("1 entry safe on this device")).to_be_visible()
        expect(page.get_by_text("All readings sent")).to_be_visible()
        self.assertEqual((lost, self.kept()), ([200], [("0.95", "V")]))

    def test_a_remark_carries_its_repair_and_leaves_the_thinking_to_the_group(self):
        page = self.bench()
        self.type_reading(page, "-0.94")
        said = page.get_by_role("status", name="What this reading says")
        expect(said).to_contain_text("Which plate is the red lead on")
        expect(said).not_to_contain_text("red should be on")
        said.get_by_role("button", name="Say it with numbers").click()
        expect(said).to_contain_text("red should be on")
        said.get_by_role("button", name="The leads were swapped").dblclick()
        expect(page.get_by_text("leads were swapped").first).to_be_visible()
        expect(page.get_by_text("All readings sent")).to_be_visible()
        self.until(page, lambda: len(self.kept()) == 2, "the correction is not kept, or twice")
        first, second = Reading.objects.order_by("received_at")
        self.assertEqual((second.corrects_id, second.reason, second.text), (first.id, "leads were swapped", "-0.94"))
        self.assertEqual((second.red, second.black), (first.black, first.red))
        self.type_reading(page, "951")
        button = page.get_by_role("button", name="It was millivolts")
        expect(button).to_be_visible()
        page.context.set_offline(True)
        button.click()
        expect(page.get_by_text("1 not sent yet")).to_be_visible()
        page.context.set_offline(False)
        self.until(page, lambda: len(self.kept()) == 4, "the correction is not kept")
        self.assertEqual(self.kept()[-1], ("951", "mV"))
        self.check_access(page)

    def test_a_request_that_the_network_swallows_is_given_up_and_sent_again(self):
        page = self.bench()
        page.clock.install()
        swallowed = []

        def swallow(route):
            if swallowed:
                route.continue_()
            else:
                swallowed.append(route)  # no answer and no error, ever

        page.route("**/api/bench/readings", swallow)
        self.type_reading(page, "0.95")
        expect(page.get_by_text("1 not sent yet")).to_be_visible()
        page.clock.fast_forward(21_000)
        expect(page.get_by_text("All readings sent")).to_be_visible()
        self.assertEqual((len(swallowed), self.kept()), (1, [("0.95", "V")]))
        swallowed[0].abort()  # so that nothing is left waiting in this process

    def test_what_cannot_be_read_comes_back_into_the_field_with_the_reason(self):
        page = self.bench()
        self.type_reading(page, "0.9 0.8")
        expect(page.get_by_role("alert")).to_contain_text("looks like two numbers")
        expect(page.get_by_role("textbox", name="Reading in")).to_have_value("0.9 0.8")
        expect(page.get_by_text("All readings sent")).to_be_visible()
        self.check_access(page)
        self.type_reading(page, "")
        expect(page.get_by_role("alert")).to_contain_text("Type the number on the meter first")
        self.assertEqual(self.kept(), [])

    def test_a_whole_cell_is_recorded_with_the_keyboard_alone(self):
        page = self.bench()
        keys = page.keyboard
        for pressed in ("938", "m", "Enter"):
            keys.type(pressed) if pressed.isdigit() else keys.press(pressed)
        expect(page.get_by_role("heading", name="Second reading of 3")).to_be_visible()
        expect(page.get_by_role("textbox", name="Reading in millivolts")).to_be_focused()
        keys.type("940 mV")
        keys.press("Enter")
        expect(page.get_by_role("heading", name="Third reading of 3")).to_be_visible()
        keys.press("s")
        keys.press("v")
        keys.type("-0.94")
        keys.press("Enter")
        expect(page.get_by_role("heading", name="3 readings are in")).to_be_visible()
        expect(page.get_by_text("All readings sent")).to_be_visible()
        self.assertEqual(self.kept(), [("938", "mV"), ("940", "mV"), ("-0.94", "V")])
        self.assertEqual(Reading.objects.get(text="-0.94").red, "zinc")
        keys.press("ArrowRight")
        expect(page.get_by_text("cell 2 of 4")).to_be_visible()

    def test_correcting_may_begin_before_the_answer_to_the_last_entry_is_there(self):
        page = self.bench()
        self.type_reading(page, "0.91")
        expect(page.get_by_role("button", name="Correct 0.91 V")).to_be_visible()
        held = []
        page.route("**/api/bench/readings", lambda route: held.append(route))
        self.type_reading(page, "0.92")
        expect(page.get_by_text("safe on this device, not sent yet")).to_be_visible()
        page.get_by_role("button", name="Correct 0.91 V").click()
        for route in held:
            route.continue_()
        expect(page.get_by_role("button", name="Correct 0.92 V")).to_be_visible()
        expect(page.get_by_role("button", name="wrong unit")).to_be_visible()

    def test_a_number_typed_but_not_recorded_survives_a_reload_and_a_look_at_another_cell(self):
        page = self.bench()
        page.get_by_role("textbox", name="Reading in").fill("0.9")
        page.get_by_role("button", name="The next cell").click()
        expect(page.get_by_role("textbox", name="Reading in")).to_have_value("")
        page.get_by_role("button", name="The cell before").click()
        expect(page.get_by_role("textbox", name="Reading in")).to_have_value("0.9")
        page.reload()
        expect(page.get_by_role("textbox", name="Reading in")).to_have_value("0.9")
        self.assertEqual(self.kept(), [])

    def test_what_a_reading_says_stands_directly_under_the_entry_and_is_announced(self):
        page = self.bench(size=PHONE, touch=True)
        page.get_by_role("button", name="Skip").click()
        self.type_reading(page, "880")
        said = page.get_by_role("status", name="What this reading says")
        expect(said).to_contain_text("Millivolts?")
        entry = page.get_by_role("textbox", name="Reading in").bounding_box()
        self.assertLess(said.bounding_box()["y"] - (entry["y"] + entry["height"]), 90, "it is not under the entry")
        expect(said).to_be_in_viewport(ratio=0.9)
        expect(page.get_by_text(re.compile(r"\d mV from the one before"))).to_have_count(0)

    def test_what_the_whole_group_has_to_know_stands_on_top_of_every_page_of_the_bench(self):
        page = self.bench(size=PHONE)
        pause(actor=self.ada, lab_id=self.lab.id, paused=True)
        record(cell_of(self.tern, 2))
        ask_again(actor=self.ada, cell_id=cell_of(self.tern, 2).id)
        line = page.get_by_role("status", name="For the whole group")
        expect(line).to_contain_text("Pause: your teacher has stopped the clock")
        expect(line).to_contain_text("asks for a new reading")
        self.assertLess(line.bounding_box()["y"], 180)
        self.check_access(page)

    def test_a_group_is_told_when_its_cell_was_given_away_and_what_it_typed_stays(self):
        page = self.bench()
        own = [one for one in PlannedCell.objects.filter(group=self.tern).order_by("position") if not one.shared]
        place = own[0].position
        page.goto(f"/bench/{place}")
        expect(page.get_by_role("textbox", name="Reading in")).to_be_visible()
        page.context.set_offline(True)
        self.type_reading(page, "0.314")
        expect(page.get_by_text("1 not sent yet")).to_be_visible()
        PlannedCell.objects.filter(
            group__lab=self.lab, group__name="Knot", negative=own[0].negative, positive=own[0].positive
        ).delete()
        give_cell(actor=self.ada, cell_id=own[0].id, group_id=group_of(self.lab, "Knot").id)
        page.context.set_offline(False)
        line = page.get_by_role("status", name="For the whole group")
        expect(line).to_contain_text(f"Your teacher has given {own[0].cell.short} to another group.")
        expect(page.get_by_text("1 entry kept here, to be offered again")).to_be_visible()
        expect(page.get_by_text(f"0.314{' '}V").first).to_be_visible()
        line.get_by_role("button", name="Hide this line").click()
        expect(page.get_by_text("to another group")).to_have_count(0)

    def test_a_group_that_has_read_everything_is_given_one_more_cell_at_the_board(self):
        lab = lab_of(self.ada, minutes=40, electrodes=["zinc", "copper", "tin", "nickel", "magnesium"])
        tern = group_of(lab)
        for planned in PlannedCell.objects.filter(group=tern):
            for text in ("0.31", "0.32", "0.31"):
                record(planned, text)
        before = PlannedCell.objects.filter(group=tern).count()
        phone, desk = self.device(size=PHONE), self.device()
        self.joined(phone, tern)
        expect(phone.get_by_text(f"of {before}", exact=False).first).to_be_visible()
        self.signed_in(desk)
        desk.goto(f"/labs/{lab.id}/board")
        note = desk.get_by_role("complementary").filter(has_text="Tern has read everything")
        press = note.get_by_role("button", name=re.compile("^Give .* to Tern$"))
        press.dblclick()
        expect(note.get_by_text("Tern has read everything")).to_have_count(0)
        self.assertEqual(PlannedCell.objects.filter(group=tern).count(), before + 1)
        expect(phone.get_by_text(f"of {before + 1}", exact=False).first).to_be_visible()
        self.check_access(desk)

    def test_the_wait_goes_on_after_a_reload_and_is_a_short_one_between_readings(self):
        page = self.bench()
        page.get_by_role("button", name="Plates are in").click()
        expect(page.get_by_text("Wait for it to settle")).to_be_visible()
        page.reload()
        expect(page.get_by_text("Wait for it to settle")).to_be_visible()
        self.type_reading(page, "0.94")
        expect(page.get_by_text("Put back in? A short wait, 20 s.")).to_be_visible()

    def test_the_bench_opens_again_while_the_server_is_away_and_goes_on(self):
        page = self.bench(keeps_pages=True)
        self.type_reading(page, "0.93")
        expect(page.get_by_text("All readings sent")).to_be_visible()
        self.until_kept(page, "/api/bench")
        kept = "async () => (await (await caches.open('pipette-bench-1')).match('/api/bench')).text()"
        self.until(page, lambda: "0.93" in page.evaluate(kept), "the bench was kept without its reading")
        port = self.port
        self.stop_server()
        try:
            page.reload()
            expect(page.get_by_role("heading", name="Second reading of 3")).to_be_visible()
            self.type_reading(page, "0.94")
            expect(page.get_by_role("heading", name="Third reading of 3")).to_be_visible()
            page.reload()
            expect(page.get_by_role("heading", name="Third reading of 3")).to_be_visible()
            self.type_reading(page, "0.95")
            expect(page.get_by_text("2 not sent yet")).to_be_visible()
        finally:
            type(self).start_server(port)
        expect(page.get_by_text("All readings sent")).to_be_visible()
        self.assertEqual([text for text, _ in self.kept()], ["0.93", "0.94", "0.95"])

    def test_leaving_forgets_what_was_kept(self):
        page = self.bench(keeps_pages=True)
        self.until_kept(page, "/api/bench")
        self.leave(page)
        expect(page.get_by_role("heading", name="Join your lab")).to_be_visible()
        there = "async () => Boolean(await (await caches.open('pipette-bench-1')).match('/api/bench'))"
        self.until(page, lambda: not page.evaluate(there), "the bench is still kept")

    def test_two_devices_of_one_group_see_each_others_readings(self):
        one, other = self.bench(), self.bench(size=PHONE)
        self.type_reading(one, "0.94")
        self.type_reading(other, "0.95")
        for page in (one, other):
            for text in ("0.94", "0.95"):
                expect(page.get_by_text(f"{text}{THIN}V").first).to_be_visible()

    def test_the_bench_fits_a_phone_and_its_targets_are_large(self):
        page = self.bench(size=PHONE, touch=True)
        entry = page.get_by_role("textbox", name="Reading in").bounding_box()
        self.assertLess(entry["y"] + entry["height"], PHONE["height"], f"the entry is not on the first screen: {entry}")
        page.get_by_role("button", name="Skip").click()
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), PHONE["width"])
        for name in ("Record", "Type in mV", "Swap leads", "The next cell"):
            box = page.get_by_role("button", name=name).bounding_box()
            self.assertGreaterEqual(min(box["width"], box["height"]), 44, name)
        page.get_by_role("button", name="Put or take the minus").click()
        expect(page.get_by_role("textbox", name="Reading in")).to_have_value(MINUS)

    def tearDown(self):
        connections.close_all()
        super().tearDown()

    def test_a_meter_check_takes_its_offset_off_and_the_board_knows(self):
        page = self.device(PHONE, touch=True)
        self.joined(page, group_of(self.lab))
        page.get_by_role("button", name="Check the meter first").click()
        page.get_by_label("Leads together, V").fill("none")
        page.get_by_label("On a fresh dry cell, V").fill("1.48")
        page.get_by_role("button", name="Keep this check").tap()
        expect(page.get_by_role("alert")).to_contain_text("“none” is not one number")
        page.get_by_label("Leads together, V").fill("-0.060")
        self.check_access(page)
        page.get_by_role("button", name="Keep this check").tap()
        expect(page.get_by_role("status").filter(has_text="with the leads together is much for a meter")).to_be_visible()
        self.type_reading(page, "0.89")
        expect(page.get_by_text(re.compile("0.060.V of the meter taken off"))).to_be_visible()
        self.assertEqual(Reading.objects.get().text, "0.89")

    def test_a_check_on_a_reading_advises_and_never_blocks_and_the_teacher_sees_it(self):
        page, board = self.device(), self.device()
        self.signed_in(board)
        board.goto(f"/labs/{self.lab.id}/board")
        self.joined(page, group_of(self.lab))
        self.type_reading(page, "0.01")
        expect(page.get_by_text("Close to nothing")).to_be_visible()
        expect(page.get_by_text("Do the plates or the clips touch, or does liquid bridge the clips?")).to_be_visible()
        self.check_access(page)
        expect(board.get_by_role("heading", name="Go and see")).to_be_visible()
        expect(board.get_by_label(re.compile("Tern, Zn | Cu .*go and see")).first).to_be_visible()
        self.check_access(board)
        board.get_by_role("complementary").get_by_role("button", name="Ask for a new reading").click()
        expect(board.get_by_text("A new reading is asked for.").first).to_be_visible()
        page.reload()
        expect(page.get_by_text("Your teacher asks for a new reading")).to_be_visible()
        self.type_reading(page, "0.95")
        expect(page.get_by_text("Your teacher asks for a new reading")).to_have_count(0)
        expect(page.get_by_text("Close to nothing")).to_have_count(0)
        expect(board.get_by_role("heading", name="Go and see")).to_have_count(0)
        self.assertEqual(Reading.objects.count(), 2)

    def test_on_a_phone_the_page_moves_to_what_is_to_be_done(self):
        page = self.bench(size=PHONE, touch=True)
        for text in ("0.93", "0.94", "0.95"):
            self.type_reading(page, text)
        entry = page.get_by_role("textbox", name="Reading in").bounding_box()
        self.assertLess(entry["y"], PHONE["height"])
        page.get_by_role("button", name="Correct").last.click()
        heading = page.get_by_role("heading", name="Correct 0.9")
        expect(heading).to_be_in_viewport()
        page.get_by_role("button", name="Leave it as it is").click()
        page.mouse.wheel(0, 3000)
        page.get_by_role("button", name="The next cell").click()
        expect(page.get_by_role("heading", name="Build this cell")).to_be_in_viewport()
        expect(page.get_by_role("heading", name="Build this cell")).to_be_focused()
        page.get_by_role("button", name="The cell before").click()
        page.get_by_role("button", name="On to cell 2").click()  # the first thing to do when all readings are in
        expect(page).to_have_url(re.compile("/bench/2$"))

    def test_the_entry_stays_on_a_phones_first_screen_below_a_banner_and_a_kept_prediction(self):
        page = self.bench(size=PHONE, touch=True)
        page.goto("/bench/2")
        page.get_by_role("button", name="zinc", exact=True).click()
        page.get_by_label(re.compile("How many volts")).fill("1.1")
        page.get_by_role("button", name="Keep this prediction").click()
        page.get_by_text("You predicted").wait_for()
        entry = page.get_by_role("textbox", name="Reading in").bounding_box()
        banner = 75  # what "Your teacher shows you …" takes
        self.assertLess(entry["y"] + entry["height"] + banner, PHONE["height"])

    def test_at_the_first_level_the_order_is_foretold_before_anything_says_it(self):
        lab = lab_of(self.ada, title="Order", level="first")
        page = self.device(PHONE, touch=True)
        self.joined(page, group_of(lab), "/bench/1")
        page.get_by_text("Predict, or skip, to see where the leads go").wait_for()
        expect(page.get_by_text("Black lead on")).to_have_count(0)
        page.get_by_role("button", name="zinc", exact=True).click()
        page.get_by_role("button", name="Keep this prediction").click()
        expect(page.get_by_text("You predicted: zinc negative")).to_be_visible()
        expect(page.get_by_text("Black lead on")).to_be_visible()
        desk = self.device()
        self.signed_in(desk, "ada")
        desk.goto(f"/labs/{lab.id}/predict")
        expect(desk.get_by_role("listitem").filter(has_text="Tern: Zn")).to_be_visible()
