import type { Schemas } from "../api/client";

/** A cell as addresses and choices name it. */
export const cellKey = ({ negative, electrolyte, positive, condition }: Schemas["CellIO"]) =>
  `${negative}|${electrolyte}|${positive}|${condition}`;

/** The cell of such a key; one without a setting has none in it. */
export function cellOf(key: string): Schemas["CellIO"] {
  const [negative = "", electrolyte = "", positive = "", condition = ""] = key.split("|");
  return { negative, electrolyte, positive, condition };
}
