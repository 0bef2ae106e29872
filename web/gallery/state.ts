import type { ReactNode } from "react";

/** One part of the interface in one state. */
export type State = { name: string; drawn: ReactNode };

export const state = (name: string, drawn: ReactNode): State => ({ name, drawn });

/** Words as long as they come: of a title, a liquid, a group. */
export const LONG = {
  title: "Which pair of metals from the drawer drives a small clock for a whole double lesson, and why?",
  liquid: "sodium percarbonate solution 12.5 g/L with a pinch of kitchen salt",
  group: "Bench 12, the four beside the window",
};
