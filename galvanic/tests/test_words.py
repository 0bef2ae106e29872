"""What the core says in another language: whole, with the same values, and for whoever asks."""

import gettext
import re
import threading
import unittest
from pathlib import Path
from unittest import mock

from babel.messages.pofile import read_po

import galvanic
from galvanic import words
from galvanic.command.sentences import sentences
from galvanic.condition import condition_of
from galvanic.errors import UnknownMaterial
from galvanic.reference.additions import additions
from galvanic.reference.catalogue import electrodes, electrolytes
from galvanic.reference.further_tables import loads
from galvanic.reference.names import find
from galvanic.tests.cases import CASES
from galvanic.tests.test_approved import KEPT, near
from galvanic.words import LANGUAGES, in_all_languages, lower, mark, number, say, say_n, speaking

SAID = ("plans", "safety", "classes", "turned", "changed", "checks", "packs", "explained", "pressed", "drills")
"""Cases of which most lines are sentences."""

CATALOGUE = Path(galvanic.__file__).parent / "locale" / "de.po"
NUMBER = re.compile(r"\d+(?:[.,]\d+)?")


def numbers_of(line):
    return sorted((found.replace(",", ".") for found in NUMBER.findall(line)), key=float)


class Words(unittest.TestCase):
    def test_english_is_what_stands_in_the_code(self):
        self.assertEqual(say("{volts:.2f} V", volts=1.5), "1.50 V")
        self.assertEqual(say_n("{n} cell", "{n} cells", 1), "1 cell")
        self.assertEqual(say_n("{n} cell", "{n} cells", 0), "0 cells")
        self.assertEqual(mark("{as} it is"), "{as} it is")
        self.assertEqual(say("{as} it is"), "{as} it is")
        self.assertEqual(say(""), "")
        self.assertEqual((lower("A cell"), lower("")), ("a cell", ""))

    def test_german_has_its_words_its_plural_and_its_decimal_sign(self):
        with speaking("de"):
            self.assertEqual(say_n("{n} cell", "{n} cells", 1), "1 Zelle")
            self.assertEqual(say_n("{n} cell", "{n} cells", 0), "0 Zellen")
            self.assertEqual(number(-1.5, "+.2f"), "-1,50")
            self.assertEqual(say("no such sentence: {volts:.1f} V of {n} at {who}", volts=1.5, n=3, who="a.b"),
                             "no such sentence: 1,5 V of 3 at a.b")  # fmt: skip
            self.assertEqual(lower("Zelle"), "Zelle")
        self.assertEqual(number(1.5, ".1f"), "1.5")

    def test_a_language_nobody_speaks_is_refused_and_the_one_around_stays(self):
        with speaking("de"):
            with self.assertRaises(KeyError), speaking("xx"):
                pass
            self.assertEqual(say_n("{n} cell", "{n} cells", 2), "2 Zellen")

    def test_threads_speak_each_their_own(self):
        heard = []
        with speaking("de"):
            other = threading.Thread(target=lambda: heard.append(number(0.5, "g")))
            other.start()
            other.join()
            heard.append(number(0.5, "g"))
        self.assertEqual(heard, ["0.5", "0,5"])


class Whole(unittest.TestCase):
    def test_no_sentence_of_the_core_is_without_a_translation(self):
        with CATALOGUE.open("rb") as file:
            translated = [one for one in read_po(file, locale="de") if one.id and one.string]
        there = {text for one in translated for text in ([one.id] if isinstance(one.id, str) else one.id)}
        left = [
            f"{place}: {text}"
            for place, text in sentences()
            if text[-1] in ".?!…" and text not in there and not place.startswith("reference/")
        ]
        self.assertEqual(left, [])

    def test_all_that_is_approved_in_english_says_the_same_numbers_in_german(self):
        for name in SAID:
            english = (KEPT / f"{name}.txt").read_text(encoding="utf-8").splitlines()
            with speaking("de"):
                german = list(CASES[name]())
            self.assertEqual(len(german), len(english), name)
            for one, other in zip(english, german, strict=True):
                here, there = numbers_of(one), numbers_of(other)
                self.assertTrue(len(here) == len(there) and all(map(near, here, there)), f"{one}\n{other}")


