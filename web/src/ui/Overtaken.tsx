import { Trans } from "@lingui/react/macro";
import type { ReactNode } from "react";
import styled from "styled-components";

const Part = styled.div<{ $grey: boolean }>`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  align-content: start;
  gap: inherit;
  min-width: 0;
  ${({ $grey }) => $grey && "filter: grayscale(1) opacity(0.4);"}
`;

/** What was worked out for an earlier choice stays where it is, greyed, until the answer to what is chosen now is here. */
export function Overtaken({ by, children }: { by: boolean; children: ReactNode }) {
  return (
    <>
      {by && (
        <p role="status">
          <Trans>Working it out …</Trans>
        </p>
      )}
      <Part $grey={by} aria-busy={by}>
        {children}
      </Part>
    </>
  );
}
