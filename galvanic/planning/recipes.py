"""How each electrolyte is made: recipes.toml, and the amounts for a volume."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from types import MappingProxyType

from galvanic.chemistry import mixing
from galvanic.chemistry.made import WATER
from galvanic.reference.additions import additions
from galvanic.reference.catalogue import Made, electrolytes, shipped_electrolytes
from galvanic.reference.further_tables import stocks
from galvanic.reference.reader import Range, Reader, read_table
from galvanic.words import mark, once, say

KINDS = ("solid", "percent", "dilute", "parts", "bought", "juice", "whole", "card", "two")
JUICE_LOST = 0.1  # stays in the cloth and the jug: common practice, no source


@dataclass(frozen=True, slots=True)
class Recipe:
    """How an electrolyte is made; which fields are set depends on `kind` (recipes.toml says what they mean)."""

    key: str
    kind: str
    what: str = ""
    formula: str = ""
    mol_per_l: float = 0.0
    mass_percent: float = 0.0
    stock: str = ""
    parts: Mapping[str, float] = field(default_factory=dict)
    fruit: str = ""
    unit: str = ""
    yield_ml: Range | None = None
    method: str = ""
    piece: str = ""
    pieces: int = 0
    soak: str = ""
    divider: str = ""


@dataclass(frozen=True, slots=True)
class Ingredient:
    """Something to buy or weigh: an amount with its unit (g, mL, or pieces by name); `up_to`: it fills up to the amount."""

    name: str
    amount: float
    unit: str
    up_to: bool = False


@dataclass(frozen=True, slots=True)
class Batch:
    """One electrolyte for the whole class: what goes in, in words how, and whether it is made the day before.

    `dilution` says how it is diluted, in the teacher's words; empty for the liquid as it is.
    """

    electrolyte: str
    volume_l: float
    ingredients: tuple[Ingredient, ...]
    method: str
    day_before: bool
    dilution: str = ""

    @property
    def name(self) -> str:
        """What stands on the jug."""
        return f"{electrolytes()[self.electrolyte].name}{f', {self.dilution}' if self.dilution else ''}"


def build_recipe(r: Reader) -> Recipe:
    """One row of recipes.toml."""
    kind, key = r.take("kind", str), r.take("key", str)
    if kind not in KINDS:
        raise r.fail(f"kind {kind!r} is unknown")
    if key not in shipped_electrolytes():
        raise r.fail("there is no such electrolyte")
    recipe = Recipe(
        key,
        kind,
        fruit=r.take("from", str, ""),
        parts=MappingProxyType(r.take("parts", dict, {})),
        yield_ml=r.range("yield_ml") if "yield_ml" in r.row else None,
        mol_per_l=float(r.take("mol_per_l", (int, float), 0.0)),
        mass_percent=float(r.take("mass_percent", (int, float), 0.0)),
        pieces=r.take("pieces", int, 0),
        **{f: r.take(f, str, "") for f in ("what", "formula", "stock", "unit", "method", "piece", "soak", "divider")},
    )
    if recipe.stock and recipe.stock not in stocks():
        raise r.fail(f"there is no bottle {recipe.stock!r}")
    if kind == "juice" and recipe.yield_ml is None:
        raise r.fail("a juice needs its yield")
    return recipe


@once
def recipes() -> Mapping[str, Recipe]:
    """Recipes by key of the electrolyte."""
    return read_table("recipes", "recipe", build_recipe)


def batch(electrolyte: str, volume_l: float) -> Batch:
    """What goes into a volume (L) of an electrolyte that is poured. An own electrolyte is taken as ready to pour."""
    name = electrolytes()[electrolyte].name
    recipe, made = recipes().get(electrolyte), electrolytes()[electrolyte].made
    if made is not None:
        return _made(electrolyte, made, volume_l)
    if recipe is None or recipe.kind == "bought":
        what = recipe.what if recipe else name
        return Batch(electrolyte, volume_l, (Ingredient(what, volume_l * 1000.0, "mL"),), say("Ready to pour."), False)
    make = {"solid": _solid, "percent": _percent, "dilute": _dilute, "parts": _parts, "juice": _juice}[recipe.kind]
    return make(recipe, volume_l)


def _made(electrolyte: str, made: Made, volume_l: float) -> Batch:
    """An own liquid by its recipe: the base, and what is stirred in, in proportion; hazards of what is weighed."""
    whole_ml = made.base_ml + math.fsum(amount for key, amount in made.steps if _unit(key) == "mL")
    times = 1000.0 * volume_l / whole_ml
    alone = made.base == WATER and all(_unit(key) == "g" for key, _ in made.steps)
    base = say("distilled water") if made.base == WATER else electrolytes()[made.base].name
    ingredients = [Ingredient(say("{base}, made up to", base=base) if alone else base, times * made.base_ml, "mL", alone)]
    said = []
    for key, amount in made.steps:
        what = additions().get(key)
        name = electrolytes()[key].name if what is None and key != WATER else key if what is None else what.name
        formula = f", {what.formula.replace('.', '·')}" if what is not None and what.unit == "g" else ""
        ingredients.insert(
            len(ingredients) - 1 if alone else len(ingredients), Ingredient(f"{name}{formula}", times * amount, _unit(key))
        )
        said += [what.hazard] if what is not None and what.hazard else []
    how = (
        say("Dissolve in two thirds of the water, then make up to the volume.")
        if alone
        else say("Stir in until all is clear.")
    )
    method = " ".join([how, say("Label with what is in it and the date."), *dict.fromkeys(said)])
    return Batch(electrolyte, volume_l, tuple(ingredients), method, True)


def _unit(key: str) -> str:
    what = additions().get(key)
    return "mL" if what is None else what.unit


def diluted(electrolyte: str, dilution: str, part: float, volume_l: float) -> Batch:
    """A volume (L) of an electrolyte diluted with water to a part of its strength, 0 < part < 1, by volume."""
    name = electrolytes()[electrolyte].name
    method = say("Measure the {name}, make up to the volume, stir. Mark the jug “{dilution}”.", name=name, dilution=dilution)
    return Batch(
        electrolyte, volume_l, (Ingredient(name, part * volume_l * 1000.0, "mL"), _water(volume_l)), method, True, dilution
    )


def _solid(recipe: Recipe, volume_l: float) -> Batch:
    grams = mixing.mass_for_molarity(recipe.formula, recipe.mol_per_l, volume_l)
    return Batch(
        recipe.key,
        volume_l,
        (Ingredient(f"{recipe.what}, {recipe.formula}", grams, "g"), _water(volume_l)),
        say("Dissolve in about two thirds of the water, then make up to the volume. Label with name, strength and date."),
        True,
    )


def _percent(recipe: Recipe, volume_l: float) -> Batch:
    # Density of 3.5 % sodium chloride at 20 °C, 1.02 kg/L: CRC Handbook, from memory; table salt is no purer than that.
    grams, water = mixing.parts_for_mass_percent(recipe.mass_percent, 1020.0 * volume_l)
    return Batch(
        recipe.key,
        volume_l,
        (Ingredient(recipe.what, grams, "g"), Ingredient(say("water"), water, "mL")),
        say("{mass_percent:g} % by mass: stir the salt into the water until it is clear.", mass_percent=recipe.mass_percent),
        True,
    )


def _dilute(recipe: Recipe, volume_l: float) -> Batch:
    bottle = stocks()[recipe.stock]
    litres = mixing.stock_volume(bottle.mol_per_l, recipe.mol_per_l, volume_l)
    strong = bottle.mol_per_l > 2.0
    return Batch(
        recipe.key,
        volume_l,
        (
            Ingredient(
                say("{stock} ({mol_per_l:.2f} mol/L)", stock=say(recipe.stock), mol_per_l=bottle.mol_per_l),
                litres * 1000.0,
                "mL",
            ),
            _water(volume_l),
        ),
        (
            say(
                "Teacher only, in a fume cupboard, goggles and gloves: pour the acid slowly into "
                "most of the water, never the "
                "other way round; cool; "
            )
            if strong
            else say("Pour into the water, ")
        )
        + say("make up to the volume, label."),
        True,
    )


def _parts(recipe: Recipe, volume_l: float) -> Batch:
    # Parts by mass; one litre of these thin brines is taken as one kilogram.
    amounts = mixing.by_parts(recipe.parts, 1000.0 * volume_l)
    ingredients = tuple(Ingredient(say(name), grams, "mL" if "water" in name else "g") for name, grams in amounts.items())
    return Batch(recipe.key, volume_l, ingredients, recipe.method or say("Mix."), True)


def _juice(recipe: Recipe, volume_l: float) -> Batch:
    assert recipe.yield_ml is not None
    needed = volume_l * 1000.0 * (1.0 + JUICE_LOST) / recipe.yield_ml.low
    if recipe.unit.endswith("g"):
        amount = Ingredient(recipe.fruit, needed * float(recipe.unit.split()[0]), "g")
    else:
        amount = Ingredient(recipe.fruit, needed, mark("pieces"))
    method = recipe.method or say("Press and strain.")
    spread = say(
        "{low:g} to {high:g} mL from {fruit}",
        low=recipe.yield_ml.low,
        high=recipe.yield_ml.high,
        fruit=say("one") if amount.unit == "pieces" else recipe.unit,
    )
    return Batch(
        recipe.key,
        volume_l,
        (amount,),
        say("{method} Counted with the lower yield ({spread}).", method=method, spread=spread),
        True,
    )


def _water(volume_l: float) -> Ingredient:
    return Ingredient(say("distilled water, made up to"), volume_l * 1000.0, "mL", True)
