import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { decimalsFor, number } from "../../format";
import { Heads } from "../../ui/Heads";
import { Table } from "../../ui/layout";
import { Behind } from "../../ui/Behind";
import { useNames } from "../../lab/useNames";

type Result = Schemas["ElectrolyteResultOut"];
const NONE = t`not listed`;

export function LadderTable({ result }: { result: Result }) {
  const { plate } = useNames();
  return (
    <Behind label={t`Numbers of both stems`}>
      <Table>
        <caption hidden>
          <Trans>Potential of each plate, in volts against hydrogen</Trans>
        </caption>
        <Heads of={[t`plate`, { numbers: t`table, V` }, { numbers: t`class, V` }, { numbers: t`95 % from, to, V` }]} />
        <tbody>
          {result.rungs.map((rung) => (
            <tr key={rung.electrode}>
              <td>{plate(rung.electrode)}</td>
              <td data-number>{rung.table_v === null ? NONE : number(rung.table_v, 3, true)}</td>
              <td data-number>{number(rung.class_v, decimalsFor(rung.u_v), true)}</td>
              <td data-number>
                {rung.electrode === result.anchor
                  ? t`held`
                  : `${number(rung.low_v, 3, true)} … ${number(rung.high_v, 3, true)}`}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
    </Behind>
  );
}

type Cell = Result["cells"][number];
const COLUMNS: { key: string; name: string; value: (cell: Cell) => number | string | null }[] = [
  { key: t`cell`, name: "cell", value: (cell) => cell.short },
  { key: "table", name: t`table, V`, value: (cell) => cell.table_v },
  { key: "class", name: t`class, V`, value: (cell) => cell.mean_v },
  { key: "gap", name: t`difference, V`, value: (cell) => cell.gap_v },
  { key: "percent", name: "%", value: (cell) => cell.gap_percent },
];

const Sort = styled(Button)`
  padding: 0.2rem 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  font-weight: 600;
  cursor: pointer;
`;

/** Every cell beside the table; pressing a heading sorts by it, cells without a number last. */
export function CellTable({ result }: { result: Result }) {
  const { plate } = useNames();
  const [by, setBy] = useState<{ key: string; up: boolean } | null>(null);
  const column = COLUMNS.find((one) => one.key === by?.key);
  const cells = [...result.cells];
  if (column && by)
    cells.sort((one, other) => {
      const [a, b] = [column.value(one), column.value(other)];
      if (a === null || b === null) return a === b ? 0 : a === null ? 1 : -1;
      const order = typeof a === "string" || typeof b === "string" ? String(a).localeCompare(String(b)) : a - b;
      return by.up ? order : -order;
    });
  return (
    <Behind label={t`Numbers of all cells and groups`}>
      <Table>
        <caption hidden>
          <Trans>Each cell beside the table, in volts with red on the plate named second</Trans>
        </caption>
        <thead>
          <tr>
            {COLUMNS.map(({ key, name }) => (
              <th
                key={key}
                scope="col"
                data-number={key === "cell" ? undefined : true}
                aria-sort={by?.key === key ? (by.up ? "ascending" : "descending") : undefined}
              >
                <Sort onPress={() => setBy({ key, up: by?.key === key ? !by.up : true })}>
                  {name} {by?.key === key ? (by.up ? "▴" : "▾") : ""}
                </Sort>
              </th>
            ))}
            <th scope="col" data-number>
              <Trans>95 % from, to</Trans>
            </th>
            <th scope="col">
              <Trans>groups</Trans>
            </th>
          </tr>
        </thead>
        <tbody>
          {cells.map((cell) => (
            <tr key={cell.short}>
              <td>
                {plate(cell.negative)}, {plate(cell.positive)}
              </td>
              <td data-number>{cell.table_v === null ? NONE : number(cell.table_v, 3)}</td>
              <td data-number>{number(cell.mean_v, 3)}</td>
              <td data-number>{cell.gap_v === null ? "" : number(cell.gap_v, 3, true)}</td>
              <td data-number>{cell.gap_percent === null ? "" : number(cell.gap_percent, 0, true)}</td>
              <td data-number>
                {cell.low_v === null || cell.high_v === null
                  ? t`one group`
                  : `${number(cell.low_v, 3)}, ${number(cell.high_v, 3)}`}
              </td>
              <td>
                {cell.groups
                  .map(
                    (group) =>
                      `${group.group} ${number(group.mean_v, 3)} (${group.n}${group.outlier ? t`, does not fit` : ""})`,
                  )
                  .join(", ")}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
    </Behind>
  );
}
