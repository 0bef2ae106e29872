import type { Schemas } from "../src/api/client";
import { LONG } from "./state";

const shelf = { count: null, price: null };

const plate = (key: string, symbol: string, name: string, table_v: number | null): Schemas["ElectrodeOut"] => ({
  key,
  symbol,
  name,
  table_v,
  own: false,
  prepare: "Rub both faces until they shine.",
  retired: false,
  shelf,
  supplied: "strip",
  synonyms: [],
  usual: true,
});

const liquid = (key: string, name: string, sides: Schemas["SidesOut"] | null = null): Schemas["ElectrolyteOut"] => ({
  key,
  name,
  sides,
  form: "juice",
  own: false,
  ph_high: 2.6,
  ph_low: 2.2,
  pours: true,
  recipe: "Press and sieve.",
  retired: false,
  shelf,
  synonyms: [],
  usual: true,
});

/** A small catalogue: names as long as they come, a plate the table does not list, a cell of two solutions. */
export const MATERIALS: Schemas["MaterialsOut"] = {
  activities: [],
  additions: [],
  bridges: [],
  couples: [],
  edition: "gallery",
  electrodes: [
    plate("magnesium", "Mg", "magnesium", -2.37),
    plate("zinc", "Zn", "zinc", -0.76),
    plate("mild-steel", "Fe", "mild steel (iron nail)", -0.44),
    plate("copper", "Cu", "copper", 0.34),
    plate("silver", "Ag", "silver", 0.8),
    plate("brass", "brass", "brass", null),
  ],
  electrolytes: [
    liquid("lemon-juice", "lemon juice"),
    liquid("kelp-brine", "kelp brine"),
    liquid("own-long", LONG.liquid),
    liquid("daniell", "zinc sulfate 1.0 mol/L ‖ copper sulfate 1.0 mol/L", {
      bridge: "salt bridge",
      joined: "bridge",
      negative: "zinc sulfate 1.0 mol/L",
      positive: "copper sulfate 1.0 mol/L",
    }),
  ],
  forms: [],
  settings: [{ name: "spacing", said: "spacing", words: {} }],
  surfaces: [],
  symptoms: [],
};
