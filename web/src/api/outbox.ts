import { createStore, get, update } from "idb-keyval";
import { POST, Problem, type Schemas, dataOf } from "./client";

type In = {
  reading: Schemas["ReadingIn"];
  prediction: Schemas["PredictionIn"];
  check: Schemas["MeterIn"];
  load: Schemas["UnderLoadIn"];
  note: Schemas["ObservationIn"];
  photo: { id: string; cell_id: string; device_at: string };
  trace: { id: string; cell_id: string; device_at: string };
};
export type Kind = keyof In;

/**
 * Something that is safe on this device and not yet with the server; `refusal` is what the server said if it would not
 * keep it. `cell_id` says whose it is; `file` goes with photographs and traces. A reading that the server has stays, with
 * its answer in `sent`, until the bench shows it: the network may go away in between.
 */
export type Pending<K extends Kind = Kind> = {
  [P in K]: {
    kind: P;
    id: string;
    cell_id: string;
    body: In[P];
    file?: File;
    refusal: string | null;
    sent?: Schemas["ReadingOut"];
  };
}[K];

export const only = <K extends Kind>(all: Pending[], kind: K): Pending<K>[] =>
  all.filter((one) => one.kind === kind) as Pending[] as Pending<K>[];

/** Where entries are: in the browser's store, or (when it refuses) only in this page, which is to be said. */
export type Safety = "kept" | "full" | "blocked";

const store = createStore("pipette", "outbox");
const KEY = "entries";
let memory: Pending[] = [];
let safety: Safety = "kept";

export const howSafe = (): Safety => safety;

function refused(error: unknown) {
  safety = error instanceof DOMException && error.name === "QuotaExceededError" ? "full" : "blocked";
}

/** Entries not yet kept by the server, oldest first. */
export async function pending(): Promise<Pending[]> {
  try {
    const kept = (await get<Pending[]>(KEY, store)) ?? [];
    return [...kept.filter((one) => one.kind), ...memory];
  } catch (error) {
    refused(error);
    return memory;
  }
}

/** Ask the browser not to clear what is kept here when it runs short of space. */
export const askToKeep = () => void navigator.storage?.persist?.().catch(() => false);

/** Put an entry on this device first; in this page alone where the browser's store refuses. */
export async function put(entry: Pending): Promise<void> {
  try {
    await update<Pending[]>(KEY, (all) => [...(all ?? []), entry], store);
    if (memory.length === 0) safety = "kept";
  } catch (error) {
    refused(error);
    memory = [...memory, entry];
  }
}

async function change(edit: (all: Pending[]) => Pending[]) {
  memory = edit(memory);
  try {
    await update<Pending[]>(KEY, (all) => edit(all ?? []), store);
  } catch (error) {
    refused(error);
  }
}

export const drop = (id: string) => change((all) => all.filter((one) => one.id !== id));

const mark = (id: string, what: Partial<Pick<Pending, "refusal" | "sent">>) =>
  change((all) => all.map((one) => (one.id === id ? { ...one, ...what } : one)));

/** Let go of readings that the bench shows by now. */
export async function letGo(seen: ReadonlySet<string>): Promise<void> {
  if ((await pending()).some((one) => one.sent && seen.has(one.id)))
    await change((all) => all.filter((one) => !(one.sent && seen.has(one.id))));
}

function form(fields: Record<string, string>, name: string, file: File | undefined): FormData {
  const made = new FormData();
  for (const [key, value] of Object.entries(fields)) made.append(key, value);
  if (file) made.append(name, file);
  return made;
}

const asForm = (body: unknown) => ({ body: body as never, bodySerializer: () => body as FormData });

function post(one: Pending): Promise<unknown> {
  switch (one.kind) {
    case "reading":
      return dataOf(POST("/api/bench/readings", { body: { ...one.body, sent_at: new Date().toISOString() } }));
    case "prediction":
      return dataOf(POST("/api/bench/predictions", { body: one.body }));
    case "check":
      return dataOf(POST("/api/bench/meter-checks", { body: one.body }));
    case "load":
      return dataOf(POST("/api/bench/under-load", { body: one.body }));
    case "note":
      return dataOf(POST("/api/bench/observations", { body: one.body }));
    case "photo":
      return dataOf(POST("/api/bench/photos", asForm(form(one.body, "photo", one.file))));
    case "trace":
      return dataOf(POST("/api/bench/traces", asForm(form(one.body, "file", one.file))));
  }
}

export type Sent = { sent: number; waiting: Problem | null };

let running: Promise<Sent> = Promise.resolve({ sent: 0, waiting: null });

/**
 * Send what is waiting, in order, once each (the server keeps one for each id); one sending at a time, files last so that
 * no picture holds up a reading. Stops at the first passing trouble, so that order is kept; an entry the server refuses
 * stays here with the reason.
 */
export function send(cells: ReadonlySet<string>): Promise<Sent> {
  running = running.catch(() => null).then(() => sendAll(cells));
  return running;
}

async function sendAll(cells: ReadonlySet<string>): Promise<Sent> {
  let sent = 0;
  const all = await pending();
  for (const one of [...all.filter((entry) => !entry.file), ...all.filter((entry) => entry.file)]) {
    if (one.sent || one.refusal !== null || !cells.has(one.cell_id)) continue;
    try {
      const answer = await post(one);
      if (one.kind === "reading") await mark(one.id, { sent: answer as Schemas["ReadingOut"] });
      else await drop(one.id);
      sent += 1;
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      if (error.passing || error.status === 401 || error.status === 403) return { sent, waiting: error };
      await mark(one.id, { refusal: error.message });
    }
  }
  return { sent, waiting: null };
}
