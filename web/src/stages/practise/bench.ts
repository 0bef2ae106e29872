import type { Schemas } from "../../api/client";

export type Pair = Schemas["PairOut"];
export type Tables = Schemas["FreeBenchOut"];

/** Numbers between 0 and 1 that are the same for the same seed (mulberry32). */
export function seeded(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}

/** A normal deviate of standard deviation 1. */
export function deviate(chance: () => number): number {
  return Math.sqrt(-2 * Math.log(Math.max(1e-12, chance()))) * Math.cos(2 * Math.PI * chance());
}

/** What is built: the changes made, cells in a row, a load in ohms (null: none, 0: short), leads turned round. */
export type Built = { changes: string[]; cells: number; load: number | null; turned: boolean };

/** What part of the open volts a resistance leaves: between the curve's points by their logarithm. */
export function partLeft(pair: Pair, loads: number[], ohm: number): number {
  const [first = 1, ...others] = loads;
  if (ohm <= first) return ((pair.left[0] ?? 0) * ohm) / first;
  const place = others.findIndex((high) => ohm <= high);
  if (place < 0) return pair.left.at(-1) ?? 1;
  const [low, high] = [loads[place] ?? 1, others[place] ?? 1];
  const [atLow, atHigh] = [pair.left[place] ?? 0, pair.left[place + 1] ?? 0];
  return atLow + (Math.log(ohm / low) / Math.log(high / low)) * (atHigh - atLow);
}

/** What a meter across it settles at, V: what each change adds, and what the load leaves on the cell's own curve. */
export function settled(pair: Pair, loads: number[], built: Built, extra = 0): number {
  const made = pair.changes.filter((change) => built.changes.includes(change.name));
  const open = pair.volts_v + made.reduce((sum, change) => sum + change.adds_v, 0) + extra;
  const sign = built.turned ? -1 : 1;
  if (built.load === null) return sign * built.cells * open;
  if (built.load === 0) return 0;
  const lets = made.reduce((times, change) => times * change.times, 1);
  return sign * built.cells * open * partLeft(pair, loads, (built.load * lets) / built.cells);
}

/** The current through the load, A; null without one. */
export function current(pair: Pair, loads: number[], built: Built, extra = 0): number | null {
  if (built.load === null) return null;
  const made = pair.changes.filter((change) => built.changes.includes(change.name));
  const short = made.reduce((amps, change) => amps * change.times, pair.short_a);
  return built.load === 0 ? short : Math.abs(settled(pair, loads, built, extra)) / built.load;
}

/** Part of the number that is there so many seconds after a dip. */
export const risen = (tables: Tables, seconds: number) => 1 - (1 - tables.begin) * Math.exp(-seconds / tables.settle_s);

/** What the display shows: a step of its last digit, or that its range is too small. */
export function shown(volts: number, meter: Tables["meters"][number]): string {
  if (Math.abs(volts) > meter.most_v) return "OL";
  const steps = Math.round(volts / meter.step_v) * meter.step_v;
  const decimals = meter.step_v < 0.005 ? 3 : 2;
  return steps.toFixed(decimals).replace("-", "\u2212");
}
