"""Photographs outside the database: made anew from their pixels, so that nothing else a camera writes is kept.

A file is named by the id of its row. Making it anew drops place, time, camera, comments and anything that only looks like a
picture. Only the server's own user may read the files. A photograph can be removed at once by the group that took it or by
its teacher: the file goes, the row stays and says when and by whom.
"""

from __future__ import annotations

import io
import os
import uuid
import warnings
from dataclasses import dataclass
from pathlib import Path

from django.conf import settings
from PIL import Image, ImageOps, UnidentifiedImageError

from galvanic.words import mark, say
from server.base.problems import Problem, Refusal

MOST_BYTES = 5_000_000
MOST_PIXELS = 24_000_000  # decoded, three bytes each: 72 MB at most, for PNG and WebP; JPEG is decoded smaller
MOST_JPEG_PIXELS = 120_000_000  # what phones make; decoded at an eighth of that at most
LONGEST = 1600
QUALITY = 82
FORMATS = ("JPEG", "PNG", "WEBP")
AWAY = Refusal(
    503,
    "photos_away",
    mark(
        "The server cannot store photographs just now: its disk is full or closed. The picture is "
        "safe on this device and can be"
        " sent again. Tell whoever runs Pipette."
    ),
)
LARGE = Refusal(422, "photo_large", mark("The picture has too many pixels. It stays on your device."), field="photo")


@dataclass(frozen=True, slots=True)
class Stored:
    """A stored picture."""

    width: int
    height: int
    size: int


def path_of(photo_id: uuid.UUID) -> Path:
    """Where a picture lies."""
    return settings.PHOTO_DIR / photo_id.hex[:2] / f"{photo_id}.jpg"


def store(photo_id: uuid.UUID, content: bytes) -> Stored:
    """Shrink a picture to at most 1600 pixels, drop all but its pixels, and store it.

    Raises Problem: photo_large, no_photo for what is no JPEG, PNG or WebP picture, or photos_away.
    """
    if len(content) > MOST_BYTES:
        raise Problem(422, "photo_large", say("The picture is larger than 5 MB. It stays on your device."), field="photo")
    plain = _pixels(content)
    made = io.BytesIO()
    plain.save(made, "JPEG", quality=QUALITY)
    data = made.getvalue()
    try:
        _write(path_of(photo_id), data)
    except OSError as error:
        raise AWAY() from error
    return Stored(plain.width, plain.height, len(data))


def writable() -> None:
    """Raises Problem photos_away where no photograph could be stored."""
    probe = settings.PHOTO_DIR / f".probe-{os.getpid()}"
    try:
        settings.PHOTO_DIR.mkdir(mode=0o700, parents=True, exist_ok=True)
        probe.write_bytes(b"1" * 512)
        probe.unlink()
    except OSError as error:
        raise AWAY() from error


def remove(photo_id: uuid.UUID) -> None:
    """Remove a picture's file; it may be gone already. Raises Problem photos_away where it cannot be."""
    try:
        path_of(photo_id).unlink(missing_ok=True)
    except OSError as error:
        raise AWAY() from error


def _pixels(content: bytes) -> Image.Image:
    """The picture upright and small, as a new one that has nothing but pixels."""
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)  # our own limits are narrower
            with Image.open(io.BytesIO(content), formats=FORMATS) as picture:
                pixels = picture.width * picture.height
                if picture.format == "JPEG" and pixels <= MOST_JPEG_PIXELS:
                    picture.draft("RGB", (LONGEST, LONGEST))  # libjpeg decodes at 1/2, 1/4 or 1/8: still above 1600
                    pixels = picture.width * picture.height
                if pixels > MOST_PIXELS:
                    raise LARGE()
                upright = _on_white(ImageOps.exif_transpose(picture))
    except Image.DecompressionBombError as error:
        raise LARGE() from error
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, MemoryError) as error:
        message = say("That file is no picture that can be kept (JPEG, PNG or WebP).")
        raise Problem(422, "no_photo", message, field="photo") from error
    upright.thumbnail((LONGEST, LONGEST))
    upright.info = {}  # or a comment would be written into the new file
    return upright


def _on_white(picture: Image.Image) -> Image.Image:
    """A picture without gaps: what is transparent is white, as on the page it was seen on."""
    if not picture.has_transparency_data:
        return picture.convert("RGB")
    seen = picture.convert("RGBA")
    paper = Image.new("RGB", seen.size, "white")
    paper.paste(seen, mask=seen.getchannel("A"))
    return paper


def _write(target: Path, data: bytes) -> None:
    settings.PHOTO_DIR.mkdir(mode=0o700, parents=True, exist_ok=True)
    target.parent.mkdir(mode=0o700, exist_ok=True)
    beside = target.with_suffix(".new")
    with os.fdopen(os.open(beside, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "wb") as file:
        file.write(data)
        file.flush()
        os.fsync(file.fileno())
    beside.replace(target)
