"""What the API answers goes out small, and what a device has already is not sent again."""

import gzip
import json

from django.test import TestCase

from server.materials.tests.test_making import SALTED
from server.tests.support import as_teacher, send, teacher

ZIPPED = {"accept-encoding": "gzip"}


class Answers(TestCase):
    def setUp(self):
        self.desk = as_teacher(teacher())

    def test_long_answers_are_compressed_for_who_can_read_that_and_say_the_same(self):
        plain = self.desk.get("/api/materials")
        small = self.desk.get("/api/materials", headers=ZIPPED)
        self.assertNotIn("Content-Encoding", plain)
        self.assertEqual(small["Content-Encoding"], "gzip")
        self.assertIn("Accept-Encoding", small["Vary"])
        self.assertEqual(json.loads(gzip.decompress(small.content)), plain.json())
        self.assertLess(len(small.content), len(plain.content) / 3)

    def test_refusals_and_short_answers_stay_as_they_are(self):
        for path in ("/api/nowhere", "/api/who"):
            self.assertNotIn("Content-Encoding", self.desk.get(path, headers=ZIPPED))

    def test_materials_are_sent_again_only_when_they_have_changed_for_this_visitor(self):
        first = self.desk.get("/api/materials", headers=ZIPPED)
        self.assertEqual(first["Cache-Control"], "private, no-cache")
        known = ZIPPED | {"if-none-match": first["ETag"]}
        again = self.desk.get("/api/materials", headers=known)
        self.assertEqual((again.status_code, again.content), (304, b""))
        other = as_teacher(teacher("bob"))
        send(other, "/materials/made", SALTED | {"name": "Lemon and salt"})
        self.assertEqual(other.get("/api/materials", headers=known).status_code, 200)
        self.assertEqual(self.desk.get("/api/materials", headers=known).status_code, 304)
        self.assertEqual(self.desk.get("/api/materials", headers=known | {"accept-language": "de"}).status_code, 200)

    def test_nothing_else_is_kept_by_a_browser(self):
        self.assertEqual(self.desk.get("/api/who")["Cache-Control"], "no-store")
