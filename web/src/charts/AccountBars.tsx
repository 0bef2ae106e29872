import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import type { Schemas } from "../api/client";
import { number, volts } from "../format";
import { Num } from "../ui/layout";
import { colour } from "../ui/theme";

const List = styled.ol`
  display: grid;
  gap: 0.8rem;
  small {
    display: block;
    color: ${colour.soft};
  }
`;

const Line = styled.div`
  display: grid;
  grid-template-columns: minmax(4rem, 1fr) auto;
  align-items: center;
  gap: 0.7rem;
  svg {
    display: block;
  }
`;

/** The accounts by how far they miss, best first: the shorter the bar the better. */
export function AccountBars({ accounts }: { accounts: Schemas["ScoreOut"][] }) {
  const most = Math.max(...accounts.map((account) => account.common_rms_v ?? 0), 0.05);
  return (
    <List>
      {accounts.map((account) => (
        <li key={account.account}>
          <strong>{account.name}</strong>
          <small>{account.about}</small>
          <Line>
            <svg width="100%" height="12" aria-hidden>
              <rect
                width={`${(100 * (account.common_rms_v ?? 0)) / most}%`}
                height="12"
                fill={account.account === "standard" ? colour.table : colour.account}
              />
            </svg>
            <span>
              {account.rms_v === null ? (
                t`no answer`
              ) : account.common_rms_v === null ? (
                t`answers too few cells`
              ) : (
                <Num>{volts(account.common_rms_v, 2)}</Num>
              )}{" "}
              <Trans>
                · {account.signs_right} of {account.n} signs
              </Trans>
            </span>
          </Line>
          <small>
            {account.bias_v !== null && t`on average ${number(account.bias_v, 2, true)} V off`}
            {account.left_out > 0 && t`, ${account.left_out} without an answer`}
            {account.worse_v !== null &&
              account.worse_low_v !== null &&
              account.worse_high_v !== null &&
              t`; misses by ${number(account.worse_v, 2, true)} V more than the best (95 %: ${number(account.worse_low_v, 2, true)} to ${number(account.worse_high_v, 2, true)})`}
          </small>
        </li>
      ))}
    </List>
  );
}
