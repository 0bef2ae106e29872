import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { Checkbox, CheckboxGroup, Input, TextField } from "react-aria-components";
import styled from "styled-components";
import { lower } from "../format";
import { TextButton } from "./Button";
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

const Find = styled(TextField)`
  input {
    width: 9rem;
    min-height: 40px;
    padding: 0.3rem 0.6rem;
    border: 1.5px solid ${colour.soft};
    border-radius: 6px;
    background: ${colour.white};
  }
`;

const Symbol = styled.span`
  min-width: 1.3em;
  font: 600 0.95rem ${font.numbers};
`;

/** `called`: what else it is called, in everyday words; `usual`: shown before anybody looks for more. */
export type Option = {
  key: string;
  name: string;
  symbol?: string;
  called?: string[];
  detail?: string;
  usual: boolean;
};

type Props = {
  label: string;
  hint?: string;
  options: Option[];
  value: string[];
  onChange: (value: string[]) => void;
  error?: string | null;
  /** What the options are that are shown first. */
  first?: string;
};

/** What else an option is called, where that is how it was found: “iron nail”, for steel. */
function foundAs({ name, symbol, called = [] }: Option, words: string[]): string {
  const isIn = (text: string) => words.every((word) => text.toLowerCase().includes(word));
  return words.length === 0 || isIn(`${name} ${symbol ?? ""}`) ? "" : (called.find(isIn) ?? "");
}

/** Several of a list: the usual ones and the chosen ones, the rest by name or all. A tick shows the state as well as the frame. */
export function Choices({ label, hint, options, value, onChange, error, first }: Props) {
  const [wanted, setWanted] = useState("");
  const [all, setAll] = useState(false);
  const words = wanted.toLowerCase().split(/\s+/).filter(Boolean);
  const shown = options.filter(
    ({ key, name, symbol, called = [], usual }) =>
      value.includes(key) ||
      (words.length > 0
        ? [`${name} ${symbol ?? ""}`, ...called].some((text) =>
            words.every((word) => text.toLowerCase().includes(word)),
          )
        : all || usual),
  );
  return (
    <Group value={value} onChange={onChange} isInvalid={Boolean(error)}>
      <FieldLabel>{label}</FieldLabel>
      {hint && <Hint slot="description">{hint}</Hint>}
      <Row>
        {shown.map((option) => (
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
                {foundAs(option, words) && <Small>({foundAs(option, words)})</Small>}{" "}
                {option.detail && <Small>{option.detail}</Small>}
              </>
            )}
          </Choice>
        ))}
      </Row>
      <Row>
        <Find aria-label={t`Find in ${lower(label)}`} value={wanted} onChange={setWanted} maxLength={60}>
          <Input placeholder={t`Find`} />
        </Find>
        <TextButton onPress={() => setAll(!all)}>
          {all ? (first ?? t`Show the usual ones`) : t`Show all ${options.length}`}
        </TextButton>
      </Row>
      {words.length > 0 && shown.length === value.length && (
        <Small role="status">
          <Trans>None of that name.</Trans>
        </Small>
      )}
      {error && <Wrong>{error}</Wrong>}
    </Group>
  );
}
