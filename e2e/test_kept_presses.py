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
from urllib.parse import urlsplit

from playwright.sync_api import Page

from e2e.browser import LAPTOP, PHONE
from e2e.demo import DemoTestCase
from e2e.kept_pages import PLACE, as_text, keep, plain, unlike
from server.people.models import Group
from server.power.models import Pack
from server.practise.services import TEACHER

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
SHAPE = re.compile(r"  (line|path|rect|circle|poly\w+|drawn)( dashed)? (at|\d)|drawn \d")
TO_FILL = """() => [...document.querySelectorAll("main input, main textarea, [role=dialog] input")]
  .filter((one) => one.checkVisibility() && !one.disabled && !one.readOnly && one.value === ""
    && ["text", "search", "textarea", "number"].includes(one.type) && !one.dataset.filled)
  .map((one, n) => { one.dataset.filled = "yes"; one.dataset.toFill = n; return one.ariaLabel || one.inputMode; })"""


class KeptPresses(DemoTestCase):
    def press_through(self, page: Page, pages: dict[str, str], typed: str = "") -> None:
        """Press each page through, and keep it or compare it with what is kept."""
        for name, path in pages.items():
            page.goto(path)
            page.get_by_role("heading").first.wait_for()
            lines = [line for what, came in self.presses(page, path, typed) for line in (f"# {what}", *came)]
            if os.environ.get("PIPETTE_KEEP"):
                keep(f"presses-{name}", lines)
            with self.subTest(name):
                self.assertGreater(len(lines), 3)
                self.assertEqual(unlike(f"presses-{name}", lines), [])

    def presses(self, page: Page, path: str, typed: str) -> Iterator[tuple[str, list[str]]]:
        """Every press on a page, and the lines that it brought."""
        before = self.says(page)
        pressed: set[str] = set()
        for _ in range(MOST):
            if typed and page.evaluate(TO_FILL):
                for field in page.locator("[data-to-fill]").all():
                    field.fill(typed)
                page.evaluate("document.querySelectorAll('[data-to-fill]').forEach((one) => delete one.dataset.toFill)")
                now = self.says(page)
                yield f"typed {typed}", came(before, now)
                before = now
            what = self.next_one(page, pressed)
            if what is None:
                return
            page.evaluate(PRESS, what)
            now = self.says(page)
            went = urlsplit(page.url).path
            if went != urlsplit(self.url + path).path:
                yield f"{plain(what)}: went to {plain(went)}", []
                page.goto(path)
                before = self.says(page)
                continue
            yield plain(what), came(before, now)
            before = now

    def next_one(self, page: Page, pressed: set[str]) -> str | None:
        """The first on the page that has not been pressed yet."""
        left = (what for what in page.evaluate(TO_PRESS) if what not in pressed and not what.endswith(ENDS))
        if (what := next(left, None)) is not None:
            pressed.add(what)
        return what

    def says(self, page: Page) -> list[str]:
        """A page as a reader has it, without where its drawings stand."""
        return [PLACE.sub("", line) for line in as_text(page) if not SHAPE.match(line)]

    def test_practice(self):
        page = self.device(PHONE, touch=True)
        page.add_init_script(BY_RULE)
        tabs = ("faults", "sums", "meters", "bench")
        self.press_through(page, {f"practise-{tab}": f"/practise?drill={tab}" for tab in tabs})
        self.press_through(page, {"practise-sums-typed": "/practise?drill=sums"}, typed="0.5")

    def test_what_is_prepared(self):
        page = self.device(LAPTOP)
        page.add_init_script(BY_RULE)
        self.signed_in(page, TEACHER)
        draft = f"/labs/{self.draft.id}"
        self.press_through(page, {"safety": f"{draft}/safety"})

    def test_what_is_seen_of_a_class(self):
        page = self.device(LAPTOP)
        page.add_init_script(BY_RULE)
        self.signed_in(page, TEACHER)
        closed, running = f"/labs/{self.closed.id}", f"/labs/{self.running.id}"
        of_closed = {part: f"{closed}/{part}" for part in ("compare", "explain", "power", "ask", "practise", "report")}
        self.press_through(page, {"board": f"{running}/board", **of_closed})

    def test_a_groups(self):
        group = Group.objects.filter(lab=self.running).order_by("position").first()
        page = self.device(PHONE, touch=True)
        page.add_init_script(BY_RULE)
        self.joined(page, group)
        self.press_through(page, {"bench-packs": "/bench/packs"})
        self.press_through(page, {"bench-typed": "/bench/2"}, typed="0.94")

    def test_a_groups_pack(self):
        pack = Pack.objects.filter(group__lab=self.closed).order_by("received_at").first()
        page = self.device(PHONE, touch=True)
        page.add_init_script(BY_RULE)
        self.joined(page, pack.group)
        self.press_through(page, {"bench-pack": f"/bench/packs/{pack.id}", "bench-notebook": "/bench/notebook"})


def came(before: list[str], now: list[str]) -> list[str]:
    """The lines that are new, and those that went."""
    return [
        line for line in difflib.unified_diff(before, now, n=0, lineterm="") if not line.startswith(("---", "+++", "@@"))
    ]
