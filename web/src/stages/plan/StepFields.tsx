import { t } from "@lingui/core/macro";
import styled from "styled-components";
import { TextField } from "../../ui/fields";
import { Row } from "../../ui/layout";
import { STEPS, type StepName, type TypedSteps, isMinutes } from "./steps";

const Small = styled.div`
  width: 9.5rem;
`;

type Props = { typed: TypedSteps; change: (name: StepName, text: string) => void };

/** How long each step takes, in minutes. */
export function StepFields({ typed, change }: Props) {
  return (
    <Row>
      {STEPS.map(([name, label]) => (
        <Small key={name}>
          <TextField
            label={label}
            value={typed[name]}
            onChange={(text) => change(name, text)}
            inputMode="decimal"
            maxLength={5}
            error={isMinutes(typed[name]) ? null : t`Minutes, please`}
          />
        </Small>
      ))}
    </Row>
  );
}
