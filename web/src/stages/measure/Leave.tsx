import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import type { Kind, Pending } from "../../api/outbox";
import { leave } from "../../api/leaving";
import { Button, TextButton } from "../../ui/Button";
import { Row } from "../../ui/layout";
import { colour } from "../../ui/theme";
import { keptTexts } from "../../ui/useKept";

const Ask = styled.div`
  position: absolute;
  right: 1rem;
  z-index: 3;
  display: grid;
  gap: 0.6rem;
  width: min(24rem, calc(100vw - 2rem));
  padding: 0.9rem 1rem;
  border: 2px solid ${colour.ink};
  border-radius: 6px;
  background: ${colour.page};
  text-align: left;
  font-size: 1rem;
`;

const NAMES: Record<Kind, (n: number) => string> = {
  reading: (n) => plural(n, { one: "# reading", other: "# readings" }),
  prediction: (n) => plural(n, { one: "# prediction", other: "# predictions" }),
  check: (n) => plural(n, { one: "# meter check", other: "# meter checks" }),
  load: (n) => plural(n, { one: "# measurement under load", other: "# measurements under load" }),
  actual: (n) => plural(n, { one: "# measured setting", other: "# measured settings" }),
  note: (n) => plural(n, { one: "# note", other: "# notes" }),
  question: (n) => plural(n, { one: "# question", other: "# questions" }),
  photo: (n) => plural(n, { one: "# photograph", other: "# photographs" }),
  trace: (n) => plural(n, { one: "# logger file", other: "# logger files" }),
  pack: (n) => plural(n, { one: "# pack", other: "# packs" }),
  packEntry: (n) => plural(n, { one: "# entry about a pack", other: "# entries about packs" }),
  runFile: (n) => plural(n, { one: "# logger file of a pack", other: "# logger files of packs" }),
  words: (n) => plural(n, { one: "# part of the notebook", other: "# parts of the notebook" }),
  handIn: (n) => plural(n, { one: "# notebook to hand in", other: "# notebooks to hand in" }),
  tried: (n) => plural(n, { one: "# bench of the homework", other: "# benches of the homework" }),
  chain: (n) => plural(n, { one: "# entry for the class’s chain", other: "# entries for the class’s chain" }),
};

/** What is not sent yet, in words: "2 readings, 1 photograph". */
function named(waiting: Pending[], texts: number): string {
  const kinds = Object.keys(NAMES) as Kind[];
  const parts = kinds.flatMap((kind) => {
    const n = waiting.filter((one) => one.kind === kind && !one.sent).length;
    return n > 0 ? [NAMES[kind](n)] : [];
  });
  return [
    ...parts,
    ...(texts > 0 ? [plural(texts, { one: "# text you have begun", other: "# texts you have begun" })] : []),
  ].join(", ");
}

/** The group leaves this device: asked once; what is unsent is named, and stays here, locked to the group. */
export function Leave({ group, groupId, waiting }: { group: string; groupId: string; waiting: Pending[] }) {
  const navigate = useNavigate();
  const [asking, setAsking] = useState(false);
  const go = () => void leave().then(() => navigate("/join", { replace: true }));
  const unsent = named(waiting, keptTexts(groupId));
  if (!asking)
    return (
      <TextButton onPress={() => setAsking(true)}>
        <Trans>Leave this bench</Trans>
      </TextButton>
    );
  return (
    <Ask role="alertdialog" aria-label={t`Leave this device?`}>
      <p>
        {unsent ? (
          <Trans>
            Not sent yet: <strong>{unsent}</strong>. It stays on this device, where only {group} sees it, and goes on
            when {group} joins here again.
          </Trans>
        ) : (
          <Trans>All is sent. To go on here, {group} types the code and its PIN again.</Trans>
        )}
      </p>
      <Row>
        <Button onPress={go}>{unsent ? t`Leave all the same` : t`Leave`}</Button>
        <Button onPress={() => setAsking(false)} autoFocus>
          <Trans>Stay</Trans>
        </Button>
      </Row>
    </Ask>
  );
}
