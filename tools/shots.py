"""Take the current picture of each main view from the demo class: shots.py FOLDER [--url URL] [NAME ...].

Without --url a server is started on the database of DATABASE_URL, which must hold the demo class.
"""

from __future__ import annotations

import argparse
import os
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from playwright.sync_api import Page

from e2e.browser import LAPTOP, PHONE, chromium

TEACHER, PASSWORD, PIN = "demo-teacher", "tidewater-demo", "1959"
SURVEY, SECOND, THIRD = "Tidewater cell survey", "Tidewater cell survey, second class", "Tidewater cell survey, third class"
DISTANCE = "Does it matter how far apart?"


@contextmanager
def server() -> Iterator[str]:
    """A server of our own on a free loopback port."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    command = [sys.executable, "-m", "uvicorn", "server.config.asgi:application", "--port", str(port)]
    process = subprocess.Popen(
        [*command, "--lifespan", "off", "--log-level", "warning"], stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
    )
    url = f"http://127.0.0.1:{port}"
    try:
        for _ in range(100):
            try:
                urllib.request.urlopen(f"{url}/api/health", timeout=2).close()
                break
            except OSError:
                time.sleep(0.1)
        yield url
    finally:
        process.terminate()
        process.wait(10)


def sign_in(page: Page, url: str) -> None:
    page.goto(f"{url}/sign-in")
    page.get_by_label("Name").fill(TEACHER)
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("heading", name="Your labs").wait_for()


def as_group(page: Page, url: str, code: str, pin: str) -> None:
    page.goto(f"{url}/join")
    page.get_by_label("Code").fill(code)
    page.get_by_label("PIN of your group").fill(pin)
    page.get_by_role("button", name="Join").click()


def code_of(page: Page, url: str, title: str) -> str:
    """The code with which groups join a lab."""
    found = next(lab for lab in page.request.get(f"{url}/api/labs/list").json() if lab["title"] == title)
    return str(page.request.get(f"{url}/api/labs/{found['id']}").json()["code"])


def labs(page: Page, url: str) -> None:
    sign_in(page, url)


def plan(page: Page, url: str) -> None:
    sign_in(page, url)
    page.get_by_role("link", name=THIRD).click()
    page.get_by_role("heading", name="Who does what, when").wait_for()


def ask(page: Page, url: str) -> None:
    """What the class of the finished lab was asked before and after it."""
    sign_in(page, url)
    finished = next(lab for lab in page.request.get(f"{url}/api/labs/list").json() if lab["title"] == SURVEY)
    page.goto(f"{url}/labs/{finished['id']}/ask")
    page.get_by_text("before:").first.wait_for()


def cupboard(page: Page, url: str) -> None:
    sign_in(page, url)
    page.get_by_role("link", name="Cupboard").click()
    page.get_by_role("button", name="Cu copper", exact=True).click()
    page.get_by_role("heading", name="Its numbers").wait_for()


def board(page: Page, url: str) -> None:
    sign_in(page, url)
    page.get_by_role("link", name=SECOND, exact=True).click()
    page.get_by_role("heading", name="Just in").wait_for()


def compare(page: Page, url: str) -> None:
    sign_in(page, url)
    page.get_by_role("link", name=SURVEY, exact=True).click()
    page.get_by_role("heading", name="Cells, widest gap first").wait_for()


def changed(page: Page, url: str) -> None:
    """A lab that changed the distance: volts and current against it."""
    sign_in(page, url)
    page.get_by_role("link", name=DISTANCE, exact=True).click()
    page.get_by_role("tab", name="what was changed").click()
    page.get_by_role("img", name="volts against spacing").wait_for()


def explain(page: Page, url: str) -> None:
    compare(page, url)
    page.get_by_role("link", name="Explain").click()
    page.get_by_text("What groups say").wait_for()
    page.get_by_role("heading", name="where").first.wait_for()
    page.get_by_text("resistance inside").wait_for()


def german(page: Page, url: str) -> None:
    """The same for a reader of German."""
    explain(page, url)
    page.context.add_cookies([{"name": "pipette_language", "value": "de", "url": url}])
    page.reload()
    page.get_by_role("heading", name="Was Gruppen sagen").wait_for()


def teacher_claims(page: Page, url: str) -> None:
    """What the groups of the finished lab claim."""
    explain(page, url)
    page.get_by_role("link", name="Read and answer them").click()
    page.get_by_role("heading", name="What groups claim").wait_for()


def wall(page: Page, url: str) -> None:
    board(page, url)
    page.get_by_role("link", name="Projector").click()
    page.get_by_text("Back to the board").wait_for()


def claims(page: Page, url: str) -> None:
    """A group's claims in the finished lab."""
    sign_in(page, url)
    as_group(page, url, code_of(page, url, SURVEY), "1904")
    page.get_by_role("heading", name="Build this cell").wait_for()
    page.goto(f"{url}/bench/claims")
    page.get_by_role("heading", name="What you have claimed").wait_for()


