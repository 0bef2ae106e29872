"""Plausible mistakes in Python: a comparison turned, an operator changed, a number moved, a condition denied."""

from __future__ import annotations

import ast
from collections.abc import Iterator
from pathlib import Path

TURNED = {ast.Lt: ast.GtE, ast.LtE: ast.Gt, ast.Gt: ast.LtE, ast.GtE: ast.Lt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq}
CHANGED = {ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult}


def can_change(node: ast.AST) -> bool:
    """Whether a mistake can be made here: not in annotations, docstrings or texts."""
    if isinstance(node, ast.Compare):
        return type(node.ops[0]) in TURNED
    if isinstance(node, ast.BinOp):
        return type(node.op) in CHANGED and not isinstance(node.left, ast.Constant | ast.JoinedStr)
    if isinstance(node, ast.Constant):
        return type(node.value) in (int, float)
    return isinstance(node, ast.If | ast.IfExp)


def places(tree: ast.AST) -> Iterator[ast.AST]:
    """What can be changed, always in the same order."""
    return (node for node in ast.walk(tree) if can_change(node))


def changed(node: ast.AST) -> str:
    """Change a place in its tree; says how."""
    if isinstance(node, ast.Compare):
        node.ops[0] = TURNED[type(node.ops[0])]()
        return "comparison turned"
    if isinstance(node, ast.BinOp):
        node.op = CHANGED[type(node.op)]()
        return "operator changed"
    if isinstance(node, ast.Constant):
        node.value = node.value * 1.5 if isinstance(node.value, float) and node.value else node.value + 1
        return "number moved"
    assert isinstance(node, ast.If | ast.IfExp)
    node.test = ast.UnaryOp(ast.Not(), node.test)
    return "condition denied"


def modules(root: Path, folder: str) -> list[Path]:
    """A folder's modules without tests and migrations, relative to the root."""
    paths = sorted(path.relative_to(root) for path in (root / folder).rglob("*.py"))
    return [path for path in paths if not {"tests", "migrations"} & set(path.parts)]


def with_mistake(text: str, place: int) -> tuple[str, int, str]:
    """A module's text with the mistake at a place, its line and how it was made."""
    tree = ast.parse(text)
    node = list(places(tree))[place]
    line = node.lineno  # type: ignore[attr-defined]
    how = changed(node)
    return ast.unparse(ast.fix_missing_locations(tree)), line, how
