"""A sample of mistakes, each tried in a copy of the project by the tests that reach it."""

from __future__ import annotations

import os
import queue
import shutil
import subprocess
import sys
from collections.abc import Callable, Iterable, Sequence
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
WORK = ROOT / ".run" / "mutants"
WORKERS = 2
TIMEOUT_S = 900  # a mistake that makes the tests run for ever is noticed
MOST_TESTS_S = 120.0  # tests of one mistake, at the time they took without it: those that reach least else go first

Tried = tuple[bool, str]


def copy_of_project(name: str) -> Path:
    """A fresh copy of everything that is kept or new here, without what is built; packages are linked."""
    copy = WORK / name
    shutil.rmtree(copy, ignore_errors=True)
    listed = subprocess.run(
        ["git", "ls-files", "-co", "--exclude-standard"], cwd=ROOT, capture_output=True, text=True, check=True
    )
    for file in listed.stdout.splitlines():
        if (ROOT / file).is_file():
            (copy / file).parent.mkdir(parents=True, exist_ok=True)
            shutil.copy2(ROOT / file, copy / file)
    modules = copy / "web" / "node_modules"  # links to the files, since node looks for a package from where it really lies
    shutil.copytree(ROOT / "web" / "node_modules", modules, symlinks=True, copy_function=os.link)
    shutil.copy2(ROOT / "web" / "src" / "api" / "generated.d.ts", copy / "web" / "src" / "api" / "generated.d.ts")
    (copy / ".run").mkdir()
    return copy


def environment(copy: Path, **more: str) -> dict[str, str]:
    """The environment of the tests of a copy: a database of its own name, kept from one mistake to the next."""
    base = os.environ["DATABASE_URL"].rsplit("/", 1)[0]
    return {**os.environ, "DATABASE_URL": f"{base}/mutants_{copy.name}", "PIPETTE_LOG": "plain", **more}


def tests_fail(copy: Path, labels: Sequence[str], **more: str) -> bool:
    """Whether one of these tests fails in a copy, or never ends."""
    command = [sys.executable, "manage.py", "test", "--noinput", "--keepdb", "--failfast", *labels]
    try:
        done = subprocess.run(
            command, cwd=copy, env=environment(copy, **more), capture_output=True, timeout=TIMEOUT_S, check=False
        )
    except subprocess.TimeoutExpired:
        return True
    return done.returncode != 0


def chosen(tests: Iterable[str], reach: dict[str, int], took: dict[str, float]) -> list[str]:
    """The tests to try a mistake on: those that reach least else first, as many as take two minutes."""
    kept, spent = [], 0.0
    for test in sorted(tests, key=lambda test: (reach.get(test, 0), took.get(test, 1.0), test)):
        if kept and spent + took.get(test, 1.0) > MOST_TESTS_S:
            continue
        kept.append(test)
        spent += took.get(test, 1.0)
    return kept


def score(
    what: str, copies: Sequence[Path], sample: Sequence[object], tried: Callable[[Path, object], Tried], seed: int
) -> float:
    """Try each mistake of a sample in one of the copies; prints what nobody noticed, and gives the share that was."""
    free: queue.Queue[Path] = queue.Queue()
    for copy in copies:
        free.put(copy)

    def in_a_copy(mistake: object) -> Tried:
        copy = free.get()
        try:
            result = tried(copy, mistake)
        finally:
            free.put(copy)
        print(f"  {'noticed    ' if result[0] else 'NOT noticed'}  {result[1]}", flush=True)
        return result

    with ThreadPoolExecutor(len(copies)) as workers:
        results = list(workers.map(in_a_copy, sample))
    noticed = sum(seen for seen, _ in results)
    share = noticed / max(1, len(results))
    print(f"{what}: {noticed} of {len(results)} mistakes noticed ({100 * share:.0f} %), seed {seed}", flush=True)
    return share
