import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { type Way } from "../../lab/predicted";
import { useNames } from "../../lab/useNames";
import { Button, MainButton, TextButton } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Row, Soft } from "../../ui/layout";
import { useKept } from "../../ui/useKept";
import { Because, Diamond, MoreOrLess, Panel } from "./PredictParts";
import { type Help, Helped } from "./Subtraction";

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

export type Keep = (said: Pick<Schemas["PredictionIn"], "negative" | "text" | "way" | "because">) => Promise<void>;
type OfProps = {
  cell: Schemas["BenchCell"];
  keep: Keep;
  skip: () => void;
  wrong: string | null;
  setWrong: (wrong: string | null) => void;
};

/** The plate, the number, and whether the meter will show more or less than the table. */
export function OfTheCell({ cell, group, help, keep, skip, wrong, setWrong }: OfProps & { group: string; help: Help }) {
  const [negative, setNegative] = useKept<string | null>(`predict:${cell.id}:plate`, null);
  const [text, setText] = useKept(`${group}:predict:${cell.id}`, "");
  const [way, setWay] = useKept<Way | "">(`predict:${cell.id}:way`, "");
  const [because, setBecause] = useKept(`${group}:predict:${cell.id}:because`, "");
  const [asked, setAsked] = useState<Help>(help);
  const working = cell.working.find((one) => one.negative === negative);
  const inTable = working !== undefined && working.lines.length > 0; // of an inert plate the table has no line
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
      <NegativePlate
        cell={cell}
        value={negative}
        choose={(plate) => {
          setNegative(plate);
          setWrong(null);
        }}
        skip={skip}
      />
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
              label={inTable ? t`How many volts by the table?` : t`How many volts?`}
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
          {text.trim() && inTable && (
            <MoreOrLess label={t`Will the meter show …`} way={way} choose={setWay} against="" />
          )}
          {(way || (text.trim() && !inTable)) && <Because value={because} onChange={setBecause} />}
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

type PlateProps = {
  cell: Schemas["BenchCell"];
  value: string | null;
  choose: (plate: string) => void;
  skip: () => void;
};

/** Which plate, in an order that gives nothing away. */
function NegativePlate({ cell, value, choose, skip }: PlateProps) {
  const names = useNames();
  return (
    <Row role="group" aria-label={t`The negative plate`}>
      {[cell.negative, cell.positive]
        .sort((a, b) => names.plate(a).localeCompare(names.plate(b)))
        .map((plate) => (
          <Button key={plate} aria-pressed={value === plate} onPress={() => choose(plate)}>
            {value === plate ? "◆ " : ""}
            {names.plate(plate)}
          </Button>
        ))}
      <TextButton onPress={skip}>
        <Trans>Skip the prediction</Trans>
      </TextButton>
    </Row>
  );
}

/** The plate alone, and why: for a class that has no table yet. */
export function OfTheOrder({ cell, group, keep, skip, wrong, setWrong }: OfProps & { group: string }) {
  const [negative, setNegative] = useKept<string | null>(`predict:${cell.id}:plate`, null);
  const [because, setBecause] = useKept(`${group}:predict:${cell.id}:because`, "");
  const send = async () => {
    if (!negative) return setWrong(t`Choose a plate first.`);
    await keep({ negative, text: "", way: "", because });
  };
  return (
    <Panel aria-label={t`Predict`}>
      <h2>
        <Trans>
          <Diamond /> Predict: which plate will be negative?
        </Trans>
      </h2>
      <NegativePlate
        cell={cell}
        value={negative}
        choose={(plate) => {
          setNegative(plate);
          setWrong(null);
        }}
        skip={skip}
      />
      <Work
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        {negative && <Because value={because} onChange={setBecause} />}
        <Ask>
          <MainButton type="submit">
            <Trans>Keep this prediction</Trans>
          </MainButton>
        </Ask>
      </Work>
      {wrong && <Wrong>{wrong}</Wrong>}
    </Panel>
  );
}

/** Of another level of what the lab changes: what the change will do, once. */
export function OfTheChange({ cell, keep, skip, wrong, setWrong }: OfProps) {
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
