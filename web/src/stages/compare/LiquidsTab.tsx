import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Scatter } from "../../charts/Scatter";
import { SideBySide } from "../../charts/SideBySide";
import { figures, number } from "../../format";
import { Heads } from "../../ui/Heads";
import { Column, Columns, Soft, Table } from "../../ui/layout";
import { Scroll } from "../../ui/Scroll";
import { Select } from "../../ui/Select";
import { bathName, useNames } from "../../lab/useNames";
import { Behind } from "../../ui/Behind";

type Compare = Schemas["CompareOut"];

/** All liquids at once: ladders side by side, and one pair against pH and against conductivity. */
export function LiquidsTab({ data }: { data: Compare }) {
  const names = useNames();
  const [chosen, setChosen] = useState<string | null>(null);
  const pair = data.liquids.find((liquid) => liquid.short === chosen) ?? data.liquids[0];
  return (
    <>
      <Column>
        <h1>
          <Trans>The ladders side by side</Trans>
        </h1>
        <Soft>
          <Trans>Volts against hydrogen; each liquid’s ladder is held at its own plate, as on its page.</Trans>
        </Soft>
        <SideBySide results={data.electrolytes} title={(result) => bathName(names, result)} />
      </Column>
      {pair ? (
        <>
          <Column>
            <h2>
              <Trans>The same pair in other liquids</Trans>
            </h2>
            <Select
              label={t`Pair`}
              options={data.liquids.map((liquid) => ({
                key: liquid.short,
                name: t`${liquid.short}, ${liquid.points.length} liquids`,
              }))}
              value={pair.short}
              onChange={setChosen}
            />
          </Column>
          <Columns $left="minmax(0, 1fr)">
            <Column>
              <h3>
                <Trans>Against pH</Trans>
              </h3>
              <Scatter
                points={pair.points.map((point) => ({
                  key: point.electrolyte,
                  label: names.liquid(point.electrolyte),
                  x: point.ph,
                  y: point.mean_v,
                }))}
                line={pair.per_ph}
                xName={t`pH, middle of what is known of the liquid`}
                says={pair.ph_says}
              />
              <p>{pair.ph_says}</p>
              <Soft>
                <Trans>
                  Acid moves a plate that hydrogen decides by 59 mV for each step of pH; a skin, or strong alkali, can
                  make it more.
                </Trans>
              </Soft>
            </Column>
            <Column>
              <h3>
                <Trans>Against conductivity</Trans>
              </h3>
              <Scatter
                points={pair.points.map((point) => ({
                  key: point.electrolyte,
                  label: names.liquid(point.electrolyte),
                  x: Math.log10(point.conductivity_s_per_m),
                  y: point.mean_v,
                }))}
                line={pair.per_decade}
                xName={t`conductivity, S/m, in steps of ten`}
                says={pair.conductivity_says}
                tick={(at) => figures(10 ** at, 2)}
              />
              <p>{pair.conductivity_says}</p>
              <Soft>
                <Trans>A better conductor lets more current flow. A voltmeter hardly sees it.</Trans>
              </Soft>
            </Column>
          </Columns>
          <Column>
            <Behind label={t`Numbers of this pair`}>
              <Table>
                <caption hidden>
                  <Trans>{pair.short} by liquid</Trans>
                </caption>
                <Heads
                  of={[t`liquid`, { numbers: t`class, V` }, { numbers: t`pH` }, { numbers: t`conductivity, S/m` }]}
                />
                <tbody>
                  {pair.points.map((point) => (
                    <tr key={point.electrolyte}>
                      <td>{names.liquid(point.electrolyte)}</td>
                      <td data-number>{number(point.mean_v, 3)}</td>
                      <td data-number>{number(point.ph, 1)}</td>
                      <td data-number>{figures(point.conductivity_s_per_m, 2)}</td>
                    </tr>
                  ))}
                </tbody>
              </Table>
            </Behind>
          </Column>
        </>
      ) : (
        <Column>
          <Scroll>
            <Soft>
              <Trans>No pair was measured in two liquids, so there is nothing to lay beside each other.</Trans>
            </Soft>
          </Scroll>
        </Column>
      )}
    </>
  );
}
