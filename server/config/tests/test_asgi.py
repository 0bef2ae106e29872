"""Which requests run on the event loop, and how the others are received: whole, not too large, and without a thread waiting."""

import asyncio
import json
import threading
import unittest
from pathlib import Path
from unittest import mock

from asgiref.testing import ApplicationCommunicator
from django.test import SimpleTestCase

from server.config.asgi import application, is_stream, requests
from server.config.threads import READERS, WRITERS, PutOff

LAB = "2b0f7c1e-0000-4000-8000-000000000001"


class Routing(unittest.TestCase):
    def test_only_the_event_streams_run_on_the_loop(self):
        for path in (f"/api/labs/{LAB}/events", "/api/bench/events", f"/api/bench/cells/{LAB}/meter"):
            self.assertTrue(is_stream(path), path)
        for path in ("/api/bench", f"/api/labs/{LAB}/board", f"/api/groups/{LAB}/meter", "/static/events", "/events", "/"):
            self.assertFalse(is_stream(path), path)


def asked(method, path, **headers):
    """A visitor's request that has begun."""
    scope = {
        "type": "http", "http_version": "1.1", "method": method, "path": path, "raw_path": path.encode(), "query_string": b"",
        "scheme": "http", "root_path": "", "client": ("127.0.0.1", 5000), "server": ("127.0.0.1", 80),
        "headers": [(b"host", b"127.0.0.1"), *((k.encode(), v.encode()) for k, v in headers.items())],
    }  # fmt: skip
    return ApplicationCommunicator(application, scope)


async def part(visitor, body=b"", more=False):
    await visitor.send_input({"type": "http.request", "body": body, "more_body": more})


async def answer(visitor):
    start, body = await visitor.receive_output(10), await visitor.receive_output(10)
    return start["status"], dict(start["headers"]), body["body"]


class InThreads(SimpleTestCase):
    async def test_a_page_comes_whole_with_its_headers_and_cookies(self):
        visitor = asked("GET", "/join")
        await part(visitor)
        status, headers, body = await answer(visitor)
        self.assertEqual((status, int(headers[b"content-length"])), (200, len(body)))
        self.assertIn(b"csrftoken=", headers[b"set-cookie"])
        self.assertIn(b"default-src 'none'", headers[b"content-security-policy"])

    async def test_what_comes_in_parts_is_read_whole(self):
        visitor = asked("POST", "/api/join")
        with mock.patch.object(requests, "_answer", side_effect=lambda scope, body: (200, [], body.read())):
            await part(visitor, b"one ", more=True)
            await part(visitor, b"two")
            self.assertEqual(await answer(visitor), (200, {}, b"one two"))

    async def test_slow_senders_hold_nobody_up(self):
        slow = [asked("POST", "/api/bench/photos") for _ in range(3 * (READERS + WRITERS))]
        for visitor in slow:
            await part(visitor, b"half", more=True)
        quick = [asked("GET", "/join"), asked("POST", "/api/join")]
        for visitor in quick:
            await part(visitor)
        for status, _, _ in await asyncio.gather(*map(answer, quick)):
            self.assertLess(status, 500)
        for visitor in slow:
            await visitor.send_input({"type": "http.disconnect"})
            await visitor.wait(5)


class AtTheDoor(SimpleTestCase):
    """Whoever has been told to wait is not looked at until then; nobody else waits."""

    async def test_the_next_try_of_the_same_device_takes_no_thread_and_another_device_is_answered(self):
        refused = (429, [(b"retry-after", b"30")], b"{}")
        with (
            mock.patch.object(requests, "put_off", PutOff()),
            mock.patch.object(requests, "_answer", return_value=refused) as looked,
            mock.patch("server.config.threads.TURNED_AWAY_S", 0.0),
        ):
            statuses = []
            for cookie in ("pipette_device=one", "pipette_device=one", "pipette_device=two"):
                visitor = asked("POST", "/api/join", cookie=cookie)
                await part(visitor)
                status, headers, _ = await answer(visitor)
                statuses.append((status, int(headers[b"retry-after"]) in (29, 30)))
        self.assertEqual(statuses, [(429, True)] * 3)
        self.assertEqual(looked.call_count, 2)

    async def test_the_form_that_joins_without_scripts_stands_at_the_same_door_and_hears_in_its_page_to_wait(self):
        refused = (429, [(b"retry-after", b"30")], b"<p>Wait</p>")
        seen = []

        def look(scope, body):
            seen.append(threading.current_thread().name)
            return refused

        with (
            mock.patch.object(requests, "put_off", PutOff()),
            mock.patch.object(requests, "_answer", side_effect=look),
            mock.patch("server.config.threads.TURNED_AWAY_S", 0.0),
        ):
            for _ in range(2):
                visitor = asked("POST", "/join", cookie="pipette_device=one")
                await part(visitor)
                self.assertEqual((await answer(visitor))[2], b"<p>Wait</p>")
            visitor = asked("GET", "/join")
            await part(visitor)
            await answer(visitor)
        self.assertEqual([name.partition("_")[0] for name in seen], ["door", "door", "read"])

    async def test_a_wrong_pin_is_no_reason_to_wait_and_files_and_entries_have_threads_of_their_own(self):
        put_off = PutOff()
        put_off.note("somebody", (404, [], b""))
        self.assertLessEqual(put_off.wait_s("somebody"), 0.0)
        pools = [
            requests._pool(*one)
            for one in (("GET", "/api/bench"), ("POST", "/api/bench/readings"), ("POST", "/api/bench/photos"))
        ]
        self.assertEqual(pools, [requests.readers, requests.writers, requests.files])

    async def test_every_operation_that_takes_a_file_leaves_the_threads_of_readings_alone(self):
        schema = json.loads((Path(__file__).parents[3] / "web/src/api/openapi.json").read_text())
        takes = [
            path
            for path, operations in schema["paths"].items()
            for operation in operations.values()
            if "multipart/form-data" in operation.get("requestBody", {}).get("content", {})
        ]
        self.assertGreater(len(takes), 5)
        for path in takes:
            self.assertIs(requests._pool("POST", path), requests.files, path)
