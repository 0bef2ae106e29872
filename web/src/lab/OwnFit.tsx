import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { useOwnFit } from "../api/power";
import { FitBars } from "../charts/FitBars";
import { Button } from "../ui/Button";
import { Soft, Table } from "../ui/layout";
import { ProblemNote } from "../ui/ProblemNote";

/** What the class's own numbers of a cell say of what nobody sees in it: asked for with a press, since it takes a moment,
 * and again where the network was away. `called`: how the cell is named where the page is not about it alone. */
export function OwnFit({ lab, cell, called }: { lab: string; cell: Schemas["CellIO"]; called?: string }) {
  const [asked, setAsked] = useState(false);
  const found = useOwnFit(lab, cell, asked);
  return (
    <section>
      <h2>
        {called ? (
          <Trans>What your own numbers say of {called}</Trans>
        ) : (
          <Trans>What your own numbers say of this cell</Trans>
        )}
      </h2>
      {(!asked || found.error) && (
        <>
          <Soft>
            <Trans>
              Oxygen, wetted area, oxide and ions are fitted to what the class measured: open, under loads, in time.
            </Trans>
          </Soft>
          <p>
            <Button onPress={() => (asked ? void found.refetch() : setAsked(true))}>
              <Trans>Fit this cell</Trans>
            </Button>
          </p>
        </>
      )}
      <div role="status">
        {asked && !found.data && !found.error && (
          <Soft aria-busy>
            <Trans>Trying what fits …</Trans>
          </Soft>
        )}
        <ProblemNote problem={found.error} />
        {found.data && <p>{found.data.verdict}</p>}
      </div>
      {found.data && found.data.quantities.length > 0 && <FitBars quantities={found.data.quantities} />}
      {found.data && <p>{found.data.measure_next}</p>}
      {found.data && found.data.left_out.length > 0 && (
        <Table>
          <thead>
            <tr>
              <th scope="col">
                <Trans>value that was left out</Trans>
              </th>
              <th scope="col">
                <Trans>measured</Trans>
              </th>
              <th scope="col">
                <Trans>by the others, fitted</Trans>
              </th>
              <th scope="col">
                <Trans>by the model alone</Trans>
              </th>
            </tr>
          </thead>
          <tbody>
            {found.data.left_out.map((one) => (
              <tr key={`${one.what} ${one.measured}`}>
                <th scope="row">{one.what}</th>
                <td data-number>{one.measured}</td>
                <td data-number>{one.fitted}</td>
                <td data-number>{one.plain}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
    </section>
  );
}
