"""`galvanic materials`: the catalogue, and every number of one material with its source."""

from __future__ import annotations

import argparse
import json
import sys
from dataclasses import fields, is_dataclass

from galvanic.chemistry.accounts import series
from galvanic.chemistry.kinetics import forms, surfaces
from galvanic.command.tables import write
from galvanic.errors import UnknownMaterial
from galvanic.reference import catalogue, reader
from galvanic.reference.names import find

NUMBERS = ("value", "u", "low", "high")


def run_materials(options: argparse.Namespace) -> None:
    """The catalogue; with a name, every number of it with its source."""
    if options.name:
        listed = _about(options.name)
        if options.json:
            json.dump({title: _plain(part) for title, part in listed.items()}, sys.stdout, ensure_ascii=False, indent=1)
            sys.stdout.write("\n")
        else:
            sys.stdout.write("\n".join([*_text(listed), ""]))
        return
    rows: list[dict[str, object]] = []
    for e in catalogue.electrodes().values():
        row = {"kind": "electrode", "key": e.key, "name": e.name, "table_v": e.table_v_or_none(), "ph": None}
        rows.append({**row, "synonyms": "; ".join(e.synonyms)})
    for q in catalogue.electrolytes().values():
        row = {"kind": "electrolyte", "key": q.key, "name": q.name, "table_v": None, "ph": f"{q.ph.low} to {q.ph.high}"}
        rows.append({**row, "synonyms": "; ".join(q.synonyms)})
    write(rows, options.json)


def _about(name: str) -> dict[str, object]:
    """Everything known of one material. Raises UnknownMaterial."""
    try:
        plate = find(name, catalogue.electrodes(), "electrode")
    except UnknownMaterial:
        liquid = find(name, catalogue.electrolytes(), "electrode or electrolyte")
        return {"electrolyte": liquid, "form": forms()[liquid.form]}
    parts: dict[str, object] = {"electrode": plate, "kinetics": surfaces()[plate.surface]}
    if plate.couple:
        parts["half_reaction"] = catalogue.half_reactions()[plate.couple]
    if plate.surface in series():
        parts["galvanic_series"] = {"e_v": series()[plate.surface]}
    return parts


def _plain(part: object) -> object:
    """Dataclasses and mappings as plain data."""
    if is_dataclass(part) and not isinstance(part, type):
        return {field.name: _plain(getattr(part, field.name)) for field in fields(part)}
    if hasattr(part, "items"):
        return {name: _plain(value) for name, value in part.items()}
    if isinstance(part, tuple):
        return [_plain(item) for item in part]
    return part


def _text(found: dict[str, object]) -> list[str]:
    used: set[str] = set()

    def lines(part: object, indent: str) -> list[str]:
        out: list[str] = []
        for name, value in part.items() if isinstance(part, dict) else []:
            if isinstance(value, dict) and {"source", "locator"} <= set(value) and set(value) & set(NUMBERS):
                used.add(value["source"])
                numbers = ", ".join(f"{n} {value[n]:.6g}" for n in NUMBERS if isinstance(value.get(n), int | float))
                checked = f", {value['checked']}" if value.get("checked") else ""
                out.append(f"{indent}{name}: {numbers} [{value['source']}: {value['locator']}{checked}]")
            elif isinstance(value, dict) and value:
                out += [f"{indent}{name}:", *lines(value, indent + "  ")]
            elif isinstance(value, list) and value and isinstance(value[0], dict):
                for item in value:
                    out += [f"{indent}{name}:", *lines(item, indent + "  ")]
            elif value not in (None, [], {}):
                out.append(f"{indent}{name}: {', '.join(map(str, value)) if isinstance(value, list) else value}")
        return out

    text = [line for title, part in found.items() for line in (f"{title}:", *lines(_plain(part), "  "))]
    named = [f"  {key}: {reader.sources()[key].title}, {reader.sources()[key].year}" for key in sorted(used)]
    return [*text, "sources:", *named]
