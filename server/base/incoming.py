"""What comes in is cleaned at one place: every text of a JSON body, a form or an address, before any endpoint sees it.

Control characters, halves of surrogate pairs and marks that turn the direction of what follows (U+202A to U+202E, U+2066 to
U+2069) are taken out: neither the database nor a workbook can keep the first, and the last would turn the words around them.
Right-to-left letters, letters of four bytes and line ends stay.
"""

from __future__ import annotations

import json
import re
from typing import Any, NoReturn, cast

from django.http import HttpRequest
from django.utils.datastructures import MultiValueDict
from ninja.files import UploadedFile
from ninja.parser import Parser

from galvanic.words import say
from server.base.problems import Problem

_NOT_KEPT = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\x7f-\x9f\u202a-\u202e\u2066-\u2069\ud800-\udfff\ufffe\uffff]")


def clean(text: str) -> str:
    """A text without what cannot be kept; line ends are one kind."""
    return _NOT_KEPT.sub("", text.replace("\r\n", "\n").replace("\r", "\n"))


def cleaned(value: Any) -> Any:
    """Anything JSON can hold, with every text in it cleaned."""
    if isinstance(value, str):
        return clean(value)
    if isinstance(value, list):
        return [cleaned(one) for one in value]
    if isinstance(value, dict):
        return {clean(key): cleaned(one) for key, one in value.items()}
    return value


def is_odd(path: str) -> bool:
    """Whether an address has in it what no address of ours has."""
    return _NOT_KEPT.search(path) is not None


def _no_number(name: str) -> NoReturn:
    raise ValueError(f"{name} is no number")


class CleanParser(Parser):
    """Ninja's parser of bodies and of names with values, with clean texts and no NaN or Infinity."""

    def parse_body(self, request: HttpRequest) -> dict[str, Any]:
        """A JSON body."""
        return cast(dict[str, Any], cleaned(json.loads(request.body, parse_constant=_no_number)))

    def parse_querydict(self, data: MultiValueDict, list_fields: list[str], request: HttpRequest) -> dict[str, Any]:  # type: ignore[type-arg]
        """Names with values of an address or a form; files pass as they are."""
        return cast(dict[str, Any], cleaned(super().parse_querydict(data, list_fields, request)))


def content_of(file: UploadedFile, most: int) -> bytes:
    """The bytes of a file that was sent. Raises Problem too_large above `most` bytes."""
    if (file.size or 0) > most:
        raise Problem(
            422,
            "too_large",
            say("That file is larger than {most} MB. It stays on your device.", most=most // 1_000_000),
            field="file",
        )
    content: bytes = file.read()
    return content
