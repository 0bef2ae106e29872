"""What groups keep beside their readings: once, their own, and nothing that cannot be read."""

import io
import struct
import tempfile
import uuid
import zlib
from pathlib import Path
from unittest import mock

from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import IntegrityError, connection, transaction
from django.test import TestCase, override_settings
from PIL import Image
from PIL.PngImagePlugin import PngInfo

from server.entries.models import KeptTrace, Observation, Photo, UnderLoad
from server.entries.photos import MOST_BYTES, path_of
from server.entries.tests.pictures import picture
from server.labs.opening import close_lab
from server.tests.support import as_group, as_teacher, cell_of, group_of, lab_of, record, send, teacher


def words() -> PngInfo:
    made = PngInfo()
    made.add_text("Comment", "Kim took this")
    return made


TRACE = b"Time (s);Voltage (V)\n" + b"".join(
    f"{t};{0.9 if t > 5 else 0.5 + t / 100:.3f}\n".replace(".", ",").encode() for t in range(40)
)


class Beside(TestCase):
    def setUp(self):
        folder = self.enterContext(tempfile.TemporaryDirectory())
        self.enterContext(override_settings(PHOTO_DIR=Path(folder)))
        self.ada = teacher()
        self.lab = lab_of(self.ada, short_circuit=True, load_ohm=1000.0)
        self.tern, self.knot = group_of(self.lab, "Tern"), group_of(self.lab, "Knot")
        self.cell = cell_of(self.tern)
        self.client = as_group(self.tern)

    def load(self, kind, text, unit, client=None, key=None):
        body = {"id": key or str(uuid.uuid4()), "cell_id": str(self.cell.id), "kind": kind, "text": text, "unit": unit}
        return send(client or self.client, "/bench/under-load", body)

    def file(self, path, name, content, client=None, key=None):
        data = {"id": key or str(uuid.uuid4()), "cell_id": str(self.cell.id), name: SimpleUploadedFile("x", content)}
        return (client or self.client).post(f"/api{path}", data)

    def beside(self):
        return self.client.get("/api/bench").json()["cells"][0]["beside"]

    def test_loads_give_the_inner_resistance_from_the_groups_own_open_voltage(self):
        self.assertEqual(self.load("load", "0.47", "V").status_code, 200)
        self.assertEqual(self.beside()["under_load"][0]["says"], "")
        for _ in range(3):
            record(self.cell, "0.94")
        self.assertEqual(self.load("short", "0,94", "mA").status_code, 200)
        says = [one["says"] for one in self.beside()["under_load"]]
        self.assertEqual(says[0], "About 1000\u202fΩ inside, under this resistor.")
        self.assertEqual(says[1], "About 1000\u202fΩ inside, from the short-circuit current.")

    def test_a_load_above_the_open_voltage_is_kept_and_gives_no_resistance(self):
        record(self.cell, "0.94")
        self.assertEqual(self.load("load", "0.99", "V").status_code, 200)
        self.assertEqual(self.beside()["under_load"][0]["says"], "")

    def test_what_the_lab_does_not_ask_for_is_refused(self):
        other = lab_of(self.ada, groups=("Ruff",))
        client, cell = as_group(group_of(other, "Ruff")), cell_of(group_of(other, "Ruff"))
        body = {"id": str(uuid.uuid4()), "cell_id": str(cell.id), "kind": "short", "text": "1", "unit": "mA"}
        self.assertEqual(send(client, "/bench/under-load", body).json()["code"], "not_asked")

    def test_unreadable_loads_are_refused_with_their_field(self):
        for kind, text, unit in (("short", "0.94", "V"), ("load", "0.5", "mA"), ("short", "lots", "mA"), ("load", "", "V")):
            answer = self.load(kind, text, unit)
            self.assertEqual((answer.status_code, answer.json()["field"]), (422, "text"), (kind, text, unit))

    def test_an_observation_is_kept_once_however_often_it_is_sent(self):
        body = {"id": str(uuid.uuid4()), "cell_id": str(self.cell.id), "text": "  bubbles   at the zinc "}
        for _ in range(3):
            self.assertEqual(send(self.client, "/bench/observations", body).json()["text"], "bubbles at the zinc")
        self.assertEqual(Observation.objects.count(), 1)
        self.assertEqual(
            send(self.client, "/bench/observations", body | {"id": str(uuid.uuid4()), "text": " "}).status_code, 422
        )

    def test_a_photograph_is_made_anew_without_place_or_camera(self):
        exif = Image.Exif()
        exif[0x010F] = "A camera maker"
        exif[0x8825] = {1: "N", 2: (50.0, 0.0, 0.0)}
        content = picture((2400, 1200), exif=exif)
        self.assertIn(b"A camera maker", content)
        kept = self.file("/bench/photos", "photo", content).json()
        self.assertEqual((kept["width"], kept["height"]), (1600, 800))
        shown = self.client.get(f"/api/photos/{kept['id']}")
        data = b"".join(shown.streaming_content)
        self.assertEqual(shown["Content-Type"], "image/jpeg")
        self.assertNotIn(b"camera", data)
        with Image.open(io.BytesIO(data)) as stored:
            self.assertEqual(dict(stored.getexif()), {})
        photo = Photo.objects.get()
        self.assertEqual(path_of(photo.id).read_bytes(), data)

    def test_comments_and_all_other_words_in_a_picture_go(self):
        for form, more in (
            ("JPEG", {"comment": b"Kim took this"}),
            ("PNG", {"pnginfo": words()}),
            ("WEBP", {"xmp": b"Kim"}),
        ):
            content = picture((80, 60), form, **more)
            self.assertIn(b"Kim", content)
            kept = self.file("/bench/photos", "photo", content).json()
            self.assertNotIn(b"Kim", path_of(uuid.UUID(kept["id"])).read_bytes(), form)

    def test_what_is_transparent_is_white_and_not_black(self):
        glass = Image.new("RGBA", (60, 40), (0, 0, 0, 0))
        glass.paste((180, 90, 40, 255), (0, 0, 30, 40))
        marked = Image.new("P", (60, 40), 0)  # colours by number, one of them transparent
        marked.putpalette([0, 0, 0, 180, 90, 40])
        marked.paste(1, (0, 0, 30, 40))
        for picture_, more in ((glass, {}), (marked, {"transparency": 0})):
            made = io.BytesIO()
            picture_.save(made, "PNG", **more)
            kept = self.file("/bench/photos", "photo", made.getvalue()).json()
            with Image.open(path_of(uuid.UUID(kept["id"]))) as stored:
                for at, colour in (((10, 20), (180, 90, 40)), ((50, 20), (255, 255, 255))):
                    self.assertLess(max(abs(a - b) for a, b in zip(stored.getpixel(at), colour, strict=True)), 12)

    def test_a_picture_of_too_many_pixels_is_refused_before_it_is_decoded(self):
        small = picture((8, 8), "PNG")  # whose header says 20,000 by 20,000
        header = small[12:16] + struct.pack(">II", 20_000, 20_000) + small[24:29]
        bomb = small[:12] + header + struct.pack(">I", zlib.crc32(header)) + small[33:]
        with mock.patch("PIL.ImageFile.ImageFile.load") as load:
            answer = self.file("/bench/photos", "photo", bomb)
        self.assertEqual((answer.status_code, answer.json()["code"], load.called), (422, "photo_large", False))

    def test_files_are_the_servers_alone(self):
        self.file("/bench/photos", "photo", picture())
        path = path_of(Photo.objects.get().id)
        self.assertEqual([oct(one.stat().st_mode & 0o777) for one in (path, path.parent)], ["0o600", "0o700"])

    def test_a_photograph_is_removed_at_once_by_its_group_or_teacher_and_the_row_says_so(self):
        for client, who in ((self.client, "group"), (as_teacher(self.ada), "teacher")):
            kept = self.file("/bench/photos", "photo", picture()).json()
            path = f"/api/photos/{kept['id']}"
            for stranger, status in ((as_group(self.knot), 404), (as_teacher(teacher(f"bea{who}")), 404)):
                self.assertEqual(stranger.delete(path).status_code, status)
            self.assertEqual([client.delete(path).status_code for _ in range(2)], [200, 200])
            self.assertFalse(path_of(uuid.UUID(kept["id"])).exists())
            self.assertEqual(self.client.get(path).status_code, 404)
            shown = self.beside()["photos"][-1]
            self.assertEqual(shown["removed_by"], who)
            self.assertIsNotNone(shown["removed_at"])
        self.assertEqual(Photo.objects.count(), 2)

    def test_a_full_or_closed_folder_is_said_and_nothing_is_kept(self):
        for error in (OSError(28, "No space left on device"), PermissionError(13, "Permission denied")):
            with mock.patch("server.entries.photos._write", side_effect=error):
                answer = self.file("/bench/photos", "photo", picture())
            self.assertEqual((answer.status_code, answer.json()["code"]), (503, "photos_away"))
            self.assertTrue(answer.json()["passing"])
        self.assertEqual(Photo.objects.count(), 0)

    def test_what_is_no_picture_is_refused(self):
        for content in (b"", b"<svg onload=alert(1)>", b"\xff\xd8\xff\xe0 not really", picture()[:200], picture(form="GIF")):
            answer = self.file("/bench/photos", "photo", content)
            self.assertEqual((answer.status_code, answer.json()["code"]), (422, "no_photo"))
        self.assertEqual(self.file("/bench/photos", "photo", b"x" * (MOST_BYTES + 1)).json()["code"], "too_large")
        self.assertEqual(Photo.objects.count(), 0)

    def test_pictures_are_seen_by_their_group_and_its_teacher_only(self):
        kept = self.file("/bench/photos", "photo", picture()).json()
        path = f"/api/photos/{kept['id']}"
        seen = [as_teacher(self.ada), self.client, as_group(self.knot), as_teacher(teacher("bea")), self.client_class()]
        self.assertEqual([client.get(path).status_code for client in seen], [200, 200, 404, 404, 401])

    def test_a_loggers_file_is_shown_before_and_kept_after(self):
        preview = self.file("/bench/traces/preview", "file", TRACE).json()
        self.assertEqual((preview["delimiter"], preview["decimal"], preview["rows"]), ("semicolon", ",", 40))
        self.assertEqual((preview["read_text"], preview["steady"]), ("0.900", True))
        self.assertEqual(KeptTrace.objects.count(), 0)
        key = str(uuid.uuid4())
        for _ in range(2):
            self.assertEqual(self.file("/bench/traces", "file", TRACE, key=key).status_code, 200)
        self.assertEqual(len(self.beside()["traces"][0]["times_s"]), 40)
        self.assertEqual(KeptTrace.objects.count(), 1)
        refused = self.file("/bench/traces/preview", "file", b"no numbers here").json()
        self.assertEqual(refused["code"], "no_trace")

    def test_other_groups_closed_labs_and_taken_ids_are_refused(self):
        key = str(uuid.uuid4())
        self.load("load", "0.47", "V", key=key)
        self.assertEqual(self.load("load", "0.47", "V", client=as_group(self.knot)).status_code, 404)
        self.assertEqual(self.load("load", "0.5", "V", client=as_group(self.knot), key=key).json()["code"], "id_taken")
        close_lab(actor=self.ada, lab_id=self.lab.id)
        self.assertEqual(self.load("load", "0.5", "V").json()["code"], "lab_closed")
        self.assertEqual(self.file("/bench/photos", "photo", picture()).json()["code"], "lab_closed")
        self.assertEqual(UnderLoad.objects.count(), 1)

    def test_the_teacher_sees_what_is_kept_of_a_cell(self):
        self.load("load", "0.47", "V")
        path = f"/api/cells/{self.cell.id}/beside"
        self.assertEqual(len(as_teacher(self.ada).get(path).json()["under_load"]), 1)
        self.assertEqual(as_teacher(teacher("bea")).get(path).status_code, 404)
        self.assertEqual(self.client.get(path).status_code, 401)

    def test_the_database_keeps_them_as_they_are(self):
        self.load("load", "0.47", "V")
        self.file("/bench/photos", "photo", picture())
        self.file("/bench/traces", "file", TRACE)
        send(self.client, "/bench/observations", {"id": str(uuid.uuid4()), "cell_id": str(self.cell.id), "text": "a film"})
        for table in ("underload", "observation", "photo", "kepttrace"):
            for change in (f"UPDATE bench_{table} SET received_at = now()", f"DELETE FROM bench_{table}"):
                with self.assertRaises(IntegrityError), transaction.atomic(), connection.cursor() as cursor:
                    cursor.execute(change)
