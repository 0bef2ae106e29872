"""Calibration: what it may move, what it keeps together, and what it is worth on benches that it has not seen."""

from __future__ import annotations

import csv
import unittest
from pathlib import Path

import numpy as np

import galvanic.tests
from galvanic.cells import Cell
from galvanic.chemistry.accounts import predict
from galvanic.chemistry.half import Half
from galvanic.chemistry.kinetics import priors, surfaces
from galvanic.chemistry.plates import drawer
from galvanic.chemistry.posterior import discrepancies, discrepancy, kind_of, parameters, posterior
from galvanic.chemistry.rest import rest_potentials
from galvanic.reference.catalogue import electrodes, electrolytes
from galvanic.reference.names import find

ROOT = Path(galvanic.__file__).resolve().parents[1]
BENCHES = Path(galvanic.tests.__file__).parent / "certified" / "practice-cells.csv"
LONELY = 3.0  # prior deviations: no published range is left by more


def table(path: Path) -> list[dict[str, str]]:
    lines = [line for line in path.read_text(encoding="utf-8").splitlines() if not line.startswith("#")]
    return list(csv.DictReader(lines))


class Posterior(unittest.TestCase):
    def test_no_parameter_leaves_what_is_published_of_it(self):
        before, forms = priors()
        known = {path: p for key, row in before.items() for path, p in parameters(row, key)}
        known |= {path: p for key, row in forms.items() for path, p in parameters(row, f"form {key}")}
        self.assertGreater(len(posterior()), 20)
        for path, fitted in posterior().items():
            with self.subTest(path):
                p = known[path]
                self.assertTrue(p.low <= fitted.value <= p.high, (p.low, fitted.value, p.high))
                wide = np.log(p.high / p.low) if p.logarithmic else p.high - p.low
                self.assertLessEqual(float(np.hypot.reduce(fitted.factor)), 0.26 * wide)  # data narrow, never widen

    def test_draws_keep_what_parameters_have_in_common(self):
        copper = surfaces()["copper"]
        draw = drawer(np.random.default_rng(3), 4000)
        one, two = np.log(draw(copper.oxygen_i0_a_per_m2)), draw(copper.oxygen_order)
        wanted = np.array([posterior()[f"copper.{name}"].factor for name in ("oxygen_i0_a_per_m2", "oxygen_order")])
        covariance = wanted @ wanted.T
        found = np.cov(one, two)
        self.assertAlmostEqual(found[0, 1] / covariance[0, 1], 1.0, delta=0.15)
        self.assertAlmostEqual(found[0, 0] / covariance[0, 0], 1.0, delta=0.15)

    def test_a_plate_of_which_nothing_is_published_in_a_kind_of_liquid_is_known_less_well(self):
        acid, salt = electrolytes()["hcl-0.1"], electrolytes()["salt-water"]
        self.assertEqual((kind_of(acid), kind_of(salt), kind_of(electrolytes()["potato"])), ("acid", "salt", "weak"))
        self.assertLess(discrepancy("copper", acid).u_v, discrepancy("silver", acid).u_v)
        self.assertEqual(discrepancy("silver", acid), discrepancies()["acid"])

    def test_where_its_own_ions_hold_a_plate_nothing_is_left_over(self):
        self.assertEqual(float(Half.of("copper", "cuso4-1.0").pairing.off_v[0, 0, 0]), 0.0)
        self.assertNotEqual(float(Half.of("copper", "lemon-juice").pairing.off_v[0, 0, 0]), 0.0)

    def test_what_was_published_is_met(self):
        """Each plate of benchmark/published.csv (sources there, from memory) within three of its and the model's deviations."""
        rows = [row for row in table(ROOT / "benchmark" / "published.csv") if row["unit"] == "V" and not row["positive"]]
        plates, liquids = sorted({r["negative"] for r in rows}), sorted({r["electrolyte"] for r in rows})
        rest = rest_potentials(plates, liquids)
        errors = []
        for row in rows:
            own = discrepancy(electrodes()[row["negative"]].surface, electrolytes()[row["electrolyte"]]).u_v
            error = rest.at(row["negative"], row["electrolyte"]) - float(row["value"])
            self.assertLess(abs(error), LONELY * float(np.hypot(own, float(row["u"]))), row)
            errors.append(error)
        self.assertLess(float(np.sqrt(np.mean(np.square(errors)))), 0.05)


class Benches(unittest.TestCase):
    """Single benches (practice-cells.csv: common practice, no source); nothing was fitted to them."""

    def test_the_model_is_near_them_and_knows_how_near(self):
        rows = [row for row in csv.reader(BENCHES.read_text(encoding="utf-8").splitlines()) if not row[0].startswith("#")]
        usual = [row for row in rows if row[1] in ("lemon juice", "cola", "potato") and row[4] == "V"]
        cells = [
            Cell(
                find(a, electrodes(), "").key, find(liquid, electrolytes(), "").key, find(b, electrodes(), "").key
            ) for a, liquid, b, *_ in usual
        ]  # fmt: skip
        said = [p["rest"] for p in predict(cells)]
        errors = np.array([(p.volts_v or 0.0) - float(row[3]) for p, row in zip(said, usual, strict=True)])
        weakest = np.array(["weakest" in row[5] for row in usual])
        self.assertGreaterEqual(len(errors), 10)
        self.assertLess(float(np.sqrt(np.mean(errors[~weakest] ** 2))), 0.06)
        zinc = np.array([row[0] == "zinc" and row[2].startswith("copper") for row in usual]) & ~weakest
        self.assertLess(abs(float(errors[zinc].mean())), 0.04)
        halves = np.array([1.96 * (p.u_v or 0.0) for p in said])
        self.assertTrue((np.abs(errors) <= halves)[~weakest].all())
        self.assertLessEqual(float(np.median(halves)), 0.15)
