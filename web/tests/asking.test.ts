import "./english";
import assert from "node:assert/strict";
import test from "node:test";
import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { answerWith, heard, problem } from "./browser";
import { GET, POST, Problem, dataOf } from "../src/api/client";
import { fetchAnew, queries } from "../src/api/queries";

/** What asking for a bench came to: the data, or the problem. */
async function asked(): Promise<unknown> {
  return dataOf(GET("/api/bench")).catch((error: unknown) => error);
}

/** Whether what failed is asked for again, after so many failures. */
function again(error: unknown, failures = 0): boolean {
  const rule = queries.getDefaultOptions().queries?.retry;
  assert.ok(typeof rule === "function");
  return rule(failures, error as Error);
}

test("an answer is its data", async () => {
  answerWith({ status: 200, body: { group: "Tern" } });
  assert.deepEqual(await asked(), { group: "Tern" });
  assert.deepEqual(
    heard.map(({ path }) => path),
    ["/api/bench"],
  );
});

test("a server that is not reached is said in words, and may be asked again", async () => {
  answerWith("unreached");
  const found = await asked();
  assert.ok(found instanceof Problem);
  assert.equal(found.status, 0);
  assert.match(found.message, /cannot be reached. What you typed stays here/);
  assert.deepEqual([found.passing, found.forAll, found.forThisVisitor], [true, true, false]);
});

test("a refusal keeps the server's words; one without words gets some", async () => {
  answerWith(problem(409, false, "That reading is corrected already."), { status: 422, body: {} });
  const [told, untold] = [await asked(), await asked()];
  assert.ok(told instanceof Problem && untold instanceof Problem);
  assert.deepEqual([told.message, told.passing], ["That reading is corrected already.", false]);
  assert.match(untold.message, /The server did not accept that/);
  assert.deepEqual([untold.body.code, untold.body.rows, untold.passing], ["refused", [], false]);
});

test("what no shape is given to counts as passing only where the server itself broke", async () => {
  for (const [status, passing] of [
    [500, true],
    [502, true],
    [404, false],
  ] as const) {
    answerWith({ status, body: {} });
    const found = await asked();
    assert.ok(found instanceof Problem);
    assert.equal(found.passing, passing, String(status));
  }
});

test("only what can pass by itself is asked for again, three times at most", async () => {
  for (const [status, passing, repeats] of [
    [503, true, true],
    [429, true, true],
    [408, true, true],
    [401, true, false], // another PIN: to ask again at once changes nothing, and a page must say so now
    [403, true, false],
    [404, false, false],
    [409, false, false],
  ] as const) {
    answerWith(problem(status, passing));
    const found = await asked();
    assert.equal(again(found), repeats, String(status));
    assert.equal(again(found, 3), false, String(status));
  }
  assert.equal(again(new Error("a mistake in the page itself")), false);
});

test("who else would fare the same waits too", async () => {
  for (const [status, forAll] of [
    [401, true],
    [403, true],
    [429, true],
    [503, true],
    [404, false],
    [409, false],
    [422, false],
    [500, false],
  ] as const) {
    answerWith(problem(status, true));
    const found = await asked();
    assert.ok(found instanceof Problem);
    assert.equal(found.forAll, forAll, String(status));
  }
  const away = new Problem(503, { code: "photos_away", message: "", field: null, passing: true, rows: [] });
  assert.equal(away.forAll, false); // the folder for photographs is away; readings are kept as ever
});

test("what changes something carries the visitor's token, and every request the reader's language", async () => {
  const requests: Request[] = [];
  const before = globalThis.fetch;
  document.cookie = "other=1; csrftoken=a%2Fb";
  globalThis.fetch = (async (request: Request) => {
    requests.push(request);
    return new Response("{}", { status: 200, headers: { "Content-Type": "application/json" } });
  }) as typeof fetch;
  try {
    await dataOf(POST("/api/leave"));
    await dataOf(GET("/api/bench"));
  } finally {
    globalThis.fetch = before;
  }
  assert.deepEqual(
    requests.map(({ headers }) => headers.get("X-CSRFToken")),
    ["a/b", null],
  );
  assert.deepEqual(
    requests.map(({ headers }) => headers.get("Accept-Language")),
    ["en", "en"],
  );
});

for (const [what, form, at] of [
  ["an answer that does not come is given up after twenty seconds", null, 20_000],
  ["a file has two minutes on its way", new FormData(), 120_000],
] as const)
  test(what, async (context) => {
    context.mock.timers.enable({ apis: ["setTimeout"] });
    answerWith("silent");
    let ended: unknown;
    const body = form as never;
    const waiting = dataOf(
      form ? POST("/api/bench/photos", { body, bodySerializer: () => body as FormData }) : GET("/api/bench"),
    ).catch((error: unknown) => {
      ended = error;
    });
    while (heard.length === 0) await new Promise(setImmediate);
    context.mock.timers.tick(at - 1);
    await new Promise(setImmediate);
    assert.equal(ended, undefined);
    context.mock.timers.tick(1);
    await waiting;
    assert.ok(ended instanceof Problem && ended.status === 0);
  });

test("news that come while something is asked for the first time are not lost: it is asked for again", async () => {
  const client = new QueryClient();
  const answers: ((what: string) => void)[] = [];
  const queryFn = () => new Promise<string>((resolve) => answers.push(resolve));
  const leave = new QueryObserver(client, { queryKey: ["bench"], queryFn }).subscribe(() => undefined);
  const news = fetchAnew(client, { queryKey: ["bench"] });
  answers[0]?.("from before the news");
  await new Promise(setImmediate);
  assert.equal(answers.length, 2);
  answers[1]?.("from after the news");
  await news;
  assert.equal(client.getQueryData(["bench"]), "from after the news");
  leave();
  client.clear();
});
