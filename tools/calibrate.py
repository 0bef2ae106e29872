"""Calibrates the rest-potential model on what is published: `python tools/calibrate.py` writes its posterior.toml.

Priors are the published ranges of kinetics.toml (two standard deviations each way), data are benchmark/published.csv. The
posterior is Gaussian around its mode in the parameters' own scale (Laplace's approximation; logarithms for currents), found
by Gauss–Newton together with a discrepancy of each plate and kind of liquid, V, whose prior deviation is found by
expectation and maximisation, by kind and drawn towards that of all plates. Rows of common practice take no part.
Prints each row with its residual before and after, and with what is foretold where the row itself is left out.
"""

from __future__ import annotations

import csv
import io
import sys
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

import numpy as np

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))

from galvanic.cells import Cell  # noqa: E402
from galvanic.chemistry import kinetics, plates  # noqa: E402
from galvanic.chemistry.currents import dissolution  # noqa: E402
from galvanic.chemistry.junction import junction  # noqa: E402
from galvanic.chemistry.kinetics import Parameter  # noqa: E402
from galvanic.chemistry.plates import Array, liquids_of, pairing_of, plates_of  # noqa: E402
from galvanic.chemistry.polarisation import sides_of  # noqa: E402
from galvanic.chemistry.posterior import kind_of, parameters  # noqa: E402
from galvanic.chemistry.rest import settle  # noqa: E402
from galvanic.reference.catalogue import electrodes, electrolytes  # noqa: E402

PUBLISHED = ROOT / "benchmark" / "published.csv"
POSTERIOR = ROOT / "galvanic" / "reference" / "posterior.toml"
STEP = 0.05  # of a prior standard deviation, for slopes
ROUNDS, LEAST_MOVE = 25, 1e-3
FIRST_TAU_V, PRIOR_GROUPS = 0.03, 2.0  # the discrepancy to start from; for how many plates that of all counts
MEDIAN_OF_SQUARE, MOST_OF_ONE = 0.4549, 9.0  # of a standard normal deviate; a plate three times as far off as usual
LIQUID_U_V, LIQUID_U_LOG = 0.01, 0.2  # what one liquid differs from others of its kind: V, decades of a corrosion current
MATTERS = 0.02  # a parameter is calibrated if data narrow or move it by this part of its prior deviation
TAKEN = ("liquid", "flowing")  # forms that the data stand in

HEAD = """\
# Written by tools/calibrate.py from kinetics.toml (priors) and benchmark/published.csv ({rows} rows); do not edit.
# `value`: the posterior's mode. `factor`: by how much one standard deviation of each common direction moves the parameter
# (natural logarithm for currents, lengths and shares). discrepancy: V, what is left over, with one standard uncertainty.
edition = "2026-12"
"""


@dataclass(frozen=True)
class Row:
    """One published value: of a plate, or of a cell where `positive` is named."""

    negative: str
    electrolyte: str
    positive: str
    value: float
    u: float
    unit: str
    source: str

    @property
    def wide(self) -> float:
        """One standard uncertainty, with what one liquid of a kind differs from the others."""
        return float(
            np.hypot(
                self.u, LIQUID_U_V if self.unit == "V" and not self.positive else 0.0 if self.positive else LIQUID_U_LOG
            )
        )

    @property
    def group(self) -> str:
        """Whose discrepancy it tells of."""
        return f"{electrodes()[self.negative].surface} {self.kind}"

    @property
    def kind(self) -> str:
        return kind_of(electrolytes()[sides_of(Cell(self.negative, self.electrolyte, self.positive or self.negative))[0]])


def rows() -> list[Row]:
    """The published rows."""
    text = "".join(line for line in PUBLISHED.read_text(encoding="utf-8").splitlines(True) if not line.startswith("#"))
    return [
        Row(r["negative"], r["electrolyte"], r["positive"], float(r["value"]), float(r["u"]), r["unit"], r["source"])
        for r in csv.DictReader(io.StringIO(text))
    ]


