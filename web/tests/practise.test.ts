import "./english";
import assert from "node:assert/strict";
import test from "node:test";
import { plainCode } from "../src/stages/practise/homework";
import {
  against,
  draw,
  stillPossible,
  toldNothing,
  typedNumber,
  weight,
  wouldTell,
} from "../src/stages/practise/drill";

const answer = (code: string) => ({ says: code, code });
const cause = (key: string, answers: Record<string, string>) => ({
  key,
  name: key,
  mend: "",
  why: "",
  answers: Object.fromEntries(Object.entries(answers).map(([hand, code]) => [hand, answer(code)])),
});
const bridged = cause("bridged", { dry: "right", wipe: "right", press: "nothing" });
const open = cause("open", { dry: "right", wipe: "nothing", press: "right" });
const same = cause("same", { dry: "right", wipe: "nothing", press: "nothing" });
const drill = {
  symptom: "zero",
  seen: "Nothing",
  cell: "Zn | Cu",
  negative: "zinc",
  electrolyte: "lemon-juice",
  positive: "copper",
  symbols: ["Zn", "Cu"],
  right_v: 1,
  hands: ["dry", "wipe", "press"].map((key) => ({ key, name: key })),
  causes: [bridged, open, same],
};

test("what is still possible has answered every hand as the true cause does", () => {
  assert.deepEqual(stillPossible(drill, open, []), [bridged, open, same]);
  assert.deepEqual(stillPossible(drill, open, ["dry"]), [bridged, open, same]);
  assert.deepEqual(stillPossible(drill, open, ["wipe"]), [open, same]);
  assert.deepEqual(stillPossible(drill, open, ["wipe", "press"]), [open]);
});

test("a hand that all causes answer alike told nothing, and one after the cause is known is no such hand", () => {
  assert.deepEqual(toldNothing(drill, open, ["dry", "wipe", "press"]), ["dry"]);
  assert.deepEqual(toldNothing(drill, bridged, ["wipe", "dry"]), []);
});

test("a wrong cause is met with a hand that speaks against it, or with one that would", () => {
  assert.equal(against(bridged, open, ["dry", "wipe"]), "wipe");
  assert.equal(against(same, open, ["dry", "wipe"]), null);
  assert.equal(wouldTell(drill, same, open, ["dry", "wipe"]), "press");
  assert.equal(wouldTell(drill, same, open, ["press"]), null);
});

test("what was missed comes up more often, what was found less", () => {
  const progress = { open: { missed: 2, found: 0 }, same: { missed: 0, found: 3 } };
  assert.ok(weight("open", progress) > weight("bridged", progress));
  assert.ok(weight("same", progress) < weight("bridged", progress));
  const times = { bridged: 0, open: 0, same: 0 } as Record<string, number>;
  for (let k = 0; k < 330; k += 1) {
    const drawn = draw([drill], progress, () => (k + 0.5) / 330);
    if (drawn) times[drawn.truth.key] = (times[drawn.truth.key] ?? 0) + 1;
  }
  assert.ok((times["open"] ?? 0) > 5 * (times["bridged"] ?? 0));
  assert.equal(
    draw([], {}, () => 0.5),
    null,
  );
});

test("numbers are read as people type them", () => {
  assert.equal(typedNumber("1,10"), 1.1);
  assert.equal(typedNumber("\u22120.42 V"), -0.42);
  assert.equal(typedNumber("940 mV"), 0.94);
  assert.ok(Number.isNaN(typedNumber("much")) && Number.isNaN(typedNumber("")));
});

test("a homework's code is the same however it is typed, as on the server", () => {
  for (const typed of ["amber 123", "AMBER-123", "Amber123 ", "123 amber"]) assert.equal(plainCode(typed), "AMBER-123");
  assert.equal(plainCode(""), "");
});
