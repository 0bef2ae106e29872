"""Every number that is said of a class, as it is printed: 300 seeded classes, sound and with the mistakes of benches."""

from __future__ import annotations

import unittest
from collections.abc import Iterator

from galvanic.findings.class_accounts import score_accounts
from galvanic.findings.class_says import class_says
from galvanic.findings.class_standing import standing_readings
from galvanic.findings.compare import compare
from galvanic.findings.liquid_notes import in_liquids
from galvanic.findings.working import class_working
from galvanic.planning.design import Task, design
from galvanic.simulated.slips import usual_slips, with_slips
from galvanic.tests.cases import as_read
from galvanic.tests.printed import faults
from galvanic.words import speaking

CLASSES = 300
REFUSED_V = 10_000.0  # the bench does not take it
METALS = ("magnesium", "zinc", "steel", "tin", "nickel", "copper")
QUOTES = ("left_out_",)  # notes that repeat what was typed, however large


def texts(seed: int, language: str) -> Iterator[tuple[str, str]]:
    """All sentences about one class, each with what it comes from."""
    plates = METALS[: 2 + seed % 5]
    liquids = ("lemon-juice", "salt-water", "kelp-brine")[: 1 + seed % 3]
    hands = design(Task(plates, liquids, 1 + seed % 8, 3 + seed % 4)).hands
    entries = with_slips(hands, seed, usual_slips(seed) if seed % 3 else [])
    every = [as_read(entry) for entry in entries if abs(float(entry.typed.text)) < REFUSED_V]
    every = every[: len(every) // (1 + (seed % 5 == 4))]
    counting, left_out = standing_readings(every)
    results = compare(counting)
    for note in class_says(every, counting, left_out, results).in_order:
        if not note.code.startswith(QUOTES):
            yield from ((note.code, text) for text in (note.title, note.text, *note.evidence))
    for pair in in_liquids(results):
        yield from (("liquids", text) for text in (pair.ph_says, pair.conductivity_says))
    for result in results:
        for cell in result.cells:
            yield from (("working", f"{line.name} {line.sum} {line.gives}") for line in class_working(result, cell))
    if seed % 10 == 0 and results:
        yield "accounts", score_accounts(results).verdict


class Printed(unittest.TestCase):
    def test_numbers_agree_as_they_are_printed(self) -> None:
        for language in ("en", "de"):
            with speaking(language):
                found = {
                    f"{source}: {fault}"
                    for seed in range(CLASSES)
                    for source, text in texts(seed, language)
                    for fault in faults(text, language)
                }
            self.assertEqual(sorted(found)[:20], [], language)
