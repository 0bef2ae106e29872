"""Train the ear (galvanic/findings/ear.py) from its sentences: `python -m tools.ear` writes the table anew.

Every line of `sentences/*.csv` is a template; its alternatives are drawn, and spelling as it is typed is added. The
threshold is the one at which templates that the ear did not learn from are misheard in at most `MISHEARD` of 100.
"""

from __future__ import annotations

import csv
import random
import re
import sys
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from scipy.sparse import csr_matrix
from sklearn.linear_model import LogisticRegression

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from galvanic.findings.ear import TABLE, WIDTH, Ear, chances, learnt_from, places

FOLDER = TABLE.parent
DRAWN, SLIPS = 4, 0.35  # sentences of a template at most, and how many of them are typed carelessly
ONE_OF = re.compile(r"\{([^{}]*)\}")
MISHEARD = 0.05
FOLDS = 5
STRENGTH = 60.0
NONE = "-"
BEGUN = ("I think", "We think that", "Well,", "Maybe", "Ich glaube,", "Wir denken,")


@dataclass(frozen=True)
class Template:
    """One line of the sentences: its beliefs, its language, its text with alternatives."""

    beliefs: frozenset[str]
    language: str
    text: str


def templates() -> list[Template]:
    """All templates of all languages."""
    found = []
    for file in sorted(FOLDER.glob("[a-z][a-z].csv")):
        lines = [line for line in file.read_text(encoding="utf-8").splitlines() if not line.startswith("#")]
        for row in csv.DictReader(lines):
            beliefs = frozenset() if row["belief"] == "-" else frozenset(row["belief"].split())
            found.append(Template(beliefs, file.stem, row["text"]))
    return found


def drawn(template: Template, most: int = DRAWN) -> list[str]:
    """Sentences of a template, seeded by its text: every alternative comes up."""
    rng = random.Random(template.text)  # noqa: S311
    ways = 1
    for options in ONE_OF.findall(template.text):
        ways *= options.count("|") + 1
    found = {ONE_OF.sub(lambda one: rng.choice(one[1].split("|")), template.text) for _ in range(4 * min(ways, most))}
    return [" ".join(text.split()).replace(" .", ".").replace(" ,", ",") for text in sorted(found)[:most]]


def careless(text: str, rng: random.Random) -> str:
    """The same as somebody types it in a hurry."""
    way = rng.randrange(6)
    if way == 0:
        return text.lower().replace("'", "").replace("’", "")
    if way == 1:
        return text.replace("through", "thru").replace("because", "bc").replace("electricity", "electricty").rstrip(".")
    at = rng.randrange(1, max(2, len(text) - 2))
    if way == 2:
        return text[:at] + text[at] + text[at:]  # a letter twice
    if way == 3:
        return text[:at] + text[at + 1] + text[at] + text[at + 2 :]  # two letters swapped
    if way == 4:
        return text[:at] + text[at + 1 :]  # a letter left out
    return f"{rng.choice(BEGUN)} {text[:1].lower()}{text[1:]}"


def said(some: Sequence[Template], slips: bool) -> Iterator[tuple[str, Template]]:
    """Sentences of templates, some of them typed carelessly."""
    for template in some:
        rng = random.Random(f"slips {template.text}")  # noqa: S311
        for text in drawn(template):
            yield text, template
            if slips and rng.random() < SLIPS:
                yield careless(text, rng), template


def trained(some: Sequence[Template], keys: Sequence[str], slips: bool = True) -> Ear:
    """Weights from templates, each belief against none; the threshold stays open."""
    rows = [
        (places(text), belief, 1.0 / len(drawn(template)))  # a template counts once
        for text, template in said(some, slips)
        for belief in sorted(template.beliefs) or [NONE]
    ]
    at = [one for one, _, _ in rows]
    values = np.concatenate([np.full(len(one), len(one) ** -0.5) for one in at])
    x = csr_matrix((values, np.concatenate(at), np.cumsum([0, *map(len, at)])), shape=(len(rows), WIDTH))
    model = LogisticRegression(C=STRENGTH, max_iter=300)
    model.fit(x, [belief for _, belief, _ in rows], sample_weight=[weight for _, _, weight in rows])
    row = {str(name): place for place, name in enumerate(model.classes_)}
    weights = np.array([model.coef_[row[key]] - model.coef_[row[NONE]] for key in keys], dtype=np.float32)
    bias = np.array([model.intercept_[row[key]] - model.intercept_[row[NONE]] for key in keys])
    return Ear(tuple(keys), weights, bias, 0.5)


def folds(every: Sequence[Template]) -> Iterator[tuple[list[Template], list[Template]]]:
    """Templates to learn from and templates held back, five times."""
    order = sorted(every, key=lambda one: random.Random(one.text).random())  # noqa: S311
    for fold in range(FOLDS):
        yield [t for n, t in enumerate(order) if n % FOLDS != fold], order[fold::FOLDS]


@dataclass(frozen=True)
class Tried:
    """A sentence that the ear had not learnt from: its template, the surest belief and its probability."""

    template: Template
    text: str
    key: str
    chance: float


def cross_checked(every: Sequence[Template], keys: Sequence[str]) -> list[Tried]:
    """Every template heard by an ear that has not learnt from it."""
    found = []
    for learnt, held in folds(every):
        model = trained(learnt, keys, slips=False)
        for text, template in said(held, slips=False):
            chance = chances(text, model)
            best = int(chance.argmax())
            found.append(Tried(template, text, keys[best], float(chance[best])))
    return found


def threshold_of(tried: Sequence[Tried]) -> float:
    """From which probability on at most `MISHEARD` of the sentences without a belief are misheard."""
    right = np.sort([one.chance for one in tried if not one.template.beliefs and not one.text.endswith("?")])
    return float(right[int(len(right) * (1.0 - MISHEARD))])


def main() -> None:
    """Train on everything and write the table."""
    every = templates()
    keys = sorted({key for one in every for key in one.beliefs})
    threshold = threshold_of(cross_checked(every, keys))
    made = trained(every, keys)
    scale = np.abs(made.weights).max(axis=1) / 127.0
    whole = np.round(made.weights / scale[:, None]).astype(np.int8)
    np.savez_compressed(
        TABLE,
        keys=np.array(keys),
        weights=whole,
        scale=scale.astype(np.float32),
        bias=made.bias,
        threshold=threshold,
        digest=learnt_from(),
    )
    sys.stdout.write(
        f"{len(every)} templates, {len(keys)} beliefs, threshold {threshold:.2f}, {TABLE.stat().st_size} bytes\n"
    )


if __name__ == "__main__":
    main()
