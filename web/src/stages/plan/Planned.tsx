import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useRenameLab } from "../../api/labs";
import { bathName, useNames } from "../../lab/useNames";
import { ButtonLink, MainButton } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Frame } from "../../ui/Frame";
import { Column, Columns, Form, Row, Soft } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";
import { Lanes } from "./Lanes";

/** What was planned, of a lab into which groups have been let: its title and question can still be changed. */
export function Planned({ lab }: { lab: Schemas["LabOut"] }) {
  const names = useNames();
  const rename = useRenameLab();
  const [title, setTitle] = useState(lab.title);
  const [question, setQuestion] = useState(lab.settings.question);
  const { electrodes, electrolytes, conditions, minutes } = lab.settings;
  const baths = electrolytes.flatMap((electrolyte) => conditions.map((condition) => ({ electrolyte, condition })));
  const facts: [string, string][] = [
    [t`Plates`, electrodes.map(names.plate).join("; ")],
    [t`Liquids`, baths.map((bath) => bathName(names, bath)).join("; ")],
    [t`Kept the same`, lab.settings.kept],
    [t`Minutes`, String(minutes)],
  ];
  return (
    <Frame
      title={t`Change the lab`}
      lab={lab.title}
      about={lab.state === "open" ? t`open to groups` : t`closed`}
      margin={
        <Soft>
          <Trans>
            Groups have been let in, so plates, liquids and cells stay as they were measured. To plan it differently,
            copy the lab on its plan.
          </Trans>
        </Soft>
      }
    >
      <Columns $left="minmax(0, 31rem)">
        <Column>
          <h1>
            <Trans>Change the lab</Trans>
          </h1>
          <Form
            onSubmit={(event) => {
              event.preventDefault();
              rename.mutate({ id: lab.id, title, question });
            }}
          >
            <TextField label={t`Title`} value={title} onChange={setTitle} maxLength={120} isRequired />
            <TextField label={t`The question`} value={question} onChange={setQuestion} maxLength={200} />
            <Row>
              <MainButton type="submit">
                <Trans>Keep title and question</Trans>
              </MainButton>
              <ButtonLink to={`/labs/${lab.id}/plan`}>
                <Trans>Back to the plan</Trans>
              </ButtonLink>
            </Row>
            <p role="status">{rename.isSuccess ? t`Kept.` : ""}</p>
            <ProblemNote problem={rename.error} />
          </Form>
          <dl>
            {facts
              .filter(([, said]) => said)
              .flatMap(([what, said]) => [
                <dt key={what}>
                  <strong>{what}</strong>
                </dt>,
                <dd key={`${what} said`} style={{ marginBottom: "0.6rem" }}>
                  {said}
                </dd>,
              ])}
          </dl>
        </Column>
        <Column>
          <h2>
            <Trans>Who measures what</Trans>
          </h2>
          <Lanes lanes={lab.groups.map(({ name, cells }) => ({ name, cells }))} names={names} />
        </Column>
      </Columns>
    </Frame>
  );
}
