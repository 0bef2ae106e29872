"""Every part of the interface in every state: said and drawn as it was last read, and to be read at each width and language.

After a change that is meant: `PIPETTE_KEEP=1 ./pipette test e2e.test_gallery`, and read the difference. To look at it:
`npm --prefix web run gallery`.
"""

import os
import threading
from functools import partial
from http.server import SimpleHTTPRequestHandler, ThreadingHTTPServer

from axe_playwright_python.sync_playwright import Axe
from django.conf import settings
from django.test import SimpleTestCase
from playwright.sync_api import Page

from e2e.browser import LAPTOP, PHONE, ZOOMED, chromium
from e2e.geometry import unreadable
from e2e.kept_pages import as_text, keep, unfolded, unlike

GALLERY = settings.BASE_DIR / ".run" / "gallery"
REPEATED = ("landmark-unique",)  # one region in several states
BUSY = {"Parts": 1}  # parts that are shown at work


class Quiet(SimpleHTTPRequestHandler):
    def log_message(self, *_: object) -> None:
        pass


class Gallery(SimpleTestCase):
    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        if not GALLERY.is_dir():
            raise RuntimeError("The gallery is not built: npm --prefix web run gallery:build")
        server = ThreadingHTTPServer(("127.0.0.1", 0), partial(Quiet, directory=str(GALLERY)))
        threading.Thread(target=server.serve_forever, daemon=True).start()
        cls.addClassCleanup(server.server_close)
        cls.addClassCleanup(server.shutdown)
        cls.url = f"http://127.0.0.1:{server.server_port}/"
        cls.browser = cls.enterClassContext(chromium())

    def shown(self, part: str, language: str = "en", size: dict[str, int] = LAPTOP) -> Page:
        """A part of the gallery, at rest."""
        context = self.browser.new_context(viewport=size, reduced_motion="reduce")
        self.addCleanup(context.close)
        page = context.new_page()
        faults: list[str] = []
        page.on("pageerror", lambda error: faults.append(str(error)))
        page.goto(f"{self.url}?of={part}&lang={language}")
        page.get_by_role("heading", level=1).wait_for()
        as_text(page, BUSY.get(part, 0))
        self.assertEqual(faults, [])
        return page

    def says_what_it_did(self, part: str) -> None:
        page = self.shown(part)
        closed = as_text(page, BUSY.get(part, 0))
        lines = [*closed, "and with all open:", *unfolded(page, BUSY.get(part, 0))]
        if os.environ.get("PIPETTE_KEEP"):
            keep(f"gallery-{part.lower()}", lines)
        self.assertEqual(unlike(f"gallery-{part.lower()}", lines), [])

    def can_be_read(self, part: str) -> None:
        for language in ("en", "de"):
            page = self.shown(part, language)
            for name, size in (("laptop", LAPTOP), ("200 %", ZOOMED), ("phone", PHONE)):
                with self.subTest(f"{language}, {name}"):
                    page.set_viewport_size(size)
                    as_text(page, BUSY.get(part, 0))
                    self.assertEqual(unreadable(page), [])
        violations = [v for v in Axe().run(page).response["violations"] if v["id"] not in REPEATED]
        faults = [f"{v['id']}: {node['target']}" for v in violations for node in v["nodes"]]
        self.assertEqual(faults, [])

    def test_a_class_says_what_it_did(self):
        self.says_what_it_did("Class")

    def test_cells_say_what_they_did(self):
        self.says_what_it_did("Cells")

    def test_packs_say_what_they_did(self):
        self.says_what_it_did("Packs")

    def test_parts_say_what_they_did(self):
        self.says_what_it_did("Parts")

    def test_a_class_can_be_read(self):
        self.can_be_read("Class")

    def test_cells_can_be_read(self):
        self.can_be_read("Cells")

    def test_packs_can_be_read(self):
        self.can_be_read("Packs")

    def test_parts_can_be_read(self):
        self.can_be_read("Parts")
