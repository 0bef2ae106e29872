"""A school's server as it is deployed: two processes behind nginx, https by the school's own certificate.

One is killed while readings come in: nothing is lost or doubled, and the board goes on.
"""

import base64
import contextlib
import hashlib
import json
import re
import shutil
import signal
import socket
import ssl
import tempfile
import urllib.error
import urllib.request
import uuid
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import ClassVar

from cryptography import x509
from cryptography.hazmat.primitives.serialization import Encoding, PublicFormat
from django.contrib.auth.hashers import ScryptPasswordHasher
from django.test import SimpleTestCase
from playwright.sync_api import expect

from e2e.browser import LAPTOP, PHONE
from e2e.live import PASSWORD
from e2e.process import ProcessTestCase, free_port
from e2e.proxy import Proxy
from server.entries.models import Reading
from server.people.auth import CLASS
from server.tests.support import group_of, lab_of, teacher
from tools import own_certificate


class Deployed(ProcessTestCase):
    keeps_pages = True

    processes: ClassVar[list]
    said: ClassVar[list[Path]]

    @classmethod
    def start_server(cls, port: int = 0) -> None:
        kept = Path(tempfile.mkdtemp(prefix="pipette-certificate-"))
        cls.addClassCleanup(shutil.rmtree, kept, ignore_errors=True)
        own_certificate.in_folder(kept, ["127.0.0.1", "localhost"])
        cls.plain, cls.secure = free_port(), free_port()
        behind = {
            "PIPETTE_HTTPS": "1",
            "PIPETTE_TRUSTED_PROXIES": "1",
            "PIPETTE_AUTHORITY": str(kept / "authority.pem"),
            "PIPETTE_ALLOWED_HOSTS": "127.0.0.1",
        }
        cls.said = [kept / "1.log", kept / "2.log"]
        cls.processes = [cls.start_process(free_port(), behind, says) for says in cls.said]
        proxy = Proxy([port for _, port in cls.processes], cls.plain, cls.secure, kept)
        cls.addClassCleanup(proxy.stop)
        cls.proxy = proxy
        cls.url = f"https://127.0.0.1:{cls.secure}"
        own = x509.load_pem_x509_certificate((kept / "server.pem").read_bytes()).public_key()
        key = hashlib.sha256(own.public_bytes(Encoding.DER, PublicFormat.SubjectPublicKeyInfo)).digest()
        # what trusting the school's authority does on a real device, where browsers take no authority from a command line
        cls.arguments = [f"--ignore-certificate-errors-spki-list={base64.b64encode(key).decode()}"]

    def test_a_phone_joins_goes_offline_reloads_measures_and_comes_back_while_one_process_is_killed(self):
        ada = teacher("ada")
        ada.password = ScryptPasswordHasher().encode(PASSWORD, "salt")  # the tests' own hasher is not the processes'
        ada.save()
        lab = lab_of(ada)
        tern = group_of(lab)
        board, phone = self.device(), self.device(PHONE, touch=True)
        self.sign_in(board)
        board.goto(f"/labs/{lab.id}/board")
        expect(board.get_by_text("Tern").first).to_be_visible()
        self.join(phone, lab.join_code, tern.pin)
        self.type_reading(phone, "0.911")
        expect(board.get_by_text(re.compile(r"^1 of \d+ readings"))).to_be_visible()

        self.assertTrue(phone.evaluate("navigator.serviceWorker.ready.then(() => window.isSecureContext)"))
        self.until_kept(phone, "/api/bench")
        phone.context.set_offline(True)
        phone.reload()
        expect(phone.get_by_role("heading", name="Build this cell")).to_be_visible()
        self.type_reading(phone, "0.912")
        expect(phone.get_by_text("1 not sent yet")).to_be_visible()
        self.processes[self.of_class(lab)][0].send_signal(signal.SIGKILL)
        phone.context.set_offline(False)
        expect(phone.get_by_text("All readings sent")).to_be_visible()
        self.type_reading(phone, "0.913")
        expect(phone.get_by_text("All readings sent")).to_be_visible()
        expect(board.get_by_text(re.compile(r"^3 of \d+ readings"))).to_be_visible()
        kept = list(Reading.objects.order_by("received_at").values_list("text", flat=True))
        self.assertEqual(kept, ["0.911", "0.912", "0.913"])

    def asked(self, what):
        """How often each process was asked for something."""
        return [said.read_text().count(f"{what} ") for said in self.said]

    def of_class(self, lab):
        """The process that has answered a lab's board and benches: one has answered all."""
        both = [self.asked(what) for what in (f"GET /api/labs/{lab.id}/board", "POST /api/bench/readings")]
        self.assertTrue(all(map(any, both)), both)
        return next(n for n in (0, 1) if not any(asked[1 - n] for asked in both))

    def test_a_class_is_all_at_one_process_and_classes_are_at_both(self):
        page, ids = self.device(), [str(uuid.uuid4()) for _ in range(20)]
        page.goto("/join")
        page.evaluate(
            """(ids) => Promise.all(ids.flatMap((id) => [1, 2, 3].map(() => fetch(`/api/labs/${id}/board`))))""", ids
        )
        at = [self.asked(f"/api/labs/{one}/board") for one in ids]
        self.assertEqual({tuple(asked) for asked in at}, {(0, 3), (3, 0)})
        for one in ids[:4]:
            page.context.add_cookies([{"name": CLASS, "value": one[:8], "url": self.url}])
            before = self.asked("/api/bench")
            page.evaluate("() => Promise.all([1, 2, 3].map(() => fetch('/api/bench')))")
            self.assertEqual(
                [now - then for now, then in zip(self.asked("/api/bench"), before, strict=True)], at[ids.index(one)]
            )

    def test_the_page_for_technicians_finds_all_well_through_the_proxy_and_says_what_is_not(self):
        for size in (LAPTOP, PHONE):
            page = self.device(size)
            page.goto("/check")
            for said in ("A bench opens again without network", "What is typed is kept on the device",
                         "News come as they happen", "The clock is right", "The school’s own certificate"):  # fmt: skip
                expect(page.get_by_role("heading", name=said)).to_be_visible()
            # the address is that of this machine itself, where no phone comes
            expect(page.get_by_role("heading", name="Only this computer can open it")).to_be_visible()
            self.check_access(page)
        page.clock.install(time="2020-01-01T08:00:00Z")
        page.reload()
        expect(page.get_by_role("heading", name="The clock is wrong")).to_be_visible()

    def asked_raw(self, path, size, promised):
        """What is said to who promises so many bytes without a session, sends `size` of them, and then nothing."""
        context = ssl._create_unverified_context()  # noqa: S323 (our own server on loopback)
        with (
            socket.create_connection(("127.0.0.1", self.secure), 10) as plain,
            context.wrap_socket(plain) as line,
        ):
            head = (
                f"POST {path} HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: {promised or size}\r\nConnection: close\r\n\r\n"
            )
            line.sendall(head.encode() + b"x" * size)
            line.settimeout(20)
            said = b""
            with contextlib.suppress(OSError):
                while part := line.recv(65536):
                    said += part
        head, _, body = said.partition(b"\r\n\r\n")
        return int(head.split()[1]), json.loads(body[body.index(b"{") : body.rindex(b"}") + 1])["code"]

    def test_large_bodies_of_nobody_are_kept_neither_by_the_proxy_nor_by_the_server(self):
        self.assertEqual(self.asked_raw("/api/join", 100, 2_000_000), (413, "too_large"))
        waiting = Path(self.proxy.folder) / "client_body"
        with ThreadPoolExecutor(8) as senders:  # each promises 20 MB, sends 200 kB of it, and then nothing
            told = list(senders.map(lambda _: self.asked_raw("/api/bench/photos", 200_000, 5_900_000), range(8)))
        self.assertEqual(set(told), {(401, "sign_in")})
        self.assertEqual([file for file in waiting.rglob("*") if file.is_file()], [])

    def test_the_proxys_log_has_no_address_no_query_and_no_browser(self):
        context = ssl._create_unverified_context()  # noqa: S323 (our own server on loopback)
        opener = urllib.request.build_opener(urllib.request.HTTPSHandler(context=context))
        opener.addheaders = [("User-Agent", "a browser of its own")]
        opener.open(f"https://127.0.0.1:{self.secure}/api/who?words=Robin%20Miller", timeout=10).close()
        logged = "".join((Path(self.proxy.folder) / name).read_text() for name in ("access.log", "error.log"))
        self.assertRegex(logged, r"(?m)^\S+ GET /api/who 200 [\d.]+$")
        for word in ("Miller", "127.0.0.1", "a browser of its own"):
            self.assertNotIn(word, logged)

    def test_plain_http_leads_to_https_and_still_gives_the_certificate(self):
        class Stay(urllib.request.HTTPRedirectHandler):
            def redirect_request(self, *_):
                return None

        opener = urllib.request.build_opener(Stay)
        with self.assertRaises(urllib.error.HTTPError) as told:
            opener.open(f"http://127.0.0.1:{self.plain}/join", timeout=10)
        told.exception.close()
        self.assertEqual((told.exception.code, told.exception.headers["Location"]), (301, "https://127.0.0.1/join"))
        with opener.open(f"http://127.0.0.1:{self.plain}/authority.crt", timeout=10) as answer:
            x509.load_der_x509_certificate(answer.read())


