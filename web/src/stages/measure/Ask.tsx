import { useState } from "react";
import type { Schemas } from "../../api/client";
import { only } from "../../api/outbox";
import { Asked } from "../../lab/Asked";
import { type Outbox, newId } from "../../lab/useOutbox";
import { Button } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Form, Row, Soft } from "../../ui/layout";
import { useKept } from "../../ui/useKept";

type Cell = Schemas["BenchCell"];

/** How many questions stand at a cell, and how many of them are looked at. */
export function askedSoFar({ beside }: Cell): string {
  const n = beside.questions.length;
  const looked = beside.questions.filter((one) => one.answer).length;
  return n === 0 ? "your teacher sees it" : `${looked} of ${n} looked at`;
}

/** A question that the group leaves at this cell, and what came of those before. */
export function Ask({ cell, open, outbox }: { cell: Cell; open: boolean; outbox: Outbox }) {
  const [text, setText] = useKept(`${outbox.group}:ask:${cell.id}`, "");
  const [wrong, setWrong] = useState<string | null>(null);
  const { questions } = cell.beside;
  const waiting = only(outbox.waiting, "question").filter(
    (one) => one.cell_id === cell.id && !questions.some(({ id }) => id === one.id),
  );
  const ask = async () => {
    if (!text.trim()) return setWrong("Write your question first.");
    const id = newId();
    const typed = text;
    setText("");
    const body = { id, cell_id: cell.id, text: typed, device_at: new Date().toISOString() };
    const refusal = await outbox.add({ kind: "question", id, cell_id: cell.id, body });
    if (refusal === null) return setWrong(null);
    await outbox.remove(id);
    setText((now) => now || typed);
    setWrong(refusal);
  };
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        void ask();
      }}
    >
      {questions.length + waiting.length > 0 && (
        <ul aria-label="What you asked">
          {questions.map((question) => (
            <li key={question.id}>
              <Asked question={question} />
            </li>
          ))}
          {waiting.map((one) => (
            <li key={one.id}>
              {one.body.text} <Soft as="span">{one.refusal ?? "safe on this device, not sent yet"}</Soft>
            </li>
          ))}
        </ul>
      )}
      <TextField
        label="Your question"
        value={text}
        onChange={(value) => {
          setText(value);
          setWrong(null);
        }}
        maxLength={300}
        rows={2}
        error={wrong}
        isDisabled={!open}
      />
      <Row>
        <Button type="submit" isDisabled={!open}>
          Leave it for your teacher
        </Button>
      </Row>
    </Form>
  );
}
