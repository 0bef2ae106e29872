import type { Schemas } from "../../api/client";

export type Case = Schemas["DrillCase"];
export type Cause = Case["causes"][number];

/** What is remembered on this device of each fault: how often it was missed, and found. */
export type Progress = Record<string, { missed: number; found: number }>;

export const hand = (cause: Cause, key: string) => cause.answers[key] ?? { says: "", code: "" };

/** The causes that would have answered all hands so far as the true one does. */
export const stillPossible = (drill: Case, truth: Cause, tried: string[]): Cause[] =>
  drill.causes.filter((cause) => tried.every((key) => hand(cause, key).code === hand(truth, key).code));

/** Hands that told nothing: all causes that were possible before would have answered alike. */
export function toldNothing(drill: Case, truth: Cause, tried: string[]): string[] {
  return tried.filter((key, place) => {
    const before = stillPossible(drill, truth, tried.slice(0, place));
    return before.length > 1 && before.every((cause) => hand(cause, key).code === hand(truth, key).code);
  });
}

/** A hand already tried that a wrong cause would have answered otherwise; null where nothing speaks against it yet. */
export const against = (wrong: Cause, truth: Cause, tried: string[]): string | null =>
  tried.find((key) => hand(wrong, key).code !== hand(truth, key).code) ?? null;

/** A hand not tried yet that would tell two causes apart. */
export const wouldTell = (drill: Case, one: Cause, other: Cause, tried: string[]): string | null =>
  drill.hands.find(({ key }) => !tried.includes(key) && hand(one, key).code !== hand(other, key).code)?.key ?? null;

/** How much a fault is due: more for each time it was missed, less for each time it was found. */
export function weight(key: string, progress: Progress): number {
  const { missed, found } = progress[key] ?? { missed: 0, found: 0 };
  return (1 + 3 * missed) / (1 + found);
}

/** The next case and its cause, drawn by what was missed; `chance` is from 0 to 1. */
export function draw(cases: Case[], progress: Progress, chance: () => number): { drill: Case; truth: Cause } | null {
  const all = cases.flatMap((drill) => drill.causes.map((truth) => ({ drill, truth, w: weight(truth.key, progress) })));
  let at = chance() * all.reduce((sum, one) => sum + one.w, 0);
  for (const one of all) {
    at -= one.w;
    if (at <= 0) return one;
  }
  return all.at(-1) ?? null;
}

const KEY = "pipette:practise";

/** What this device remembers; nothing where its store is shut. */
export function remembered(): Progress {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? "{}") as Progress;
  } catch {
    return {};
  }
}

export function remember(key: string, found: boolean): Progress {
  const before = remembered();
  const { missed = 0, found: often = 0 } = before[key] ?? {};
  const next = { ...before, [key]: found ? { missed, found: often + 1 } : { missed: missed + 1, found: often } };
  try {
    localStorage.setItem(KEY, JSON.stringify(next));
  } catch {
    // then it is only as long-lived as the page
  }
  return next;
}

/** A number as people type it: decimal comma, any minus, a unit behind it; NaN for anything else. */
export function typedNumber(text: string): number {
  const plain = text
    .trim()
    .replace(/[\u2010-\u2015\u2212]/g, "-")
    .replace(",", ".");
  const found = /^([+-]?\d*\.?\d+)\s*(mV|V)?$/i.exec(plain);
  if (!found) return NaN;
  return Number(found[1]) / (found[2]?.toLowerCase() === "mv" ? 1000 : 1);
}
