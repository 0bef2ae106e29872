"""Whatever comes in: kept cleaned or refused, in the one shape, and every export opens."""

import csv
import io
import json
import unittest
import uuid
from unittest import mock

from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import DataError, InternalError, OperationalError
from django.test import Client, SimpleTestCase, TestCase
from openpyxl import load_workbook
from psycopg import errors as postgres

from server.base.errors import fault_of
from server.base.incoming import clean
from server.entries.tests.pictures import jpeg
from server.tests.support import as_group, as_teacher, cell_of, group_of, lab_of, record, send, teacher

WILD = "a\x00b\x07c\x1b[31m\u202ed\ud800e\x85f\x7f"
RIGHT_TO_LEFT, FOUR_BYTES = "\u05e9\u05dc\u05d5\u05dd", "\U0001f9ea\U00020bb7"


class Cleaning(unittest.TestCase):
    def test_what_cannot_be_kept_goes_and_every_script_stays(self):
        self.assertEqual(clean(WILD), "abc[31mdef")
        self.assertEqual(clean(f"{RIGHT_TO_LEFT} {FOUR_BYTES}"), f"{RIGHT_TO_LEFT} {FOUR_BYTES}")
        self.assertEqual(clean("one\r\ntwo\rthree\n\tfour"), "one\ntwo\nthree\n\tfour")


class Shape(TestCase):
    """Every answer to what cannot be is a problem in the one shape."""

    def shape(self, answer, statuses):
        self.assertIn(answer.status_code, statuses, answer.content[:200])
        self.assertEqual(set(answer.json()), {"code", "message", "field", "passing", "rows"})
        self.assertEqual(answer["Cache-Control"], "no-store")
        self.assertTrue(answer.json()["message"].endswith("."))
        return answer.json()

    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada)
        self.mine, self.device = as_teacher(self.ada), as_group(group_of(self.lab))
        self.cell = cell_of(group_of(self.lab))

    def test_a_missing_token_a_strange_host_and_unknown_addresses(self):
        strict = Client(enforce_csrf_checks=True)
        self.assertEqual(self.shape(send(strict, "/join", {"code": "a", "pin": "1"}), [403])["code"], "csrf")
        device = as_group(group_of(self.lab), enforce_csrf_checks=True)
        self.assertTrue(self.shape(send(device, "/bench/readings", {}), [403])["passing"])
        self.shape(self.client.get("/api/who", HTTP_HOST="evil.example"), [400])
        self.shape(self.client.get("/api/nowhere"), [404])
        self.shape(self.client.get("/api/labs/not-a-number/board"), [404])
        refused = self.client.delete("/api/who")
        self.shape(refused, [405])
        self.assertIn("GET", refused["Allow"])

    def test_forms_and_bodies_that_cannot_be_read(self):
        form = "multipart/form-data"
        self.shape(self.mine.post("/api/labs/import-package", b"no boundary", content_type=form), [400])
        self.shape(self.mine.post("/api/labs/import-package", b"--x\r\ncut", content_type=f"{form}; boundary=x"), [400, 422])
        many = {f"f{k}": SimpleUploadedFile(f"{k}.csv", b"x") for k in range(150)}
        self.shape(self.mine.post("/api/labs/import-package", many), [400])
        self.shape(self.device.post("/api/bench/photos", {f"v{k}": "1" for k in range(300)}), [400])
        query = "&".join(f"anchor=a{k}:b" for k in range(300))
        self.shape(self.mine.get(f"/api/labs/{self.lab.id}/compare?{query}"), [400, 422])
        for body in (b"{", b"[" * 100_000, b"\xff\xfe", b'{"a": NaN}', b"[]", b"1", b'"x"', b"null", b"9" * 5000):
            self.shape(self.device.post("/api/bench/readings", body, content_type="application/json"), [400, 422])

    def test_bodies_of_one_to_six_megabytes(self):
        for size in (1_000_001, 3_000_000, 5_900_000):
            body = json.dumps({"text": "x" * size}).encode()
            for client, path in ((self.device, "bench/readings"), (self.mine, "labs"), (self.client, "join")):
                self.shape(client.post(f"/api/{path}", body, content_type="application/json"), [413])

    def test_very_long_names_of_files_and_fields_of_loggers(self):
        at = lambda: {"id": str(uuid.uuid4()), "cell_id": str(self.cell.id)}  # noqa: E731
        named = SimpleUploadedFile("n" * 5000 + ".jpg", jpeg(), "image/jpeg")
        self.assertEqual(self.device.post("/api/bench/photos", at() | {"photo": named}).status_code, 200)
        for content in (b"t;v\n1;" + b"9" * 200_000, b't;v\n"' + b"x" * 200_000, b"\x00" * 1000, b"1,2\n" * 3 + b'"'):
            file = SimpleUploadedFile("x" * 300, content)
            self.shape(self.device.post("/api/bench/traces/preview", {"file": file}), [422])

    def test_odd_addresses_and_queries(self):
        for path in ("/api/materials/%00/retire", "/api/shelf/a%00b", f"/api/labs/{self.lab.id}/tables/%00.csv", "/%00"):
            self.shape(self.mine.get(path), [400])
        answer = self.mine.get(f"/api/labs/{self.lab.id}/explain?negative=%00zinc&electrolyte=x&positive=copper")
        self.shape(answer, [404])

    def test_wild_text_is_kept_cleaned_everywhere_and_every_export_opens(self):
        words = f"{WILD} {RIGHT_TO_LEFT} {FOUR_BYTES}"
        kept = clean(words)
        made = self.mine.post("/api/labs", {
            "title": words, "date": "2026-05-04", "minutes": 45, "electrodes": ["zinc", "copper"],
            "electrolytes": ["rhubarb-juice"], "groups": [f"Tern {words}"], "question": words, "kept": words,
        }, content_type="application/json")  # fmt: skip
        self.assertEqual((made.status_code, made.json()["title"]), (201, kept))
        reading = record(self.cell)
        for path, body in (
            (f"/readings/{reading.id}/aside", {"reason": words}),
            (f"/labs/{self.lab.id}/copy", {"title": words, "date": "2026-05-04"}),
        ):
            self.assertLess(send(self.mine, path, body).status_code, 300)
        entry = {"id": str(uuid.uuid4()), "cell_id": str(self.cell.id), "text": words}
        self.assertEqual(send(self.device, "/bench/observations", entry).json()["text"], kept)
        self.assertEqual(send(self.client, "/sign-in", {"username": words, "password": words}).status_code, 401)
        self.assertEqual(send(self.client, "/join", {"code": words, "pin": words[:12]}).status_code, 404)
        for name in ("readings", "cells"):
            shown = self.mine.get(f"/api/labs/{self.lab.id}/tables/{name}.csv").content.decode("utf-8-sig")
            self.assertGreater(len(list(csv.reader(io.StringIO(shown)))), 0)
        book = load_workbook(io.BytesIO(self.mine.get(f"/api/labs/{self.lab.id}/tables.xlsx").content))
        self.assertIn(kept, [cell.value for cell in book["readings"][2]])