class Model:
    """What the rows should read, for many sets of parameters at once."""

    def __init__(self, data: list[Row]) -> None:
        self.data = data
        self.cells = [Cell(r.negative, r.electrolyte, r.positive or r.negative) for r in data]
        self.plates = sorted({key for cell in self.cells for key in (cell.negative, cell.positive)})
        self.liquids = sorted({side for cell in self.cells for side in sides_of(cell)})
        paired = pairing_of(self.plates, self.liquids)
        self.pairing = replace(paired, off_v=np.zeros_like(paired.off_v))
        surfaces, forms = kinetics.priors()
        kinetics.surfaces, kinetics.forms = (lambda: surfaces), (lambda: forms)  # type: ignore[assignment]
        plates.surfaces, plates.forms = (lambda: surfaces), (lambda: forms)  # type: ignore[assignment]
        used = {electrodes()[key].surface for key in self.plates}
        every = [pair for key in sorted(used) for pair in parameters(surfaces[key], key)]
        every += [(f"form {key}.layer_m", forms[key].layer_m) for key in TAKEN]
        volts = [row.unit == "V" and not row.positive for row in data]
        self.groups = sorted({row.group for row, of_plate in zip(data, volts, strict=True) if of_plate})
        self.belongs = np.array(
            [
                [float(of_plate and row.group == group) for group in self.groups]
                for row, of_plate in zip(data, volts, strict=True)
            ]
        )
        self.named: dict[str, Parameter] = {path: p for path, p in every if p.low < p.high}
        self.places = {id(p): k for k, p in enumerate(self.named.values())}

    def deviation(self, p: Parameter) -> float:
        """One standard deviation of the prior, in the parameter's own scale."""
        wide = np.log(p.high / p.low) if p.logarithmic else p.high - p.low
        return float(wide) / (2.0 * kinetics.RANGE_SIGMAS)

    def says(self, z: Array) -> Array:
        """(sets, rows) of what rows should read, for sets of deviations (sets, parameters), in units of the prior's."""

        def draw(p: Parameter) -> Array:
            if id(p) not in self.places:
                return np.array([p.value])
            away = self.deviation(p) * z[:, self.places[id(p)]]
            return p.value * np.exp(away) if p.logarithmic else p.value + away

        p, q = plates_of(self.plates, draw), liquids_of(self.liquids, None, 1, draw)
        e_v = settle(p, q, self.pairing)
        current = dissolution(e_v, p, q, self.pairing)
        out = []
        for row, cell in zip(self.data, self.cells, strict=True):
            low_side, high_side = sides_of(cell)
            a, b = self.plates.index(cell.negative), self.liquids.index(low_side)
            if row.unit != "V":
                out.append(np.log10(np.maximum(current[:, a, b], 1e-9)))
            elif row.positive:
                c, d = self.plates.index(cell.positive), self.liquids.index(high_side)
                out.append(e_v[:, c, d] - e_v[:, a, b] + junction(cell).volts_v)
            else:
                out.append(e_v[:, a, b])
        return np.stack(np.broadcast_arrays(*out), axis=1)


@dataclass(frozen=True)
class Fit:
    """The mode: parameters in prior deviations, discrepancies of groups in V, and the covariance of both together."""

    z: Array
    off_v: Array
    covariance: Array
    says: Array


def mode(model: Model, tau: Array, kept: Array) -> Fit:
    """The posterior's mode and covariance; `tau` are the groups' prior deviations, `kept` the rows that count."""
    n, groups = len(model.named), len(model.groups)
    z, off = np.zeros(n), np.zeros(groups)
    measured, u = (np.array(column) for column in zip(*((row.value, row.wide) for row in model.data), strict=True))
    prior = np.concatenate([np.ones(n), 1.0 / tau**2])
    for _ in range(ROUNDS):
        tried = np.vstack([z, z + STEP * np.eye(n), z - STEP * np.eye(n)])
        said = model.says(tried)
        slopes = np.hstack([(said[1 : n + 1] - said[n + 1 :]).T / (2.0 * STEP), model.belongs])
        weight = kept / u**2
        information = np.diag(prior) + slopes.T @ (weight[:, None] * slopes)
        left = measured - said[0] - model.belongs @ off
        move = np.linalg.solve(information, slopes.T @ (weight * left) - prior * np.concatenate([z, off]))
        z, off = z + np.clip(move[:n], -0.7, 0.7), off + move[n:]
        if np.abs(move[:n]).max() < LEAST_MOVE:
            break
    return Fit(z, off, np.linalg.inv(information), model.says(z[None])[0] + model.belongs @ off)


