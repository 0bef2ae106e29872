"""A liquid with something added: salt, acid, soda, another liquid, water. Its pH, conductivity and chloride.

A catalogue's liquid is taken apart into its weak acids, chloride, metal ions, and the strong ions that its pH asks for (of
fruit: potassium), by charge balance. What is added joins; pH is solved anew (acids.py). Conductivity: the liquid's own,
thinned by what comes to it, plus what the ions of the two compositions differ by: limiting molar conductivities with one
factor for the drag of other ions, 1/(1 + 0.48·√I), which meets measured sodium, potassium chloride and nitrate within a
tenth up to 2 mol/L (tests), and more of it where ions of charge two pair. Carbon dioxide above what water holds at 1 bar
leaves as foam. Solids take no room; 25 °C.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

from galvanic.chemistry.acids import PKW_25C, acids, fractions, ph_of
from galvanic.chemistry.activity import SULFATE
from galvanic.errors import OutOfRange
from galvanic.reference.additions import Addition, ions, metal_ions
from galvanic.reference.catalogue import electrolytes
from galvanic.words import say

DRAG = 0.48  # per √(mol/L): fitted to measured sodium and potassium chloride, conductivity.toml
PAIRED = 11.5  # more of it where ions of charge two pair: fitted to measured copper and zinc sulfate, conductivity.toml
NEUTRAL = 1e-9  # mol/L of strong charge below which nothing is sour or alkaline by itself
CO2_MOL_PER_L = 0.033  # carbon dioxide in water at 1 bar and 25 °C (Henry's law, CRC Handbook, from memory)
MOST_L = 1000.0
LEAST_S_PER_M = 5e-6
CARBONIC, SULFURIC = "carbonic", "sulfuric"


@dataclass(frozen=True, slots=True)
class Composition:
    """What is in a volume: moles of weak acids and strong ions by key, its volume in L, its pH, chloride and conductivity.

    `foamed_mol` is carbon dioxide that has left.
    """

    acids_mol: Mapping[str, float]
    ions_mol: Mapping[str, float]
    volume_l: float
    ph: float
    conductivity_s_per_m: float
    foamed_mol: float = field(default=0.0)

    @property
    def chloride_mol_per_l(self) -> float:
        """Chloride."""
        return self.ions_mol.get("Cl-", 0.0) / self.volume_l

    @property
    def protons_mol_per_l(self) -> float:
        """Protons that its weak acids can still give, those of the acid forms that are left at this pH."""
        total = 0.0
        for key, amount in self.acids_mol.items():
            shares = fractions(acids()[key], self.ph)
            total += amount * sum(share * (len(shares) - 1 - n) for n, share in enumerate(shares))
        return total / self.volume_l

    def per_l(self, amounts: Mapping[str, float]) -> dict[str, float]:
        """Moles as mol/L."""
        return {key: amount / self.volume_l for key, amount in amounts.items()}


def liquid(key: str, volume_l: float) -> Composition:
    """A catalogue's liquid at the middle of its ranges. Raises OutOfRange for a volume not above zero."""
    _above_zero(volume_l, say("The volume"))
    row = electrolytes()[key]
    if row.negative_side:
        raise OutOfRange(say("{name} has two solutions: add to one of them by its own name.", name=row.name))
    ph = 0.5 * (row.ph.low + row.ph.high)
    chloride = math.sqrt(row.chloride_mol_per_l.low * row.chloride_mol_per_l.high)
    conductivity = math.sqrt(row.conductivity_s_per_m.low * row.conductivity_s_per_m.high)
    metals = {metal_ions()[key]: amount for key, amount in row.ions_mol_per_l.items() if key in metal_ions()}
    # Without weak acids the sourness of a metal's salt is its ions' own, so only their counter-ions balance them.
    strong = 0.0 if metals and not row.acids_mol_per_l else _strong_for(row.acids_mol_per_l, ph)
    rest = strong + chloride - _charge(metals)
    other = "K+" if rest >= 0.0 else row.anion or "NO3-"
    ions_mol = {"Cl-": chloride * volume_l, **{key: amount * volume_l for key, amount in metals.items()}}
    ions_mol[other] = ions_mol.get(other, 0.0) + abs(rest) / abs(ions()[other].charge) * volume_l
    acids_mol = {name: amount * volume_l for name, amount in row.acids_mol_per_l.items()}
    return Composition(acids_mol, ions_mol, volume_l, ph, conductivity)


def water(volume_l: float) -> Composition:
    """Pure water."""
    _above_zero(volume_l, say("The volume"))
    return Composition({}, {}, volume_l, 7.0, LEAST_S_PER_M)