class Marked(gettext.NullTranslations):
    """A language whose words are the English ones, marked."""

    def gettext(self, message):
        return f"\N{WHITE SQUARE}{message}"

    def ngettext(self, msgid1, msgid2, n):
        return f"\N{WHITE SQUARE}{msgid1 if n == 1 else msgid2}"


class Outside(unittest.TestCase):
    def test_every_word_of_notes_and_findings_comes_through_a_catalogue(self):
        said = re.compile(r"\.(title|text|why|label|do|test|ask|reason) (?=.*[A-Za-z]{3})")
        left = []
        with (
            mock.patch.dict(words.LANGUAGES, xx="marked"),
            mock.patch.dict(words.DECIMAL_SIGN, xx="."),
            mock.patch.object(words, "_catalogue", lambda _code: Marked()),
            words.speaking("xx"),
        ):
            for name in ("plans", "safety", "checks", "packs", "runs", "explained"):
                lines = [line for line in CASES[name]() if said.search(line)]
                self.assertTrue(lines, name)
                left += [line for line in lines if "\N{WHITE SQUARE}" not in line]
        self.assertEqual(left, [])


class Tables(unittest.TestCase):
    def test_tables_are_kept_for_each_language(self):
        english = electrodes()["zinc"].name
        with speaking("de"):
            german = electrodes()["zinc"].name
            self.assertIs(electrodes(), electrodes())
        self.assertEqual((english, german, electrodes()["zinc"].name), ("zinc", "Zink", "zinc"))

    def test_every_material_is_found_by_its_name_of_any_language_in_any_language(self):
        for table, what in (
            (electrodes, "electrode"),
            (electrolytes, "electrolyte"),
            (loads, "load"),
            (additions, "addition"),
        ):
            for written, read in (("en", "de"), ("de", "en")):
                with speaking(written):
                    names = {thing.name: key for key, thing in table().items()}
                with speaking(read):
                    found = {name: find(name, table(), what).key for name in names}
                self.assertEqual(found, names, f"{written}, read in {read}")

    def test_settings_are_understood_as_written_in_any_language(self):
        for text, meant in (
            ("spacing 4 cm", ("spacing", 4.0)), ("Abstand 4 cm", ("spacing", 4.0)), ("abstand 2,5 cm", ("spacing", 2.5)),
            ("surface dull", ("surface", "dull")), ("Oberfläche matt", ("surface", "dull")),
            ("temperature 20 °C", ("temperature", 20.0)), ("Temperatur 20 °C", ("temperature", 20.0)),
            ("Abstand viel", None),
        ):  # fmt: skip
            for code in LANGUAGES:
                with self.subTest(text, read=code), speaking(code):
                    found = condition_of(text)
                    self.assertEqual(found and (found.variable, found.value), meant)

    def test_a_name_is_known_in_all_languages_from_any(self):
        self.assertEqual(in_all_languages("mild steel"), in_all_languages("Baustahl"))
        self.assertEqual(in_all_languages("mild steel"), {"mild steel", "Baustahl"})
        self.assertEqual(in_all_languages("Old roof"), {"Old roof"})
        self.assertEqual(in_all_languages(""), {""})

    def test_a_material_is_found_by_its_name_in_any_language(self):
        with speaking("de"):
            metals = electrodes()
            for typed in ("zinc", "Zink", "zink", "Zn"):
                self.assertEqual(find(typed, metals, "electrode").key, "zinc")
            with self.assertRaises(UnknownMaterial):
                find("zinkk", metals, "electrode")
        self.assertEqual(find("Zitronensaft", electrolytes(), "electrolyte").key, "lemon-juice")
