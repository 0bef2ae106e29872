"""Explain, accounts, claims, release and numbers out, through the API."""

import contextlib
import csv
import io
import json
import subprocess
import sys
import tempfile
import uuid
from datetime import timedelta
from pathlib import Path
from unittest import mock

from django.db import IntegrityError, connection, transaction
from django.test import TestCase
from django.utils import timezone
from openpyxl import load_workbook

from galvanic.command.main import main
from galvanic.findings.verdicts import Verdict
from galvanic.reference import catalogue
from server.entries.models import MeterCheck, Reading
from server.findings.models import Answer, Claim
from server.labs.joining import LATE
from server.labs.models import Lab
from server.labs.opening import close_lab
from server.tests.support import as_group, as_teacher, group_of, lab_of, record_all, send, teacher

TRUE_V = {"magnesium": -1.36, "aluminium": -0.50, "zinc": -0.78, "tin": -0.28, "copper": 0.17, "graphite": 0.35}


class AClass(TestCase):
    """Four groups that measured a lab of six plates."""

    @classmethod
    def setUpTestData(cls):
        cls.ada = teacher()
        cls.lab = lab_of(
            cls.ada, groups=("Tern", "Knot", "Ruff", "Gull"), electrodes=list(TRUE_V), electrolytes=["rhubarb-juice", "kelp-brine"],
            minutes=90,
        )  # fmt: skip
        record_all(
            (cell, f"{TRUE_V[cell.positive] - TRUE_V[cell.negative] + 0.01 * (number - 1.5) / 1.5 + 0.002 * nth:.3f}")
            for number, group in enumerate(cls.lab.groups.order_by("position"))
            for cell in group.cells.all()
            for nth in range(3)
        )
        cls.tern = group_of(cls.lab, "Tern")
        cls.cell = cls.tern.cells.order_by("position").first()
        cls.about = {
            "negative": cls.cell.negative, "electrolyte": cls.cell.electrolyte, "positive": cls.cell.positive, "condition": "",
        }  # fmt: skip

    def setUp(self):
        self.client = as_teacher(self.ada)
        self.device = as_group(self.tern)

    def get(self, path, client=None, **query):
        return (client or self.client).get(f"/api/labs/{self.lab.id}/{path}", query)

    def release(self, *parts):
        self.assertEqual(send(self.client, f"/labs/{self.lab.id}/release", {"parts": parts}).status_code, 200)

    def claim(self, client=None, **changes):
        body = {
            "id": str(uuid.uuid4()), "cell": self.about, "cause": "film", "reasoning": "The skin holds it back.",
            "cited": [str(Reading.objects.filter(cell=self.cell).first().id)], "may_show": True,
        }  # fmt: skip
        return send(client or self.device, "/bench/claims", body | changes)


class Explaining(AClass):
    def test_the_causes_add_up_to_what_was_measured_to_the_nanovolt(self):
        found = self.get("explain", **self.about).json()
        total = found["start_v"] + sum(cause["volts_v"] for cause in found["causes"])
        self.assertAlmostEqual(total, found["measured_v"], delta=1e-9)
        self.assertTrue(all(cause["equation"] and cause["test"] for cause in found["causes"]))
        self.assertAlmostEqual(sum(row["share"] for row in found["at_positive"]), 1.0, delta=0.05)

    def test_a_cell_nobody_measured_is_not_found(self):
        self.assertEqual(self.get("explain", **(self.about | {"positive": "silver"})).status_code, 404)

    def test_what_if_answers_and_refuses_what_the_model_does_not_cover(self):
        found = send(self.client, "/what-if", {"cell": self.about, "oxygen": 0.0}).json()
        self.assertLess(found["changed"]["positive_v"], found["usual"]["positive_v"])
        for wrong in ({"ph": 20}, {"celsius": 99}, {"area_cm2": 0}, {"cell": self.about | {"positive": "cheese"}}):
            self.assertEqual(send(self.client, "/what-if", {"cell": self.about} | wrong).status_code, 422)

    def test_accounts_are_scored_and_say_where_they_have_no_answer(self):
        found = self.get("accounts").json()
        self.assertEqual({row["account"] for row in found["accounts"]}, {"standard", "hydrogen", "series", "rest"})
        graphite = next(cell for cell in found["cells"] if "C" in cell["short"].split(" | "))
        self.assertIsNone(graphite["says_v"]["standard"])
        self.assertTrue(graphite["reasons"]["standard"])
        self.assertIsNotNone(found["ranking"])

    def test_an_empty_lab_has_nothing_to_explain_and_says_so(self):
        empty = lab_of(self.ada)
        answer = self.client.get(f"/api/labs/{empty.id}/accounts")
        self.assertEqual((answer.status_code, answer.json()["accounts"]), (200, []))


