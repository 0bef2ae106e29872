"""Browser tests on the demo's labs."""

from __future__ import annotations

from functools import partialmethod
from typing import ClassVar

from django.db import connections
from playwright.sync_api import Page

from e2e.browser import LAPTOP, PHONE
from e2e.live import BrowserTestCase
from server.labs.models import Lab
from server.people.models import Group, Teacher
from server.power.models import Pack
from server.practise.services import TEACHER, make_demo

JUICE = "zinc|rhubarb-juice|copper"


class DemoTestCase(BrowserTestCase):
    """The demo as it is started, its labs by what they are."""

    def setUp(self) -> None:
        super().setUp()
        self.make()
        self.teacher = Teacher.objects.get(username=TEACHER)
        self.labs = {lab.title: lab for lab in self.teacher.labs.all()}
        self.closed = self.labs["Tidewater cell survey"]
        self.changed = self.labs["Does it matter how far apart?"]
        self.deciding = self.labs["Three cells that decide"]
        self.cups = self.labs["Two cups and a bridge"]
        self.running = next(lab for lab in self.labs.values() if lab.state == Lab.State.OPEN)
        self.draft = next(lab for lab in self.labs.values() if lab.state == Lab.State.DRAFT)

    def make(self) -> None:
        """Make the demo, for every test anew."""
        make_demo()


class DemoAtRest(DemoTestCase):
    """The demo made once for all tests of a class, since they only look."""

    made = False

    def make(self) -> None:
        """Make the demo for the first test."""
        if not type(self).made:
            make_demo()
            type(self).made = True

    def _fixture_teardown(self) -> None:
        """Nothing: what is made stays for the next test."""

    @classmethod
    def tearDownClass(cls) -> None:
        """Now it goes."""
        if cls.made:
            super(DemoAtRest, cls())._fixture_teardown()
            connections.close_all()
        super().tearDownClass()


class EachPage(DemoTestCase):
    """One test a page, so that each runs alone: `pages` by name, with a lab, a group or a cell of the demo in their path."""

    pages: ClassVar[dict[str, str]] = {}

    def __init_subclass__(cls) -> None:
        super().__init_subclass__()
        for name in cls.pages:
            setattr(cls, "test_" + name.replace("-", "_"), partialmethod(cls.on_page, name))

    def on_page(self, name: str) -> None:
        """What is tried on a page."""
        raise NotImplementedError

    def path(self, name: str) -> str:
        """The address of a page, with the demo's labs, groups and cells in it."""
        lab, running = self.closed, self.running
        group, opened = (Group.objects.filter(lab=of).order_by("position").first() for of in (lab, running))
        assert group is not None and opened is not None
        cell = group.cells.order_by("position").first().cell
        pack = Pack.objects.filter(group=group).order_by("received_at").first()
        earlier = [lab for title, lab in self.labs.items() if title.startswith("Shore cells")]
        labs = {
            "closed": lab, "running": running, "draft": self.draft, "changed": self.changed, "cups": self.cups,
            "deciding": self.deciding,
        }  # fmt: skip
        return self.pages[name].format(
            **{key: f"/labs/{of.id}" for key, of in labs.items()},
            group=group.id,
            cell=f"{cell.negative}|{cell.electrolyte}|{cell.positive}",
            pack=pack.id if pack else "",
            juices="&".join([f"cell={JUICE}"] * 3),
            years="&".join(f"lab={one.id}" for one in (*earlier, lab)),
            last=opened.cells.count(),
        )

    def desk(self) -> Page:
        """A laptop on which the demo's teacher is signed in."""
        page = self.device(LAPTOP)
        self.signed_in(page, TEACHER)
        return page

    def bench(self, lab: Lab) -> Page:
        """A phone on which a lab's first group has joined."""
        page = self.device(PHONE, touch=True)
        self.joined(page, Group.objects.filter(lab=lab).order_by("position").first())
        return page
