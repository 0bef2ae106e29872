import "./english";
import assert from "node:assert/strict";
import test, { beforeEach } from "node:test";
import { answerWith, heard, problem } from "./browser";
import { hasJoined, hasLeft, leave, tellLeft, watchLeaving } from "../src/api/leaving";
import { canReopen, forgetOffline, keepForOffline, keepTold } from "../src/api/offline";
import { queries } from "../src/api/queries";

/** What the page has said to its service worker. */
const said: unknown[] = [];
const worker = { postMessage: (message: unknown) => said.push(message) };
const registered: string[] = [];
const store = new Map<string, string>();
const heardOf = new Map<string, (event: Record<string, unknown>) => void>();
const went: string[] = [];

Object.assign(globalThis, {
  localStorage: {
    getItem: (key: string) => store.get(key) ?? null,
    setItem: (key: string, value: string) => void store.set(key, value),
    removeItem: (key: string) => void store.delete(key),
  },
  window: {
    addEventListener: (name: string, hear: (event: Record<string, unknown>) => void) => heardOf.set(name, hear),
  },
  setInterval: () => 0, // what is told again and again is told once here
});
Object.assign(globalThis.location, {
  replace: (to: string) => void went.push(to),
  reload: () => void went.push("reload"),
});

function withWorker(there: boolean): void {
  const serviceWorker = {
    register: async (script: string) => void registered.push(script),
    ready: Promise.resolve({ active: worker }),
    controller: worker,
    getRegistration: async () => ({ active: worker }),
  };
  Object.defineProperty(globalThis, "navigator", { value: there ? { serviceWorker } : {}, configurable: true });
}

beforeEach(() => {
  for (const list of [said, registered, went, heard]) list.length = 0;
  store.clear();
  withWorker(true);
});

const paths = () => heard.map(({ path }) => path);
const done = { status: 200, body: { ok: true } };

test("who leaves is gone from this device at once, and the server hears of it", async () => {
  queries.setQueryData(["bench"], { group: "Tern" });
  answerWith(done);
  await leave();
  assert.equal(queries.getQueryData(["bench"]), undefined);
  assert.deepEqual(said, [{ forget: true }]);
  assert.deepEqual(paths(), ["/api/leave"]);
  assert.equal(hasLeft(), false); // told: nothing is left to tell
});

test("without network the leaving is noted, nothing is shown meanwhile, and it is told later", async () => {
  answerWith("unreached");
  await leave();
  assert.equal(hasLeft(), true);
  answerWith(problem(503, true));
  await tellLeft();
  assert.equal(hasLeft(), true); // the server was there and could not do it
  answerWith(done);
  await tellLeft();
  assert.equal(hasLeft(), false);
  answerWith();
  await tellLeft();
  assert.deepEqual(paths(), []); // once is enough
});

test("another group that joins on the device ends what is still to be told", async () => {
  answerWith("unreached");
  await leave();
  hasJoined();
  assert.equal(hasLeft(), false);
});

test("a browser that stores nothing shows nothing that was left, and nothing breaks", async () => {
  const kept = globalThis.localStorage;
  Object.assign(globalThis, { localStorage: undefined });
  try {
    assert.equal(hasLeft(), false);
    answerWith(done);
    await leave();
    hasJoined();
  } finally {
    Object.assign(globalThis, { localStorage: kept });
  }
});

test("other tabs and pages out of the browser's memory show the bench no more", () => {
  answerWith();
  watchLeaving();
  const storage = heardOf.get("storage");
  const pageshow = heardOf.get("pageshow");
  assert.ok(storage && pageshow && heardOf.get("online"));
  Object.assign(globalThis.location, { pathname: "/bench/2" });
  storage({ key: "pipette:left", newValue: "1" });
  assert.deepEqual(went, ["/join"]);
  storage({ key: "pipette:left", newValue: null }); // told in another tab
  storage({ key: "something else", newValue: "1" });
  Object.assign(globalThis.location, { pathname: "/practise" });
  storage({ key: "pipette:left", newValue: "1" }); // practice is nobody's
  assert.deepEqual(went, ["/join"]);
  pageshow({ persisted: false });
  assert.deepEqual(went, ["/join"]);
  pageshow({ persisted: true });
  assert.deepEqual(went, ["/join", "reload"]);
});

test("a page names its own files to be kept, each once, and nothing from elsewhere", async () => {
  const loaded = ["/static/app/a.js", "/static/app/b.js", "/static/app/a.js", "/api/bench"];
  const before = performance.getEntriesByType;
  performance.getEntriesByType = (() => [
    ...loaded.map((path) => ({ name: `${location.origin}${path}` })),
    { name: "http://elsewhere.test/static/app/c.js" },
  ]) as typeof performance.getEntriesByType;
  try {
    await keepForOffline();
  } finally {
    performance.getEntriesByType = before;
  }
  assert.deepEqual(registered, ["/sw.js"]);
  assert.deepEqual(said, [{ keep: ["/static/app/a.js", "/static/app/b.js"] }]);
});

test("what a stream brings is handed on to be kept", () => {
  keepTold('{"group":"Tern"}');
  assert.deepEqual(said, [{ told: '{"group":"Tern"}' }]);
});

test("on plain http in a school's network there is no worker: nothing is kept, and nothing breaks", async () => {
  withWorker(false);
  assert.equal(canReopen(), false);
  await keepForOffline();
  await forgetOffline();
  keepTold("{}");
  assert.deepEqual([said, registered], [[], []]);
});

test("a private window that refuses a worker is left in peace", async () => {
  Object.defineProperty(globalThis, "navigator", {
    value: { serviceWorker: { register: () => Promise.reject(new Error("SecurityError")) } },
    configurable: true,
  });
  await keepForOffline();
  assert.deepEqual(said, []);
});
