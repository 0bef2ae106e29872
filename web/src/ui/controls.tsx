import { t } from "@lingui/core/macro";
import type { ReactNode } from "react";
import {
  Checkbox,
  Disclosure as AriaDisclosure,
  DisclosurePanel,
  Button as AriaButton,
  Heading,
  ProgressBar,
  Radio,
  RadioGroup,
} from "react-aria-components";
import styled from "styled-components";
import { FieldLabel, Hint } from "./fields";
import { Row } from "./layout";
import { colour, font, print } from "./theme";

const Group = styled(RadioGroup)`
  display: grid;
  gap: 0.4rem;
  ${print} {
    display: none;
  }
`;

const Pick = styled(Radio)`
  display: inline-flex;
  align-items: center;
  gap: 0.45em;
  min-height: 44px;
  padding: 0.3rem 0.7rem;
  border: 1.5px solid ${colour.hairline};
  border-radius: 6px;
  background: ${colour.white};
  cursor: pointer;
  &::before {
    content: "";
    width: 11px;
    height: 11px;
    border: 1.5px solid ${colour.soft};
    border-radius: 50%;
  }
  &[data-selected] {
    border-color: ${colour.ink};
    background: ${colour.bench};
    font-weight: 600;
  }
  &[data-selected]::before {
    border: 4px solid ${colour.ink};
  }
  &[data-focus-visible] {
    outline: 3px solid ${colour.table};
    outline-offset: 2px;
  }
`;

type PicksProps = {
  label: string;
  hint?: string;
  options: { key: string; name: string }[];
  value: string;
  onChange: (value: string) => void;
};

/** One of a few. */
export function Picks({ label, hint, options, value, onChange }: PicksProps) {
  return (
    <Group value={value} onChange={onChange}>
      <FieldLabel>{label}</FieldLabel>
      {hint && <Hint slot="description">{hint}</Hint>}
      <Row>
        {options.map(({ key, name }) => (
          <Pick key={key} value={key}>
            {name}
          </Pick>
        ))}
      </Row>
    </Group>
  );
}

const Box = styled(Checkbox)`
  display: flex;
  align-items: center;
  gap: 0.55em;
  min-height: 44px;
  cursor: pointer;
  svg {
    flex: none;
    border: 1.5px solid ${colour.soft};
    border-radius: 3px;
    background: ${colour.white};
  }
  path {
    visibility: hidden;
  }
  &[data-selected] path {
    visibility: visible;
  }
  &[data-focus-visible] svg {
    outline: 3px solid ${colour.table};
    outline-offset: 2px;
  }
  ${print} {
    display: none;
  }
`;

type TickProps = { isSelected: boolean; onChange: (value: boolean) => void; children: ReactNode };

/** Yes or no. */
export function Tick({ isSelected, onChange, children }: TickProps) {
  return (
    <Box isSelected={isSelected} onChange={onChange}>
      <svg width="20" height="20" viewBox="0 0 20 20" aria-hidden>
        <path d="M4 10.500l4.500 5L16 5" fill="none" stroke={colour.ink} strokeWidth="2.6" />
      </svg>
      <span>{children}</span>
    </Box>
  );
}

const Fold = styled(AriaDisclosure)`
  border-top: 1px solid ${colour.hairline};
  padding-top: 0.3rem;
  h2,
  h3 {
    font-size: 1rem;
  }
`;

const Trigger = styled(AriaButton)`
  display: flex;
  align-items: baseline;
  gap: 0.5em;
  width: 100%;
  min-height: 44px;
  padding: 0.5rem 0;
  border: 0;
  background: none;
  color: ${colour.ink};
  font-weight: 600;
  text-align: left;
  cursor: pointer;
  &::before {
    content: "+";
    width: 1em;
    font-family: ${font.numbers};
  }
  &[aria-expanded="true"]::before {
    content: "\\2212";
  }
  small {
    color: ${colour.soft};
    font-size: 0.9rem;
    font-weight: 400;
  }
`;

type DisclosureProps = { title: string; detail?: ReactNode; open?: boolean; children: ReactNode };

/** Something that most people need not see; `open`: at first, since it holds something. */
export function Disclosure({ title, detail, open = false, children }: DisclosureProps) {
  return (
    <Fold defaultExpanded={open}>
      <Heading level={2}>
        <Trigger slot="trigger">
          {title} {detail && <small>{detail}</small>}
        </Trigger>
      </Heading>
      <DisclosurePanel>{children}</DisclosurePanel>
    </Fold>
  );
}

const Track = styled.div`
  height: 10px;
  border: 1px solid ${colour.ink};
  border-radius: 5px;
  background: ${colour.white};
  svg {
    display: block;
  }
`;

/** How far something long has got. */
export function Progress({ label, value, of }: { label: string; value: number; of: number }) {
  return (
    <ProgressBar value={value} maxValue={of} valueLabel={t`${value} of ${of}`}>
      <FieldLabel>{label}</FieldLabel>
      <Track>
        <svg width="100%" height="8" aria-hidden>
          <rect width={`${(100 * value) / of}%`} height="8" rx="4" fill={colour.table} />
        </svg>
      </Track>
    </ProgressBar>
  );
}