class Comparing(AClass):
    def test_offsets_liquids_and_the_shared_cell_are_sent(self):
        found = self.get("compare").json()
        self.assertEqual({offset["group"] for offset in found["offsets"]}, {"Tern", "Knot", "Ruff", "Gull"})
        self.assertTrue(found["shared"])
        self.assertTrue(all("points" in liquid and len(liquid["points"]) >= 2 for liquid in found["liquids"]))
        self.assertTrue(any(note["evidence"] for e in found["electrolytes"] for note in e["notes"]))

    def test_setting_a_reading_aside_changes_the_numbers_and_hides_nothing(self):
        before = self.get("compare").json()
        reading = Reading.objects.filter(cell=self.cell).first()
        send(self.client, f"/readings/{reading.id}/aside", {"reason": "plates touched"})
        after = self.get("compare").json()
        self.assertEqual([one["reason"] for one in after["aside"]], ["plates touched"])
        n = sum(cell["n"] for e in before["electrolytes"] for cell in e["cells"])
        self.assertEqual(sum(cell["n"] for e in after["electrolytes"] for cell in e["cells"]), n - 1)


class Releasing(AClass):
    def test_groups_see_only_what_is_released_and_only_of_their_lab(self):
        paths = {"compare": "/api/bench/compare", "explain": f"/api/labs/{self.lab.id}/accounts"}
        for path in paths.values():
            self.assertEqual(self.device.get(path).status_code, 403)
        self.release("compare")
        self.assertEqual(self.device.get(paths["compare"]).status_code, 200)
        self.assertEqual(self.device.get(paths["explain"]).status_code, 403)
        self.release("compare", "explain")
        self.assertEqual(self.device.get(paths["explain"]).status_code, 200)
        stranger = as_group(group_of(lab_of(self.ada, groups=("Dodo",)), "Dodo"))
        self.assertEqual(stranger.get(paths["explain"]).status_code, 404)
        self.release()
        self.assertEqual(self.device.get(paths["compare"]).status_code, 403)

    def test_a_closed_lab_lets_groups_in_again_only_while_it_shows_them_something(self):
        close_lab(actor=self.ada, lab_id=self.lab.id)
        Lab.objects.filter(id=self.lab.id).update(closed_at=timezone.now() - LATE - timedelta(minutes=1))
        body = {"code": self.lab.join_code, "pin": self.tern.pin}
        self.assertEqual(send(self.client_class(), "/join", body).status_code, 404)
        self.release("compare")
        self.assertEqual(send(self.client_class(), "/join", body).status_code, 200)

    def test_only_the_owner_decides(self):
        for client in (as_teacher(teacher("bea")), self.device, self.client_class()):
            answer = send(client, f"/labs/{self.lab.id}/release", {"parts": ["compare"]})
            self.assertIn(answer.status_code, (401, 404))
            for path in ("compare", "accounts", "claims", "tables.xlsx", "tables/cells.csv"):
                self.assertIn(self.get(path, client).status_code, (401, 403, 404), path)
        self.assertEqual(send(self.client, f"/labs/{self.lab.id}/release", {"parts": ["everything"]}).status_code, 422)


