import { Trans } from "@lingui/react/macro";
import { Num, Soft, Table } from "../../ui/layout";

/** What was built, what was said before, what the meter read, what the model has, and the current through a load. */
export type Read = { what: string; said: string; text: string; model: string; amps: string };

/** What was read on the free bench, the latest first. */
export function ReadOff({ reads }: { reads: Read[] }) {
  return (
    <>
      <h2>
        <Trans>What you have read (simulated)</Trans>
      </h2>
      <Table>
        <thead>
          <tr>
            <th scope="col">
              <Trans>Cell</Trans>
            </th>
            <th scope="col" data-number>
              <Trans>You said</Trans>
            </th>
            <th scope="col" data-number>
              <Trans>It read</Trans>
            </th>
            <th scope="col" data-number>
              <Trans>The model</Trans>
            </th>
          </tr>
        </thead>
        <tbody>
          {reads.map((one, place) => (
            <tr key={reads.length - place}>
              <td>
                {one.what}
                {one.amps && `; ${one.amps}`}
              </td>
              <td data-number>
                <Num>{one.said}</Num>
              </td>
              <td data-number>
                <Num>{one.text}</Num>
              </td>
              <td data-number>
                <Num>{one.model}</Num>
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      <Soft>
        <Trans>
          The model is without the scatter of plates and dips, once settled. Several changes at a time are put together
          from what each does alone.
        </Trans>
      </Soft>
    </>
  );
}
