import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { number } from "../../format";
import { Soft, Table } from "../../ui/layout";
import { Scroll } from "../../ui/Scroll";
import { print } from "../../ui/theme";

type Kit = Schemas["KitOut"];
type Line = Schemas["KitLine"];

const Recipe = styled.article`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0.2rem;
  padding: 0.5rem 0;
  break-inside: avoid;
  ${print} {
    padding: 0.1rem 0;
  }
  h3 {
    font-size: 1rem;
  }
`;

const Section = styled.section`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0.4rem;
  ${print} {
    break-inside: auto;
    gap: 0.2rem;
    font-size: 0.9rem;
    table {
      font-size: 0.74rem;
    }
    th,
    td {
      padding-top: 0.1rem;
      padding-bottom: 0.1rem;
    }
  }
`;

const money = (value: number | null) => (value === null ? "" : number(value, 2));

/** Grams and millilitres with as many digits as a school balance shows. */
function amount(value: number, unit: string): string {
  if (unit === "pieces") return `${Math.ceil(value - 1e-9)}`;
  const decimals = value >= 100 ? 0 : value >= 10 ? 1 : 2;
  return `${number(value, decimals)}\u202f${unit}`;
}

function Lines({ title, lines, prices }: { title: string; lines: Line[]; prices: boolean }) {
  if (lines.length === 0) return null;
  const there = lines.some((line) => line.there !== null);
  return (
    <Section>
      <h2>{title}</h2>
      <Scroll role="region" aria-label={title}>
        <Table>
          <thead>
            <tr>
              <th scope="col">
                <Trans>what</Trans>
              </th>
              <th scope="col" data-number>
                <Trans>groups</Trans>
              </th>
              <th scope="col" data-number>
                <Trans>spare</Trans>
              </th>
              <th scope="col" data-number>
                <Trans>fetch</Trans>
              </th>
              {there && (
                <th scope="col" data-number>
                  <Trans>there</Trans>
                </th>
              )}
              {prices && (
                <th scope="col" data-number>
                  <Trans>cost</Trans>
                </th>
              )}
              <th scope="col">
                <Trans>note</Trans>
              </th>
            </tr>
          </thead>
          <tbody>
            {lines.map((line) => (
              <tr key={line.name}>
                <td>
                  {line.name}
                  {line.per_group !== null && line.per_group > 1 && t`, ${line.per_group} each`}
                </td>
                <td data-number>{line.groups}</td>
                <td data-number>{line.spare}</td>
                <td data-number>
                  <strong>{line.total}</strong>
                </td>
                {there && <td data-number>{line.there ?? ""}</td>}
                {prices && <td data-number>{money(line.cost)}</td>}
                <td>
                  {line.short > 0 && (
                    <strong>
                      <Trans>{line.short} missing.</Trans>{" "}
                    </strong>
                  )}
                  {line.why}
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      </Scroll>
    </Section>
  );
}

/** What to fetch, what to make, and what to do the day before. */
export function KitSheet({ kit }: { kit: Kit }) {
  const prices = kit.cost !== null;
  return (
    <>
      <Section>
        <h2>
          <Trans>The day before</Trans>
        </h2>
        <ul>
          {kit.day_before.map((item) => (
            <li key={item}>☐ {item}</li>
          ))}
        </ul>
      </Section>
      <Lines title={t`Plates`} lines={kit.plates} prices={prices} />
      <Lines title={t`Cups, fruit and card`} lines={kit.vessels} prices={prices} />
      {kit.batches.length > 0 && (
        <Section>
          <h2>
            <Trans>Mixing</Trans>
          </h2>
          <Soft>
            <Trans>
              For cups of {number(kit.cup_ml, 0)} mL and a tenth to spare. Check the label of the bottle you have: its
              strength may differ.
            </Trans>
          </Soft>
          {kit.batches.map((batch) => (
            <Recipe key={batch.name}>
              <h3>
                {batch.name}, {number(batch.volume_l, 2)} L
              </h3>
              <p>
                {batch.ingredients.map((part, index) => (
                  <span key={part.name}>
                    {index > 0 && "; "}
                    {part.up_to ? (
                      <>
                        {part.name} <strong>{amount(part.amount, part.unit)}</strong>
                      </>
                    ) : (
                      <>
                        <strong>{amount(part.amount, part.unit)}</strong> {part.name}
                      </>
                    )}
                  </span>
                ))}
                .
              </p>
              <p>{batch.method}</p>
            </Recipe>
          ))}
        </Section>
      )}
      <Lines title={t`On every bench`} lines={kit.bench} prices={prices} />
      <Section>
        <h2>
          <Trans>For each group</Trans>
        </h2>
        <Scroll role="region" aria-label={t`For each group`}>
          <Table>
            <tbody>
              {kit.groups.map((row) => (
                <tr key={row.group}>
                  <th scope="row" data-nowrap>
                    {row.group}
                  </th>
                  <td>
                    {row.things.join(", ")}{" "}
                    <Soft as="span">({plural(row.things.length, { one: "# thing", other: "# things" })})</Soft>
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
        </Scroll>
      </Section>
      {kit.cost !== null && (
        <p>
          <Trans>
            Cost of what has a price: <strong>{money(kit.cost)}</strong>
          </Trans>
        </p>
      )}
    </>
  );
}
