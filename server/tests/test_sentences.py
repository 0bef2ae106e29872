"""No sentence that a visitor reads stands outside the catalogues."""

import io
from unittest import mock

from babel.messages.catalog import Catalog
from babel.messages.pofile import read_po
from django.conf import settings
from django.test import SimpleTestCase

from galvanic.command.sentences import sentences_of_code
from tools import sentences

HERE = settings.BASE_DIR / "server"
AT_A_TERMINAL = (
    "base/safe.py", "config/settings.py", "config/page.py", "labs/settings.py", "meters/services.py", "practise/rehearsal.py",
    "records/backup.py", "records/package/write.py",
)  # fmt: skip
"""Modules whose sentences are for whoever runs the server, for a meter, of a package in an open
format or of the API’s description, in English."""


class Sentences(SimpleTestCase):
    def test_no_sentence_is_outside_the_catalogue(self):
        with (HERE / "locale" / "de.po").open("rb") as file:
            translated = [one for one in read_po(file, locale="de") if one.id and one.string]
        there = {text for one in translated for text in ([one.id] if isinstance(one.id, str) else one.id)}
        left = [
            f"{place}: {text}"
            for place, text in sentences_of_code(HERE)
            if text.strip()[-1] in ".?!…" and text not in there and not place.startswith(AT_A_TERMINAL)
        ]
        self.assertEqual(left, [])


class Catalogues(SimpleTestCase):
    """What `tools/sentences.py --check` refuses, on catalogues of its own."""

    def faults(self, package, german):
        said = Catalog(fuzzy=False)
        for message in ("A cell of {volts:.2f} V.", ("{n} cup of {liquid}", "{n} cups of {liquid}"), "Take care."):
            said.add(message)
        kept = read_po(io.BytesIO(german.encode()), locale="de")
        with mock.patch.object(sentences, "now", return_value=said), mock.patch.object(sentences, "kept", return_value=kept):
            return list(sentences.faults(package, "de"))

    WHOLE = (
        'msgid "A cell of {volts:.2f} V."\nmsgstr "Eine Zelle mit {volts:.2f} V."\n\n'
        'msgid "{n} cup of {liquid}"\nmsgid_plural "{n} cups of {liquid}"\n'
        'msgstr[0] "ein Becher {liquid}"\nmsgstr[1] "{n} Becher {liquid}"\n\n'
        'msgid "Take care."\nmsgstr "Vorsicht."\n'
    )

    def test_whole_is_whole_and_one_thing_needs_no_number(self):
        self.assertEqual(self.faults("galvanic", self.WHOLE), [])

    def test_what_is_missing_empty_or_there_for_nothing_is_named(self):
        self.assertEqual(self.faults("galvanic", self.WHOLE.replace("Vorsicht.", "")), ["no translation: Take care."])
        self.assertEqual(self.faults("galvanic", self.WHOLE.split('msgid "Take')[0]), ["no translation: Take care."])
        half = self.WHOLE.replace("{n} Becher {liquid}", "")
        self.assertEqual(self.faults("galvanic", half), ["no translation: {n} cup of {liquid}"])
        more = self.WHOLE + '\nmsgid "Gone."\nmsgstr "Weg."\n'
        self.assertEqual(self.faults("galvanic", more), ["said nowhere: Gone."])

    def test_a_value_that_is_lost_or_made_up_is_named(self):
        for wrong in ("Eine Zelle mit V.", "Eine Zelle mit {volts:.2f} und {amps} V."):
            (fault,) = self.faults("galvanic", self.WHOLE.replace("Eine Zelle mit {volts:.2f} V.", wrong))
            self.assertEqual(fault, f"other values than ['volts']: {wrong}")

    def test_values_of_pages_are_found_beside_branches_of_a_plural(self):
        places = sentences._places
        self.assertEqual(places("{0} of <1>{name}</1>"), {"0", "name", "1", "/1"})
        plural = "{n, plural, one {# cell} other {# cells of {liquid}}}"
        self.assertEqual(places(plural), places("{n, plural, one {# Zelle} other {# Zellen mit {liquid}}}"))
        self.assertNotEqual(places(plural), places("{n, plural, one {# Zelle} other {# Zellen}}"))
        self.assertEqual(places("Price of one {unit}"), {"unit"}, "“one {” begins a branch only in a plural")
