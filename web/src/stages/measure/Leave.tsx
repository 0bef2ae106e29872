import { useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import type { Kind, Pending } from "../../api/outbox";
import { leave } from "../../api/leaving";
import { count } from "../../format";
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

const NAMES: Record<Kind, [string, string]> = {
  reading: ["reading", "readings"],
  prediction: ["prediction", "predictions"],
  check: ["meter check", "meter checks"],
  load: ["measurement under load", "measurements under load"],
  actual: ["measured setting", "measured settings"],
  note: ["note", "notes"],
  question: ["question", "questions"],
  photo: ["photograph", "photographs"],
  trace: ["logger file", "logger files"],
  pack: ["pack", "packs"],
  packEntry: ["entry about a pack", "entries about packs"],
  runFile: ["logger file of a pack", "logger files of packs"],
  words: ["part of the notebook", "parts of the notebook"],
  handIn: ["notebook to hand in", "notebooks to hand in"],
  tried: ["bench of the homework", "benches of the homework"],
  chain: ["entry for the class’s chain", "entries for the class’s chain"],
};

/** What is not sent yet, in words: "2 readings, 1 photograph". */
function named(waiting: Pending[], texts: number): string {
  const kinds = Object.keys(NAMES) as Kind[];
  const parts = kinds.flatMap((kind) => {
    const n = waiting.filter((one) => one.kind === kind && !one.sent).length;
    return n > 0 ? [count(n, ...NAMES[kind])] : [];
  });
  return [...parts, ...(texts > 0 ? [count(texts, "text you have begun", "texts you have begun")] : [])].join(", ");
}

/** The group leaves this device: what is unsent is named first, and stays here, locked to the group. */
export function Leave({ group, groupId, waiting }: { group: string; groupId: string; waiting: Pending[] }) {
  const navigate = useNavigate();
  const [asking, setAsking] = useState(false);
  const go = () => void leave().then(() => navigate("/join", { replace: true }));
  const unsent = named(waiting, keptTexts(groupId));
  if (!asking) return <TextButton onPress={() => (unsent ? setAsking(true) : go())}>Leave this bench</TextButton>;
  return (
    <Ask role="alertdialog" aria-label="Leave this device?">
      <p>
        Not sent yet: <strong>{unsent}</strong>. It stays on this device, where only {group} sees it, and goes on when{" "}
        {group} joins here again.
      </p>
      <Row>
        <Button onPress={go}>Leave all the same</Button>
        <Button onPress={() => setAsking(false)} autoFocus>
          Stay
        </Button>
      </Row>
    </Ask>
  );
}
