import type { Schemas } from "../src/api/client";
import { AccountBars } from "../src/charts/AccountBars";
import { SharesTrail } from "../src/charts/SharesTrail";
import { ShareList } from "../src/stages/explain/Deciding";
import { Dumbbells } from "../src/charts/Dumbbells";
import { GapBars } from "../src/charts/GapBars";
import { OffsetsChart, SharedChart } from "../src/charts/GroupsChart";
import { Outside } from "../src/charts/Outside";
import { Scatter } from "../src/charts/Scatter";
import { ShareFound } from "../src/charts/ShareFound";
import { SideBySide } from "../src/charts/SideBySide";
import { SmallLadder } from "../src/charts/SmallLadder";
import { Stems } from "../src/charts/Stems";
import { VaryChart } from "../src/charts/VaryChart";
import { YearRows } from "../src/charts/YearRows";
import { LONG, state } from "./state";

type Result = Schemas["ElectrolyteResultOut"];
type Cell = Schemas["CellRow"];
type Rung = Schemas["RungOut"];

const rung = (electrode: string, class_v: number, table_v: number | null, u_v = 0.02): Rung => ({
  electrode,
  class_v,
  table_v,
  u_v,
  low_v: class_v - 2 * u_v,
  high_v: class_v + 2 * u_v,
});

const mean = (group: string, mean_v: number): Schemas["GroupMean"] => ({
  group,
  mean_v,
  n: 3,
  u_v: 0.004,
  outlier: false,
});

const cell = (negative: string, positive: string, short: string, mean_v: number, table_v: number | null): Cell => ({
  negative,
  positive,
  short,
  mean_v,
  table_v,
  gap_v: table_v === null ? null : mean_v - table_v,
  gap_percent: table_v === null ? null : (100 * (mean_v - table_v)) / table_v,
  u_v: 0.012,
  low_v: mean_v - 0.03,
  high_v: mean_v + 0.03,
  n: 6,
  groups: [mean("Tern", mean_v - 0.01), mean("Knot", mean_v + 0.01)],
  elsewhere: [],
  predicted: [],
});

const result = (given: Partial<Result>): Result => ({
  anchor: "copper",
  anchors: ["copper"],
  between_v: 0.01,
  inside_v: 0.004,
  tau_v: 0.01,
  cells: [],
  condition: "",
  dof: 4,
  electrolyte: "lemon-juice",
  loose: [],
  notes: [],
  rungs: [],
  swaps: [],
  ...given,
});

const LEMON = result({
  rungs: [
    rung("copper", 0.34, 0.34, 0),
    rung("mild-steel", -0.12, -0.44),
    rung("zinc", -0.6, -0.76),
    rung("magnesium", -1.31, -2.37, 0.05),
  ],
  cells: [
    cell("magnesium", "copper", "Mg | Cu", 1.65, 2.71),
    cell("zinc", "copper", "Zn | Cu", 0.94, 1.1),
    cell("mild-steel", "copper", "Fe | Cu", 0.46, 0.78),
  ],
});

const SWAPPED = result({
  electrolyte: "kelp-brine",
  condition: "spacing 4 cm",
  rungs: [
    rung("silver", 0.2, 0.8),
    rung("copper", 0.34, 0.34, 0),
    rung("brass", 0.31, null),
    rung("zinc", -0.71, -0.76),
  ],
  swaps: [{ lower: "silver", upper: "copper", by_v: 0.14, u_v: 0.03 }],
  cells: [
    {
      ...cell("silver", "copper", "Ag | Cu", 0.14, -0.46),
      elsewhere: [{ id: "e", source: "a handbook", conditions: "sea water", u_v: null, volts_v: 0.22 }],
    },
    { ...cell("brass", "copper", "brass | Cu", 0.03, null), u_v: null, low_v: null, high_v: null, groups: [], n: 1 },
    cell("zinc", "silver", "Zn | Ag", -0.91, 1.56),
  ],
});

const NARROW = result({ rungs: [rung("brass", 0.336, null, 0.001), rung("copper", 0.34, 0.34, 0.001)], anchor: null });

const cause = (name: string, volts_v: number): Schemas["CauseOut"] => ({
  code: name,
  equation: "",
  name,
  plate: null,
  test: "",
  u_v: 0.03,
  volts_v,
});

const step = (name: string, from_v: number, to_v: number, big = false): Schemas["StepOut"] => ({
  code: name,
  name,
  from_v,
  to_v,
  u_v: 0.03,
  big,
  causes: [],
});

