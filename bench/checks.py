"""How many faults the checks catch, and how often they trouble sound readings: `./pipette bench`.

Simulated classes of 12 groups; a class's plates deviate from the rest account about as much as outside data do. Targets: at
least 90 % of each kind caught within the group's three readings, under 3 % of sound readings flagged.
"""

from __future__ import annotations

import sys
from collections import Counter
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from galvanic.planning.design import Task, design
from galvanic.simulated.check_score import score
from galvanic.simulated.faults import SHOWN
from galvanic.simulated.rehearsal import simulated_class

PLATES = ("magnesium", "aluminium", "zinc", "steel", "nickel", "tin", "copper", "graphite")
LIQUIDS = ("rhubarb-juice", "kelp-brine")
GROUPS, CLASSES = 12, 40


def main() -> None:
    """Print hits by kind, and false alarms."""
    plan = design(Task(PLATES, LIQUIDS, GROUPS, 7))
    tried: Counter[str] = Counter()
    caught: Counter[str] = Counter()
    sound = flagged = 0
    for seed in range(CLASSES):
        scored = score(simulated_class(plan.hands, seed))
        tried += scored.tried
        caught += scored.caught
        sound += scored.sound
        flagged += scored.flagged
    out = sys.stdout.write
    out(f"{CLASSES} simulated classes of {GROUPS} groups\n")
    for kind in SHOWN:
        out(f"{kind:<12} caught {100.0 * caught[kind] / max(1, tried[kind]):6.1f} %  ({caught[kind]} of {tried[kind]})\n")
    out(f"sound readings flagged: {100.0 * flagged / max(1, sound):.2f} % of {sound}\n")


if __name__ == "__main__":
    main()
