import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import test from "node:test";
import { runInNewContext } from "node:vm";

const HERE = "http://pipette.test";
const SHELL = "pipette-shell-1";
const DATA = "pipette-bench-1";
const CODE = readFileSync("public/sw.js", "utf-8");

type Waits = Promise<unknown>;
type Handler = (event: Record<string, unknown>) => void;

/** The service worker with stores and a network made of answers; `network` says what each path gets, or fails. */
class Worker {
  stores = new Map<string, Map<string, Response>>();
  network = new Map<string, () => Promise<Response>>();
  asked: string[] = [];
  now = 1;
  private handlers = new Map<string, Handler>();
  private timers: (() => void)[] = [];

  constructor() {
    const path = (of: string | { url: string }) => new URL(typeof of === "string" ? of : of.url, HERE).pathname;
    const open = (name: string) => {
      const store = this.stores.get(name) ?? new Map<string, Response>();
      this.stores.set(name, store);
      return {
        match: async (of: string | { url: string }) => store.get(path(of))?.clone(),
        put: async (of: string, answer: Response) => void store.set(path(of), answer),
      };
    };
    runInNewContext(CODE, {
      self: {
        addEventListener: (name: string, handler: Handler) => this.handlers.set(name, handler),
        skipWaiting: async () => undefined,
        clients: { claim: async () => undefined },
        location: { origin: HERE },
      },
      caches: {
        open: async (name: string) => open(name),
        keys: async () => [...this.stores.keys()],
        delete: async (name: string) => this.stores.delete(name),
        match: async (of: { url: string }, { cacheName }: { cacheName: string }) => open(cacheName).match(of),
      },
      fetch: async (of: string | { url: string }) => {
        this.asked.push(path(of));
        const answer = this.network.get(path(of));
        if (!answer) throw new TypeError("fetch failed");
        return answer();
      },
      setTimeout: (late: () => void) => this.timers.push(late),
      performance: { now: () => this.now++ },
      Response,
      URL,
      Promise,
      Infinity,
      Boolean,
    });
  }

  /** Let every wait for the network come to its end. */
  tooLate(): void {
    for (const late of this.timers.splice(0)) late();
  }

  gives(path: string, text: string, status = 200): void {
    this.network.set(path, async () => new Response(text, { status }));
  }

  /** An event that the worker may take its time over. */
  async happens(name: string, event: Record<string, unknown> = {}): Promise<void> {
    let waits: Waits = Promise.resolve();
    this.handlers.get(name)?.({ ...event, waitUntil: (until: Waits) => (waits = until) });
    await waits;
  }

  /** What a page gets for a request; null where the worker leaves it to the browser. */
  get(path: string, more: Record<string, unknown> = {}): Promise<Response> | null {
    let answer: Promise<Response> | null = null;
    const request = { url: HERE + path, method: "GET", mode: "cors", ...more };
    this.handlers.get("fetch")?.({ request, respondWith: (made: Promise<Response>) => (answer = made) });
    return answer;
  }

  async text(path: string, more: Record<string, unknown> = {}): Promise<string> {
    const answer = await this.get(path, more);
    assert.ok(answer, `${path} was left to the browser`);
    return answer.text();
  }

  async kept(store: string, path: string): Promise<string | undefined> {
    return this.stores.get(store)?.get(path)?.clone().text();
  }
}

/** A worker that has kept a bench for later. */
async function withBench(): Promise<Worker> {
  const worker = new Worker();
  for (const [path, text] of Object.entries({
    "/static/app/main.js": "script",
    "/bench": "page",
    "/api/bench": "bench 1",
    "/api/bench/packs": "packs",
    "/api/practise": "practice",
  }))
    worker.gives(path, text);
  await worker.happens("message", { data: { keep: ["/static/app/main.js"] } });
  return worker;
}

test("a page names its files; they, the page and what it shows open again without network", async () => {
  const worker = await withBench();
  worker.network.clear();
  assert.equal(await worker.text("/static/app/main.js"), "script");
  for (const path of ["/", "/bench", "/bench/3", "/practise"])
    assert.equal(await worker.text(path, { mode: "navigate" }), "page", path);
  assert.equal(await worker.text("/api/bench"), "bench 1");
  assert.equal(await worker.text("/api/bench/packs"), "packs");
  assert.equal(await worker.text("/api/practise"), "practice");
});

