"""Mistakes in the front end: all of them are built in behind switches, one is switched on at a time."""

from __future__ import annotations

import json
import random
import re
import shutil
import subprocess
import sys
import time
from collections import Counter, defaultdict
from pathlib import Path
from typing import Any

from tools.mutants import sampled

BUILT = sampled.WORK / "web-built"  # what is the same for every copy: sources with switches, and what is built of them
PARTS = ("web/src", "web/dist", ".run/gallery")
# Where a script first asks which mistake is switched on, as the instrumenter writes it and the bundler shortens it.
SWITCH = re.compile(r"(\w+)\.__stryker__\s*\|\|=\s*\{\}")
FAILED = re.compile(r"^(?:FAIL|ERROR): \S+ \((\S+?)\)", re.MULTILINE)
MOST_LEFT_OUT = 3  # tests that a loaded machine may fail without saying anything about mistakes
TELLS = """{mutantCoverage: (() => {
  const seen = new Set(); let waiting = [];
  const tell = () => { if (waiting.length) console.debug("pipette-covered " + waiting.join(",")); waiting = []; };
  globalThis.setInterval?.(tell, 100); globalThis.addEventListener?.("pagehide", tell);
  const set = (all, key) => { if (!seen.has(key)) { seen.add(key); waiting.push(key); } return true; };
  return {static: new Proxy({}, {set}), perTest: {}};
})()}"""


def web(count: int, seed: int) -> float:
    """The share of mistakes in the front end that its own tests in Node or the browser tests notice."""
    mutants = built()
    copies = [with_switches(f"web{n}") for n in range(sampled.WORKERS)]
    scripts = {
        file.relative_to(copies[0]): text
        for part in ("web/dist/app", ".run/gallery")
        for file in (copies[0] / part).rglob("*.js")
        if SWITCH.search(text := file.read_text(encoding="utf-8"))
    }
    reached, reach, took = what_tests_reach(copies[0], scripts)

    def tried(copy: Path, mistake: Any) -> sampled.Tried:
        was, became = (" ".join(mistake[key].split())[:70] for key in ("original", "replacement"))
        said = f"{mistake['fileName']}:{mistake['location']['start']['line'] + 1} {mistake['mutatorName']}: {was} → {became}"
        labels = sampled.chosen(reached[mistake["id"]], reach, took)
        if mistake["fileName"].endswith(".ts"):
            labels = ["server.tests.test_front_end", *labels]
        if not labels:
            return False, f"{said}  (no test comes there)"
        switched(copy, scripts, f'{{activeMutant: "{mistake["id"]}"}}')
        return sampled.tests_fail(copy, labels, __STRYKER_ACTIVE_MUTANT__=mistake["id"]), said

    sample = random.Random(seed).sample(mutants, min(count, len(mutants)))  # noqa: S311
    return sampled.score("web", copies, sample, tried, seed)


def with_switches(name: str) -> Path:
    """A copy of the project with all mistakes behind their switches."""
    copy = sampled.copy_of_project(name)
    for part in PARTS if BUILT.exists() else ():
        shutil.rmtree(copy / part, ignore_errors=True)
        shutil.copytree(BUILT / part, copy / part)
    return copy


def switched(copy: Path, scripts: dict[Path, str], state: str) -> None:
    """Begin every script of a copy with this state of the switches."""
    for path, text in scripts.items():
        (copy / path).write_text(SWITCH.sub(rf"\1.__stryker__||={state}", text), encoding="utf-8")


def built() -> list[dict[str, Any]]:
    """Build every mistake in behind its switch, once; the mistakes, those at a boundary only left out."""
    kept = BUILT / "mutants.json"
    if not kept.exists():
        shutil.rmtree(BUILT, ignore_errors=True)
        copy = with_switches("web0")
        listed = copy / ".run" / "mutants.json"
        for command in (["node", "mutants.mjs", str(listed)], ["npm", "run", "build"], ["npm", "run", "gallery:build"]):
            done = subprocess.run(command, cwd=copy / "web", capture_output=True, text=True, check=False)
            if done.returncode:
                sys.exit(f"The front end with mistakes could not be built.\n{done.stderr[-3000:]}")
        for part in PARTS:
            shutil.copytree(copy / part, BUILT / part)
        shutil.copy2(listed, kept)
    return [mutant for mutant in json.loads(kept.read_text(encoding="utf-8")) if not only_at_boundary(mutant)]


def only_at_boundary(mutant: dict[str, Any]) -> bool:
    """`<` for `<=`: as a rule the same to every reader (in Python comparisons are turned round, too)."""
    was, became = (re.sub(r"([<>])=?", r"\1", mutant[key]) for key in ("original", "replacement"))
    return mutant["mutatorName"] == "EqualityOperator" and was == became


def what_tests_reach(copy: Path, scripts: dict[Path, str]) -> tuple[dict[str, set[str]], dict[str, int], dict[str, float]]:
    """Which browser tests come by each mistake, how many each test comes by, and what each takes in seconds."""
    kept = sampled.WORK / "web-reached.json"
    if not kept.exists():
        start = time.monotonic()
        switched(copy, scripts, TELLS)
        command = [sys.executable, "manage.py", "test", "--noinput", "--parallel", "2"]
        command += ["--testrunner", "tools.mutants.timed.ListeningRunner", "e2e"]
        environment = sampled.environment(copy, PIPETTE_TIMES=str(copy / ".run" / "times"))
        done = subprocess.run(command, cwd=copy, env=environment, capture_output=True, text=True, check=False)
        rows = [json.loads(line) for file in (copy / ".run" / "times").glob("*") for line in file.read_text().splitlines()]
        closing = (done.stdout.splitlines() or [""])[-1]
        print(f"which browser tests come where: {time.monotonic() - start:.0f} s; {closing}", flush=True)
        failed = set(FAILED.findall(done.stderr))
        if done.returncode and not 0 < len(failed) <= MOST_LEFT_OUT:
            sys.exit(f"The browser tests fail with all mistakes switched off; mend that first.\n{done.stderr[-3000:]}")
        for test in failed:
            print(f"left out, since it fails with all mistakes switched off: {test}", flush=True)
        kept.write_text(json.dumps([row for row in rows if row[0] not in failed]), encoding="utf-8")
    reached: dict[str, set[str]] = defaultdict(set)
    took: dict[str, float] = {}
    for test, value in json.loads(kept.read_text(encoding="utf-8")):
        if isinstance(value, list):
            for mutant in value:
                reached[mutant].add(test)
        else:
            took[test] = value
    reach = Counter(test for tests in reached.values() for test in tests)
    return reached, dict(reach), took
