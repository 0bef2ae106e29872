import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { asTyped, number } from "../../format";
import { bathName, useNames } from "../../lab/useNames";
import { newId } from "../../api/newId";
import { type Outbox } from "../../lab/useOutbox";
import { Button, MainButton, TextButton } from "../../ui/Button";
import { Picks } from "../../ui/controls";
import { TextField } from "../../ui/fields";
import { Num, Row, Soft, WrongText } from "../../ui/layout";
import { Bullets } from "../../ui/Notes";
import { Select } from "../../ui/Select";
import { colour } from "../../ui/theme";
import { useKept } from "../../ui/useKept";
import { only } from "../../api/outbox";
import { Stepper } from "./Stepper";
import { type Plates, kindKey, kindsOf } from "./kinds";
import { packWord } from "../../ui/packWords";

const Chain = styled.section`
  display: grid;
  gap: 0.6rem;
  padding: 0.8rem 1rem;
  border-left: 6px solid ${colour.prediction};
  background: ${colour.bench};
`;

const Form = styled.form`
  display: grid;
  gap: 0.5rem;
`;

/** A field and its button, on one line. */
const Entry = styled(Row)`
  align-items: end;
`;

type Props = { chain: Schemas["ChainOut"]; bench: Schemas["BenchOut"]; how: string; outbox: Outbox };

/** The class's chain on a group's device: its vote, its cell at the front, and what the load does. */
export function BenchChain({ chain, bench, how, outbox }: Props) {
  const [cells, setCells] = useState(chain.my_vote ?? 3);
  const [wrong, setWrong] = useState<string | null>(null);
  const waiting = only(outbox.waiting, "chain").filter((one) => one.refusal === null);
  const voted = waiting.findLast((one) => one.body.kind === "vote")?.body.cells ?? chain.my_vote;
  const open = bench.state === "open";
  const last = chain.links.at(-1);
  const add = async (what: Partial<Schemas["ChainEntryIn"]>): Promise<string | null> => {
    const id = newId();
    const body = { id, chain_id: chain.id, device_at: new Date().toISOString(), ...what } as Schemas["ChainEntryIn"];
    const refusal = await outbox.add({ kind: "chain", id, cell_id: chain.id, body });
    if (refusal !== null) await outbox.remove(id);
    setWrong(refusal);
    return refusal;
  };
  return (
    <Chain aria-label={t`The class’s chain`}>
      <h2>
        <Trans>The class’s chain for the {chain.load_name}</Trans>
      </h2>
      {chain.voting ? (
        <>
          <Stepper
            label={t`cells in a row will run it`}
            shown={String(cells)}
            less={open && cells > 1 ? () => setCells(cells - 1) : null}
            more={open && cells < chain.most ? () => setCells(cells + 1) : null}
          />
          <Row>
            <MainButton isDisabled={!open || voted === cells} onPress={() => void add({ kind: "vote", cells })}>
              {voted === null ? t`Vote` : t`Vote again`}
            </MainButton>
            <span role="status">
              {voted === null ? "" : t`Your vote: ${plural(voted, { one: "# cell", other: "# cells" })}.`}
            </span>
          </Row>
        </>
      ) : (
        <p role="status">
          <Trans>
            {plural(chain.links.length, { one: "# cell", other: "# cells" })} joined; the whole reads{" "}
            <Num>{last ? asTyped(last.text, last.unit) : ""}</Num>.
          </Trans>
          {last?.why && ` ${last.why}`}
          {chain.lit_with !== null && t` It ran with ${chain.lit_with}.`}
          {chain.my_vote !== null && t` You said ${chain.my_vote}.`}
        </p>
      )}
      {open && chain.links.length < chain.most && (
        <JoinChain bench={bench} chain={chain} how={how} waiting={waiting.length} add={add} />
      )}
      {chain.links
        .filter((link) => link.mine)
        .map((link) => (
          <Mine key={link.id} link={link} open={open} add={add} />
        ))}
      {chain.harm && (
        <WrongText role="alert">
          <Trans>Do not join it: {chain.harm}</Trans>
        </WrongText>
      )}
      {open && !chain.voting && chain.can_be_seen.length > 0 && (
        <Picks
          label={t`What does it do now?`}
          options={chain.can_be_seen.map((text) => ({ key: text, name: packWord(text) }))}
          value={chain.seen_with === chain.links.length ? chain.seen : ""}
          onChange={(text) => void add({ kind: "seen", text })}
        />
      )}
      {wrong && <WrongText role="alert">{wrong}</WrongText>}
    </Chain>
  );
}

