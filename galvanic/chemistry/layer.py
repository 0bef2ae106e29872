"""Diffusion through the still layer next to a plate, in time.

Between the plate, where something is used up or set free at a flux, and the bulk at the layer's edge, Fick's second law
has the solution Σ zₘ(t)·cos((m + ½)πx/δ) with dzₘ/dt = −λₘ zₘ + (2/δ)·flux and λₘ = D·((m + ½)π/δ)² (J. Crank, The
Mathematics of Diffusion). Each step takes the flux as going straight from its old value to its new one, so that it is exact
for such fluxes at any length; modes beyond the last one kept follow at once. At rest the sum is flux·δ/D, Fick's first law.

Arrays are (kinds, halves); `modes` adds an axis at the end. Levels in mol/m³, fluxes in mol/m²/s, away from the bulk's.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from galvanic.chemistry.plates import Array

MODES = 24
GRID = 240  # points of the profile where a layer changes its thickness

_HALF = (np.arange(MODES) + 0.5) * np.pi


@dataclass(frozen=True)
class Layer:
    """What lies in the still layers of all plates: `modes` is how far from the bulk's level, by mode."""

    diffusion: Array
    thickness_m: Array
    modes: Array
    flux: Array

    @classmethod
    def fresh(cls, diffusion: Array, thickness_m: Array) -> Layer:
        """The liquid as it was poured: the bulk's level everywhere."""
        return cls(diffusion, thickness_m, np.zeros((*diffusion.shape, MODES)), np.zeros_like(diffusion))

    def ahead(self, step_s: float, jumps: bool) -> Ahead:
        """What a step would bring; `jumps`: the flux starts anew with it instead of going on from where it was."""
        rates = self.diffusion[..., None] * (_HALF / self.thickness_m[..., None]) ** 2
        x = rates * step_s
        decay = np.exp(-x)
        whole = -np.expm1(-x) / rates
        gain = 2.0 / self.thickness_m[..., None]
        new = whole if jumps else (x - 1.0 + decay) / (rates * np.maximum(x, 1e-12))
        small = x < 1e-4
        new = whole if jumps else np.where(small, 0.5 * step_s, new)
        carried = self.modes * decay + gain * (whole - new) * self.flux[..., None]
        rest = np.maximum(self.thickness_m / self.diffusion - (gain / rates).sum(axis=-1), 0.0)
        return Ahead(self, carried, gain * new, carried.sum(axis=-1), (gain * new).sum(axis=-1) + rest)

    def thinned(self, times: float) -> Layer:
        """The layer after stirring: so many times thinner, what lay farther out mixed into the bulk."""
        thinner = self.thickness_m / times
        x = np.linspace(0.0, 1.0, GRID)
        cos = np.cos(_HALF[:, None] * x)
        at = np.minimum(x[None, None, :] * (thinner / self.thickness_m)[..., None], 1.0)
        profile = np.einsum("khm,khmx->khx", self.modes, np.cos(_HALF[:, None] * at[:, :, None, :]))
        weight = np.full(GRID, 1.0 / (GRID - 1))
        weight[[0, -1]] *= 0.5
        modes = 2.0 * np.einsum("khx,mx,x->khm", profile, cos, weight)
        return replace(self, thickness_m=thinner, modes=modes)


@dataclass(frozen=True)
class Ahead:
    """A step in the making: the surface's level is `level` + `per_flux`·flux at its end."""

    layer: Layer
    carried: Array
    response: Array
    level: Array
    per_flux: Array

    def with_flux(self, flux: Array) -> Layer:
        """The layer at the step's end."""
        return replace(self.layer, modes=self.carried + self.response * flux[..., None], flux=flux)
