"""Kit, safety sheet with sign-off, cards, own materials and the shelf."""

import csv
import io
import json

from django.db import DatabaseError, connection, transaction
from django.test import Client, TestCase, override_settings

from server.base.square_code import qr_path
from server.labs.models import Lab, PlannedCell, SignOff
from server.labs.tests.test_labs import PLAN
from server.materials.models import OwnMaterial
from server.tests.support import as_group, as_teacher, group_of, lab_of, opened_lab, send, teacher

OWN_PLATE = {"name": "Old roof zinc", "symbol": "Zn°", "couple": "Zn2+/Zn", "surface": "zinc"}
OWN_LIQUID = {
    "name": "Gooseberry juice",
    "form": "juice",
    "ph": [2.8, 3.1],
    "conductivity_s_per_m": [0.2, 0.5],
    "chloride_mol_per_l": [0.001, 0.004],
}


class Kits(TestCase):
    def setUp(self):
        self.client = as_teacher(teacher())
        self.lab = send(self.client, "/labs", PLAN | {"electrolytes": ["kcl-0.10", "rhubarb-juice"]}).json()

    def test_the_kit_has_plates_cups_solutions_and_a_day_before(self):
        self.client.put("/api/shelf/zinc", {"count": 1, "price": 0.35}, content_type="application/json")
        kit = self.client.get(f"/api/labs/{self.lab['id']}/kit").json()
        zinc = next(line for line in kit["plates"] if line["key"] == "zinc")
        self.assertEqual((zinc["groups"], zinc["there"], zinc["short"], zinc["price"]), (2, 1, 1, 0.35))
        self.assertAlmostEqual(kit["cost"], 0.35 * zinc["total"])
        self.assertEqual({batch["electrolyte"] for batch in kit["batches"]}, {"kcl-0.10", "rhubarb-juice"})
        self.assertTrue(any("potassium chloride" in item for item in kit["day_before"]))
        self.assertEqual([row["group"] for row in kit["groups"]], ["Tern", "Knot"])

    def test_the_same_kit_as_csv_opens_in_any_spreadsheet(self):
        answer = self.client.get(f"/api/labs/{self.lab['id']}/kit.csv")
        self.assertEqual(answer["Content-Type"], "text/csv; charset=utf-8")
        rows = list(csv.DictReader(io.StringIO(answer.content.decode())))
        self.assertIn("zinc strip", [row["item"] for row in rows])
        salt = next(row for row in rows if row["item"].startswith("potassium chloride"))
        self.assertEqual((salt["kind"], salt["unit"]), ("mixing", "g"))

    def test_a_name_that_looks_like_a_formula_stays_text(self):
        send(self.client, "/materials/electrodes", OWN_PLATE | {"name": "=1+1"})
        key = OwnMaterial.objects.get().key
        lab = send(self.client, "/labs", PLAN | {"electrodes": [key, "copper"]}).json()
        self.assertIn("\u2019=1+1", self.client.get(f"/api/labs/{lab['id']}/kit.csv").content.decode())


