"""Starting points for a plan: what varies, what is kept, and what to choose. The teacher changes anything."""

from __future__ import annotations

from typing import Any

from galvanic.words import mark

KEPT = mark("same spacing (2 cm), same depth (3 cm), plates cleaned the same way, same meter")

TEMPLATES: tuple[dict[str, Any], ...] = (
    {
        "key": "against-copper",
        "name": mark("Metals against copper"),
        "about": mark("Every metal against one copper plate: the ladder is read straight off."),
        "varies": "pairs",
        "question": mark("Which metal is more negative than which?"),
        "kept": KEPT,
        "against": "copper",
        "electrodes": ["magnesium", "aluminium", "zinc", "steel", "tin", "copper"],
        "electrolytes": ["lemon-juice"],
        "conditions": [],
    },
    {
        "key": "all-pairs",
        "name": mark("All pairs"),
        "about": mark("Any two metals: loops show whether the ladder adds up."),
        "varies": "pairs",
        "question": mark("Does one ladder explain every pair?"),
        "kept": KEPT,
        "against": "",
        "electrodes": ["magnesium", "zinc", "steel", "tin", "copper"],
        "electrolytes": ["lemon-juice"],
        "conditions": [],
    },
    {
        "key": "one-pair",
        "name": mark("One pair in many liquids"),
        "about": mark("Zinc and copper everywhere: what does the liquid do?"),
        "varies": "electrolyte",
        "question": mark("How much does the liquid change the voltage?"),
        "kept": KEPT,
        "against": "",
        "electrodes": ["zinc", "copper"],
        "electrolytes": ["lemon-juice", "orange-juice", "vinegar", "salt-water", "soda-water", "potato"],
        "conditions": [],
    },
    {
        "key": "spacing",
        "name": mark("Spacing"),
        "about": mark("The same cell with its plates near and far."),
        "varies": "spacing",
        "question": mark("Does the distance between the plates change the voltage?"),
        "kept": mark("same depth (3 cm), plates cleaned the same way, same meter"),
        "against": "",
        "electrodes": ["zinc", "copper"],
        "electrolytes": ["lemon-juice"],
        "conditions": [mark("spacing 1 cm"), mark("spacing 2 cm"), mark("spacing 4 cm"), mark("spacing 8 cm")],
    },
    {
        "key": "depth",
        "name": mark("Depth"),
        "about": mark("The same cell dipped in a little and a lot."),
        "varies": "depth",
        "question": mark("Does more metal in the liquid give more volts?"),
        "kept": mark("same spacing (2 cm), plates cleaned the same way, same meter"),
        "against": "",
        "electrodes": ["zinc", "copper"],
        "electrolytes": ["lemon-juice"],
        "conditions": [mark("1 cm deep"), mark("2 cm deep"), mark("4 cm deep")],
    },
    {
        "key": "surface",
        "name": mark("Bare or dull metal"),
        "about": mark("The same metals freshly rubbed and as they lay in the drawer."),
        "varies": "surface",
        "question": mark("What does the skin on a metal do?"),
        "kept": mark("same spacing (2 cm), same depth (3 cm), same meter"),
        "against": "copper",
        "electrodes": ["magnesium", "aluminium", "zinc", "copper"],
        "electrolytes": ["lemon-juice"],
        "conditions": [mark("freshly rubbed"), mark("as it was")],
    },
    {
        "key": "dilution",
        "name": mark("Dilution"),
        "about": mark("The same liquid stronger and weaker."),
        "varies": "dilution",
        "question": mark("Does a weaker liquid give fewer volts?"),
        "kept": KEPT,
        "against": "",
        "electrodes": ["zinc", "copper"],
        "electrolytes": ["lemon-juice"],
        "conditions": [mark("undiluted"), mark("1 part in 2"), mark("1 part in 10"), mark("1 part in 100")],
    },
)
