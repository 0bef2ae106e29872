"""Every page of the demo says and draws what it did when it was last read.

After a change that is meant: `PIPETTE_KEEP=1 ./pipette test e2e.test_kept_pages`, and read the difference.
"""

import os

from e2e.browser import LAPTOP, PHONE
from e2e.geometry import unreadable
from e2e.kept_pages import as_text, keep, unfolded, unlike
from e2e.live import BrowserTestCase
from server.labs.models import Lab, PlannedCell
from server.people.models import Group, Teacher
from server.power.models import Pack
from server.practise.services import TEACHER, make_demo

JUICE = "zinc|rhubarb-juice|copper"


class KeptPages(BrowserTestCase):
    def setUp(self):
        super().setUp()
        make_demo()
        self.teacher = Teacher.objects.get(username=TEACHER)
        labs = {lab.title: lab for lab in self.teacher.labs.all()}
        self.closed = labs["Tidewater cell survey"]
        self.open = next(lab for lab in labs.values() if lab.state == Lab.State.OPEN)
        self.draft = next(lab for lab in labs.values() if lab.state == Lab.State.DRAFT)
        self.changed = labs["Does it matter how far apart?"]
        self.earlier = [lab for title, lab in labs.items() if title.startswith("Shore cells")]

    def look(self, page, pages):
        for name, path in pages.items():
            page.goto(path)
            page.get_by_role("heading").first.wait_for()
            as_text(page)
            with self.subTest(f"{name}, to be read"):
                self.assertEqual(unreadable(page), [])
            lines = unfolded(page)
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
                "changed": f"/labs/{self.changed.id}/compare",
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
        running = Group.objects.filter(lab=self.open).order_by("position").first()
        page = self.device(PHONE, touch=True)
        self.joined(page, running)
        self.look(page, {"bench-open": "/bench/1", "bench-open-last": f"/bench/{running.cells.count()}"})
