"""Square codes that a phone's camera reads, as paths of an SVG."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

import segno


@lru_cache(maxsize=64)
def qr_path(text: str) -> tuple[str, int]:
    """A QR code (ISO/IEC 18004) as the path of an SVG with a quiet zone of four modules, and the side of its box."""
    matrix: Sequence[Sequence[int]] = segno.make(text, error="m", micro=False).matrix
    runs = []
    for y, row in enumerate(matrix):
        x = 0
        while x < len(row):
            start = x
            while x < len(row) and row[x]:
                x += 1
            if x > start:
                runs.append(f"M{start + 4} {y + 4}h{x - start}v1h-{x - start}z")
            x += 1
    return "".join(runs), len(matrix) + 8
