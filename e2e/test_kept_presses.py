"""What each press on a page does to it: every button, choice and field in turn, and what the page says after it.

Pages at rest are kept by `test_kept_pages`; here a page is used until nothing on it is left to press, and the lines that
came with each press are kept. After a change that is meant: `PIPETTE_KEEP=1 ./pipette test e2e.test_kept_presses`, and
read the difference.
"""

from __future__ import annotations

import difflib
import os
import re
from collections.abc import Iterator
from typing import Any
from urllib.parse import urlsplit

from django.utils import timezone
from playwright.sync_api import Error, Page, Request

from e2e.browser import PHONE
from e2e.demo import EachPage
from e2e.kept_pages import PLACE, as_text, keep, plain, unlike

QUIET, QUIET_MS = 4, 60  # so often in a row nothing is under way
AT_LEISURE = "() => new Promise((rest) => requestIdleCallback(rest, { timeout: 2000 }))"  # on a slow machine a while after
MOST = 30  # presses on one page, of each name once: a table has one in each row
# Nothing by chance: what is drawn by lot is drawn alike each time. Nothing is printed, nothing asked by the browser.
BY_RULE = """
  let seed = 20;
  Math.random = () => { seed = (seed * 1103515245 + 12345) % 2147483648; return seed / 2147483648; };
  window.print = () => {}; window.confirm = () => false;
"""
ENDS = ("Sign out", "Leave this bench", "Delete for good", "Full screen")
# All that can be pressed, in reading order, as kind and name; in a dialog only what is in it.
TO_PRESS = """() => {
  const dialogs = document.querySelectorAll("[role=dialog]");
  const within = dialogs.length ? [dialogs[dialogs.length - 1]] : [...document.querySelectorAll("main, aside")];
  const all = within.flatMap((part) => [...part.querySelectorAll("button, input[type=radio], input[type=checkbox]")]);
  const shown = (one) => (one.type === "radio" || one.type === "checkbox" ? one.closest("label") ?? one : one);
  const lists = new Map(); // of the choices in one list the first few
  const few = (one) => {
    const list = one.type === "radio" || one.type === "checkbox" ? one.closest("fieldset, ul, tr, [role$=group]") : null;
    if (list) lists.set(list, (lists.get(list) ?? 0) + 1);
    return !list || lists.get(list) <= 3;
  };
  return all.filter((one) => few(one) && shown(one).checkVisibility() && !one.disabled && one.ariaDisabled !== "true"
      && one.ariaHasPopup !== "listbox" && one.type !== "reset" && !(one.type === "radio" && one.checked))
    .map((one) => {
      const name = (one.ariaLabel || shown(one).textContent || one.value || "").trim().replace(/\\s+/g, " ");
      one.dataset.toPress = `${one.type}: ${name}`;
      return one.dataset.toPress;
    });
}"""
PRESS = """(what) => {
  const one = [...document.querySelectorAll("[data-to-press]")].find((one) => one.dataset.toPress === what);
  one?.focus(); one?.click();
}"""
MOMENT = re.compile(r"\d{4}-\d{2}-\d{2}T[\d:.]+(Z|\+\d\d:\d\d)?")
NUMBER = re.compile(r"/\d+(?=/|$)")
LOOKED_AHEAD = "/preview"
SHAPE = re.compile(r"  (line|path|rect|circle|poly\w+|drawn)( dashed)? (at|\d)|drawn \d")
TO_FILL = """() => [...document.querySelectorAll("main input, main textarea, [role=dialog] input")]
  .filter((one) => one.checkVisibility() && !one.disabled && !one.readOnly && one.value === ""
    && ["text", "search", "textarea", "number"].includes(one.type) && !one.dataset.filled)
  .map((one, n) => { one.dataset.filled = "yes"; one.dataset.toFill = n; return one.ariaLabel || one.inputMode; })"""


