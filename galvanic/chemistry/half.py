"""One plate in one liquid, at the middle of all ranges: the value that cells are made of."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from galvanic.chemistry.currents import net
from galvanic.chemistry.plates import Array, Draw, Liquids, Pairing, Plates, drawer, liquids_of, pairing_of, plates_of
from galvanic.chemistry.rest import settle
from galvanic.chemistry.warmth import warmth


@dataclass(frozen=True)
class Half:
    """A plate in a liquid; its arrays hold one plate, one liquid and one draw. Potentials in V, currents in A/m²."""

    plates: Plates
    liquids: Liquids
    pairing: Pairing

    @classmethod
    def of(cls, plate: str, liquid: str) -> Half:
        """The half that the catalogue describes, by its keys."""
        draw = drawer(None, 1)
        return cls(plates_of([plate], draw), liquids_of([liquid], None, 1, draw), pairing_of([plate], [liquid]))

    @classmethod
    def drawn(cls, plate: str, liquid: str, draw: Draw, rng: np.random.Generator, n: int) -> Half:
        """`n` draws of the half from the ranges of its parameters; those that `draw` has drawn before are the same."""
        return cls(plates_of([plate], draw), liquids_of([liquid], rng, n, draw), pairing_of([plate], [liquid]))

    def curve(self, e_v: Array) -> Array:
        """Net current densities at potentials (points,): (draws, points), rising with potential."""
        return np.asarray(net(e_v[:, None, None, None], self.plates, self.liquids, self.pairing)[..., 0, 0].T)

    @property
    def plate(self) -> str:
        """The plate's key."""
        return self.plates.keys[0]

    @property
    def ph(self) -> float:
        """The liquid's pH."""
        return float(self.liquids.ph[0, 0, 0])

    def net(self, e_v: Array) -> Array:
        """Net current at potentials of any shape, flattened, anodic positive."""
        return np.asarray(net(np.reshape(e_v, (-1, 1, 1)), self.plates, self.liquids, self.pairing)[:, 0, 0])

    def at(self, drawn_a_per_m2: Array | float) -> Array:
        """Potentials at which the half gives these currents, anodic positive, flattened."""
        drawn = np.reshape(np.asarray(drawn_a_per_m2, dtype=float), (-1, 1, 1))
        return np.asarray(settle(self.plates, self.liquids, self.pairing, drawn_a_per_m2=drawn)[:, 0, 0])

    def rest(self) -> float:
        """The rest potential."""
        return float(settle(self.plates, self.liquids, self.pairing)[0, 0, 0])

    def bare(self) -> Half:
        """The same plate without its film, as in the moment after it is scratched."""
        return replace(self, plates=replace(self.plates, filmed=np.zeros_like(self.plates.filmed)))

    def dull(self) -> Half:
        """The same plate as it lay, not rubbed: with the oxide that it has grown."""
        sides = tuple(replace(side, stock=side.dull) for side in self.plates.sides)
        return replace(self, plates=replace(self.plates, sides=sides))

    def in_liquid(
        self,
        ph: float | None = None,
        oxygen: float = 1.0,
        stir: float = 1.0,
        celsius: float = 25.0,
        chloride_mol_per_l: float | None = None,
        protons_mol_per_l: float | None = None,
    ) -> Half:
        """The same with another pH, chloride or protons that weak acids can give (None: as they are), oxygen supply times
        `oxygen`, still layer divided by `stir`, at a temperature. Raises OutOfRange for one outside the model."""
        warmth(celsius)
        q = self.liquids
        changed = {
            name: np.full_like(getattr(q, name), value)
            for name, value in (
                ("ph", ph),
                ("chloride", chloride_mol_per_l),
                ("acid_mol_per_m3", None if protons_mol_per_l is None else 1e3 * protons_mol_per_l),
            )
            if value is not None
        }
        q = replace(q, layer_m=q.layer_m / stir, oxygen=q.oxygen * oxygen, celsius=celsius, **changed)
        return replace(self, liquids=q)

    def after(self, seconds: float) -> Half:
        """The same so long after the circuit was closed; infinite: when all is steady."""
        return replace(self, liquids=replace(self.liquids, after_s=np.full((1, 1, 1), seconds)))

    def with_ions(self, mol_per_l: float) -> Half:
        """The same with dissolved ions of the plate's own metal, by their activity."""
        bulk = self.pairing.bulk.copy()
        bulk[..., 0] = mol_per_l
        return replace(self, pairing=replace(self.pairing, bulk=bulk))
