import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useSetRubric } from "../../api/claims";
import { Button } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Form, Row, Soft } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";
import { readRubric, rubricText } from "./rubric";

/** The teacher's own rows of marks, with what is worth how many. */
export function RubricForm({ lab, rows }: { lab: string; rows: Schemas["RubricRow"][] }) {
  const set = useSetRubric();
  const [text, setText] = useState(rubricText(rows));
  const [wrong, setWrong] = useState<string | null>(null);
  const keep = () => {
    const read = readRubric(text);
    const odd = "odd" in read ? read.odd : null;
    setWrong(
      odd === null ? null : t`“${odd}” is neither a row, as “Evidence: 3”, nor a level, as “2: cites two readings”.`,
    );
    if ("rows" in read) set.mutate({ id: lab, rows: read.rows });
  };
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
    >
      <TextField
        label={t`Rows with their most points, “Evidence: 3”, and under each its levels, “2: cites two readings | an example”`}
        value={text}
        onChange={setText}
        rows={14}
        maxLength={4000}
        error={wrong}
      />
      <Row>
        <Button type="submit">
          <Trans>Keep the rubric</Trans>
        </Button>
        {set.isSuccess && (
          <Soft role="status">
            <Trans>Kept.</Trans>
          </Soft>
        )}
      </Row>
      <ProblemNote problem={set.error} />
    </Form>
  );
}
