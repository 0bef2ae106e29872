/** The steps of a period, and their minutes as they are typed. */
import { t } from "@lingui/core/macro";
export const STEPS = [
  ["start", t`Start, meter check`],
  ["prepare", t`Prepare, dip`],
  ["settle", t`Settle`],
  ["read", t`Three readings`],
  ["rinse", t`Rinse`],
  ["packs", t`Packs, after the cells`],
  ["clear", t`Clear up`],
  ["late", t`Late start`],
  ["pause_at", t`Break begins at`],
  ["pause", t`Break`],
  ["spare", t`To spare, for slower groups`],
] as const;

export type StepName = (typeof STEPS)[number][0];
export type TypedSteps = Record<StepName, string>;

export const minutesOf = (text: string) => (text.trim() === "" ? NaN : Number(text.replace(",", ".")));
export const isMinutes = (text: string) => minutesOf(text) >= 0;

/** Minutes as numbers, by step; null while one of them is none. */
export function stepsOf(typed: TypedSteps): Record<StepName, number> | null {
  if (!STEPS.every(([name]) => isMinutes(typed[name]))) return null;
  return Object.fromEntries(STEPS.map(([name]) => [name, minutesOf(typed[name])])) as Record<StepName, number>;
}

export const typedSteps = (steps: Record<StepName, number>) =>
  Object.fromEntries(STEPS.map(([name]) => [name, String(steps[name])])) as TypedSteps;
