"""What comes out of a printer: how many pages, and nothing on them that is to be pressed."""

import re

from e2e.demo import DemoTestCase
from server.people.models import Group
from server.practise.services import TEACHER

A_PAGE = re.compile(rb"/Type\s*/Page[^s]")
# What is for hands: fields, choices, tabs that are not shown, buttons (names in charts and plans are buttons, too).
TO_PRESS = """() => [...document.querySelectorAll(
    "input, textarea, select, [role=radiogroup], [role=tab]:not([aria-selected=true]), main button, main a, aside button")]
  .filter((one) => one.checkVisibility() && !one.closest("table, svg, [role=group], ol, section, header, [data-on-paper]"))
  .map((one) => (one.ariaLabel || one.textContent || one.tagName).trim())"""


class Paper(DemoTestCase):
    def setUp(self):
        super().setUp()
        self.page = self.device()
        self.signed_in(self.page, TEACHER)

    def printed(self, path):
        """How many pages of A4 a page takes."""
        self.page.goto(path)
        self.page.get_by_role("heading").first.wait_for()
        self.page.wait_for_load_state("networkidle")
        return len(A_PAGE.findall(self.page.pdf(format="A4", prefer_css_page_size=True)))

    def test_cards_are_two_a_page_and_no_sheet_takes_more_than_it_needs(self):
        draft, closed = f"/labs/{self.draft.id}", f"/labs/{self.closed.id}"
        groups = Group.objects.filter(lab=self.draft).count()
        for path, most in (
            (f"{draft}/cards", groups // 2),
            (f"{draft}/kit", 1),
            (f"{draft}/safety", 1),
            (f"{draft}/print", 3 + groups // 2),
            (f"{closed}/compare/handout", 2),
            (f"{closed}/notebook", 12),
        ):
            with self.subTest(path.rsplit("/", 1)[1]):
                self.assertLessEqual(self.printed(path), most)

    def test_nothing_that_is_pressed_is_printed(self):
        draft, closed = f"/labs/{self.draft.id}", f"/labs/{self.closed.id}"
        self.page.goto(f"{closed}/compare")
        self.page.get_by_role("tab").first.wait_for()
        self.assertGreater(len(self.page.evaluate(TO_PRESS)), 3)  # on the screen there are some
        self.page.emulate_media(media="print")
        for path in (
            *(f"{draft}/{part}" for part in ("plan", "kit", "safety", "cards", "print")),
            *(f"{closed}/{part}" for part in ("compare", "compare/handout", "explain", "power", "notebook", "board")),
        ):
            self.page.goto(path)
            self.page.get_by_role("heading").first.wait_for()
            self.page.wait_for_load_state("networkidle")
            with self.subTest(path.rsplit("/", 1)[1]):
                self.assertEqual(self.page.evaluate(TO_PRESS), [])

    def test_pins_are_on_the_cards_alone(self):
        pin = Group.objects.filter(lab=self.draft).first().pin
        self.page.emulate_media(media="print")
        for part, there in (("cards", True), ("plan", False), ("kit", False)):
            self.page.goto(f"/labs/{self.draft.id}/{part}")
            self.page.get_by_role("heading").first.wait_for()
            self.page.wait_for_load_state("networkidle")
            shown = self.page.get_by_text(pin).filter(visible=True).count() > 0
            self.assertEqual(shown, there, part)
