import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { useFindWords, useKeepFor, useKeptFor, useRemoveWords } from "../../api/removing";
import { day, moment } from "../../format";
import { Button, TextButton } from "../../ui/Button";
import { Disclosure } from "../../ui/controls";
import { TextField } from "../../ui/fields";
import { Form, Narrow, Row, Small, Soft } from "../../ui/layout";
import { Bullets } from "../../ui/Notes";
import { ProblemNote } from "../../ui/ProblemNote";
import { Select } from "../../ui/Select";

const ALWAYS = "always";
const CHOICES = [
  { key: "30", name: t`30 days after closing` },
  { key: "90", name: t`90 days after closing` },
  { key: "365", name: t`a year after closing` },
  { key: ALWAYS, name: t`as long as the lab` },
];
const KINDS = {
  note: t`note`,
  question: t`question`,
  words: t`notebook`,
  claim: t`claim`,
  reason: t`reason of a prediction`,
  answer: t`answer to a question to the class`,
} as const;

/** How long each kind of thing is kept. */
function HowLong({ id }: { id: string }) {
  const kept = useKeptFor(id);
  const keep = useKeepFor(id);
  if (!kept.data) return <ProblemNote problem={kept.error} />;
  const { days, until } = kept.data;
  const own = days !== null && !CHOICES.some((one) => one.key === String(days));
  return (
    <>
      <Select
        label={t`Photographs and notes are kept`}
        options={own ? [...CHOICES, { key: String(days), name: t`${days} days after closing` }] : CHOICES}
        value={days === null ? ALWAYS : String(days)}
        onChange={(key) => keep.mutate(key === ALWAYS ? null : Number(key))}
      />
      {until && (
        <Soft>
          <Trans>They go after {day(until.slice(0, 10))}.</Trans>
        </Soft>
      )}
      <Bullets
        items={[
          t`Readings, predictions, loads, packs, claims and notebooks stay until you delete the lab.`,
          t`A deleted lab can be taken back for 30 days; then it is gone, with its photographs.`,
          t`A group or its teacher can remove a photograph at once, any time.`,
        ]}
      />
      <ProblemNote problem={keep.error} />
    </>
  );
}

/** Find what somebody typed, and have it taken out: the words go, that there was an entry stays. */
function OnRequest({ id }: { id: string }) {
  const [typed, setTyped] = useState("");
  const [words, setWords] = useState("");
  const found = useFindWords(id, words);
  const remove = useRemoveWords(id);
  const all = found.data?.found ?? [];
  const open = all.filter((one) => !one.asked);
  return (
    <Disclosure title={t`Remove something on request`} detail={t`words that groups typed`}>
      <Form
        onSubmit={(event) => {
          event.preventDefault();
          setWords(typed.trim());
        }}
      >
        <TextField label={t`Find`} value={typed} onChange={setTyped} maxLength={100} />
        <Row>
          <Button type="submit">
            <Trans>Look for it</Trans>
          </Button>
        </Row>
      </Form>
      {found.data && (
        <p role="status">
          {all.length === 0
            ? t`Nothing that groups typed has these words.`
            : t`${plural(all.length, { one: "# place", other: "# places" })} found.`}
        </p>
      )}
      <ul>
        {all.map((one) => (
          <li key={one.id}>
            {one.group}, {KINDS[one.kind]}, {moment(one.at)}: “{one.text}”{" "}
            {one.asked ? (
              <Small>
                <Trans>goes in a day or two</Trans>
              </Small>
            ) : (
              <TextButton
                onPress={() => remove.mutate([{ kind: one.kind, id: one.id }])}
                aria-label={t`Remove the ${KINDS[one.kind]} of ${one.group}`}
              >
                <Trans>Remove it</Trans>
              </TextButton>
            )}
          </li>
        ))}
      </ul>
      {open.length > 1 && (
        <Button onPress={() => remove.mutate(open.map(({ kind, id: row }) => ({ kind, id: row })))}>
          <Trans>Remove all {open.length}</Trans>
        </Button>
      )}
      <Soft>
        <Trans>
          Words are taken out by the command that runs every night on the server. A backup made before still holds them
          until it is thrown away.
        </Trans>
      </Soft>
      <ProblemNote problem={remove.error ?? (found.error && "body" in found.error ? (found.error as never) : null)} />
    </Disclosure>
  );
}

/** What is kept for how long, and what can be removed. */
export function Keeping({ id }: { id: string }) {
  return (
    <Narrow as="section" aria-label={t`What is kept for how long`}>
      <h2>
        <Trans>Kept for how long</Trans>
      </h2>
      <HowLong id={id} />
      <OnRequest id={id} />
    </Narrow>
  );
}
