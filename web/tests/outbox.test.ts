import "./english";
import assert from "node:assert/strict";
import test, { beforeEach } from "node:test";
import { answerWith, heard, problem } from "./browser";
import { type Pending, drop, howSafe, letGo, pending, put, send } from "../src/api/outbox";
import { held, hold } from "../src/api/putting";

const WHOSE = { group: "tern", cells: new Set(["cell"]) };
const READING = { id: "", cell_id: "cell", text: "0.94", unit: "V", volts_v: 0.94 };

const note = (id: string, group = "tern") =>
  ({
    kind: "note",
    id,
    cell_id: "cell",
    body: { id, cell_id: "cell", text: id },
    group_id: group,
    refusal: null,
  }) as Pending;
const reading = (id: string) =>
  ({
    kind: "reading",
    id,
    cell_id: "cell",
    body: { id, cell_id: "cell", text: "0.94" },
    group_id: "tern",
    refusal: null,
  }) as Pending;
const done = { status: 200, body: { ok: true } };
const paths = () => heard.map((one) => (one.body as { id: string }).id);
const left = async () => (await pending()).map((one) => one.id);

beforeEach(async () => {
  for (const one of await pending()) await drop(one.id);
});

test("without a store entries stay in the page, which is said", async () => {
  await put(note("a"));
  assert.equal(howSafe(), "blocked");
  assert.deepEqual(await left(), ["a"]);
});

test("what is on its way into the store is held in this tab until it is there or not wanted", async () => {
  const methods = {
    setItem(this: Record<string, string>, key: string, value: string) {
      this[key] = value;
    },
    removeItem(this: Record<string, string>, key: string) {
      delete this[key];
    },
  };
  Object.assign(globalThis, { sessionStorage: Object.create(methods) as object });
  await put(note("a")); // Node has no store: it is only in the page, and held
  assert.deepEqual(
    held().map((one) => one.id),
    ["a"],
  );
  hold({ ...note("photo"), file: new File([], "p.jpg") } as Pending);
  assert.equal(held().length, 1, "files do not fit there");
  await drop("a");
  assert.deepEqual(held(), []);
  Object.assign(globalThis, { sessionStorage: undefined });
});

test("entries go in order, once each, and a sent reading stays until the bench shows it", async () => {
  await put(note("a"));
  await put(reading("b"));
  answerWith(done, { status: 200, body: { ...READING, id: "b" } });
  assert.deepEqual(await send(WHOSE), { sent: 2, waiting: null });
  assert.deepEqual(paths(), ["a", "b"]);
  assert.deepEqual(await left(), ["b"]);
  assert.equal((await send(WHOSE)).sent, 0);
  await letGo(new Set(["b"]));
  assert.deepEqual(await left(), []);
});

test("without network nothing is lost and nothing behind is tried", async () => {
  await put(note("a"));
  await put(note("b"));
  answerWith("unreached");
  assert.equal((await send(WHOSE)).waiting?.status, 0);
  assert.deepEqual(paths(), ["a"]);
  assert.deepEqual(await left(), ["a", "b"]);
});

test("what will never be kept stays with its reason and holds nothing up", async () => {
  await put(note("a"));
  await put(note("b"));
  answerWith(problem(422, false, "Too long."), done);
  assert.equal((await send(WHOSE)).sent, 1);
  assert.deepEqual(
    (await pending()).map((one) => [one.id, one.refusal]),
    [["a", "Too long."]],
  );
});

test("what the server breaks over steps aside after three tries", async () => {
  await put(note("a"));
  await put(note("b"));
  for (const tries of [1, 2]) {
    answerWith(problem(500, true));
    assert.equal((await send(WHOSE)).waiting?.status, 500);
    assert.equal((await pending())[0]?.held?.tries, tries);
    assert.deepEqual(paths(), ["a"], "order is kept while it may pass");
  }
  answerWith(problem(500, true), done);
  assert.equal((await send(WHOSE)).sent, 1);
  assert.deepEqual(await left(), ["a"]);
});

test("another group's entries wait for that group", async () => {
  await put(note("a", "knot"));
  answerWith();
  assert.equal((await send(WHOSE)).sent, 0);
  assert.deepEqual(await left(), ["a"]);
});

test("what was typed before groups were noted goes with the group that has its cell, and no other", async () => {
  await put({ ...note("a"), group_id: undefined } as Pending);
  answerWith();
  assert.equal((await send({ group: "knot", cells: new Set(["another"]) })).sent, 0);
  answerWith(done);
  assert.equal((await send(WHOSE)).sent, 1);
  assert.deepEqual(await left(), []);
});

test("what stepped aside is not offered again before its time, and then it is", async (context) => {
  context.mock.timers.enable({ apis: ["Date"], now: Date.parse("2026-05-04T09:30:00Z") });
  await put(note("a"));
  answerWith(problem(409, true, "The lab is closed."));
  await send(WHOSE);
  answerWith();
  assert.equal((await send(WHOSE)).sent, 0, "asking at once would only be refused again");
  context.mock.timers.tick(29_000);
  await send(WHOSE);
  assert.deepEqual(paths(), []);
  context.mock.timers.tick(2_000);
  answerWith(done);
  assert.equal((await send(WHOSE)).sent, 1);
});
