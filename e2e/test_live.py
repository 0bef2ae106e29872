"""The room live: streams that tell of changes, to those who may hear of them."""

import http.client
import re
import time

from django.db import connection
from playwright.sync_api import expect

from e2e.browser import PHONE
from e2e.live import BrowserTestCase
from server.people.models import Group
from server.room.services import pause
from server.tests.support import as_group, as_teacher, cell_of, group_of, lab_of, record, teacher

STREAM = re.compile(r"/events\?lang=en&whole=1$")
STILL_S = 2.5  # a board without a stream looks by itself every two seconds


class Streams(BrowserTestCase):
    def setUp(self):
        super().setUp()
        self.ada = teacher("ada")
        self.lab = lab_of(self.ada)
        self.tern = group_of(self.lab)

    def listen(self, path, client):
        """Open a stream with a client's cookies; returns the answer, its head read."""
        line = http.client.HTTPConnection("127.0.0.1", self.port, timeout=15)
        self.addCleanup(line.close)
        cookies = "; ".join(f"{name}={morsel.value}" for name, morsel in client.cookies.items())
        line.request("GET", path, headers={"Cookie": cookies})
        return line.getresponse()

    def next_event(self, answer):
        """The next event that is not a comment."""
        while True:
            raw = answer.readline()
            self.assertTrue(raw, "the stream has ended")
            line = raw.decode().strip()
            if line.startswith("event:"):
                return line.removeprefix("event:").strip()

    def looks(self, page, path):
        """The times at which a page fetches a path, as it goes on."""
        times = []
        page.on("request", lambda request: times.append(time.monotonic()) if request.url.endswith(path) else None)
        return times

    def until_it_listens(self):
        """Wait until the server's process listens to the database, however long it takes it to begin."""
        end = time.monotonic() + STILL_S * 10
        with connection.cursor() as cursor:
            while time.monotonic() < end:
                cursor.execute("SELECT 1 FROM pg_stat_activity WHERE datname = current_database() AND query LIKE 'LISTEN %'")
                if cursor.fetchone():
                    return
                time.sleep(0.05)
        self.fail("the server does not listen")

    def until_it_only_listens(self, page, looks):
        """Wait until a page whose stream is open has not looked by itself for a while; then `looks` is emptied."""
        self.until(page, lambda: looks and time.monotonic() - looks[-1] > STILL_S, "it goes on looking by itself")
        looks.clear()

    def test_a_teacher_and_a_group_hear_of_a_reading_when_it_is_kept(self):
        board = self.listen(f"/api/labs/{self.lab.id}/events", as_teacher(self.ada))
        bench = self.listen("/api/bench/events", as_group(self.tern))
        for answer in (board, bench):
            self.assertEqual((answer.status, answer.getheader("Content-Type")), (200, "text/event-stream"))
            self.assertEqual(answer.readline().decode().strip(), "retry: 2000")
        self.until_it_listens()
        record(cell_of(self.tern), "0.95")
        self.assertEqual((self.next_event(board), self.next_event(bench)), ("changed", "changed"))

    def test_nobody_hears_of_labs_that_are_not_theirs(self):
        bob = as_teacher(teacher("bob"))
        for client in (bob, as_group(self.tern)):
            self.assertEqual(self.listen(f"/api/labs/{self.lab.id}/events", client).status, 404)
        self.assertEqual(self.listen("/api/bench/events", bob).status, 401)

    def test_the_board_shows_a_reading_long_before_it_would_look_by_itself(self):
        page = self.device()
        self.signed_in(page)
        looks = self.looks(page, "/board")
        with page.expect_response(STREAM):
            page.goto(f"/labs/{self.lab.id}/board")
        expect(page.get_by_text("Readings appear here as groups record them.")).to_be_visible()
        self.until_it_only_listens(page, looks)
        record(cell_of(self.tern), "0.95")
        expect(page.get_by_text(re.compile("0.95"))).to_be_visible()
        self.assertEqual(looks, [], "the stream brought it: nothing was fetched")

    def test_a_groups_meter_is_heard_by_that_group_only(self):
        Group.objects.filter(lab=self.lab).update(meter_address="127.0.0.1:5034")
        path = f"/api/bench/cells/{cell_of(self.tern).id}/meter"
        own = self.listen(path, as_group(self.tern))
        self.assertEqual((own.status, self.next_event(own)), (200, "trouble"))
        self.assertEqual(self.listen(path, as_group(group_of(self.lab, "Knot"))).status, 404)
        self.assertEqual(self.listen(path, as_teacher(self.ada)).status, 404)

    def test_a_new_pin_puts_the_devices_out(self):
        device, page = self.device(), self.device()
        self.joined(device, self.tern)
        self.signed_in(page)
        page.goto(f"/labs/{self.lab.id}/board")
        page.get_by_role("button", name="Tern, PIN and meter").click()
        page.get_by_role("button", name="New PIN, all devices out").click()
        page.get_by_role("button", name="Give a new PIN").click()
        expect(page.get_by_text(self.tern.pin)).to_have_count(0)
        looks = self.looks(device, "/api/bench")
        device.reload()
        expect(device.get_by_role("heading", name="Join your lab")).to_be_visible()
        self.assertLessEqual(len(looks), 1, "a refusal is said at once, not asked for again")  # or it had looked before

    def test_what_a_stream_has_brought_is_what_opens_again_without_network(self):
        page = self.device(size=PHONE, keeps_pages=True)
        looks = self.looks(page, "/api/bench")
        with page.expect_response(STREAM):
            self.joined(page, self.tern)
        self.until_kept(page, "/api/bench")
        self.until_it_only_listens(page, looks)
        pause(actor=self.ada, lab_id=self.lab.id, paused=True)
        expect(page.get_by_text("your teacher has stopped the clock")).to_be_visible()
        self.assertEqual(looks, [], "the stream brought it: nothing was fetched")
        kept = "async () => (await (await caches.open('pipette-bench-1')).match('/api/bench')).json()"
        self.until(page, lambda: page.evaluate(kept)["paused"], "what the stream brought was not kept")
        page.context.set_offline(True)
        page.reload()
        expect(page.get_by_text("your teacher has stopped the clock")).to_be_visible()
