"""Test runners that keep what each test took and, in a browser, which mistakes of the front end it came by."""

from __future__ import annotations

import json
import os
import time
import unittest
from pathlib import Path
from typing import Any

from server.config.runner import CountingRunner

COVERED = "pipette-covered "


def keep(row: object) -> None:
    """One line more in this process's file."""
    folder = Path(os.environ["PIPETTE_TIMES"])
    folder.mkdir(exist_ok=True)
    with (folder / str(os.getpid())).open("a", encoding="utf-8") as file:
        file.write(json.dumps(row) + "\n")


def timed() -> None:
    """Every test's seconds from now on."""
    run = unittest.TestCase.run

    def with_time(self: unittest.TestCase, result: Any = None) -> Any:
        start = time.monotonic()
        try:
            return run(self, result)
        finally:
            keep((self.id(), round(time.monotonic() - start, 3)))

    unittest.TestCase.run = with_time  # type: ignore[method-assign, assignment]


def listened() -> None:
    """Every page's word on the mistakes it came by, for the test that opened it."""
    from playwright.sync_api import Browser

    new_context = Browser.new_context
    now = {"test": ""}
    set_up = unittest.TestCase.run

    def named(self: unittest.TestCase, result: Any = None) -> Any:
        now["test"] = self.id()
        return set_up(self, result)

    def hear(message: Any) -> None:
        if message.text.startswith(COVERED):
            keep((now["test"], message.text.removeprefix(COVERED).split(",")))

    def listening(self: Any, *args: Any, **kwargs: Any) -> Any:
        context = new_context(self, *args, **kwargs)
        context.on("console", hear)
        return context

    unittest.TestCase.run = named  # type: ignore[method-assign, assignment]
    Browser.new_context = listening  # type: ignore[method-assign]


class TimedRunner(CountingRunner):
    """Keeps what each test took."""

    def setup_test_environment(self, **kwargs: Any) -> None:
        super().setup_test_environment(**kwargs)
        timed()


class ListeningRunner(TimedRunner):
    """And which mistakes each test in a browser came by."""

    def setup_test_environment(self, **kwargs: Any) -> None:
        super().setup_test_environment(**kwargs)
        listened()
