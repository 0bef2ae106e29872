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

/**
 * What is built: the changes made, cells in a row, a load in ohms (null: none, 0: short) and for how many seconds it has been
 * joined, leads turned round.
 */
export type Built = { changes: string[]; cells: number; load: number | null; seconds: number; turned: boolean };

/** The points at which the curves are known: loads in ohms, seconds since one was joined. */
export type Points = Pick<Tables, "loads_ohm" | "seconds">;

/** A value between points, by their logarithm; beyond the ends as there. */
export function between(points: number[], values: number[], at: number): number {
  const place = points.findIndex((point) => at <= point);
  if (place < 0) return values.at(-1) ?? 0;
  if (place === 0) return values[0] ?? 0;
  const [low = 1, high = 1] = points.slice(place - 1);
  const [atLow = 0, atHigh = 0] = values.slice(place - 1);
  return atLow + (Math.log(at / low) / Math.log(high / low)) * (atHigh - atLow);
}

/** What part of the open volts a resistance leaves so long after it was joined. */
export function partLeft(pair: Pair, { loads_ohm, seconds }: Points, ohm: number, since: number): number {
  const left = pair.left.map((row) => between(seconds, row, since));
  const [least = 1] = loads_ohm;
  return ohm <= least ? ((left[0] ?? 0) * ohm) / least : between(loads_ohm, left, ohm);
}

/** What a meter across it settles at, V: what each change adds, and what the load leaves on the cell's own curve by then. */
export function settled(pair: Pair, points: Points, built: Built, extra = 0): number {
  const made = pair.changes.filter((change) => built.changes.includes(change.name));
  const open = pair.volts_v + made.reduce((sum, change) => sum + change.adds_v, 0) + extra;
  const sign = built.turned ? -1 : 1;
  if (built.load === null) return sign * built.cells * open;
  if (built.load === 0) return 0;
  const lets = made.reduce((times, change) => times * change.times, 1);
  return sign * built.cells * open * partLeft(pair, points, (built.load * lets) / built.cells, built.seconds);
}

/** The current through the load, A; null without one. */
export function current(pair: Pair, points: Points, built: Built, extra = 0): number | null {
  if (built.load === null) return null;
  const made = pair.changes.filter((change) => built.changes.includes(change.name));
  const shorted = between(points.seconds, pair.shorted_a, built.seconds);
  return built.load === 0
    ? made.reduce((amps, change) => amps * change.times, shorted)
    : Math.abs(settled(pair, points, built, extra)) / built.load;
}

/** Part of the number that is there so many seconds after a dip. */
export const risen = (tables: Tables, seconds: number) => 1 - (1 - tables.begin) * Math.exp(-seconds / tables.settle_s);

export type Meter = Tables["meters"][number];

/** What the display shows: a step of its last digit, or that its range is too small; with a flat battery what it makes of it. */
export function shown(volts: number, meter: Meter, range: Meter["ranges"][number], flat = false): string {
  const seen = flat ? volts * meter.flat_times : volts;
  if (Math.abs(seen) > range.most_v) return meter.beyond;
  const steps = Math.round(seen / range.step_v) * range.step_v;
  const decimals = String(range.step_v).split(".")[1]?.length ?? 0;
  return steps.toFixed(decimals).replace("-", "\u2212");
}
