import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import test from "node:test";
import { type Pair, type Tables, current, deviate, risen, seeded, settled, shown } from "../src/stages/practise/bench";

/** Made by the core for this run: pairs, what was built of them, and what the core's own arithmetic has. */
type Case = { loads: number[]; pair: Pair; changes: string[]; cells: number; load: number | null; volts_v: number };
const cases = JSON.parse(readFileSync(process.env["PRACTISE_CASES"] ?? "", "utf8")) as Case[];
const built = { changes: [] as string[], cells: 1, load: null as number | null, turned: false };
const { loads = [] } = cases[0] ?? {};
const tables = { begin: 0.55, settle_s: 7 } as Tables;

test("what a browser puts together is what the core has on the same cases", () => {
  assert.ok(cases.length > 20);
  for (const { loads, pair, changes, cells, load, volts_v } of cases)
    assert.ok(Math.abs(settled(pair, loads, { changes, cells, load, turned: false }) - volts_v) < 1e-9);
});

test("leads turned round show the same number with the other sign", () => {
  const pair = cases[0]?.pair as Pair;
  assert.equal(settled(pair, loads, { ...built, turned: true }), -settled(pair, loads, built));
});

test("a short leaves no volts and takes the most current; without a load there is none", () => {
  const pair = cases[0]?.pair as Pair;
  assert.equal(settled(pair, loads, { ...built, load: 0 }), 0);
  assert.equal(current(pair, loads, { ...built, load: 0 }), pair.short_a);
  assert.ok((current(pair, loads, { ...built, load: 1000 }) ?? 1) < pair.short_a);
  assert.equal(current(pair, loads, built), null);
});

test("the number climbs to where it stands", () => {
  assert.ok(Math.abs(risen(tables, 0) - 0.55) < 1e-12);
  assert.ok(risen(tables, 5) < risen(tables, 10) && risen(tables, 60) > 0.999);
});

test("a meter shows steps of its last digit, or that its range is too small", () => {
  const fine = { key: "fine", name: "", step_v: 0.001, most_v: 20 };
  const needle = { key: "needle", name: "", step_v: 0.05, most_v: 3 };
  assert.equal(shown(-0.94261, fine), "\u22120.943");
  assert.equal(shown(0.93, needle), "0.95");
  assert.equal(shown(3.2, needle), "OL");
});

test("the same seed gives the same numbers, spread as a normal deviate is", () => {
  const [one, other] = [seeded(5), seeded(5)];
  assert.deepEqual([one(), one(), one()], [other(), other(), other()]);
  const chance = seeded(9);
  const many = Array.from({ length: 4000 }, () => deviate(chance));
  const mean = many.reduce((sum, v) => sum + v, 0) / many.length;
  const sd = Math.sqrt(many.reduce((sum, v) => sum + (v - mean) ** 2, 0) / many.length);
  assert.ok(Math.abs(mean) < 0.06 && Math.abs(sd - 1) < 0.05);
});
