import { t } from "@lingui/core/macro";
import createClient, { type Middleware } from "openapi-fetch";
import type { components, paths } from "./generated";
import { language } from "../language";

export type Schemas = components["schemas"];
export type ProblemBody = Schemas["ProblemOut"];

/** What went wrong, in the server's one shape; `status` 0 means the server was not reached. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly body: ProblemBody,
  ) {
    super(body.message);
  }

  /** Whether the same thing may be sent again later; the server says so. */
  get passing(): boolean {
    return this.body.passing;
  }

  /** Whether it is refused to who asks, as after a new PIN: to ask again at once changes nothing. */
  get forThisVisitor(): boolean {
    return this.status === 401 || this.status === 403;
  }

  /** Whether everything else would fare the same now: nobody answers, or not for this visitor, or the store is away. */
  get forAll(): boolean {
    const away = this.status === 503 && this.body.code !== "photos_away";
    return this.forThisVisitor || away || [0, 408, 429].includes(this.status);
  }
}

export const UNREACHED: ProblemBody = {
  code: "unreached",
  message: t`The server cannot be reached. What you typed stays here; try again when the network is back.`,
  field: null,
  passing: true,
  rows: [],
};

function cookie(name: string): string {
  const found = document.cookie.split("; ").find((part) => part.startsWith(`${name}=`));
  return found ? decodeURIComponent(found.slice(name.length + 1)) : "";
}

let numbered = "";

/** Send a change under a number: the server does what comes twice under one number once. `send` asks at once, not later. */
export function underNumber<T>(number: string, send: () => Promise<T>): Promise<T> {
  numbered = number;
  try {
    return send();
  } finally {
    numbered = "";
  }
}

const csrf: Middleware = {
  onRequest({ request }) {
    request.headers.set("Accept-Language", language);
    if (request.method !== "GET") request.headers.set("X-CSRFToken", cookie("csrftoken"));
    if (numbered) request.headers.set("Idempotency-Key", numbered);
    return request;
  },
};

const ANSWER_MS = 20_000;
const FILE_ANSWER_MS = 120_000;

/** Give up on an answer that does not come: bad Wi-Fi swallows a request without saying so, and what waits behind it waits. */
async function inTime(request: Request): Promise<Response> {
  const stop = new AbortController();
  const file = request.headers.get("Content-Type")?.startsWith("multipart/") ?? false;
  const timer = setTimeout(() => stop.abort(), file ? FILE_ANSWER_MS : ANSWER_MS);
  try {
    return await fetch(request, { signal: stop.signal });
  } finally {
    clearTimeout(timer);
  }
}

const client = createClient<paths>({ baseUrl: "/", credentials: "same-origin", fetch: inTime });
client.use(csrf);

export const { GET, POST, PUT, DELETE } = client;

/** The data of an answer; throws Problem for a refusal and for a server that cannot be reached. */
export async function dataOf<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let answer;
  try {
    answer = await call;
  } catch {
    throw new Problem(0, UNREACHED);
  }
  if (answer.data !== undefined) return answer.data;
  const body = answer.error as Partial<ProblemBody> | undefined;
  throw new Problem(answer.response.status, {
    code: body?.code ?? "refused",
    message: body?.message ?? t`The server did not accept that. What you typed stays here.`,
    field: body?.field ?? null,
    passing: body?.passing ?? answer.response.status >= 500,
    rows: body?.rows ?? [],
  });
}
