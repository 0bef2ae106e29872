import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import styled from "styled-components";
import { MainButton, TextButton } from "../../ui/Button";
import { Picks } from "../../ui/controls";
import { TextField } from "../../ui/fields";
import { Num, Row, Soft, WrongText } from "../../ui/layout";
import { AtOnePress } from "../../lab/AtOnePress";
import { leftOut } from "../../lab/standing";
import { useKept } from "../../ui/useKept";
import { asTyped } from "../../format";
import type { Shown } from "./packView";

const Ask = styled.form`
  display: grid;
  gap: 0.4rem;
  & > div {
    align-items: end;
  }
`;

const Field = styled.div`
  width: 11rem;
`;

type Props = {
  slot: string;
  label: string;
  unit: "V" | "mA";
  how: string;
  now: Shown | undefined;
  open: boolean;
  /** Keep it; what the server said if it would not. */
  record: (text: string, corrects: { id: string; reason: string } | null, unit?: string) => Promise<string | null>;
};

const AMPERES = ["µA", "mA", "A"];

/** One number: measured again, the latest counts; typed wrong, it is corrected with a reason. The text goes as typed. */
export function NumberEntry({ slot, label, unit, how, now, open, record }: Props) {
  const [text, setText] = useKept(slot, "");
  const [current, setCurrent] = useKept<string>(`choice:${slot}:unit`, unit);
  const [asking, setAsking] = useState<"" | "again" | "correct">("");
  const [reason, setReason] = useKept(`${slot}:reason`, "");
  const [wrong, setWrong] = useState<string | null>(null);
  const correcting = asking === "correct";
  const shown = !now || asking !== "" || text !== "";
  const keep = async () => {
    if (!text.trim()) return setWrong(t`Type the number on the meter first.`);
    if (correcting && !reason.trim()) return setWrong(t`Say in a few words why the first number was wrong.`);
    const [typed, why, asked] = [text, reason, asking];
    const corrects = correcting && now ? { id: now.id, reason } : null;
    // Cleared at once: by the time the answer is here, somebody may be typing the next number.
    setText("");
    setAsking("");
    setWrong(null);
    if (corrects) setReason("");
    const refusal = await record(typed, corrects, unit === "mA" ? current : undefined);
    if (refusal === null) return;
    setText((later) => later || typed);
    setAsking((later) => later || asked);
    if (corrects) setReason((later) => later || why);
    setWrong(refusal);
  };
  return (
    <Ask
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      {shown && how && <Soft>{how}</Soft>}
      {now && (
        <p>
          <Num>{asTyped(now.text, now.unit || unit)}</Num>{" "}
          {now.waiting ? t`safe on this device, not sent yet` : t`recorded`}
          {leftOut(now) && <WrongText as="span">{`, ${t`does not count yet`}`}</WrongText>}
          {". "}
          {open && (
            <>
              <TextButton
                onPress={() => setAsking(asking === "again" ? "" : "again")}
                aria-expanded={asking === "again"}
              >
                <Trans>Measure again</Trans>
              </TextButton>
              {!now.waiting && (
                <>
                  {" · "}
                  <TextButton onPress={() => setAsking(correcting ? "" : "correct")} aria-expanded={correcting}>
                    {correcting ? t`Leave it as it is` : t`Typed wrong?`}
                  </TextButton>
                </>
              )}
            </>
          )}
        </p>
      )}
      {open && now?.repair && (
        <AtOnePress
          key={now.id}
          repairs={[now.repair]}
          send={(repair) => record(repair.text, { id: now.id, reason: repair.reason }, repair.unit)}
        />
      )}
      {shown && (
        <Row>
          <Field>
            <TextField
              label={`${label}, ${unit === "mA" ? current : unit}`}
              value={text}
              onChange={(value) => {
                setText(value);
                setWrong(null);
              }}
              inputMode="decimal"
              autoComplete="off"
              maxLength={32}
              isDisabled={!open}
            />
          </Field>
          {unit === "mA" && (
            <Picks
              label={t`Unit`}
              options={AMPERES.map((one) => ({ key: one, name: one }))}
              value={current}
              onChange={setCurrent}
            />
          )}
          <MainButton type="submit" isDisabled={!open}>
            {correcting ? t`Correct` : t`Record`}
          </MainButton>
        </Row>
      )}
      {correcting && <TextField label={t`Why was it wrong?`} value={reason} onChange={setReason} maxLength={200} />}
      {wrong && <WrongText role="alert">{wrong}</WrongText>}
    </Ask>
  );
}
