"""Rehearsing: a copy is played through the real API; the lab itself is left alone."""

import uuid
from io import StringIO

from django.core.management import CommandError, call_command
from django.test import LiveServerTestCase, TestCase

from galvanic.planning.schedule import Steps
from galvanic.simulated.rehearsal import simulated_class
from server.base.problems import Problem
from server.entries.models import MeterCheck, Reading
from server.labs.models import Lab, SignOff
from server.practise.rehearsal import find_lab, timed
from server.tests.support import KeptReadingsTestCase, lab_of, teacher


class Rehearsing(KeptReadingsTestCase, LiveServerTestCase):
    def test_a_class_plays_and_every_reading_is_there_once(self):
        lab = lab_of(teacher(), groups=["Tern", "Knot", "Plover"], opened=False, title="Tomorrow")
        said = StringIO()
        call_command("rehearse", "tomorrow", url=self.live_server_url, speed=10_000.0, stdout=said)
        copy = Lab.objects.get(title="Tomorrow, rehearsal")
        self.assertEqual((copy.state, copy.simulated), ("open", True))
        wanted = 3 * sum(group.cells.count() for group in copy.groups.all())
        self.assertEqual(Reading.objects.filter(cell__group__lab=copy).count(), wanted)
        self.assertIn(f"{wanted} readings kept, 0 refused", said.getvalue())
        self.assertEqual(MeterCheck.objects.count(), 3)
        lab.refresh_from_db()
        self.assertEqual(
            (lab.state, Reading.objects.filter(cell__group__lab=lab).count(), SignOff.objects.count()), ("draft", 0, 0)
        )

    def test_what_cannot_be_rehearsed_is_said(self):
        lab_of(teacher(), opened=False, title="Tomorrow")
        with self.assertRaisesRegex(CommandError, "“Tomorrow”"):
            call_command("rehearse", "Yesterday", url=self.live_server_url)
        with self.assertRaisesRegex(CommandError, "does not answer"):
            call_command("rehearse", "Tomorrow", url="http://127.0.0.1:9", stdout=StringIO())
        with self.assertRaisesRegex(CommandError, "speed"):
            call_command("rehearse", "Tomorrow", url=self.live_server_url, speed=0.0)


class Finding(TestCase):
    def test_a_lab_is_found_by_title_code_and_id(self):
        lab = lab_of(teacher(), title="Tomorrow")
        for wanted in ("tomorrow", lab.join_code.lower(), str(lab.id)):
            self.assertEqual(find_lab(wanted), lab)
        with self.assertRaises(Problem):
            find_lab(str(uuid.uuid4()))

    def test_entries_come_in_order_of_time_and_each_group_in_its_own(self):
        lab = lab_of(teacher())
        hands = [[p.cell for p in group.cells.all()] for group in lab.groups.all()]
        found = list(timed(list(simulated_class(hands, 2)), Steps(), len(hands)))
        minutes = [minute for minute, _ in found]
        self.assertEqual(minutes, sorted(minutes))
        own = [(one.place, one.nth) for _, one in found if one.group == 1]
        self.assertEqual(own, sorted(own))
        self.assertGreater(minutes[0], Steps().start * 0.9)
