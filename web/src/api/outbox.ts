import { createStore, get, update } from "idb-keyval";
import { POST, Problem, type Schemas, dataOf } from "./client";
import { held, hold, release } from "./putting";

type In = {
  reading: Schemas["ReadingIn"];
  prediction: Schemas["PredictionIn"];
  check: Schemas["MeterIn"];
  load: Schemas["UnderLoadIn"];
  note: Schemas["ObservationIn"];
  question: Schemas["QuestionIn"];
  actual: Schemas["ActualIn"];
  photo: { id: string; cell_id: string; device_at: string };
  trace: { id: string; cell_id: string; device_at: string };
  pack: Schemas["PackIn"];
  packEntry: Schemas["PackEntryIn"];
  runFile: { id: string; pack_id: string; device_at: string; time_unit: string; value_unit: string; ended_min: string };
  chain: Schemas["ChainEntryIn"];
  words: Schemas["WordsIn"];
  handIn: Schemas["HandInIn"];
  tried: Schemas["TriedIn"];
};
export type Kind = keyof In;

/** Why an entry waits although the others go: what the server said, how often, and when it is offered again. */
export type Held = { message: string; tries: number; again: number };

/**
 * Something that is safe on this device and not yet with the server; `refusal` is what the server said if it will never
 * keep it, `held` if it may later. `group_id` says whose it is and `group` under what name; `file` goes with photographs
 * and traces. A reading that the server has stays, with its answer in `sent`, until the bench shows it (and so do packs and
 * what belongs to them): the network may go away in between.
 */
export type Pending<K extends Kind = Kind> = {
  [P in K]: {
    kind: P;
    id: string;
    cell_id: string;
    body: In[P];
    file?: File;
    group_id?: string;
    group?: string;
    refusal: string | null;
    held?: Held;
    sent?: Partial<Schemas["ReadingOut"]>;
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

/** Entries that a page closed in the middle of keeping them; with their ids the server takes each once. */
const handedOver = Promise.all(held().map((entry) => put(entry)));

/** Entries not yet kept by the server, oldest first. */
export async function pending(): Promise<Pending[]> {
  await handedOver;
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
  hold(entry);
  try {
    await update<Pending[]>(KEY, (all) => [...(all ?? []).filter((one) => one.id !== entry.id), entry], store);
    release(entry.id);
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

export function drop(id: string): Promise<void> {
  release(id); // held on where the store refuses
  return change((all) => all.filter((one) => one.id !== id));
}

const mark = (id: string, what: Partial<Pick<Pending, "refusal" | "held" | "sent">>) =>
  change((all) => all.map((one) => (one.id === id ? { ...one, ...what } : one)));

/** Let go of what the bench shows by now. */
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
  const sent_at = new Date().toISOString(); // by the same clock as device_at: the difference is how long it waited here
  switch (one.kind) {
    case "reading":
      return dataOf(POST("/api/bench/readings", { body: { ...one.body, sent_at } }));
    case "prediction":
      return dataOf(POST("/api/bench/predictions", { body: { ...one.body, sent_at } }));
    case "check":
      return dataOf(POST("/api/bench/meter-checks", { body: { ...one.body, sent_at } }));
    case "load":
      return dataOf(POST("/api/bench/under-load", { body: { ...one.body, sent_at } }));
    case "note":
      return dataOf(POST("/api/bench/observations", { body: { ...one.body, sent_at } }));
    case "question":
      return dataOf(POST("/api/bench/questions", { body: { ...one.body, sent_at } }));
    case "actual":
      return dataOf(POST("/api/bench/actuals", { body: { ...one.body, sent_at } }));
    case "pack":
      return dataOf(POST("/api/bench/packs", { body: { ...one.body, sent_at } }));
    case "packEntry":
      return dataOf(POST("/api/bench/pack-entries", { body: { ...one.body, sent_at } }));
    case "runFile":
      return dataOf(POST("/api/bench/run-files", asForm(form({ ...one.body, sent_at }, "file", one.file))));
    case "chain":
      return dataOf(POST("/api/bench/chain-entries", { body: { ...one.body, sent_at } }));
    case "words":
      return dataOf(POST("/api/bench/words", { body: { ...one.body, sent_at } }));
    case "handIn":
      return dataOf(POST("/api/bench/hand-in", { body: { ...one.body, sent_at } }));
    case "tried":
      return dataOf(POST("/api/practise/tried", { body: one.body }));
    case "photo":
      return dataOf(POST("/api/bench/photos", asForm(form({ ...one.body, sent_at }, "photo", one.file))));
    case "trace":
      return dataOf(POST("/api/bench/traces", asForm(form({ ...one.body, sent_at }, "file", one.file))));
  }
}

export type Sent = { sent: number; waiting: Problem | null };

let running: Promise<Sent> = Promise.resolve({ sent: 0, waiting: null });

/** Whose entries are sent: those of this group, and those from before groups were noted, of its cells. */
export type Whose = { group: string; cells: ReadonlySet<string> };

export const isOf = (one: Pending, { group, cells }: Whose): boolean =>
  one.group_id === undefined ? cells.has(one.cell_id) : one.group_id === group;

/** After so many broken answers an entry steps aside for the others. */
const TRIES = 3;
const AGAIN_MS = 30_000;

/**
 * Send what is waiting, in order, once each (the server keeps one for each id); one sending at a time, files last so that
 * no picture holds up a reading. Stops at trouble that all would have, so that order is kept. What only this entry has: a
 * reason that cannot pass stays here with it, one that can is offered again later, and what the server breaks over steps
 * aside after three tries.
 */
export function send(whose: Whose): Promise<Sent> {
  running = running.catch(() => null).then(() => sendAll(whose));
  return running;
}

async function sendAll(whose: Whose): Promise<Sent> {
  let sent = 0;
  const all = await pending();
  for (const one of [...all.filter((entry) => !entry.file), ...all.filter((entry) => entry.file)]) {
    if (one.sent || one.refusal !== null || !isOf(one, whose) || (one.held?.again ?? 0) > Date.now()) continue;
    try {
      const answer = await post(one);
      if (one.kind === "reading") await mark(one.id, { sent: answer as Schemas["ReadingOut"], held: undefined });
      else if (one.kind === "pack" || one.kind === "packEntry" || one.kind === "words")
        await mark(one.id, { sent: {}, held: undefined });
      else await drop(one.id);
      sent += 1;
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      if (error.forAll) return { sent, waiting: error };
      if (!error.passing) {
        await mark(one.id, { refusal: error.message, held: undefined });
        continue;
      }
      const tries = (one.held?.tries ?? 0) + 1;
      const aside = error.status < 500 || tries >= TRIES;
      await mark(one.id, { held: { message: error.message, tries, again: aside ? Date.now() + AGAIN_MS : 0 } });
      if (!aside) return { sent, waiting: error };
    }
  }
  return { sent, waiting: null };
}
