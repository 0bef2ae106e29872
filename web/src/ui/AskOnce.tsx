import { useState } from "react";
import { Button, TextButton } from "./Button";
import { Row } from "./layout";

type Props = { button: string; question: string; yes: string; no: string; act: () => void };

/** A button that asks once, in its own place, before it does what cannot be taken back at once. */
export function AskOnce({ button, question, yes, no, act }: Props) {
  const [asking, setAsking] = useState(false);
  if (!asking) return <Button onPress={() => setAsking(true)}>{button}</Button>;
  return (
    <Row role="group" aria-label={button}>
      <span>{question}</span>
      <Button
        autoFocus
        onPress={() => {
          setAsking(false);
          act();
        }}
      >
        {yes}
      </Button>
      <TextButton onPress={() => setAsking(false)}>{no}</TextButton>
    </Row>
  );
}
