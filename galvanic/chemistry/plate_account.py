"""One plate in one liquid: from its place in the table to where it rests, in steps, each with a test done in the model.

The steps are those of `gap`: the strength of its own solution or traces of ions, binding, other reactions, film. A step is a
cause of its own only where the test that would confirm it at a bench, done in the model, moves the plate the way it says by
more than a simple meter's last digit: a drop of the metal's salt lifts a plate whose traces matter, water sinks one in its
own salt, more salt sinks one whose ions are bound, rubbing sinks one that has a skin. What has no such test, and two steps
that nearly cancel, are one step with the other reactions.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from galvanic.chemistry.accounts import plate_u_v
from galvanic.chemistry.currents import D_ION, NERNST_V, building_layer_m, dissolution
from galvanic.chemistry.half import Half
from galvanic.chemistry.kinetics import Dissolution, surfaces
from galvanic.chemistry.plates import CHLORIDE_ACTIVITY, LEAST_CHLORIDE
from galvanic.chemistry.rubbing import rubbed
from galvanic.constants import FARADAY_C_PER_MOL
from galvanic.reference.catalogue import electrodes, electrolytes, half_reactions, kept
from galvanic.words import number, say

MOST_IONS = 5.0  # activity, about where salts of these metals are saturated
LEAST_A_PER_M2 = 1e-12
FILM_U_V = 0.08  # films differ from plate to plate by more than bare metal
LAST_DIGIT_V = 0.01  # of a simple meter
DROP = 1e-2  # activity of ions after a few drops: 0.4 mL of a 1 mol/L solution in a cup of 40 mL
MORE_SALT, STIRRED, MORE_AIR, MORE_ACID_PH = 3.0, 4.0, 2.0, 1.0
OWN_SALT = 1e-4  # activity of its own ions from which a plate stands in a solution of its salt
U_ACTIVITY = 0.1  # of a decade, of an activity in a solution that was made: common practice, no source
CANCELS = 0.5  # of the larger of two steps of opposite sign


@dataclass(frozen=True, slots=True)
class Step:
    """One step: a code, what it adds to the plate's potential, V, its equation, what to do to test it, and how far the model
    then moves the plate, V (0: nothing at a bench moves it)."""

    code: str
    volts_v: float
    u_v: float
    equation: str
    do: str
    moves_v: float


@dataclass(frozen=True, slots=True)
class PlateAccount:
    """From `start_v` to `rest_v`: every step, and the steps as they are shown."""

    start_v: float
    parts: tuple[Step, ...]
    steps: tuple[Step, ...]
    rest_v: float


@kept(1024)  # a plate in a liquid is the same in every cell
def account_of(key: str, liquid: str) -> PlateAccount:
    """A plate from its start to its rest potential."""
    half_cell = Half.of(key, liquid)
    rest_v = half_cell.rest()
    do, moves_v = _other_test(half_cell, rest_v)
    electrode = electrodes()[key]
    if electrode.couple is None:
        start_v = -NERNST_V * half_cell.ph
        equation = say(
            "rest potential {rest_v:+.3f} V against \u22120.0592 × pH {ph:.2f} = {start_v:+.3f} V",
            rest_v=rest_v,
            ph=half_cell.ph,
            start_v=start_v,
        )
        whole = Step("other", rest_v - start_v, plate_u_v(key, liquid, rest_v), equation, do, moves_v)
        return PlateAccount(start_v, (whole,), (whole,), rest_v)
    half = half_reactions()[electrode.couple]
    per_decade, start_v = NERNST_V / half.electrons, half.e_v.value
    level, alpha = _surface_ions(half_cell, electrode.couple, rest_v)
    free_v = start_v + per_decade * math.log10(level)
    bound_v, by = _bound(half_cell, electrode.couple, level, alpha)
    bound_v = min(bound_v, free_v)
    bare_v = half_cell.bare().rest()
    ion = electrode.couple.split("/")[0]
    binding = say("\u2212{per_decade:.4f} × log {alpha:.3g} (all over free ions)", per_decade=per_decade, alpha=alpha)
    if by != electrode.couple:
        binding = say("as {by}: {bound_v:+.3f} V", by=by, bound_v=bound_v)
    salted = half_cell.in_liquid(chloride_mol_per_l=MORE_SALT * float(half_cell.liquids.chloride[0, 0, 0]))
    more = MORE_SALT if alpha > 1.0 else 1.0
    bound = replace(salted, pairing=replace(salted.pairing, alpha=more * salted.pairing.alpha))
    own = float(half_cell.pairing.bulk[0, 0, 0, 0])
    logarithm = say(
        "{per_decade:.4f} × log {level:.1e} (activity of {ion} at the surface)", per_decade=per_decade, level=level, ion=ion
    )
    parts = (
        Step(
            "strength",
            free_v - start_v,
            U_ACTIVITY * per_decade,
            _strength(electrolytes()[liquid].ions_mol_per_l.get(ion, own), level, per_decade),
            say("make this plate’s solution ten times weaker"),
            half_cell.with_ions(0.1 * own).rest() - rest_v,
        )
        if own > OWN_SALT
        else Step(
            "traces",
            free_v - start_v,
            0.5 * per_decade,
            logarithm,
            say("add a few drops of that metal’s salt solution"),
            half_cell.with_ions(max(level, DROP)).rest() - rest_v if level < DROP else 0.0,
        ),
        Step(
            "complexing",
            bound_v - free_v,
            0.3 * per_decade,
            binding,
            say("add salt (or the fruit’s acid)"),
            bound.rest() - rest_v,
        ),
        Step(
            "other",
            bare_v - bound_v,
            plate_u_v(key, liquid, rest_v),
            say("bare plate rests at {bare_v:+.3f} V, its equilibrium is {bound_v:+.3f} V", bare_v=bare_v, bound_v=bound_v),
            do,
            moves_v,
        ),
        Step(
            "film",
            rest_v - bare_v,
            FILM_U_V,
            say("with its film {rest_v:+.3f} V, bare {bare_v:+.3f} V", rest_v=rest_v, bare_v=bare_v),
            say("rub the plate under the surface"),
            -rubbed(half_cell).falls_v,
        ),
    )
    return PlateAccount(start_v, parts, _shown(parts), rest_v)


def _surface_ions(half_cell: Half, couple: str, rest_v: float) -> tuple[float, float]:
    """Activity of the metal's ions at the plate, which its own corrosion keeps up, and all over free ions."""
    reactions = surfaces()[electrodes()[half_cell.plate].surface].dissolution
    main = next(slot for slot, reaction in enumerate(reactions) if reaction.couple == couple)
    p, q, x = half_cell.plates, half_cell.liquids, half_cell.pairing
    bulk, alpha, gamma = (float(of[0, 0, 0, main]) for of in (x.bulk, x.alpha, x.gamma))
    current = max(float(dissolution(np.full((1, 1, 1), rest_v), p, q, x)[0, 0, 0]), LEAST_A_PER_M2)
    electrons = half_reactions()[couple].electrons
    built = gamma * current * float(building_layer_m(q)[0, 0, 0]) / (electrons * FARADAY_C_PER_MOL * D_ION) * 1e-3
    return min(bulk + built, MOST_IONS), alpha


