"""What beliefs a sentence holds, by a small trained ear: what its words mean, in pairs, with a linear model of each belief.

Words become ideas (`sentences/words.csv`, German and English together): what is learnt in one language helps the other.
A sentence is cut into clauses; what stands in a clause with a denial is another feature than what does not. Numbers become
their units. Features are hashed, so the model is one table of weights (`sentences/ear.npz`, made by `python -m tools.ear`
from `sentences/*.csv`), and numpy is all it needs. A question holds no belief; below its threshold the ear says nothing.
"""

from __future__ import annotations

import hashlib
import re
import zlib
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache, lru_cache
from pathlib import Path

import numpy as np

WIDTH = 1 << 16  # places that features are hashed to
TABLE = Path(__file__).parent / "sentences" / "ear.npz"
WORDS = TABLE.with_name("words.csv")
REACH = 6  # ideas of a clause that are told in their order
SHORT = 3  # letters up to which a beginning is a whole word
SPELT = str.maketrans({"ä": "ae", "ö": "oe", "ü": "ue", "ß": "ss", "’": "", "'": "", "−": "-"})
DENIES = re.compile(
    r"\b(?:no|not|never|none|nothing|nobody|neither|nor|without|cannot|hardly|unlike|"
    r"(?:do|does|did|is|are|was|were|wo|ca|could|would|should|has|have)nt|"
    r"nicht|nichts|nie|niemals|niemand|kein\w*|ohne|kaum|weder)\b"
)
CLAUSE = re.compile(
    r"[,;:()]|\b(?:but|because|since|so|therefore|while|aber|sondern|weil|denn|deshalb|darum|also|and|und)\b"
)
NUMBER = re.compile(r"[-+]?\d+(?:[.,]\d+)?\s*(mv|ma|volts?|v|milliamps?|cm|mol/l|c\b)?")
WORD = re.compile(r"#?[^\W_]+")
SENTENCE = re.compile(r"[^.!?;\n]*(?:[.,]\d[^.!?;\n]*)*[.!?;\n]?")


@dataclass(frozen=True, slots=True)
class Ear:
    """The table: for each belief a row of weights and a bias, against no belief, and the chance from which one is heard."""

    keys: tuple[str, ...]
    weights: np.ndarray
    bias: np.ndarray
    threshold: float


@cache
def ear() -> Ear:
    """The trained table as it is shipped; weights are kept as small whole numbers with a scale for each belief."""
    with np.load(TABLE) as kept:
        weights = kept["weights"].astype(np.float32) * kept["scale"][:, None]
        return Ear(tuple(str(key) for key in kept["keys"]), weights, kept["bias"], float(kept["threshold"]))


def learnt_from() -> str:
    """A digest of the sentences and words as they are now; the table keeps the one it was made from."""
    files = sorted(TABLE.parent.glob("*.csv"))
    return hashlib.sha256(b"".join(file.read_bytes() for file in files)).hexdigest()[:16]


def plain(text: str) -> str:
    """A text as the ear takes it: small letters, no apostrophes, numbers as their units."""
    small = text.casefold().translate(SPELT)
    return NUMBER.sub(lambda found: f" #{(found[1] or 'n').replace('/', '')[:5]} ", small)


@cache
def ideas() -> tuple[tuple[str, str], ...]:
    """Beginnings of words with the idea that each stands for, the longest first (`sentences/words.csv`)."""
    lines = [line for line in WORDS.read_text(encoding="utf-8").splitlines() if line and not line.startswith("#")]
    pairs = [(start, idea) for idea, starts in (line.split(",", 1) for line in lines[1:]) for start in starts.split()]
    return tuple(sorted(pairs, key=lambda pair: -len(pair[0])))


@lru_cache(maxsize=4096)
def ideas_of(word: str) -> tuple[str, ...]:
    """The ideas a word stands for: of its longest beginning, all of them; short beginnings are whole words."""
    best = 0
    found: list[str] = []
    for start, idea in ideas():
        if len(start) < best:
            break
        if word == start or (len(start) > SHORT and word.startswith(start)):
            best = len(start)
            found.append(idea)
    return tuple(found)


def features(text: str) -> Iterator[str]:
    """The features of a sentence: what its words mean, in order and in pairs, and the words themselves; what stands in a
    clause with a denial is another feature."""
    whole: list[str] = []
    for clause in CLAUSE.split(plain(text)):
        mark = "!" if DENIES.search(clause) else ""
        words = WORD.findall(clause)
        meant = [f"{mark}{idea}" for word in words for idea in ideas_of(word) or ([word] if word[0] == "#" else [])]
        whole += meant
        for word in words:
            yield f"w {mark}{word}"
        for place, one in enumerate(meant):
            for far, other in enumerate(meant[place + 1 : place + REACH]):
                yield f"{one} {'>' if far == 0 else '..'} {other}"
    once = sorted(set(whole))
    yield from once
    for place, one in enumerate(once):
        for other in once[place + 1 :]:
            yield f"{one} & {other}"
    yield "#whole"


def places(text: str) -> np.ndarray:
    """Where a sentence's features lie in the table, each once."""
    return np.unique([zlib.crc32(feature.encode()) % WIDTH for feature in features(text)])


def chances(text: str, by: Ear | None = None) -> np.ndarray:
    """The chance of each belief in one sentence, that belief or none."""
    by = by or ear()
    at = places(text)
    score = by.weights[:, at].sum(axis=1) / np.sqrt(len(at)) + by.bias
    return np.asarray(1.0 / (1.0 + np.exp(-score)))


def sentences_of(text: str) -> list[str]:
    """A text cut into sentences, with their marks; a decimal point ends none."""
    return [found for one in SENTENCE.findall(text) if (found := one.strip())]


def hear(text: str, by: Ear | None = None) -> list[str]:
    """Keys of the beliefs that a text seems to hold, the surest first, one a sentence at most; a question holds none."""
    by = by or ear()
    heard: dict[str, float] = {}
    for sentence in sentences_of(text):
        if sentence.endswith("?"):
            continue
        chance = chances(sentence, by)
        place = int(chance.argmax())
        if chance[place] >= by.threshold:
            heard[by.keys[place]] = max(heard.get(by.keys[place], 0.0), float(chance[place]))
    return sorted(heard, key=lambda key: -heard[key])
