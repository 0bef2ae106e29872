import type { ReactNode } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { type Change, type Count, Matrix } from "./Matrix";
import { bathKey, bathName, useNames } from "../../lab/useNames";

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: flex-start;
  gap: 0.8rem 1.6rem;
`;

type Props = {
  plan: Schemas["PlanDetail"];
  change: ((cell: Count, kind: Change) => void) | null;
  press: Change;
  children?: ReactNode;
};

/** One half-matrix for each ladder: every liquid in every setting. */
export function Matrices({ plan, change, press, children }: Props) {
  const names = useNames();
  return (
    <Row>
      {plan.baths.map((bath) => (
        <Matrix
          key={bathKey(bath)}
          caption={bathName(names, bath)}
          order={plan.order}
          counts={plan.counts.filter(
            (count) => count.electrolyte === bath.electrolyte && count.condition === bath.condition,
          )}
          symbol={names.symbol}
          change={change}
          press={press}
        />
      ))}
      {children}
    </Row>
  );
}