class Words(TestCase):
    """What a schema refuses is said in plain words, with the limit."""

    def test_a_refusal_names_the_limit_and_no_validator(self):
        mine = as_teacher(teacher())
        lab = {
            "title": "x", "date": "2026-05-04", "minutes": 45, "electrodes": ["zinc", "copper"],
            "electrolytes": ["rhubarb-juice"], "groups": ["Tern"],
        }  # fmt: skip
        for change, words in (
            ({"minutes": 100_000}, "600 at most"),
            ({"minutes": 0}, "or more"),
            ({"minutes": ""}, "Type a whole number"),
            ({"date": "soon"}, "Type a date"),
            ({"title": "x" * 500}, "at most 120 letters"),
            ({"groups": ["a"] * 1000}, "too many"),
            ({"age": 7}, "none of the choices"),
        ):
            answer = mine.post("/api/labs", lab | change, content_type="application/json")
            self.assertEqual(answer.status_code, 422, change)
            self.assertIn(words, answer.json()["message"], change)
            for raw in ("Input should", "List should", "String should", "Field required"):
                self.assertNotIn(raw, answer.json()["message"])
        self.assertEqual(
            mine.post("/api/labs", {}, content_type="application/json").json()["message"],
            "Something is missing here: fill it in.",
        )


class Private(TestCase):
    def test_no_private_answer_may_be_kept_by_anybody(self):
        ada = teacher()
        lab = lab_of(ada)
        paths = ("labs/list", f"labs/{lab.id}", f"labs/{lab.id}/board", f"labs/{lab.id}/tables.xlsx", "who")
        for client, path in [(as_teacher(ada), one) for one in paths] + [(as_group(group_of(lab)), "bench")]:
            answer = client.get(f"/api/{path}")
            self.assertEqual((answer.status_code, answer["Cache-Control"]), (200, "no-store"), path)
            self.assertIn("Cookie", answer["Vary"])
        materials = as_group(group_of(lab)).get("/api/materials")  # nothing that anybody measured; asked anew each time
        self.assertEqual(materials["Cache-Control"], "private, no-cache")
        self.assertIn("Cookie", materials["Vary"])


def caused(error, by):
    try:
        try:
            raise by
        except Exception as cause:
            raise error from cause
    except Exception as made:
        return made


class Faults(SimpleTestCase):
    """A fault says what is away, and that the entry is safe."""

    def test_each_fault_of_the_store_has_its_own_sentence(self):
        for error, code in (
            (caused(InternalError(), postgres.ReadOnlySqlTransaction()), "read_only"),
            (caused(OperationalError(), postgres.DiskFull()), "store_full"),
            (OSError(28, "No space left on device"), "store_full"),
            (OperationalError("gone"), "database_away"),
        ):
            found = fault_of(error)
            self.assertEqual((found.code, found.status, found.passes), (code, 503, True))
            self.assertIn("safe on this device", found.message)
        self.assertIsNone(fault_of(ValueError("x")))
        self.assertIsNone(fault_of(PermissionError(13, "x")))


class FaultsInUse(TestCase):
    def test_a_reading_into_a_read_only_or_full_store_is_answered_in_words(self):
        cell = cell_of(group_of(lab_of(teacher())))
        body = {"id": str(uuid.uuid4()), "cell_id": str(cell.id), "red": cell.positive, "black": cell.negative}
        for error, status, code in (
            (caused(InternalError(), postgres.ReadOnlySqlTransaction()), 503, "read_only"),
            (caused(OperationalError(), postgres.DiskFull()), 503, "store_full"),
            (DataError("odd"), 422, "bad_text"),
        ):
            with mock.patch("server.entries.services.Reading.objects.create", side_effect=error):
                answer = send(as_group(cell.group), "/bench/readings", body | {"text": "0.9", "unit": "V"})
            self.assertEqual((answer.status_code, answer.json()["code"]), (status, code))
