import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { FILLS, SharesTrail } from "../../charts/SharesTrail";
import { number } from "../../format";
import { cellName, useNames } from "../../lab/useNames";
import { Behind } from "../../ui/Behind";
import { ButtonLink } from "../../ui/Button";
import { Num, Soft, Table } from "../../ui/layout";
import { colour } from "../../ui/theme";

type Found = Schemas["DecidingOut"];

const Shares = styled.ol`
  display: grid;
  gap: 0.3rem;
  max-width: 34rem;
  list-style: none;
  padding: 0;
  li {
    display: grid;
    grid-template-columns: 1.2rem 1fr auto;
    gap: 0.6rem;
    align-items: center;
  }
  svg {
    display: block;
    border: 1px solid ${colour.ink};
  }
`;

/** Each account with its band's look and its share of a hundred. */
export function ShareList({ shares }: { shares: Found["shares"] }) {
  return (
    <Shares>
      {shares.map(({ account, name, share }) => (
        <li key={account}>
          <svg width="18" height="18" viewBox="0 0 18 18" aria-hidden>
            <rect width="18" height="18" fill={FILLS[account] ?? colour.hairline} />
          </svg>
          <span>{name}</span>
          <span>
            <Trans>
              <Num>{share}</Num> of 100
            </Trans>
          </span>
        </li>
      ))}
    </Shares>
  );
}

/** The address of a new lab made to decide: the telling cells' plates and liquids, and the question. */
function nextLab({ telling, shares }: Found): string {
  const [first, second] = [...shares].sort((a, b) => b.share - a.share).map(({ name }) => name);
  const plates = [...new Set(telling.flatMap(({ cell }) => [cell.negative, cell.positive]))];
  const question = t`Which account is right: ${first ?? ""} or ${second ?? ""}?`;
  const liquids = [...new Set(telling.map(({ cell }) => cell.electrolyte))];
  return `/labs/new?${new URLSearchParams({ question, plates: plates.join(","), liquids: liquids.join(",") })}`;
}

/** How far the class's values decide between the accounts, how that came, and which cell would tell most. */
export function Deciding({ found, closed }: { found: Found; closed: boolean }) {
  const names = useNames();
  const best = found.telling[0];
  if (found.cells === 0) return null;
  return (
    <>
      <h2>
        <Trans>What your values speak for</Trans>
      </h2>
      <p>{found.verdict}</p>
      <SharesTrail shares={found.shares} steps={found.steps} turn={found.turn} />
      {found.turned && <p>{found.turned}</p>}
      <ShareList shares={found.shares} />
      <Soft>
        <Trans>
          Before the first value all had as many. Weighed on the{" "}
          {plural(found.cells, { one: "# cell", other: "# cells" })} that all accounts answer; an account may be off by
          what it leaves open itself, and plates of one sheet may be off together.
        </Trans>
      </Soft>
      {found.telling.length > 0 && (
        <>
          <h3>
            <Trans>Cells that would tell most</Trans>
          </h3>
          <ol>
            {found.telling.slice(0, 3).map((one) => (
              <li key={cellName(names, one.cell)}>
                <strong>{cellName(names, one.cell)}</strong>:{" "}
                {found.shares
                  .filter(({ account }) => one.says_v[account] !== undefined)
                  .map(({ account, name }) => `${name} ${number(one.says_v[account] ?? 0, 2, true)} V`)
                  .join("; ")}
                . <Trans>Decided in {Math.round(10 * one.decides)} of 10 classes that measure it.</Trans>
              </li>
            ))}
          </ol>
          {closed && best && (
            <p>
              <ButtonLink to={nextLab(found)}>
                <Trans>Plan a lab that decides</Trans>
              </ButtonLink>
            </p>
          )}
        </>
      )}
      <Behind label={t`The shares, value by value`}>
        <Table>
          <thead>
            <tr>
              <th scope="col">
                <Trans>value</Trans>
              </th>
              <th scope="col" data-number>
                V
              </th>
              {found.shares.map(({ account, name }) => (
                <th key={account} scope="col" data-number>
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {found.steps.map((step, at) => (
              <tr key={`${at + 1}`}>
                <td>
                  {step.short}, {step.group}
                </td>
                <td data-number>{number(step.volts_v, 2, true)}</td>
                {found.shares.map(({ account }) => (
                  <td key={account} data-number>
                    {Math.round(100 * (step.shares[account] ?? 0))}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </Table>
      </Behind>
    </>
  );
}
