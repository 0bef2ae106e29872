"""What tests keep in one go is what groups would have kept by recording it one by one."""

from django.forms import model_to_dict
from django.test import TestCase

from server.entries.models import Reading
from server.tests.support import cell_of, group_of, lab_of, record, record_all, teacher

OWN = {"id", "cell", "taken_at", "received_at"}


class Recording(TestCase):
    def setUp(self):
        self.lab = lab_of(teacher())

    def kept(self, lab):
        readings = Reading.objects.filter(cell__group__lab=lab).order_by("received_at")
        return [{key: value for key, value in model_to_dict(one).items() if key not in OWN} for one in readings]

    def test_many_at_once_are_kept_like_each_by_itself(self):
        twin = lab_of(self.lab.owner)
        kept = []
        for lab, keep in ((self.lab, lambda typed: [record(*one) for one in typed]), (twin, record_all)):
            tern, knot = (cell_of(group_of(lab, name)) for name in ("Tern", "Knot"))
            keep([(tern, "0.941"), (tern, "-0.94"), (knot, "940 mV"), (knot, "0,9")])
            kept.append(self.kept(lab))
        self.assertEqual(len(kept[0]), 4)
        self.assertEqual(kept[0], kept[1])

    def test_the_lab_and_the_groups_are_told_of_a_change(self):
        group = group_of(self.lab)
        before = (self.lab.changes, group.changes)
        record_all([(cell_of(group), "0.94")])
        self.lab.refresh_from_db()
        group.refresh_from_db()
        self.assertGreater(self.lab.changes, before[0])
        self.assertGreater(group.changes, before[1])
