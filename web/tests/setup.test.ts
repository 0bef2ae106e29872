import "./english";
import assert from "node:assert/strict";
import test from "node:test";
import "./browser";
import type { Schemas } from "../src/api/client";
import {
  begun,
  empty,
  isEnough,
  planOf,
  settingsFor,
  withGroups,
  withTemplate,
  withVariable,
} from "../src/stages/plan/setup";

const template = (key: string, more: Partial<Schemas["TemplateOut"]> = {}): Schemas["TemplateOut"] => ({
  key,
  name: `Name of ${key}`,
  about: "",
  varies: "pairs",
  question: `Question of ${key}`,
  kept: "the same",
  against: "",
  electrodes: ["zinc", "copper"],
  electrolytes: ["lemon-juice"],
  conditions: [],
  minutes: null,
  groups: [],
  short_circuit: false,
  packs: false,
  sides: [],
  lesson: null,
  ...more,
});
const PAIRS = template("pairs");
const SPACING = template("spacing", { varies: "spacing", conditions: ["1 cm apart", "4 cm apart"] });
const ALL = [PAIRS, SPACING];
const USUAL = {
  minutes: 60,
  electrodes: [],
  electrolytes: [],
  question: "",
  varies: "pairs" as const,
  kept: "",
  conditions: [],
  against: "",
  repeats: 2,
  scatter_v: 0.05,
  age: "14-15" as const,
  activities: [],
  steps: {
    start: 6,
    prepare: 1,
    settle: 2,
    read: 2,
    rinse: 1,
    packs: 0,
    clear: 8,
    late: 0,
    pause_at: 0,
    pause: 0,
    spare: 0,
  },
  cup_ml: 40,
  predict: true,
  short_circuit: false,
  load_ohm: null,
  packs: false,
  language: "en" as const,
  level: "middle" as const,
  template: "",
};
const START = {
  usual: USUAL,
  templates: ALL,
  variables: ["depth", "stirring"].map((key) => ({
    varies: key as Schemas["VariableOut"]["varies"],
    name: key,
    settings: [`1 of ${key}`, `2 of ${key}`],
    set_up: "",
    title: `Title of ${key}`,
    question: `What does ${key} change?`,
    kept: `not ${key}`,
    short: key === "depth",
    hazard: "",
  })),
};

test("a new lab opens with the first template filled in, and is enough for a plan", () => {
  const plan = planOf(begun(START));
  assert.equal(plan?.title, "Name of pairs");
  assert.equal(plan?.groups.length, 8);
  assert.ok(isEnough(plan));
  assert.ok(!isEnough(planOf(empty(USUAL))));
});

test("another template takes its own words along and leaves typed ones alone", () => {
  const typed = { ...begun(START), question: "Why do ours differ?" };
  const next = withTemplate(typed, SPACING, START);
  assert.equal(next.question, "Why do ours differ?");
  assert.equal(next.title, "Name of spacing");
  assert.equal(next.conditions, "1 cm apart\n4 cm apart");
  const back = withTemplate({ ...next, title: "Mine" }, PAIRS, START);
  assert.equal(back.title, "Mine");
});

test("settings that somebody typed stay while the same thing is varied", () => {
  const typed = { ...withTemplate(begun(START), SPACING, START), conditions: "2 cm\n9 cm" };
  assert.equal(withTemplate(typed, SPACING, START).conditions, "2 cm\n9 cm");
});

test("groups by number keep the names that are there", () => {
  assert.equal(withGroups("Tern\nKnot\nRuff", 2), "Tern\nKnot");
  assert.equal(withGroups("Tern\nBench 1", 4), "Tern\nBench 1\nBench 2\nBench 3");
});

test("a number that is none yet makes no plan, and a decimal comma is one", () => {
  const typed = begun(START);
  assert.equal(planOf({ ...typed, minutes: "" }), null);
  assert.equal(planOf({ ...typed, minutes: "4x" }), null);
  assert.equal(planOf({ ...typed, load: "ten" }), null);
  assert.equal(planOf({ ...typed, scatter: "0,05" })?.scatter_v, 0.05);
  assert.equal(planOf({ ...typed, title: "  " })?.title, "Untitled");
});

test("what only a template asked for goes with it, and what was typed stays", () => {
  const shown = template("shown", { minutes: 20, groups: ["Front bench"], short_circuit: true, packs: true });
  const plain = template("plain");
  const all = { ...START, templates: [shown, plain] };
  const before = { ...empty(USUAL), names: "Tern\nKnot" };
  const front = withTemplate(before, shown, all);
  assert.deepEqual([front.minutes, front.names, front.short, front.packs], ["20", "Front bench", true, true]);
  const back = withTemplate(front, plain, all);
  assert.equal(back.names.split("\n").length, 8);
  assert.deepEqual([back.minutes, back.short, back.packs], ["20", false, false]);
  assert.equal(withTemplate({ ...front, names: "Mine" }, plain, all).names, "Mine");
});

test("another variable brings title, question, what stays the same, settings and the current, but for what was typed", () => {
  const depth = withVariable(begun(START), "depth", START);
  assert.deepEqual(
    [depth.title, depth.question, depth.kept, depth.conditions, depth.short],
    ["Title of depth", "What does depth change?", "not depth", "1 of depth\n2 of depth", true],
  );
  const stirred = withVariable({ ...depth, question: "Mine?", conditions: "5" }, "stirring", START);
  assert.deepEqual(
    [stirred.title, stirred.question, stirred.conditions, stirred.short],
    ["Title of stirring", "Mine?", "5", false],
  );
  assert.equal(withVariable(depth, "spacing", START).title, "Name of spacing"); // a template that changes it says it better
  assert.equal(withTemplate(depth, PAIRS, START).title, "Name of pairs");
  const own = withVariable(depth, "own", START);
  assert.deepEqual([own.title, own.conditions], ["Title of depth", ""]); // nothing better is known
});

test("settings come from a ready lab that has some, else from the variable, and nobody else's are one's own", () => {
  const own = template("pressed", { varies: "own", conditions: ["pressed together", "lying loose"] });
  const start = { ...START, templates: [...ALL, template("depth", { varies: "depth" }), own] };
  assert.equal(settingsFor("pairs", start), undefined);
  assert.equal(settingsFor("spacing", start), "1 cm apart\n4 cm apart");
  assert.equal(settingsFor("depth", start), "1 of depth\n2 of depth");
  assert.equal(settingsFor("own", start), "");
  const typed = withVariable(begun(start), "own", start);
  assert.deepEqual([typed.title, typed.conditions], ["Name of pairs", ""]);
});
