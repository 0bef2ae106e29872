import "./english";
import assert from "node:assert/strict";
import { test } from "node:test";
import "./browser.ts";
import type { Schemas } from "../src/api/client";
import type { Pending } from "../src/api/outbox";
import { latest, refusedOf, rowOf, viewsOf } from "../src/stages/power/packView";

const entry = (id: string, kind: string, position: number | null, text: string, corrected_by: string | null = null) =>
  ({
    id,
    kind,
    position,
    text,
    unit: "V",
    value: 1,
    negative: "zinc",
    electrolyte: "lemon-juice",
    positive: "copper",
    corrected_by,
    corrects: null,
    reason: "",
    received_at: "2026-05-04T09:00:00Z",
  }) as Schemas["PackEntryOut"];

const data = (entries: Schemas["PackEntryOut"][]): Schemas["BenchPacks"] => ({
  packs: [
    {
      id: "p",
      group: "Tern",
      load: "led-red",
      load_name: "red LED",
      entries,
      steps: [],
      findings: [],
      harm: "",
      open_v: null,
      seen: [],
      lit: null,
      received_at: "2026-05-04T09:00:00Z",
    },
  ],
  loads: [{ key: "led-red", name: "red LED", lamp: true, low_v: 1.6, high_v: 2, most_v: null }],
  seen: {},
  how: {},
  done: [],
  cautions: [],
  most: 12,
});

const waits = (id: string, body: Partial<Schemas["PackEntryIn"]>, more: Partial<Pending> = {}): Pending =>
  ({
    kind: "packEntry",
    id,
    cell_id: "p",
    refusal: null,
    body: { id, pack_id: "p", kind: "alone", position: 1, text: "", unit: "V", ...body },
    ...more,
  }) as Pending;

test("of a thing measured twice the latest counts, a corrected one never", () => {
  const [view] = viewsOf(
    data([entry("a", "alone", 1, "9.5", "b"), entry("b", "alone", 1, "0.95"), entry("c", "alone", 1, "0.96")]),
    [],
  );
  assert.ok(view);
  assert.equal(latest(view, "alone", 1)?.text, "0.96");
  assert.equal(latest(view, "alone", 2), undefined);
});

test("what waits on this device is shown with what is kept, once", () => {
  const kept = data([entry("a", "cell", 1, "")]);
  const [view] = viewsOf(kept, [
    waits("a", { kind: "cell" }),
    waits("b", { kind: "cell", position: 2 }),
    waits("c", { text: "0.93" }),
  ]);
  assert.ok(view);
  assert.equal(rowOf(view).length, 2);
  assert.deepEqual(
    view.entries.map((one) => [one.id, one.waiting]),
    [
      ["a", false],
      ["b", true],
      ["c", true],
    ],
  );
});

test("a correction that waits strikes the old number at once", () => {
  const [view] = viewsOf(data([entry("a", "alone", 1, "9.5")]), [waits("b", { text: "0.95", corrects: "a" })]);
  assert.ok(view);
  assert.equal(latest(view, "alone", 1)?.text, "0.95");
});

test("what the server has and the page has not fetched yet is no longer called unsent", () => {
  const [view] = viewsOf(data([]), [waits("b", { text: "0.95" }, { sent: {} })]);
  assert.equal(view?.entries[0]?.waiting, false);
});

test("a pack begun without network is there with its load by name, the newest first", () => {
  const begun = {
    kind: "pack",
    id: "q",
    cell_id: "q",
    refusal: null,
    body: { id: "q", load: "470" },
  } as Pending;
  const views = viewsOf(data([]), [begun]);
  assert.deepEqual(
    views.map((view) => [view.id, view.loadName]),
    [
      ["q", "470 Ω"],
      ["p", "red LED"],
    ],
  );
});

test("what the server refused is not shown as kept, and stays in sight with the reason", () => {
  const waiting = [waits("b", { text: "o.95" }, { refusal: "That is no number." })];
  const [view] = viewsOf(data([]), waiting);
  assert.equal(view?.entries.length, 0);
  assert.deepEqual(refusedOf(waiting), [{ id: "b", text: "o.95 V", why: "That is no number." }]);
});
