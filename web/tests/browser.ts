/** Just enough of a browser for the front end's own logic to run in Node: an address, cookies, and a server made of answers. */
type Answer = { status: number; body: unknown } | "unreached" | "silent";

export const heard: { path: string; body: unknown }[] = [];
let answers: Answer[] = [];

/** What the next requests get, in order. */
export function answerWith(...next: Answer[]): void {
  answers = next;
  heard.length = 0;
}

export const problem = (status: number, passing: boolean, message = "No."): Answer => ({
  status,
  body: { code: "test", message, field: null, passing, rows: [] },
});

/** Bad Wi-Fi: no answer ever, until the page gives up. */
function givenUp(signal: AbortSignal | null | undefined): Promise<never> {
  return new Promise((_, reject) =>
    signal?.addEventListener("abort", () => reject(new DOMException("", "AbortError"))),
  );
}

const HERE = "http://pipette.test";
const Whole = globalThis.Request;

/** A page's addresses are relative to it. */
class FromHere extends Whole {
  constructor(input: RequestInfo | URL, init?: RequestInit) {
    super(typeof input === "string" && input.startsWith("/") ? HERE + input : input, init);
  }
}

Object.assign(globalThis, {
  Request: FromHere,
  document: { cookie: "" },
  location: { origin: HERE, href: `${HERE}/`, pathname: "/" },
  sessionStorage: undefined,
  fetch: async (request: Request, init?: RequestInit) => {
    const file = request.headers.get("Content-Type")?.startsWith("multipart/") ?? false;
    const text = file ? "" : await request.text();
    heard.push({ path: new URL(request.url).pathname, body: text ? (JSON.parse(text) as unknown) : null });
    const next = answers.shift();
    if (next === "silent") await givenUp(init?.signal);
    if (next === undefined) throw new Error("a request nobody expected");
    if (next === "unreached") throw new TypeError("fetch failed");
    return new Response(JSON.stringify(next.body), {
      status: next.status,
      headers: { "Content-Type": "application/json" },
    });
  },
});
