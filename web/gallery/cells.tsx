import type { Schemas } from "../src/api/client";
import { CellDrawing } from "../src/charts/CellDrawing";
import { LoopDrawing } from "../src/charts/LoopDrawing";
import { MeterFace } from "../src/charts/MeterFace";
import { RunChart } from "../src/charts/RunChart";
import { TraceLine } from "../src/charts/TraceLine";
import { Tubes } from "../src/charts/Tubes";
import { LONG, state } from "./state";

const zinc = { key: "zinc", symbol: "Zn" };
const copper = { key: "copper", symbol: "Cu" };
const lemon = { key: "lemon-juice", name: "lemon juice" };
const cups = { left: "zinc sulfate 1.0 mol/L", right: "copper sulfate 1.0 mol/L", joined: "bridge" };

const drawing = (given: Partial<Parameters<typeof CellDrawing>[0]>) => (
  <CellDrawing left={zinc} right={copper} liquid={lemon} redOnLeft={false} {...given} />
);

const level = (variable: string, text: string) => drawing({ level: { variable, name: variable, text } });

const ring = (given: Partial<Schemas["LoopOut"]>, current = false) => (
  <LoopDrawing
    ring={{
      state: "load",
      volts_v: 0.148,
      current_a: 0.00032,
      current: "0.32 mA",
      flows: true,
      negative: "zinc",
      positive: "copper",
      gives: [
        { words: "Zn²⁺ leaves", share: 1, gas: false },
        { words: "gas here too: H⁺", share: 0.12, gas: true },
      ],
      takes: [
        { words: "H⁺ takes electrons: gas", share: 0.78, gas: true },
        { words: "O₂ from the air", share: 0.22, gas: false },
      ],
      told: "Zinc and copper in lemon juice, joined through 470 Ω.",
      ...given,
    }}
    liquid="lemon-juice"
    symbols={{ negative: "Zn", positive: "Cu" }}
    moving={false}
    current={current}
  />
);

const display = (given: Partial<Schemas["DisplayOut"]>): Schemas["DisplayOut"] => ({
  battery: false,
  digits: "0.941",
  misread: [],
  needle: null,
  range_v: 2,
  scale: 2,
  step_v: 0.001,
  unit: "V",
  volts_v: 0.941,
  ...given,
});

const points = (...values: number[]) => values.map((value, nth) => ({ t_s: 30 * nth, value }));

const run = (given: Partial<Schemas["RunOut"]>): Schemas["RunOut"] => ({
  charge_c: null,
  metal_mg: null,
  current: [],
  events: [],
  left_out: 0,
  model: [],
  notes: [],
  stretches: [],
  title: "Zn | Cu",
  volts: [],
  ...given,
});

const many = Array.from({ length: 120 }, (_, nth) => ({ t_s: 60 * nth, value: 0.9 - 0.001 * nth }));

const read = (id: string, text: string, volts: number | null, more: { unit?: string; waits?: boolean } = {}) => ({
  id,
  text,
  volts,
  unit: "V",
  ...more,
});

