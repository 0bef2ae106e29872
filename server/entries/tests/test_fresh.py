"""What is kept between changes is never old: after whatever happens, pages show what a server that keeps nothing would."""

import random
import uuid

from django.test import TestCase

from server.base import kept
from server.entries.models import Reading
from server.labs.models import PlannedCell
from server.tests.support import as_group, as_teacher, group_of, lab_of, send, teacher

TIMES = ("now", "minutes_in")
STEPS = 30


class NeverOld(TestCase):
    def setUp(self):
        plates = ["zinc", "copper", "tin", "nickel", "steel"]
        self.lab = lab_of(teacher(), ("Tern", "Knot", "Ruff"), electrodes=plates, repeats=1, load_ohm=1000.0)
        self.groups = [group_of(self.lab, name) for name in ("Tern", "Knot", "Ruff")]
        self.owner = as_teacher(self.lab.owner)

    def shown(self):
        """Board and benches as they are now, without what runs with the clock."""
        pages = [self.owner.get(f"/api/labs/{self.lab.id}/board").json()]
        for group in self.groups:
            group.refresh_from_db()  # its PIN may be new
            pages.append(as_group(group).get("/api/bench").json())
        return [{key: value for key, value in page.items() if key not in TIMES} for page in pages]

    def act(self, rng, number):
        """One of the things that a group or the teacher does."""
        group = rng.choice(self.groups)
        cell = rng.choice(list(PlannedCell.objects.filter(group=group)))
        free = rng.choice([*PlannedCell.objects.filter(group=group, shared=False, readings=None), cell])
        reading = rng.choice([None, *Reading.objects.filter(cell__group=group)])
        device, new = as_group(group), {"id": str(uuid.UUID(int=rng.getrandbits(128), version=4)), "cell_id": str(cell.id)}
        typed = {"red": cell.positive, "black": cell.negative, "text": f"{rng.uniform(-0.2, 1.2):.3f}", "unit": "V"}
        fix = {"corrects": str(reading.id), "cell_id": str(reading.cell_id), "reason": "slip"} if reading else {}
        if reading:
            fix |= {"red": reading.red, "black": reading.black}
        why = {"reason": rng.choice(["", "a loose clip"])}
        jobs = [
            (device, "/bench/readings", new | typed),
            (device, "/bench/readings", new | typed | fix),
            (device, "/bench/predictions", new | {"negative": cell.negative, "text": "0.7", "unit": "V"}),
            (device, "/bench/observations", new | {"text": "bubbles"}),
            (device, "/bench/under-load", new | {"kind": "load", "text": "0.31", "unit": "V"}),
            (device, "/bench/meter-checks", {"id": new["id"], "leads": "0.012", "dry": "1.55"}),
            (self.owner, f"/readings/{reading.id if reading else cell.id}/aside", why),
            (self.owner, f"/groups/{group.id}/aside", why),
            (self.owner, f"/groups/{group.id}/meter", {"address": rng.choice(["", "127.0.0.1:5025"])}),
            (self.owner, f"/groups/{group.id}/new-pin", {}),
            (self.owner, f"/cells/{cell.id}/ask-again", {}),
            (self.owner, f"/cells/{free.id}/give", {"group": str(rng.choice(self.groups).id)}),
            (self.owner, f"/labs/{self.lab.id}/show-values", {"on": rng.choice([True, False])}),
            (self.owner, f"/labs/{self.lab.id}/pause", {"on": rng.choice([True, False])}),
            (self.owner, f"/labs/{self.lab.id}/minutes", {"minutes": 5}),
        ]  # fmt: skip
        job = jobs[number % len(jobs)]
        return job[1], send(*job).status_code

    def test_pages_are_what_they_would_be_with_nothing_kept(self):
        rng, done = random.Random(8), {}
        for step in rng.sample(range(STEPS), STEPS):
            path, status = self.act(rng, step)
            done.setdefault(path.rpartition("/")[2], set()).add(status)
            shown = self.shown()
            kept._SLOTS.clear()
            self.assertEqual(shown, self.shown(), f"step {step}: {path} {status}")
        self.assertEqual([kind for kind, found in done.items() if 200 not in found], [], done)
        self.assertEqual(len(done), 13, done)
