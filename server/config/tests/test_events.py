"""Event streams obey the same limits as everything else."""

import json
import uuid
from functools import partial
from unittest import mock

from asgiref.sync import async_to_sync, sync_to_async
from django.test import SimpleTestCase

from server.base.live import BENCH_S, BOARD_S, HUB, MOST_STREAMS, STILL_S, Still, open_for, stream
from server.base.problems import Problem
from server.config.asgi import without_body
from server.config.tests.test_asgi import asked
from server.labs.opening import close_lab
from server.room.services import new_pin
from server.tests.support import KeptReadingsTestCase, as_group, as_teacher, group_of, lab_of, send, teacher


def cookies(client) -> str:
    return "; ".join(f"{name}={morsel.value}" for name, morsel in client.cookies.items())


class Bodies(SimpleTestCase):
    async def test_nothing_of_a_body_is_read_on_a_streams_address(self):
        for path in ("/api/bench/events", f"/api/labs/{uuid.uuid4()}/events", f"/api/bench/cells/{uuid.uuid4()}/meter"):
            visitor = asked("POST", path)
            for _ in range(50):
                await visitor.send_input({"type": "http.request", "body": b"x" * 65_536, "more_body": True})
            start, body = await visitor.receive_output(10), await visitor.receive_output(10)
            self.assertEqual((start["status"], json.loads(body["body"])["code"]), (405, "no_method"))
            await visitor.wait(5)

    async def test_who_sends_a_body_with_a_stream_is_let_go(self):
        parts = iter([{"type": "http.request", "body": b"x", "more_body": True}])

        async def receive():
            return next(parts)

        told = without_body(receive)
        self.assertEqual((await told())["body"], b"")
        self.assertEqual((await told())["type"], "http.disconnect")


class Rights(KeptReadingsTestCase):
    """A stream ends when whoever opened it may no longer see what it tells."""

    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada)
        self.tern = group_of(self.lab)

    def ends(self, client, path, change):
        """Whether a stream that runs ends after a change (its notification delivered by hand, as NOTIFY does)."""

        async def run():
            visitor = asked("GET", path, cookie=cookies(client))
            await visitor.send_input({"type": "http.request"})
            self.assertEqual((await visitor.receive_output(10))["status"], 200)
            await visitor.receive_output(10)
            HUB.tell(f"{self.lab.id}")
            self.assertIn(b"changed", (await visitor.receive_output(10))["body"])
            await sync_to_async(change)()
            HUB.tell(f"{self.lab.id} {self.tern.id} rights")
            try:
                while (await visitor.receive_output(3)).get("more_body"):
                    pass
                return True
            except TimeoutError:
                return False

        return async_to_sync(run)()

    def test_a_new_pin_leaving_and_a_closed_lab_end_a_groups_stream(self):
        for change in (
            lambda device: new_pin(actor=self.ada, group_id=self.tern.id),
            lambda device: send(device, "/leave"),
            lambda device: close_lab(actor=self.ada, lab_id=self.lab.id),
        ):
            device = as_group(self.tern)
            self.assertTrue(self.ends(device, "/api/bench/events", partial(change, device)))

    def test_another_groups_new_pin_does_not_and_signing_out_ends_a_teachers(self):
        knot = group_of(self.lab, "Knot")
        self.assertFalse(
            self.ends(as_group(self.tern), "/api/bench/events", lambda: new_pin(actor=self.ada, group_id=knot.id))
        )
        browser = as_teacher(self.ada)
        self.assertTrue(self.ends(browser, f"/api/labs/{self.lab.id}/events", lambda: send(browser, "/sign-out")))

    def test_a_stream_asks_whether_it_may_run_when_rights_change_and_once_a_minute(self):
        asked_at = []

        async def allowed():
            asked_at.append(clock.return_value)
            return True

        with mock.patch("server.base.live.time.monotonic", return_value=1000.0) as clock:
            still = Still(allowed)
            for at, rights in ((1000.0 + STILL_S - 1, False), (1000.0 + STILL_S - 1, True), (1000.0 + STILL_S + 1, False)):
                clock.return_value = at
                self.assertTrue(async_to_sync(still.runs)(rights))
            clock.return_value = 1000.0 + 2 * STILL_S
            self.assertTrue(async_to_sync(still.runs)(False))
        self.assertEqual(asked_at, [1000.0 + STILL_S - 1, 1000.0 + 2 * STILL_S])

    def test_boards_hear_first_and_benches_after_them(self):
        """Whoever made a change has its answer before others ask: a board waits a moment, a bench a longer one."""
        waited = []

        async def first(group):
            async def sleep(seconds):
                waited.append(seconds)

            async def allowed():
                return True

            told = stream(self.lab.id, group, allowed)
            await anext(told)
            HUB.tell(f"{self.lab.id}")
            with mock.patch("server.base.live.asyncio.sleep", sleep):
                self.assertIn(b"changed", await anext(told))
            await told.aclose()

        async_to_sync(first)(None)
        async_to_sync(first)(self.tern.id)
        self.assertEqual(waited, [BOARD_S, BENCH_S])
        self.assertLess(BOARD_S, BENCH_S)

    def test_only_a_few_streams_run_for_one_group(self):
        over = [open_for("somebody") for _ in range(MOST_STREAMS)]  # counted from the asking on, not when they begin
        open_for("somebody else")()
        with self.assertRaises(Problem) as refused:
            open_for("somebody")
        self.assertEqual(refused.exception.status, 429)
        over[0]()
        over[0]()  # closed twice
        open_for("somebody")()
        for close in over:
            close()
        open_for("somebody")()

    def test_a_closed_labs_group_is_told_not_to_ask_again_and_a_stranger_to_sign_in(self):
        device = as_group(self.tern)
        close_lab(actor=self.ada, lab_id=self.lab.id)

        async def status(cookie):
            visitor = asked("GET", "/api/bench/events", cookie=cookie)
            await visitor.send_input({"type": "http.request"})
            return (await visitor.receive_output(10))["status"]

        self.assertEqual(async_to_sync(status)(cookies(device)), 204)
        self.assertEqual(async_to_sync(status)("pipette_group=nobody"), 401)
