"""The practice bench's tables are open to everybody, small, and the core's own."""

import gzip
import json
from dataclasses import asdict

from django.test import Client, TestCase

from galvanic.simulated.drill import GROUPS, case
from galvanic.simulated.drill_sums import sums
from galvanic.simulated.free_bench import pair_tables
from server.tests.support import as_group, group_of, lab_of, teacher


class Practise(TestCase):
    def test_anybody_gets_it_without_a_sign_in_and_it_asks_the_database_for_nothing(self):
        with self.assertNumQueries(0):
            answer = Client().get("/api/practise")
        self.assertEqual(answer.status_code, 200)

    def test_it_is_the_same_for_a_group(self):
        device = as_group(group_of(lab_of(teacher())))
        self.assertEqual(device.get("/api/practise").content, Client().get("/api/practise").content)

    def test_each_reads_it_in_their_language_whoever_asked_first(self):
        """It is kept in the process: the first one's language is not everybody's."""
        for code, name in (("de", "Kabel tauschen"), ("en", "Swap the leads"), ("de", "Kabel tauschen")):
            answer = Client().get("/api/practise", headers={"Accept-Language": code}).json()
            hands = {one["key"]: one["name"] for one in answer["cases"][0]["hands"]}
            with self.subTest(code=code):
                self.assertEqual(hands["swap"], name)

    def test_it_is_what_the_core_has(self):
        sent = Client().get("/api/practise").json()
        self.assertEqual([one["symptom"] for one in sent["cases"]], list(GROUPS))
        for one in sent["cases"]:
            core = case(one["symptom"])
            for cause in one["causes"]:
                for hand, answer in cause["answers"].items():
                    own = core.answers[cause["key"]][hand]
                    self.assertEqual((answer["says"], answer["code"]), (own.says, own.code))
        self.assertEqual(len(sent["sums"]), len(sums()))

    def test_its_tables_are_under_four_hundred_kilobytes(self):
        self.assertLess(len(gzip.compress(Client().get("/api/practise").content)), 400_000)

    def test_the_pairs_of_the_free_bench_are_the_cores(self):
        sent = Client().get("/api/practise").json()["bench"]["pairs"]
        self.assertEqual(sent, [json.loads(json.dumps(asdict(table))) for table in pair_tables()])
