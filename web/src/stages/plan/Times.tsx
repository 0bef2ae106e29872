import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useSetTimes } from "../../api/queries";
import { Button } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Form, Row, Soft } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";
import styled from "styled-components";

const FIELDS = [
  ["minutes", "Whole period"],
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

const Small = styled.div`
  width: 9.5rem;
`;

type Name = (typeof FIELDS)[number][0];

/** The minutes of a period and its steps; the cells stay as they are, and the margin says whether they still fit. */
export function Times({ id, settings }: { id: string; settings: Schemas["LabSettings"] }) {
  const set = useSetTimes();
  const kept = { minutes: settings.minutes, ...settings.steps };
  const [typed, setTyped] = useState<Partial<Record<Name, string>>>({});
  const [wrong, setWrong] = useState<Name | null>(null);
  const value = (name: Name) => typed[name] ?? String(kept[name]);
  const save = () => {
    const numbers = Object.fromEntries(
      FIELDS.map(([name]) => [name, value(name).trim() === "" ? NaN : Number(value(name).replace(",", "."))]),
    ) as Record<Name, number>;
    const bad = FIELDS.find(([name]) => Number.isNaN(numbers[name]) || numbers[name] < 0)?.[0] ?? null;
    setWrong(bad);
    if (bad) return;
    const { minutes, ...steps } = numbers;
    set.mutate({ id, body: { minutes: Math.round(minutes), steps } }, { onSuccess: () => setTyped({}) });
  };
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <Row>
        {FIELDS.map(([name, label]) => (
          <Small key={name}>
            <TextField
              label={label}
              value={value(name)}
              onChange={(text) => setTyped((before) => ({ ...before, [name]: text }))}
              inputMode="decimal"
              maxLength={5}
              error={wrong === name ? "Minutes, please" : null}
            />
          </Small>
        ))}
      </Row>
      <Row>
        <Button type="submit">{set.isPending ? "One moment…" : "Set the minutes"}</Button>
        <Soft>Who measures what stays; the margin says whether it fits and what to drop first.</Soft>
      </Row>
      <ProblemNote problem={set.error} />
    </Form>
  );
}
