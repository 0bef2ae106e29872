"""How a request's body is received: whole, no larger than its endpoint takes, from who may send it, and not for ever."""

import json
import re
from unittest import mock

from django.conf import settings
from django.test import SimpleTestCase, TestCase

from server.config import bodies
from server.config.bodies import FILE_BYTES, PACKAGE_BYTES, SMALL_BYTES, TYPED_BYTES, most_of
from server.config.tests.test_asgi import answer, asked, part
from server.config.threads import InThreads
from server.people.auth import COOKIE
from server.tests.support import as_group, as_teacher, group_of, lab_of, teacher

PHOTOS = "/api/bench/photos"


def from_somebody():
    """Everybody counts as a group that has joined."""
    return mock.patch.object(bodies, "visitor", return_value="group one")


class Sizes(SimpleTestCase):
    def setUp(self):
        self.enterContext(mock.patch.object(bodies, "LINGER_S", 0.05))

    async def test_who_is_still_sending_what_is_refused_is_heard_out_and_told_why(self):
        visitor = asked("POST", PHOTOS, **{"content-length": str(FILE_BYTES + 1)})
        with mock.patch.object(bodies, "LINGER_S", 30.0):
            for _ in range(3):
                await part(visitor, b"x" * SMALL_BYTES, more=True)
                self.assertTrue(await visitor.receive_nothing(0.02))
            await part(visitor, b"x")
            self.assertEqual((await self.said(visitor))[0], 413)

    def test_each_endpoint_takes_what_it_says_a_package_most(self):
        paths = (PHOTOS, "/api/labs/import-package", "/api/labs/1/packs/import", "/api/labs", "/photos/else")
        self.assertEqual(
            [most_of(path) for path in paths], [FILE_BYTES, PACKAGE_BYTES, FILE_BYTES, TYPED_BYTES, TYPED_BYTES]
        )

    async def said(self, visitor):
        status, _, body = await answer(visitor)
        return status, json.loads(body)["code"], json.loads(body)["message"]

    async def test_what_is_too_large_is_turned_away_in_words_whatever_length_was_promised(self):
        for promised in ("10", str(FILE_BYTES + 1)):
            visitor = asked("POST", PHOTOS, **{"content-length": promised})
            with from_somebody():
                await part(visitor, b"x" * FILE_BYTES, more=True)
                await part(visitor, b"x", more=True)
                said = await self.said(visitor)
            self.assertEqual(
                said, (413, "too_large", "That is more than 6 MB, which is too much to send. It stays on your device.")
            )

    async def test_a_german_device_is_told_in_german(self):
        visitor = asked("POST", PHOTOS, **{"content-length": str(FILE_BYTES + 1), "accept-language": "de"})
        await part(visitor, b"x", more=True)
        self.assertIn("6 MB", (said := await self.said(visitor))[2])
        self.assertIn("Gerät", said[2])

    async def test_nobody_can_send_more_than_somebody_types(self):
        """Neither bit by bit nor by promising it; not even a lookup is made for who promises more than anybody may send."""
        with mock.patch.object(bodies, "visitor", return_value="") as looked:
            for promised in ("10", str(FILE_BYTES)):
                visitor = asked("POST", PHOTOS, **{"content-length": promised})
                await part(visitor, b"x" * (SMALL_BYTES + 1), more=True)
                self.assertEqual((await self.said(visitor))[:2], (401, "sign_in"))
            visitor = asked("POST", "/api/labs/import-package", **{"content-length": str(PACKAGE_BYTES + 1)})
            await part(visitor, b"x", more=True)
            self.assertEqual((await self.said(visitor))[0], 413)
        self.assertEqual(looked.call_count, 2)

    async def test_a_large_body_of_who_has_joined_is_read_whole_and_they_are_looked_up_once(self):
        visitor = asked("POST", PHOTOS)
        with (
            from_somebody() as looked,
            mock.patch.object(InThreads, "_answer", lambda _, scope, body: (200, [], body.read())),
        ):
            for _ in range(3):
                await part(visitor, b"x" * SMALL_BYTES, more=True)
            await part(visitor, b"x")
            status, _, body = await answer(visitor)
        self.assertEqual((status, len(body), looked.call_count), (200, 3 * SMALL_BYTES + 1, 1))

    async def test_only_so_many_large_bodies_of_one_visitor_at_once_and_the_next_when_one_has_come(self):
        with (
            from_somebody(),
            mock.patch.object(bodies, "AT_ONCE", 1),
            mock.patch.object(InThreads, "_answer", lambda *_: (200, [], b"")),
        ):
            first, second, third = (asked("POST", PHOTOS, **{"content-length": str(FILE_BYTES)}) for _ in range(3))
            await part(first, b"x", more=True)
            await first.receive_nothing()
            await part(second, b"x", more=True)
            self.assertEqual((await self.said(second))[:2], (429, "too_many_files"))
            await part(first, b"x")
            self.assertEqual((await answer(first))[0], 200)
            await part(third, b"x")
            self.assertEqual((await answer(third))[0], 200)
        self.assertEqual(bodies._sending, {})

    async def test_who_goes_away_while_sending_gets_no_answer_and_nothing_is_done(self):
        visitor = asked("POST", PHOTOS)
        await part(visitor, b"half", more=True)
        await visitor.send_input({"type": "http.disconnect"})
        await visitor.wait(5)
        self.assertTrue(visitor.output_queue.empty())

    async def test_who_stops_half_way_is_told_to_send_it_again(self):
        visitor = asked("POST", PHOTOS)
        with mock.patch.object(bodies, "QUIET_S", 0.05):
            await part(visitor, b"half", more=True)
            self.assertEqual((await self.said(visitor))[:2], (408, "too_slow"))

    async def test_who_sends_a_little_now_and_then_for_ever_is_told_so_too(self):
        visitor = asked("POST", PHOTOS)
        with mock.patch.object(bodies, "WHOLE_S", 0.2), mock.patch.object(bodies, "SLOWEST_BYTES_S", 1e6):
            for _ in range(8):
                await part(visitor, b"x", more=True)
                await visitor.receive_nothing(0.05)
            self.assertEqual((await self.said(visitor))[:2], (408, "too_slow"))