def added(base: Composition, what: Addition, amount: float) -> Composition:
    """The liquid with an amount (in the addition's unit) stirred in. Raises OutOfRange for one below zero or above what
    dissolves."""
    if not 0.0 <= amount <= 1e5:
        raise OutOfRange(say("An amount lies between 0 and 100 000 g or mL."), field="amount", value=amount, limit=0.0)
    if what.most_g_per_l is not None and amount > what.most_g_per_l.value * base.volume_l:
        most = what.most_g_per_l.value * base.volume_l
        raise OutOfRange(
            say(
"{amount:.4g} g of {name} do not dissolve in {volume_l:g} mL: {most:.3g} g is the most, "
"{volume_l2:.2g} mol/L.",
amount=amount,
name=what.name,
volume_l=1e3 * base.volume_l,
most=most,
volume_l2=most * what.mol_per_unit / base.volume_l),
            field="amount", value=amount, limit=most,
        )  # fmt: skip
    mol = amount * what.mol_per_unit
    volume = amount * 1e-3 if what.unit == "mL" else 0.0
    return _joined(
        base,
        {key: mol * each for key, each in what.acids.items()},
        {key: mol * each for key, each in what.ions.items()},
        base.volume_l + volume,
        0.0,
    )


def poured(base: Composition, other: Composition) -> Composition:
    """Two liquids together."""
    own = other.conductivity_s_per_m - _ionic(other) if other.volume_l else 0.0
    return _joined(base, other.acids_mol, other.ions_mol, base.volume_l + other.volume_l, own * other.volume_l)


def diluted(base: Composition, part: float) -> Composition:
    """`part` of the liquid (0 < part ≤ 1, by volume) with water to make up the rest."""
    if not 0.0 < part <= 1.0:
        raise OutOfRange(say("A part of the liquid lies above 0 and is 1 at most."), field="part", value=part, limit=1.0)
    return base if part == 1.0 else poured(base, water(base.volume_l * (1.0 / part - 1.0)))


def strengthened(base: Composition, times: float) -> Composition:
    """The same with all that is dissolved in it `times` as strong, as a solution is made up anew."""
    if not 0.0 < times <= 1e3:
        raise OutOfRange(
            say("A solution can be made up to 1000 times as strong, not below zero."), field="times", value=times
        )
    own = base.conductivity_s_per_m - _ionic(base)
    made = replace(
        base,
        acids_mol={key: amount * times for key, amount in base.acids_mol.items()},
        ions_mol={key: amount * times for key, amount in base.ions_mol.items()},
    )
    return _settled(made, own * times * base.volume_l)


def _joined(
    base: Composition, more_acids: Mapping[str, float], more_ions: Mapping[str, float], volume_l: float, own: float
) -> Composition:
    own += (base.conductivity_s_per_m - _ionic(base)) * base.volume_l
    made = Composition(
        _sum(base.acids_mol, more_acids), _sum(base.ions_mol, more_ions), volume_l, base.ph, 0.0, base.foamed_mol
    )
    return _settled(made, own)


def _settled(made: Composition, own: float) -> Composition:
    """pH and conductivity of a composition; `own` is the conductivity, S/m times L, that no ion of it accounts for."""
    strong = _charge(made.ions_mol) / made.volume_l
    mixture = made.per_l(made.acids_mol)
    sour = bool(mixture) or abs(strong) > NEUTRAL
    if sour and (sulfate := made.ions_mol.get(SULFATE, 0.0) / made.volume_l):  # it takes up protons where there are any
        mixture, strong = {**mixture, SULFURIC: sulfate}, strong + 2.0 * sulfate
    ph = ph_of(mixture, strong)[0] if sour else _by_hydrolysis(made)
    gone = 0.0
    if mixture.get(CARBONIC, 0.0) > CO2_MOL_PER_L:
        ph, gone = _foamed(mixture, strong, ph)
        kept_mol = made.acids_mol[CARBONIC] - gone * made.volume_l
        made = replace(made, acids_mol={**made.acids_mol, CARBONIC: kept_mol})
    made = replace(made, ph=ph, foamed_mol=made.foamed_mol + gone * made.volume_l)
    conductivity = max(LEAST_S_PER_M, _ionic(made) + own / made.volume_l)
    return replace(made, conductivity_s_per_m=conductivity)


