import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type ReactNode, useState } from "react";
import type { Schemas } from "../api/client";
import { number } from "../format";
import { Picks } from "../ui/controls";
import { Heads } from "../ui/Heads";
import { Soft, Table } from "../ui/layout";
import { Scroll } from "../ui/Scroll";

type Kind = Schemas["KindOut"];

const BY: { key: string; name: string; of: (kind: Kind) => number }[] = [
  { key: "power", name: t`power`, of: (kind) => kind.power_w },
  { key: "current", name: t`current`, of: (kind) => kind.short_a },
  { key: "volts", name: t`volts`, of: (kind) => kind.open_v },
];

/** The class's cells by what they can do; the one with most volts need not be the strongest. */
export function StrengthTable({ kinds, cell }: { kinds: Kind[]; cell: (kind: Kind) => ReactNode }) {
  const [by, setBy] = useState("power");
  const of = BY.find((one) => one.key === by)?.of ?? ((kind: Kind) => kind.power_w);
  return (
    <>
      <Picks label={t`Strongest first, by`} options={BY} value={by} onChange={setBy} />
      <Soft>
        <Trans>In the first seconds, 4 cm² in the liquid, 2 cm apart; volts are the class’s.</Trans>
      </Soft>
      <Scroll>
        <Table>
          <Heads
            of={[
              t`Cell`,
              { numbers: t`open, V` },
              { numbers: t`short circuit, mA` },
              { numbers: t`most power, mW` },
              { numbers: t`into, Ω` },
              t`current`,
            ]}
          />
          <tbody>
            {[...kinds]
              .sort((one, other) => of(other) - of(one))
              .map((kind) => (
                <tr key={kind.cell}>
                  <th scope="row">{cell(kind)}</th>
                  <td data-number>{number(kind.open_v, 2)}</td>
                  <td data-number>{number(1e3 * kind.short_a, 2)}</td>
                  <td data-number>{number(1e3 * kind.power_w, 3)}</td>
                  <td data-number>{kind.at_ohm === null ? "" : number(kind.at_ohm, 0)}</td>
                  <td>{kind.under_load ? t`measured` : t`worked out`}</td>
                </tr>
              ))}
          </tbody>
        </Table>
      </Scroll>
    </>
  );
}
