"""The commands about one thing changed on purpose, `vary`, and about liquids made up on the bench, `mix`."""

from __future__ import annotations

import argparse
import re
import sys
from collections.abc import Sequence

from galvanic.cells import Cell
from galvanic.chemistry.accounts import predict
from galvanic.chemistry.blending import Composition, Step, blend, liquid
from galvanic.chemistry.made import made_fields, own_liquid
from galvanic.chemistry.oxidants import in_words
from galvanic.chemistry.shorted import shorted
from galvanic.chemistry.varied import levels_of, usual_levels
from galvanic.command.cells import cell_from, cell_of, say_of
from galvanic.command.tables import BadFile, dump, plain, say, write
from galvanic.condition import level, variable_named
from galvanic.errors import UnknownMaterial
from galvanic.reference import catalogue
from galvanic.reference.additions import Addition, additions
from galvanic.reference.catalogue import Made
from galvanic.reference.names import find

_AMOUNT = r"(\d+(?:[.,]\d+)?)\s*(g|mg|ml|l)"
WATER = {"water", "pure water", "distilled water"}


def run_vary(options: argparse.Namespace) -> None:
    """One variable changed: open volts and short-circuit current at each level."""
    cell, variable = cell_from(options.cell), variable_named(options.variable)
    say_of(cell)
    chosen = [level(variable, text) for text in options.values] or usual_levels(variable)
    rows = [
        {
            "value": one.condition.value,
            "unit": variable.unit,
            "open_v": one.open_v,
            "short_a": one.short_a,
            "u_open_v": one.u_open_v,
        }
        for one in levels_of(cell, chosen)
    ]
    say(f"{variable.name}: {variable.set_up} Keep the same: {', '.join(variable.keep)}.")
    write(rows, options.json)


def step_of(text: str) -> Step:
    """“table salt 2 g”, “2 g table salt”, “lemon juice 10 mL”: what is added and how much, in its unit.

    Raises BadFile where it is not understood, UnknownMaterial for a name.
    """
    plain = " ".join(text.split())
    match = re.fullmatch(rf"(?:(?P<name>.+?)\s+{_AMOUNT}|{_AMOUNT}\s+(?:of\s+)?(?P<after>.+))", plain, re.IGNORECASE)
    if match is None:
        raise BadFile(f"“{plain[:40]}” is not understood. Write what and how much, as “table salt 2 g” or “water 50 mL”.")
    name = match["name"] or match["after"]
    number, unit = (match[2], match[3]) if match["name"] else (match[4], match[5])
    amount = float(number.replace(",", "."))
    what = _what(name, unit.casefold() in ("ml", "l"))
    amount *= {"mg": 1e-3, "l": 1e3}.get(unit.casefold(), 1.0)
    wanted = what.unit if isinstance(what, Addition) else "mL"
    if (wanted == "mL") != (unit.casefold() in ("ml", "l")):
        raise BadFile(f"{name} is measured in {wanted}.")
    return what, amount


def _what(name: str, by_volume: bool) -> Addition | str:
    """What is meant by a name: water, an addition, or a liquid of the catalogue."""
    if by_volume and name.casefold() in WATER:
        return "water"
    try:
        return find(name, additions(), "addition")
    except UnknownMaterial as error:
        try:
            return find(name, catalogue.electrolytes(), "liquid").key
        except UnknownMaterial:
            raise error from None


