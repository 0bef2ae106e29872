"""The tables load whole, and a faulty table is refused with the place of the fault."""

import subprocess
import sys
import unittest
from collections import Counter
from dataclasses import replace

from galvanic.cells import Cell
from galvanic.chemistry.gap import explain
from galvanic.errors import BadTable, NoTableEntry, UnknownMaterial
from galvanic.reference import catalogue, reader
from galvanic.reference.additions import additions
from galvanic.reference.names import find

GOOD = """
edition = "x"
[[half_reaction]]
key = "A+/A"
equation = "A+ + e- = A"
electrons = 1
oxidised = { "A+" = 1 }
reduced = {}
e_v = { value = 0.5, u = 0.001, source = "handbook", locator = "row A" }
"""


def read(text):
    return reader.read_table("half_reactions", "half_reaction", catalogue.build_half_reaction, text)


class Tables(unittest.TestCase):
    def test_a_good_row_is_read_with_its_source(self):
        row = read(GOOD)["A+/A"]
        self.assertEqual((row.e_v.value, row.e_v.u, row.e_v.source), (0.5, 0.001, "handbook"))

    def test_faults_are_refused_by_name(self):
        for fault, text in {
            "no source": GOOD.replace('source = "handbook", ', ""),
            "no locator": GOOD.replace(', locator = "row A"', ""),
            "no u": GOOD.replace("u = 0.001, ", ""),
            "not in sources.toml": GOOD.replace('"handbook"', '"hearsay"'),
            "stands twice": GOOD + GOOD.split('edition = "x"')[1],
            "unknown keys": GOOD + "volts = 3\n",
            "electrons is missing": GOOD.replace("electrons = 1\n", ""),
            "e_v is missing": GOOD.replace("e_v =", "e ="),  # a number without its unit in the name
            "edition is missing": GOOD.replace('edition = "x"', ""),
            "u must be": GOOD.replace("0.001", "-1"),
        }.items():
            with self.subTest(fault), self.assertRaisesRegex(BadTable, fault):
                read(text)

    def test_all_couples_of_the_brief_are_there(self):
        for metal in [
            "Li",
            "K",
            "Ca",
            "Na",
            "Mg",
            "Al",
            "Mn",
            "Zn",
            "Cr",
            "Fe",
            "Cd",
            "Co",
            "Ni",
            "Sn",
            "Pb",
            "Cu",
            "Ag",
            "Hg",
            "Pd",
            "Pt",
            "Au",
        ]:
            self.assertTrue(any(key.endswith(f"/{metal}") for key in catalogue.half_reactions()), metal)
        for key in ["H+/H2", "O2/H2O", "O2/OH-", "H2O/H2 OH-", "H2O2/H2O", "O2/H2O2", "HSO5-/HSO4-", "S2O8 2-/SO4 2-"]:
            self.assertIn(key, catalogue.half_reactions())
        for key in ["MnO2/Mn2+", "Fe3+/Fe2+", "AgCl/Ag", "Hg2Cl2/Hg", "CuCl2-/Cu", "Cu2O/Cu", "CuO/Cu2O", "ZnO/Zn"]:
            self.assertIn(key, catalogue.half_reactions())
        for key in ["Zn(OH)4 2-/Zn", "PbSO4/Pb", "PbO2/PbSO4"]:
            self.assertIn(key, catalogue.half_reactions())

    def test_a_value_from_memory_is_never_without_a_published_source(self):
        for row in catalogue.half_reactions().values():
            self.assertIn(reader.sources()[row.e_v.source].kind, {"published", "definition"})

    def test_all_tables_are_of_one_edition(self):
        self.assertRegex(reader.edition(), r"^\d{4}-\d{2}$")

    def test_graphite_has_no_table_value_and_says_why(self):
        with self.assertRaisesRegex(NoTableEntry, "does not dissolve"):
            catalogue.electrodes()["graphite"].table_v()