def power(page: Page, url: str) -> None:
    """Three juice cells and a red LED: doubtful."""
    compare(page, url)
    cell = "cell=zinc|rhubarb-juice|copper"
    page.goto(f"{page.url.split('/compare')[0]}/power?{'&'.join([cell] * 3)}")
    page.get_by_text("The smallest pack").wait_for()


def a_pack(page: Page, url: str) -> None:
    """A pack that a group has built in the finished lab, one cell of it bridged."""
    claims(page, url)
    page.goto(f"{url}/bench/packs")
    page.get_by_role("link", name="red LED: 3 cells").first.click()
    page.get_by_role("status", name="What this pack says").get_by_text("Try this").wait_for()


def notebook(page: Page, url: str) -> None:
    """A group's notebook in the finished lab."""
    claims(page, url)
    page.goto(f"{url}/bench/notebook")
    page.get_by_role("heading", name="What we found, and why").scroll_into_view_if_needed()


def years(page: Page, url: str) -> None:
    """Three classes laid over each other."""
    sign_in(page, url)
    same = [SURVEY, "Shore cells, last year", "Shore cells, the year before"]
    labs = [lab["id"] for lab in page.request.get(f"{url}/api/labs/list").json() if lab["title"] in same]
    page.goto(f"{url}/years?{'&'.join(f'lab={lab}' for lab in labs)}")
    page.get_by_role("heading", name="What to expect here").wait_for()


def practise(page: Page, url: str) -> None:
    """A bench in trouble, three hands in."""
    page.goto(f"{url}/practise")
    while not page.get_by_text("Nothing, or a few").is_visible():  # cases are drawn; the picture is of one
        page.reload()
        page.get_by_role("heading", name="What is wrong here?").wait_for()
    for hand in ("Read the meter yourself", "Try a dry cell", "Wait a minute"):
        page.get_by_role("button", name=hand).click()


def bench(page: Page, url: str) -> None:
    board(page, url)
    code = code_of(page, url, SECOND)
    as_group(page, url, code, PIN)
    page.get_by_role("heading", name="Build this cell").wait_for()


def predict(page: Page, url: str) -> None:
    """The first cell of a group in a lab that was opened just now."""
    plan(page, url)
    page.get_by_role("link", name="Sign off the safety sheet").first.click()
    page.get_by_text("I have read this sheet").click()
    page.get_by_role("button", name="Sign off the safety sheet").click()
    page.get_by_role("link", name="To the plan").click()
    page.get_by_role("button", name="Open the bench").click()
    page.get_by_role("heading", name="Just in").wait_for()
    code = code_of(page, url, THIRD)
    as_group(page, url, code, PIN)
    page.get_by_role("button", name="zinc", exact=True).click()
    page.get_by_label("How many volts by the table?").fill("1.1")
    page.get_by_text("less than the table", exact=True).click()


Take = Callable[[Page, str], None]
VIEWS: dict[str, tuple[Take, dict[str, int], bool]] = {
    "labs": (labs, LAPTOP, False),
    "plan": (plan, LAPTOP, False),
    "ask": (ask, LAPTOP, False),
    "cupboard": (cupboard, LAPTOP, False),
    "bench": (bench, LAPTOP, False),
    "bench-phone": (bench, PHONE, True),
    "board": (board, LAPTOP, False),
    "compare": (compare, LAPTOP, False),
    "changed": (changed, LAPTOP, False),
    "explain": (explain, LAPTOP, False),
    "explain-german": (german, LAPTOP, False),
    "claims": (teacher_claims, LAPTOP, False),
    "board-projector": (wall, LAPTOP, False),
    "power": (power, LAPTOP, False),
    "pack-phone": (a_pack, PHONE, True),
    "notebook-phone": (notebook, PHONE, False),
    "years": (years, LAPTOP, False),
    "practise": (practise, LAPTOP, False),
    "predict-phone": (predict, PHONE, True),  # last: it opens the draft
}


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("folder", type=Path)
    parser.add_argument("names", nargs="*", default=list(VIEWS))
    parser.add_argument("--url")
    options = parser.parse_args()
    options.folder.mkdir(parents=True, exist_ok=True)
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.config.settings")
    with server() if not options.url else nullserver(options.url) as url, chromium() as browser:
        for name in options.names:
            take, size, whole = VIEWS[name]
            phone = size == PHONE
            context = browser.new_context(viewport=size, is_mobile=phone, has_touch=phone, reduced_motion="reduce")
            page = context.new_page()
            page.on("console", lambda message: message.type == "error" and print("console:", message.text))
            page.on("pageerror", lambda error: print("page:", error))
            take(page, url)
            page.wait_for_load_state("networkidle")
            page.evaluate("document.fonts.ready")
            page.screenshot(path=options.folder / f"{name}.png", full_page=whole)
            context.close()
            print(name, flush=True)


@contextmanager
def nullserver(url: str) -> Iterator[str]:
    """A server that somebody else runs."""
    yield url


if __name__ == "__main__":
    main()
