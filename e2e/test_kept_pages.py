"""Every page of the demo says and draws what it did when it was last read.

After a change that is meant: `PIPETTE_KEEP=1 ./pipette test e2e.test_kept_pages`, and read the difference.
"""

import os

from e2e.browser import LAPTOP, PHONE, ZOOMED
from e2e.demo import DemoTestCase
from e2e.geometry import unreadable
from e2e.kept_pages import LOOK_MS, keep, unfolded, unlike
from server.labs.models import PlannedCell
from server.people.models import Group
from server.power.models import Pack
from server.practise.services import TEACHER

JUICE = "zinc|rhubarb-juice|copper"


class KeptPages(DemoTestCase):
    def setUp(self):
        super().setUp()
        self.changed = self.labs["Does it matter how far apart?"]
        self.cups = self.labs["Two cups and a bridge"]
        self.earlier = [lab for title, lab in self.labs.items() if title.startswith("Shore cells")]

    def look(self, page, pages):
        for name, path in pages.items():
            page.goto(path)
            page.get_by_role("heading").first.wait_for()
            lines = unfolded(page)
            with self.subTest(f"{name}, to be read"):
                self.assertEqual(unreadable(page), [])
            if os.environ.get("PIPETTE_KEEP"):
                keep(name, lines)
            with self.subTest(name):
                self.assertEqual(unlike(name, lines), [])

    def test_a_teachers(self):
        page = self.device(LAPTOP)
        self.signed_in(page, TEACHER)
        closed, draft = f"/labs/{self.closed.id}", f"/labs/{self.draft.id}"
        group = Group.objects.filter(lab=self.closed).order_by("position").first()
        cell = PlannedCell.objects.filter(group=group).order_by("position").first().cell
        self.look(
            page,
            {
                "labs": "/labs",
                "new": "/labs/new",
                "import": "/labs/import",
                "materials": "/materials",
                "account": "/account",
                "plan": f"{draft}/plan",
                "setup": f"{draft}/setup",
                "kit": f"{draft}/kit",
                "safety": f"{draft}/safety",
                "cards": f"{draft}/cards",
                "predictions": f"{closed}/predict",
                "board": f"{closed}/board",
                "board-projector": f"{closed}/board/projector",
                "compare-projector": f"{closed}/compare/projector",
                "explain-projector": f"{closed}/explain/projector",
                "chain-projector": f"{closed}/power/projector",
                "compare": f"{closed}/compare",
                "compare-groups": f"{closed}/compare?tab=groups",
                "compare-liquids": f"{closed}/compare?tab=liquids",
                "explain": f"{closed}/explain?cell={cell.negative}|{cell.electrolyte}|{cell.positive}",
                "claims": f"{closed}/claims",
                "power": f"{closed}/power?cell={JUICE}&cell={JUICE}&cell={JUICE}",
                "ask": f"{closed}/ask",
                "ask-projector": f"{closed}/ask/projector",
                "homework": f"{closed}/practise",
                "report": f"{closed}/report",
                "notebook": f"{closed}/notebook",
                "notebook-group": f"{closed}/notebook/{group.id}",
                "years": "/years?" + "&".join(f"lab={lab.id}" for lab in (*self.earlier, self.closed)),
                "school": "/school",
            },
        )

    def test_a_teachers_other_labs(self):
        """A lab that is going on, one that changed the distance, one of two solutions."""
        page = self.device(LAPTOP)
        self.signed_in(page, TEACHER)
        changed, cups, open_ = (f"/labs/{lab.id}" for lab in (self.changed, self.cups, self.running))
        self.look(
            page,
            {
                "changed": f"{changed}/compare",
                "changed-projector": f"{changed}/compare/projector",
                "changed-plan": f"{changed}/plan",
                "changed-setup": f"{changed}/setup",
                "changed-kit": f"{changed}/kit",
                "changed-board": f"{changed}/board",
                "changed-explain": f"{changed}/explain",
                "changed-notebook": f"{changed}/notebook",
                "cups": f"{cups}/compare",
                "cups-kit": f"{cups}/kit",
                "cups-explain": f"{cups}/explain",
                "cups-power": f"{cups}/power",
                "cups-cards": f"{cups}/cards",
                "open-board": f"{open_}/board",
                "open-board-projector": f"{open_}/board/projector",
                "open-compare": f"{open_}/compare",
                "open-predictions": f"{open_}/predict",
                "open-plan": f"{open_}/plan",
                "open-power": f"{open_}/power",
                "open-report": f"{open_}/report",
            },
        )

    def test_in_german_and_at_any_width_all_can_be_read(self):
        page = self.device(LAPTOP, locale="de-DE")
        self.signed_in(page, TEACHER)
        paths = ["/labs", "/labs/new", "/labs/import", "/materials", "/account", "/school", "/practise"]
        for lab in (self.closed, self.changed, self.cups, self.running, self.draft):
            about = f"/labs/{lab.id}"
            paths += [f"{about}/{name}" for name in ("plan", "board", "compare", "compare?tab=liquids", "explain", "power")]
            paths += [f"{about}/{name}" for name in ("kit", "safety", "report", "notebook", "ask", "predict")]
        for path in paths:
            page.set_viewport_size(LAPTOP)
            page.goto(path)
            page.get_by_role("heading").first.wait_for()
            page.wait_for_load_state("networkidle")
            for name, size in (("laptop", LAPTOP), ("200 %", ZOOMED), ("phone", PHONE)):
                page.set_viewport_size(size)
                page.wait_for_timeout(LOOK_MS)
                with self.subTest(f"{path}, {name}"):
                    self.assertEqual(unreadable(page), [])

    def test_a_strangers(self):
        page = self.device(PHONE, touch=True)
        self.look(page, {"join": "/join", "sign-in": "/sign-in", "answer": "/answer", "nowhere": "/nowhere"})

    def test_a_groups(self):
        group = Group.objects.filter(lab=self.closed).order_by("position").first()
        page = self.device(PHONE, touch=True)
        self.joined(page, group)
        pack = Pack.objects.filter(group=group).order_by("received_at").first()
        pages = {"bench": "/bench/1", "bench-results": "/bench/results", "bench-explain": "/bench/explain"}
        pages |= {"bench-claims": "/bench/claims", "bench-notebook": "/bench/notebook", "bench-packs": "/bench/packs"}
        self.look(page, pages | ({"bench-pack": f"/bench/packs/{pack.id}"} if pack else {}))
        running = Group.objects.filter(lab=self.running).order_by("position").first()
        page = self.device(PHONE, touch=True)
        self.joined(page, running)
        self.look(page, {"bench-open": "/bench/1", "bench-open-last": f"/bench/{running.cells.count()}"})