const explained = (given: Partial<Schemas["ExplainOut"]>): Schemas["ExplainOut"] => ({
  at_negative: [],
  at_positive: [],
  by_table: true,
  causes: [cause("traces of ions", -0.11), cause("left over", -0.05)],
  cell: { negative: "zinc", positive: "copper", electrolyte: "lemon-juice", condition: "" },
  groups: 2,
  level: "upper",
  measured_v: 0.94,
  n: 6,
  negative_plate: "zinc",
  notation: "",
  positive_plate: "copper",
  short: "Zn | Cu",
  start: "E° difference",
  start_v: 1.1,
  steps: [step("traces of ions", 1.1, 0.99), step("left over: nobody can say what it is", 0.99, 0.94, true)],
  u_measured_v: 0.01,
  ...given,
});

const score = (account: string, common_rms_v: number | null, more: Partial<Schemas["ScoreOut"]> = {}) =>
  ({
    account,
    name: account,
    about: "what it says in a line",
    bias_v: common_rms_v === null ? null : -0.02,
    common_rms_v,
    rms_v: common_rms_v,
    left_out: 0,
    n: 6,
    signs_right: 5,
    worse_v: null,
    worse_low_v: null,
    worse_high_v: null,
    ...more,
  }) satisfies Schemas["ScoreOut"];

const offset = (group: string, volts_v: number, half: number, sure: boolean): Schemas["OffsetOut"] => ({
  group,
  volts_v,
  u_v: half / 2,
  low_v: volts_v - half,
  high_v: volts_v + half,
  sure,
});

const at = (group: string, minute: number, volts_v: number) => ({ group, minute, volts_v });

const ticks = [1, 2, 4, 8].flatMap((spacing) =>
  ["Tern", "Knot"].map((group, nth) => ({ group, at: spacing, level: spacing, value: 0.002 / spacing + 0.0001 * nth })),
);
const CHANGED: Schemas["ChangedOut"] = {
  electrolyte: "lemon-juice",
  keep: [],
  name: "distance",
  quantity: "current",
  short: "Zn | Cu",
  unit: "cm",
  variable: "spacing",
  words: [],
  notes: [],
  ticks,
  line: [1, 2, 4, 8].map((spacing) => ({ at: spacing, value: 0.0021 / spacing })),
  model: [1, 2, 4, 8].map((spacing) => ({ at: spacing, value: 0.0018 / spacing, u: 0.0004 / spacing })),
};
const WORDED: Schemas["ChangedOut"] = {
  ...CHANGED,
  name: "surface",
  quantity: "volts",
  unit: "",
  words: ["rubbed", "dull"],
  ticks: [0, 1].map((level) => ({ group: LONG.group, at: level, level, value: 0.9 - 0.1 * level })),
  line: [],
  model: [
    { at: 0, value: 0.92, u: null },
    { at: 1, value: 0.85, u: null },
  ],
};

const YEARS: Schemas["YearsOut"] = {
  anchor: "copper",
  condition: "",
  electrolyte: "lemon-juice",
  names: ["this year", "the year before", LONG.title],
  notes: [],
  tau_v: 0.02,
  tau_low_v: 0.01,
  tau_high_v: null,
  cells: [],
  rungs: [
    { electrode: "copper", all_v: 0.34, by_class: [0.34, 0.34, 0.34], low_v: 0.34, high_v: 0.34, table_v: 0.34 },
    { electrode: "brass", all_v: 0.3, by_class: [0.31, null, 0.29], low_v: 0.26, high_v: 0.34, table_v: null },
    { electrode: "zinc", all_v: -0.61, by_class: [-0.6, -0.62, null], low_v: -0.67, high_v: -0.55, table_v: -0.76 },
  ],
};

const liquids = (of: Result) => (of.condition ? `${LONG.liquid}, ${of.condition}` : "lemon juice");

const SHARES = [
  { account: "standard", name: "Table of standard potentials", share: 28 },
  { account: "rest", name: "Rest-potential model", share: 70 },
  { account: "none", name: "None of them", share: 2 },
];
const part = (standard: number, rest: number) => ({
  short: "Zn | Cu",
  group: "Tern",
  volts_v: 0.94,
  shares: { standard, rest, none: 1 - standard - rest },
});

