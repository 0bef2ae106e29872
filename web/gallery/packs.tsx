import type { Schemas } from "../src/api/client";
import { ChainStems } from "../src/charts/ChainStems";
import { MeetingCurve } from "../src/charts/MeetingCurve";
import { PackDrawing } from "../src/charts/PackDrawing";
import { PackStems } from "../src/charts/PackStems";
import { StrengthTable } from "../src/lab/StrengthTable";
import { LONG, state } from "./state";

const cell = (open_v: number, volts_v: number, measured = true): Schemas["ShareOut"] => ({
  backwards: volts_v < 0,
  current_a: 0.0004,
  measured,
  open_v,
  short: "Zn | Cu",
  volts_v,
});

const curve = [0, 0.5, 1, 1.5, 2, 2.8].map((volts_v) => ({
  volts_v,
  gives_a: 0.001 * (1 - volts_v / 2.8),
  low_a: 0.0007 * (1 - volts_v / 2.8),
  high_a: 0.0013 * (1 - volts_v / 2.8),
  takes_a: volts_v < 1.5 ? 0 : 0.0006 * (volts_v - 1.4),
}));

const pack = (given: Partial<Schemas["PackOut"]>): Schemas["PackOut"] => ({
  amps: "0.4 mA",
  cells: [cell(0.95, 0.6), cell(0.94, 0.6), cell(0.96, 0.6)],
  current: { low: 0.0003, middle: 0.0004, high: 0.0005 },
  current_a: 0.0004,
  curve,
  full_v: 1.9,
  least_v: 1.6,
  harm: "",
  level: "plain",
  load_name: "red LED",
  notes: [],
  open_v: 2.85,
  runs: 0.9,
  seen: [{ current_a: 0.00035, volts_v: 1.7, words: "Tern, 1.7 V and 0.35 mA" }],
  verdict: "runs",
  volts_v: 1.8,
  ...given,
});

const link = (nth: number, whole_v: number | null, added_v: number | null): Schemas["LinkOut"] => ({
  id: `${nth}`,
  group: nth === 3 ? LONG.group : `Bench ${nth}`,
  added_v,
  whole_v,
  alone_v: 0.95,
  electrolyte: "lemon-juice",
  mine: nth === 1,
  negative: "zinc",
  positive: "copper",
  short: "Zn | Cu",
  text: "0.95",
  unit: "V",
  why: whole_v === null ? "more than its cells can give" : "",
});

const chain = (given: Partial<Schemas["ChainOut"]>): Schemas["ChainOut"] => ({
  id: "chain",
  can_be_seen: [],
  cautions: [],
  covered: false,
  findings: [],
  foretold: [1, 2, 3, 4, 5].map((cells) => ({
    cells,
    open_v: 0.95 * cells,
    said: cells < 3 ? "dark" : "runs",
    verdict: cells < 3 ? "no" : "runs",
  })),
  full_v: 1.9,
  least_v: 1.6,
  harm: "",
  links: [],
  lit_with: null,
  load_name: "red LED",
  most: 12,
  my_vote: null,
  nearest: [],
  seen: "",
  seen_with: null,
  short: "Zn | Cu",
  voted: 0,
  votes: [],
  voting: true,
  without_vote: [],
  ...given,
});

const kind = (short: string, open_v: number, power_w: number, at_ohm: number | null): Schemas["KindOut"] => ({
  cell: short,
  electrolyte: "lemon-juice",
  short,
  open_v,
  power_w,
  at_ohm,
  short_a: (4 * power_w) / open_v,
  measured: true,
  under_load: at_ohm === null,
});

const cup = { negative: "Zn", positive: "Cu" };
const votes = [
  { cells: 3, groups: ["Tern", "Knot", "Ruff"] },
  { cells: 7, groups: Array.from({ length: 14 }, (_, nth) => `Bench ${nth}`) },
];

export const PACK_STATES = [
  state("Pack: three cells, measured", <PackStems pack={pack({})} perRow={3} />),
  state(
    "Pack: two rows, one cell worked out and driven backwards, a device with a long name",
    <PackStems
      pack={pack({
        cells: [cell(0.95, 0.7), cell(0.4, -0.3, false), cell(0.9, 0.7)],
        load_name: "clock of the workshop",
      })}
      perRow={2}
    />,
  ),
  state(
    "Pack: a load without limits, nearly nothing",
    <PackStems
      pack={pack({ cells: [cell(0.03, 0.02)], full_v: null, least_v: null, open_v: 0.03, volts_v: 0.02 })}
      perRow={1}
    />,
  ),
  state("Where pack and load meet", <MeetingCurve pack={pack({})} />),
  state(
    "Where pack and load meet: at the left, nothing measured, large currents",
    <MeetingCurve
      pack={pack({
        volts_v: 0.2,
        current_a: 0.02,
        amps: "20 mA",
        seen: [],
        curve: curve.map((p) => ({ ...p, high_a: 0.3 })),
      })}
    />,
  ),
  state(
    "Where pack and load meet: microamps",
    <MeetingCurve
      pack={pack({ volts_v: 2.5, current_a: 4e-7, amps: "0.4 µA", curve: curve.map((p) => ({ ...p, high_a: 9e-7 })) })}
    />,
  ),
  state("Cups in a row: one, no lamp", <PackDrawing cups={[cup]} lamp={false} loadName="motor" lit={false} />),
  state("Cups in a row: three, the lamp on", <PackDrawing cups={[cup, cup, cup]} lamp loadName="red LED" lit />),
  state(
    "Cups in a row: eight and a long name",
    <PackDrawing cups={Array<typeof cup>(8).fill(cup)} lamp={false} loadName="clock of the workshop" lit={false} />,
  ),
  state("Cups in a row: none", <PackDrawing cups={[]} lamp loadName="red LED" lit={false} />),
  state("Chain: nobody has joined", <ChainStems chain={chain({})} />),
  state(
    "Chain: three joined, one takes away, one does not count, it is lit",
    <ChainStems
      chain={chain({
        links: [link(1, 0.95, 0.95), link(2, 0.1, -0.85), link(3, null, null), link(4, 2.0, 1.9)],
        lit_with: 4,
        votes,
      })}
    />,
  ),
  state(
    "Chain: votes while what is foretold is covered",
    <ChainStems chain={chain({ covered: true, foretold: [], votes, full_v: null, least_v: null })} />,
  ),
  state(
    "What cells can do",
    <StrengthTable
      kinds={[kind("Zn | Cu", 0.94, 0.0002, 900), kind("Mg | Cu", 1.65, 0.0001, null)]}
      cell={(one) => one.short}
    />,
  ),
];
