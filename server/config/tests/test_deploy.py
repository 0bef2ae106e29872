"""What is shipped for a school's server hangs together: units, scripts, proxy."""

import re
import shutil
import subprocess
import unittest

from django.conf import settings

DEPLOY = settings.BASE_DIR / "deploy"


class Shipped(unittest.TestCase):
    def test_the_scripts_can_be_read_by_the_shell_and_refuse_what_they_do_not_know(self):
        for name in ("install", "upgrade", "manage", "nightly-backup", "common.sh"):
            done = subprocess.run(["bash", "-n", DEPLOY / name], capture_output=True, text=True, check=False)
            self.assertEqual((done.returncode, done.stderr), (0, ""), name)
        done = subprocess.run([DEPLOY / "install", "--colour"], capture_output=True, text=True, check=False)
        self.assertEqual(done.returncode, 1)
        self.assertIn("unknown option “--colour”", done.stderr)

    def test_every_command_of_a_unit_is_in_what_is_shipped(self):
        units = sorted((DEPLOY / "systemd").glob("*.service"))
        self.assertEqual(len(units), 3)
        for unit in units:
            text = unit.read_text(encoding="utf-8")
            for command in re.findall(r"manage\.py (\w+)", text):
                self.assertTrue(list(settings.BASE_DIR.glob(f"server/*/management/commands/{command}.py")), command)
            for path in re.findall(r"/opt/pipette/current/(deploy/[\w-]+)", text):
                self.assertTrue((settings.BASE_DIR / path).stat().st_mode & 0o100, path)

    @unittest.skipUnless(shutil.which("systemd-analyze"), "systemd is not here")
    def test_systemd_takes_the_units(self):
        units = [str(path) for path in sorted((DEPLOY / "systemd").iterdir())]
        done = subprocess.run(["systemd-analyze", "verify", *units], capture_output=True, text=True, check=False)
        faults = [line for line in done.stderr.splitlines() if "pipette" in line and "not executable" not in line]
        self.assertEqual(faults, [])

    def test_the_containers_proxy_is_the_proxy_with_other_processes_behind_it(self):
        shipped = (DEPLOY / "nginx" / "pipette.conf").read_text(encoding="utf-8")
        other = re.sub(r"unix:/run/pipette-(\d)/http\.sock", r"pipette-\1:8000", shipped)
        self.assertEqual((DEPLOY / "nginx" / "pipette.container.conf").read_text(encoding="utf-8"), other)
