"""A live ASGI server on the test database, with browsers to drive it."""

from __future__ import annotations

import os
import re
import threading
import time
from collections.abc import Callable
from typing import ClassVar

import uvicorn
from axe_playwright_python.sync_playwright import Axe
from django.db import connections
from django.test import Client, modify_settings
from playwright.sync_api import BrowserContext, Page, expect

from e2e.browser import LAPTOP, chromium
from server.config.asgi import application
from server.people.models import Group, Teacher
from server.tests.support import KeptReadingsTestCase, as_group, as_teacher

PASSWORD = "adaada-long-enough"
START_S = 20
AWAIT_S = 60.0  # a slow machine is no fault; what is awaited comes in well under a second
KEPT = """async ([paths, script]) => {
    const shell = await caches.open("pipette-shell-1"), data = await caches.open("pipette-bench-1");
    const files = (await shell.keys()).map(({ url }) => url);
    if (files.length <= 5 || !(await shell.match("/bench")) || !files.some((url) => url.includes(script))) return false;
    return (await Promise.all(paths.map(async (path) => (await shell.match(path)) ?? data.match(path)))).every(Boolean);
}"""
expect.set_options(timeout=AWAIT_S * 1000)


class BrowserTestCase(KeptReadingsTestCase):
    """One server and one browser for each class; every test has contexts of its own, like devices of their own."""

    arguments: ClassVar[list[str]] = []
    keeps_pages = False  # whether devices keep pages to open them without network; a bench then fetches all of them twice

    @classmethod
    def setUpClass(cls) -> None:
        # Playwright's loop runs in this thread, which Django would otherwise take for an asynchronous context.
        before = os.environ.get("DJANGO_ALLOW_ASYNC_UNSAFE")
        os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"
        super().setUpClass()
        cls.addClassCleanup(_restore, before)
        cls.enterClassContext(modify_settings(ALLOWED_HOSTS={"append": "127.0.0.1"}))
        cls.start_server()
        cls.browser = cls.enterClassContext(chromium(*cls.arguments))

    @classmethod
    def start_server(cls, port: int = 0) -> None:
        """Start the server; `port` 0 takes a free one."""
        config = uvicorn.Config(
            application,
            host="127.0.0.1",
            port=port,
            lifespan="off",
            log_level="critical",
            timeout_graceful_shutdown=1,
        )
        cls.server = uvicorn.Server(config)
        cls.thread = threading.Thread(target=cls.server.run, daemon=True)
        cls.thread.start()
        end = time.monotonic() + START_S
        while not cls.server.started:
            if not cls.thread.is_alive() or time.monotonic() > end:
                raise RuntimeError("uvicorn did not start")
            time.sleep(0.02)
        cls.port = cls.server.servers[0].sockets[0].getsockname()[1]
        cls.url = f"http://127.0.0.1:{cls.port}"
        cls.addClassCleanup(cls.stop_server)

    @classmethod
    def stop_server(cls) -> None:
        """Stop the server; stopping twice is fine."""
        cls.server.should_exit = True
        cls.thread.join(15)
        connections.close_all()

    def setUp(self) -> None:
        super().setUp()
        self.faults: list[str] = []

    def tearDown(self) -> None:
        for context in self.browser.contexts:
            context.close()
        self.assertEqual(self.faults, [], "the browser reported errors")
        super().tearDown()

    def device(
        self, size: dict[str, int] = LAPTOP, touch: bool = False, locale: str = "en-GB", keeps_pages: bool | None = None
    ) -> Page:
        """A page on a device of its own."""
        keeps = self.keeps_pages if keeps_pages is None else keeps_pages
        context: BrowserContext = self.browser.new_context(
            viewport=size, has_touch=touch, is_mobile=touch, reduced_motion="reduce", base_url=self.url, locale=locale,
            service_workers="allow" if keeps else "block",
        )  # fmt: skip
        page = context.new_page()
        page.on("pageerror", lambda error: self.faults.append(str(error)))
        page.on("console", self.hear)
        return page

    def hear(self, message: object) -> None:
        """Policy violations and broken rendering count; refusals and a cut network are part of the job."""
        text = str(getattr(message, "text", message))
        if "Content Security Policy" in text or "Warning:" in text:
            self.faults.append(text)

    def sign_in(self, page: Page, name: str = "ada") -> None:
        """Sign a teacher in through the form."""
        page.goto("/sign-in")
        page.get_by_label("Name").fill(name)
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("heading", name="Your labs")).to_be_visible()

    def signed_in(self, page: Page, name: str = "ada") -> None:
        """Make a device one on which a teacher has signed in before; no page is opened."""
        self.take_cookies(page, as_teacher(Teacher.objects.get(username=name)))

    def joined(self, page: Page, group: Group, path: str = "/bench") -> None:
        """Make a device one that has joined as a group before, and open its bench there."""
        self.take_cookies(page, as_group(group))
        page.goto(path)
        expect(page.get_by_role("heading", name="Build this cell")).to_be_visible()

    def take_cookies(self, page: Page, client: Client) -> None:
        """Give a device the cookies of a client."""
        page.context.add_cookies([{"name": c.key, "value": c.value, "url": self.url} for c in client.cookies.values()])

    def sign_off(self, page: Page) -> None:
        """From a draft's plan to its safety sheet, read and sign it, and back."""
        page.get_by_role("link", name="Sign off the safety sheet").first.click()
        page.get_by_text("I have read this sheet").click()
        page.get_by_role("button", name="Sign off the safety sheet").click()
        page.get_by_role("link", name="To the plan").click()
        expect(page.get_by_role("button", name="Open the bench")).to_be_visible()

    def join(self, page: Page, code: str, pin: str) -> None:
        """Join as a group through the form."""
        page.goto("/join")
        page.get_by_label("Code").fill(code)
        page.get_by_label("PIN of your group").fill(pin)
        page.get_by_role("button", name="Join").click()
        expect(page.get_by_role("heading", name="Build this cell")).to_be_visible()

    def until(self, page: Page, done: Callable[[], object], otherwise: str) -> None:
        """Look again and again while the page goes on; the test fails with `otherwise` where it does not come to that."""
        end = time.monotonic() + AWAIT_S
        while not done():
            if time.monotonic() > end:
                self.fail(otherwise)
            page.wait_for_timeout(100)

    def until_kept(self, page: Page, *data: str, script: str = "") -> None:
        """Wait until a page can be opened without network: its shell, answers by their paths, and a script by its name."""
        kept = [list(data), script]
        self.until(page, lambda: page.evaluate(KEPT, kept), f"{data} and {script} were not kept for later")

    def leave(self, page: Page) -> None:
        """Leave a bench on which nothing waits to be sent."""
        page.get_by_role("button", name="Leave this bench").click()
        page.get_by_role("alertdialog").get_by_role("button", name="Leave", exact=True).click()

    def type_reading(self, page: Page, text: str) -> None:
        """Type a reading and record it with Enter."""
        field = page.get_by_role("textbox", name="Reading in")
        field.fill(text)
        field.press("Enter")

    def select(self, page: Page, label: str, option: str) -> None:
        """Choose an option of a list by what the list is called."""
        page.get_by_role("button", name=re.compile(rf"{re.escape(label)}$")).click()
        page.get_by_role("option", name=option).click()

    def check_access(self, page: Page) -> None:
        """No fault of accessibility that axe can find."""
        found = Axe().run(page)
        faults = [f"{v['id']}: {node['target']}" for v in found.response["violations"] for node in v["nodes"]]
        self.assertEqual(faults, [], page.url)


def _restore(before: str | None) -> None:
    if before is None:
        os.environ.pop("DJANGO_ALLOW_ASYNC_UNSAFE", None)
    else:
        os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = before