test("the network goes first while it answers, and what it says is kept", async () => {
  const worker = await withBench();
  worker.gives("/api/bench", "bench 2");
  assert.equal(await worker.text("/api/bench"), "bench 2");
  worker.network.clear();
  assert.equal(await worker.text("/api/bench"), "bench 2");
});

test("a network that says nothing is not waited for longer than the patience", async () => {
  const worker = await withBench();
  worker.network.set("/api/bench", () => new Promise(() => undefined));
  const answer = worker.text("/api/bench");
  await Promise.resolve();
  worker.tooLate();
  assert.equal(await answer, "bench 1");
});

test("a file that is kept is not fetched again: its name says what is in it", async () => {
  const worker = await withBench();
  worker.asked.length = 0;
  await worker.happens("message", { data: { keep: ["/static/app/main.js"] } });
  assert.ok(!worker.asked.includes("/static/app/main.js"));
});

test("what is sent, other pages and other servers are none of its business", async () => {
  const worker = await withBench();
  assert.equal(worker.get("/api/bench", { method: "POST" }), null);
  assert.equal(worker.get("/labs", { mode: "navigate" }), null);
  assert.equal(worker.get("/api/labs/1/board"), null);
  assert.equal(worker.get("", { url: "http://elsewhere.test/api/bench" }), null);
});

test("what a stream has brought is what opens again, also where an older answer comes in after it", async () => {
  const worker = await withBench();
  let come: (answer: Response) => void = () => undefined;
  worker.network.set("/api/bench", () => new Promise((resolve) => (come = resolve)));
  const older = worker.text("/api/bench");
  await worker.happens("message", { data: { told: "bench 3" } });
  come(new Response("bench 2"));
  assert.equal(await older, "bench 2"); // whoever asked is answered
  assert.equal(await worker.kept(DATA, "/api/bench"), "bench 3");
  worker.gives("/api/bench", "bench 4");
  assert.equal(await worker.text("/api/bench"), "bench 4");
  assert.equal(await worker.kept(DATA, "/api/bench"), "bench 4");
});

test("a group that leaves is forgotten with what is still on its way, and practice stays", async () => {
  const worker = await withBench();
  await worker.happens("message", { data: { forget: true } });
  assert.equal(worker.stores.has(DATA), false);
  assert.equal(await worker.text("/api/bench"), "bench 1");
  assert.equal(await worker.kept(DATA, "/api/bench"), undefined);
  assert.equal(await worker.kept(SHELL, "/api/practise"), "practice");
});

test("who may no longer see the bench finds nothing of it without network either", async () => {
  const worker = await withBench();
  worker.gives("/api/bench", "no", 401);
  assert.equal((await worker.get("/api/bench"))?.status, 401);
  assert.equal(worker.stores.has(DATA), false);
});

test("a broken answer is not kept in the place of a good one", async () => {
  const worker = await withBench();
  worker.gives("/api/bench", "broken", 500);
  await worker.get("/api/bench");
  assert.equal(await worker.kept(DATA, "/api/bench"), "bench 1");
});

test("stores of an older version go when a new one begins", async () => {
  const worker = await withBench();
  worker.stores.set("pipette-bench-0", new Map());
  await worker.happens("activate");
  assert.deepEqual([...worker.stores.keys()].sort(), [DATA, SHELL]);
});

test("an answer that comes too late for this page is what the next one gets without network", async () => {
  const worker = new Worker();
  worker.gives("/api/bench", "before");
  await worker.text("/api/bench");
  let come = (_: Response) => {};
  worker.network.set("/api/bench", () => new Promise((resolve) => (come = resolve)));
  const asked = worker.text("/api/bench");
  worker.tooLate();
  assert.equal(await asked, "before");
  come(new Response("after"));
  await new Promise(setImmediate);
  worker.network.delete("/api/bench");
  assert.equal(await worker.text("/api/bench"), "after");
});
