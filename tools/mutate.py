"""Do the core's tests notice a mistake? mutate.py [--count N] [--seed N] [FOLDER ...]

Plausible mistakes are made one at a time in a copy of the core (a comparison turned, an operator changed, a number moved, a
condition denied), the tests of the whole core run on each, and those that nobody noticed are listed. The sample is drawn by
the seed. It takes long (a quarter of a minute a mistake and processor, two minutes for one that is not noticed), so it is no
part of the checks.
"""

from __future__ import annotations

import argparse
import ast
import random
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
TURNED = {ast.Lt: ast.GtE, ast.LtE: ast.Gt, ast.Gt: ast.LtE, ast.GtE: ast.Lt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq}
CHANGED = {ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult}
TIMEOUT_S = 900
LATE: list[str] = []


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


def modules(folders: list[str]) -> list[Path]:
    """The core's modules without tests, of these folders or of all."""
    paths = sorted(path.relative_to(ROOT) for path in (ROOT / "galvanic").rglob("*.py") if "tests" not in path.parts)
    return [path for path in paths if not folders or (len(path.parts) > 2 and path.parts[1] in folders)]


def fails(path: Path | None, text: str) -> bool:
    """Whether a test of the core fails with this text in place of a module's (of none: as it is)."""
    with tempfile.TemporaryDirectory() as folder:
        shutil.copytree(ROOT / "galvanic", Path(folder) / "galvanic", ignore=shutil.ignore_patterns("__pycache__"))
        if path is not None:
            (Path(folder) / path).write_text(text, encoding="utf-8")
        own = [str(path.parent), "galvanic/tests"] if path is not None and len(path.parts) > 2 else []
        return any(_fail(folder, start) for start in (*own, "galvanic"))  # those that notice most go first


def _fail(folder: str, start: str) -> bool:
    command = [sys.executable, "-m", "unittest", "discover", "-f", "-s", start, "-t", "."]
    try:
        return subprocess.run(command, cwd=folder, capture_output=True, timeout=TIMEOUT_S, check=False).returncode != 0
    except subprocess.TimeoutExpired:
        LATE.append(start)
        return True  # a mistake that makes it run for ever is noticed; how many were so is printed


def noticed(path: Path, place: int) -> tuple[bool, str]:
    """Whether a test fails with the mistake at a place of a module, and what the mistake is."""
    text = (ROOT / path).read_text(encoding="utf-8")
    tree = ast.parse(text)
    node = list(places(tree))[place]
    number = node.lineno  # type: ignore[attr-defined]
    how = changed(node)
    said = f"{path}:{number} {how}: {text.splitlines()[number - 1].strip()}"
    return fails(path, ast.unparse(ast.fix_missing_locations(tree))), said


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("folders", nargs="*")
    parser.add_argument("--count", type=int, default=40)
    parser.add_argument("--seed", type=int, default=1)
    options = parser.parse_args()
    if fails(None, ""):
        sys.exit("The tests fail as the core is; mend that first.")
    all_places = [
        (path, place)
        for path in modules(options.folders)
        for place in range(sum(1 for _ in places(ast.parse((ROOT / path).read_text(encoding="utf-8")))))
    ]
    sample = random.Random(options.seed).sample(all_places, min(options.count, len(all_places)))  # noqa: S311
    with ThreadPoolExecutor(2) as workers:
        results = list(workers.map(lambda one: noticed(*one), sample))
    for found, what in results:
        if not found:
            print(f"not noticed  {what}")  # noqa: T201
    killed = sum(found for found, _ in results)
    print(f"{killed} of {len(results)} mistakes noticed ({100 * killed / len(results):.0f} %), seed {options.seed}")  # noqa: T201
    print(f"{len(LATE)} of them by not coming to an end in {TIMEOUT_S} s")  # noqa: T201


if __name__ == "__main__":
    main()
