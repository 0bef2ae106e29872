"""Debian's Chromium through Playwright, without looking up anything outside this machine."""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from contextlib import contextmanager

from playwright.sync_api import Browser, sync_playwright

ARGUMENTS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
LAPTOP = {"width": 1280, "height": 800}
PHONE = {"width": 390, "height": 844}
ZOOMED = {"width": 640, "height": 400}  # a laptop's screen at 200 %


@contextmanager
def chromium(*more: str) -> Iterator[Browser]:
    """A headless browser with `more` arguments: Debian's shell for it where there is one.

    Raises RuntimeError where Chromium is not installed.
    """
    path = shutil.which("chromium-headless-shell") or shutil.which("chromium")
    if path is None:
        raise RuntimeError("Chromium is not installed; ./pipette test installs it.")
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=path, args=[*ARGUMENTS, *more])
        try:
            yield browser
        finally:
            browser.close()
