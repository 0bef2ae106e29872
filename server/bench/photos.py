"""Photographs outside the database: made anew from their pixels, so that nothing else a camera writes is kept.

A file is named by the SHA-256 of what is in it. Making it anew drops place, time and camera, and anything that only looks
like a picture.
"""

from __future__ import annotations

import hashlib
import io
from dataclasses import dataclass
from pathlib import Path

from django.conf import settings
from PIL import Image, ImageOps, UnidentifiedImageError

from server.problems import Problem

MOST_BYTES = 5_000_000
MOST_PIXELS = 40_000_000
LONGEST = 1600
QUALITY = 82
FORMATS = ("JPEG", "PNG", "WEBP")


@dataclass(frozen=True, slots=True)
class Stored:
    """A stored picture."""

    sha256: str
    width: int
    height: int
    size: int


def path_of(sha256: str) -> Path:
    """Where a picture lies."""
    return settings.PHOTO_DIR / sha256[:2] / f"{sha256}.jpg"


def store(content: bytes) -> Stored:
    """Shrink a picture to at most 1600 pixels, drop all but its pixels, and store it.

    Raises Problem: photo_large, or no_photo for what is no JPEG, PNG or WebP picture.
    """
    if len(content) > MOST_BYTES:
        raise Problem(422, "photo_large", "The picture is larger than 5 MB. It stays on your device.", field="photo")
    try:
        with Image.open(io.BytesIO(content), formats=FORMATS) as picture:
            if picture.width * picture.height > MOST_PIXELS:
                raise Problem(422, "photo_large", "The picture has too many pixels. It stays on your device.", field="photo")
            plain = ImageOps.exif_transpose(picture).convert("RGB")
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        message = "That file is no picture that can be kept (JPEG, PNG or WebP)."
        raise Problem(422, "no_photo", message, field="photo") from error
    plain.thumbnail((LONGEST, LONGEST))
    made = io.BytesIO()
    plain.save(made, "JPEG", quality=QUALITY)
    data = made.getvalue()
    name = hashlib.sha256(data).hexdigest()
    target = path_of(name)
    if not target.exists():
        target.parent.mkdir(parents=True, exist_ok=True)
        beside = target.with_suffix(".new")
        beside.write_bytes(data)
        beside.replace(target)
    return Stored(name, plain.width, plain.height, len(data))
