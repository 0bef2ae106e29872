"""Gzipped script that a first visit to each page loads; fails over 250 kB. Reads the built front end's manifest."""

from __future__ import annotations

import gzip
import json
import sys
from pathlib import Path

APP = Path(__file__).resolve().parents[1] / "web" / "dist" / "app"
LIMIT_KB = 250.0


def loaded(chunks: dict[str, dict[str, object]], name: str, seen: set[str]) -> set[str]:
    """A chunk's files with all that it imports at once."""
    if name not in seen:
        seen.add(name)
        for other in chunks[name].get("imports", []):  # type: ignore[attr-defined]
            loaded(chunks, other, seen)
    return seen


def main() -> int:
    chunks = json.loads((APP / ".vite" / "manifest.json").read_text(encoding="utf-8"))
    entry = next(name for name, chunk in chunks.items() if chunk.get("isEntry"))
    too_big = 0
    for page in [entry, *chunks[entry].get("dynamicImports", [])]:
        names = loaded(chunks, page, loaded(chunks, entry, set()))
        size_kb = sum(len(gzip.compress((APP / chunks[name]["file"]).read_bytes())) for name in names) / 1000
        print(f"{size_kb:7.1f} kB  {page}")  # noqa: T201
        too_big += size_kb > LIMIT_KB
    return 1 if too_big else 0


if __name__ == "__main__":
    sys.exit(main())
