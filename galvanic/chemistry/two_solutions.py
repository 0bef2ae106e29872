"""Two metals, each in a solution of its own salt, joined by a bridge: near equilibrium, so Nernst's equation holds.

Two answers stand side by side: with concentrations, as worked examples have it, and with activities (a table for copper and
zinc sulfate, Davies' equation for the rest as far as it goes), which is what a meter is nearer to. A bridge of a salt whose
ions are equally fast leaves a few millivolts of junction potential, which are in the uncertainty. What cannot be is refused
with its reason: a plate in another metal's salt, a salt that does not dissolve, ions that fall out where the sides meet.
Sources: any general chemistry text for Nernst; J. N. Butler, “Ionic Equilibrium” (1998), for Davies.
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass

from galvanic.chemistry.activity import ion_activity
from galvanic.chemistry.fitting import INSOLUBLE
from galvanic.chemistry.junction import Junction, through
from galvanic.chemistry.nernst import potential_v
from galvanic.errors import GalvanicError, OutOfRange, UnknownMaterial
from galvanic.notes import capital
from galvanic.reference.additions import metal_ions
from galvanic.reference.bridges import bridges
from galvanic.reference.catalogue import HalfReaction, electrodes, half_reactions
from galvanic.reference.names import find
from galvanic.words import say

ANIONS = {"sulfate": "SO4--", "sulphate": "SO4--", "nitrate": "NO3-", "chloride": "Cl-"}
PLAIN = {"sulphate": "sulfate"}
LEAST, MOST = 1e-6, 4.0  # mol/L
BRIDGE = "paper"
U_BRIDGE_V = 0.005  # junction of a salt bridge: common practice, no source
FAR = frozenset({"Mg", "Al"})
U_FAR_V = 0.5  # what a skin and hydrogen take of these metals' volts: common practice, no source
ZERO_K = 273.15
U_ACTIVITY = 0.2  # of an activity coefficient by Davies above 0.1 mol/L: common practice, no source
_SIDE = re.compile(r"(?P<name>.+?)\s+(?P<number>\d+(?:[.,]\d+)?(?:e-?\d+)?)\s*(?P<unit>mol/l|m|mmol/l|mm)", re.IGNORECASE)


class NotTwoSolutions(GalvanicError):
    """A cell of two solutions cannot be, or cannot be read; the sentence says why."""

    code = "two_solutions"


@dataclass(frozen=True, slots=True)
class Solution:
    """A metal's salt at a concentration, mol/L; `couple` is the metal's."""

    metal: str
    anion: str
    mol_per_l: float
    couple: str

    @property
    def half(self) -> HalfReaction:
        """The metal's half-reaction."""
        return half_reactions()[self.couple]

    @property
    def ion(self) -> str:
        """The metal's ion, as in the table."""
        return self.couple.split("/")[0]

    @property
    def symbol(self) -> str:
        """The metal's symbol."""
        return self.couple.split("/")[1]

    @property
    def activity(self) -> float:
        """Activity of its metal ion."""
        return ion_activity(self.ion, self.mol_per_l, ANIONS[self.anion])

    @property
    def charged(self) -> dict[str, float]:
        """Its ions, mol/L, by their keys in additions.toml."""
        anion = ANIONS[self.anion]
        charge = self.half.electrons
        return {metal_ions()[self.ion]: self.mol_per_l, anion: self.mol_per_l * charge / anion.count("-")}

    def potential(self, activity: float, celsius: float) -> float:
        """Potential of its metal in it, V against hydrogen. Raises OutOfRange where the table has no slope for another
        temperature."""
        return potential_v(self.half, {self.ion: activity, self.symbol: 1.0}, celsius + ZERO_K)


@dataclass(frozen=True, slots=True)
class TwoSolutions:
    """A cell as it is written, left to right."""

    left: Solution
    right: Solution
    celsius: float = 25.0

    @property
    def standard_v(self) -> float:
        """The printed table's difference, V."""
        return self.right.half.e_v.value - self.left.half.e_v.value

    @property
    def nernst_v(self) -> float:
        """By Nernst's equation with concentrations, V."""
        return self._volts(self.left.mol_per_l, self.right.mol_per_l)

    @property
    def volts_v(self) -> float:
        """By Nernst's equation with activities, V, with what the bridge leaves."""
        return self._volts(self.left.activity, self.right.activity) + self.junction.volts_v

    @property
    def junction(self) -> Junction:
        """What a paper strip of potassium nitrate leaves between the two, by Henderson; metals that the table of ions does
        not have (tin, magnesium among them) are taken as leaving none."""
        if not {self.left.ion, self.right.ion} <= set(metal_ions()):
            return Junction(0.0, U_BRIDGE_V)
        return through(self.left.charged, self.right.charged, bridges()[BRIDGE])

    def _volts(self, left: float, right: float) -> float:
        return self.right.potential(right, self.celsius) - self.left.potential(left, self.celsius)

    @property
    def far(self) -> list[str]:
        """The metals of it that never come near equilibrium in water: a skin and hydrogen hold them far from it."""
        return [electrodes()[side.metal].name for side in (self.left, self.right) if side.symbol in FAR]

    @property
    def u_v(self) -> float:
        """Standard uncertainty: the bridge, activity coefficients where Davies is stretched, metals far from equilibrium."""
        parts = [U_BRIDGE_V, self.junction.u_v, *(U_FAR_V for _ in self.far)]
        for side in (self.left, self.right):
            tabled = side.anion == "sulfate" and side.ion in ("Cu2+", "Zn2+")
            if not tabled and side.mol_per_l > 0.1:
                parts.append(0.02569 / side.half.electrons * U_ACTIVITY)
        return math.hypot(*parts)


