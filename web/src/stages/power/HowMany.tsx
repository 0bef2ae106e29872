import { t } from "@lingui/core/macro";
import { Button } from "react-aria-components";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { colour, font } from "../../ui/theme";

const List = styled.ol`
  display: grid;
  grid-template-columns: repeat(6, minmax(0, 1fr));
  gap: 0.2rem;
`;

const Press = styled(Button)<{ $here: boolean }>`
  display: grid;
  justify-items: center;
  gap: 0.15rem;
  width: 100%;
  padding: 0.3rem 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  line-height: 1.15;
  cursor: pointer;
  strong {
    font: ${({ $here }) => ($here ? 700 : 500)} 1rem ${font.numbers};
  }
  span {
    font-size: 0.85rem;
  }
`;

const WORDS: Record<string, string> = { runs: t`yes`, no: "no" };

type Counts = Schemas["HowManyOut"][];

/** How likely the load runs with one, two, … of these cells in a row: each a tube, filled as far as it is likely. */
export function HowMany({ counts, here, choose }: { counts: Counts; here: number; choose: (cells: number) => void }) {
  return (
    <List>
      {counts.map(({ cells, runs, said }) => (
        <li key={cells}>
          <Press
            $here={cells === here}
            aria-pressed={cells === here}
            aria-label={t`${cells} in a row: ${WORDS[said] ?? said}`}
            onPress={() => choose(cells)}
          >
            <svg width="26" height="86" viewBox="0 0 26 86" aria-hidden>
              <rect
                x={4}
                y={2}
                width={18}
                height={82}
                rx={9}
                fill={colour.white}
                stroke={colour.ink}
                strokeWidth={cells === here ? 2.6 : 1}
              />
              <rect x={7} y={5 + 76 * (1 - runs)} width={12} height={Math.max(2, 76 * runs)} rx={5} fill="#dbe6de" />
              <line
                x1={5}
                x2={21}
                y1={5 + 76 * (1 - runs)}
                y2={5 + 76 * (1 - runs)}
                stroke={colour.account}
                strokeWidth={3}
              />
            </svg>
            <strong>{cells}</strong>
            <span>{WORDS[said] ?? said}</span>
          </Press>
        </li>
      ))}
    </List>
  );
}
