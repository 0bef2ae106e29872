import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useGiveBack } from "../../api/notebook";
import { WorthHowMany } from "../../lab/Marks";
import { MainButton } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Form, Row, Soft } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";
import { useKept } from "../../ui/useKept";

type Book = Schemas["NotebookOut"];
type Part = Schemas["PartOut"];
type Draft = { text: string; remarks: Partial<Record<Part["key"], string>>; marks: Record<string, string> };

/** Points as typed: null where nothing is, NaN where it is no number. */
const points = (typed: string) => (typed.trim() === "" ? null : Number(typed.trim().replace(",", ".")));

/** What the teacher is about to say to a notebook: kept in this tab until it is given back. */
export function useGivingBack(book: Book | undefined, group: string) {
  const [draft, setDraft, forget] = useKept<Draft | null>(`give-back:${group}`, null);
  const now: Draft = draft ?? {
    text: book?.returned?.text ?? "",
    remarks: Object.fromEntries(
      (book?.parts ?? []).filter((part) => part.remark).map((part) => [part.key, part.remark]),
    ),
    marks: Object.fromEntries(Object.entries(book?.returned?.marks ?? {}).map(([name, most]) => [name, String(most)])),
  };
  return {
    now,
    set: (change: Partial<Draft>) => setDraft({ ...now, ...change }),
    done: () => {
      setDraft(null);
      forget();
    },
  };
}

export type GivingBack = ReturnType<typeof useGivingBack>;

/** A remark on one part, beside what the group has written there. */
export function Remark({ part, giving }: { part: Part; giving: GivingBack }) {
  return (
    <TextField
      label={t`Your remark on “${part.name}”`}
      value={giving.now.remarks[part.key] ?? ""}
      onChange={(text) => giving.set({ remarks: { ...giving.now.remarks, [part.key]: text } })}
      maxLength={600}
    />
  );
}

/** Words for the whole, points by the rubric, and the way back to the group. */
export function GiveBack({ book, giving }: { book: Book; giving: GivingBack }) {
  const give = useGiveBack(book.group_id);
  const [looked, setLooked] = useState(false);
  const { now, set, done } = giving;
  const wrong = (row: Schemas["RubricRow"]) => {
    const given = points(now.marks[row.name] ?? "");
    return given === null || (given >= 0 && given <= row.most) ? null : t`0 to ${row.most}, or nothing`;
  };
  const send = () => {
    setLooked(true);
    if (book.rubric.some((row) => wrong(row) !== null)) return;
    const marks = book.rubric.flatMap((row) => {
      const given = points(now.marks[row.name] ?? "");
      return given === null ? [] : [[row.name, given] as const];
    });
    give.mutate(
      { text: now.text, remarks: now.remarks as Record<string, string>, marks: Object.fromEntries(marks) },
      { onSuccess: done },
    );
  };
  return (
    <Form
      aria-label={t`Give the notebook of ${book.group} back`}
      onSubmit={(event) => {
        event.preventDefault();
        send();
      }}
    >
      {book.rubric.map((row) => (
        <TextField
          key={row.name}
          label={t`${row.name}, of ${row.most}`}
          value={now.marks[row.name] ?? ""}
          onChange={(typed) => set({ marks: { ...now.marks, [row.name]: typed } })}
          inputMode="decimal"
          maxLength={6}
          error={looked ? wrong(row) : null}
        />
      ))}
      <TextField
        label={t`To the whole`}
        value={now.text}
        onChange={(text) => set({ text })}
        rows={4}
        maxLength={2000}
      />
      <Row>
        <MainButton type="submit">
          <Trans>Give it back</Trans>
        </MainButton>
        {give.isSuccess && (
          <Soft role="status">
            <Trans>Given back; the group sees it in its notebook.</Trans>
          </Soft>
        )}
      </Row>
      <ProblemNote problem={give.error} />
      <WorthHowMany rubric={book.rubric} give={(row, given) => set({ marks: { ...now.marks, [row]: given } })} />
    </Form>
  );
}