class AtTheProxy(SimpleTestCase):
    def test_the_proxy_passes_on_as_it_comes_whatever_takes_a_file(self):
        schema = json.loads((settings.BASE_DIR / "web/src/api/openapi.json").read_text())
        takes = [
            path
            for path, operations in schema["paths"].items()
            for operation in operations.values()
            if "multipart/form-data" in json.dumps(operation.get("requestBody", {}))
        ]
        self.assertIn("/api/tables", takes)
        for name in ("pipette.conf", "pipette.container.conf"):
            site = (settings.BASE_DIR / "deploy" / "nginx" / name).read_text()
            files = re.compile(re.search(r"location ~ (\S*photos\S*) \{", site)[1])
            self.assertEqual([path for path in takes if not files.match(path)], [])


class Visitors(TestCase):
    def setUp(self):
        self.ada = teacher("ada")
        self.tern = group_of(lab_of(self.ada))

    def visitor(self, client):
        cookie = "; ".join(f"{name}={morsel.value}" for name, morsel in client.cookies.items())
        return bodies.visitor(asked("POST", PHOTOS, cookie=cookie).scope)

    def test_a_teacher_and_a_group_are_somebody_who_has_signed_out_or_left_is_not(self):
        with mock.patch.object(bodies, "close_old_connections"):
            desk, phone = as_teacher(self.ada), as_group(self.tern)
            self.assertEqual(self.visitor(desk), f"teacher {self.ada.id}")
            self.assertEqual(self.visitor(phone), f"group {self.tern.id}")
            kept = phone.cookies[COOKIE].value
            phone.post("/api/leave", content_type="application/json")
            phone.cookies[COOKIE] = kept
            self.assertEqual(self.visitor(phone), "")
            self.ada.is_active = False
            self.ada.save()
            self.assertEqual(self.visitor(desk), "")
            self.assertEqual(self.visitor(self.client), "")
