import assert from "node:assert/strict";
import test from "node:test";
import "./browser";
import { begun, empty, isEnough, planOf, withGroups, withTemplate } from "../src/stages/plan/setup";

const template = (key: string, more: object = {}) => ({
  key,
  name: `Name of ${key}`,
  about: "",
  varies: "pairs",
  question: `Question of ${key}`,
  kept: "the same",
  against: "",
  electrodes: ["zinc", "copper"],
  electrolytes: ["lemon-juice"],
  conditions: [] as string[],
  ...more,
});
const PAIRS = template("pairs");
const SPACING = template("spacing", { varies: "spacing", conditions: ["1 cm apart", "4 cm apart"] });
const ALL = [PAIRS, SPACING];

test("a new lab opens with the first template filled in, and is enough for a plan", () => {
  const plan = planOf(begun(ALL));
  assert.equal(plan?.title, "Name of pairs");
  assert.equal(plan?.groups.length, 8);
  assert.ok(isEnough(plan));
  assert.ok(!isEnough(planOf(empty())));
});

test("another template takes its own words along and leaves typed ones alone", () => {
  const typed = { ...begun(ALL), question: "Why do ours differ?" };
  const next = withTemplate(typed, SPACING, ALL);
  assert.equal(next.question, "Why do ours differ?");
  assert.equal(next.title, "Name of spacing");
  assert.equal(next.conditions, "1 cm apart\n4 cm apart");
  const back = withTemplate({ ...next, title: "Mine" }, PAIRS, ALL);
  assert.equal(back.title, "Mine");
});

test("settings that somebody typed stay while the same thing is varied", () => {
  const typed = { ...withTemplate(begun(ALL), SPACING, ALL), conditions: "2 cm\n9 cm" };
  assert.equal(withTemplate(typed, SPACING, ALL).conditions, "2 cm\n9 cm");
});

test("groups by number keep the names that are there", () => {
  assert.equal(withGroups("Tern\nKnot\nRuff", 2), "Tern\nKnot");
  assert.equal(withGroups("Tern\nBench 1", 4), "Tern\nBench 1\nBench 2\nBench 3");
});

test("a number that is none yet makes no plan, and a decimal comma is one", () => {
  const typed = begun(ALL);
  assert.equal(planOf({ ...typed, minutes: "" }), null);
  assert.equal(planOf({ ...typed, minutes: "4x" }), null);
  assert.equal(planOf({ ...typed, load: "ten" }), null);
  assert.equal(planOf({ ...typed, scatter: "0,05" })?.scatter_v, 0.05);
  assert.equal(planOf({ ...typed, title: "  " })?.title, "Untitled");
});
