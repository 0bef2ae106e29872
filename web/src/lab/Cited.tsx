import type { Schemas } from "../api/client";
import { asTyped } from "../format";
import { Num } from "../ui/layout";
import { cellKey } from "./cellKey";
import { cellName, useNames } from "./useNames";

/** Cited readings as they were typed, under the cell, liquid and level that they are of. */
export function Cited({ cited }: { cited: Schemas["CitedOut"][] }) {
  const names = useNames();
  const cells = new Map(cited.map((one) => [cellKey(one.cell), one.cell]));
  return [...cells].map(([key, cell], place) => (
    <span key={key}>
      {place > 0 && "; "}
      {cellName(names, cell)}:{" "}
      <Num>
        {cited
          .filter((one) => cellKey(one.cell) === key)
          .map((one) => asTyped(one.text, one.unit))
          .join(", ")}
      </Num>
    </span>
  ));
}
