"""A lab shared with a colleague: who sees it, who may work in it, who not."""

import uuid
from typing import ClassVar

from django.test import TestCase
from django.utils import timezone

from server.entries.models import Reading
from server.findings.models import Claim
from server.labs.models import Lab, PlannedCell
from server.materials.models import OwnMaterial
from server.materials.own import materials_of
from server.people.models import Share, Teacher
from server.tests.support import as_group, as_teacher, cell_of, group_of, lab_of, record, send, teacher


class Sharing(TestCase):
    def setUp(self):
        self.ada, self.bob, self.cy = teacher("ada"), teacher("bob"), teacher("cy")
        self.lab = lab_of(self.ada)
        self.desk, self.colleague, self.stranger = (as_teacher(who) for who in (self.ada, self.bob, self.cy))
        self.tern = group_of(self.lab)
        self.reading = record(cell_of(self.tern))
        self.claim = Claim.objects.create(
            id=uuid.uuid4(),
            group=self.tern,
            negative="zinc",
            electrolyte="rhubarb-juice",
            positive="copper",
            cause="film",
            received_at=timezone.now(),
        )

    def share(self, way, who=None):
        return send(self.desk, f"/labs/{self.lab.id}/shares", {"teacher": (who or self.bob).id, "way": way}, verb="put")

    def reads(self):
        at, pair = f"/api/labs/{self.lab.id}", "negative=zinc&electrolyte=rhubarb-juice&positive=copper"
        return [
            *(f"{at}/{what}" for what in ("board", "predictions", "compare", "cards", "kit", "safety", "claims", "shares")),
            at, f"{at}/accounts", f"{at}/explain?{pair}", f"{at}/variables", f"{at}/tables.xlsx", f"{at}/tables/readings.csv", f"{at}/power",
        ]  # fmt: skip

    def writes(self):
        at = f"/labs/{self.lab.id}"
        return [
            ("put", f"{at}/title", {"title": "Another"}),
            ("post", f"{at}/pause", {"on": True}),
            ("post", f"{at}/show-values", {"on": True}),
            ("post", f"{at}/minutes", {"minutes": 5}),
            ("post", f"/cells/{self.reading.cell_id}/ask-again", None),
            ("post", f"/readings/{self.reading.id}/aside", {"reason": "clip off"}),
            ("post", f"/groups/{self.tern.id}/aside", {"reason": "clip off"}),
            ("post", f"/groups/{self.tern.id}/new-pin", None),
            ("post", f"/groups/{self.tern.id}/meter", {"address": ""}),
            ("post", f"/claims/{self.claim.id}/answer", {"text": "Good.", "marks": {}, "shown": False}),
            ("post", f"{at}/release", {"parts": ["compare"]}),
            ("post", f"{at}/chain", {"id": str(uuid.uuid4()), "load": "led-red", "cell": "zinc|rhubarb-juice|copper"}),
            ("post", f"{at}/close", None),
        ]  # fmt: skip

    def statuses(self, client):
        return {path: send(client, path, body, verb=verb).status_code for verb, path, body in self.writes()}

    def test_a_colleague_sees_nothing_until_it_is_shared_and_nothing_once_it_is_no_more(self):
        for path in self.reads():
            self.assertEqual(self.colleague.get(path).status_code, 404, path)
        self.assertEqual(set(self.statuses(self.colleague).values()), {404})
        self.assertEqual(self.share("look").status_code, 200)
        self.assertEqual(self.share("no").status_code, 200)
        self.assertEqual(self.colleague.get(f"/api/labs/{self.lab.id}").status_code, 404)

    def test_who_may_look_sees_all_but_pins_and_changes_nothing(self):
        self.share("look")
        for path in self.reads():
            answer, own = self.colleague.get(path), self.desk.get(path)
            self.assertEqual(answer.status_code, own.status_code, path)
            if path.split("?")[0].split("/")[-1] not in ("tables.xlsx",):
                self.assertNotIn(f'"{self.tern.pin}"', answer.content.decode(), path)
        self.assertIn(f'"{self.tern.pin}"', self.desk.get(f"/api/labs/{self.lab.id}/board").content.decode())
        before = (Reading.objects.count(), PlannedCell.objects.count())
        self.assertEqual(set(self.statuses(self.colleague).values()), {403})
        self.lab.refresh_from_db()
        self.assertEqual((self.lab.title, self.lab.state, before[0]), ("A lab", "open", Reading.objects.count()))
        [listed] = self.colleague.get("/api/labs/list").json()
        self.assertEqual((listed["way"], listed["owner"]), ("look", "ada"))

    def test_who_may_work_does_what_the_owner_does_but_delete_and_share(self):
        self.share("work")
        told = self.statuses(self.colleague)
        self.assertEqual(set(told.values()) - {200, 201}, set(), told)
        deleted = send(self.colleague, f"/labs/{self.lab.id}/delete", {"title": "Another"})
        self.assertEqual((deleted.status_code, deleted.json()["code"]), (403, "not_yours"))
        passed_on = send(self.colleague, f"/labs/{self.lab.id}/shares", {"teacher": self.cy.id, "way": "look"}, verb="put")
        self.assertEqual(passed_on.status_code, 403)
        self.assertEqual(self.stranger.get(f"/api/labs/{self.lab.id}").status_code, 404)
        done = [(row["who"], row["what"]) for row in self.desk.get("/api/deeds").json()]
        self.assertIn(("bob", "Closed the bench"), done)

    def test_a_lab_shared_with_several_is_listed_and_counted_once(self):
        self.share("look")
        self.share("work", self.cy)
        for client in (self.desk, self.colleague, self.stranger):
            [listed] = client.get("/api/labs/list").json()
            self.assertEqual(listed["group_count"], 2)
        self.assertEqual(self.share("look", self.cy).status_code, 200)
        self.assertEqual(Share.objects.count(), 2)

    def test_own_materials_of_a_shared_lab_have_their_numbers_for_the_colleague_and_its_groups_see_no_share(self):
        own = {"name": "Roof sheet", "couple": "Zn2+/Zn", "surface": "zinc", "symbol": "Rf"}
        self.assertEqual(send(self.desk, "/materials/electrodes", own).status_code, 201)
        key = OwnMaterial.objects.get().key
        with materials_of(self.ada):
            lab = lab_of(self.ada, title="With a sheet", electrodes=[key, "copper"])
            record(cell_of(group_of(lab)))
        send(self.desk, f"/labs/{lab.id}/shares", {"teacher": self.bob.id, "way": "look"}, verb="put")
        self.assertEqual(self.colleague.get(f"/api/labs/{lab.id}/compare").status_code, 200)
        self.assertNotIn(key, [row["key"] for row in self.stranger.get("/api/materials").json()["electrodes"]])
        self.assertEqual(as_group(group_of(lab)).get(f"/api/labs/{lab.id}/shares").status_code, 401)