class Claiming(AClass):
    def test_a_claim_is_tested_and_all_its_versions_are_kept(self):
        self.assertEqual(self.claim().json()["code"], "not_released")
        self.release("claims")
        first = str(uuid.uuid4())
        self.assertEqual(self.claim(id=first, reasoning="The fruit makes the electricity.").status_code, 200)
        self.assertEqual(self.claim(id=first).status_code, 200)  # sent twice, kept once
        self.assertEqual(self.claim(cause="acid", revises=first).status_code, 200)
        self.assertEqual(self.claim(cause="size", revises=first).json()["code"], "already_revised")
        found = self.device.get("/api/bench/claims").json()["claims"]
        self.assertEqual([(one["cause"], one["latest"]) for one in found], [("film", False), ("acid", True)])
        self.assertIn(found[0]["verdict"], ("fits", "part", "cancels", "cannot_tell", "contradicted"))
        self.assertTrue(found[0]["says"] and found[0]["question"].endswith("?"))
        self.assertEqual([one["name"] for one in found[0]["heard"]], ["The fruit makes the electricity"])
        self.assertEqual(len(self.get("claims").json()["claims"]), 2)

    def test_what_is_heard_is_asked_back_and_the_group_s_answer_counts_above_the_ear(self):
        self.release("claims")
        first = str(uuid.uuid4())
        self.claim(id=first, reasoning="Bigger plates give more volts, and the fruit makes the electricity.")
        heard = lambda client, path: client.get(path).json()["claims"][0]["heard"]  # noqa: E731
        own, theirs = "/api/bench/claims", f"/api/labs/{self.lab.id}/claims"
        asked = heard(self.device, own)
        self.assertEqual([(one["meant"], one["against"], one["in_data"]) for one in asked], [(None, "", "")])
        keys = [one["key"] for one in heard(self.client, theirs)]
        self.assertEqual(len(keys), 2)
        said = {"id": str(uuid.uuid4()), "belief": asked[0]["key"], "yes": False}
        path = f"/bench/claims/{first}/meant"
        self.assertEqual([send(self.device, path, said).status_code for _ in range(2)], [200, 200])
        self.assertEqual(send(self.device, path, said | {"id": str(uuid.uuid4()), "yes": True}).status_code, 200)  # stays
        (left,) = heard(self.device, own)
        self.assertNotEqual(left["key"], asked[0]["key"])
        send(self.device, path, {"id": str(uuid.uuid4()), "belief": left["key"], "yes": True})
        (meant,) = heard(self.device, own)
        self.assertTrue(meant["meant"] and meant["against"])
        found = self.client.get(theirs).json()
        self.assertEqual(
            {one["key"]: one["meant"] for one in found["claims"][0]["heard"]}, {asked[0]["key"]: False, left["key"]: True}
        )
        (belief,) = found["beliefs"]
        self.assertEqual((belief["key"], belief["means"], belief["perhaps"]), (left["key"], [self.tern.name], []))
        self.assertEqual(self.device.get(own).json()["beliefs"], [])
        self.assertEqual(self.claim(revises=first, reasoning="The zinc dissolves.").status_code, 200)
        (belief,) = self.client.get(theirs).json()["beliefs"]
        self.assertEqual((belief["means"], belief["before"]), ([], [self.tern.name]))
        wrong = send(self.device, path, said | {"id": str(uuid.uuid4()), "belief": "charge_stored"})
        self.assertEqual((wrong.status_code, wrong.json()["code"]), (422, "belief"))
        self.assertEqual(send(as_group(group_of(self.lab, "Knot")), path, said | {"id": str(uuid.uuid4())}).status_code, 404)

    def test_a_claim_about_the_whole_ladder_is_weighed_on_every_cell(self):
        self.release("claims")
        self.assertEqual(self.claim(cell=None).status_code, 200)
        (found,) = self.device.get("/api/bench/claims").json()["claims"]
        self.assertEqual((found["cell"], found["short"]), (None, "the whole ladder"))
        self.assertRegex(found["says"], r"Of \d+ cells the numbers bear it out in \d+")

    def test_evidence_that_is_missing_or_of_other_cells_is_asked_for(self):
        self.release("claims")
        other = Reading.objects.filter(cell__group=self.tern).exclude(
            cell__negative=self.cell.negative, cell__positive=self.cell.positive
        )
        self.claim(cited=[])
        self.claim(cited=[str(other.first().id)])
        self.claim()
        evidence = [claim["evidence"] for claim in self.get("claims").json()["claims"]]
        self.assertIn("No reading is cited", evidence[0])
        self.assertIn("of other cells", evidence[1])
        self.assertEqual(evidence[2], "")

    def test_nothing_is_borne_out_by_nothing_cited(self):
        self.release("claims")
        leads = {"cause": "loading"}  # whatever comes of it, it is the same but for what is cited
        with mock.patch("server.claims.services.weigh", return_value=Verdict("fits", "It fits.", "Why?")):
            self.claim(cited=[], **leads)
            self.claim(**leads)
            verdicts = [claim["verdict"] for claim in self.get("claims").json()["claims"]]
        self.assertEqual(verdicts, ["cannot_tell", "fits"])

    def test_a_claim_with_a_reading_and_what_speaks_against_it_opens_the_explanation_of_its_cell(self):
        plates = {key: getattr(self.cell, key) for key in ("negative", "electrolyte", "positive", "condition")}

        def explained(**other):
            return self.device.get(f"/api/labs/{self.lab.id}/explain", plates | other)

        self.assertEqual(explained().json()["code"], "not_released")
        self.release("claims")
        self.assertEqual(explained().json()["code"], "claim_first")
        self.claim()  # without what would speak against it
        self.claim(cited=[], against="If a scratched plate gave the same.")
        self.assertEqual(explained().json()["code"], "claim_first")
        self.claim(against="If a scratched plate gave the same.")
        self.assertEqual(explained().status_code, 200)
        own = Reading.objects.filter(cell=self.cell)
        self.assertAlmostEqual(explained().json()["measured_v"], sum(one.volts_v for one in own) / len(own), delta=0.2)
        self.assertEqual(explained().json()["groups"], 1)  # the class's values stay covered
        other = self.tern.cells.exclude(negative=plates["negative"], positive=plates["positive"]).first()
        self.assertEqual(explained(negative=other.negative, positive=other.positive).json()["code"], "claim_first")
        opens = self.device.get("/api/bench/claims").json()["opens"]
        self.assertEqual([one["negative"] for one in opens], [plates["negative"]])
        what_if = {"cell": plates, "stir": True}
        self.assertNotEqual(send(self.device, "/what-if", what_if).status_code, 403)
        knot = as_group(group_of(self.lab, "Knot"))
        self.assertEqual(knot.get(f"/api/labs/{self.lab.id}/explain", plates).json()["code"], "claim_first")

    def test_a_group_reads_the_explanation_at_its_level_and_the_teacher_all_of_it(self):
        self.release("explain")
        about = {key: getattr(self.cell, key) for key in ("negative", "electrolyte", "positive", "condition")}
        equations = {}
        for level in ("first", "middle", "upper"):
            Lab.objects.filter(id=self.lab.id).update(level=level)
            group, own = self.device.get(f"/api/labs/{self.lab.id}/explain", about), self.get("explain", **about)
            self.assertEqual((group.json()["level"], own.json()["level"]), (level, "upper"))
            causes = [cause["equation"] for cause in group.json()["causes"]]
            causes += [cause["equation"] for step in group.json()["steps"] for cause in step["causes"]]
            equations[level] = any(causes), any("→" in work["equation"] for work in group.json()["at_negative"])
            self.assertTrue(any(cause["equation"] for cause in own.json()["causes"]))
        self.assertEqual(equations, {"first": (False, False), "middle": (False, True), "upper": (True, True)})

    def test_who_clicks_through_the_causes_waits_longer_for_each_and_the_teacher_sees_how_many(self):
        self.release("claims")
        for cause in ("film", "acid", "size"):
            self.claim(cause=cause)
        own = self.device.get("/api/bench/claims").json()["claims"]
        self.assertEqual([one["verdict"] == "held" for one in own], [False, True, True])
        self.assertTrue(25 < own[1]["held_s"] <= 30 < 55 < own[2]["held_s"] <= 60)
        self.assertEqual((own[2]["says"], own[2]["heard"]), ("", []))
        seen = self.get("claims").json()["claims"]
        self.assertNotIn("held", [one["verdict"] for one in seen])
        self.assertEqual([(one["tries"], one["causes"]) for one in seen], [(1, 1), (2, 2), (3, 3)])
        later = timezone.now() + timedelta(minutes=2)
        with mock.patch("server.claims.outputs.timezone.now", return_value=later):
            again = self.device.get("/api/bench/claims").json()["claims"]
        self.assertNotIn("held", [one["verdict"] for one in again])

    def test_other_groups_readings_cannot_be_cited_and_other_claims_not_seen(self):
        self.release("claims")
        foreign = Reading.objects.filter(cell__group__name="Knot").first()
        self.assertEqual(self.claim(cited=[str(foreign.id)]).status_code, 404)
        self.claim()
        knot = as_group(group_of(self.lab, "Knot"))
        self.assertEqual(knot.get("/api/bench/claims").json()["claims"], [])
        self.assertEqual(self.claim(knot, cited=[], revises=str(Claim.objects.get().id)).status_code, 404)
        for wrong in ({"cause": "magic"}, {"reasoning": "  "}, {"cell": self.about | {"positive": "silver"}}):
            self.assertIn(self.claim(**wrong).status_code, (404, 422))

    def test_the_teacher_answers_marks_and_shows_with_the_groups_leave(self):
        self.release("claims")
        self.claim(may_show=False)
        claim = Claim.objects.get()
        path = f"/claims/{claim.id}/answer"
        self.assertEqual(send(self.client, path, {"text": "x", "shown": True}).json()["code"], "no_leave")
        self.assertEqual(send(self.client, path, {"marks": {"Evidence": 9}}).json()["code"], "marks")
        rows = [{"name": "Idea", "most": 4}]
        put = self.client.put(f"/api/labs/{self.lab.id}/rubric", {"rows": rows}, content_type="application/json")
        self.assertEqual(put.status_code, 200)
        self.assertEqual(send(self.client, path, {"text": "Which plate?", "marks": {"Idea": 3}}).status_code, 200)
        (found,) = self.device.get("/api/bench/claims").json()["claims"]
        self.assertEqual((found["answer"]["text"], found["answer"]["marks"]), ("Which plate?", {"Idea": 3.0}))
        for client in (as_teacher(teacher("bea")), self.device):
            self.assertIn(send(client, path, {"text": "x"}).status_code, (401, 404))

    def test_a_rubric_says_what_is_worth_how_many_to_the_teacher_and_the_group(self):
        self.release("claims")
        usual = self.device.get("/api/bench/claims").json()["rubric"]
        self.assertEqual([row["most"] for row in usual], [2, 3, 3])
        self.assertTrue(all([one["points"] for one in row["levels"]] == list(range(row["most"] + 1)) for row in usual))

        def put(**level):
            rows = [{"name": "Idea", "most": 4, "levels": [{"points": 2, "text": "half of it"} | level]}]
            return self.client.put(f"/api/labs/{self.lab.id}/rubric", {"rows": rows}, content_type="application/json")

        self.assertEqual(put(points=5).json()["code"], "rubric")
        self.assertEqual(put(text="").status_code, 422)
        self.assertEqual(put(example="one plate").status_code, 200)
        (row,) = self.device.get("/api/bench/claims").json()["rubric"]
        self.assertEqual(row["levels"], [{"points": 2, "text": "half of it", "example": "one plate"}])

    def test_the_database_keeps_claims_and_answers_as_they_are(self):
        self.release("claims")
        self.claim()
        Answer.objects.create(claim=Claim.objects.get(), teacher=self.ada, text="x")
        for change in (
            "UPDATE findings_claim SET cause = 'acid'",
            "DELETE FROM findings_claim",
            "DELETE FROM findings_answer",
        ):
            with self.assertRaises(IntegrityError), transaction.atomic(), connection.cursor() as cursor:
                cursor.execute(change)

    def test_many_claims_need_no_more_queries_than_few(self):
        self.release("claims")
        self.claim()
        self.get("claims")
        with self.assertNumQueries(10):
            self.get("claims")
        for _ in range(5):
            self.claim()
        with self.assertNumQueries(11):
            self.get("claims")


