import { t } from "@lingui/core/macro";
import styled from "styled-components";
import type { Schemas } from "../api/client";
import { Soft } from "../ui/layout";
import { colour, phone } from "../ui/theme";

type Quantity = Schemas["QuantityOut"];
const WIDE = 100;

const Rows = styled.ul`
  padding: 0;
  list-style: none;
`;

const Row = styled.li`
  display: grid;
  grid-template-columns: minmax(11rem, 15rem) minmax(8rem, 1fr) minmax(12rem, 1fr);
  gap: 0.2rem 1rem;
  align-items: center;
  padding: 0.5rem 0;
  border-bottom: 1px solid ${colour.hairline};
  ${phone} {
    grid-template-columns: 1fr;
  }
`;

const Scale = styled.svg`
  display: block;
  width: 100%;
  height: 2rem;
`;

/** How far each quantity may be from what the model takes, on a scale of equal factors: what fits is a bar, what the model
 * takes a dashed line. Where the numbers cannot tell, the bar is only an outline from end to end. */
export function FitBars({ quantities }: { quantities: Quantity[] }) {
  return (
    <Rows>
      {quantities.map((one) => {
        const at = (value: number) => (WIDE * Math.log(value / one.least)) / Math.log(one.most / one.least);
        const told = one.verdict !== "cannot tell";
        return (
          <Row key={one.key}>
            <div>
              <strong>{one.name}</strong>
              <Soft>{one.beside}</Soft>
            </div>
            <Scale
              viewBox={`0 0 ${WIDE} 16`}
              preserveAspectRatio="none"
              role="img"
              aria-label={`${one.name}: ${one.says}`}
            >
              <line x1={0} x2={WIDE} y1={8} y2={8} stroke={colour.hairline} vectorEffect="non-scaling-stroke" />
              <rect
                x={at(one.low)}
                width={Math.max(at(one.high) - at(one.low), 0.6)}
                y={4}
                height={8}
                fill={told ? colour.account : "none"}
                stroke={told ? colour.account : colour.soft}
                vectorEffect="non-scaling-stroke"
              />
              {told && (
                <line
                  x1={at(one.best)}
                  x2={at(one.best)}
                  y1={2}
                  y2={14}
                  stroke={colour.ink}
                  strokeWidth={2}
                  vectorEffect="non-scaling-stroke"
                />
              )}
              {one.usual !== null && (
                <line
                  x1={at(one.usual)}
                  x2={at(one.usual)}
                  y1={0}
                  y2={16}
                  stroke={colour.ink}
                  strokeDasharray="3 3"
                  vectorEffect="non-scaling-stroke"
                />
              )}
            </Scale>
            <span>{one.says}</span>
          </Row>
        );
      })}
      <Soft as="li">{t`Bar: what fits your numbers (95 of 100). Line: what fits best. Dashed: what the model takes.`}</Soft>
    </Rows>
  );
}
