import { createStore, get, update } from "idb-keyval";
import { POST, Problem, type Schemas, dataOf } from "./client";

export type Entry = Required<Omit<Schemas["ReadingIn"], "device_at" | "corrects">> & {
  device_at: string;
  corrects: string | null;
};

/** An entry that is safe on this device; `refusal` is what the server said if it would not keep it. */
export type Pending = { entry: Entry; refusal: string | null };

const store = createStore("pipette", "outbox");
const KEY = "entries";

/** Entries not yet kept by the server, oldest first. */
export const pending = async (): Promise<Pending[]> => (await get<Pending[]>(KEY, store)) ?? [];

const change = (edit: (all: Pending[]) => Pending[]) => update<Pending[]>(KEY, (all) => edit(all ?? []), store);

/** Put an entry on this device first. Throws if the browser refuses to store it. */
export const put = (entry: Entry) => change((all) => [...all, { entry, refusal: null }]);

export const drop = (id: string) => change((all) => all.filter((one) => one.entry.id !== id));

const refuse = (id: string, refusal: string) =>
  change((all) => all.map((one) => (one.entry.id === id ? { ...one, refusal } : one)));

export type Sent = { sent: number; waiting: Problem | null };

/**
 * Send what is waiting, in order, once each (the server keeps one for each id). Stops at the first passing trouble, so
 * that order is kept; an entry the server refuses stays here with the reason.
 */
export async function send(cells: ReadonlySet<string>): Promise<Sent> {
  let sent = 0;
  for (const { entry, refusal } of await pending()) {
    if (refusal !== null || !cells.has(entry.cell_id)) continue;
    try {
      await dataOf(POST("/api/bench/readings", { body: entry }));
      await drop(entry.id);
      sent += 1;
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      if (error.passing || error.status === 401 || error.status === 403) return { sent, waiting: error };
      await refuse(entry.id, error.message);
    }
  }
  return { sent, waiting: null };
}