type JoinProps = {
  bench: Schemas["BenchOut"];
  chain: Schemas["ChainOut"];
  how: string;
  waiting: number;
  add: (what: Partial<Schemas["ChainEntryIn"]>) => Promise<string | null>;
};

/** Join one's own cell at the front: which, and what the whole row reads with it. */
function JoinChain({ bench, chain, how, waiting, add }: JoinProps) {
  const names = useNames();
  const kinds = kindsOf(bench, []);
  const [chosen, setChosen] = useKept(`choice:${bench.group_id}:chain:cell`, "");
  const [text, setText] = useKept(`${bench.group_id}:chain:${chain.id}`, "");
  const [asking, setAsking] = useState(text !== "");
  const cell: Plates | undefined = kinds.find((kind) => kindKey(kind) === chosen) ?? kinds[0];
  if (!cell) return null;
  const join = async () => {
    if (!text.trim()) return;
    const typed = text;
    setText("");
    setAsking(false);
    const refusal = await add({ kind: "link", text: typed, unit: "V", ...cell });
    if (refusal === null) return;
    setText((later) => later || typed);
    setAsking(true);
  };
  if (!asking)
    return (
      <p>
        <Button onPress={() => setAsking(true)}>
          <Trans>We join our cell to the chain</Trans>
        </Button>{" "}
        {waiting > 0 && (
          <Soft as="span">
            <Trans>{plural(waiting, { one: "# entry", other: "# entries" })} safe on this device, not sent yet.</Trans>
          </Soft>
        )}
      </p>
    );
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        void join();
      }}
    >
      <Bullets items={chain.cautions} />
      <Soft>{how}</Soft>
      <Select
        label={t`Your cell`}
        options={kinds.map((kind) => ({
          key: kindKey(kind),
          name: `${names.symbol(kind.negative)} | ${names.symbol(kind.positive)}, ${bathName(names, { electrolyte: kind.electrolyte, condition: "" })}`,
        }))}
        value={kindKey(cell)}
        onChange={setChosen}
      />
      <Entry>
        <TextField
          label={t`The whole chain with it, V`}
          value={text}
          onChange={setText}
          inputMode="decimal"
          autoComplete="off"
          maxLength={32}
        />
        <MainButton type="submit">
          <Trans>Record</Trans>
        </MainButton>
        <TextButton onPress={() => setAsking(false)}>
          <Trans>Not yet</Trans>
        </TextButton>
      </Entry>
    </Form>
  );
}

type MineProps = {
  link: Schemas["LinkOut"];
  open: boolean;
  add: (what: Partial<Schemas["ChainEntryIn"]>) => Promise<string | null>;
};

/** A group's own cell in the chain; a number typed wrong is corrected with a reason. */
function Mine({ link, open, add }: MineProps) {
  const [asking, setAsking] = useState(false);
  const [text, setText] = useState("");
  const [reason, setReason] = useState("");
  const correct = async () => {
    const refusal = await add({
      kind: "link",
      text,
      unit: "V",
      corrects: link.id,
      reason,
      negative: link.negative,
      electrolyte: link.electrolyte,
      positive: link.positive,
    });
    if (refusal === null) setAsking(false);
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void correct();
      }}
    >
      <p>
        <Trans>
          Your {link.short}: the whole <Num>{asTyped(link.text, link.unit)}</Num>
        </Trans>
        {link.added_v === null ? ". " : `, ${number(link.added_v, 2, true)} V. `}
        {link.why && <WrongText as="span">{`${t`Does not count: ${link.why}`} `}</WrongText>}
        {open && (
          <TextButton onPress={() => setAsking(!asking)} aria-expanded={asking}>
            {asking ? t`Leave it as it is` : t`Typed wrong?`}
          </TextButton>
        )}
      </p>
      {asking && (
        <Row>
          <TextField label={t`The whole chain, V`} value={text} onChange={setText} inputMode="decimal" maxLength={32} />
          <TextField label={t`Why was it wrong?`} value={reason} onChange={setReason} maxLength={200} />
          <MainButton type="submit">
            <Trans>Correct</Trans>
          </MainButton>
        </Row>
      )}
    </form>
  );
}
