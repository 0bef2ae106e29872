import { Trans } from "@lingui/react/macro";
import type { Schemas } from "../api/client";
import { moment } from "../format";
import { Num, Soft, Table } from "./layout";
import { Scroll } from "./Scroll";

type Props = { deeds: Schemas["DeedOut"][]; label: string };

/** What was done, newest first. */
export function DeedTable({ deeds, label }: Props) {
  const labs = deeds.some((deed) => deed.lab !== null);
  if (deeds.length === 0)
    return (
      <Soft>
        <Trans>Nothing yet.</Trans>
      </Soft>
    );
  return (
    <Scroll role="region" aria-label={label}>
      <Table>
        <thead>
          <tr>
            <th scope="col">
              <Trans>when</Trans>
            </th>
            <th scope="col">
              <Trans>who</Trans>
            </th>
            <th scope="col">
              <Trans>what</Trans>
            </th>
            {labs && (
              <th scope="col">
                <Trans>lab</Trans>
              </th>
            )}
            <th scope="col">
              <Trans>about</Trans>
            </th>
          </tr>
        </thead>
        <tbody>
          {deeds.map((deed) => (
            <tr key={`${deed.at}-${deed.what}`}>
              <td>
                <Num>{moment(deed.at)}</Num>
              </td>
              <td>{deed.who}</td>
              <td>{deed.what}</td>
              {labs && <td>{deed.title}</td>}
              <td>{deed.about}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </Scroll>
  );
}