class Names(unittest.TestCase):
    def test_case_spaces_and_common_names_do_not_matter(self):
        for typed, key in {
            "ZN": "zinc",
            " Galvanised  Nail": "galvanized-nail",
            "carbon": "graphite",
            "Al foil": "aluminium-foil",
        }.items():
            self.assertEqual(find(typed, catalogue.electrodes(), "electrode").key, key)
        self.assertEqual(find("lime", catalogue.electrolytes(), "electrolyte").key, "lime-juice")

    def test_no_name_means_two_things(self):
        for table in (catalogue.electrodes(), catalogue.electrolytes()):
            words = [word.casefold() for row in table.values() for word in (row.name, *row.synonyms)]
            self.assertEqual(len(words), len(set(words)))

    def test_no_key_means_two_things(self):
        keys = [*catalogue.electrodes(), *catalogue.electrolytes(), *additions()]
        self.assertEqual([key for key, times in Counter(keys).items() if times > 1], [])

    def test_an_unknown_name_gives_the_nearest(self):
        with self.assertRaises(UnknownMaterial) as caught:
            find("alumnium", catalogue.electrodes(), "electrode")
        self.assertEqual(caught.exception.nearest[0], "aluminium")


class Own(unittest.TestCase):
    def setUp(self):
        self.asked = 0
        self.foil = replace(catalogue.electrodes()["aluminium"], key="own-foil", name="our foil")

    def own(self):
        self.asked += 1
        return [self.foil], []

    def test_own_materials_stand_beside_the_shipped_ones_inside_only_and_are_asked_for_once_when_needed(self):
        with catalogue.also(self.own):
            self.assertEqual(self.asked, 0)
            self.assertEqual(catalogue.electrodes()["own-foil"].name, "our foil")
            self.assertIn("zinc", catalogue.electrodes())
            self.assertNotIn("own-foil", catalogue.electrolytes())
        self.assertEqual(self.asked, 1)
        self.assertNotIn("own-foil", catalogue.electrodes())

    def test_own_materials_can_be_nested_and_what_is_asked_may_fail_without_a_trace(self):
        def broken():
            raise OSError("no shelf")

        with catalogue.also(self.own):
            with self.assertRaises(OSError), catalogue.also(broken):
                catalogue.electrodes()
            self.assertIn("own-foil", catalogue.electrodes())

    def test_what_is_kept_of_one_catalogue_is_no_answer_for_another(self):
        """Two teachers' materials with the same key: each gets the account of their own."""
        found = []
        for surface in ("aluminium", "zinc"):
            own = replace(catalogue.electrodes()[surface], key="own-plate", name="our plate")
            with catalogue.also(lambda own=own: ([own], [])):
                found.append(explain(Cell("own-plate", "salt-water", "copper"), 0.7).start_v)
        for volts_v, metal in zip(found, ("aluminium", "zinc"), strict=True):
            expected = Cell(metal, "salt-water", "copper").table_v
            self.assertAlmostEqual(volts_v, expected, places=9)

    def test_a_key_that_is_in_use_is_refused(self):
        self.foil = replace(self.foil, key="zinc")
        with catalogue.also(self.own), self.assertRaisesRegex(BadTable, "zinc stands twice"):
            catalogue.electrodes()


class Alone(unittest.TestCase):
    def test_the_core_loads_without_django_or_scipy_start_up(self):
        code = (
            "import sys, pkgutil, importlib; sys.modules['django'] = None; import galvanic\n"
            "names = [m.name for m in pkgutil.walk_packages(galvanic.__path__, 'galvanic.') if '.tests' not in m.name]\n"
            "assert len(names) > 25, names\n"
            "for name in names:\n    name.endswith('__main__') or importlib.import_module(name)\n"
            "assert 'scipy' not in sys.modules"
        )
        subprocess.run([sys.executable, "-c", code], check=True)