class OthersMaterials(TestCase):
    """A lab keeps its plates and liquids, whoever made them and whatever has come of the cupboard or the share since."""

    SHEET: ClassVar = {"name": "Roof sheet", "couple": "Zn2+/Zn", "surface": "zinc", "symbol": "Rf"}
    PLAN: ClassVar = {
        "title": "With a sheet", "date": "2026-05-04", "minutes": 45, "electrolytes": ["rhubarb-juice"], "groups": ["Tern", "Knot"],
    }  # fmt: skip

    def setUp(self):
        self.ada, self.bob = teacher("ada"), teacher("bob")
        Teacher.objects.filter(id=self.ada.id).update(is_head=True)
        self.desk, self.colleague = as_teacher(self.ada), as_teacher(self.bob)

    def made_by(self, client):
        self.assertEqual(send(client, "/materials/electrodes", self.SHEET).status_code, 201)
        return OwnMaterial.objects.get().key

    def planned(self, client, key):
        made = send(client, "/labs", self.PLAN | {"electrodes": [key, "copper"]})
        self.assertEqual(made.status_code, 201, made.content)
        return made.json()["id"]

    def works(self, client, lab):
        """Everything of a lab opens for a teacher, and its bench for a group."""
        for what in ("", "/kit", "/cards", "/safety", "/board", "/compare", "/predictions"):
            self.assertEqual(client.get(f"/api/labs/{lab}{what}").status_code, 200, what)
        bench = as_group(group_of(Lab.objects.get(id=lab))).get("/api/bench")
        self.assertEqual(bench.status_code, 200)
        self.assertTrue(bench.json()["cells"])

    def listed(self, client, key):
        return {row["key"]: row["retired"] for row in client.get("/api/materials").json()["electrodes"]}.get(key)

    def test_the_schools_cupboard_is_no_more(self):
        key = self.made_by(self.desk)
        send(self.desk, "/school/cupboard", {"teacher": self.ada.id}, verb="put")
        self.assertIs(self.listed(self.colleague, key), False)
        lab = self.planned(self.colleague, key)
        send(self.desk, "/school/cupboard", {"teacher": None}, verb="put")
        self.works(self.colleague, lab)
        self.assertIs(self.listed(self.colleague, key), True, "its name is known, and it is offered no more")

    def test_a_copy_outlives_the_share_it_came_by(self):
        key = self.made_by(self.desk)
        lab = self.planned(self.desk, key)
        self.assertIsNone(self.listed(self.colleague, key))
        send(self.desk, f"/labs/{lab}/shares", {"teacher": self.bob.id, "way": "look"}, verb="put")
        copy = send(self.colleague, f"/labs/{lab}/copy", {"title": "Mine", "date": "2026-05-05"}).json()["id"]
        send(self.desk, f"/labs/{lab}/shares", {"teacher": self.bob.id, "way": "no"}, verb="put")
        self.works(self.colleague, copy)

    def test_a_colleague_who_works_in_a_lab_brings_a_plate_of_their_own(self):
        key = self.made_by(self.colleague)
        lab = self.planned(self.desk, "zinc")
        send(self.desk, f"/labs/{lab}/shares", {"teacher": self.bob.id, "way": "work"}, verb="put")
        changed = send(self.colleague, f"/labs/{lab}", self.PLAN | {"electrodes": [key, "copper"]}, verb="put")
        self.assertEqual(changed.status_code, 200, changed.content)
        self.works(self.desk, lab)
        self.works(self.colleague, lab)
