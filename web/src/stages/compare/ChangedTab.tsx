import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import styled from "styled-components";
import { useByVariable } from "../../api/findings";
import type { Schemas } from "../../api/client";
import { type Scale, VaryChart } from "../../charts/VaryChart";
import { number } from "../../format";
import { bathName, useNames } from "../../lab/useNames";
import { Behind } from "../../ui/Behind";
import { Picks } from "../../ui/controls";
import { Column, Columns, Soft, Table } from "../../ui/layout";
import { Scroll } from "../../ui/Scroll";
import { Notes } from "../../ui/Notes";
import { ProblemNote } from "../../ui/ProblemNote";
import { colour } from "../../ui/theme";

type Changed = Schemas["ChangedOut"];

const Key = styled.span`
  strong {
    color: ${colour.reading};
  }
  em {
    color: ${colour.account};
    font-style: normal;
    font-weight: 700;
  }
`;

/** What was changed on purpose: each pair's volts and current against it, answered first. */
export function ChangedTab({ id }: { id: string }) {
  const names = useNames();
  const { data, error } = useByVariable(id);
  if (error && !data) return <ProblemNote problem={error} />;
  if (!data)
    return (
      <Soft>
        <Trans>Working it out …</Trans>
      </Soft>
    );
  if (data.changed.length === 0)
    return (
      <Column>
        <h1>
          <Trans>What was changed</Trans>
        </h1>
        <Soft>
          <Trans>No variable has two levels measured yet.</Trans>
        </Soft>
      </Column>
    );
  return (
    <>
      <Column>
        <h1>
          <Trans>What was changed, and what moved</Trans>
        </h1>
      </Column>
      {data.changed.map((one) => {
        const where = bathName(names, { electrolyte: one.electrolyte, condition: "" });
        return (
          <Columns key={`${one.variable} ${one.short} ${one.electrolyte} ${one.quantity}`} $left="minmax(0, 1.4fr)">
            <Column>
              <h2>
                {one.quantity === "volts"
                  ? t`${one.short} in ${where}: volts against ${one.name}`
                  : t`${one.short} in ${where}: current against ${one.name}`}
              </h2>
              <OneChart one={one} />
              <Key>
                {one.model.some((level) => level.u !== null) ? (
                  <Trans>
                    <strong>Ticks</strong>: what each group found. Dashed: the class. <em>Green</em>: the model, with
                    its standard uncertainty for one cell; from level to level it is surer than that.
                  </Trans>
                ) : (
                  <Trans>
                    <strong>Ticks</strong>: what each group found. Dashed: the class. <em>Green</em>: the model.
                  </Trans>
                )}
              </Key>
              <Values one={one} />
            </Column>
            <Column>
              <Notes notes={one.notes.map((note) => ({ ...note, action: undefined }))} />
              {one.keep.length > 0 && (
                <Soft>
                  <Trans>Stays the same: {one.keep.join(", ")}.</Trans>
                </Soft>
              )}
            </Column>
          </Columns>
        );
      })}
    </>
  );
}

const SCALES: { key: Scale; name: string }[] = [
  { key: "plain", name: t`as it is` },
  { key: "log", name: t`logarithm` },
  { key: "inverse", name: t`1 over it` },
];

/** The chart with its scales; only what is above zero has more than one. */
function OneChart({ one }: { one: Changed }) {
  const [scale, setScale] = useState<Scale>("plain");
  const more = one.words.length === 0 && one.ticks.every((tick) => tick.at > 0);
  return (
    <>
      {more && (
        <Picks
          label={t`Scale of ${one.name}`}
          options={SCALES}
          value={scale}
          onChange={(key) => setScale(key as Scale)}
        />
      )}
      <VaryChart one={one} scale={scale} />
    </>
  );
}

function Values({ one }: { one: Changed }) {
  const groups = [...new Set(one.ticks.map((tick) => tick.group))];
  const levels = [...new Set(one.ticks.map((tick) => tick.level))].sort((a, b) => a - b);
  const scaled = one.quantity === "volts" ? 1 : 1e3;
  return (
    <Behind label={t`Numbers of every level`}>
      <Scroll>
        <Table>
          <thead>
            <tr>
              <th>{one.quantity === "volts" ? "V" : "mA"}</th>
              {levels.map((at) => (
                <th key={at} data-number>
                  {one.words[at] ?? `${number(at, Number.isInteger(at) ? 0 : 2)} ${one.unit}`}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {groups.map((group) => (
              <tr key={group}>
                <th scope="row">{group}</th>
                {levels.map((at) => {
                  const tick = one.ticks.find((each) => each.group === group && each.level === at);
                  return (
                    <td key={at} data-number>
                      {tick ? number(tick.value * scaled, 3) : ""}
                      {tick && tick.at !== at && (
                        <Soft as="small">
                          {" "}
                          <Trans>at {number(tick.at, 2)}</Trans>
                        </Soft>
                      )}
                    </td>
                  );
                })}
              </tr>
            ))}
            <tr>
              <th scope="row">
                <Trans>the model</Trans>
              </th>
              {levels.map((at) => {
                const level = one.model.find((each) => each.at === at);
                return (
                  <td key={at} data-number>
                    {level ? number(level.value * scaled, 3) : ""}
                  </td>
                );
              })}
            </tr>
          </tbody>
        </Table>
      </Scroll>
    </Behind>
  );
}