def _by_hydrolysis(made: Composition) -> float:
    """pH of metals' salts alone: each metal ion gives up part of one proton of its water, x² = Σ K·c + K_w."""
    amounts = made.per_l(made.ions_mol)
    pks = {key: ion.hydrolysis_pk.value for key, ion in ions().items() if ion.hydrolysis_pk is not None}
    given = math.fsum(10.0**-pk * amounts.get(key, 0.0) for key, pk in pks.items())
    return -0.5 * math.log10(given + 10.0**-PKW_25C)


def _foamed(mixture: Mapping[str, float], strong: float, ph: float) -> tuple[float, float]:
    """pH when the carbon dioxide that water does not hold has left, and how much left, mol/L."""
    dissolved = fractions(acids()[CARBONIC], ph)[0] * mixture[CARBONIC]
    if dissolved <= CO2_MOL_PER_L:
        return ph, 0.0
    low, high = 0.0, mixture[CARBONIC]
    for _ in range(60):
        left = 0.5 * (low + high)
        ph = ph_of({**mixture, CARBONIC: left}, strong)[0]
        if fractions(acids()[CARBONIC], ph)[0] * left > CO2_MOL_PER_L:
            high = left
        else:
            low = left
    return ph, mixture[CARBONIC] - left


def _strong_for(weak: Mapping[str, float], ph: float) -> float:
    """The strong charge, mol/L, with which these weak acids have this pH: charge balance."""
    charges = math.fsum(
        amount * charge * share for key, amount in weak.items() for charge, share in enumerate(fractions(acids()[key], ph))
    )
    return charges + float(10.0 ** (ph - PKW_25C) - 10.0**-ph)


def _ionic(made: Composition) -> float:
    """Conductivity that the composition's ions account for, S/m."""
    table = ions()
    amounts = made.per_l(made.ions_mol)
    hydrogensulfate = amounts.get(SULFATE, 0.0) * fractions(acids()[SULFURIC], made.ph)[1]
    if hydrogensulfate:
        amounts[SULFATE] -= hydrogensulfate
        amounts["HSO4-"] = hydrogensulfate
    amounts["H+"] = 10.0**-made.ph
    amounts["OH-"] = 10.0 ** (made.ph - PKW_25C)
    strength = 0.5 * sum(table[key].charge ** 2 * amount for key, amount in amounts.items())
    twos = {sign: sum(amounts.get(k, 0.0) for k, ion in table.items() if ion.charge == 2 * sign) for sign in (1, -1)}
    pairs = min(twos.values())
    free = bound = 0.0  # what is carried by ions by themselves, and by those of charge two that pair
    for key, amount in amounts.items():
        charge = table[key].charge
        paired = pairs / twos[charge // 2] if abs(charge) == 2 and twos[charge // 2] else 0.0
        free += (1.0 - paired) * table[key].s_cm2_per_mol.value * amount
        bound += paired * table[key].s_cm2_per_mol.value * amount
    for key, amount in made.per_l(made.acids_mol).items():
        for charge, share in enumerate(fractions(acids()[key], made.ph)):
            # an ion of charge z and like size moves z times as fast in a field and carries z charges
            free += table["acid-"].s_cm2_per_mol.value * charge**1.5 * share * amount
            strength += 0.5 * charge**2 * share * amount
    root = math.sqrt(strength)
    more = PAIRED * 4.0 * pairs / strength / (1.0 + root) if strength > 0.0 else 0.0
    return 0.1 * (free / (1.0 + DRAG * root) + bound / (1.0 + DRAG * root * (1.0 + more)))


def _charge(amounts: Mapping[str, float]) -> float:
    return math.fsum(ions()[key].charge * amount for key, amount in amounts.items())


def _sum(one: Mapping[str, float], other: Mapping[str, float]) -> dict[str, float]:
    return {key: one.get(key, 0.0) + other.get(key, 0.0) for key in (*one, *(k for k in other if k not in one))}


def _above_zero(value: float, what: str) -> None:
    if not 0.0 < value <= MOST_L:
        raise OutOfRange(
            say("{what} must be above zero and {most_l:g} L at most.", what=what, most_l=MOST_L),
            field="volume",
            value=value,
            limit=0.0,
        )


Step = tuple[Addition | str, float]


def blend(base: Composition, steps: Sequence[Step]) -> Composition:
    """Everything stirred in, one after the other: additions in their unit, liquids of the catalogue (or "water") in mL."""
    made = base
    for what, amount in steps:
        if isinstance(what, Addition):
            made = added(made, what, amount)
        elif amount > 0.0:
            made = poured(made, water(1e-3 * amount) if what == "water" else liquid(what, 1e-3 * amount))
    return made
