/** The steps of a period, and their minutes as they are typed. */
export const STEPS = [
  ["start", "Start, meter check"],
  ["prepare", "Prepare, dip"],
  ["settle", "Settle"],
  ["read", "Three readings"],
  ["rinse", "Rinse"],
  ["packs", "Packs, after the cells"],
  ["clear", "Clear up"],
  ["late", "Late start"],
  ["pause_at", "Break begins at"],
  ["pause", "Break"],
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