def spread_of(model: Model, fit: Fit) -> Array:
    """Each group's prior deviation, V: that of its kind of liquid, drawn towards that of all."""
    n = len(fit.z)
    squares = fit.off_v**2 + np.diag(fit.covariance)[n:]
    kinds = np.array([group.split()[-1] for group in model.groups])
    of_all = float(np.median(squares) / MEDIAN_OF_SQUARE)  # one plate that does not fit at all must not widen all others
    out = np.empty(len(squares))
    for kind in set(kinds):
        own = np.minimum(squares[kinds == kind], MOST_OF_ONE * of_all)
        out[kinds == kind] = ((PRIOR_GROUPS * of_all + own.sum()) / (PRIOR_GROUPS + len(own))) ** 0.5
    return out


def main() -> None:
    data = rows()
    model = Model(data)
    kept, tau = np.ones(len(data)), np.full(len(model.groups), FIRST_TAU_V)
    for _ in range(8):
        fit = mode(model, tau, kept)
        tau = spread_of(model, fit)
    fit = mode(model, tau, kept)
    before = model.says(np.zeros((1, len(model.named))))[0]
    measured = np.array([row.value for row in data])
    out = sys.stdout.write
    out(f"{'row':<44}{'published':>10}{'before':>9}{'after':>9}{'left out':>10}{'u':>7}\n")
    without = []
    for k, row in enumerate(data):
        others = kept.copy()
        others[k] = 0.0
        without.append(float(mode(model, tau, others).says[k]))
        name = f"{row.negative} | {row.electrolyte} | {row.positive or row.unit}"
        out(f"{name:<44}{row.value:>10.3f}{before[k]:>9.3f}{fit.says[k]:>9.3f}{without[k]:>10.3f}{row.wide:>7.3f}\n")
    volts = np.array([row.unit == "V" for row in data])
    for what, found in (("before", before), ("after", fit.says), ("left out", np.array(without))):
        miss = (found - measured)[volts]
        out(f"{what}: rms {np.sqrt(np.mean(miss**2)):.3f} V, mean {miss.mean():+.3f} V\n")
    write(model, fit, tau, len(data))


def write(model: Model, fit: Fit, tau: Array, count: int) -> None:
    """Write the table: what data moved or narrowed, and what is left over."""
    n, z, out = len(fit.z), fit.z, sys.stdout.write
    covariance = fit.covariance[:n, :n]
    taken = [k for k in range(n) if abs(z[k]) > MATTERS or covariance[k, k] < (1.0 - MATTERS) ** 2]
    factor = np.linalg.cholesky(covariance[np.ix_(taken, taken)])
    lines = [HEAD.format(rows=count)]
    paths = list(model.named)
    for place, k in enumerate(taken):
        p = model.named[paths[k]]
        wide = model.deviation(p)
        value = p.value * float(np.exp(wide * z[k])) if p.logarithmic else p.value + wide * float(z[k])
        row = ", ".join(number(wide * x) for x in factor[place])
        lines.append(f'[[parameter]]\nkey = "{paths[k]}"\nvalue = {value:.6g}\nfactor = [{row}]\n')
        out(f"{paths[k]:<48}{p.value:>12.4g} ({p.low:.3g} to {p.high:.3g}) -> {value:.4g}, {z[k]:+.2f} deviations\n")
    left = dict(zip(model.groups, zip(fit.off_v, np.sqrt(np.diag(fit.covariance)[n:]), strict=True), strict=True))
    kinds = dict(zip((group.split()[-1] for group in model.groups), tau, strict=True))
    left |= {kind: (0.0, wide) for kind, wide in kinds.items()}
    left |= {kind: (0.0, float(np.median(tau))) for kind in ("weak", "alkali") if kind not in kinds}
    for key, (mean_v, u_v) in sorted(left.items()):
        lines.append(f'[[discrepancy]]\nkey = "{key}"\nmean_v = {mean_v:.4f}\nu_v = {u_v:.4f}\n')
        out(f"discrepancy {key}: {mean_v:+.3f} ± {u_v:.3f} V\n")
    POSTERIOR.write_text("\n".join(lines), encoding="utf-8")


def number(x: Any) -> str:
    return f"{float(x):.4f}" if abs(float(x)) >= 5e-5 else "0.0"


if __name__ == "__main__":
    main()
