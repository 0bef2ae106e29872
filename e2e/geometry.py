"""What can be read on a page, by geometry: words over each other, cut off, outside their frame, or too small.

No pictures are compared: places and sizes are asked of the browser, at any width, zoom and language.
"""

from __future__ import annotations

from playwright.sync_api import Page

SMALLEST_PX = 11.0  # what a reader at the other side of a bench table still makes out (common practice, no source)
MOST = 12  # faults said of one page; more are the same fault again

# Lines of a text are a little narrower than their boxes: ascenders and descenders of two lines may share a pixel.
LOOKED_AT = r"""([smallest, most]) => {
  const OVER_PX = 3, OUT_PX = 1.5, INSET = 0.22;
  const faults = new Set();
  const folded = (element) => element.closest("details:not([open])") && !element.closest("summary");
  const shownStyle = (element) =>
    !folded(element) && element.checkVisibility({ opacityProperty: true, visibilityProperty: true });
  const floating = (element) => {
    for (let up = element; up; up = up.parentElement)
      if (["fixed", "sticky"].includes(getComputedStyle(up).position)) return true;
    return false;
  };
  const clippedBy = (element) => {
    const clips = [];
    for (let up = element; up && up !== document.documentElement; up = up.parentElement) {
      const style = getComputedStyle(up);
      if (style.clipPath !== "none" || (style.position === "absolute" && up.offsetWidth <= 1)) return null; // for ears only
      if (style.overflowX !== "visible" || style.overflowY !== "visible") clips.push(up);
    }
    return clips;
  };
  const drawnAt = (element, svg) => { // how much larger than its own units: by zoom, and by its picture's frame
    const outer = svg?.farthestViewportElement ?? svg, box = outer?.viewBox?.baseVal;
    if (!box?.width) return element.currentCSSZoom ?? 1;
    const frame = outer.getBoundingClientRect();
    return Math.min(frame.width / box.width, frame.height / box.height);
  };
  const scrolls = (element) => /auto|scroll/.test(getComputedStyle(element).overflowX + getComputedStyle(element).overflowY);
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  const runs = [];
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    const words = node.textContent.replace(/\s+/g, " ").trim();
    const element = node.parentElement;
    if (!words || !element || /^(SCRIPT|STYLE|TITLE|DESC|OPTION|NOSCRIPT)$/i.test(element.tagName)) continue;
    if (!shownStyle(element)) continue;
    const clips = clippedBy(element);
    if (clips === null) continue;
    const said = words.length > 40 ? words.slice(0, 39) + "\u2026" : words;
    const svg = element.ownerSVGElement;
    const range = document.createRange();
    range.selectNodeContents(node);
    const drawn = svg ? [element.getBoundingClientRect()] : [...range.getClientRects()];
    const size = parseFloat(getComputedStyle(element).fontSize) * drawnAt(element, svg);
    const raised = element.closest("sub, sup, tspan[baseline-shift], tspan[dy]"); // an index is smaller than its line
    if (size < smallest - 0.05 && !raised) faults.add(`small: "${said}" at ${size.toFixed(1)} px`);
    for (const rect of drawn) {
      if (rect.width < 2 || rect.height < 2) continue;
      let { left, right, top, bottom } = rect;
      let hidden = false;
      for (const clip of clips) {
        const frame = clip.getBoundingClientRect();
        if (scrolls(clip)) {
          if (right <= frame.left || left >= frame.right || bottom <= frame.top || top >= frame.bottom) hidden = true;
          left = Math.max(left, frame.left); right = Math.min(right, frame.right);
          top = Math.max(top, frame.top); bottom = Math.min(bottom, frame.bottom);
          continue;
        }
        if (clip === svg || clip.ownerSVGElement) continue;
        if (frame.width < 2 || frame.height < 2) { hidden = true; continue; }
        const style = getComputedStyle(clip);
        const elided = style.textOverflow === "ellipsis" || style.webkitLineClamp !== "none"; // says that there is more
        const past = right > frame.right + OUT_PX || left < frame.left - OUT_PX || top >= frame.bottom - OUT_PX;
        if (past && !elided) faults.add(`cut off: "${said}"`);
        if (top >= frame.bottom - OUT_PX) hidden = true;
        left = Math.max(left, frame.left); right = Math.min(right, frame.right);
      }
      if (hidden || right - left < 2 || bottom - top < 2) continue;
      if (svg) {
        const frame = svg.getBoundingClientRect();
        const inset = rect.height * INSET;
        if (getComputedStyle(svg).overflowX !== "visible" &&
            (rect.right > frame.right + OUT_PX || rect.left < frame.left - OUT_PX ||
             rect.bottom - inset > frame.bottom + OUT_PX || rect.top + inset < frame.top - OUT_PX))
          faults.add(`outside its picture: "${said}"`);
      }
      const aside = right <= 0; // waits outside until it has the focus
      const past = right > document.documentElement.clientWidth + OUT_PX || left < -OUT_PX;
      if (past && !aside) faults.add(`outside the page: "${said}"`);
      const inset = (bottom - top) * INSET;
      const floats = floating(element);
      runs.push({ said, element, svg, left, right, top: top + inset, bottom: bottom - inset, floats });
    }
  }
  runs.sort((a, b) => a.top - b.top);
  for (let i = 0; i < runs.length; i++) {
    const a = runs[i];
    for (let k = i + 1; k < runs.length && runs[k].top < a.bottom; k++) {
      const b = runs[k];
      if (a.element === b.element || a.floats !== b.floats) continue;
      if (a.element.contains(b.element) || b.element.contains(a.element)) continue;
      const wide = Math.min(a.right, b.right) - Math.max(a.left, b.left);
      const high = Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top);
      if (wide > OVER_PX && high > OVER_PX) faults.add(`over each other: "${a.said}" and "${b.said}"`);
    }
  }
  return [...faults].slice(0, most);
}"""


def unreadable(page: Page, smallest_px: float = SMALLEST_PX) -> list[str]:
    """What of a page's words cannot be read as it stands: one line a fault, none where all can."""
    return list(page.evaluate(LOOKED_AT, [smallest_px, MOST]))
