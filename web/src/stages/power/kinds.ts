import type { Schemas } from "../../api/client";
import type { Shown } from "./packView";

export type Plates = Pick<Shown, "negative" | "electrolyte" | "positive">;

export const kindKey = (cell: Plates) => `${cell.negative}|${cell.electrolyte}|${cell.positive}`;

/** The kinds of cell a group has on its list, each once; what it joined last comes first. */
export function kindsOf(bench: Schemas["BenchOut"], joined: Plates[]): Plates[] {
  const plates = ({ negative, electrolyte, positive }: Plates): Plates => ({ negative, electrolyte, positive });
  const all = [...joined.slice(-1), ...bench.cells].map(plates);
  return all.filter((cell, index) => all.findIndex((other) => kindKey(other) === kindKey(cell)) === index);
}
