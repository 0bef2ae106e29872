import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { only } from "../../api/outbox";
import { type Outbox, newId } from "../../lab/useOutbox";
import { Button } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Num, Row, Soft } from "../../ui/layout";
import { colour } from "../../ui/theme";
import { useKept } from "../../ui/useKept";

const Form = styled.form`
  display: grid;
  gap: 0.6rem;
  & > div {
    align-items: end;
  }
`;

const Wrong = styled.p`
  color: ${colour.wrong};
  font-weight: 600;
`;

type Cell = Schemas["BenchCell"];
type Props = { cell: Cell; level: Schemas["LevelSet"]; open: boolean; outbox: Outbox };

/** What the group set the cell to, as it measured it: the latest of each variable counts. */
export function AsFound({ cell, level, open, outbox }: Props) {
  const [text, setText] = useKept(`${outbox.group}:actual:${cell.id}`, "");
  const [wrong, setWrong] = useState<string | null>(null);
  const { actuals } = cell.beside;
  const waiting = only(outbox.waiting, "actual").filter(
    (one) => one.cell_id === cell.id && !actuals.some(({ id }) => id === one.id),
  );
  const replaced = (index: number, name: string) => actuals.slice(index + 1).some((actual) => actual.name === name);
  const keep = async () => {
    if (!text.trim()) return setWrong("Write the number you measured first.");
    const id = newId();
    const typed = text;
    setText("");
    const body = { id, cell_id: cell.id, text: typed, device_at: new Date().toISOString() };
    const refusal = await outbox.add({ kind: "actual", id, cell_id: cell.id, body });
    if (refusal === null) return setWrong(null);
    await outbox.remove(id);
    setText((now) => now || typed);
    setWrong(refusal);
  };
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <Soft>
        Planned: {level.name} {level.text}. Measure it and write what it was. What should have stayed the same can be
        noted too, with its unit: 23 °C.
      </Soft>
      {actuals.length + waiting.length > 0 && (
        <ul aria-label="What it was">
          {actuals.map((actual, index) => (
            <li key={actual.id}>
              {actual.name} <Num as={replaced(index, actual.name) ? "s" : "span"}>{actual.text}</Num>
            </li>
          ))}
          {waiting.map((one) => (
            <li key={one.id}>
              {one.body.text} <Soft as="span">{one.refusal ?? "safe on this device, not sent yet"}</Soft>
            </li>
          ))}
        </ul>
      )}
      <Row>
        <TextField
          label="It really was"
          value={text}
          onChange={(value) => {
            setText(value);
            setWrong(null);
          }}
          autoComplete="off"
          maxLength={40}
          isDisabled={!open}
        />
        <Button type="submit" isDisabled={!open}>
          Keep it
        </Button>
      </Row>
      {wrong && <Wrong role="alert">{wrong}</Wrong>}
    </Form>
  );
}

/** What was noted last, or what is planned, in a few words. */
export function foundSoFar({ beside, level }: Cell): string {
  const last = beside.actuals.at(-1);
  return last ? `${last.name} ${last.text}` : `planned: ${level?.text ?? ""}`;
}
