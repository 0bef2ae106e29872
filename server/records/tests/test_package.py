"""A lab as a data package: what goes out comes in again with the same numbers; what is faulty is named and keeps nothing."""

import csv
import io
import json
import uuid
import zipfile
from tempfile import TemporaryDirectory

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase
from frictionless import Package

from server.entries.models import Photo, Reading
from server.entries.tests.pictures import jpeg
from server.findings.outputs import compare_out
from server.findings.release import release
from server.labs.models import Lab, PlannedCell
from server.materials.models import OwnMaterial
from server.materials.own import materials_of
from server.materials.tests.test_making import SALTED
from server.people.models import Group
from server.records.gone import hanging_on_lab
from server.records.package.tables import TABLES
from server.tests.support import as_group, as_teacher, cell_of, group_of, lab_of, record, record_all, send, teacher

VOLTS = ("0.94", "0.953", "0.91", "0.52", "0.517", "0.44", "0.4301", "0.96", "0.93")
NOT_OF_A_LAB = {"bench.keptsample"}


def measured(owner, **changes):
    """A lab with numbers of every kind, closed."""
    lab = lab_of(owner, short_circuit=True, load_ohm=1000.0, packs=True, **changes)
    release(actor=owner, lab_id=lab.id, parts=("compare", "claims", "notebook"))
    cells = PlannedCell.objects.filter(group__lab=lab).order_by("group__position", "position")
    record_all((cell, VOLTS[(place + 2 * nth) % len(VOLTS)]) for place, cell in enumerate(cells) for nth in range(3))
    tern = group_of(lab)
    device, cell = as_group(tern), cell_of(tern)
    wrong = record(cell, "9.4")
    right = record(cell, "0.94", corrects=wrong.id, reason="=slipped point")
    send(device, "/bench/meter-checks", {"id": str(uuid.uuid4()), "leads": "0.01", "dry": "1.58"})
    send(
        device,
        "/bench/observations",
        {"id": str(uuid.uuid4()), "cell_id": str(cell.id), "text": "bubbles, “fizz”\nand more"},
    )
    load = {"id": str(uuid.uuid4()), "cell_id": str(cell.id), "kind": "short", "text": "1.23", "unit": "mA"}
    send(device, "/bench/under-load", load)
    claim = {
        "id": str(uuid.uuid4()), "cause": "film", "reasoning": "It jumped.", "cited": [str(right.id)],
        "cell": {"negative": cell.negative, "electrolyte": cell.electrolyte, "positive": cell.positive},
    }  # fmt: skip
    send(device, "/bench/claims", claim)
    pack = str(uuid.uuid4())
    send(device, "/bench/packs", {"id": pack, "load": "led-red"})
    for body in ({"kind": "cell", "position": 1, "negative": "zinc", "electrolyte": "rhubarb-juice", "positive": "copper"},
                 {"kind": "alone", "position": 1, "text": "0.931", "unit": "V"}):  # fmt: skip
        send(device, "/bench/pack-entries", {"id": str(uuid.uuid4()), "pack_id": pack, **body})
    cites = [{"kind": "reading", "id": str(right.id)}, {"kind": "claim", "id": claim["id"]}, {"kind": "pack", "id": pack}]
    send(
        device, "/bench/words", {"id": str(uuid.uuid4()), "part": "conclusion", "text": "Lower.\n\nBy far.", "cites": cites}
    )
    desk = as_teacher(owner)
    aside = Reading.objects.filter(cell__group__lab=lab).last()
    send(desk, f"/readings/{aside.id}/aside", {"reason": "held wrongly"})
    send(desk, f"/claims/{claim['id']}/answer", {"text": "How far?", "marks": {"Claim": 1.5}, "shown": False})
    send(desk, f"/labs/{lab.id}/close")
    lab.refresh_from_db()
    return lab


def packed(client, lab):
    answer = client.get(f"/api/labs/{lab.id}/package.zip")
    assert answer.status_code == 200, answer.content
    return answer.content


def bring(client, content):
    file = SimpleUploadedFile("lab.zip", content, content_type="application/zip")
    return client.post("/api/labs/import-package", {"file": file})


