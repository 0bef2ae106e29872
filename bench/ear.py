"""What the ear hears on templates it did not learn from, by belief and language: `python bench/ear.py`.

Targets: 90 of 100 beliefs heard, at most 5 of 100 right sentences misheard, no observation or measurement taken for a
belief; a sentence in a millisecond.
"""

from __future__ import annotations

import sys
import time
from collections import defaultdict
from collections.abc import Callable
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from galvanic.findings.ear import hear
from tools.ear import cross_checked, templates, threshold_of

ROW = "{:<26} {:>3} {:>10} {:>8} {:>8}\n"


def main(write: Callable[[str], object] = sys.stdout.write) -> tuple[float, float]:
    """Print the table; the parts heard and misheard, over everything."""
    every = templates()
    keys = sorted({key for one in every for key in one.beliefs})
    tried = cross_checked(every, keys)
    threshold = threshold_of(tried)
    write(ROW.format("belief", "", "templates", "heard, %", "other, %"))
    heard, n = 0.0, 0.0
    found: dict[tuple[str, str], dict[str, list[tuple[bool, bool]]]] = defaultdict(lambda: defaultdict(list))
    missed: dict[str, list[bool]] = defaultdict(list)
    for one in tried:
        sure = one.chance >= threshold
        if one.template.beliefs:
            for key in sorted(one.template.beliefs)[:1]:
                hit = sure and one.key in one.template.beliefs
                found[key, one.template.language][one.template.text].append((hit, sure and not hit))
        elif not one.text.endswith("?"):
            missed[one.template.language].append(sure)
    for (key, language), by_template in sorted(found.items()):
        hits = sum(sum(hit for hit, _ in rows) / len(rows) for rows in by_template.values())
        others = sum(sum(other for _, other in rows) / len(rows) for rows in by_template.values())
        count = len(by_template)
        write(ROW.format(key, language, count, f"{100 * hits / count:.0f}", f"{100 * others / count:.0f}"))
        heard, n = heard + hits, n + count
    for language, rows in sorted(missed.items()):
        write(ROW.format("right ones, misheard", language, len(rows), "", f"{100 * sum(rows) / len(rows):.1f}"))
    every_right = [sure for rows in missed.values() for sure in rows]
    start = time.process_time()
    for one in tried[:300]:
        hear(one.text)
    each_ms = 1e3 * (time.process_time() - start) / 300
    share = sum(every_right) / len(every_right)
    write(f"heard {100 * heard / n:.0f} %, misheard {100 * share:.1f} %, {each_ms:.2f} ms a sentence\n")
    return heard / n, share


if __name__ == "__main__":
    main()
