"""Gzipped script that a first visit to each page loads, with the sentences of the language that has the longest; fails over
250 kB, and over less for what phones open in a lesson. Reads the built front end's manifest."""

from __future__ import annotations

import gzip
import json
import sys
from pathlib import Path

APP = Path(__file__).resolve().parents[1] / "web" / "dist" / "app"
LIMIT_KB = 250.0
ON_SLOW_PHONES = {
    "src/app/main.tsx": 160.0,
    "src/stages/measure/BenchPage.tsx": 220.0,
}  # bench/slow_phone.py says in seconds
DRAWS = "src/app/draw.tsx"


def loaded(chunks: dict[str, dict[str, object]], name: str, seen: set[str]) -> set[str]:
    """A chunk's files with all that it imports at once."""
    if name not in seen:
        seen.add(name)
        for other in chunks[name].get("imports", []):  # type: ignore[attr-defined]
            loaded(chunks, other, seen)
    return seen


def main() -> int:
    chunks = json.loads((APP / ".vite" / "manifest.json").read_text(encoding="utf-8"))
    size = {name: len(gzip.compress((APP / chunk["file"]).read_bytes())) / 1000 for name, chunk in chunks.items()}
    entry = next(name for name, chunk in chunks.items() if chunk.get("isEntry"))

    def sentences(of: str) -> set[str]:
        those = [name for name in chunks if Path(name).parent == Path(of) / "locale"]
        return {max(those, key=lambda name: size[name])} if those else set()

    always = loaded(chunks, DRAWS, loaded(chunks, entry, sentences("src")))
    too_big = 0
    for page in [entry, *chunks[DRAWS].get("dynamicImports", [])]:
        size_kb = sum(size[name] for name in loaded(chunks, page, always | sentences(str(Path(page).parent))))
        print(f"{size_kb:7.1f} kB  {page}")
        too_big += size_kb > ON_SLOW_PHONES.get(page, LIMIT_KB)
    return 1 if too_big else 0


if __name__ == "__main__":
    sys.exit(main())
