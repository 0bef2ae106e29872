import { Trans } from "@lingui/react/macro";
import { type ReactNode, useEffect, useRef } from "react";
import styled from "styled-components";
import { Bullets } from "../ui/Notes";
import { colour } from "../ui/theme";

const Said = styled.div<{ $sure: boolean }>`
  max-width: 36rem;
  padding: 0.5rem 0.8rem;
  border-left: 4px solid ${({ $sure }) => ($sure ? colour.wrong : colour.cautionMark)};
  background: ${colour.bench};
  strong {
    color: ${({ $sure }) => ($sure ? colour.wrong : colour.caution)};
  }
`;

export type Finding = {
  key: string;
  sure: string;
  title: string;
  text: string;
  tries: string[];
  more?: ReactNode;
};
type Props = { label: string; kept: string; findings: Finding[] };

/** What the checks say of what was just recorded, brought into view and said aloud when it changes; `kept` comforts. */
export function WhatIsSaid({ label, kept, findings }: Props) {
  const place = useRef<HTMLDivElement>(null);
  const said = findings.map(({ key }) => key).join();
  const before = useRef(said);
  useEffect(() => {
    if (said && said !== before.current) place.current?.scrollIntoView({ block: "nearest" });
    before.current = said;
  }, [said]);
  return (
    <div role="status" aria-label={label} ref={place}>
      {findings.map(({ key, sure, title, text, tries, more }) => (
        <Said key={key} $sure={sure === "likely"}>
          <strong>{title}</strong> {text} {kept} {more}
          <Trans>Try this, in order:</Trans>
          <Bullets items={tries} />
        </Said>
      ))}
    </div>
  );
}