class NumbersOut(AClass):
    def table(self, name):
        answer = self.get(f"tables/{name}.csv")
        self.assertEqual(answer.status_code, 200)
        return list(csv.DictReader(io.StringIO(answer.content.decode("utf-8-sig"))))

    def test_every_number_on_screen_is_what_the_command_line_makes_of_the_exported_file(self):
        rows = [row for row in self.table("readings") if row["counts"] == "yes"]
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "readings.csv"
            with path.open("w", newline="", encoding="utf-8") as file:
                writer = csv.DictWriter(file, ["group", "red", "black", "electrolyte", "volts"], extrasaction="ignore")
                writer.writeheader()
                writer.writerows(rows)
            done = subprocess.run(
                [sys.executable, "-m", "galvanic", "ladder", str(path)], capture_output=True, text=True, check=True,
                cwd=Path(__file__).resolve().parents[3],
            )  # fmt: skip
        said = {(row["electrolyte"], row["electrode"]): row for row in csv.DictReader(io.StringIO(done.stdout))}
        shown = self.table("ladders")
        self.assertGreater(len(shown), 8)
        held = [row for row in shown if row["held"]]
        self.assertEqual({row["held"] for row in held}, {"yes"})
        self.assertEqual(len(held), len({row["electrolyte"] for row in shown}))
        self.assertTrue(all(row["table, V"] == row["class, V"] for row in held))
        for row in shown:
            of_file = said[row["electrolyte"], row["plate"]]
            self.assertAlmostEqual(float(row["class, V"]), float(of_file["potential_v"]), delta=6e-5, msg=row)

    def command(self, *arguments):
        """What the core's command line prints, read as JSON."""
        said = io.StringIO()
        with contextlib.redirect_stdout(said):
            self.assertEqual(main([*arguments, "--json"]), 0)
        return json.loads(said.getvalue())

    def test_every_cause_and_account_on_screen_is_the_command_lines(self):
        plates, liquids = catalogue.electrodes(), catalogue.electrolytes()
        accounts = {(one["short"], one["electrolyte"]): one["says_v"] for one in self.get("accounts").json()["cells"]}
        for result in self.get("compare").json()["electrolytes"]:
            for cell in result["cells"][:3]:
                about = {"negative": cell["negative"], "electrolyte": result["electrolyte"], "positive": cell["positive"]}
                names = [plates[cell["negative"]].name, liquids[result["electrolyte"]].name, plates[cell["positive"]].name]
                shown = self.get("explain", **about).json()
                said = self.command("gap", *names, f"{cell['mean_v']:.6f}".rstrip("0"))
                for one, other in zip(shown["causes"][:-1], said["causes"][:-1], strict=True):
                    self.assertEqual(one["name"], other["name"])
                    self.assertAlmostEqual(one["volts_v"], other["volts_v"], places=9)
                with tempfile.NamedTemporaryFile("w", suffix=".csv", encoding="utf-8") as file:
                    file.write("negative,electrolyte,positive\n" + ",".join(names) + "\n")
                    file.flush()
                    (row,) = self.command("predict", file.name)
                for account, value in accounts[cell["short"], result["electrolyte"]].items():
                    if value is not None:
                        self.assertAlmostEqual(float(row[f"{account}_v"]), value, delta=1e-4, msg=(names, account))

    def test_all_tables_are_there_as_csv_and_in_one_workbook(self):
        for name in ("readings", "cells", "ladders", "predictions", "liquids", "accounts", "causes"):
            rows = self.table(name)
            self.assertTrue(rows or name == "predictions", name)
            if rows:
                self.assertTrue(rows[0]["edition of the data"])
        book = load_workbook(io.BytesIO(self.get("tables.xlsx").content))
        self.assertEqual(book.sheetnames[0], "about")
        self.assertEqual(len(book.sheetnames), 12)
        self.assertEqual(self.get("tables/nothing.csv").status_code, 404)

    def test_what_was_typed_is_never_a_formula_in_a_spreadsheet(self):
        Lab.objects.filter(id=self.lab.id).update(title="=1+1")
        book = load_workbook(io.BytesIO(self.get("tables.xlsx").content))
        self.assertEqual((book["about"]["B1"].value, book["about"]["B1"].data_type), ("\u2019=1+1", "s"))
        reading = Reading.objects.filter(cell=self.cell).first()
        send(self.client, f"/readings/{reading.id}/aside", {"reason": "=HYPERLINK(1)"})
        self.assertTrue(any(row["why not"] == "\u2019=HYPERLINK(1)" for row in self.table("readings")))


class Offsets(TestCase):
    def test_a_meter_that_is_off_is_said_with_its_check(self):
        ada = teacher()
        lab = lab_of(ada, groups=("Tern", "Knot", "Ruff", "Gull", "Sora"), minutes=90, electrodes=list(TRUE_V))
        readings = []
        for group in lab.groups.all():
            shift = -0.08 if group.name == "Ruff" else 0.0
            for number, cell in enumerate(group.cells.all()):
                volts = TRUE_V[cell.positive] - TRUE_V[cell.negative] + shift + 0.006 * ((number * 7) % 3 - 1)
                readings.append((cell, f"{volts:.3f}"))
        record_all(readings)
        notes = as_teacher(ada).get(f"/api/labs/{lab.id}/compare").json()["notes"]
        offset = next(note for note in notes if note["code"] == "offset")
        self.assertEqual(offset["title"], "Ruff reads low")
        self.assertIn("no meter check", offset["text"])
        self.assertEqual(MeterCheck.objects.count(), 0)