class Pressed(EachPage):
    """Each page is pressed through, and what came with each press is what is kept of it."""

    typed = ""

    def on_page(self, name: str) -> None:
        page = self.visitor()
        path = self.path(name)
        page.goto(path)
        page.locator("#first").wait_for(state="detached")
        page.get_by_role("heading").first.wait_for()
        lines = [line for what, came in self.presses(page, path) for line in (f"# {what}", *came)]
        if os.environ.get("PIPETTE_KEEP"):
            keep(f"presses-{name}", lines)
        self.assertGreater(len(lines), 3)
        self.assertEqual(unlike(f"presses-{name}", lines), [])

    def visitor(self) -> Page:
        """Whose page it is."""
        return self.desk()

    def device(self, *args: Any, **kwargs: Any) -> Page:
        """A device on which nothing happens by chance."""
        page = super().device(*args, **kwargs)
        page.add_init_script(BY_RULE)
        page.clock.set_fixed_time(timezone.now())  # what counts seconds stands still; timers run
        self.under_way: set[Request] = set()
        self.sent: list[str] = []
        page.on("request", lambda one: one.resource_type in ("fetch", "xhr") and self.asking(one))
        for over in ("requestfinished", "requestfailed"):
            page.on(over, lambda one: self.under_way.discard(one))
        return page

    def asking(self, one: Request) -> None:
        """Something is asked of the server: wait for it, and keep what is written."""
        self.under_way.add(one)
        if one.method == "GET":
            return
        path = NUMBER.sub("/N", urlsplit(one.url).path)  # rows have other numbers where other tests ran before
        if path.endswith(LOOKED_AHEAD):  # sent a while after the last key: how many there were is chance
            self.sent = [sent for sent in self.sent if LOOKED_AHEAD not in sent]
        body = one.post_data or "" if "json" in one.headers.get("content-type", "") else ""
        self.sent.append(plain(MOMENT.sub("MOMENT", f"> {one.method} {path} {body}")))

    def presses(self, page: Page, path: str) -> Iterator[tuple[str, list[str]]]:
        """Every press on a page, and the lines that it brought."""
        before = self.says(page)
        pressed: set[str] = set()
        for _ in range(MOST):
            if self.typed and page.evaluate(TO_FILL):
                for field in page.locator("[data-to-fill]").all():
                    field.fill(self.typed)
                page.evaluate("document.querySelectorAll('[data-to-fill]').forEach((one) => delete one.dataset.toFill)")
                now = self.says(page)
                yield f"typed {self.typed}", [*self.took(), *came(before, now)]
                before = now
            what = self.next_one(page, pressed)
            if what is None:
                return
            page.evaluate(PRESS, what)
            now = self.says(page)
            went = urlsplit(page.url).path
            if went != urlsplit(self.url + path).path:
                yield f"{plain(what)}: went to {plain(went)}", self.took()
                page.goto(path)
                before = self.says(page)
                continue
            yield plain(what), [*self.took(), *came(before, now)]
            before = now

    def took(self) -> list[str]:
        """What was asked of the server since last time, in an order that does not depend on chance."""
        sent, self.sent = sorted(self.sent), []
        return sent

    def next_one(self, page: Page, pressed: set[str]) -> str | None:
        """The first on the page that has not been pressed yet."""
        left = (what for what in page.evaluate(TO_PRESS) if what not in pressed and not what.endswith(ENDS))
        if (what := next(left, None)) is not None:
            pressed.add(what)
        return what

    def says(self, page: Page) -> list[str]:
        """A page as a reader has it once nothing is under way any more, without where its drawings stand."""
        quiet = 0
        while quiet < QUIET:
            page.wait_for_timeout(QUIET_MS)
            try:
                page.evaluate(AT_LEISURE)
            except Error:  # it is being loaded anew
                page.wait_for_load_state()
                quiet = 0
                continue
            quiet = 0 if self.under_way else quiet + 1
        return [PLACE.sub("", line) for line in as_text(page) if not SHAPE.match(line)]


class BeforeALesson(Pressed):
    pages = {
        "labs": "/labs",
        "new": "/labs/new",
        "materials": "/materials",
        "account": "/account",
        "school": "/school",
        "plan": "{draft}/plan",
        "setup": "{draft}/setup",
        "safety": "{draft}/safety",
        "board": "{running}/board",
    }


