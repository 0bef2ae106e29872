import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Heads } from "../../ui/Heads";
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
        <Heads of={[t`Cell`, { numbers: t`You said` }, { numbers: t`It read` }, { numbers: t`The model` }]} />
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
