"""Every limit of the server as it was read: what may be kept, sent or waited for, by name.

`python -m server.tests.test_limits` writes the list anew; read the difference.
"""

from __future__ import annotations

import ast
import re
import unittest
from collections.abc import Iterator
from pathlib import Path

SERVER = Path(__file__).resolve().parents[1]
KEPT = Path(__file__).parent / "approved" / "limits.txt"
NUMBERS = (ast.Constant, ast.BinOp, ast.UnaryOp, ast.Tuple, ast.Call)
NAME = re.compile(r"^_?[A-Z][A-Z0-9_]*$")


def limits() -> Iterator[str]:
    """Room, name and value of each constant of a number that stands in the source by itself."""
    for path in sorted(SERVER.rglob("*.py")):
        room = path.relative_to(SERVER)
        if "tests" in room.parts or "migrations" in room.parts:
            continue
        for node in ast.parse(path.read_text(encoding="utf-8")).body:
            target = (
                node.targets[0] if isinstance(node, ast.Assign) else node.target if isinstance(node, ast.AnnAssign) else None
            )
            value = getattr(node, "value", None)
            if target is None or not isinstance(value, NUMBERS):
                continue
            names = [one.id for one in ast.walk(target) if isinstance(one, ast.Name)]
            numbers = [one for one in ast.walk(value) if isinstance(one, ast.Constant) and type(one.value) in (int, float)]
            words = [one for one in ast.walk(value) if isinstance(one, ast.Constant) and isinstance(one.value, str)]
            if numbers and not words and all(NAME.match(name) for name in names):
                yield f"{room} {', '.join(names)} = {ast.unparse(value)}"


class Limits(unittest.TestCase):
    def test_every_limit_is_the_one_that_was_read(self) -> None:
        self.assertEqual(sorted(limits()), KEPT.read_text(encoding="utf-8").splitlines())


if __name__ == "__main__":
    KEPT.write_text("\n".join(sorted(limits())) + "\n", encoding="utf-8")