export const CELL_STATES = [
  state("Ring: through a load, with “current”", ring({}, true)),
  state(
    "Ring: a wire, one thing taken",
    ring({ state: "wire", takes: [{ words: "Cu²⁺ becomes metal", share: 1, gas: false }] }),
  ),
  state("Ring: open, the acid goes on", ring({ state: "open", flows: false, takes: [] })),
  state(
    "Ring: a voltmeter, four things taken, long words",
    ring({
      state: "meter",
      takes: [
        { words: "H⁺ takes electrons: gas", share: 0.4, gas: true },
        { words: "O₂ from the air", share: 0.3, gas: false },
        { words: "quinone + 2 H⁺ on the carbon of the rod", share: 0.2, gas: false },
        { words: "its skin turns to metal", share: 0.1, gas: false },
      ],
    }),
  ),
  state("Cell: red on the right", drawing({})),
  state("Cell: red on the left, small", drawing({ redOnLeft: true, small: true })),
  state("Cell: no leads", drawing({ leads: false })),
  state(
    "Cell: a plate with a long symbol, a long liquid",
    drawing({ right: { key: "brass", symbol: "brass" }, liquid: { key: "own-long", name: LONG.liquid } }),
  ),
  state("Cell: two solutions and a bridge", drawing({ cups })),
  state("Cell: two solutions in one glass, small", drawing({ cups: { ...cups, joined: "pot" }, small: true })),
  state("Cell: a distance to set", level("spacing", "4 cm")),
  state("Cell: a depth to set", level("depth", "2 cm")),
  state("Cell: a length to set", level("length", "6 cm")),
  state("Cell: a temperature to set", level("temperature", "40 °C")),
  state("Cell: stirred", level("stirring", "stirred")),
  state("Cell: still", level("stirring", "still")),
  state("Tubes: nothing yet", <Tubes levels={[]} wanted={3} />),
  state(
    "Tubes: two of three, one waits to be sent",
    <Tubes levels={[read("a", "0.94", 0.94), read("b", "941", 0.941, { unit: "mV", waits: true })]} wanted={3} />,
  ),
  state(
    "Tubes: below zero and off the scale",
    <Tubes levels={[read("a", "-0.94", -0.94), read("b", "941", 941), read("c", "-9.4", -9.4)]} wanted={3} />,
  ),
  state(
    "Tubes: more than wanted, one not understood yet",
    <Tubes
      levels={[read("a", "3.40", 3.4), read("b", "0.95", 0.95), read("c", "0.96", 0.96), read("d", "0.97", null)]}
      wanted={3}
    />,
  ),
  state("Meter: digits", <MeterFace display={display({})} />),
  state(
    "Meter: millivolts, a flat battery, below zero",
    <MeterFace display={display({ unit: "mV", range_v: 0.2, digits: "-94.1", battery: true })} />,
  ),
  state("Meter: a needle", <MeterFace display={display({ needle: 0.47 })} />),
  state("Meter: a needle against its stop", <MeterFace display={display({ needle: -0.04, range_v: 10 })} />),
  state(
    "Run: volts with the model, things done",
    <RunChart
      run={run({
        volts: points(0.95, 0.93, 0.71, 0.7, 0.86),
        model: points(0.96, 0.95, 0.74, 0.7, 0.84),
        events: [
          { t_s: 55, what: "joined" },
          { t_s: 62, what: "stirred" },
          { t_s: 118, what: "lit" },
        ],
        stretches: [
          { from_s: 55, to_s: 100, joined: true, name: "red LED" },
          { from_s: 100, to_s: 120, joined: false, name: "" },
        ],
      })}
    />,
  ),
  state(
    "Run: current alone, below a milliamp",
    <RunChart run={run({ current: points(0.0008, 0.0006, 0.0005), left_out: 2 })} />,
  ),
  state(
    "Run: a logger's file over hours, both",
    <RunChart run={run({ volts: many, current: many.map(({ t_s, value }) => ({ t_s, value: value / 1000 })) })} />,
  ),
  state(
    "Run: below zero, over days",
    <RunChart
      run={run({
        volts: [
          { t_s: 0, value: 0.2 },
          { t_s: 400_000, value: -0.3 },
        ],
      })}
    />,
  ),
  state("Run: nothing typed yet", <RunChart run={run({})} />),
  state(
    "Trace",
    <TraceLine
      label="Zn | Cu"
      points={[
        [0, 0.95],
        [20, 0.93],
        [60, 0.9],
      ]}
    />,
  ),
  state(
    "Trace: as good as constant",
    <TraceLine
      label="Zn | Cu"
      points={[
        [5, 0.95],
        [65, 0.951],
      ]}
    />,
  ),
  state("Trace: one point", <TraceLine label="Zn | Cu" points={[[0, 0.95]]} />),
];
