import { t } from "@lingui/core/macro";
import styled from "styled-components";
import type { Schemas } from "../api/client";
import { Soft } from "../ui/layout";
import { colour } from "../ui/theme";

const HIGH = 100;

/** What stands for an account in its band and beside its name; white where none of them is right. */
export const FILLS: Record<string, string> = {
  standard: colour.table,
  hydrogen: colour.marginLine,
  series: colour.soft,
  rest: colour.account,
  none: colour.white,
};

const Bands = styled.svg`
  display: block;
  width: 100%;
  height: clamp(9rem, 30vh, 22rem);
  border: 1px solid ${colour.ink};
`;

const Ends = styled(Soft).attrs({ as: "div" })`
  display: flex;
  justify-content: space-between;
  gap: 1rem;
`;

/** `turn`: which value moved the shares most, counted from 1. */
type Props = { shares: Schemas["AccountShare"][]; steps: Schemas["StepOfShares"][]; turn: number | null };

/** The accounts' shares value by value: bands that together are always a hundred, from all alike to what they are now. */
export function SharesTrail({ shares, steps, turn }: Props) {
  const before = Object.fromEntries(shares.map(({ account }) => [account, 1 / shares.length]));
  const rows = [before, ...steps.map((step) => step.shares)];
  const last = rows.length - 1;
  const under = (row: Record<string, number>, upTo: number) =>
    HIGH * shares.slice(0, upTo).reduce((sum, { account }) => sum + (row[account] ?? 0), 0);
  const now = shares.map(({ name, share }) => `${name} ${share}`).join(", ");
  return (
    <>
      <Bands
        viewBox={`0 0 ${last} ${HIGH}`}
        preserveAspectRatio="none"
        role="img"
        aria-label={t`Shares of a hundred after each of ${steps.length} values; now ${now}. The numbers stand below.`}
      >
        {shares.map(({ account }, index) => {
          const top = rows.map((row, at) => `${at},${under(row, index)}`);
          const foot = rows.map((row, at) => `${at},${under(row, index + 1)}`).reverse();
          return (
            <polygon
              key={account}
              points={[...top, ...foot].join(" ")}
              fill={FILLS[account] ?? colour.hairline}
              stroke={colour.ink}
              strokeWidth={1}
              vectorEffect="non-scaling-stroke"
            />
          );
        })}
        {turn !== null && (
          <line
            x1={turn}
            x2={turn}
            y1={0}
            y2={HIGH}
            stroke={colour.white}
            strokeWidth={2}
            strokeDasharray="6 4"
            vectorEffect="non-scaling-stroke"
          />
        )}
      </Bands>
      <Ends aria-hidden>
        <span>{t`before the first value: all alike`}</span>
        <span>{t`now`}</span>
      </Ends>
    </>
  );
}
