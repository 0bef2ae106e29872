"""Every sentence the core can say, with where it stands, so that all of them can be read once more."""

from __future__ import annotations

import ast
import re
import tomllib
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import galvanic
from galvanic.reference.reader import REFERENCE

ROOT = Path(galvanic.__file__).parent
LEAST_WORDS = 3
NOT_SAID = {"tests", "command", "management", "migrations"}
NOT_TEXT = {"source", "locator", "checked", "equation", "words", "but_not", "key", "title", "taken", "year", "price"}


def sentences() -> Iterator[tuple[str, str]]:
    """Place (file and line, or table and key) and sentence, in the order of files; what is put in stands as {…}."""
    yield from sentences_of_code(ROOT)
    for path in sorted(REFERENCE.glob("*.toml")):
        yield from _of_table(path)


def sentences_of_code(folder: Path) -> Iterator[tuple[str, str]]:
    """Place and sentence of all modules in a folder that say something to readers."""
    for path in sorted(folder.rglob("*.py")):
        if NOT_SAID.isdisjoint(path.relative_to(folder).parts):
            yield from ((f"{path.relative_to(folder)}:{line}", text) for line, text in _of_module(path))


def _of_module(path: Path) -> Iterator[tuple[int, str]]:
    tree = ast.parse(path.read_text(encoding="utf-8"))
    silent = {id(node.value) for node in ast.walk(tree) if isinstance(node, ast.Expr)}  # docstrings
    for node in ast.walk(tree):
        if isinstance(node, ast.JoinedStr):
            silent.update(id(part) for part in ast.walk(node) if part is not node)
    for node in ast.walk(tree):
        text = _text(node) if id(node) not in silent else ""
        if _is_said(text):
            yield getattr(node, "lineno", 0), text


def _text(node: ast.AST) -> str:
    if isinstance(node, ast.JoinedStr):
        parts = [str(part.value) if isinstance(part, ast.Constant) else "{…}" for part in node.values]
        return "".join(parts)
    return str(node.value) if isinstance(node, ast.Constant) and isinstance(node.value, str) else ""


def _is_said(text: str) -> bool:
    return " " in text.strip() and "\\" not in text and len(re.findall(r"[A-Za-z’]{2,}", text)) >= LEAST_WORDS


def _of_table(path: Path) -> Iterator[tuple[str, str]]:
    for rows in tomllib.loads(path.read_text(encoding="utf-8")).values():
        for row in rows if isinstance(rows, list) else []:
            for field, text in _fields(row):
                if _is_said(text):
                    yield f"{path.name}: {row.get('key', '')}, {field}", text


def _fields(row: dict[str, Any]) -> Iterator[tuple[str, str]]:
    for field, value in row.items():
        if isinstance(value, str) and field not in NOT_TEXT:
            yield field, value
