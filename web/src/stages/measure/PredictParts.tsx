import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import { Picks } from "../../ui/controls";
import { TextButton } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Row, Soft } from "../../ui/layout";
import { colour } from "../../ui/theme";
import { type Way, becauseSaid, reasons } from "../../lab/predicted";

export const Panel = styled.section`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0.6rem;
  max-width: 32rem;
  padding: 0.7rem 0.9rem;
  border: 1.5px solid ${colour.prediction};
  border-radius: 6px;
  background: ${colour.white};
  h2 {
    font-size: 1.05rem;
  }
`;

export const Diamond = () => (
  <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden>
    <path d="M7 1l6 6-6 6-6-6z" fill="none" stroke={colour.prediction} strokeWidth="1.8" />
  </svg>
);

type WayProps = { label: string; way: Way | ""; choose: (way: Way) => void; against: string };

/** One tap: more, less or about the same. */
export function MoreOrLess({ label, way, choose, against }: WayProps) {
  return (
    <Picks
      label={label}
      options={[
        { key: "more", name: against ? t`more than with ${against}` : t`more than the table` },
        { key: "less", name: against ? t`less than with ${against}` : t`less than the table` },
        { key: "same", name: t`about the same` },
      ]}
      value={way}
      onChange={(key) => choose(key as Way)}
    />
  );
}

/** Why: a tap or a few words, or nothing. */
export function Because({ value, onChange }: { value: string; onChange: (value: string) => void }) {
  return (
    <div>
      <TextField
        label={t`because … (if you like)`}
        value={value in reasons() ? becauseSaid(value) : value}
        onChange={onChange}
        maxLength={200}
        autoComplete="off"
      />
      <Row role="group" aria-label={t`Reasons to tap`}>
        <Soft>
          <Trans>or tap:</Trans>
        </Soft>
        {Object.entries(reasons()).map(([key, name]) => (
          <TextButton key={key} onPress={() => onChange(key)}>
            {name}
          </TextButton>
        ))}
      </Row>
    </div>
  );
}
