"""Every page of the demo says and draws what it did when it was last read, and can be read in German at any width.

After a change that is meant: `PIPETTE_KEEP=1 ./pipette test e2e.test_kept_pages`, and read the difference.
"""

import os
import re
from functools import partialmethod, reduce

from django.apps import apps
from django.conf import settings
from playwright.sync_api import Page

from e2e.browser import LAPTOP, PHONE, ZOOMED
from e2e.demo import DemoAtRest, EachPage
from e2e.geometry import unreadable
from e2e.kept_pages import LOOK_MS, keep, unfolded, unlike
from server.labs.models import Lab
from server.materials.models import OwnMaterial
from server.people.models import Group
from server.practise.services import TEACHER
from server.tests.support import as_group

# All that is read or heard on a page.
SAID = """() => {
  const texts = [], walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  while (walk.nextNode())
    if (!walk.currentNode.parentElement.closest("style, script, noscript")) texts.push(walk.currentNode.data);
  for (const one of document.querySelectorAll("[aria-label], [placeholder]")) texts.push(one.ariaLabel ?? one.placeholder);
  return texts;
}"""
TYPED = {"text", "leads_text", "dry_text", "before_text", "after_text", "name", "reasoning", "against", "because", "reason"}
POINT = re.compile(r"(?<![\d.])\d+\.\d+(?![\d.])")


class Kept(EachPage, DemoAtRest):
    """Each page is what is kept of it."""

    def on_page(self, name: str) -> None:
        page = self.visitor()
        page.goto(self.path(name))
        page.locator("#first").wait_for(state="detached")
        page.get_by_role("heading").first.wait_for()
        lines = unfolded(page)
        with self.subTest("to be read"):
            self.assertEqual(unreadable(page), [])
        if os.environ.get("PIPETTE_KEEP"):
            keep(name, lines)
        self.assertEqual(unlike(name, lines), [])

    def visitor(self) -> Page:
        """Whose page it is."""
        return self.desk()


class Teachers(Kept):
    pages = {
        "labs": "/labs",
        "new": "/labs/new",
        "import": "/labs/import",
        "materials": "/materials",
        "account": "/account",
        "school": "/school",
        "years": "/years?{years}",
        "plan": "{draft}/plan",
        "setup": "{draft}/setup",
        "kit": "{draft}/kit",
        "safety": "{draft}/safety",
        "cards": "{draft}/cards",
        "predictions": "{closed}/predict",
        "board": "{closed}/board",
        "board-projector": "{closed}/board/projector",
        "compare-projector": "{closed}/compare/projector",
        "explain-projector": "{closed}/explain/projector",
        "basics-projector": "{closed}/basics/projector",
        "chain-projector": "{closed}/power/projector",
        "compare": "{closed}/compare",
        "compare-groups": "{closed}/compare?tab=groups",
        "compare-liquids": "{closed}/compare?tab=liquids",
        "explain": "{closed}/explain?cell={cell}",
        "claims": "{closed}/claims",
        "power": "{closed}/power?{juices}",
        "ask": "{closed}/ask",
        "ask-projector": "{closed}/ask/projector",
        "homework": "{closed}/practise",
        "report": "{closed}/report",
        "notebook": "{closed}/notebook",
        "notebook-group": "{closed}/notebook/{group}",
    }


class OtherLabs(Kept):
    """A lab that is going on, one that changed the distance, one of two solutions."""

    pages = {
        "changed": "{changed}/compare",
        "changed-projector": "{changed}/compare/projector",
        "changed-plan": "{changed}/plan",
        "changed-setup": "{changed}/setup",
        "changed-kit": "{changed}/kit",
        "changed-board": "{changed}/board",
        "changed-explain": "{changed}/explain",
        "changed-notebook": "{changed}/notebook",
        "deciding-explain": "{deciding}/explain",
        "deciding-projector": "{deciding}/explain/projector",
        "cups": "{cups}/compare",
        "cups-kit": "{cups}/kit",
        "cups-explain": "{cups}/explain",
        "cups-power": "{cups}/power",
        "cups-cards": "{cups}/cards",
        "open-board": "{running}/board",
        "open-board-projector": "{running}/board/projector",
        "open-compare": "{running}/compare",
        "open-predictions": "{running}/predict",
        "open-plan": "{running}/plan",
        "open-power": "{running}/power",
        "open-report": "{running}/report",
    }


