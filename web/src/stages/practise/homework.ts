import type { Schemas } from "../../api/client";
import { type Pending, drop, pending, put, send } from "../../api/outbox";
import { newId } from "../../api/newId";

/** The homework on this device: what was opened, a number made for it alone, and how many benches were done. */
export type Homework = Schemas["HomeworkForDevice"] & { device: string; done: number };

/** A bench in trouble that was tried: what was the matter, what was named first, and the hands before that. */
export type Tried = Pick<Schemas["TriedIn"], "symptom" | "fault" | "named" | "hands">;

/** A code as it is kept: case, spaces and the hyphen do not matter. */
export function plainCode(typed: string): string {
  const letters = typed.toUpperCase().replace(/[^A-Z]/g, "");
  const digits = typed.replace(/\D/g, "");
  return letters && `${letters}-${digits}`;
}

const KEY = "pipette:homework";
const OF = "homework:";

/** What this device has open; nothing where its store is shut. */
export function opened(): Homework | null {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? "null") as Homework | null;
  } catch {
    return null;
  }
}

function keep(homework: Homework | null) {
  try {
    if (homework) localStorage.setItem(KEY, JSON.stringify(homework));
    else localStorage.removeItem(KEY);
  } catch {
    // then it is only as long-lived as the page
  }
}

/** Begin homework, or go on with the same where it was left. */
export function begin(found: Schemas["HomeworkForDevice"]): Homework {
  const before = opened();
  const same = before?.code === found.code ? before : { device: newId(), done: 0 };
  const homework = { ...found, device: same.device, done: same.done };
  keep(homework);
  return homework;
}

export const stop = () => keep(null);

/** Count a bench, and put what was tried on this device first; it is sent when the network is there. */
export async function keepTried(homework: Homework, tried: Tried): Promise<Homework> {
  const next = { ...homework, done: homework.done + 1 };
  keep(next);
  const id = newId();
  const body = { id, code: homework.code, device: homework.device, ...tried };
  await put({ kind: "tried", id, cell_id: "", body, group_id: OF + homework.code, refusal: null });
  return next;
}

const ofHomework = (one: Pending) => one.group_id?.startsWith(OF) ?? false;

/** How many answers of any homework are still on this device, the network not being asked. */
export const unsentHere = async () => (await pending()).filter((one) => ofHomework(one) && one.refusal === null).length;

/** What of any homework is still on this device, and what the server would not take, by its reason. */
export type Waiting = { unsent: number; refused: string[] };

/** Send what is waiting, of all homework this device had; what the server refuses for good is said and let go of. */
export async function sendTried(): Promise<Waiting> {
  const whose = new Set((await pending()).filter(ofHomework).map((one) => one.group_id ?? ""));
  for (const group of whose) await send({ group, cells: new Set() });
  const left = (await pending()).filter(ofHomework);
  const refused = left.filter((one) => one.refusal !== null);
  for (const one of refused) await drop(one.id);
  return {
    unsent: left.length - refused.length,
    refused: [...new Set(refused.map((one) => one.refusal ?? ""))],
  };
}