def is_two_solutions(text: str) -> bool:
    """Whether a cell is written with a bridge."""
    return "||" in text


def two_solutions(text: str, celsius: float = 25.0) -> TwoSolutions:
    """A cell from “zinc | zinc sulfate 1.0 mol/L || copper sulfate 1.0 mol/L | copper”; activities are those of 25 °C.

    Raises NotTwoSolutions, in words, for what cannot be; UnknownMaterial for a metal; OutOfRange for a concentration.
    """
    sides = text.split("||")
    parts = [[part.strip() for part in side.split("|")] for side in sides]
    if len(sides) != 2 or any(len(side) != 2 or not all(side) for side in parts):
        raise NotTwoSolutions(
            say(
                "Write both sides, “zinc | zinc sulfate 1.0 mol/L || copper sulfate 1.0 mol/L | "
                "copper”; the double bar is the "
                "bridge."
            )
        )
    (left_plate, left_text), (right_text, right_plate) = parts
    left, right = _solution(left_text), _solution(right_text)
    for plate, solution in ((left_plate, left), (right_plate, right)):
        _fits(plate, solution)
    for one, other in ((left, right), (right, left)):
        solid = say(INSOLUBLE.get((one.ion, ANIONS[other.anion]), ""))
        if solid and one.symbol != other.symbol:
            raise NotTwoSolutions(
                say("Where the sides meet, {solid} falls out and clogs the bridge. Use nitrates on both sides.", solid=solid)
            )
    return TwoSolutions(left, right, celsius)


def _solution(text: str) -> Solution:
    match = _SIDE.fullmatch(" ".join(text.split()))
    if match is None:
        raise NotTwoSolutions(
            say("“{said}” is no solution: name the salt and its strength, “copper sulfate 0.1 mol/L”.", said=text[:40])
        )
    words = match["name"].split()
    anion = words[-1].casefold()
    if anion not in ANIONS or len(words) < 2:
        raise NotTwoSolutions(
            say("“{match}” is no salt that is known here: sulfates, nitrates and chlorides are.", match=match["name"][:40])
        )
    metal = _metal(" ".join(words[:-1]))
    couple = electrodes()[metal].couple
    if couple is None or couple not in half_reactions():
        raise NotTwoSolutions(say("{name} has no ions in a solution.", name=electrodes()[metal].name))
    per = 1e-3 if match["unit"].casefold() in ("mmol/l", "mm") else 1.0
    strength = per * float(match["number"].replace(",", "."))
    if not LEAST <= strength <= MOST:
        raise OutOfRange(
            say(
                "A solution here has between {least:g} and {most:g} mol/L, not {strength:g}.",
                least=LEAST,
                most=MOST,
                strength=strength,
            ),
            field="mol_per_l",
        )
    made = Solution(metal, PLAIN.get(anion, anion), strength, couple)
    if solid := say(INSOLUBLE.get((made.ion, ANIONS[made.anion]), "")):
        raise NotTwoSolutions(say("{solid} hardly dissolves: take the nitrate.", solid=capital(solid)))
    return made


def _metal(name: str) -> str:
    """A metal's plate by its name in a salt (“copper(II)” too; iron is the steel plate's)."""
    plain = re.sub(r"\s*\(\s*[iv]+\s*\)\s*$", "", name, flags=re.IGNORECASE)
    return find({"iron": "steel"}.get(plain.casefold(), plain), electrodes(), "metal").key


def _fits(plate: str, solution: Solution) -> None:
    """That a plate stands in its own metal's salt. Raises NotTwoSolutions with what would happen instead."""
    try:
        own = electrodes()[_metal(plate)]
    except UnknownMaterial:
        own = find(plate, electrodes(), "electrode")
    if own.couple == solution.couple:
        return
    salt, name = f"{electrodes()[solution.metal].name} {solution.anion}", capital(own.name)
    if own.couple is None or own.couple not in half_reactions():
        raise NotTwoSolutions(
            say("{name} has no ions of its own, so Nernst has nothing to say of it in {salt}.", name=name, salt=salt)
        )
    if half_reactions()[own.couple].e_v.value < solution.half.e_v.value:
        raise NotTwoSolutions(
            say(
                "{name} in {salt} is covered with {name2} at once (displacement): each plate goes into its "
                "own metal's salt.",
                name=name,
                salt=salt,
                name2=electrodes()[solution.metal].name,
            )
        )
    raise NotTwoSolutions(
        say("{name} has none of its own ions in {salt}: each plate goes into its own metal's salt.", name=name, salt=salt)
    )
