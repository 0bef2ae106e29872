"""Which requests run on the event loop, and what is turned away before it is read."""

import unittest

from django.test import TestCase

from server.config.asgi import is_stream
from server.config.middleware import MOST_BODY_BYTES
from server.tests.support import as_group, group_of, lab_of, teacher

LAB = "2b0f7c1e-0000-4000-8000-000000000001"


class Routing(unittest.TestCase):
    def test_only_the_event_streams_run_on_the_loop(self):
        for path in (f"/api/labs/{LAB}/events", "/api/bench/events", f"/api/bench/cells/{LAB}/meter"):
            self.assertTrue(is_stream(path), path)
        for path in ("/api/bench", f"/api/labs/{LAB}/board", f"/api/groups/{LAB}/meter", "/static/events", "/events", "/"):
            self.assertFalse(is_stream(path), path)


class Limits(TestCase):
    def test_what_is_too_large_or_of_no_known_length_is_turned_away_in_words(self):
        device = as_group(group_of(lab_of(teacher())))
        for length in (str(MOST_BODY_BYTES + 1), "many", "-1"):
            answer = device.post("/api/bench/photos", b"", content_type="image/jpeg", CONTENT_LENGTH=length)
            self.assertEqual((answer.status_code, answer.json()["code"]), (413, "too_large"), length)
            self.assertIn("stays on your device", answer.json()["message"])
        self.assertEqual(device.get("/api/bench").status_code, 200)
