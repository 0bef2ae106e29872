import "./english";
import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import test from "node:test";
import {
  type Built,
  type Pair,
  type Points,
  type Tables,
  between,
  current,
  deviate,
  risen,
  seeded,
  settled,
  shown,
} from "../src/stages/practise/bench";

/** Made by the core for this run: pairs, what was built of them, and what the core's own arithmetic has. */
type Case = Omit<Built, "turned"> & { points: Points; pair: Pair; volts_v: number };
const cases = JSON.parse(readFileSync(process.env["PRACTISE_CASES"] ?? "", "utf8")) as Case[];
const built: Built = { changes: [], cells: 1, load: null, seconds: 1, turned: false };
const points = cases[0]?.points as Points;
const tables = { begin: 0.55, settle_s: 7 } as Tables;

test("what a browser puts together is what the core has on the same cases", () => {
  assert.ok(cases.length > 20);
  for (const { points: known, pair, volts_v, ...made } of cases)
    assert.ok(Math.abs(settled(pair, known, { ...made, turned: false }) - volts_v) < 1e-9);
});

test("leads turned round show the same number with the other sign", () => {
  const pair = cases[0]?.pair as Pair;
  assert.equal(settled(pair, points, { ...built, turned: true }), -settled(pair, points, built));
});

test("a short leaves no volts and takes the most current; without a load there is none", () => {
  const pair = cases[0]?.pair as Pair;
  assert.equal(settled(pair, points, { ...built, load: 0 }), 0);
  assert.equal(current(pair, points, { ...built, load: 0 }), pair.shorted_a[0]);
  assert.ok((current(pair, points, { ...built, load: 1000 }) ?? 1) < (pair.shorted_a[0] ?? 0));
  assert.equal(current(pair, points, built), null);
});

test("under a load it sags, and a value between two times lies between theirs", () => {
  const pair = cases[0]?.pair as Pair;
  const at = (seconds: number) => settled(pair, points, { ...built, load: 1000, seconds });
  assert.ok(at(1) > at(60) && at(1) >= at(2) && at(2) >= at(3));
  assert.equal(at(0), at(1));
  assert.equal(at(1e4), at(300));
  assert.equal(between([1, 10, 100], [0, 1, 2], 10), 1);
});

test("the number climbs to where it stands", () => {
  assert.ok(Math.abs(risen(tables, 0) - 0.55) < 1e-12);
  assert.ok(risen(tables, 5) < risen(tables, 10) && risen(tables, 60) > 0.999);
});

test("a meter shows steps of its last digit, or that its range is too small", () => {
  const [two, millivolts, three] = [
    { name: "2 V", step_v: 0.001, most_v: 2 },
    { name: "200 mV", step_v: 0.0001, most_v: 0.2 },
    { name: "3 V", step_v: 0.05, most_v: 3 },
  ];
  const fine = { key: "fine", name: "", ranges: [two, millivolts], beyond: "OL", flat_times: 1.4 };
  const needle = { key: "needle", name: "", ranges: [three], beyond: "at the stop", flat_times: 1 };
  assert.equal(shown(-0.94261, fine, two), "\u22120.943");
  assert.equal(shown(0.0123, fine, millivolts), "0.0123");
  assert.equal(shown(0.93, needle, three), "0.95");
  assert.equal(shown(1.2, needle, { name: "15 V", step_v: 0.25, most_v: 15 }), "1.25");
  assert.equal(shown(0.94261, fine, millivolts), "OL");
  assert.equal(shown(3.2, needle, three), "at the stop");
  assert.equal(shown(1, fine, two, true), "1.400");
  assert.equal(shown(1, needle, three, true), "1.00");
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