class BothAway(SimpleTestCase):
    """The proxy's own words while no process answers: people read them, devices understand them."""

    def test_a_person_reads_it_and_a_device_knows_that_it_passes(self):
        kept = Path(tempfile.mkdtemp(prefix="pipette-certificate-"))
        self.addCleanup(shutil.rmtree, kept, ignore_errors=True)
        own_certificate.in_folder(kept, ["127.0.0.1"])
        secure = free_port()
        proxy = Proxy([free_port(), free_port()], free_port(), secure, kept)
        self.addCleanup(proxy.stop)
        said = {}
        for path in ("/bench", "/api/bench"):
            with self.assertRaises(urllib.error.HTTPError) as told:
                context = ssl._create_unverified_context()  # noqa: S323 (our own server on loopback)
                urllib.request.urlopen(f"https://127.0.0.1:{secure}{path}", timeout=20, context=context)
            said[path] = (told.exception.code, told.exception.read().decode())
            told.exception.close()
        self.assertEqual([code for code, _ in said.values()], [502, 502])
        self.assertIn("stays on its device", said["/bench"][1])
        self.assertIn("startet neu", said["/bench"][1])
        self.assertEqual(
            (json.loads(said["/api/bench"][1])["code"], json.loads(said["/api/bench"][1])["passing"]), ("away", True)
        )
