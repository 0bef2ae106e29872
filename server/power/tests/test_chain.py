"""The class's chain: voted on, built cell by cell by all groups, foretold from the class's own cells."""

import uuid

from django.db import connection, transaction
from django.db.utils import DatabaseError
from django.test import TestCase
from django.test.utils import CaptureQueriesContext

from server.power.models import Chain, ChainEntry
from server.tests.support import as_group, as_teacher, group_of, lab_of, record, send, teacher

CELL = "zinc|rhubarb-juice|copper"
PLATES = dict(zip(("negative", "electrolyte", "positive"), CELL.split("|"), strict=True))


class TheChain(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada)
        for name in ("Tern", "Knot"):
            for cell in group_of(self.lab, name).cells.all():
                if {cell.negative, cell.positive} == {"zinc", "copper"}:
                    record(cell, "0.95")
        self.desk = as_teacher(self.ada)
        self.tern, self.knot = (as_group(group_of(self.lab, name)) for name in ("Tern", "Knot"))
        self.key = self.begin()

    def begin(self, load="led-red", status=200, client=None, key=None):
        key = key or str(uuid.uuid4())
        answer = send(client or self.desk, f"/labs/{self.lab.id}/chain", {"id": key, "load": load, "cell": CELL})
        self.assertEqual(answer.status_code, status, answer.content)
        return key

    def enter(self, client, kind, status=200, **fields):
        body = {"id": str(uuid.uuid4()), "chain_id": self.key, "kind": kind} | fields
        answer = send(client, "/bench/chain-entries", body)
        self.assertEqual(answer.status_code, status, answer.content)
        return body["id"] if status == 200 else answer.json()

    def link(self, client, text, **fields):
        return self.enter(client, "link", text=text, **PLATES, **fields)

    def shown(self):
        return self.desk.get(f"/api/labs/{self.lab.id}/chain").json()["chain"]

    def of(self, client):
        return client.get("/api/bench/packs").json()["chain"]

    def test_groups_vote_build_and_the_nearest_vote_is_told(self):
        self.enter(self.tern, "vote", cells=5)
        self.enter(self.tern, "vote", cells=3)  # changed its mind: the latest counts
        self.enter(self.knot, "vote", cells=6)
        found = self.shown()
        self.assertEqual(found["votes"], [{"cells": 3, "groups": ["Tern"]}, {"cells": 6, "groups": ["Knot"]}])
        self.assertTrue(found["voting"])
        self.assertNotIn("Tern", found["without_vote"])
        foretold = [one["verdict"] for one in found["foretold"]]
        self.assertEqual((foretold[0], foretold[-1]), ("no", "runs"))
        self.assertAlmostEqual(found["foretold"][1]["open_v"], 2 * found["foretold"][0]["open_v"], places=6)
        for client, text in ((self.tern, "0.95"), (self.knot, "1.90"), (self.tern, "2.84")):
            self.link(client, text)
        self.enter(self.knot, "seen", text="dark")
        self.link(self.knot, "3.79")
        self.enter(self.knot, "seen", text="glows by day")
        found = self.shown()
        self.assertEqual([(link["group"], link["whole_v"]) for link in found["links"]],
                         [("Tern", 0.95), ("Knot", 1.9), ("Tern", 2.84), ("Knot", 3.79)])  # fmt: skip
        self.assertAlmostEqual(found["links"][2]["added_v"], 0.94)
        self.assertEqual((found["lit_with"], found["seen_with"], found["nearest"]), (4, 4, ["Tern"]))
        self.assertEqual(found["findings"], [])
        years = self.desk.get(f"/api/years?lab={self.lab.id}").json()["labs"][0]
        self.assertEqual(years["voted"], "2 groups voted for 3 to 6 cells. It ran with 4; nearest: Tern.")

    def test_votes_are_laid_beside_other_years_once_voting_is_over(self):
        self.enter(self.tern, "vote", cells=3)
        self.assertEqual(self.desk.get(f"/api/years?lab={self.lab.id}").json()["labs"][0]["voted"], "")
        self.link(self.tern, "0.95")
        with CaptureQueriesContext(connection) as queries:
            years = self.desk.get(f"/api/years?lab={self.lab.id}").json()["labs"][0]
        self.assertEqual(years["voted"], "1 group voted for 3 cells.")
        self.assertEqual(sum(f'FROM "{ChainEntry._meta.db_table}"' in one["sql"] for one in queries), 1)

    def test_the_wall_does_not_tell_what_to_vote(self):
        self.enter(self.tern, "vote", cells=3)
        found = self.shown()
        self.assertEqual((found["covered"], found["voted"], found["votes"], found["foretold"]), (True, 1, [], []))
        self.link(self.tern, "0.95")  # the first cell ends the voting, whoever has not voted
        found = self.shown()
        self.assertFalse(found["covered"])
        self.assertEqual((len(found["foretold"]), found["votes"]), (8, [{"cells": 3, "groups": ["Tern"]}]))

    def test_a_cell_that_adds_nothing_is_named(self):
        self.link(self.tern, "0.95")
        self.link(self.knot, "1.00")
        self.assertEqual([(finding["code"], finding["cell"]) for finding in self.shown()["findings"]], [("bridged", 2)])

    def test_a_wrong_sum_is_corrected_in_its_place_with_a_reason(self):
        wrong = self.link(self.tern, "9.5")
        self.link(self.knot, "1.90")
        refused = self.enter(self.knot, "link", 404, text="0.95", corrects=wrong, reason="mine", **PLATES)
        self.assertEqual(refused["code"], "not_found")  # another group's
        self.assertEqual(self.enter(self.tern, "link", 422, text="0.95", corrects=wrong, **PLATES)["code"], "no_reason")
        self.link(self.tern, "0.95", corrects=wrong, reason="the point was missing")
        self.assertEqual([link["text"] for link in self.shown()["links"]], ["0.95", "1.90"])
        again = self.enter(self.tern, "link", 409, text="0.96", corrects=wrong, reason="again", **PLATES)
        self.assertEqual(again["code"], "already_corrected")

    def test_no_vote_after_the_first_cell_and_none_without_a_number(self):
        self.assertEqual(self.enter(self.tern, "vote", 422)["code"], "empty")
        self.link(self.tern, "0.95")
        self.assertEqual(self.enter(self.knot, "vote", 409, cells=4)["code"], "voting_over")

    def test_what_cannot_be_read_is_kept_nowhere_and_said(self):
        self.assertEqual(self.enter(self.tern, "link", 422, text="o.95", **PLATES)["code"], "unreadable_reading")
        self.assertEqual(self.enter(self.tern, "seen", 422, text="  ")["code"], "empty")
        odd = PLATES | {"negative": "unobtainium"}
        self.assertEqual(self.enter(self.tern, "link", 422, text="0.95", **odd)["code"], "unknown_material")
        self.assertEqual(ChainEntry.objects.count(), 0)

    def test_a_group_learns_only_what_is_read_at_the_front(self):
        self.enter(self.knot, "vote", cells=4)
        self.link(self.knot, "0.95")
        found = self.of(self.tern)
        self.assertEqual((found["votes"], found["foretold"], found["my_vote"]), ([], [], None))
        self.assertEqual(
            [(link["alone_v"], link["whole_v"], link["mine"]) for link in found["links"]], [(None, 0.95, False)]
        )
        self.assertEqual(self.of(self.knot)["my_vote"], 4)
        self.assertTrue(self.of(self.knot)["links"][0]["mine"])

    def test_beginning_again_puts_the_chain_aside_and_keeps_it(self):
        earlier = self.key
        self.link(self.tern, "0.95")
        self.begin(key=earlier)  # the same id again changes nothing
        self.assertEqual(len(self.shown()["links"]), 1)
        self.key = self.begin("led-green")
        self.assertEqual(self.shown()["links"], [])
        self.key = earlier
        self.assertEqual(self.enter(self.tern, "link", 409, text="1.9", **PLATES)["code"], "chain_over")
        self.assertEqual(Chain.objects.count(), 2)

    def test_only_the_class_and_its_teacher_come_near_it(self):
        bob = teacher("bob")
        self.begin(status=404, client=as_teacher(bob))
        self.assertEqual(as_teacher(bob).get(f"/api/labs/{self.lab.id}/chain").status_code, 404)
        stranger = as_group(group_of(lab_of(bob), "Tern"))
        self.assertEqual(self.enter(stranger, "vote", 404, cells=3)["code"], "not_found")
        self.assertIsNone(self.of(stranger))
        self.begin("led-ultraviolet", status=422)

    def test_the_database_keeps_what_was_done(self):
        self.link(self.tern, "0.95")
        for table in ("power_chain", "power_chainentry"):
            with self.assertRaises(DatabaseError), transaction.atomic(), connection.cursor() as cursor:
                cursor.execute(f"DELETE FROM {table}")

    def test_the_chain_asks_the_database_little(self):
        for client, text in ((self.tern, "0.95"), (self.knot, "1.90")):
            self.link(client, text)
        self.shown()
        with CaptureQueriesContext(connection) as few:
            self.shown()
        for text in ("2.85", "3.80", "4.75"):
            self.link(self.tern, text)
        self.shown()
        with CaptureQueriesContext(connection) as many:
            self.shown()
        self.assertEqual(len(many), len(few))
        self.assertLess(len(few), 12)
