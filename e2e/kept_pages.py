"""What a page says and draws, as text: its accessibility tree, and in its charts what stands where.

Kept in `approved/` and read when it changes, like the core's texts. What differs from day to day (dates, times, codes) is
left out; what is drawn may move by a pixel or two.
"""

from __future__ import annotations

import re
from pathlib import Path

from playwright.sync_api import Page, expect

from galvanic.tests.test_approved import same as said_same

KEPT = Path(__file__).parent / "approved"
NEAR_PX = 2.0
LOOKS, LOOK_MS, AT_REST = 40, 150, 3
UNFOLDED = """() => {
  const all = document.querySelectorAll("main button[aria-expanded=false]:not([aria-haspopup])");
  const folded = [...all].filter((button) => !button.dataset.pressed); // once: where one opens another may close
  for (const button of folded) {
    button.dataset.pressed = "yes";
    button.click();
  }
  for (const one of document.querySelectorAll("main details")) one.open = true;
  return folded.length;
}"""
DRAWN = r"""() => {
  const all = (of, what) => [...of.querySelectorAll(what)];
  const chart = (svg) => svg.checkVisibility() && svg.getBoundingClientRect().width >= 60 && svg.querySelector("text, line");
  const shapes = "line, path, rect, circle, polyline, polygon";
  const shown = all(document, "svg").filter(chart); // no codes to scan
  const marks = all(document, "main svg, aside svg, header svg").filter((svg) => svg.checkVisibility() && !chart(svg))
    .map((svg) => all(svg, shapes).map((shape) => shape.tagName)).filter((tags) => tags.length > 0 && tags.length <= 12)
    .map((tags) => `mark ${tags.join(" ")}`);
  return shown.map((svg) => {
    const frame = svg.getBoundingClientRect();
    const place = (of) => {
      const b = of.getBoundingClientRect();
      const sides = [b.left - frame.left, b.top - frame.top, b.right - frame.left, b.bottom - frame.top];
      return sides.map(Math.round).join(" ");
    };
    const drawn = (text) => [...text.childNodes].map((part) => (part.nodeName === "title" ? "" : part.textContent)).join("");
    const words = all(svg, "text").map((text) => `  text ${drawn(text).trim()} at ${place(text)}`);
    const drawnThere = all(svg, shapes).map((shape) =>
      `  ${shape.tagName}${shape.getAttribute("stroke-dasharray") ? " dashed" : ""} at ${place(shape)}`);
    return [`drawn ${Math.round(frame.width)} by ${Math.round(frame.height)}`, ...words, ...drawnThere].join("\n");
  }).concat(marks).join("\n");
}"""
SOMETIMES = (
    (re.compile(r"link#[0-9a-fN]{20,}"), "link#TOKEN"),
    (re.compile(r"own-[0-9a-f]{12}(?![0-9a-f])"), "own-ID"),
    (re.compile(r"[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}"), "ID"),
    (re.compile(r"\b\d+-[0-9a-f]{12}\b"), "HEAD"),
    (re.compile(r"\b[A-Z]{3,}-\d{3}\b"), "CODE"),
    (re.compile(r"\b(Mon|Tue|Wed|Thu|Fri|Sat|Sun),? "), ""),
    (re.compile(r"\b\d{1,2} (Jan|Feb|Mar|Apr|May|Jun|Jul|Aug|Sept|Sep|Oct|Nov|Dec)[a-z]*( \d{4})?"), "DATE"),
    (re.compile(r"\b\d{4}-\d{2}-\d{2}\b"), "DATE"),
    (re.compile(r"\b\d{1,3}:\d{2}(:\d{2})?\b"), "TIME"),
    (re.compile(r"Pipette \d{4}\.\d+"), "Pipette VERSION"),
    (re.compile(r"127\.0\.0\.1:\d+"), "HERE"),
    (re.compile(r"(?<![\d.,])\d{4}(?![\d.,])"), "NNNN"),
    (re.compile(r"react-aria[\w:-]+"), "ID"),
)
PLACE = re.compile(r" at (-?\d+) (-?\d+) (-?\d+) (-?\d+)")


def as_text(page: Page, busy: int = 0) -> list[str]:
    """A page at rest as lines: what a screen reader meets, then what is drawn; `busy` parts of it stay so."""
    before: list[str] = []
    same_as_before = 0
    for _ in range(LOOKS):
        expect(page.locator("[aria-busy=true]")).to_have_count(busy)
        page.wait_for_load_state("networkidle")
        now = [*page.locator("body").aria_snapshot().splitlines(), *str(page.evaluate(DRAWN)).splitlines()]
        same_as_before = same_as_before + 1 if now == before else 0
        if same_as_before == AT_REST:
            break
        before = now
        page.wait_for_timeout(LOOK_MS)
    return [plain(line) for line in now]


def plain(line: str) -> str:
    """A line without what differs from day to day."""
    for pattern, instead in SOMETIMES:
        line = pattern.sub(instead, line)
    return line.rstrip()


def unfolded(page: Page, busy: int = 0) -> list[str]:
    """A page as text with everything open that is folded away: also what is in there, and what has come late."""
    lines = as_text(page, busy)
    while page.evaluate(UNFOLDED):
        lines = as_text(page, busy)
    return lines


def same(line: str, kept: str) -> bool:
    """Whether two lines say and draw the same: numbers as good as equal, places a pixel or two apart."""
    if not said_same(PLACE.sub("", line), PLACE.sub("", kept)):
        return False
    here, there = (PLACE.search(one) for one in (line, kept))
    if here is None or there is None:
        return here is there
    return all(abs(float(a) - float(b)) <= NEAR_PX for a, b in zip(here.groups(), there.groups(), strict=True))


def unlike(name: str, lines: list[str]) -> list[str]:
    """The first lines that differ from what is kept under a name."""
    file = KEPT / f"{name}.txt"
    kept = file.read_text(encoding="utf-8").splitlines() if file.exists() else []
    differ = [f"{n + 1}:\n- {b}\n+ {a}" for n, (a, b) in enumerate(zip(lines, kept, strict=False)) if not same(a, b)]
    if len(lines) != len(kept):
        differ.append(f"{len(lines)} lines, kept are {len(kept)}")
    return differ[:5]


def keep(name: str, lines: list[str]) -> None:
    """Keep a page as it is now."""
    KEPT.mkdir(exist_ok=True)
    (KEPT / f"{name}.txt").write_text("\n".join(lines) + "\n", encoding="utf-8")
