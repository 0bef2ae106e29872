import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { only } from "../../api/outbox";
import { asTyped } from "../../format";
import { type Way, becauseSaid, waySaid } from "../../lab/predicted";
import { Because, MoreOrLess } from "./PredictParts";
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
type Help = "none" | "values" | "lines";

/** The subtraction as far as it is asked for; its last line stays with the group until `whole`. */
function Subtraction({ working, help, whole }: { working: Working; help: Help; whole: boolean }) {
  if (working.lines.length === 0)
    return (
      <Soft>
        <Trans>{working.reason} Guess from what you know.</Trans>
      </Soft>
    );
  const shown = whole ? working.lines : help === "lines" ? working.lines.slice(0, -1) : [];
  return (
    <Lines aria-label={t`The subtraction`}>
      {shown.map((line) => (
        <li key={line.text}>
          <Num>{line.text}</Num> <small>{line.why}</small>
        </li>
      ))}
      {!whole && help === "lines" && (
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

/** Help with the subtraction that is there when somebody asks: the two values of the table, then the lines. */
function Helped({ working, cell, help, ask }: HelpedProps) {
  const names = useNames();
  return (
    <>
      {help === "values" && (
        <p>
          {working.values.map((one) => (
            <Num key={one.plate} as="span" style={{ marginRight: "1.2rem" }}>
              {`E°(${names.symbol(one.plate)}) = ${one.text}`}
            </Num>
          ))}
        </p>
      )}
      <Subtraction working={working} help={help} whole={false} />
      {help !== "lines" && working.lines.length > 0 && (
        <Row role="group" aria-label={t`Help with the subtraction for ${cell.short}`}>
          <Soft>
            <Trans>Need help?</Trans>
          </Soft>
          {help === "none" && (
            <TextButton onPress={() => ask("values")}>
              <Trans>The two values</Trans>
            </TextButton>
          )}
          <TextButton onPress={() => ask("lines")}>
            <Trans>The lines</Trans>
          </TextButton>
        </Row>
      )}
    </>
  );
}

type HelpedProps = { working: Working; cell: Schemas["BenchCell"]; help: Help; ask: (help: Help) => void };

type Props = {
  cell: Schemas["BenchCell"];
  /** How many of its cells the group has predicted before: help fades with it. */
  before: number;
  outbox: Outbox;
  open: boolean;
  skipped: boolean;
  setSkipped: (skipped: boolean) => void;
  done: () => void;
};

const FADES: Help[] = ["lines", "values"];

/** Before a cell is built: which plate, how many volts, more or less than the table, and why. Never in the way. */
export function Predict({ cell, before, outbox, open, skipped, setSkipped, done }: Props) {
  const [again, setAgain] = useState(false);
  const [wrong, setWrong] = useState<string | null>(null);
  const waiting = only(outbox.waiting, "prediction")
    .filter((one) => one.cell_id === cell.id && one.refusal === null)
    .at(-1);
  const kept = waiting?.body ?? cell.prediction;
  if (kept && !again)
    return (
      <KeptPrediction
        cell={cell}
        kept={kept}
        remark={waiting ? "" : (cell.prediction?.remark ?? "")}
        again={open && cell.readings.length === 0 ? () => setAgain(true) : null}
      />
    );
  if (!open || cell.asks === "nothing" || (cell.asks === "cell" && cell.working.length === 0)) return null;
  if (skipped)
    return (
      <p>
        <TextButton onPress={() => setSkipped(false)}>
          <Trans>Predict this cell first</Trans>
        </TextButton>
      </p>
    );
  const keep = async (said: Pick<Schemas["PredictionIn"], "negative" | "text" | "way" | "because">) => {
    const id = newId();
    const body = { id, cell_id: cell.id, unit: "V" as const, device_at: new Date().toISOString(), ...said };
    const refusal = await outbox.add({ kind: "prediction", id, cell_id: cell.id, body });
    if (refusal !== null) {
      await outbox.remove(id);
      return setWrong(refusal);
    }
    setWrong(null);
    setAgain(false);
    done();
  };
  const skip = () => {
    setSkipped(true);
    done();
  };
  return cell.asks === "change" ? (
    <OfTheChange cell={cell} keep={keep} skip={skip} wrong={wrong} setWrong={setWrong} />
  ) : (
    <OfTheCell
      cell={cell}
      group={outbox.group}
      help={FADES[before] ?? "none"}
      keep={keep}
      skip={skip}
      wrong={wrong}
      setWrong={setWrong}
    />
  );
}

type Kept = Pick<Schemas["PredictionOut"], "negative" | "text" | "unit"> & { way?: string; because?: string };
type KeptProps = { cell: Schemas["BenchCell"]; kept: Kept; remark: string; again: (() => void) | null };

/** What was said stands as it was said until the meter has spoken; then what became of it, and the working. */
function KeptPrediction({ cell, kept, remark, again }: KeptProps) {
  const names = useNames();
  const read = cell.readings.length > 0;
  const working = cell.working.find((one) => one.negative === kept.negative);
  return (
    <Panel aria-label={t`Your prediction`}>
      <h2>
        {kept.text ? (
          <Trans>
            <Diamond /> You predicted: {names.plate(kept.negative)} negative, <Num>{asTyped(kept.text, kept.unit)}</Num>
          </Trans>
        ) : (
          <Trans>
            <Diamond /> You predicted: {waySaid(kept.way ?? "", cell.against)}
          </Trans>
        )}
      </h2>
      {kept.text && kept.way && <p>{waySaid(kept.way, "")}</p>}
      {kept.because && <Soft>{t`because: ${becauseSaid(kept.because)}`}</Soft>}
      {remark && <Soft role="status">{remark}</Soft>}
      {read && cell.prediction?.told && <p role="status">{cell.prediction.told}</p>}
      {read && kept.text && working && working.lines.length > 0 && (
        <details>
          <summary>
            <Trans>The working by the table</Trans>
          </summary>
          <Subtraction working={working} help="lines" whole />
        </details>
      )}
      {again && (
        <p>
          <TextButton onPress={again}>
            <Trans>Predict again</Trans>
          </TextButton>
        </p>
      )}
    </Panel>
  );
}

type Keep = (said: Pick<Schemas["PredictionIn"], "negative" | "text" | "way" | "because">) => Promise<void>;
type OfProps = {
  cell: Schemas["BenchCell"];
  keep: Keep;
  skip: () => void;
  wrong: string | null;
  setWrong: (wrong: string | null) => void;
};

/** The plate, the number, and whether the meter will show more or less than the table. */
function OfTheCell({ cell, group, help, keep, skip, wrong, setWrong }: OfProps & { group: string; help: Help }) {
  const names = useNames();
  const [negative, setNegative] = useKept<string | null>(`predict:${cell.id}:plate`, null);
  const [text, setText] = useKept(`${group}:predict:${cell.id}`, "");
  const [way, setWay] = useKept<Way | "">(`predict:${cell.id}:way`, "");
  const [because, setBecause] = useKept(`${group}:predict:${cell.id}:because`, "");
  const [asked, setAsked] = useState<Help>(help);
  const working = cell.working.find((one) => one.negative === negative);
  const send = async () => {
    if (!negative || !text.trim()) return setWrong(t`Choose a plate and type how many volts, for example 1.1.`);
    await keep({ negative, text, way, because });
  };
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
        <TextButton onPress={skip}>
          <Trans>Skip the prediction</Trans>
        </TextButton>
      </Row>
      {working && (
        <Work
          onSubmit={(event) => {
            event.preventDefault();
            void send();
          }}
        >
          <Helped working={working} cell={cell} help={asked} ask={setAsked} />
          <Volts>
            <TextField
              label={t`How many volts by the table?`}
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
          {text.trim() && <MoreOrLess label={t`Will the meter show …`} way={way} choose={setWay} against="" />}
          {way && <Because value={because} onChange={setBecause} />}
          <Ask>
            <MainButton type="submit">
              <Trans>Keep this prediction</Trans>
            </MainButton>
          </Ask>
        </Work>
      )}
      {wrong && <Wrong>{wrong}</Wrong>}
    </Panel>
  );
}

/** Of another level of what the lab changes: what the change will do, once. */
function OfTheChange({ cell, keep, skip, wrong, setWrong }: OfProps) {
  const [way, setWay] = useKept<Way | "">(`predict:${cell.id}:way`, "");
  const [because, setBecause] = useKept(`predict:${cell.id}:because`, "");
  const send = async () => {
    if (!way) return setWrong(t`Choose more, less or about the same first.`);
    await keep({ negative: cell.negative, text: "", way, because });
  };
  return (
    <Panel aria-label={t`Predict`}>
      <h2>
        <Trans>
          <Diamond /> Predict: {cell.condition} instead of {cell.against}
        </Trans>
      </h2>
      <Work
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        <MoreOrLess label={t`Will the meter show …`} way={way} choose={setWay} against={cell.against} />
        {way && <Because value={because} onChange={setBecause} />}
        <Ask>
          <MainButton type="submit">
            <Trans>Keep this prediction</Trans>
          </MainButton>
          <TextButton onPress={skip}>
            <Trans>Skip the prediction</Trans>
          </TextButton>
        </Ask>
      </Work>
      {wrong && <Wrong>{wrong}</Wrong>}
    </Panel>
  );
}

const Wrong = ({ children }: { children: string }) => (
  <Soft role="alert">
    <strong>{children}</strong>
  </Soft>
);
