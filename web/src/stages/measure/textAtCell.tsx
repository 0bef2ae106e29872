import { t } from "@lingui/core/macro";
import { useState } from "react";
import { only } from "../../api/outbox";
import { newId } from "../../api/newId";
import { type Outbox } from "../../lab/useOutbox";
import { Soft } from "../../ui/layout";
import { useKept } from "../../ui/useKept";

/** What is a text at a cell: what was seen, a question, what a setting really was. */
type Kind = "note" | "question" | "actual";

/**
 * A text that a group types at a cell: kept while it is typed, sent through the outbox, given back if it is refused.
 * `have`: what the server has already; `waiting`: what it has not. `empty`: what is said when nothing was typed.
 */
export function useTextAtCell(outbox: Outbox, kind: Kind, cellId: string, have: { id: string }[], empty: string) {
  const key = { note: "seen", question: "ask", actual: "actual" }[kind];
  const [text, setText] = useKept(`${outbox.group}:${key}:${cellId}`, "");
  const [wrong, setWrong] = useState<string | null>(null);
  const waiting = only(outbox.waiting, kind).filter(
    (one) => one.cell_id === cellId && !have.some(({ id }) => id === one.id),
  );
  const keep = async () => {
    if (!text.trim()) return setWrong(empty);
    const id = newId();
    const typed = text;
    setText("");
    const body = { id, cell_id: cellId, text: typed, device_at: new Date().toISOString() };
    const refusal = await outbox.add({ kind, id, cell_id: cellId, body });
    if (refusal === null) return setWrong(null);
    await outbox.remove(id);
    setText((now) => now || typed);
    setWrong(refusal);
  };
  const type = (value: string) => {
    setText(value);
    setWrong(null);
  };
  return { text, type, more: setText, wrong, setWrong, waiting, keep };
}

type Row = { id: string; body: { text: string }; refusal: string | null };

/** Texts that are not with the server yet, as items of a list. */
export const Unsent = ({ rows }: { rows: Row[] }) =>
  rows.map((one) => (
    <li key={one.id}>
      {one.body.text} <Soft as="span">{one.refusal ?? t`safe on this device, not sent yet`}</Soft>
    </li>
  ));
