import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "../../api/client";
import { Dumbbells } from "../../charts/Dumbbells";
import { cellKey } from "../../lab/cellKey";
import { type Names } from "../../lab/useNames";
import { Soft } from "../../ui/layout";
import { Together } from "./Paper";

type BookCell = Schemas["NotebookOut"]["cells"][number];

/** What sets a cell apart from the group's others of the same plates: level, liquid, and its number where it comes twice. */
function about(cell: BookCell, nth: number, all: BookCell[], names: Names): string | undefined {
  const alike = all.filter((one) => one.short === cell.short);
  if (alike.length === 1) return undefined;
  const differ = (of: (one: BookCell) => string) => new Set(alike.map(of)).size > 1;
  const again = alike.filter((one) => cellKey(one) === cellKey(cell)).length > 1;
  return [
    ...(again ? [t`cell ${nth}`] : []),
    ...(differ((one) => one.condition) ? [names.level(cell.condition)] : []),
    ...(differ((one) => one.electrolyte) ? [names.liquid(cell.electrolyte)] : []),
  ].join(", ");
}

/** The group's own cells as one picture: each mean with its ±, beside the table's difference. */
export function OwnGraph({ cells, names }: { cells: BookCell[]; names: Names }) {
  const drawn = cells.flatMap((cell, place) => {
    if (!cell.own || cell.readings.length === 0) return [];
    const { mean_v, u_v } = cell.own;
    return {
      short: cell.short,
      negative: cell.negative,
      positive: cell.positive,
      about: about(cell, place + 1, cells, names),
      table_v: cell.table_v,
      mean_v,
      u_v,
      low_v: u_v === null ? null : mean_v - u_v,
      high_v: u_v === null ? null : mean_v + u_v,
      gap_v: cell.table_v === null ? null : mean_v - cell.table_v,
      n: cell.readings.length,
      groups: [],
      elsewhere: [],
    };
  });
  if (drawn.length < 2) return null;
  return (
    <Together>
      <h2>
        <Trans>Our cells in one picture</Trans>
      </h2>
      <figure>
        <Dumbbells result={{ cells: drawn }} own />
      </figure>
      <Soft>
        <Trans>
          Open circles: the table. Squares: our own means, with their ±. Right: how far ours is from the table.
        </Trans>
      </Soft>
    </Together>
  );
}
