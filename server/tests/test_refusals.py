"""Every refusal the server makes, with its status, as it was read: devices and others' scripts go by status and code.

`python -m server.tests.test_refusals` writes the list anew; read the difference.
"""

from __future__ import annotations

import ast
import unittest
from collections.abc import Iterator
from pathlib import Path

SERVER = Path(__file__).resolve().parents[1]
KEPT = Path(__file__).parent / "approved" / "refusals.txt"
MADE_BY = {"Problem", "Refusal"}


def refusals() -> Iterator[str]:
    """Room, status, code and field of each refusal, as they stand in the source."""
    for path in sorted(SERVER.rglob("*.py")):
        room = path.relative_to(SERVER)
        if "tests" in room.parts or "migrations" in room.parts:
            continue
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in MADE_BY:
                status, code = (ast.unparse(part) for part in node.args[:2])
                field = next((f" field={ast.unparse(word.value)}" for word in node.keywords if word.arg == "field"), "")
                yield f"{room} {status} {code}{field}"


class Refusals(unittest.TestCase):
    def test_every_refusal_has_the_status_and_code_that_were_read(self) -> None:
        found = sorted(refusals())
        self.assertEqual(found, KEPT.read_text(encoding="utf-8").splitlines())

    def test_statuses_are_those_of_refusals(self) -> None:
        for line in refusals():
            status = line.split()[1]
            if status.isdigit():
                self.assertIn(
                    int(status), {400, 401, 403, 404, 405, 408, 409, 410, 413, 415, 422, 423, 429, 500, 503, 507}, line
                )


if __name__ == "__main__":
    KEPT.parent.mkdir(exist_ok=True)
    KEPT.write_text("\n".join(sorted(refusals())) + "\n", encoding="utf-8")
