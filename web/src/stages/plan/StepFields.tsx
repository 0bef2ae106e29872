import styled from "styled-components";
import { TextField } from "../../ui/fields";
import { Row } from "../../ui/layout";

export const STEPS = [
  ["start", "Start, meter check"],
  ["prepare", "Prepare, dip"],
  ["settle", "Settle"],
  ["read", "Three readings"],
  ["rinse", "Rinse"],
  ["clear", "Clear up"],
  ["late", "Late start"],
  ["pause_at", "Break begins at"],
  ["pause", "Break"],
] as const;

export type StepName = (typeof STEPS)[number][0];
export type TypedSteps = Record<StepName, string>;

const Small = styled.div`
  width: 9.5rem;
`;

export const minutesOf = (text: string) => (text.trim() === "" ? NaN : Number(text.replace(",", ".")));
export const isMinutes = (text: string) => minutesOf(text) >= 0;

/** Minutes as numbers, by step; null while one of them is none. */
export function stepsOf(typed: TypedSteps): Record<StepName, number> | null {
  if (!STEPS.every(([name]) => isMinutes(typed[name]))) return null;
  return Object.fromEntries(STEPS.map(([name]) => [name, minutesOf(typed[name])])) as Record<StepName, number>;
}

export const typedSteps = (steps: Record<StepName, number>) =>
  Object.fromEntries(STEPS.map(([name]) => [name, String(steps[name])])) as TypedSteps;

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
            error={isMinutes(typed[name]) ? null : "Minutes, please"}
          />
        </Small>
      ))}
    </Row>
  );
}
