import { useState } from "react";
import { useFindWords, useKeepFor, useKeptFor, useRemoveWords } from "../../api/removing";
import { count, day, moment } from "../../format";
import { Button, TextButton } from "../../ui/Button";
import { Disclosure } from "../../ui/controls";
import { TextField } from "../../ui/fields";
import { Form, Narrow, Row, Small, Soft } from "../../ui/layout";
import { Bullets } from "../../ui/Notes";
import { ProblemNote } from "../../ui/ProblemNote";
import { Select } from "../../ui/Select";

const ALWAYS = "always";
const CHOICES = [
  { key: "30", name: "30 days after closing" },
  { key: "90", name: "90 days after closing" },
  { key: "365", name: "a year after closing" },
  { key: ALWAYS, name: "as long as the lab" },
];
const KINDS = { note: "note", question: "question", words: "notebook", claim: "claim" } as const;

/** How long each kind of thing is kept. */
function HowLong({ id }: { id: string }) {
  const kept = useKeptFor(id);
  const keep = useKeepFor(id);
  if (!kept.data) return null;
  const { days, until } = kept.data;
  const own = days !== null && !CHOICES.some((one) => one.key === String(days));
  return (
    <>
      <Select
        label="Photographs and notes are kept"
        options={own ? [...CHOICES, { key: String(days), name: `${days} days after closing` }] : CHOICES}
        value={days === null ? ALWAYS : String(days)}
        onChange={(key) => keep.mutate(key === ALWAYS ? null : Number(key))}
      />
      {until && <Soft>They go after {day(until.slice(0, 10))}.</Soft>}
      <Bullets
        items={[
          "Readings, predictions, loads, packs, claims and notebooks stay until you delete the lab.",
          "A deleted lab can be taken back for 30 days; then it is gone, with its photographs.",
          "A group or its teacher can remove a photograph at once, any time.",
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
    <Disclosure title="Remove something on request" detail="words that groups typed">
      <Form
        onSubmit={(event) => {
          event.preventDefault();
          setWords(typed.trim());
        }}
      >
        <TextField label="Find" value={typed} onChange={setTyped} maxLength={100} />
        <Row>
          <Button type="submit">Look for it</Button>
        </Row>
      </Form>
      {found.data && (
        <p role="status">
          {all.length === 0 ? "Nothing that groups typed has these words." : `${count(all.length, "place")} found.`}
        </p>
      )}
      <ul>
        {all.map((one) => (
          <li key={one.id}>
            {one.group}, {KINDS[one.kind]}, {moment(one.at)}: “{one.text}”{" "}
            {one.asked ? (
              <Small>goes with the next nightly run</Small>
            ) : (
              <TextButton
                onPress={() => remove.mutate([{ kind: one.kind, id: one.id }])}
                aria-label={`Remove the ${KINDS[one.kind]} of ${one.group}`}
              >
                Remove it
              </TextButton>
            )}
          </li>
        ))}
      </ul>
      {open.length > 1 && (
        <Button onPress={() => remove.mutate(open.map(({ kind, id: row }) => ({ kind, id: row })))}>
          Remove all {open.length}
        </Button>
      )}
      <Soft>
        Words are taken out by the command that runs every night on the server. A backup made before still holds them
        until it is thrown away.
      </Soft>
      <ProblemNote problem={remove.error ?? (found.error && "body" in found.error ? (found.error as never) : null)} />
    </Disclosure>
  );
}

/** What is kept for how long, and what can be removed. */
export function Keeping({ id }: { id: string }) {
  return (
    <Narrow as="section" aria-label="What is kept for how long">
      <h2>Kept for how long</h2>
      <HowLong id={id} />
      <OnRequest id={id} />
    </Narrow>
  );
}
