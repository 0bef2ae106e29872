"""Ready labs: each has its lesson, its settings are understood in every language, and disputes have two sides."""

from django.test import TestCase

from galvanic.condition import condition_of
from galvanic.findings.misconceptions import misconceptions
from galvanic.planning.lessons import LESSONS
from server.labs.templates import TEMPLATES
from server.tests.support import as_teacher, send, teacher


class Templates(TestCase):
    def setUp(self) -> None:
        self.client = as_teacher(teacher("ada"))

    def offered(self, language="en"):
        answer = self.client.get("/api/labs/start", headers={"Accept-Language": language})
        return {one["key"]: one for one in answer.json()["templates"]}

    def test_each_says_how_its_lesson_goes(self) -> None:
        offered = self.offered()
        self.assertEqual(set(offered), set(LESSONS))
        self.assertTrue(all(one["lesson"] for one in offered.values()))
        self.assertEqual({len(one["sides"]) for one in offered.values()}, {0, 2})

    def test_settings_are_in_the_readers_language_and_understood_in_it(self) -> None:
        english, german = self.offered(), self.offered("de")
        for key, one in german.items():
            for said, meant in zip(one["conditions"], english[key]["conditions"], strict=True):
                with self.subTest(said):
                    self.assertEqual(condition_of(said), condition_of(meant))
                    self.assertNotEqual(said, meant)
        self.assertEqual(german["salt"]["sides"][1], "Salz macht sie schwächer: Die Spannung sinkt.")

    def test_each_makes_a_lab_that_foresees_its_answer(self) -> None:
        for template in TEMPLATES:
            with self.subTest(template["key"]):
                one = self.offered()[template["key"]]
                names = (
                    "varies",
                    "question",
                    "kept",
                    "against",
                    "electrodes",
                    "electrolytes",
                    "conditions",
                    "short_circuit",
                )
                groups = one["groups"] or ["Tern", "Knot", "Ruff", "Gull"]
                body = {"title": one["name"], "date": "2026-05-04", "minutes": 60, "groups": groups, "template": one["key"]}
                made = send(self.client, "/labs", body | {name: one[name] for name in names})
                self.assertEqual(made.status_code, 201, made.content)
                lab = made.json()
                self.assertTrue(all(group["cells"] for group in lab["groups"]))
                self.assertEqual(self.client.get(f"/api/labs/{lab['id']}/foreseen").status_code, 200)

    def test_beliefs_lead_to_ready_labs(self) -> None:
        led = {row.lab for row in misconceptions().values()} - {""}
        self.assertTrue(led <= set(self.offered()), led)
        self.assertEqual((misconceptions()["bigger_more"].lab, misconceptions()["closer_more"].lab), ("depth", "spacing"))
