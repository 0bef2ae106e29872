"""What is said, in catalogues: sentences.py [--check]

Sentences of the core and the server come from `say`, `say_n` and `mark` in their code and from the core's tables. They
stand in `galvanic/locale` and `server/locale`, GNU gettext's format, one file a language. Without an argument the files
are brought up to date: what is new stands there without a translation, what is gone goes. With --check nothing is
written, and it fails where a sentence is missing, has no translation, is there for nothing, or lost one of its values on
the way. Catalogues of the front end (`npm run sentences` makes them) are only checked.
"""

from __future__ import annotations

import io
import re
import sys
import tomllib
from collections.abc import Iterator
from pathlib import Path

from babel.messages.catalog import Catalog
from babel.messages.extract import extract_from_dir
from babel.messages.pofile import read_po, write_po

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))

from galvanic.reference.reader import LATER, REFERENCE, SAID  # noqa: E402
from galvanic.words import LANGUAGES  # noqa: E402

KEYWORDS = {"say": None, "mark": None, "say_n": (1, 2)}
SILENT = ("**/tests/**", "**/migrations/**", "**/management/**", "command/**")  # the last two speak English at a terminal
HEAD = """msgid ""
msgstr ""
"Language: {code}\\n"
"Plural-Forms: {plural}\\n"
"Content-Type: text/plain; charset=utf-8\\n"

"""
BRANCH = re.compile(r"\b(?:zero|one|two|few|many|other|=\d+) \{")  # of a plural, in ICU's message format
PLACE = re.compile(r"\{(\w+)[,}]|<(/?\d+/?)>")
VALUE = re.compile(r"(?<!\{)\{(\w+)[^{}]*\}(?!\})")
Message = str | tuple[str, ...]


def of_code(package: str) -> Iterator[tuple[Message, str]]:
    """Sentences of a package's code, with the file each stands in."""
    found = extract_from_dir(
        ROOT / package, [(pattern, "ignore") for pattern in SILENT] + [("**.py", "python")], {}, KEYWORDS
    )
    for file, _line, message, _comments, _context in found:
        if message:
            yield message, f"{package}/{file}"


def of_tables() -> Iterator[tuple[Message, str]]:
    """Names and sentences of the core's tables, with the file each stands in."""
    for path in sorted(REFERENCE.glob("*.toml")):
        for kind, rows in tomllib.loads(path.read_text(encoding="utf-8")).items():
            fields = (*SAID.get(kind, ()), *LATER.get(kind, ()))
            for row in rows if isinstance(rows, list) else []:
                for field in fields:
                    value = row.get(field)
                    for text in [value] if isinstance(value, str | None) else list(value):
                        if isinstance(text, str) and text:
                            yield text, f"galvanic/reference/{path.name}"


def now(package: str) -> Catalog:
    """All sentences of a package as they are now."""
    catalog = Catalog(domain=package, charset="utf-8", fuzzy=False)
    for message, file in sorted([*of_code(package), *(of_tables() if package == "galvanic" else ())], key=str):
        catalog.add(message, locations=[(file, 1)])
    return catalog


def kept(package: str, language: str) -> Catalog:
    """A package's catalogue of a language as it is kept; an empty one where there is none."""
    path = ROOT / package / "locale" / f"{language}.po"
    if not path.is_file():
        return Catalog(locale=language, domain=package, fuzzy=False)
    with path.open("rb") as file:
        return read_po(file, locale=language, domain=package)


def update(package: str, language: str) -> None:
    """Bring a catalogue up to date; translations of what is still said stay."""
    catalog = kept(package, language)
    catalog.update(now(package), no_fuzzy_matching=True)
    catalog.obsolete.clear()
    path = ROOT / package / "locale" / f"{language}.po"
    path.parent.mkdir(exist_ok=True)
    written = io.BytesIO()
    write_po(written, catalog, sort_output=True, include_lineno=False, omit_header=True, width=110)
    head = HEAD.format(code=language, plural=catalog.plural_forms)
    path.write_text(head + written.getvalue().decode(), encoding="utf-8")
    missing = sum(not all(_texts(one.string)) for one in catalog if one.id)
    print(f"{path.relative_to(ROOT)}: {len(catalog)} sentences, {missing} without a translation")


def _texts(message: Message | None) -> tuple[str, ...]:
    return (message or "",) if isinstance(message, str | None) else tuple(message)


def faults(package: str, language: str) -> Iterator[str]:
    """What is wrong with a catalogue, a line each."""
    said, catalog = now(package), kept(package, language)
    for one in said:
        if not one.id:
            continue
        there = catalog.get(one.id)
        if there is None or not all(_texts(there.string)):
            yield f"no translation: {_texts(one.id)[0]}"
            continue
        wanted = {name for text in _texts(one.id) for name in VALUE.findall(text)}
        for text in _texts(there.string):
            if set(VALUE.findall(text)) - wanted or wanted - set(VALUE.findall(text)) - {"n"}:
                yield f"other values than {sorted(wanted)}: {text}"
    yield from (f"said nowhere: {_texts(one.id)[0]}" for one in catalog if one.id and said.get(one.id) is None)


def of_front_end(language: str) -> Iterator[str]:
    """What is wrong with the front end's catalogues of a language, a line each."""
    for path in sorted((ROOT / "web" / "src").rglob(f"locale/{language}.po")):
        with path.open("rb") as file:
            messages = [one for one in read_po(file, locale=language) if one.id]
        for one in messages:
            here = f"{path.relative_to(ROOT)}: "
            if not one.string:
                yield f"{here}no translation: {one.id}"
            elif _places(one.id) != _places(one.string):
                yield f"{here}other values than {sorted(_places(one.id))}: {one.string}"


def _places(text: str) -> set[str]:
    return {name or tag for name, tag in PLACE.findall(BRANCH.sub("[", text) if ", plural," in text else text)}


def main() -> int:
    found = 0
    if "--check" in sys.argv:
        for fault in (fault for language in LANGUAGES if language != "en" for fault in of_front_end(language)):
            print(fault)
            found += 1
    for package in ("galvanic", "server"):
        for language in LANGUAGES:
            if language == "en":
                continue
            if "--check" not in sys.argv:
                update(package, language)
                continue
            for fault in faults(package, language):
                print(f"{package}/locale/{language}.po: {fault}")
                found += 1
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main())
