import { Button, Disclosure, DisclosurePanel, Heading } from "react-aria-components";
import type { ReactNode } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { decimalsFor, number } from "../../format";
import { Scroll, Table } from "../../ui/layout";
import { colour } from "../../ui/theme";
import { useNames } from "../plan/useNames";

const Press = styled(Button)`
  min-height: 44px;
  padding: 0;
  border: 0;
  background: none;
  color: ${colour.table};
  font-size: 1rem;
  font-weight: 600;
  text-decoration: underline;
  text-underline-offset: 0.2em;
  cursor: pointer;
`;

/** The numbers behind a chart, folded away until asked for. */
function Behind({ label, children }: { label: string; children: ReactNode }) {
  return (
    <Disclosure>
      <Heading level={2}>
        <Press slot="trigger">{label}</Press>
      </Heading>
      <DisclosurePanel>
        <Scroll>{children}</Scroll>
      </DisclosurePanel>
    </Disclosure>
  );
}

type Result = Schemas["ElectrolyteResultOut"];
const NONE = "not listed";

export function LadderTable({ result }: { result: Result }) {
  const { plate } = useNames();
  return (
    <Behind label="Numbers of both stems">
      <Table>
        <caption hidden>Potential of each plate, in volts against hydrogen</caption>
        <thead>
          <tr>
            <th scope="col">plate</th>
            <th scope="col" data-number>
              table, V
            </th>
            <th scope="col" data-number>
              class, V
            </th>
            <th scope="col" data-number>
              ± u, V
            </th>
          </tr>
        </thead>
        <tbody>
          {result.rungs.map((rung) => (
            <tr key={rung.electrode}>
              <td>{plate(rung.electrode)}</td>
              <td data-number>{rung.table_v === null ? NONE : number(rung.table_v, 3, true)}</td>
              <td data-number>{number(rung.class_v, decimalsFor(rung.u_v), true)}</td>
              <td data-number>{rung.electrode === result.anchor ? "held" : number(rung.u_v, 3)}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </Behind>
  );
}

export function CellTable({ result }: { result: Result }) {
  const { plate } = useNames();
  return (
    <Behind label="Numbers of all cells and groups">
      <Table>
        <caption hidden>Each cell beside the table, in volts with red on the plate named second</caption>
        <thead>
          <tr>
            <th scope="col">cell</th>
            <th scope="col" data-number>
              table, V
            </th>
            <th scope="col" data-number>
              class, V
            </th>
            <th scope="col" data-number>
              95 % from, to
            </th>
            <th scope="col" data-number>
              gap, V
            </th>
            <th scope="col">groups</th>
          </tr>
        </thead>
        <tbody>
          {result.cells.map((cell) => (
            <tr key={cell.short}>
              <td>
                {plate(cell.negative)}, {plate(cell.positive)}
              </td>
              <td data-number>{cell.table_v === null ? NONE : number(cell.table_v, 3)}</td>
              <td data-number>{number(cell.mean_v, 3)}</td>
              <td data-number>
                {cell.low_v === null || cell.high_v === null
                  ? "one group"
                  : `${number(cell.low_v, 3)}, ${number(cell.high_v, 3)}`}
              </td>
              <td data-number>{cell.gap_v === null ? "" : number(cell.gap_v, 3, true)}</td>
              <td>{cell.groups.map((one) => `${one.group} ${number(one.mean_v, 3)} (${one.n})`).join(", ")}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </Behind>
  );
}
