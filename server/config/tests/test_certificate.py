"""The school's own certificates in a real TLS handshake, and what stops a start where others reach the server."""

import os
import socket
import ssl
import tempfile
import threading
from pathlib import Path
from unittest.mock import patch

from cryptography import x509
from cryptography.hazmat.primitives import hashes
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.hazmat.primitives.serialization import Encoding, load_pem_private_key
from cryptography.x509.oid import ExtendedKeyUsageOID
from django.core.management import CommandError, call_command
from django.test import Client, SimpleTestCase, override_settings

from server.base import authority
from server.base.safe import unsafe
from tools import own_certificate


class OwnCertificate(SimpleTestCase):
    def setUp(self):
        kept = tempfile.TemporaryDirectory()
        self.addCleanup(kept.cleanup)
        self.folder = Path(kept.name) / "certificate"

    def shake(self, name, certificate="server"):
        """What a client that trusts the authority says of the server at `name`: empty, or the reason it gives up."""
        here = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
        here.load_cert_chain(self.folder / f"{certificate}.pem", self.folder / f"{certificate}-key.pem")
        there = ssl.create_default_context(cafile=self.folder / "authority.pem")
        with socket.create_server(("127.0.0.1", 0)) as listening:

            def answer():
                raw, _ = listening.accept()
                try:
                    here.wrap_socket(raw, server_side=True).close()
                except (ssl.SSLError, OSError):
                    raw.close()

            thread = threading.Thread(target=answer)
            thread.start()
            try:
                with socket.create_connection(listening.getsockname()) as raw, there.wrap_socket(raw, server_hostname=name):
                    return ""
            except ssl.SSLError as error:
                return str(error)
            finally:
                thread.join()

    def test_a_device_that_trusts_the_authority_opens_the_server_by_each_of_its_names(self):
        own_certificate.in_folder(self.folder, ["192.168.7.20", "lab-laptop", "localhost", "127.0.0.1"])
        for name in ("192.168.7.20", "lab-laptop.local", "localhost", "127.0.0.1"):
            self.assertEqual(self.shake(name), "", name)
        self.assertIn("mismatch", self.shake("192.168.7.21"))

    def test_an_address_alone_will_do(self):
        own_certificate.in_folder(self.folder, ["192.0.2.7"])
        self.assertEqual(self.shake("192.0.2.7"), "")

    def test_the_authority_cannot_sign_for_any_other_site(self):
        own_certificate.in_folder(self.folder, ["10.0.0.4"])
        for name in ("example.org", "8.8.8.8", "notlocal"):
            with self.subTest(name), self.assertRaises(own_certificate.NotAllowed):
                own_certificate.in_folder(self.folder, [f"{name}.org" if name == "notlocal" else name])
        root = x509.load_pem_x509_certificate((self.folder / "authority.pem").read_bytes())
        by = load_pem_private_key((self.folder / "authority-key.pem").read_bytes(), None)
        with patch.object(own_certificate, "allows", lambda *_: True):
            forged, key = own_certificate.make_certificate(root, by, ["example.org"])
        (self.folder / "forged.pem").write_bytes(forged.public_bytes(Encoding.PEM))
        (self.folder / "forged-key.pem").write_bytes(own_certificate._pem(key))
        self.assertIn("permitted subtree violation", self.shake("example.org", "forged"))

    def test_a_school_with_an_address_of_its_own_on_the_internet_has_an_authority_for_that_one(self):
        own_certificate.in_folder(self.folder, ["192.0.2.7", "labs.school.example"])
        for name in ("192.0.2.7", "labs.school.example"):
            self.assertEqual(self.shake(name), "", name)
        with self.assertRaises(own_certificate.NotAllowed):
            own_certificate.in_folder(self.folder, ["192.0.2.8"])

    def test_the_authority_stays_and_the_certificate_changes_with_its_names_and_its_age(self):
        first = own_certificate.in_folder(self.folder, ["10.0.0.4"])
        before = (self.folder / "server.pem").read_bytes()
        self.assertEqual(own_certificate.in_folder(self.folder, ["10.0.0.4"]), first)
        self.assertEqual((self.folder / "server.pem").read_bytes(), before)
        self.assertEqual(own_certificate.in_folder(self.folder, ["10.0.0.5"]), first)
        self.assertNotEqual((self.folder / "server.pem").read_bytes(), before)
        with patch.object(own_certificate, "DAYS_397", own_certificate.MONTH):
            own_certificate.in_folder(self.folder, ["10.0.0.6"])
        old = (self.folder / "server.pem").read_bytes()
        own_certificate.in_folder(self.folder, ["10.0.0.6"])
        self.assertNotEqual((self.folder / "server.pem").read_bytes(), old)

    def test_what_browsers_ask_of_a_certificate_and_keys_for_the_owner_alone(self):
        own_certificate.in_folder(self.folder, ["10.0.0.4"])
        made = x509.load_pem_x509_certificate((self.folder / "server.pem").read_bytes())
        # at most 398 days, a subject alternative name, for servers (CA/Browser Forum, Baseline Requirements 6.3.2, 7.1.2.7)
        self.assertLess((made.not_valid_after_utc - made.not_valid_before_utc).days, 398)
        used = made.extensions.get_extension_for_class(x509.ExtendedKeyUsage).value
        self.assertEqual(list(used), [ExtendedKeyUsageOID.SERVER_AUTH])
        self.assertIsInstance(made.public_key(), ec.EllipticCurvePublicKey)
        for name in ("authority-key.pem", "server-key.pem"):
            self.assertEqual((self.folder / name).stat().st_mode & 0o777, 0o600)

    def test_devices_fetch_the_authority_and_can_compare_its_fingerprint(self):
        fingerprint = own_certificate.in_folder(self.folder, ["10.0.0.4"])
        for kept in (authority.der, authority.fingerprint):
            kept.cache_clear()
            self.addCleanup(kept.cache_clear)
        with override_settings(AUTHORITY=str(self.folder / "authority.pem")):
            answer, told = Client().get("/authority.crt"), Client().get("/api/check").json()
        self.assertEqual(answer["Content-Type"], "application/x-x509-ca-cert")
        fetched = x509.load_der_x509_certificate(answer.content)
        self.assertEqual(fetched.fingerprint(hashes.SHA256()).hex(":").upper(), fingerprint)
        self.assertEqual(told["fingerprint"], fingerprint)
        authority.der.cache_clear()
        self.assertEqual(Client().get("/authority.crt").status_code, 404)


