"""How often the next class lies where earlier classes foretell it, and how often τ's interval holds: `./pipette bench`.

Simulated classes of six groups, four pairs each, with plates and meters of their own; coverage of intervals of 95 %.
"""

from __future__ import annotations

import sys
from itertools import combinations, product
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from galvanic.errors import NotEnoughData
from galvanic.statistics.between_classes import Distances, distances_of, lay_over
from galvanic.statistics.class_ladder import fit_class
from galvanic.statistics.ladder import Difference

POTENTIAL = {"magnesium": -1.6, "zinc": -0.8, "steel": -0.45, "tin": -0.3, "copper": 0.05}
GROUPS, PAIRS, PLATES_V, METER_V, DIP_V, DIGIT_V = 6, 4, 0.02, 0.005, 0.01, 0.004
ROUNDS = 400  # of each case, other classes in each: one standard error is about 1 %


def a_class(rng: np.random.Generator, name: str, tau_v: float, plates: list[str]) -> Distances:
    """One class's ladder."""
    own = {plate: POTENTIAL[plate] + rng.normal(0.0, tau_v) for plate in plates}
    pairs, values = list(combinations(plates, 2)), []
    for group in range(GROUPS):
        here = {plate: own[plate] + rng.normal(0.0, PLATES_V) for plate in plates}
        meter = rng.normal(0.0, METER_V)
        for k in rng.choice(len(pairs), min(len(pairs), PAIRS), replace=False):
            low, high = pairs[k]
            volts = here[high] - here[low] + meter + rng.normal(0.0, DIP_V)
            values.append(Difference(high, low, volts, DIGIT_V, f"g{group}"))
    return distances_of(name, fit_class(values))


def coverage(earlier: int, tau_v: float, plates: list[str], seed: int) -> tuple[float, float]:
    """How often the next class's distances lie inside, and how often τ does."""
    rng, inside, of, held = np.random.default_rng(seed), 0, 0, 0
    for _ in range(ROUNDS):
        classes = [a_class(rng, str(k), tau_v, plates) for k in range(earlier + 1)]
        try:
            found = lay_over(classes[:-1])
        except NotEnoughData:
            continue
        at = dict(zip(classes[-1].electrodes, (0.0, *classes[-1].volts_v), strict=True))
        for plate in plates[1:]:
            low, high = found.next_class_v(plate, plates[0])
            inside, of = inside + (low <= at[plate] - at[plates[0]] <= high), of + 1
        held += found.tau_low_v <= tau_v <= found.tau_high_v
    return inside / of, held / ROUNDS


def main() -> None:
    """Print one line a case."""
    sys.stdout.write("earlier classes, τ in mV, plates: next class inside, τ inside its interval\n")
    cases = product((3, 5), (0.015, 0.03, 0.06), (["zinc", "tin", "copper"], list(POTENTIAL)))
    for seed, (earlier, tau_v, plates) in enumerate(cases, start=11):
        next_class, tau = coverage(earlier, tau_v, plates, seed)
        sys.stdout.write(f"  {earlier}  {1000 * tau_v:3.0f}  {len(plates)}: {next_class:.3f}  {tau:.3f}\n")
        sys.stdout.flush()


if __name__ == "__main__":
    main()
