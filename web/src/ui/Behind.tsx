import type { ReactNode } from "react";
import { Button, Disclosure, DisclosurePanel, Heading } from "react-aria-components";
import styled from "styled-components";
import { Scroll } from "./Scroll";
import { colour } from "./theme";

const Press = styled(Button)`
  min-height: 44px;
  padding: 0;
  border: 0;
  background: none;
  color: ${colour.table};
  font-size: 1rem;
  font-weight: 600;
  text-decoration: underline;
  text-underline-offset: 0.2em;
  cursor: pointer;
`;

/** The numbers behind a chart, folded away until asked for. */
export function Behind({ label, children }: { label: string; children: ReactNode }) {
  return (
    <Disclosure>
      <Heading level={2}>
        <Press slot="trigger">{label}</Press>
      </Heading>
      <DisclosurePanel>
        <Scroll>{children}</Scroll>
      </DisclosurePanel>
    </Disclosure>
  );
}