class Unsafe(SimpleTestCase):
    LONG = "f3Xq" * 12

    def said(self, key=LONG, **settings):
        with patch.dict(os.environ, {"PIPETTE_SECRET_KEY": key}), override_settings(**settings):
            return unsafe()

    def test_what_is_safe_is_let_pass_and_each_fault_is_named_with_what_to_do(self):
        with tempfile.TemporaryDirectory() as name:
            tight, loose = Path(name) / "tight", Path(name) / "loose"
            tight.mkdir(mode=0o700)
            loose.mkdir()
            loose.chmod(0o755)
            plain = {"PHOTO_DIR": tight, "BACKUP_DIR": tight, "BASE_DIR": Path(name), "DEBUG": False}
            self.assertEqual(self.said(**plain), [])
            for changed, key, word in (
                ({"DEBUG": True}, self.LONG, "PIPETTE_DEBUG"),
                ({"ALLOWED_HOSTS": ["*"]}, self.LONG, "PIPETTE_ALLOWED_HOSTS"),
                ({"PHOTO_DIR": loose}, self.LONG, "chmod"),
                ({}, "", "missing"),
                ({}, "changeme" * 8, "guessed"),
                ({}, "short", "guessed"),
            ):
                [sentence] = self.said(key, **(plain | changed))
                self.assertIn(word, sentence)

    def test_the_command_fails_with_it(self):
        with patch.dict(os.environ, {"PIPETTE_SECRET_KEY": "short"}), self.assertRaisesRegex(CommandError, "guessed"):
            call_command("safe")
