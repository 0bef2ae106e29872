"""What the software says, in the reader's language.

Sentences stand in the code in English. `say` gives them in the language around, from the catalogue of that language
(`locale/*.po`, GNU gettext's format), with values filled in; `mark` only marks a constant that is said later. What is kept
for several readers names the language in its key: `galvanic.reference.catalogue.kept` and `once` do.
"""

from __future__ import annotations

import gettext
import io
import string
from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager
from contextvars import ContextVar
from functools import cache, wraps
from pathlib import Path
from typing import TYPE_CHECKING, Any, ParamSpec, TypeVar

if TYPE_CHECKING:
    from babel.messages.catalog import Catalog

LANGUAGES = {"en": "English", "de": "Deutsch"}
"""Languages by their code, each called as its own speakers call it."""

DECIMAL_SIGN = {"en": ".", "de": ","}
MINUS = "\u2212"
THIN = "\u202f"
NBSP = "\u00a0"

P = ParamSpec("P")
R = TypeVar("R")

_language: ContextVar[str] = ContextVar("language", default="en")
_folders: list[Path] = [Path(__file__).parent / "locale"]


LEAST_POWER, MOST_POWER = -3, 8  # powers of ten between are written out
RAISED = str.maketrans("-0123456789", "⁻⁰¹²³⁴⁵⁶⁷⁸⁹")


def language() -> str:
    """The code of the language around."""
    return _language.get()


@contextmanager
def speaking(code: str) -> Iterator[None]:
    """Say everything in a language, for what runs inside. Raises KeyError for one that nobody speaks here."""
    LANGUAGES[code]  # KeyError
    token = _language.set(code)
    try:
        yield
    finally:
        _language.reset(token)


def also_in(folder: Path) -> None:
    """Have sentences looked up in the catalogues of a folder too: what is built on the core has its own."""
    if folder not in _folders:
        _folders.append(folder)
        for kept in (_messages, _catalogue, _english):
            kept.cache_clear()


@cache
def _messages(code: str) -> tuple[Catalog, ...]:
    """What stands in the catalogues of a language, those of the core first; English has none."""
    from babel.messages.pofile import read_po  # only who speaks another language waits for it

    found = []
    for path in (folder / f"{code}.po" for folder in _folders):
        if path.is_file():
            with path.open("rb") as file:
                found.append(read_po(file, locale=code))
    return tuple(found)


@cache
def _catalogue(code: str) -> gettext.NullTranslations:
    """The catalogues of a language, one behind the other."""
    from babel.messages.mofile import write_mo

    found = gettext.NullTranslations()
    for messages in _messages(code):
        compiled = io.BytesIO()
        write_mo(compiled, messages)
        compiled.seek(0)
        one = gettext.GNUTranslations(compiled)
        one.add_fallback(found)
        found = one
    return found


@cache
def _english(code: str) -> Mapping[str, frozenset[str]]:
    """The English of what is said in a language, by that."""
    found: dict[str, set[str]] = {}
    for message in (message for messages in _messages(code) for message in messages if isinstance(message.id, str)):
        if message.id and message.string:
            found.setdefault(str(message.string), set()).add(str(message.id))
    return {said: frozenset(texts) for said, texts in found.items()}


def in_all_languages(text: str) -> frozenset[str]:
    """A name as it is said in every language; given in any of them. What no catalogue has stands alone."""
    english = {text}.union(*(_english(code).get(text, ()) for code in LANGUAGES))
    return frozenset(english.union(*({_catalogue(code).gettext(one) for one in english if one} for code in LANGUAGES)))


class _Filled(string.Formatter):
    """Fills values in; numbers get the decimal sign of the language."""

    def format_field(self, value: Any, format_spec: str) -> str:
        return number(value, format_spec) if isinstance(value, float) else str(format(value, format_spec))


_FILLED = _Filled()


def say(text: str, /, **values: object) -> str:
    """A sentence in the language around. Places in braces are filled with `values`, as `str.format` does; a text without
    values stays as it is."""
    found = text if not text or language() == "en" else _catalogue(language()).gettext(text)
    return _FILLED.vformat(found, (), values) if values else found


def say_n(one: str, many: str, n: int, /, **values: object) -> str:
    """A sentence about `n` things, in the language around; `{n}` stands for their number."""
    found = (one if n == 1 else many) if language() == "en" else _catalogue(language()).ngettext(one, many, n)
    return _FILLED.vformat(found, (), values | {"n": n})


def mark(text: str) -> str:
    """A constant that is said later, as it is: catalogues get it from here."""
    return text


def lower(text: str) -> str:
    """A text as a sentence goes on with it. German nouns keep their capitals wherever they stand."""
    return text if language() == "de" else f"{text[:1].lower()}{text[1:]}"


def number(value: float, spec: str) -> str:
    """A number by a format, with the language's decimal sign; what prints as zero has no sign, and a power of ten is
    written as people write it."""
    text = format(value, spec)
    if text[:1] in ("+", "-") and not set(text) & set("123456789"):
        text = text[1:]
    if "e" in text:
        digits, _, power = text.partition("e")
        tens = int(power)
        if LEAST_POWER <= tens <= MOST_POWER:
            text = f"{float(text):.{max(0, len(digits.partition('.')[2]) - tens)}f}"
        else:
            text = f"{digits}{NBSP}×{NBSP}10{str(tens).translate(RAISED)}"
    return text.replace(".", DECIMAL_SIGN[language()])


def once(function: Callable[P, R]) -> Callable[P, R]:
    """Keep what a function gives, for each language by itself."""

    @cache
    def given(_code: str, /, *args: P.args, **kwargs: P.kwargs) -> R:
        return function(*args, **kwargs)

    @wraps(function)
    def ask(*args: P.args, **kwargs: P.kwargs) -> R:
        return given(language(), *args, **kwargs)  # type: ignore[arg-type]  # what is not hashable raises

    return ask
