"""The page, its policy, health, errors and the counting runner."""

import tempfile
import unittest
from pathlib import Path
from unittest import mock

from django.db import OperationalError, connection, transaction
from django.test import Client, SimpleTestCase, TestCase, override_settings

from server.config import health
from server.config.page import built
from server.config.runner import counts
from server.config.settings import WHITENOISE_IMMUTABLE_FILE_TEST
from server.tests.support import as_group, group_of, lab_of, send, teacher


class Page(TestCase):
    def test_every_address_that_is_not_the_apis_gives_the_page_under_a_strict_policy(self):
        for path in ("/", "/labs", "/bench/3", "/nowhere"):
            answer = Client().get(path)
            self.assertEqual(answer.status_code, 200)
            policy = answer["Content-Security-Policy"]
            nonce = answer.content.decode().split('nonce="')[1].split('"')[0]
            self.assertIn(f"script-src 'self' 'nonce-{nonce}'", policy)
            self.assertIn("default-src 'none'", policy)
            self.assertNotIn("unsafe", policy)
        self.assertIn("csrftoken", answer.cookies)

    def test_nonces_are_never_used_twice(self):
        self.assertNotEqual(Client().get("/")["Content-Security-Policy"], Client().get("/")["Content-Security-Policy"])

    def test_the_page_names_only_files_of_its_own(self):
        html = Client().get("/").content.decode()
        self.assertNotIn("http://", html)
        self.assertNotIn("https://", html)

    def test_without_a_built_front_end_it_says_what_to_do(self):
        with mock.patch("server.config.page.built", return_value=None):
            answer = Client().get("/")
        self.assertEqual(answer.status_code, 503)
        self.assertIn("./pipette demo", answer.content.decode())

    def test_the_page_is_read_only(self):
        self.assertEqual(Client().post("/").status_code, 405)

    def test_hashed_files_are_cached_for_ever(self):
        found = built("en")
        self.assertTrue(WHITENOISE_IMMUTABLE_FILE_TEST("", f"/static/{found['script']}"))
        self.assertFalse(WHITENOISE_IMMUTABLE_FILE_TEST("", "/static/app/mark.svg"))


class Errors(TestCase):
    def ask_health(self):
        health._SOUND_UNTIL[0] = 0.0
        return Client().get("/api/health")

    def test_health_tells_whether_everything_can_be_written_and_which_part_is_away(self):
        with override_settings(PHOTO_DIR=Path(self.enterContext(tempfile.TemporaryDirectory())) / "photos"):
            self.assertEqual(self.ask_health().json()["writing"], "ok")
            with mock.patch("server.config.health.connection.cursor", side_effect=OperationalError("gone")):
                self.assertEqual(Client().get("/api/health").status_code, 200)  # it was just looked at
                answer = self.ask_health()
            self.assertEqual((answer.status_code, answer.json()["code"]), (503, "database_away"))
            with transaction.atomic():
                with connection.cursor() as cursor:
                    cursor.execute("SET LOCAL transaction_read_only = on")
                self.assertEqual(self.ask_health().json()["code"], "read_only")
                transaction.set_rollback(True)
        with override_settings(PHOTO_DIR=Path("/proc/nowhere")):
            self.assertEqual(self.ask_health().json()["code"], "photos_away")

    def test_an_unexpected_error_says_nothing_of_itself(self):
        client = as_group(group_of(lab_of(teacher())))
        with (
            mock.patch("server.entries.api.record_reading", side_effect=KeyError("a secret")),
            self.assertLogs("pipette.errors", "ERROR"),
        ):
            answer = send(
                client,
                "/bench/readings",
                {"id": "00000000-0000-4000-8000-000000000000", "cell_id": "00000000-0000-4000-8000-000000000000",
                 "red": "a", "black": "b", "text": "1", "unit": "V"},
            )  # fmt: skip
        self.assertEqual((answer.status_code, answer.json()["code"]), (500, "broken"))
        self.assertNotIn("secret", answer.content.decode())

    def test_a_database_that_goes_away_while_the_session_is_read_is_said_in_the_same_shape(self):
        client = as_group(group_of(lab_of(teacher())))
        with mock.patch("server.people.auth.GroupSession.objects.alive", side_effect=OperationalError("gone")):
            answer = client.get("/api/bench")
        self.assertEqual((answer.status_code, answer.json()["code"]), (503, "database_away"))

    def test_the_access_log_has_no_query_and_no_body(self):
        with self.assertLogs("pipette.access", "INFO") as logs:
            Client().get("/api/who?secret=1")
        self.assertNotIn("secret", str(logs.records[0].__dict__))


class Counting(SimpleTestCase):
    def test_the_runner_counts_what_really_happened(self):
        class Sample(unittest.TestCase):
            def test_good(self):
                pass

            def test_bad(self):
                self.fail()

            def test_two_bad_parts(self):
                for i in range(2):
                    with self.subTest(i):
                        self.fail()

            @unittest.skip("left out")
            def test_skipped(self):
                pass

            @unittest.expectedFailure
            def test_unexpectedly_good(self):
                pass

        result = unittest.TestResult()
        unittest.defaultTestLoader.loadTestsFromTestCase(Sample).run(result)
        self.assertEqual(counts(result), (1, 3, 1))
