import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "../../api/client";
import { AccountBars } from "../../charts/AccountBars";
import { number } from "../../format";
import { Soft, Table } from "../../ui/layout";
import { Scroll } from "../../ui/Scroll";
import { Behind } from "../../ui/Behind";
import { bathName, useNames } from "../../lab/useNames";

/** The four accounts on this class's data, cell by cell, and electronegativity as an order. */
export function AllCells({ data }: { data: Schemas["AccountsOut"] }) {
  const names = useNames();
  if (data.accounts.length === 0)
    return (
      <Soft>
        <Trans>Nothing is measured yet, so no account can be tested.</Trans>
      </Soft>
    );
  const { ranking } = data;
  return (
    <>
      <h2>
        <Trans>Which account fits all {data.cells.length} cells</Trans>
      </h2>
      <Soft>
        <Trans>
          How far each misses the groups’ values of the {data.common} cells that all answer, far misses counted more.
          Shorter is better.
        </Trans>
        {data.outliers > 0 &&
          ` ${plural(data.outliers, { one: "# value that nothing else bears out is left out.", other: "# values that nothing else bears out are left out." })}`}
      </Soft>
      {data.verdict && <p>{data.verdict}</p>}
      <AccountBars accounts={data.accounts} />
      <Behind label={t`Where each account fails, cell by cell`}>
        <Scroll>
          <Table>
            <caption hidden>
              <Trans>Each account less the class mean, in volts</Trans>
            </caption>
            <thead>
              <tr>
                <th scope="col">
                  <Trans>cell</Trans>
                </th>
                <th scope="col" data-number>
                  <Trans>class, V</Trans>
                </th>
                {data.accounts.map((account) => (
                  <th key={account.account} scope="col" data-number>
                    <Trans>{account.name}, off by, V</Trans>
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
                          ? t`no answer`
                          : `${number(says - cell.measured_v, 2, true)}${says * cell.measured_v < 0 ? t`, sign wrong` : ""}`}
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
          <h3>
            <Trans>Electronegativity: an order, no voltage scale</Trans>
          </h3>
          <p>
            <Trans>
              From low to high: {ranking.order.map(names.plate).join(", ")}. It names the right negative plate in{" "}
              {ranking.right} of {ranking.of} pairs of this class
            </Trans>
            {ranking.wrong.length > 0 &&
              t`, and the wrong one in ${ranking.wrong.map((pair) => pair.map(names.symbol).join(" | ")).join(", ")}`}
            <Trans>. It compares atoms in bonds; it has no volts, and it knows nothing of the liquid.</Trans>
          </p>
        </>
      )}
    </>
  );
}
