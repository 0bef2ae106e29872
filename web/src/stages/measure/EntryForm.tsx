import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type KeyboardEvent, type RefObject, useRef, useState } from "react";
import { FieldError, Form, Input, TextField } from "react-aria-components";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { number } from "../../format";
import { Button, Key, MainButton, TextButton } from "../../ui/Button";
import { TextField as Line } from "../../ui/fields";
import { Row, Soft, WrongText } from "../../ui/layout";
import { colour, font, phone } from "../../ui/theme";
import type { EntryState } from "./useEntry";
import { newId } from "../../api/newId";
import { type Outbox } from "../../lab/useOutbox";

const Entry = styled(Form)`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0.6rem 0.8rem;
  max-width: 32rem;
`;

const Big = styled(TextField)`
  position: relative;
  input {
    width: 100%;
    height: 100%;
    min-height: 98px;
    padding: 0 3.6rem 0 1rem;
    border: 2.5px solid ${colour.ink};
    border-radius: 8px;
    background: ${colour.white};
    font: 600 2.6rem ${font.numbers};
  }
  input[data-invalid] {
    border-color: ${colour.wrong};
  }
  & > span[aria-hidden] {
    position: absolute;
    right: 1rem;
    top: 50%;
    transform: translateY(-50%);
    font-size: 1.3rem;
    font-weight: 600;
  }
  ${phone} {
    input {
      font-size: 2.1rem;
    }
  }
`;

const Buttons = styled.div`
  display: grid;
  gap: 0.6rem;
  width: 12.8rem;
  ${phone} {
    width: 9.5rem;
  }
`;

/** The number pad of many phones has no minus. */
const Minus = styled(Soft)`
  display: none;
  grid-column: 1 / -1;
  ${phone} {
    display: block;
  }
`;

const Why = styled.div`
  grid-column: 1 / -1;
  display: grid;
  gap: 0.4rem;
`;

const REASONS = [t`typed it wrong`, t`wrong unit`, t`leads were swapped`, t`plates touched`, t`still drifting`];

const WrongBelow = styled(WrongText)`
  grid-column: 1 / -1;
`;

type Props = {
  cellId: string;
  red: string;
  black: string;
  target: Pick<Schemas["ReadingOut"], "id"> | null;
  open: boolean;
  enough: boolean;
  outbox: Outbox;
  entry: EntryState;
  field: RefObject<HTMLInputElement | null>;
  finished: () => void;
  recorded: () => void;
};

/** One big entry. The text goes as typed; the server's core reads it. What it cannot read comes back into the field. */
export function EntryForm({
  cellId,
  red,
  black,
  target,
  open,
  enough,
  outbox,
  entry,
  field,
  finished,
  recorded,
}: Props) {
  const { text, unit, origin, setUnit, type } = entry;
  const [reason, setReason] = useState("");
  const [wrong, setWrong] = useState<string | null>(null);
  const lastKey = useRef("");

  const record = async () => {
    if (!text.trim()) return setWrong(t`Type the number on the meter first, for example 0.94.`);
    if (target && !reason.trim()) return setWrong(t`Say in a few words why the first number was wrong.`);
    const id = newId();
    const typed = text;
    type(() => "");
    setWrong(null);
    const body = {
      id,
      cell_id: cellId,
      red,
      black,
      text: typed,
      unit,
      origin,
      device_at: new Date().toISOString(),
      corrects: target?.id ?? null,
      reason: target ? reason : "",
    };
    const refusal = await outbox.add({ kind: "reading", id, cell_id: cellId, body });
    if (refusal !== null) {
      await outbox.remove(id);
      type((now) => now || typed);
      return setWrong(refusal);
    }
    recorded();
    // Only a correction ends correcting: meanwhile somebody may have begun to correct another entry.
    if (target) finished();
  };

  // Letters that stand for something are heard on the whole page; here only what belongs to the number: its unit.
  const onKey = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const key = event.key.toLowerCase();
    if (key === "m") setUnit("mV");
    if (key === "v" && lastKey.current !== "m") setUnit("V");
    if (key === "m" || key === "v") event.preventDefault();
    lastKey.current = key;
  };

  const Send = enough && !target ? Button : MainButton; // then the next cell is what is to be done
  const other = unit === "V" ? "mV" : "V";
  return (
    <Entry
      validationBehavior="aria"
      onSubmit={(event) => {
        event.preventDefault();
        void record();
      }}
    >
      <Big
        aria-label={t`Reading in ${unit === "V" ? t`volts` : t`millivolts`}`}
        value={text}
        onChange={(value) => {
          type(() => value);
          setWrong(null);
        }}
        isDisabled={!open}
        isInvalid={wrong !== null}
        inputMode="decimal"
        maxLength={32}
        autoComplete="off"
        autoFocus
      >
        <Input ref={field} placeholder={number(0, 2)} onKeyDown={onKey} />
        <span aria-hidden>{unit}</span>
        <FieldError />
      </Big>
      <Buttons>
        <Button onPress={() => setUnit(other)} isDisabled={!open}>
          <Trans>
            Type in {other} <Key>{other === "mV" ? "M" : "V"}</Key>
          </Trans>
        </Button>
        <Send type="submit" isDisabled={!open}>
          {target ? t`Correct` : enough ? t`Record one more` : t`Record`}{" "}
          <Key>
            <Trans>Enter</Trans>
          </Key>
        </Send>
      </Buttons>
      {wrong && <WrongBelow role="alert">{wrong}</WrongBelow>}
      {target && (
        <Why>
          <Line label={t`Why was it wrong?`} value={reason} onChange={setReason} maxLength={200} />
          <Row>
            {REASONS.map((one) => (
              <Button key={one} onPress={() => setReason(one)}>
                {one}
              </Button>
            ))}
          </Row>
          <Soft>
            <Trans>
              The old number stays, struck through. <TextButton onPress={finished}>Leave it as it is</TextButton>
            </Trans>
          </Soft>
        </Why>
      )}
      {!target && (
        <Minus>
          {t`No minus on your keypad? `}
          <TextButton onPress={() => type((now) => (/^[-\u2212]/.test(now) ? now.slice(1) : `\u2212${now}`))}>
            <Trans>Put or take the minus</Trans>
          </TextButton>
        </Minus>
      )}
    </Entry>
  );
}
