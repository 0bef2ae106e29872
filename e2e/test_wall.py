"""Views for the wall, read from the back row: whole on any projector, large enough, nothing over anything else."""

from e2e.demo import DemoAtRest, EachPage
from e2e.geometry import unreadable

LARGE, SMALL = {"width": 1920, "height": 1080}, {"width": 1280, "height": 720}
LETTERS_OF = 26 / 1080  # the least height of letters, of a screen's height (common practice, no source)
SETTLE_MS, MOST_SLIDES = 400, 20
PAST = """() => {
  const page = document.scrollingElement;
  return [page.scrollHeight - innerHeight, page.scrollWidth - innerWidth].map((past) => Math.max(0, Math.round(past)));
}"""


class Wall(EachPage, DemoAtRest):
    pages = {
        "compare": "{closed}/compare/projector",
        "explain": "{closed}/explain/projector",
        "changed": "{changed}/compare/projector",
        "basics": "{closed}/basics/projector",
        "cups": "{cups}/compare/projector",
        "cups-explain": "{cups}/explain/projector",
        "open-compare": "{running}/compare/projector",
        "board": "{running}/board/projector",
        "chain": "{closed}/power/projector",
        "ask": "{closed}/ask/projector",
    }

    def on_page(self, name: str) -> None:
        page = self.desk()
        for size in (LARGE, SMALL):
            page.set_viewport_size(size)
            page.goto(self.path(name))
            page.get_by_role("heading").first.wait_for()
            page.wait_for_load_state("networkidle")
            more = page.get_by_role("button", name="The next slide")
            for nth in range(MOST_SLIDES):
                page.wait_for_timeout(SETTLE_MS)
                with self.subTest(f"slide {nth + 1}, {size['height']} lines"):
                    past = page.evaluate(PAST)
                    self.assertEqual((past, unreadable(page, LETTERS_OF * size["height"])), ([0, 0], []))
                if more.count() == 0 or not more.is_enabled():
                    break
                more.click()
