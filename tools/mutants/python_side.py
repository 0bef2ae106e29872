"""Mistakes in the core and in the server."""

from __future__ import annotations

import ast
import json
import random
import shutil
import subprocess
import sys
import time
from collections import Counter, defaultdict
from pathlib import Path

from coverage import CoverageData

from tools.mutants import sampled
from tools.mutants.places import modules, places, with_mistake

SETTINGS = """[run]
source = server
dynamic_context = test_function
data_file = {data}
parallel = true
concurrency = multiprocessing,thread
sigterm = true
disable_warnings = couldnt-parse
"""

Mistake = tuple[Path, int]


def all_mistakes(folder: str) -> list[Mistake]:
    """Where a mistake can be made in a folder of the project."""
    return [
        (path, place)
        for path in modules(sampled.ROOT, folder)
        for place, _ in enumerate(places(ast.parse((sampled.ROOT / path).read_text(encoding="utf-8"))))
    ]


def made(copy: Path, mistake: Mistake) -> tuple[str, int, Path, str]:
    """Make a mistake in a copy: how it is told, its line, the file and its text before."""
    path, place = mistake
    text = (sampled.ROOT / path).read_text(encoding="utf-8")
    wrong, line, how = with_mistake(text, place)
    (copy / path).write_text(wrong, encoding="utf-8")
    return f"{path}:{line} {how}: {text.splitlines()[line - 1].strip()}", line, copy / path, text


def core(count: int, seed: int) -> float:
    """The share of mistakes in the core that its own tests notice."""

    def fails(copy: Path, start: str) -> bool:
        command = [sys.executable, "-m", "unittest", "discover", "-f", "-s", start, "-t", "."]
        try:
            return (
                subprocess.run(command, cwd=copy, capture_output=True, timeout=sampled.TIMEOUT_S, check=False).returncode
                != 0
            )
        except subprocess.TimeoutExpired:
            return True

    def tried(copy: Path, mistake: object) -> sampled.Tried:
        said, _, file, text = made(copy, mistake)  # type: ignore[arg-type]
        own = [str(file.parent.relative_to(copy)), "galvanic/tests"] if file.parent.name != "galvanic" else []
        try:
            return any(fails(copy, start) for start in (*own, "galvanic")), said
        finally:
            file.write_text(text, encoding="utf-8")

    copies = [sampled.copy_of_project(f"core{n}") for n in range(sampled.WORKERS)]
    if fails(copies[0], "galvanic"):
        sys.exit("The core's tests fail as it is; mend that first.")
    mistakes = all_mistakes("galvanic")
    sample = random.Random(seed).sample(mistakes, min(count, len(mistakes)))  # noqa: S311
    return sampled.score("core", copies, sample, tried, seed)


def server(count: int, seed: int) -> float:
    """The share of mistakes in the server that its tests notice (without those in a browser)."""
    copies = [sampled.copy_of_project(f"server{n}") for n in range(sampled.WORKERS)]
    for copy in copies:
        shutil.copytree(sampled.ROOT / "web" / "dist", copy / "web" / "dist")
    reached, reach, took = what_tests_reach(copies[0])

    def tried(copy: Path, mistake: object) -> sampled.Tried:
        said, line, file, text = made(copy, mistake)  # type: ignore[arg-type]
        tests = reached[str(file.relative_to(copy))][line]
        own = f"server.{file.relative_to(copy).parts[1]}"  # a constant is read when its module is: no test reaches it
        labels = (
            sampled.chosen(tests, reach, took)
            if tests
            else [own]
            if file.parent.parent == copy / "server"
            else ["server.tests"]
        )
        try:
            return checks_fail(copy) or sampled.tests_fail(copy, labels), said
        finally:
            file.write_text(text, encoding="utf-8")

    mistakes = all_mistakes("server")
    sample = random.Random(seed).sample(mistakes, min(count, len(mistakes)))  # noqa: S311
    return sampled.score("server", copies, sample, tried, seed)


def checks_fail(copy: Path) -> bool:
    """Whether the checks of `./pipette test` notice: a model without its migration, an API that is not the kept schema."""
    manage, env = [sys.executable, "manage.py"], sampled.environment(copy)
    options = {"cwd": copy, "env": env, "capture_output": True, "text": True, "check": False}
    if subprocess.run([*manage, "makemigrations", "--check", "--dry-run"], **options).returncode:
        return True
    schema = subprocess.run(
        [*manage, "export_openapi_schema", "--api", "server.config.api.api", "--sorted", "--indent", "1"], **options
    )
    kept = (copy / "web" / "src" / "api" / "openapi.json").read_text(encoding="utf-8")
    return schema.returncode != 0 or schema.stdout != kept


def what_tests_reach(copy: Path) -> tuple[dict[str, dict[int, set[str]]], dict[str, int], dict[str, float]]:
    """Which tests come to each line of the server, how many lines each test reaches, and what each takes in seconds."""
    kept = sampled.WORK / "server-reached.json"
    if not kept.exists():
        settings = copy / ".run" / "coverage.ini"
        settings.write_text(SETTINGS.format(data=copy / ".run" / "coverage"), encoding="utf-8")
        start = time.monotonic()
        command = [
            sys.executable, "-m", "coverage", "run", f"--rcfile={settings}", "manage.py", "test", "--noinput",
            "--parallel", "2", "--testrunner", "tools.mutants.timed.TimedRunner", "server",
        ]  # fmt: skip
        environment = sampled.environment(copy, PIPETTE_TIMES=str(copy / ".run" / "times"))
        done = subprocess.run(command, cwd=copy, env=environment, capture_output=True, text=True, check=False)
        if done.returncode:
            sys.exit(f"The server's tests fail as it is; mend that first.\n{done.stderr[-3000:]}")
        reached: dict[str, dict[int, set[str]]] = defaultdict(lambda: defaultdict(set))
        for file in (copy / ".run").glob("coverage.*"):
            if file.suffix == ".ini":
                continue
            data = CoverageData(str(file))
            data.read()
            for source in data.measured_files():
                for line, contexts in data.contexts_by_lineno(source).items():
                    reached[str(Path(source).relative_to(copy))][line] |= {name for name in contexts if name}
        took = dict(
            json.loads(line) for file in (copy / ".run" / "times").glob("*") for line in file.read_text().splitlines()
        )
        lists = {file: {line: sorted(tests) for line, tests in lines.items()} for file, lines in reached.items()}
        kept.write_text(json.dumps({"reached": lists, "took": took}), encoding="utf-8")
        print(f"which of the server's tests come where: {time.monotonic() - start:.0f} s", flush=True)
    read = json.loads(kept.read_text(encoding="utf-8"))
    by_line: dict[str, dict[int, set[str]]] = defaultdict(lambda: defaultdict(set))
    reach: Counter[str] = Counter()
    for file, lines in read["reached"].items():
        for line, tests in lines.items():
            known = {test for test in tests if test in read["took"]}
            by_line[file][int(line)] = known
            reach.update(known)
    return by_line, dict(reach), read["took"]
