"""Questions that are put together once give what their querysets give, for whoever asks."""

from django.test import TestCase

from server.base.composed import SOME_ID, SOME_UUID, Composed
from server.base.problems import Problem
from server.labs.lookups import lab_of_group, lab_on_board
from server.labs.models import Lab
from server.materials.models import OwnMaterial
from server.materials.own import known_rows
from server.people.models import Share
from server.tests.support import group_of, lab_of, member_of, teacher


class Asked(TestCase):
    def setUp(self):
        self.ada, self.bo, self.cy = (teacher(name) for name in ("ada", "bo", "cy"))
        self.labs = [lab_of(one, title=f"{one.username} {n}") for one in (self.ada, self.bo) for n in range(2)]
        Share.objects.create(lab=self.labs[0], teacher=self.bo, work=True)
        Share.objects.create(lab=self.labs[0], teacher=self.cy, work=False)

    def test_a_board_asks_for_what_the_teacher_may_see_and_how(self):
        for actor in (self.ada, self.bo, self.cy):
            for lab in self.labs:
                there = Lab.objects.visible_to(actor).with_way(actor).filter(id=lab.id).first()
                with self.subTest(actor=actor.username, lab=lab.title):
                    if there is None:
                        self.assertRaises(Problem, lab_on_board, actor, lab.id)
                        continue
                    found = lab_on_board(actor, lab.id)
                    self.assertEqual(found, there)
                    ours, theirs = ({k: v for k, v in vars(one).items() if k != "_state"} for one in (found, there))
                    self.assertEqual(ours, theirs)

    def test_a_deleted_lab_is_nobodys(self):
        lab = self.labs[0]
        member = member_of(group_of(lab))
        self.assertEqual((lab_of_group(member), lab_of_group(member).group_count), (lab, 2))
        Lab.objects.filter(id=lab.id).update(deleted_at=lab.created_at)
        self.assertRaises(Problem, lab_on_board, self.ada, lab.id)
        self.assertRaises(Problem, lab_of_group, member)

    def test_own_materials_are_their_teachers_and_their_groups(self):
        for one in (self.ada, self.bo):
            OwnMaterial.objects.create(key=f"own-{one.username}", owner=one, kind="electrode", name="x", data={})
        for actor in (self.ada, self.bo, self.cy):
            self.assertEqual(set(known_rows(actor)), set(OwnMaterial.objects.known_to(actor)))
        Lab.objects.filter(id=self.labs[3].id).update(electrodes=["own-ada", "copper"])
        member = member_of(group_of(self.labs[3]))
        self.assertEqual([row.key for row in known_rows(member)], ["own-ada"])

    def test_it_is_put_together_once_and_only_what_is_given_takes_its_place(self):
        made = []

        def of(teacher, lab):
            made.append(1)
            return Lab.objects.filter(owner_id=teacher, id=lab, state="open", minutes__gt=1).order_by()

        composed = Composed(of, {"teacher": SOME_ID, "lab": SOME_UUID})
        for lab in self.labs:
            self.assertEqual(composed.rows(teacher=lab.owner_id, lab=lab.id), [lab])
            self.assertEqual(composed.rows(teacher=self.cy.id, lab=lab.id), [])
        self.assertEqual(len(made), 1)
