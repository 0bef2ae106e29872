import assert from "node:assert/strict";
import test from "node:test";
import { asTyped, clock, count, decimalsFor, number, ordinal } from "../src/format";

test("numbers have a true minus sign, and nothing that rounds to zero has one", () => {
  assert.equal(number(-1.104, 2), "\u22121.10");
  assert.equal(number(-0.001, 2), "0.00");
  assert.equal(number(0.5, 2, true), "+0.50");
  assert.equal(number(0, 2, true), "0.00");
});

test("typed text stays as typed, unit taken off and given once", () => {
  assert.equal(asTyped("-1.10", "V"), "\u22121.10\u202fV");
  assert.equal(asTyped("940 mV", "mV"), "940\u202fmV");
  assert.equal(asTyped("0.9400", "V"), "0.9400\u202fV");
  assert.equal(asTyped(" – 0,94 volts ", "V"), "\u22120,94\u202fV");
});

test("times, counts and places read as they are said", () => {
  assert.equal(clock(2060.9), "34:20");
  assert.equal(clock(-5), "0:00");
  assert.equal(count(1, "group"), "1 group");
  assert.equal(count(0, "entry", "entries"), "0 entries");
  assert.equal(ordinal(3), "Third");
  assert.equal(ordinal(12), "No. 12");
});

test("a third decimal is shown only where the uncertainty allows it", () => {
  assert.deepEqual([0.004, 0.02, 0, null].map(decimalsFor), [3, 2, 2, 2]);
});
