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
  const most = Math.max(...accounts.map((one) => one.rms_v ?? 0), 0.05);
  return (
    <List>
      {accounts.map((one) => (
        <li key={one.account}>
          <strong>{one.name}</strong>
          <small>{one.about}</small>
          <Line>
            <svg width="100%" height="12" aria-hidden>
              <rect
                width={`${(100 * (one.rms_v ?? 0)) / most}%`}
                height="12"
                fill={one.account === "standard" ? colour.table : colour.account}
              />
            </svg>
            <span>
              {one.rms_v === null ? "no answer" : <Num>{volts(one.rms_v, 2)}</Num>} · {one.signs_right} of {one.n} signs
            </span>
          </Line>
          <small>
            {one.bias_v !== null && `on average ${number(one.bias_v, 2, true)} V off`}
            {one.left_out > 0 && `, ${one.left_out} without an answer`}
            {one.worse_v !== null &&
              one.worse_low_v !== null &&
              one.worse_high_v !== null &&
              `; misses by ${number(one.worse_v, 2, true)} V more than the best (95 %: ${number(one.worse_low_v, 2, true)} to ${number(one.worse_high_v, 2, true)})`}
          </small>
        </li>
      ))}
    </List>
  );
}
