"""Cells in a row as one stack of plates, with what they carry and what lies next to them: what a run steps forward."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, fields, is_dataclass, replace
from typing import TypeVar

import numpy as np

from galvanic.chemistry import currents
from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.half import Half
from galvanic.chemistry.junction import junction
from galvanic.chemistry.layer import Ahead, Layer
from galvanic.chemistry.plates import Array, Near, Plates
from galvanic.chemistry.polarisation import LoadedCell, sides_of, solution_ohm
from galvanic.chemistry.rest import HIGHEST_V, LOWEST_V, STEPS
from galvanic.chemistry.warmth import warmth
from galvanic.constants import FARADAY_C_PER_MOL as F
from galvanic.errors import OutOfRange
from galvanic.words import say

DIPPED_S = 2e-3  # how long after dipping a run begins
ACID, OXYGEN, FOREIGN, OWN = 0, 1, 2, 3  # kinds in the still layer; own ions by slot from the last on

T = TypeVar("T")


@dataclass
class State:
    """Everything that a run carries from step to step; arrays are (halves,)."""

    e_v: Array
    layer: Layer
    solids: Array  # (slots, halves)
    groups_up: Array
    groups_down: Array
    current_a: float = 0.0
    before_v: Array | None = None  # potentials a step earlier, and how long that step was
    stepped_s: float = 0.0


@dataclass(frozen=True)
class Row:
    """Cells in a row as one stack of halves: negative and positive plate of each cell in turn."""

    half: Half
    wetted_m2: Array
    gives: Array  # +1 where the row's current leaves by the plate, −1 where it enters
    inside_ohm: float
    own: Array  # mol/m³ of own ions in the bulk, (slots, halves)
    shift_v: float = 0.0
    stirred: float = 1.0

    @classmethod
    def of(cls, cells: Sequence[PackCell], celsius: float = 25.0, dull: bool = False) -> Row:
        """The cells as they are joined. Raises OutOfRange for none, or where cups are bridged or plates touch."""
        if not cells or any(math.isfinite(cell.bridge_ohm) or math.isfinite(cell.touching_ohm) for cell in cells):
            raise OutOfRange(
                say("A run needs at least one cell, and cells without bridges."), field="cells", value=len(cells)
            )
        halves: list[Half] = []
        wetted, gives, ohm, shift = [], [], 0.0, 0.0
        for cell in cells:
            area = cell.geometry.area_m2 * cell.geometry.pairs * cell.left / cell.anchor.times
            sign = -1.0 if cell.turned else 1.0
            for key, side, way in zip(
                (cell.cell.negative, cell.cell.positive), sides_of(cell.cell), (-sign, sign), strict=True
            ):
                half = Half.of(key, side).in_liquid(celsius=celsius)
                halves.append(half.dull() if dull else half)
                wetted.append(area)
                gives.append(way)
            ohm += solution_ohm(cell.cell, cell.geometry) / cell.left / warmth(celsius).conductivity + cell.contact_ohm
            shift += sign * (cell.anchor.shift_v + junction(cell.cell).volts_v)
        return cls._stacked(halves, wetted, gives, ohm, shift)

    @classmethod
    def loaded(cls, cell: LoadedCell) -> Row:
        """One cell whose halves are known."""
        wetted = cell.geometry.area_m2 * cell.geometry.pairs
        halves = [cell.negative, cell.positive]
        return cls._stacked(halves, [wetted, wetted], [-1.0, 1.0], cell.solution_ohm, cell.junction_v)

    @classmethod
    def _stacked(
        cls, halves: Sequence[Half], wetted: Sequence[float], gives: Sequence[float], ohm: float, shift_v: float
    ) -> Row:
        half = Half(*(_stack([getattr(h, part) for h in halves]) for part in ("plates", "liquids", "pairing")))
        own = 1e3 * half.pairing.bulk[:, 0, 0, :].T
        return cls(half, np.array(wetted), np.array(gives), ohm, own, shift_v)

    def start(self) -> State:
        """The row in the moment its plates are dipped in, with fresh liquid at all of them and the oxide that they carry."""
        p, q = self.half.plates, self.half.liquids
        n, d = len(self.wetted_m2), warmth(q.celsius).diffusion
        protons, acid = 1e3 * currents.p10(-q.ph[:, 0, 0]), q.acid_mol_per_m3.reshape(-1)
        mixed = (currents.D_PROTON * protons + currents.D_ACID * acid) / (protons + acid)
        ions = np.full(n, currents.D_ION)
        diffusion = d * np.stack([mixed, np.full(n, currents.D_OXYGEN), ions, *[ions] * len(p.sides)])
        layer = Layer.fresh(diffusion, np.broadcast_to(q.layer_m.reshape(-1), diffusion.shape).copy())
        solids = np.stack([np.broadcast_to(side.stock.reshape(-1), n) for side in p.sides]).copy()
        groups = np.broadcast_to(p.groups_c_per_m2.reshape(-1), n).copy()
        state = State(np.zeros(n), layer, solids, groups, groups.copy())
        ahead = layer.ahead(DIPPED_S, True)
        half = self.moment(state, ahead, DIPPED_S)
        fixed = currents.fix(p, q, half.pairing)
        low, high = np.full((n, 1, 1), LOWEST_V), np.full((n, 1, 1), HIGHEST_V)
        for _ in range(STEPS):
            e_v = 0.5 * (low + high)
            above = currents.net(e_v, half.plates, half.liquids, half.pairing, fixed) > 0.0
            low, high = np.where(above, low, e_v), np.where(above, e_v, high)
        return replace(state, e_v=0.5 * (low + high)[:, 0, 0])

    def bulk(self) -> Array:
        """Levels of acid, oxygen and foreign ions in the bulk, mol/m³, (kinds, halves)."""
        q, x, n = self.half.liquids, self.half.pairing, len(self.wetted_m2)
        acid = 1e3 * currents.p10(-q.ph) + q.acid_mol_per_m3
        oxygen = currents.oxygen_level(self.half.plates, q)
        return np.stack([np.broadcast_to(v.reshape(-1), n) for v in (acid, oxygen, x.foreign_mol_per_m3)])

    def near(self, state: State, ahead: Ahead, step_s: float) -> Near:
        """What every plate has next to it in a step."""
        bulk = self.bulk()
        left = np.maximum(bulk + ahead.level[:OWN], 0.0)
        level = np.where(bulk > 0.0, left / np.maximum(bulk, 1e-300), 0.0)
        # level·supply is what a use of it takes away: the surface has left − per_flux·flux.
        supply = bulk / ahead.per_flux[:OWN]
        shape = (-1, 1, 1)
        gamma = self.half.pairing.gamma[:, 0, 0, :].T
        ion_m = ahead.per_flux[OWN] * ahead.layer.diffusion[OWN]
        return Near(
            acid_level=level[ACID].reshape(shape),
            acid_supply=supply[ACID].reshape(shape),
            oxygen_level=level[OXYGEN].reshape(shape),
            oxygen_supply=supply[OXYGEN].reshape(shape),
            foreign_level=level[FOREIGN].reshape(shape),
            foreign_supply=supply[FOREIGN].reshape(shape),
            own=1e-3 * np.maximum(self.own + gamma * ahead.level[OWN:], 0.0)[:, :, None, None],
            ion_m=ion_m.reshape(shape),
            solids=state.solids[:, :, None, None],
            step_s=step_s,
            groups_up=state.groups_up.reshape(shape),
            groups_down=state.groups_down.reshape(shape),
        )

    def after(
        self, state: State, ahead: Ahead, half: Half, fixed: currents.Fixed, e_v: Array, current_a: float, step_s: float
    ) -> State:
        """The state at a step's end, when its potentials are known: what was used, set free, grown and eaten."""
        p, q, x = half.plates, half.liquids, half.pairing
        e = e_v[:, None, None] - x.off_v
        flux = np.zeros_like(ahead.level)
        whole, part = currents.oxygen(e, p, q)
        flux[ACID] = -currents.from_acid(e, p, q)[:, 0, 0] / F
        flux[OXYGEN] = -(whole / 4.0 + part / 2.0)[:, 0, 0] / F
        flux[FOREIGN] = -(currents.plating(e, q, x) / (x.foreign_electrons * F))[:, 0, 0]
        own = list(currents.reactions(e, p, q, x, fixed))
        passes = self._passes(e, p, fixed, own)
        solids = state.solids.copy()
        for slot, dissolved, forming, reduced in own:
            flux[OWN + slot] = (dissolved / (p.sides[slot].electrons * F))[:, 0, 0]
            eaten = currents.eaten(p.sides[slot], q)
            solids[slot] = np.maximum(solids[slot] + step_s * (passes * forming - reduced - eaten)[:, 0, 0], 0.0)
        turned = step_s * currents.groups(e, p, q)[:, 0, 0]
        up, down = np.maximum(state.groups_up - turned, 0.0), np.maximum(state.groups_down + turned, 0.0)
        return State(e_v, ahead.with_flux(flux), solids, up, down, current_a, state.e_v, step_s)

    @staticmethod
    def _passes(e: Array, p: Plates, fixed: currents.Fixed, own: Sequence[tuple[int, Array, Array, Array]]) -> Array:
        """The share of what the metal would give that its film lets through."""
        if not fixed.filmed:
            return np.ones_like(e)
        through, _ = currents.through_film(e, p, fixed, own)
        total = sum((dissolved + forming for _, dissolved, forming, _ in own), start=np.zeros_like(e))
        return np.where(total > 0.0, through / np.maximum(total, 1e-300), 1.0)

    def moment(self, state: State, ahead: Ahead, step_s: float) -> Half:
        """All plates with what they have next to them in a step."""
        return replace(self.half, liquids=replace(self.half.liquids, near=self.near(state, ahead, step_s)))


def _stack(parts: list[T]) -> T:
    """Dataclasses of arrays (1, …) put one after the other along the first axis."""
    first = parts[0]
    changed: dict[str, object] = {}
    for field in fields(first):  # type: ignore[arg-type]
        values = [getattr(part, field.name) for part in parts]
        if isinstance(values[0], np.ndarray):
            changed[field.name] = np.concatenate(values)
        elif isinstance(values[0], tuple) and values[0] and is_dataclass(values[0][0]):
            changed[field.name] = tuple(_stack(list(slot)) for slot in zip(*values, strict=True))
    return replace(first, **changed)  # type: ignore[type-var]
