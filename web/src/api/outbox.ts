import { createStore, get, update } from "idb-keyval";
import { POST, Problem, type Schemas, dataOf } from "./client";

export type Entry = Required<Omit<Schemas["ReadingIn"], "device_at" | "corrects">> & {
  device_at: string;
  corrects: string | null;
};

export type Prediction = Required<Omit<Schemas["PredictionIn"], "device_at">> & { device_at: string };

/** A reading that is safe on this device; `refusal` is what the server said if it would not keep it. */
export type Pending = { entry: Entry; refusal: string | null };
/** The same for a prediction. */
export type PendingPrediction = { prediction: Prediction; refusal: string | null };
export type MeterEntry = Required<Omit<Schemas["MeterIn"], "device_at">> & { device_at: string };
/** A meter check; `cell_id` is any cell of the group's, to tell whose it is. */
export type PendingCheck = { check: MeterEntry; cell_id: string; refusal: string | null };
type Kept = Pending | PendingPrediction | PendingCheck;

export const isReading = (one: Kept): one is Pending => "entry" in one;
export const isPrediction = (one: Kept): one is PendingPrediction => "prediction" in one;
export const isCheck = (one: Kept): one is PendingCheck => "check" in one;
const inside = (one: Kept): { id: string; cell_id: string } =>
  isReading(one) ? one.entry : isPrediction(one) ? one.prediction : { id: one.check.id, cell_id: one.cell_id };

const store = createStore("pipette", "outbox");
const KEY = "entries";

/** Entries not yet kept by the server, oldest first. */
export const pending = async (): Promise<Kept[]> => (await get<Kept[]>(KEY, store)) ?? [];

const change = (edit: (all: Kept[]) => Kept[]) => update<Kept[]>(KEY, (all) => edit(all ?? []), store);

/** Put an entry on this device first. Throws if the browser refuses to store it. */
export const put = (entry: Entry) => change((all) => [...all, { entry, refusal: null }]);
export const putPrediction = (prediction: Prediction) => change((all) => [...all, { prediction, refusal: null }]);

export const putCheck = (check: MeterEntry, cell_id: string) =>
  change((all) => [...all, { check, cell_id, refusal: null }]);

export const drop = (id: string) => change((all) => all.filter((one) => inside(one).id !== id));

const refuse = (id: string, refusal: string) =>
  change((all) => all.map((one) => (inside(one).id === id ? { ...one, refusal } : one)));

export type Sent = { sent: number; waiting: Problem | null };

/**
 * Send what is waiting, in order, once each (the server keeps one for each id). Stops at the first passing trouble, so
 * that order is kept; an entry the server refuses stays here with the reason.
 */
export async function send(cells: ReadonlySet<string>): Promise<Sent> {
  let sent = 0;
  for (const one of await pending()) {
    const { id, cell_id } = inside(one);
    if (one.refusal !== null || !cells.has(cell_id)) continue;
    try {
      if (isReading(one)) await dataOf(POST("/api/bench/readings", { body: one.entry }));
      else if (isPrediction(one)) await dataOf(POST("/api/bench/predictions", { body: one.prediction }));
      else await dataOf(POST("/api/bench/meter-checks", { body: one.check }));
      await drop(id);
      sent += 1;
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      if (error.passing || error.status === 401 || error.status === 403) return { sent, waiting: error };
      await refuse(id, error.message);
    }
  }
  return { sent, waiting: null };
}
