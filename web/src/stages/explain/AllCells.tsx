import type { Schemas } from "../../api/client";
import { AccountBars } from "../../charts/AccountBars";
import { count, number } from "../../format";
import { Scroll, Soft, Table } from "../../ui/layout";
import { Behind } from "../../ui/Behind";
import { bathName, useNames } from "../../lab/useNames";

/** The four accounts on this class's data, cell by cell, and electronegativity as an order. */
export function AllCells({ data }: { data: Schemas["AccountsOut"] }) {
  const names = useNames();
  if (data.accounts.length === 0) return <Soft>Nothing is measured yet, so no account can be tested.</Soft>;
  const { ranking } = data;
  return (
    <>
      <h2>Which account fits all {data.cells.length} cells</h2>
      <Soft>
        How far each misses the groups’ values, root mean square. Shorter is better.
        {data.outliers > 0 &&
          ` ${count(data.outliers, "value")} that nothing else bears out ${data.outliers > 1 ? "are" : "is"} left out.`}
      </Soft>
      <AccountBars accounts={data.accounts} />
      <Behind label="Where each account fails, cell by cell">
        <Scroll>
          <Table>
            <caption hidden>Each account less the class mean, in volts</caption>
            <thead>
              <tr>
                <th scope="col">cell</th>
                <th scope="col" data-number>
                  class, V
                </th>
                {data.accounts.map((account) => (
                  <th key={account.account} scope="col" data-number>
                    {account.name}, off by, V
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {data.cells.map((cell) => (
                <tr key={`${cell.short}-${cell.electrolyte}-${cell.condition}`}>
                  <td>
                    {cell.short}, {bathName(names, cell)}
                  </td>
                  <td data-number>{number(cell.measured_v, 2, true)}</td>
                  {data.accounts.map((account) => {
                    const says = cell.says_v[account.account];
                    return (
                      <td key={account.account} data-number>
                        {says === null || says === undefined
                          ? "no answer"
                          : `${number(says - cell.measured_v, 2, true)}${says * cell.measured_v < 0 ? ", sign wrong" : ""}`}
                      </td>
                    );
                  })}
                </tr>
              ))}
            </tbody>
          </Table>
        </Scroll>
      </Behind>
      <p>{data.textbook}</p>
      {ranking && ranking.of > 0 && (
        <>
          <h3>Electronegativity: an order, no voltage scale</h3>
          <p>
            From low to high: {ranking.order.map(names.plate).join(", ")}. It names the right negative plate in{" "}
            {ranking.right} of {ranking.of} pairs of this class
            {ranking.wrong.length > 0 &&
              `, and the wrong one in ${ranking.wrong.map((pair) => pair.map(names.symbol).join(" | ")).join(", ")}`}
            . It compares atoms in bonds; it has no volts, and it knows nothing of the liquid.
          </p>
        </>
      )}
    </>
  );
}
