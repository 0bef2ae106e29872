import type { ReactNode } from "react";
import {
  TextField as AriaTextField,
  FieldError,
  Input,
  Label,
  Text,
  TextArea,
  type TextFieldProps,
} from "react-aria-components";
import styled, { css } from "styled-components";
import { colour } from "./theme";

const Stack = styled(AriaTextField)`
  display: grid;
  gap: 0.3rem;
`;

export const FieldLabel = styled(Label)`
  font-weight: 600;
`;

export const Hint = styled(Text)`
  color: ${colour.soft};
  font-size: 0.9rem;
`;

const box = css`
  width: 100%;
  min-height: 44px;
  padding: 0.5rem 0.7rem;
  border: 1.5px solid ${colour.soft};
  border-radius: 6px;
  background: ${colour.white};
  &[data-invalid] {
    border-color: ${colour.wrong};
  }
`;

const Line = styled(Input)`
  ${box}
`;

const Lines = styled(TextArea)`
  ${box}
  resize: vertical;
`;

export const Wrong = styled(FieldError)`
  color: ${colour.wrong};
  font-size: 0.95rem;
`;

type Props = TextFieldProps & { label?: ReactNode; hint?: string; error?: string | null; rows?: number };

/** A code of a word and three digits, as it is read out in class. */
export const CodeField = (props: Props) => (
  <TextField {...props} autoComplete="off" spellCheck="false" isRequired maxLength={40} />
);

/** A labelled line of text; `rows` makes it several lines. */
export function TextField({ label, hint, error, rows, ...props }: Props) {
  return (
    <Stack {...props} isInvalid={Boolean(error)}>
      {label && <FieldLabel>{label}</FieldLabel>}
      {rows ? <Lines rows={rows} /> : <Line />}
      {hint && <Hint slot="description">{hint}</Hint>}
      {error && <Wrong>{error}</Wrong>}
    </Stack>
  );
}