def changed(content, **files):
    """A package with some of its files replaced."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(content)) as old, zipfile.ZipFile(out, "w") as new:
        for name in old.namelist():
            key = name.partition(".")[0]
            new.writestr(name, files[key](old.read(name).decode()) if key in files else old.read(name))
    return out.getvalue()


def without_ids(value):
    """An answer without what is new in another place: ids."""
    if isinstance(value, dict):
        return {key: without_ids(one) for key, one in value.items() if key not in ("id", "reading")}
    return [without_ids(one) for one in value] if isinstance(value, list) else value


class RoundTrip(TestCase):
    @classmethod
    def setUpTestData(cls):
        cls.ada, cls.bea = teacher(), teacher("bea")
        cls.lab = measured(cls.ada)
        cls.content = packed(as_teacher(cls.ada), cls.lab)

    def brought(self, content=None):
        answer = bring(as_teacher(self.bea), self.content if content is None else content)
        self.assertEqual(answer.status_code, 201, answer.content)
        return Lab.objects.get(id=answer.json()["id"])

    def test_every_number_of_the_result_is_the_same_to_the_last_digit(self):
        there, here = (json.loads(compare_out(lab, {}).model_dump_json()) for lab in (self.lab, self.brought()))
        self.assertEqual(without_ids(there), without_ids(here))

    def test_a_package_from_before_there_were_levels_shows_all_that_it_did(self):
        def older(text):
            told = json.loads(text)
            del told["planned"]["level"]
            return json.dumps(told)

        self.assertEqual(self.brought().level, "middle")
        self.assertEqual(self.brought(changed(self.content, lab=older)).level, "upper")

    def test_notebook_claims_and_packs_are_the_same(self):
        new = self.brought()
        there = as_teacher(self.ada).get(f"/api/groups/{group_of(self.lab).id}/notebook").json()
        here = as_teacher(self.bea).get(f"/api/groups/{Group.objects.get(lab=new, name='Tern').id}/notebook").json()
        for part in ("packs", "meter", "missing", "handed_in_at"):
            self.assertEqual(without_ids(there[part]), without_ids(here[part]), part)
        self.assertEqual(len(here["parts"][3]["cites"]), 3)
        readings = {one["id"] for cell in here["cells"] for one in cell["readings"]}
        self.assertIn(here["parts"][3]["cites"][0]["id"], readings)
        self.assertEqual(here["claims"][0]["cited"][0]["text"], there["claims"][0]["cited"][0]["text"])
        self.assertEqual(here["claims"][0]["says"], there["claims"][0]["says"])
        self.assertEqual(here["claims"][0]["answer"], there["claims"][0]["answer"])
        self.assertEqual(
            [one["reason"] for cell in here["cells"] for one in cell["readings"] if one["reason"]], ["=slipped point"]
        )

    def test_a_package_of_what_came_in_is_the_same_package_but_for_ids(self):
        again = packed(as_teacher(self.bea), self.brought())
        names = zipfile.ZipFile(io.BytesIO(self.content)).namelist()
        self.assertEqual(names, zipfile.ZipFile(io.BytesIO(again)).namelist())
        rows = [
            list(csv.reader(io.StringIO(zipfile.ZipFile(io.BytesIO(one)).read("readings.csv").decode())))
            for one in (self.content, again)
        ]
        ids = {rows[0][0].index(name) for name in ("id", "cell", "corrects")}
        strip = [[[field for i, field in enumerate(row) if i not in ids] for row in table] for table in rows]
        self.assertEqual(*strip)

    def test_it_is_another_lab_with_its_own_code_pins_and_teacher(self):
        new = self.brought()
        self.assertEqual((new.owner, new.state), (self.bea, "closed"))
        self.assertNotEqual(new.join_code, self.lab.join_code)
        with zipfile.ZipFile(io.BytesIO(self.content)) as zipped:
            every = b"".join(zipped.read(name) for name in zipped.namelist()).decode()
        for secret in (self.lab.join_code, group_of(self.lab).pin, self.ada.username):
            self.assertNotRegex(every, rf"\b{secret}\b")

    def test_words_that_a_spreadsheet_would_run_are_marked_in_the_file(self):
        with zipfile.ZipFile(io.BytesIO(self.content)) as zipped:
            self.assertIn("\u2019=slipped point", zipped.read("readings.csv").decode())

    def test_a_package_of_an_older_pipette_lacks_columns_and_comes_in(self):
        def lacks(text):
            rows = list(csv.DictReader(io.StringIO(text)))
            out = io.StringIO()
            writer = csv.DictWriter(
                out, [n for n in rows[0] if n not in ("after_closing", "device_said")], extrasaction="ignore"
            )
            writer.writeheader()
            writer.writerows(rows)
            return out.getvalue()

        new = self.brought(changed(self.content, readings=lacks))
        self.assertEqual(
            Reading.objects.filter(cell__group__lab=new).count(), Reading.objects.filter(cell__group__lab=self.lab).count()
        )

    def test_a_group_takes_away_its_own_part_only(self):
        record_of = Reading.objects.filter(cell__group__lab=self.lab)
        content = as_group(group_of(self.lab)).get("/api/bench/package.zip").content
        new = self.brought(content)
        self.assertEqual([group.name for group in new.groups.all()], ["Tern"])
        own = record_of.filter(cell__group__name="Tern")
        self.assertEqual(Reading.objects.filter(cell__group__lab=new).count(), own.count())

    def test_strangers_get_no_package(self):
        self.assertEqual(as_teacher(self.bea).get(f"/api/labs/{self.lab.id}/package.zip").status_code, 404)

    def test_everything_that_hangs_on_a_lab_is_in_the_package(self):
        held = {table.model for table in TABLES}
        away = {"SignOff", "EarlierPlan", "GroupSession", "Share", "TableIn", "Removal", "Homework", "Tried"}
        away |= {"ClassQuestion", "ClassAnswer"}
        hanging = {model for model in hanging_on_lab() if model.__name__ not in away}  # not of the record, or personal
        self.assertEqual(hanging - held, set())


class Validated(TestCase):
    def test_the_reference_library_finds_nothing_wrong_with_it(self):
        lab = measured(teacher())
        content = packed(as_teacher(lab.owner), lab)
        with TemporaryDirectory() as folder, zipfile.ZipFile(io.BytesIO(content)) as zipped:
            zipped.extractall(folder)
            report = Package(f"{folder}/datapackage.json").validate()
        self.assertTrue(report.valid, report.flatten(["name", "rowNumber", "fieldName", "message"])[:5])
        self.assertGreater(report.stats["tasks"], 10)


class Refused(TestCase):
    @classmethod
    def setUpTestData(cls):
        cls.ada = teacher()
        cls.lab = measured(cls.ada)
        cls.content = packed(as_teacher(cls.ada), cls.lab)

    def assert_refused(self, content, *words):
        before = Lab.objects.count(), Reading.objects.count(), OwnMaterial.objects.count()
        answer = bring(as_teacher(self.ada), content)
        self.assertIn(answer.status_code, (413, 422), answer.content)
        said = json.dumps(answer.json(), ensure_ascii=False)
        for word in ("Nothing was brought in", *words):
            self.assertIn(word, said)
        self.assertEqual(before, (Lab.objects.count(), Reading.objects.count(), OwnMaterial.objects.count()))

    def test_what_is_no_package_is_told_so(self):
        self.assert_refused(b"PK nothing", "no zip")
        other = io.BytesIO()
        with zipfile.ZipFile(other, "w") as zipped:
            zipped.writestr("datapackage.json", '{"name": "else"}')
        self.assert_refused(other.getvalue(), "not one of a lab of Pipette")

    def test_a_cell_of_a_package_holds_no_more_readings_than_a_bench_takes(self):
        def crowded(text):
            heading, first, *rest = text.splitlines()
            fields = first.split(",")
            place = heading.split(",").index("id")
            more = [",".join([*fields[:place], str(uuid.uuid4()), *fields[place + 1 :]]) for _ in range(60)]
            return "\n".join([heading, first, *rest, *more]) + "\n"

        self.assert_refused(changed(self.content, readings=crowded), "60 readings at most")

    def test_a_newer_package_is_refused_before_anything_is_read(self):
        self.assert_refused(
            changed(self.content, datapackage=lambda t: t.replace('"version": 1', '"version": 2')), "newer Pipette"
        )

    def test_faulty_rows_are_named_by_table_and_line(self):
        for table, old, new, says in (
            ("readings", ",copper,zinc,", ",kryptonite,zinc,", "kryptonite"),
            ("readings", ",copper,zinc,", ",zinc,zinc,", "same plate"),
            ("readings", ",0.001,", ",-0.001,", "above zero"),
            ("readings", ",0.001,", ",nan,", "resolution_v"),
            ("claims", ",film,", ",magic,", "magic"),
            ("packs", "led-red", "laser", "laser"),
            ("words", ",conclusion,", ",poem,", "part"),
        ):
            with self.subTest(table=table, new=new):
                self.assert_refused(
                    changed(self.content, **{table: lambda t, o=old, n=new: t.replace(o, n, 1)}), says, f"{table}.csv"
                )

    def test_a_row_of_a_cell_that_is_not_there_is_refused(self):
        cells = lambda text: "\n".join(text.splitlines()[:1] + text.splitlines()[2:]) + "\n"  # noqa: E731
        self.assert_refused(changed(self.content, cells=cells), "no such row")

    def test_a_torn_row_is_refused_with_its_line(self):
        self.assert_refused(changed(self.content, readings=lambda t: t + "a,b\n"), "2 fields")

    def test_something_not_in_json_is_refused(self):
        self.assert_refused(changed(self.content, lab=lambda t: t[:-5]), "lab.json")
        self.assert_refused(changed(self.content, lab=lambda t: t.replace('"minutes": 45', '"minutes": "soon"')), "minutes")
        self.assert_refused(changed(self.content, lab=lambda t: "[" * 100_000), "lab.json")

    def test_a_file_that_unpacks_to_more_than_a_lab_can_be_is_not_unpacked(self):
        bomb = io.BytesIO()
        with zipfile.ZipFile(bomb, "w", zipfile.ZIP_DEFLATED) as zipped:
            for nth in range(7):
                zipped.writestr(f"{nth}.csv", b"0" * 50_000_000)
        self.assert_refused(bomb.getvalue(), "unpacks")


class WithMore(TestCase):
    def test_photographs_come_along_and_a_removed_one_stays_removed(self):
        ada = teacher()
        lab = lab_of(ada)
        cell, device = cell_of(group_of(lab)), as_group(group_of(lab))
        for _ in range(2):
            picture = SimpleUploadedFile("a.jpg", jpeg(), content_type="image/jpeg")
            answer = device.post("/api/bench/photos", {"id": str(uuid.uuid4()), "cell_id": str(cell.id), "photo": picture})
            self.assertEqual(answer.status_code, 200, answer.content)
        gone = Photo.objects.first()
        device.delete(f"/api/photos/{gone.id}")
        desk = as_teacher(ada)
        new = Lab.objects.get(id=bring(desk, packed(desk, lab)).json()["id"])
        photos = Photo.objects.filter(cell__group__lab=new)
        self.assertEqual((photos.count(), photos.filter(removed__isnull=False).count()), (2, 1))
        kept = photos.get(removed__isnull=True)
        self.assertEqual(desk.get(f"/api/photos/{kept.id}").status_code, 200)
        self.assertEqual(desk.get(f"/api/photos/{photos.get(removed__isnull=False).id}").status_code, 404)

    def own_lab(self, ada):
        """A lab in a liquid of the teacher's own that is made from another of their own."""
        desk = as_teacher(ada)
        first = send(desk, "/materials/made", SALTED | {"name": "Lemon and salt"}).json()["key"]
        second = send(desk, "/materials/made", SALTED | {"base": first, "name": "Saltier"}).json()["key"]
        with materials_of(ada):
            lab = lab_of(ada, electrolytes=["lemon-juice", second])
            record_all((cell, "0.93") for cell in PlannedCell.objects.filter(group__lab=lab))
        return lab, {first, second}

    def test_own_liquids_come_along_with_what_they_are_made_from_and_stay_under_their_keys(self):
        ada, bea = teacher(), teacher("bea")
        lab, keys = self.own_lab(ada)
        content = packed(as_teacher(ada), lab)
        before = as_teacher(ada).get(f"/api/labs/{lab.id}/compare").json()["electrolytes"]
        OwnMaterial.objects.all().delete()  # as on another installation
        desk = as_teacher(bea)
        brought = bring(desk, content)
        self.assertEqual(brought.status_code, 201, brought.content)
        self.assertEqual({(row.key, row.owner) for row in OwnMaterial.objects.all()}, {(key, bea) for key in keys})
        after = desk.get(f"/api/labs/{brought.json()['id']}/compare").json()["electrolytes"]
        self.assertEqual(without_ids(before), without_ids(after))
        self.assertEqual(bring(desk, content).status_code, 201)  # once more: the liquids are here already
        self.assertEqual(OwnMaterial.objects.count(), 2)

    def test_an_own_liquid_whose_key_is_another_liquids_here_is_refused(self):
        ada = teacher()
        lab, _ = self.own_lab(ada)
        content = packed(as_teacher(ada), lab)
        forged = changed(content, materials=lambda text: text.replace('"table-salt"', '"sugar"').replace("0.3", "0.4"))
        answer = bring(as_teacher(ada), forged)
        self.assertEqual(answer.status_code, 422)
        self.assertIn("materials.json", answer.json()["message"])
