import { Checkbox, CheckboxGroup } from "react-aria-components";
import styled from "styled-components";
import { FieldLabel, Hint, Wrong } from "./fields";
import { Small } from "./layout";
import { colour, font } from "./theme";

const Group = styled(CheckboxGroup)`
  display: grid;
  gap: 0.4rem;
`;

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
`;

const Choice = styled(Checkbox)`
  display: inline-flex;
  align-items: center;
  gap: 0.45em;
  min-height: 44px;
  padding: 0.3rem 0.65rem;
  border: 1.5px solid ${colour.hairline};
  border-radius: 6px;
  background: ${colour.white};
  cursor: pointer;
  &[data-selected] {
    border-color: ${colour.ink};
    background: ${colour.bench};
    font-weight: 600;
  }
  & > svg {
    flex: none;
  }
`;

const Symbol = styled.span`
  min-width: 1.3em;
  font: 600 0.95rem ${font.numbers};
`;

export type Option = { key: string; name: string; symbol?: string; detail?: string };

type Props = {
  label: string;
  hint?: string;
  options: Option[];
  value: string[];
  onChange: (value: string[]) => void;
  error?: string | null;
};

/** Several of a list, each a large target that shows its state by a tick as well as by its frame. */
export function Choices({ label, hint, options, value, onChange, error }: Props) {
  return (
    <Group value={value} onChange={onChange} isInvalid={Boolean(error)}>
      <FieldLabel>{label}</FieldLabel>
      {hint && <Hint slot="description">{hint}</Hint>}
      <Row>
        {options.map((option) => (
          <Choice key={option.key} value={option.key}>
            {({ isSelected }) => (
              <>
                <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden>
                  {isSelected ? (
                    <path d="M1.500 7.500l4 4 7-9" fill="none" stroke={colour.ink} strokeWidth="2.4" />
                  ) : (
                    <path d="M2 7h10" stroke={colour.hairline} strokeWidth="2" />
                  )}
                </svg>
                {option.symbol && <Symbol>{option.symbol}</Symbol>} {option.name}{" "}
                {option.detail && <Small>{option.detail}</Small>}
              </>
            )}
          </Choice>
        ))}
      </Row>
      {error && <Wrong>{error}</Wrong>}
    </Group>
  );
}
