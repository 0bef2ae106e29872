import type { Schemas } from "../api/client";

/** A cell as addresses and choices name it. */
export const cellKey = ({ negative, electrolyte, positive, condition }: Schemas["CellIO"]) =>
  `${negative}|${electrolyte}|${positive}|${condition}`;
