import { t } from "@lingui/core/macro";
import { Select as AriaSelect, Button, ListBox, ListBoxItem, Popover, SelectValue } from "react-aria-components";
import styled from "styled-components";
import { FieldLabel, Hint } from "./fields";
import { colour, print } from "./theme";

const Stack = styled(AriaSelect)`
  display: grid;
  gap: 0.3rem;
`;

const Shown = styled(Button)`
  display: flex;
  justify-content: space-between;
  gap: 0.6rem;
  min-height: 44px;
  padding: 0.5rem 0.7rem;
  border: 1.5px solid ${colour.soft};
  border-radius: 6px;
  background: ${colour.white};
  color: ${colour.ink};
  font: inherit;
  text-align: left;
  cursor: pointer;
  ${print} {
    min-height: 0;
    padding: 0;
    border: 0;
    svg {
      display: none;
    }
  }
`;

const Sheet = styled(Popover)`
  min-width: var(--trigger-width);
  max-height: 50vh;
  overflow-y: auto;
  border: 1.5px solid ${colour.ink};
  border-radius: 6px;
  background: ${colour.page};
`;

const Item = styled(ListBoxItem)`
  padding: 0.5rem 0.8rem;
  cursor: pointer;
  &[data-focused] {
    background: ${colour.bench};
    outline: none;
  }
  &[data-selected] {
    font-weight: 600;
  }
`;

type Props = {
  label: string;
  hideLabel?: boolean;
  hint?: string;
  options: { key: string; name: string }[];
  value: string;
  onChange: (value: string) => void;
};

/** One of a list too long for a row of buttons. */
export function Select({ label, hideLabel = false, hint, options, value, onChange }: Props) {
  return (
    <Stack
      aria-label={hideLabel ? label : undefined}
      placeholder={t`Choose`}
      selectedKey={value}
      onSelectionChange={(key) => onChange(String(key))}
    >
      {!hideLabel && <FieldLabel>{label}</FieldLabel>}
      <Shown>
        <SelectValue />
        <svg width="12" height="12" viewBox="0 0 12 12" aria-hidden>
          <path d="M1 4l5 5 5-5" fill="none" stroke={colour.ink} strokeWidth="1.8" />
        </svg>
      </Shown>
      {hint && <Hint slot="description">{hint}</Hint>}
      <Sheet>
        <ListBox>
          {options.map(({ key, name }) => (
            <Item key={key} id={key}>
              {name}
            </Item>
          ))}
        </ListBox>
      </Sheet>
    </Stack>
  );
}