class Safety(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.client = as_teacher(self.ada)
        self.lab = lab_of(self.ada, opened=False)
        self.path = f"/labs/{self.lab.id}"

    def sheet(self):
        return self.client.get(f"/api{self.path}/safety").json()

    def sign(self):
        return send(self.client, f"{self.path}/safety", {"fingerprint": self.sheet()["fingerprint"]})

    def revise(self, **changes):
        return self.client.put(f"/api{self.path}", PLAN | changes, content_type="application/json")

    def test_nobody_is_let_in_before_the_sheet_is_signed(self):
        refused = send(self.client, f"{self.path}/open")
        self.assertEqual((refused.status_code, refused.json()["code"]), (409, "not_signed"))
        self.assertEqual(self.sign().json()["signed"], True)
        self.assertEqual(send(self.client, f"{self.path}/open").json()["state"], "open")

    def test_a_change_of_material_asks_again_and_the_history_is_kept(self):
        self.sign()
        self.assertTrue(self.revise().json()["lab"]["signed"], "the same materials are still signed for")
        self.assertFalse(self.revise(electrodes=["zinc", "copper", "nickel"]).json()["lab"]["signed"])
        self.assertEqual(send(self.client, f"{self.path}/open").json()["code"], "not_signed")
        self.assertEqual([one["current"] for one in self.sheet()["history"]], [False])
        self.sign()
        self.assertEqual([one["current"] for one in self.sheet()["history"]], [True, False])
        self.assertEqual(self.sheet()["history"][0]["teacher"], "ada")

    def test_a_sheet_that_changed_while_it_was_read_is_not_signed(self):
        old = self.sheet()["fingerprint"]
        self.revise(age="11-13")
        answer = send(self.client, f"{self.path}/safety", {"fingerprint": old})
        self.assertEqual((answer.status_code, answer.json()["code"]), (409, "sheet_changed"))

    def test_a_refused_plan_can_neither_be_signed_nor_opened(self):
        for changes in ({"electrodes": ["lead", "copper"]}, {"activities": ["supply"]}):
            self.revise(**changes)
            self.assertTrue(self.sheet()["refused"])
            self.assertEqual(self.sign().json()["code"], "refused_by_rule")
            self.assertEqual(send(self.client, f"{self.path}/open").json()["code"], "refused_by_rule")
        self.assertEqual(SignOff.objects.count(), 0)

    def test_what_was_signed_is_kept_as_it_was_read_and_cannot_be_changed(self):
        self.sign()
        kept = SignOff.objects.get()
        self.assertIn("zinc-plates", [row[0] for row in kept.sheet["entries"]])
        for change in ("UPDATE labs_signoff SET fingerprint = ''", "DELETE FROM labs_signoff", "TRUNCATE labs_signoff"):
            with self.assertRaises(DatabaseError), transaction.atomic(), connection.cursor() as cursor:
                cursor.execute(change)

    def test_local_rules_come_first(self):
        self.assertIn("come first", self.sheet()["local_rules"])


class Cards(TestCase):
    def test_a_card_has_the_way_in_the_cells_in_order_and_the_cautions(self):
        ada = teacher()
        lab = lab_of(ada, opened=False)
        shown = as_teacher(ada).get(f"/api/labs/{lab.id}/cards").json()
        self.assertEqual(shown["address"], f"http://testserver/join?code={lab.join_code}")
        self.assertEqual([card["group"] for card in shown["cards"]], ["Tern", "Knot"])
        self.assertEqual([c["short"] for c in shown["cards"][0]["cells"]], [c.cell.short for c in group_of(lab).cells.all()])
        self.assertIn("Eye protection on; wash your hands afterwards.", shown["cards"][0]["cautions"])

    def test_a_card_says_what_a_setting_asks_for(self):
        ada = teacher()
        lab = lab_of(ada, opened=False, varies="surface", conditions=["freshly rubbed", "as it was"])
        cells = as_teacher(ada).get(f"/api/labs/{lab.id}/cards").json()["cards"][0]["cells"]
        said = {cell["condition"]: cell["setting"] for cell in cells}
        self.assertIn("Do not rub", said["as it was"])
        self.assertIn("rub them now", said["freshly rubbed"])

    def test_board_cards_and_projector_name_the_address_that_devices_can_open(self):
        ada = teacher()
        lab = lab_of(ada)
        path = f"/api/labs/{lab.id}/join-link"
        here = as_teacher(ada).get(path, HTTP_HOST="127.0.0.1:8321").json()
        self.assertEqual((here["shown"], here["here_only"]), ("127.0.0.1:8321/join", True))
        with override_settings(ADDRESS="http://10.1.2.3:8321"):
            told = as_teacher(ada).get(path).json()
            card = as_teacher(ada).get(f"/api/labs/{lab.id}/cards").json()
        self.assertEqual((told["shown"], told["here_only"]), ("10.1.2.3:8321/join", False))
        self.assertEqual(told["address"], f"http://10.1.2.3:8321/join?code={lab.join_code}")
        self.assertEqual((card["address"], card["qr_path"]), (told["address"], told["qr_path"]))
        self.assertEqual(as_teacher(teacher("bea")).get(path).status_code, 404)

    def test_the_square_says_the_address(self):
        # The modules are those of the reference encoder; the path is drawn back into modules and compared.
        import segno

        text = "http://127.0.0.1:8321/join?code=LARCH-407"
        path, size = qr_path(text)
        drawn = set()
        for run in path.split("M")[1:]:
            at, length = run.split("h")[0], int(run.split("h")[1].split("v")[0])
            x, y = map(int, at.split())
            drawn |= {(x + k, y) for k in range(length)}
        matrix = segno.make(text, error="m", micro=False).matrix
        self.assertEqual(drawn, {(x + 4, y + 4) for y, row in enumerate(matrix) for x, dark in enumerate(row) if dark})
        self.assertEqual(size, len(matrix) + 8)


class OwnMaterials(TestCase):
    def setUp(self):
        self.ada = teacher()
        self.client = as_teacher(self.ada)

    def mine(self, client, kind):
        return [one for one in client.get("/api/materials").json()[kind] if one["own"]]

    def test_own_materials_are_used_everywhere_like_shipped_ones(self):
        self.assertEqual(send(self.client, "/materials/electrodes", OWN_PLATE).status_code, 201)
        self.assertEqual(send(self.client, "/materials/electrolytes", OWN_LIQUID).status_code, 201)
        plate, liquid = self.mine(self.client, "electrodes")[0], self.mine(self.client, "electrolytes")[0]
        self.assertAlmostEqual(plate["table_v"], -0.76, delta=0.01)
        made = send(
            self.client, "/labs", PLAN | {"electrodes": [plate["key"], "copper"], "electrolytes": [liquid["key"]]}
        ).json()
        for path, said in [("", "Zn°"), ("/kit", "Old roof zinc"), ("/safety", "Gooseberry juice"), ("/cards", "Zn°")]:
            shown = self.client.get(f"/api/labs/{made['id']}{path}").json()
            self.assertIn(said, json.dumps(shown, ensure_ascii=False))
        self.assertIn("food", [e["key"] for e in self.client.get(f"/api/labs/{made['id']}/safety").json()["entries"]])
        lab = opened_lab_of(self.ada, made["id"])
        device = as_group(group_of(lab))
        self.assertEqual([one["name"] for one in self.mine(device, "electrodes")], ["Old roof zinc"])
        cell = device.get("/api/bench").json()["cells"][0]
        entry = {"id": "6f0d7a4e-6a53-4f4f-9d2b-0c8d2f8a6f11", "cell_id": cell["id"], "red": cell["positive"],
                 "black": cell["negative"], "text": "0.94", "unit": "V"}  # fmt: skip
        self.assertEqual(send(device, "/bench/readings", entry).status_code, 200)
        compared = self.client.get(f"/api/labs/{lab.id}/compare").json()["electrolytes"][0]
        self.assertEqual(compared["electrolyte"], liquid["key"])

    def test_nobody_else_sees_or_retires_them(self):
        send(self.client, "/materials/electrodes", OWN_PLATE)
        key = OwnMaterial.objects.get().key
        bob = as_teacher(teacher("bob"))
        self.assertEqual((self.mine(bob, "electrodes"), self.mine(Client(), "electrodes")), ([], []))
        self.assertEqual(send(bob, f"/materials/{key}/retire").status_code, 404)
        self.assertEqual(send(bob, "/labs", PLAN | {"electrodes": [key, "copper"]}).json()["code"], "unknown_material")
        for path in ("/materials/electrodes", "/materials/electrolytes", f"/materials/{key}/retire"):
            self.assertEqual(send(Client(), path, OWN_PLATE).status_code, 401)
        self.assertEqual(
            Client().put("/api/shelf/zinc", {"count": 1, "price": 1}, content_type="application/json").status_code, 401
        )

    def test_a_change_retires_the_old_one_which_old_labs_keep(self):
        send(self.client, "/materials/electrodes", OWN_PLATE)
        old = OwnMaterial.objects.get().key
        lab = send(self.client, "/labs", PLAN | {"electrodes": [old, "copper"]}).json()
        changed = send(self.client, "/materials/electrodes", OWN_PLATE | {"symbol": "Zn*", "replaces": old})
        self.assertEqual(changed.status_code, 201)
        shown = {one["symbol"]: one["retired"] for one in self.mine(self.client, "electrodes")}
        self.assertEqual(shown, {"Zn°": True, "Zn*": False})
        self.assertIn("Zn°", json.dumps(self.client.get(f"/api/labs/{lab['id']}").json(), ensure_ascii=False))

    def test_bad_materials_are_refused_with_a_sentence_and_nothing_is_kept(self):
        for path, body, status in [
            ("electrodes", OWN_PLATE | {"couple": "Unobtainium"}, 422), ("electrodes", OWN_PLATE | {"name": " "}, 422),
            ("electrodes", OWN_PLATE | {"name": "zinc"}, 409), ("electrodes", OWN_PLATE | {"symbol": ""}, 422),
            ("electrodes", OWN_PLATE | {"surface": "cheese"}, 422), ("electrolytes", OWN_LIQUID | {"form": "fog"}, 422),
            ("electrolytes", OWN_LIQUID | {"ph": [3.1, 2.8]}, 422), ("electrolytes", OWN_LIQUID | {"ph": [3.1, 99]}, 422),
            ("electrolytes", OWN_LIQUID | {"conductivity_s_per_m": [0, 0.5]}, 422),
        ]:  # fmt: skip
            with self.subTest(body=body):
                answer = send(self.client, f"/materials/{path}", body)
                self.assertEqual(answer.status_code, status, answer.content)
                self.assertTrue(answer.json()["message"])
        self.assertEqual(OwnMaterial.objects.count(), 0)

    def test_the_shelf_takes_counts_and_prices_of_known_things_only(self):
        put = {"content_type": "application/json"}
        self.assertEqual(self.client.put("/api/shelf/cheese", {"count": 1, "price": None}, **put).status_code, 404)
        self.assertEqual(self.client.put("/api/shelf/zinc", {"count": -1, "price": None}, **put).status_code, 422)
        self.client.put("/api/shelf/zinc", {"count": 3, "price": 0.5}, **put)
        self.client.put("/api/shelf/zinc", {"count": None, "price": 0.5}, **put)
        zinc = next(e for e in self.client.get("/api/materials").json()["electrodes"] if e["key"] == "zinc")
        self.assertEqual(zinc["shelf"], {"count": None, "price": 0.5})


def opened_lab_of(owner, lab_id):
    """Open the lab of that number, its own materials known."""
    from server.materials.own import materials_of

    with materials_of(owner):
        lab = opened_lab(owner, Lab.objects.get(id=lab_id))
    assert PlannedCell.objects.filter(group__lab=lab).exists()
    return lab


class ChangedMaterials(TestCase):
    PLATE = {"name": "Old roof zinc", "symbol": "Zn°", "couple": "Zn2+/Zn", "surface": "zinc", "prepare": "Wash."}
    LIQUID = {"name": "Rain", "form": "liquid", "ph": [5, 6], "conductivity_s_per_m": [0.001, 0.01],
              "chloride_mol_per_l": [0, 0.001], "copper_mol_per_l": 0.001, "zinc_mol_per_l": 0}  # fmt: skip

    def setUp(self):
        self.client = as_teacher(teacher())

    def own(self):
        return self.client.get("/api/materials/own").json()

    def test_a_change_makes_a_new_one_that_takes_its_place_and_old_labs_keep_theirs(self):
        send(self.client, "/materials/electrodes", self.PLATE)
        before = self.own()["electrodes"][0]
        self.assertEqual({key: before[key] for key in self.PLATE}, self.PLATE)
        put = {"content_type": "application/json"}
        self.client.put(f"/api/shelf/{before['key']}", {"count": 7, "price": 1.5}, **put)
        lab = send(self.client, "/labs", PLAN | {"electrodes": [before["key"], "zinc", "copper"]}).json()
        changed = self.PLATE | {"prepare": "Brush.", "replaces": before["key"]}
        self.assertEqual(send(self.client, "/materials/electrodes", changed).status_code, 201)
        after = self.own()["electrodes"]
        self.assertEqual([one["prepare"] for one in after], ["Brush."])
        self.assertNotEqual(after[0]["key"], before["key"])
        listed = {electrode["key"]: electrode for electrode in self.client.get("/api/materials").json()["electrodes"]}
        self.assertEqual(listed[after[0]["key"]]["shelf"], {"count": 7.0, "price": 1.5})
        self.assertTrue(listed[before["key"]]["retired"])
        kept = self.client.get(f"/api/labs/{lab['id']}").json()["settings"]["electrodes"]
        self.assertEqual(kept, [before["key"], "zinc", "copper"])

    def test_a_liquid_comes_back_as_it_was_entered(self):
        self.assertEqual(send(self.client, "/materials/electrolytes", self.LIQUID).status_code, 201)
        back = self.own()["electrolytes"][0]
        self.assertEqual({key: back[key] for key in self.LIQUID}, self.LIQUID)

    def test_nobody_sees_or_replaces_what_is_another_teachers(self):
        send(self.client, "/materials/electrodes", self.PLATE)
        key = self.own()["electrodes"][0]["key"]
        eve = as_teacher(teacher("eve"))
        self.assertEqual(eve.get("/api/materials/own").json(), {"electrodes": [], "electrolytes": []})
        self.assertEqual(send(eve, "/materials/electrodes", self.PLATE | {"replaces": key}).status_code, 404)
        self.assertEqual(Client().get("/api/materials/own").status_code, 401)
