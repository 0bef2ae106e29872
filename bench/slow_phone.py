"""A slow phone, from the code on the wall to the bench: bench/slow_phone.py [--rounds N]

400 kbit/s, 400 ms to the server and back, a sixth of this machine's processor, nothing kept from before, no proxy. Printed
are seconds until something stands on the page, until the form to join takes what is typed, and, from the press on “Join”,
until the bench takes a reading; with the bytes and requests that it took. Somebody types the PIN for four seconds.
Targets: the form in 5 s, the bench in 8 s.
"""

from __future__ import annotations

import argparse
import statistics
import sys
import time
from collections.abc import Callable
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from django.db import connection
from playwright.sync_api import Page, expect

from bench.flood import served  # first: it sets Django up
from e2e.browser import PHONE, chromium
from server.people.models import Group

LINE = {"offline": False, "latency": 400, "downloadThroughput": 50_000, "uploadThroughput": 50_000}
ASSETS = Path(__file__).resolve().parents[1] / "web" / "dist" / "app" / "assets"
SLOWER, TYPES_S, WAIT_MS = 6, 4.0, 120_000
FORM_S, BENCH_S = 5.0, 8.0
Counted = tuple[float, float, int]  # seconds, kilobytes, requests


def slow(page: Page) -> Callable[[], tuple[float, int]]:
    """Make a page slow; gives kilobytes and requests so far."""
    line = page.context.new_cdp_session(page)
    line.send("Network.enable")
    line.send("Network.emulateNetworkConditions", LINE)
    line.send("Emulation.setCPUThrottlingRate", {"rate": SLOWER})
    came = [0.0, 0]

    def finished(event: dict[str, float]) -> None:
        came[0] += event["encodedDataLength"] / 1000
        came[1] += 1

    line.on("Network.loadingFinished", finished)
    return lambda: (came[0], int(came[1]))


def walked(page: Page, url: str, code: str, pin: str) -> dict[str, Counted]:
    """One phone's way, with what each step took."""
    counted = slow(page)
    begun = time.monotonic()

    def now(since: float) -> Counted:
        return (time.monotonic() - since, *counted())

    steps = {}
    page.goto(f"{url}/join?code={code}", wait_until="commit")
    page.get_by_text("PIN").first.wait_for(timeout=WAIT_MS)
    steps["something stands there"] = now(begun)
    field = page.get_by_label("PIN of your group")
    expect(field).to_be_editable(timeout=WAIT_MS)
    steps["the form takes a PIN"] = now(begun)
    field.press_sequentially(pin, delay=TYPES_S * 1000 / len(pin))
    pressed = time.monotonic()
    page.get_by_role("button", name="Join").click(timeout=WAIT_MS)
    page.get_by_label("Reading in volts").wait_for(timeout=WAIT_MS)
    steps["the bench takes a reading"] = now(pressed)
    return steps


def main() -> int:
    """Print the medians; 1 if a target is missed."""
    options = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    options.add_argument("--rounds", type=int, default=3)
    rounds = options.parse_args().rounds
    if not list(ASSETS.glob("*.js.gz")):
        sys.exit("The front end is not compressed as it is served: python -m whitenoise.compress web/dist")
    with served() as lab, chromium() as browser:
        group = Group.objects.filter(lab_id=lab.lab).order_by("position").first()
        assert group is not None
        connection.close()  # the database is dropped at the end
        seen: dict[str, list[Counted]] = {}
        for _ in range(rounds):
            context = browser.new_context(viewport=PHONE, has_touch=True, is_mobile=True, locale="en-GB")
            for step, counted in walked(context.new_page(), f"http://127.0.0.1:{lab.port}", lab.code, group.pin).items():
                seen.setdefault(step, []).append(counted)
            context.close()
    targets = {"the form takes a PIN": FORM_S, "the bench takes a reading": BENCH_S}
    late = 0
    for step, all_counted in seen.items():
        seconds, kilobytes, requests = (statistics.median(column) for column in zip(*all_counted, strict=True))
        target = targets.get(step)
        late += target is not None and seconds > target
        aim = "" if target is None else f"  (target {target:.0f} s)"
        sys.stdout.write(f"{step:28} {seconds:5.1f} s  {kilobytes:5.0f} kB  {requests:3.0f} requests{aim}\n")
    return 1 if late else 0


if __name__ == "__main__":
    sys.exit(main())
