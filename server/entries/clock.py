"""What a device's clock says, and what is made of it.

A device's clock may be wrong by years, and what it says decides nothing by itself: it is kept as text, as a time where it
can be one, and only the difference of two of its times counts. No entry is refused for its clock.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Annotated, Any

from pydantic import BeforeValidator

MOST_TEXT = 64
FIRST_YEAR, LAST_YEAR = 1970, 2199  # PostgreSQL keeps more, Python and JavaScript read less
LONGEST_WAIT = timedelta(days=14)  # for which a difference of a device's own times is believed


def _as_text(value: Any) -> str | None:
    return None if value is None else str(value)[:MOST_TEXT]


DeviceTime = Annotated[str | None, BeforeValidator(_as_text)]
"""A time by a device's clock, as it comes: never refused."""


def _read(text: str | None) -> datetime | None:
    try:
        at = datetime.fromisoformat(text or "")
        return at if at.tzinfo is not None else None
    except ValueError:
        return None


@dataclass(frozen=True, slots=True)
class Clock:
    """When something was entered (`device`) and sent (`sent`), both by the device's clock, as text."""

    device: str | None = None
    sent: str | None = None

    @property
    def device_at(self) -> datetime | None:
        """When it was entered by the device's clock, in UTC; None where that is no time that can be kept."""
        at = _read(self.device)
        try:
            utc = at and at.astimezone(UTC)
        except OverflowError:
            return None
        return utc if utc and FIRST_YEAR <= utc.year <= LAST_YEAR else None

    @property
    def waited(self) -> timedelta | None:
        """How long it waited on the device; None where the clock does not say so."""
        device, sent = _read(self.device), _read(self.sent)
        if device is None or sent is None:
            return None
        waited = sent - device
        return waited if timedelta(0) <= waited <= LONGEST_WAIT else None

    def entered(self, now: datetime) -> datetime:
        """When it was entered by the server's clock: now, less the time it waited."""
        return now - (self.waited or timedelta(0))

    @property
    def kept(self) -> dict[str, Any]:
        """The columns that keep what the device's clock said."""
        return {"device_said": self.device or "", "device_at": self.device_at}
