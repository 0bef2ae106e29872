"""CONTRIBUTING.md says where changes go: every file it names is there, and all that the code says of its examples is in them."""

import re
import subprocess
import unittest
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
CODE = ("galvanic", "server", "web/src", "tools", "deploy", "pipette")
# Tests, catalogues, migrations and what is generated follow from the files that are named; the demo's scenario is an example.
FOLLOWS = re.compile(r"(^|/)(tests|migrations|locale)/|\.(json|d\.ts|po)$|^server/practise/tidewater\.toml$")


def sections():
    """Each kind of change: its title, its example, and the files it names."""
    for part in (ROOT / "CONTRIBUTING.md").read_text(encoding="utf-8").split("\n## ")[1:]:
        title, _, text = part.partition("\n")
        example = re.search(r"Example: `([^`]+)`", text)
        yield title, example and example[1], {name for name in re.findall(r'`([^`" ]+)`', text) if "/" in name}


def in_code(example):
    """The files that say so."""
    listed = subprocess.run(
        ["git", "grep", "-lwF", "-e", example, "--", *CODE], cwd=ROOT, capture_output=True, text=True, check=False
    )
    return {name for name in listed.stdout.split() if not FOLLOWS.search(name)}


class WhereAChangeGoes(unittest.TestCase):
    def test_every_file_that_is_named_is_there(self):
        for title, _, named in sections():
            with self.subTest(title):
                self.assertTrue(named)
                self.assertEqual([name for name in named if not (ROOT / name).exists()], [])

    def test_all_that_the_code_says_of_an_example_is_in_a_file_that_is_named(self):
        for title, example, named in sections():
            with self.subTest(title):
                self.assertIsNotNone(example)
                found = in_code(example)
                self.assertTrue(found, "nothing says so: the example is gone")
                self.assertEqual({name for name in found if not any(name.startswith(one) for one in named)}, set())

    def test_the_version_has_its_changes_and_the_command_says_it(self):
        version = (ROOT / "VERSION").read_text(encoding="ascii").strip()
        newest = re.search(r"^## (.+)$", (ROOT / "CHANGELOG.md").read_text(encoding="utf-8"), re.MULTILINE)
        self.assertEqual(newest[1], version)
        said = subprocess.run([ROOT / "pipette", "help"], capture_output=True, text=True, check=True).stdout
        self.assertEqual(said.splitlines()[0], f"Pipette {version}")

    def test_there_are_as_many_kinds_as_are_promised(self):
        self.assertGreaterEqual(len(list(sections())), 15)
