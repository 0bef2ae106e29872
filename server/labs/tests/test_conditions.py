"""Labs from before, whose settings were words, come over as data, measured cells and claims with them."""

from importlib import import_module

from django.apps import apps
from django.db import DatabaseError, connection, transaction
from django.test import TestCase
from django.utils import timezone

from server.findings.models import Claim
from server.labs.models import EarlierPlan, Lab, PlannedCell
from server.tests.support import group_of, lab_of, record, teacher

OLD, NEW = ["1 cm apart", "4 cm apart", "in the window"], ["spacing 1 cm", "spacing 4 cm", "in the window"]
LABS = import_module("server.labs.migrations.0016_conditions_as_data")
CLAIMS = import_module("server.findings.migrations.0004_conditions_as_data")


class Migrated(TestCase):
    def setUp(self):
        self.lab = lab_of(teacher(), electrodes=["zinc", "copper"], varies="own", conditions=["here", "there"])
        self.cell = group_of(self.lab).cells.first()
        about = {"negative": "zinc", "electrolyte": "rhubarb-juice", "positive": "copper", "condition": OLD[0]}
        Lab.objects.filter(id=self.lab.id).update(conditions=OLD, wished=[about | {"count": 2}])
        PlannedCell.objects.filter(id=self.cell.id).update(condition=OLD[0])
        record(PlannedCell.objects.get(id=self.cell.id), "0.95")
        group = group_of(self.lab)
        Claim.objects.create(group=group, cause="size", reasoning="x", received_at=timezone.now(), **about)
        EarlierPlan.objects.create(lab=self.lab, said="", wished=[], hands=[[about | {"pinned": False, "shared": True}]])

    def migrate(self):
        for step in (LABS, CLAIMS):
            step.convert(apps, connection.schema_editor())

    def test_words_become_data_and_what_is_no_variable_stays(self):
        for _ in range(2):
            self.migrate()
            lab = Lab.objects.get(id=self.lab.id)
            self.assertEqual((lab.conditions, lab.wished[0]["condition"]), (NEW, NEW[0]))
            self.assertEqual(PlannedCell.objects.get(id=self.cell.id).condition, NEW[0])
            self.assertEqual(
                (Claim.objects.get().condition, EarlierPlan.objects.get().hands[0][0]["condition"]), (NEW[0],) * 2
            )

    def test_measured_cells_and_claims_are_guarded_again_afterwards(self):
        self.migrate()
        for change in (
            lambda: PlannedCell.objects.filter(id=self.cell.id).update(condition="spacing 9 cm"),
            lambda: Claim.objects.update(condition="spacing 9 cm"),
        ):
            with self.assertRaises(DatabaseError), transaction.atomic():
                change()
