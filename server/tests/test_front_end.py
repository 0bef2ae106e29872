"""The front end's own logic, run in Node: each file of `web/tests` is bundled and must pass."""

import json
import os
import subprocess
import tempfile
from dataclasses import asdict
from pathlib import Path

from django.conf import settings
from django.test import SimpleTestCase

from galvanic.simulated.free_bench import LOADS_OHM, SECONDS, pair_table, shown_v

WEB = settings.BASE_DIR / "web"


class FrontEnd(SimpleTestCase):
    def passes(self, name, **env):
        with tempfile.TemporaryDirectory() as folder:
            made = Path(folder) / "test.mjs"
            bundle = [
                "node_modules/.bin/rolldown",
                "--input",
                f"tests/{name}.test.ts",
                "-c",
                "tests/rolldown.config.js",
                "-o",
                made,
            ]
            done = subprocess.run(bundle, cwd=WEB, capture_output=True, text=True, check=False)
            self.assertEqual(done.returncode, 0, done.stderr)
            done = subprocess.run(
                ["node", "--test", "--test-reporter=tap", made], cwd=WEB, capture_output=True, text=True, check=False,
                env=os.environ | env,
            )  # fmt: skip
            self.assertEqual(done.returncode, 0, done.stdout)
            self.assertRegex(done.stdout, r"# pass [1-9]")

    def test_formatting(self):
        self.passes("format")

    def test_setting_a_lab_up(self):
        self.passes("setup")

    def test_asking_the_server(self):
        self.passes("asking")

    def test_what_is_kept_to_open_without_network(self):
        self.passes("worker")

    def test_leaving_a_shared_device(self):
        self.passes("leaving")

    def test_the_outbox(self):
        self.passes("outbox")

    def test_packs_as_they_are_shown(self):
        self.passes("packs")

    def test_practice(self):
        self.passes("practise")

    def test_rubrics(self):
        self.passes("rubric")

    def test_the_free_bench_on_the_cores_cases(self):
        cases = [
            {"points": {"loads_ohm": LOADS_OHM, "seconds": SECONDS}, "pair": asdict(table), "changes": changes,
             "seconds": seconds, "cells": cells, "load": load, "volts_v": shown_v(table, tuple(changes), cells, load, seconds)}
            for pair in (("zinc", "copper"), ("aluminium", "zinc"))
            for table in [pair_table("lemon-juice", *pair)]
            for changes in ([], ["8 cm apart"], ["warm, 40 °C", "4 g of salt"])
            for cells in (1, 3)
            for load in (None, 0.0, 100.0, 10_000.0)
            for seconds in (1.0, 7.0, 60.0)
        ]  # fmt: skip
        with tempfile.NamedTemporaryFile("w", suffix=".json") as file:
            json.dump(cases, file)
            file.flush()
            self.passes("bench", PRACTISE_CASES=file.name)

    def test_no_file_is_left_out(self):
        self.assertEqual({path.name for path in (WEB / "tests").glob("*.test.ts")},
                         {"format.test.ts", "setup.test.ts", "outbox.test.ts", "packs.test.ts", "practise.test.ts",
                          "bench.test.ts", "asking.test.ts", "rubric.test.ts", "worker.test.ts", "leaving.test.ts"})  # fmt: skip
