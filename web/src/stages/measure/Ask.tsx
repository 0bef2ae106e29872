import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "../../api/client";
import { Asked } from "../../lab/Asked";
import type { Outbox } from "../../lab/useOutbox";
import { Button } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Form, Row } from "../../ui/layout";
import { Unsent, useTextAtCell } from "./textAtCell";

type Cell = Schemas["BenchCell"];

/** How many questions stand at a cell, and how many of them are looked at. */
export function askedSoFar({ beside }: Cell): string {
  const n = beside.questions.length;
  const looked = beside.questions.filter((one) => one.answer).length;
  return n === 0 ? t`your teacher sees it` : t`${looked} of ${n} looked at`;
}

/** A question that the group leaves at this cell, and what came of those before. */
export function Ask({ cell, open, outbox }: { cell: Cell; open: boolean; outbox: Outbox }) {
  const { questions } = cell.beside;
  const { text, type, wrong, waiting, keep } = useTextAtCell(
    outbox,
    "question",
    cell.id,
    questions,
    t`Write your question first.`,
  );
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      {questions.length + waiting.length > 0 && (
        <ul aria-label={t`What you asked`}>
          {questions.map((question) => (
            <li key={question.id}>
              <Asked question={question} />
            </li>
          ))}
          <Unsent rows={waiting} />
        </ul>
      )}
      <TextField
        label={t`Your question`}
        value={text}
        onChange={type}
        maxLength={300}
        rows={2}
        error={wrong}
        isDisabled={!open}
      />
      <Row>
        <Button type="submit" isDisabled={!open}>
          <Trans>Leave it for your teacher</Trans>
        </Button>
      </Row>
    </Form>
  );
}
