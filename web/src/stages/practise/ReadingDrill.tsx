import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { MeterFace } from "../../charts/MeterFace";
import { number } from "../../format";
import { Button, MainButton } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Column, Form, Narrow, Row } from "../../ui/layout";
import { typedNumber } from "./drill";
import { Turns } from "./Turns";

type Display = Schemas["DisplayOut"];

/** What is said to a typed reading: right within half a small mark, a misreading that is understood, or not it. */
function judged(display: Display, text: string): string {
  const value = typedNumber(text);
  if (Number.isNaN(value)) return t`Type the reading, such as 0.94 V or 940 mV.`;
  if (Math.abs(value - display.volts_v) <= 1.01 * display.step_v) {
    const flat = display.battery
      ? t` But the battery sign is lit: such a meter may read too much. Ask for another.`
      : "";
    return t`Yes, ${number(display.volts_v, display.needle === null ? 3 : 2)} V.${flat}`;
  }
  const wrong = display.misread.find((one) => Math.abs(one.volts_v - value) <= 1.01 * display.step_v * 10);
  return wrong ? wrong.did : t`Not that. First the range on the dial, then the digits, then the sign.`;
}

function OneDisplay({ display, next }: { display: Display; next: () => void }) {
  const [text, setText] = useState("");
  const [says, setSays] = useState("");
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        setSays(judged(display, text));
      }}
    >
      <h1>
        <Trans>What does it read, in volts?</Trans>
      </h1>
      <MeterFace display={display} />
      <TextField
        label={t`It reads`}
        hint={t`0.94, or 940 mV`}
        value={text}
        onChange={(typed) => {
          setText(typed);
          setSays("");
        }}
        inputMode="text"
        maxLength={12}
      />
      <Row>
        <MainButton type="submit">
          <Trans>Check</Trans>
        </MainButton>
        <Button onPress={next}>
          <Trans>Next meter</Trans>
        </Button>
      </Row>
      <p role="status">{says}</p>
    </Form>
  );
}

/** Meters with needles and digits, one after the other. */
export function ReadingDrill({ displays }: { displays: Display[] }) {
  const [at, setAt] = useState(() => Math.floor(Math.random() * displays.length));
  const display = displays[at % Math.max(1, displays.length)];
  if (!display) return null;
  return (
    <Column>
      <Narrow>
        <Turns at={at}>
          <OneDisplay key={at} display={display} next={() => setAt((now) => now + 5)} />
        </Turns>
      </Narrow>
    </Column>
  );
}
