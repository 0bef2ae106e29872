import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Bullets } from "../../ui/Notes";
import { colour } from "../../ui/theme";

const Said = styled.div<{ $sure: boolean }>`
  max-width: 36rem;
  padding: 0.5rem 0.8rem;
  border-left: 4px solid ${({ $sure }) => ($sure ? colour.wrong : colour.cautionMark)};
  background: ${colour.bench};
  strong {
    color: ${({ $sure }) => ($sure ? colour.wrong : colour.caution)};
  }
`;

/** What the checks say of the reading that was just recorded, directly under it, and said aloud. */
export function SaidOfLast({ findings }: { findings: Schemas["FindingOut"][] }) {
  return (
    <div role="status" aria-label="What this reading says">
      {findings.map((one) => (
        <Said key={one.code} $sure={one.sure === "likely"}>
          <strong>{one.title}</strong> {one.text} Your number is kept. Try this, in order:
          <Bullets items={one.tries} />
        </Said>
      ))}
    </div>
  );
}
