import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useAskClass } from "../../api/asking";
import { MainButton } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Form } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";
import { Select } from "../../ui/Select";
import { useKept } from "../../ui/useKept";

type Page = Schemas["AskPage"];
type Draft = { key: string; text: string; options: string; fits: string };

const OWN = "own";
const EMPTY: Draft = { key: OWN, text: "", options: "", fits: "" };
const lines = (text: string) =>
  text
    .split("\n")
    .map((line) => line.trim())
    .filter(Boolean);

const draftOf = (ready: Schemas["ReadyQuestion"]): Draft => ({
  key: ready.key,
  text: ready.text,
  options: ready.options.join("\n"),
  fits: ready.fits === null ? "" : (ready.options[ready.fits] ?? ""),
});

/** A ready question, changed as one likes, or one's own; typed words stay in this tab. */
export function AskForm({ id, page }: { id: string; page: Page }) {
  const ask = useAskClass(id);
  const [draft, setDraft] = useKept<Draft>(`ask:${id}`, () => (page.ready[0] ? draftOf(page.ready[0]) : EMPTY));
  const [wrong, setWrong] = useState<string | null>(null);
  const options = lines(draft.options);
  const ready = page.ready.find((one) => one.key === draft.key);
  const send = () => {
    if (!draft.text.trim()) return setWrong(t`Write the question first.`);
    setWrong(null);
    const fits = options.indexOf(draft.fits);
    ask.mutate({ text: draft.text, options, fits: fits < 0 ? null : fits });
  };
  return (
    <Form
      aria-label={t`Ask the class`}
      onSubmit={(event) => {
        event.preventDefault();
        send();
      }}
    >
      <Select
        label={t`Begin with`}
        options={[
          ...page.ready.map(({ key, text }) => ({ key, name: text })),
          { key: OWN, name: t`a question of your own` },
        ]}
        value={draft.key}
        onChange={(key) => {
          const chosen = page.ready.find((one) => one.key === key);
          setDraft(chosen ? draftOf(chosen) : EMPTY);
          setWrong(null);
        }}
      />
      <TextField
        label={t`The question`}
        hint={ready?.about}
        value={draft.text}
        onChange={(text) => setDraft({ ...draft, text })}
        maxLength={200}
        error={wrong}
      />
      <TextField
        label={t`Answers to choose from, one a line`}
        hint={t`Up to ${page.most_options}; none: the class answers in words.`}
        value={draft.options}
        onChange={(typed) => setDraft({ ...draft, options: typed })}
        rows={5}
        maxLength={700}
      />
      {options.length > 1 && (
        <Select
          label={t`Which one fits (only you see it)`}
          options={[
            { key: "", name: t`none, or the meter says` },
            ...options.map((option) => ({ key: option, name: option })),
          ]}
          value={options.includes(draft.fits) ? draft.fits : ""}
          onChange={(fits) => setDraft({ ...draft, fits })}
        />
      )}
      <ProblemNote problem={ask.error} />
      <MainButton type="submit">{ask.isPending ? t`One moment…` : <Trans>Ask the class</Trans>}</MainButton>
    </Form>
  );
}