def _bound(half_cell: Half, couple: str, level: float, alpha: float) -> tuple[float, str]:
    """The lowest equilibrium of the plate's reactions at this level of its metal, V, and which it is."""
    chloride = CHLORIDE_ACTIVITY * max(float(half_cell.liquids.chloride[0, 0, 0]), LEAST_CHLORIDE)

    def equilibrium_v(reaction: Dissolution) -> float:
        half = half_reactions()[reaction.couple]
        free = level / alpha if reaction.couple == couple else level
        product = 0.0 if reaction.solid else math.log10(free)
        ligands = reaction.chloride * math.log10(chloride) + reaction.hydroxide * (half_cell.ph - 14.0)
        return half.e_v.value + NERNST_V / half.electrons * (product - ligands)

    reactions = surfaces()[electrodes()[half_cell.plate].surface].dissolution
    return min((equilibrium_v(reaction), reaction.couple) for reaction in reactions if reaction.matters_at(half_cell.ph))


def _strength(salt: float, level: float, per_decade: float) -> str:
    """A salt's part by its mol/L, and by what its ions hold each other back."""
    alone_v = per_decade * math.log10(salt)
    return say(
        "{per_decade:.4f} × log {salt:.3g} = {alone_v:+.3f} V by its mol/L; {held_v:+.3f} V more because its ions hold each "
        "other back and act like {level:.2g} mol/L (their activity)",
        per_decade=per_decade,
        salt=salt,
        alone_v=alone_v,
        held_v=per_decade * math.log10(level) - alone_v,
        level=level,
    )


def _other_test(half_cell: Half, rest_v: float) -> tuple[str, float]:
    """What can be done at a bench that moves the plate most, and by how much the model moves it, V."""
    tries = (
        ("stir", half_cell.in_liquid(stir=STIRRED)),
        (say("blow air past it"), half_cell.in_liquid(oxygen=MORE_AIR)),
        (say("make the liquid one unit of pH more acid"), half_cell.in_liquid(ph=max(0.0, half_cell.ph - MORE_ACID_PH))),
    )
    own = float(half_cell.pairing.bulk[0, 0, 0, 0])
    last = ((say("add a few drops of that metal’s salt solution"), half_cell.with_ions(max(own, DROP))),)
    for found in (tries, last if electrodes()[half_cell.plate].couple else ()):
        moved = [(do, changed.rest() - rest_v) for do, changed in found]
        if found is last:
            moved.append((say("rub the plate under the surface"), -rubbed(half_cell).falls_v))
        do, moves_v = max(moved, key=lambda row: abs(row[1]), default=("", 0.0))
        if abs(moves_v) > LAST_DIGIT_V:
            return do, moves_v
    return "", 0.0


def _shown(parts: tuple[Step, ...]) -> tuple[Step, ...]:
    """Steps whose own test bears them out; all else, and what nearly cancels, goes with the other reactions."""
    wanted = {"strength": -1.0, "traces": 1.0, "complexing": -1.0, "film": -1.0}
    kept_steps = {
        step.code: step
        for step in parts
        if step.code in wanted and step.moves_v * wanted[step.code] > LAST_DIGIT_V and step.volts_v != 0.0
    }
    other = next(step for step in parts if step.code == "other")
    merged = [step for step in parts if step.code not in kept_steps and step.code != "other" and step.volts_v != 0.0]
    rest = math.fsum([other.volts_v, *(step.volts_v for step in merged)])
    for code in ("complexing", "traces"):
        step = kept_steps.get(code)
        if step is None or step.volts_v * rest >= 0.0:
            continue
        small, large = sorted((abs(step.volts_v), abs(rest)))
        if small > CANCELS * large:
            merged.append(kept_steps.pop(code))
            rest = math.fsum([rest, step.volts_v])
    equation = "; ".join([other.equation, *(f"{number(step.volts_v, '+.3f')} V: {step.equation}" for step in merged)])
    order = [*(step for step in parts if step.code in kept_steps and step.code != "film")]
    whole = replace(other, volts_v=rest, equation=equation)
    film = [step for step in parts if step.code in kept_steps and step.code == "film"]
    return tuple(step for step in (*order, whole, *film) if step.volts_v != 0.0)