class AfterALesson(Pressed):
    pages = {
        "claims": "{closed}/claims",
        "notebook": "{closed}/notebook",
        "notebook-group": "{closed}/notebook/{group}",
        "compare": "{closed}/compare",
        "explain": "{closed}/explain",
        "power": "{closed}/power",
        "ask": "{closed}/ask",
        "practise": "{closed}/practise",
        "report": "{closed}/report",
    }


class OtherLabs(Pressed):
    """A lab that is going on, one that changed the distance, one of two solutions."""

    pages = {
        "changed": "{changed}/compare",
        "changed-setup": "{changed}/setup",
        "changed-explain": "{changed}/explain",
        "cups": "{cups}/compare",
        "cups-power": "{cups}/power",
        "open-compare": "{running}/compare",
        "open-plan": "{running}/plan",
        "open-setup": "{running}/setup",
        "open-report": "{running}/report",
    }


class Slides(Pressed):
    """What the wall shows."""

    pages = {
        "board-projector": "{running}/board/projector",
        "compare-projector": "{closed}/compare/projector",
        "explain-projector": "{closed}/explain/projector",
    }


class TeachersTyped(Pressed):
    pages = {
        "new-typed": "/labs/new",
        "materials-typed": "/materials",
        "account-typed": "/account",
        "setup-typed": "{draft}/setup",
        "compare-typed": "{closed}/compare",
        "power-typed": "{closed}/power?{juices}",
        "ask-typed": "{closed}/ask",
        "report-typed": "{closed}/report",
    }
    typed = "0.5"


class OnAPhone(Pressed):
    """Whoever it is."""

    def visitor(self) -> Page:
        return self.device(PHONE, touch=True)


class Strangers(OnAPhone):
    pages = {"join": "/join", "sign-in": "/sign-in"}


class StrangersTyped(OnAPhone):
    pages = {"join-typed": "/join", "sign-in-typed": "/sign-in"}
    typed = "0.5"


class Practice(OnAPhone):
    pages = {f"practise-{drill}": f"/practise?drill={drill}" for drill in ("faults", "sums", "meters", "bench")}


class PracticeTyped(OnAPhone):
    pages = {"practise-sums-typed": "/practise?drill=sums"}
    typed = "0.5"


class AtABench(Pressed):
    """A group in a lesson."""

    def visitor(self) -> Page:
        return self.bench(self.running)


class Groups(AtABench):
    pages = {
        "bench": "/bench/1",
        "bench-last": "/bench/{last}",
        "bench-packs": "/bench/packs",
        "bench-open-notebook": "/bench/notebook",
    }


class GroupsTyped(AtABench):
    pages = {
        "bench-typed": "/bench/2",
        "bench-last-typed": "/bench/{last}",
        "bench-packs-typed": "/bench/packs",
        "bench-open-notebook-typed": "/bench/notebook",
    }
    typed = "0.94"


class Afterwards(Pressed):
    """A group when its lab is over."""

    def visitor(self) -> Page:
        return self.bench(self.closed)


class GroupsAfterwards(Afterwards):
    pages = {
        "bench-results": "/bench/results",
        "bench-explain": "/bench/explain",
        "bench-claims": "/bench/claims",
        "bench-pack": "/bench/packs/{pack}",
        "bench-notebook": "/bench/notebook",
    }


class GroupsAfterwardsTyped(Afterwards):
    pages = {
        "bench-claims-typed": "/bench/claims",
        "bench-pack-typed": "/bench/packs/{pack}",
        "bench-explain-typed": "/bench/explain",
    }
    typed = "zinc holds its electrons less than copper, 0.94 V"


def came(before: list[str], now: list[str]) -> list[str]:
    """The lines that are new, and those that went."""
    return [
        line for line in difflib.unified_diff(before, now, n=0, lineterm="") if not line.startswith(("---", "+++", "@@"))
    ]