def run_mix(options: argparse.Namespace) -> None:
    """A liquid with something added: its pH, conductivity and chloride, and what two plates in it do before and after."""
    key = find(options.liquid, catalogue.electrolytes(), "electrolyte").key
    base = liquid(key, 1e-3 * options.volume_ml)
    steps = [step_of(text) for text in options.add]
    made = blend(base, steps)
    out: dict[str, object] = {**_numbers(made), "before": _numbers(base)}
    if options.plates:
        out["cell"] = _before_and_after(options.plates, key, options.volume_ml, steps)
    for what, _ in steps:
        if isinstance(what, Addition) and what.hazard:
            say(f"{what.name}: {what.hazard}")
    if options.json:
        dump(out)
        return
    for name, one in (("as it is", base), ("with it", made)):
        sys.stdout.write(
            f"{name}: pH {one.ph:.2f}, {plain(one.conductivity_s_per_m)} S/m, "
            f"chloride {plain(one.chloride_mol_per_l)} mol/L, {1e3 * one.volume_l:.0f} mL\n"
        )
    if made.foamed_mol > 1e-5:
        sys.stdout.write(f"{24.5 * made.foamed_mol:.2g} L of carbon dioxide leave as foam\n")
    if isinstance(found := out.get("cell"), dict):
        sys.stdout.write(
            f"{found['notation']}: {found['open_v_before']:.2f} ± {found['u_open_v_before']:.2f} V and "
            f"{1e3 * found['short_a_before']:.2f} mA before, {found['open_v']:.2f} ± {found['u_open_v']:.2f} V and "
            f"{'at least ' if found['oxidant'] else ''}{1e3 * float(str(found['short_a'])):.2f} mA with it\n"
        )


def _numbers(made: Composition) -> dict[str, object]:
    return {
        "ph": made.ph,
        "conductivity_s_per_m": made.conductivity_s_per_m,
        "chloride_mol_per_l": made.chloride_mol_per_l,
        "protons_mol_per_l": made.protons_mol_per_l,
        "volume_ml": 1e3 * made.volume_l,
        "carbon_dioxide_mol": made.foamed_mol,
    }


def _before_and_after(
    plates: str, key: str, volume_ml: float, steps: Sequence[tuple[Addition | str, float]]
) -> dict[str, object]:
    """A pair of plates in the liquid as it is and in the one made from it, a liquid of its own."""
    names = [part.strip() for part in plates.split("|")]
    if len(names) != 2:
        raise BadFile("Write the plates as “zinc | copper”.")
    row = catalogue.electrolytes()[key]
    cell: Cell = cell_of(names[0], row.name, names[1])
    say_of(cell)
    recipe = Made(key, volume_ml, tuple((getattr(what, "key", str(what)), amount) for what, amount in steps))
    new = own_liquid("own-mixed", f"{row.name} with it", made_fields(recipe))
    with catalogue.beside(new):
        mixed = Cell(cell.negative, new.key, cell.positive)
        before, after = (one["rest"] for one in predict([cell, mixed]))
        short_before, short = (shorted(one).first_a for one in (cell, mixed))
        said = in_words(new.key)
        if said:
            say(said)
    return {
        "notation": cell.notation,
        "open_v_before": before.volts_v,
        "u_open_v_before": before.u_v,
        "open_v": after.volts_v,
        "u_open_v": after.u_v,
        "short_a_before": short_before,
        "short_a": short,
        "oxidant": bool(said),
    }


def add_liquids(commands: argparse._SubParsersAction) -> Sequence[argparse.ArgumentParser]:  # type: ignore[type-arg]
    """The two commands; returns those that take plates and gap (none)."""
    vary = commands.add_parser("vary", help=run_vary.__doc__)
    vary.add_argument("cell", help="“zinc | lemon juice | copper”")
    vary.add_argument("variable", help="spacing, temperature, added salt, …")
    vary.add_argument("values", nargs="*", help="levels; none: the usual ones")
    vary.set_defaults(run=run_vary)
    mix = commands.add_parser("mix", help=run_mix.__doc__)
    mix.add_argument("liquid", help="“lemon juice”")
    mix.add_argument("--add", action="append", default=[], metavar="“table salt 2 g”", help="may be repeated")
    mix.add_argument("--volume-ml", type=float, default=100.0)
    mix.add_argument("--plates", default="", metavar="“zinc | copper”", help="foretell this pair before and after")
    mix.set_defaults(run=run_mix)
    return ()
