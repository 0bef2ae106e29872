"""Join codes and PINs that can be read out across a room."""

from __future__ import annotations

import secrets

WORDS = (
    "AMBER ANCHOR BASIN BEACON BIRCH BRAMBLE BREEZE CANYON CEDAR CLOVER COBALT COPSE CORAL CRATER DELTA EMBER FERN FJORD "
    "GARNET GLACIER GRANITE HARBOR HAZEL HOLLOW INDIGO ISLET JASPER JUNIPER KESTREL LAGOON LARCH LICHEN MAPLE MARBLE MARSH "
    "MEADOW MOSS NECTAR NIMBUS OPAL ORCHARD OSIER PEBBLE PRAIRIE QUARRY QUARTZ RAPIDS REEF RIDGE RUSSET SAFFRON SHALE "
    "SLATE SPRUCE SUMMIT TARN THICKET THISTLE TUNDRA UMBER VALLEY WILLOW ZENITH"
).split()


def join_code() -> str:
    """A word and three digits, for example `LARCH-407`."""
    return f"{secrets.choice(WORDS)}-{secrets.randbelow(900) + 100}"


def plain_code(typed: str) -> str:
    """A typed code as it is kept: case, spaces and the hyphen do not matter."""
    letters = "".join(mark for mark in typed.upper() if mark.isalpha())
    digits = "".join(mark for mark in typed if mark.isdigit())
    return f"{letters}-{digits}"


def pins(count: int) -> list[str]:
    """That many different four-digit PINs."""
    return [f"{number:04d}" for number in secrets.SystemRandom().sample(range(1000, 10_000), count)]
