import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { only } from "../../api/outbox";
import { asTyped } from "../../format";
import { Button, MainButton, TextButton } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Num, Row, Soft } from "../../ui/layout";
import { colour } from "../../ui/theme";
import { useKept } from "../../ui/useKept";
import { newId } from "../../api/newId";
import { type Outbox } from "../../lab/useOutbox";
import { useNames } from "../../lab/useNames";

const Panel = styled.section`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0.6rem;
  max-width: 32rem;
  padding: 0.7rem 0.9rem;
  border: 1.5px solid ${colour.prediction};
  border-radius: 6px;
  background: ${colour.white};
  h2 {
    font-size: 1.05rem;
  }
`;

const Lines = styled.ol`
  display: grid;
  gap: 0.15rem;
  li {
    display: flex;
    flex-wrap: wrap;
    gap: 0.1rem 0.9rem;
    align-items: baseline;
  }
  small {
    color: ${colour.soft};
    font-size: 0.88rem;
  }
`;

const Diamond = () => (
  <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden>
    <path d="M7 1l6 6-6 6-6-6z" fill="none" stroke={colour.prediction} strokeWidth="1.8" />
  </svg>
);

const Ask = styled(Row)`
  align-items: end;
`;

const Work = styled.form`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0.7rem;
`;

const Volts = styled.div`
  width: 9rem;
`;

type Working = Schemas["Working"];

/** The subtraction line by line; the last line stays with the group until `whole`. */
function Subtraction({ working, whole }: { working: Working; whole: boolean }) {
  if (working.lines.length === 0)
    return (
      <Soft>
        <Trans>{working.reason} Guess from what you know.</Trans>
      </Soft>
    );
  const shown = whole ? working.lines : working.lines.slice(0, -1);
  return (
    <Lines aria-label={t`The subtraction`}>
      {shown.map((line) => (
        <li key={line.text}>
          <Num>{line.text}</Num> <small>{line.why}</small>
        </li>
      ))}
      {!whole && (
        <li>
          <Num>V = ?</Num>{" "}
          <small>
            <Trans>your turn</Trans>
          </small>
        </li>
      )}
    </Lines>
  );
}

type Props = {
  cell: Schemas["BenchCell"];
  outbox: Outbox;
  open: boolean;
  skipped: boolean;
  setSkipped: (skipped: boolean) => void;
  done: () => void;
};

/** Before a cell is built: which plate will be negative, and how many volts. Two taps and a number; never in the way. */
export function Predict({ cell, outbox, open, skipped, setSkipped, done }: Props) {
  const names = useNames();
  const [negative, setNegative] = useKept<string | null>(`predict:${cell.id}:plate`, null);
  const [text, setText] = useKept(`${outbox.group}:predict:${cell.id}`, "");
  const [again, setAgain] = useState(false);
  const [wrong, setWrong] = useState<string | null>(null);
  const waiting = only(outbox.waiting, "prediction")
    .filter((one) => one.cell_id === cell.id && one.refusal === null)
    .at(-1);
  const kept = waiting?.body ?? cell.prediction;

  if (kept && !again) {
    const working = cell.working.find((one) => one.negative === kept.negative);
    return (
      <Panel aria-label={t`Your prediction`}>
        <h2>
          <Trans>
            <Diamond /> You predicted: {names.plate(kept.negative)} negative, <Num>{asTyped(kept.text, kept.unit)}</Num>
          </Trans>
        </h2>
        {cell.prediction?.remark && !waiting && <Soft role="status">{cell.prediction.remark}</Soft>}
        {open && working && working.lines.length > 0 && <Subtraction working={working} whole />}
        {open && (
          <p>
            <TextButton onPress={() => setAgain(true)}>
              <Trans>Predict again</Trans>
            </TextButton>
          </p>
        )}
      </Panel>
    );
  }
  if (!open || cell.working.length === 0) return null;
  if (skipped)
    return (
      <p>
        <TextButton onPress={() => setSkipped(false)}>
          <Trans>Predict this cell first</Trans>
        </TextButton>
      </p>
    );

  const keep = async () => {
    if (!negative || !text.trim()) return setWrong(t`Choose a plate and type how many volts, for example 1.1.`);
    const id = newId();
    const body = {
      id,
      cell_id: cell.id,
      negative,
      text,
      unit: "V" as const,
      device_at: new Date().toISOString(),
    };
    const refusal = await outbox.add({ kind: "prediction", id, cell_id: cell.id, body });
    if (refusal !== null) {
      await outbox.remove(id);
      return setWrong(refusal);
    }
    setWrong(null);
    setAgain(false);
    done();
  };
  const working = cell.working.find((one) => one.negative === negative);
  return (
    <Panel aria-label={t`Predict`}>
      <h2>
        <Trans>
          <Diamond /> Predict: which plate will be negative?
        </Trans>
      </h2>
      <Row role="group" aria-label={t`The negative plate`}>
        {[cell.negative, cell.positive]
          .sort((a, b) => names.plate(a).localeCompare(names.plate(b)))
          .map((plate) => (
            <Button
              key={plate}
              aria-pressed={negative === plate}
              onPress={() => {
                setNegative(plate);
                setWrong(null);
              }}
            >
              {negative === plate ? "◆ " : ""}
              {names.plate(plate)}
            </Button>
          ))}
        <TextButton
          onPress={() => {
            setSkipped(true);
            done();
          }}
        >
          <Trans>Skip the prediction</Trans>
        </TextButton>
      </Row>
      {working && (
        <Work
          onSubmit={(event) => {
            event.preventDefault();
            void keep();
          }}
        >
          <Subtraction working={working} whole={false} />
          <Ask>
            <Volts>
              <TextField
                label={t`How many volts?`}
                value={text}
                onChange={(value) => {
                  setText(value);
                  setWrong(null);
                }}
                inputMode="decimal"
                autoComplete="off"
                maxLength={32}
              />
            </Volts>
            <MainButton type="submit">
              <Trans>Keep this prediction</Trans>
            </MainButton>
          </Ask>
        </Work>
      )}
      {wrong && (
        <Soft role="alert">
          <strong>{wrong}</strong>
        </Soft>
      )}
    </Panel>
  );
}
