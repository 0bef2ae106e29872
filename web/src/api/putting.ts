import type { Pending } from "./outbox";

const PREFIX = "pipette:putting:";

/*
 * What is on its way into the browser's store. The field is cleared at once and the store answers later: this tab's own
 * storage, which answers at once, holds the entry in between, so that a page closed in that moment loses nothing.
 */

/** Hold an entry in this tab; files do not fit there. */
export function hold(entry: Pending): void {
  if (entry.file) return;
  try {
    sessionStorage.setItem(PREFIX + entry.id, JSON.stringify(entry));
  } catch {
    // storage may be shut off; the store alone must do then
  }
}

/** The entry is in the store, or nobody wants it any more. */
export function release(id: string): void {
  try {
    sessionStorage.removeItem(PREFIX + id);
  } catch {
    // see above
  }
}

/** What an earlier page of this tab held and could not hand over. */
export function held(): Pending[] {
  try {
    return Object.entries(sessionStorage)
      .filter(([key]) => key.startsWith(PREFIX))
      .map(([, value]) => JSON.parse(String(value)) as Pending);
  } catch {
    return [];
  }
}
