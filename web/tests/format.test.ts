import "./english";
import assert from "node:assert/strict";
import test from "node:test";
import {
  asTyped,
  capital,
  clock,
  current,
  day,
  decimalsFor,
  figures,
  full,
  lower,
  moment,
  number,
  ordinal,
  time,
  today,
  volts,
} from "../src/format";

test("figures keep as many as there are, and no zeros at their end", () => {
  assert.equal(figures(0.3249, 2), "0.32");
  assert.equal(figures(-12.4, 2), "\u221212");
  assert.equal(figures(4, 2), "4");
});

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

test("times and places read as they are said", () => {
  assert.equal(clock(2060.9), "34:20");
  assert.equal(clock(-5), "0:00");
  assert.equal(ordinal(3), "Third");
  assert.equal(ordinal(12), "No. 12");
});

test("moments are written in the reader's own time, a day as the day it is whatever the time zone", () => {
  const at = new Date(2026, 10, 27, 8, 15, 30).toISOString();
  assert.equal(moment(at), "27 Nov, 08:15");
  assert.equal(full(at), "27 Nov 2026, 08:15");
  assert.equal(time(at), "08:15");
  assert.equal(time(new Date(2026, 10, 27, 17, 5).toISOString()), "17:05");
  assert.match(day("2026-11-27"), /^Fri,? 27 Nov 2026$/);
  assert.match(day("2026-01-01"), /^Thu,? 1 Jan 2026$/);
  assert.match(today(), /^20\d\d-[01]\d-[0-3]\d$/);
});

test("a current is in milliamperes, with the digits that it is worth, and in microamperes where it is small", () => {
  assert.equal(current(0.00123), "1.23\u202fmA");
  assert.equal(current(0.0123), "12.3\u202fmA");
  assert.equal(current(0.0001), "0.10\u202fmA");
  assert.equal(current(0.000042), "42\u202fµA");
  assert.equal(current(-0.000042), "\u221242\u202fµA");
  assert.equal(volts(-0.354, 2), "\u22120.35\u202fV");
  assert.equal(volts(0.354, 3, true), "+0.354\u202fV");
});

test("a text goes on in a sentence and begins one", () => {
  assert.equal(lower("Rub the plate"), "rub the plate");
  assert.equal(capital("rub the plate"), "Rub the plate");
  assert.equal(capital(""), "");
});

test("a third decimal is shown only where the uncertainty allows it", () => {
  assert.deepEqual([0.004, 0.02, 0, null].map(decimalsFor), [3, 2, 2, 2]);
});