class TeachersOnAPhone(Kept):
    """A teacher who goes round the room."""

    pages = {
        "phone-board": "{running}/board",
        "phone-plan": "{draft}/plan",
        "phone-compare": "{closed}/compare",
        "phone-explain": "{closed}/explain",
        "phone-labs": "/labs",
    }

    def visitor(self) -> Page:
        page = self.desk()
        page.set_viewport_size(PHONE)
        return page


class Strangers(Kept):
    pages = {"join": "/join", "sign-in": "/sign-in", "answer": "/answer", "nowhere": "/nowhere"}

    def visitor(self) -> Page:
        return self.device(PHONE, touch=True)


class Groups(Kept):
    pages = {
        "bench": "/bench/1",
        "bench-results": "/bench/results",
        "bench-basics": "/bench/basics",
        "bench-explain": "/bench/explain",
        "bench-claims": "/bench/claims",
        "bench-notebook": "/bench/notebook",
        "bench-packs": "/bench/packs",
        "bench-pack": "/bench/packs/{pack}",
    }

    def visitor(self) -> Page:
        return self.bench(self.closed)


class GroupsAtWork(Kept):
    pages = {"bench-open": "/bench/1", "bench-open-last": "/bench/{last}"}

    def visitor(self) -> Page:
        return self.bench(self.running)


class InGerman(DemoAtRest):
    """All can be read at any width, and numbers have commas."""

    labs_read = ("closed", "changed", "cups", "running", "draft")

    def make(self) -> None:
        super().make()
        Lab.objects.update(language="de")  # rubric, ready questions and cards go by it

    def can_be_read(self, paths: list[str]) -> None:
        page = self.device(LAPTOP, locale="de-DE")
        self.signed_in(page, TEACHER)
        for path in paths:
            page.set_viewport_size(LAPTOP)
            page.goto(path)
            page.locator("#first").wait_for(state="detached")
            page.get_by_role("heading").first.wait_for()
            page.wait_for_load_state("networkidle")
            for name, size in (("laptop", LAPTOP), ("200 %", ZOOMED), ("phone", PHONE)):
                page.set_viewport_size(size)
                page.wait_for_timeout(LOOK_MS)
                with self.subTest(f"{path}, {name}"):
                    self.assertEqual(unreadable(page), [])
            with self.subTest(f"{path}, numbers"):
                self.assertEqual(decimal_points(page), [])

    def lab_can_be_read(self, lab: str) -> None:
        about = f"/labs/{getattr(self, lab).id}"
        names = (
            "plan",
            "board",
            "compare",
            "compare?tab=liquids",
            "explain",
            "power",
            "kit",
            "safety",
            "report",
            "notebook",
        )
        self.can_be_read([f"{about}/{name}" for name in (*names, "ask", "predict")])

    def test_pages_of_no_lab(self):
        self.can_be_read(["/labs", "/labs/new", "/labs/import", "/materials", "/account", "/school", "/practise"])

    def test_a_groups_numbers_have_commas(self):
        page = self.device(PHONE, touch=True, locale="de-DE")
        self.take_cookies(page, as_group(Group.objects.filter(lab=self.closed).order_by("position").first()))
        for path in ("1", "results", "basics", "explain", "claims", "notebook", "packs"):
            page.goto(f"/bench/{path}")
            page.locator("#first").wait_for(state="detached")
            page.get_by_role("heading").first.wait_for()
            page.wait_for_load_state("networkidle")
            with self.subTest(path):
                self.assertEqual(decimal_points(page), [])


for lab in InGerman.labs_read:
    setattr(InGerman, f"test_the_{lab}_lab", partialmethod(InGerman.lab_can_be_read, lab))


def decimal_points(page: Page) -> list[str]:
    """Texts of a page in which a number is written with a point that nobody typed so."""
    typed = sorted(as_typed(), key=len, reverse=True)
    texts = [reduce(lambda text, one: text.replace(one, ""), typed, text) for text in page.evaluate(SAID)]
    return [text for text in texts if POINT.search(text)]


def as_typed() -> set[str]:
    """All that people typed with a point in it: it stands as they typed it, whoever reads it."""
    fields = [(model, field.name) for model in apps.get_models() for field in model._meta.fields if field.name in TYPED]
    texts = {one for model, name in fields for one in model._default_manager.values_list(name, flat=True) if "." in one}
    texts |= {
        part for name in OwnMaterial.objects.values_list("name", flat=True) for part in re.findall(r"[\d.]+ mol/L", name)
    }
    texts.add((settings.BASE_DIR / "VERSION").read_text(encoding="ascii").strip())
    return texts | {one.replace("-", "\u2212") for one in texts}