export const CLASS_STATES = [
  state("Two stems: four plates, one held", <Stems result={LEMON} />),
  state("Two stems: one changed places, one is in no table", <Stems result={SWAPPED} />),
  state("Two stems: nothing listed, nothing held, close together", <Stems result={NARROW} />),
  state("Side by side: two liquids, one with a long name", <SideBySide results={[LEMON, SWAPPED]} title={liquids} />),
  state("Side by side: one liquid", <SideBySide results={[LEMON]} title={liquids} />),
  state("Small ladder", <SmallLadder glance={{ electrolyte: "lemon-juice", rungs: SWAPPED.rungs }} />),
  state("Cells: all less than the table", <Dumbbells result={LEMON} />),
  state("Cells: turned sign, a value from elsewhere, no table, one reading", <Dumbbells result={SWAPPED} />),
  state("Cells: none yet", <Dumbbells result={result({})} />),
  state(
    "Gap: upper level, one step open",
    <GapBars found={explained({})} open="traces of ions" press={() => undefined} />,
  ),
  state(
    "Gap: first level, one reading, from the model",
    <GapBars
      found={explained({ level: "first", by_table: false, start: LONG.liquid, n: 1, groups: 1 })}
      open={null}
      press={() => undefined}
    />,
  ),
  state(
    "Gap: beyond zero",
    <GapBars
      found={explained({
        start_v: 0.2,
        measured_v: -0.35,
        steps: [step("films", 0.2, -0.4), step("left over", -0.4, -0.35)],
      })}
      open={null}
      press={() => undefined}
    />,
  ),
  state(
    "Accounts: best first, one without an answer, one with too few",
    <AccountBars
      accounts={[
        score("mixed", 0.04),
        score("standard", 0.21, { worse_v: 0.17, worse_low_v: 0.05, worse_high_v: 0.29, left_out: 2 }),
        score("nernst", null, { rms_v: 0.3 }),
        score("film", null),
      ]}
    />,
  ),
  state(
    "Shares: from all alike to two that are left, and one value alone",
    <>
      <SharesTrail shares={SHARES} steps={[part(0.4, 0.5), part(0.3, 0.68), part(0.28, 0.7)]} turn={1} />
      <ShareList shares={SHARES} />
      <SharesTrail shares={SHARES} steps={[part(0.4, 0.5)]} turn={null} />
    </>,
  ),
  state(
    "Meters: one sure, one not, one with a long name",
    <OffsetsChart
      offsets={[
        offset("Tern", 0.06, 0.02, true),
        offset("Knot", -0.01, 0.03, false),
        offset(LONG.group, 0, 0.09, false),
      ]}
    />,
  ),
  state(
    "Shared cell over the lesson",
    <SharedChart shared={[at("Tern", 2, 0.95), at("Knot", 3, 0.94), at("Tern", 38, 0.91), at("Knot", 44, 0.9)]} />,
  ),
  state("Shared cell: one reading", <SharedChart shared={[at("Tern", 2, 0.95)]} />),
  state(
    "Scatter: a line that is sure",
    <Scatter
      points={[
        { key: "a", label: "lemon juice", x: 2.3, y: 0.94 },
        { key: "b", label: "kelp brine", x: 7.9, y: 0.81 },
        { key: "c", label: LONG.liquid, x: 10.4, y: 0.74 },
      ]}
      line={{ slope: -0.024, intercept: 0.99, low: -0.03, high: -0.018 }}
      xName="pH"
      says="It falls."
    />,
  ),
  state(
    "Scatter: a line that may be none, names close together",
    <Scatter
      points={[
        { key: "a", label: "lemon juice", x: 2.3, y: 0.941 },
        { key: "b", label: "lime juice", x: 2.2, y: 0.942 },
      ]}
      line={{ slope: 0.01, intercept: 0.9, low: -0.1, high: 0.2 }}
      xName="pH"
      says="It cannot be told."
      tick={(x) => `${x} pH`}
    />,
  ),
  state(
    "Scatter: no line",
    <Scatter
      points={[{ key: "a", label: "lemon juice", x: 2.3, y: 0.94 }]}
      line={null}
      xName="pH"
      says="One liquid."
    />,
  ),
  state("What was changed: current against distance", <VaryChart one={CHANGED} />),
  state("What was changed: by its logarithm", <VaryChart one={CHANGED} scale="log" />),
  state("What was changed: one over it, on a wall", <VaryChart one={CHANGED} scale="inverse" wall />),
  state("What was changed: words instead of numbers, volts", <VaryChart one={WORDED} scale="log" />),
  state("Years: three classes, one plate missing in two", <YearRows years={YEARS} numbers={[1, 2, 3]} />),
  state("Found at once: few devices", <ShareFound found={1} devices={5} low={0.04} high={0.6} guess={0.25} />),
  state("One value outside", <Outside n={1} />),
  state("Nothing outside", <Outside n={0} />),
  state("Values outside, and which", <Outside n={12}>970 V</Outside>),
];
