import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useSetTimes } from "../../api/labs";
import { Button } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Form, Row, Soft } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";
import { StepFields } from "./StepFields";
import { type TypedSteps, isMinutes, minutesOf, stepsOf, typedSteps } from "./steps";

const Period = styled.div`
  width: 9.5rem;
`;

/** The minutes of a period and its steps; the cells stay as they are, and the margin says whether they still fit. */
export function Times({ id, settings }: { id: string; settings: Schemas["LabSettings"] }) {
  const set = useSetTimes();
  const [changed, setChanged] = useState<Partial<TypedSteps>>({});
  const [period, setPeriod] = useState<string | null>(null);
  const typed = { ...typedSteps(settings.steps), ...changed };
  const minutes = period ?? String(settings.minutes);
  const save = () => {
    const steps = stepsOf(typed);
    if (!steps || !isMinutes(minutes)) return;
    set.mutate(
      { id, body: { minutes: Math.round(minutesOf(minutes)), steps } },
      {
        onSuccess: () => {
          setChanged({});
          setPeriod(null);
        },
      },
    );
  };
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <Period>
        <TextField
          label={t`Whole period`}
          value={minutes}
          onChange={setPeriod}
          inputMode="numeric"
          maxLength={3}
          error={isMinutes(minutes) ? null : t`Minutes, please`}
        />
      </Period>
      <StepFields typed={typed} change={(name, text) => setChanged((before) => ({ ...before, [name]: text }))} />
      <Row>
        <Button type="submit">{set.isPending ? t`One moment…` : t`Set the minutes`}</Button>
        <Soft>
          <Trans>Who measures what stays; the margin says whether it fits and what to drop first.</Trans>
        </Soft>
      </Row>
      <ProblemNote problem={set.error} />
    </Form>
  );
}
