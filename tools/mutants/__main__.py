"""Do the tests notice a mistake?  python -m tools.mutants [core] [server] [web] [--count N] [--seed N] [--anew]

Plausible mistakes are made one at a time in a copy (a comparison turned, an operator changed, a number moved, a condition
denied), the tests that come by each run on it, and those that nobody noticed are listed. The sample is drawn by the seed.
Which tests come where is found once and kept in .run/mutants until --anew. In the front end what only looks different
(styles) and what is only said (sentences) is left out: pictures and the sentences' own checks look at those.
It takes half a minute a mistake and processor, so it is no part of the checks.  Target: 80 % each.
"""

from __future__ import annotations

import argparse
import os
import shutil
import sys

from tools.mutants import python_side, sampled, web_side

SIDES = {"core": python_side.core, "server": python_side.server, "web": web_side.web}
TARGET = 0.80


def main() -> None:
    """Print the scores; exits with 1 if one is below the target."""
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("sides", nargs="*", choices=[*SIDES, []], default=list(SIDES))
    parser.add_argument("--count", type=int, default=40)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--anew", action="store_true", help="find again which tests come where")
    options = parser.parse_args()
    if "DATABASE_URL" not in os.environ:
        sys.exit("Run it as ./pipette mutants: it needs the tests' database.")
    if options.anew:
        shutil.rmtree(sampled.WORK, ignore_errors=True)
    sampled.WORK.mkdir(parents=True, exist_ok=True)
    scores = {side: SIDES[side](options.count, options.seed) for side in options.sides}
    print("  ".join(f"{side} {100 * share:.0f} %" for side, share in scores.items()) + f"  (target {100 * TARGET:.0f} %)")
    sys.exit(any(share < TARGET for share in scores.values()))


if __name__ == "__main__":
    main()
