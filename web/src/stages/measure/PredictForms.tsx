import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type ReactNode, useState } from "react";
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
type FormProps = {
  title: ReactNode;
  above?: ReactNode;
  send: () => Promise<void>;
  skip?: () => void;
  wrong: string | null;
  children: ReactNode;
};

/** What every prediction is asked in: a question, what is chosen first, and the rest once there is something to keep. */
function Asking({ title, above, send, skip, wrong, children }: FormProps) {
  return (
    <Panel aria-label={t`Predict`}>
      <h2>
        <Diamond /> {title}
      </h2>
      {above}
      {children && (
        <Work
          onSubmit={(event) => {
            event.preventDefault();
            void send();
          }}
        >
          {children}
          <Ask>
            <MainButton type="submit">
              <Trans>Keep this prediction</Trans>
            </MainButton>
            {skip && <Skip skip={skip} />}
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

const Skip = ({ skip }: { skip: () => void }) => (
  <TextButton onPress={skip}>
    <Trans>Skip the prediction</Trans>
  </TextButton>
);

type OfProps = {
  cell: Schemas["BenchCell"];
  group: string;
  keep: Keep;
  skip: () => void;
  wrong: string | null;
  setWrong: (wrong: string | null) => void;
};

/** Which plate, in an order that gives nothing away; what is chosen outlives a reload. */
function usePlate({ cell, group, skip, setWrong }: OfProps): [string | null, ReactNode] {
  const names = useNames();
  const [negative, setNegative] = useKept<string | null>(`choice:${group}:predict:${cell.id}:plate`, null);
  const plates = [cell.negative, cell.positive].sort((a, b) => names.plate(a).localeCompare(names.plate(b)));
  return [
    negative,
    <Row key="plates" role="group" aria-label={t`The negative plate`}>
      {plates.map((plate) => (
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
      <Skip skip={skip} />
    </Row>,
  ];
}

/** The plate, the number, and whether the meter will show more or less than the table. */
export function OfTheCell(props: OfProps & { help: Help }) {
  const { cell, group, help, keep, wrong, setWrong } = props;
  const [negative, plates] = usePlate(props);
  const [text, setText] = useKept(`${group}:predict:${cell.id}`, "");
  const [way, setWay] = useKept<Way | "">(`choice:${group}:predict:${cell.id}:way`, "");
  const [because, setBecause] = useKept(`${group}:predict:${cell.id}:because`, "");
  const [asked, setAsked] = useState<Help>(help);
  const working = cell.working.find((one) => one.negative === negative);
  const inTable = working !== undefined && working.lines.length > 0; // of an inert plate the table has no line
  const send = async () => {
    if (!negative || !text.trim()) return setWrong(t`Choose a plate and type how many volts, for example 1.1.`);
    await keep({ negative, text, way, because });
  };
  return (
    <Asking title={t`Predict: which plate will be negative?`} above={plates} send={send} wrong={wrong}>
      {working && (
        <>
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
        </>
      )}
    </Asking>
  );
}

/** The plate alone, and why: for a class that has no table yet. */
export function OfTheOrder(props: OfProps) {
  const { cell, group, keep, wrong, setWrong } = props;
  const [negative, plates] = usePlate(props);
  const [because, setBecause] = useKept(`${group}:predict:${cell.id}:because`, "");
  const send = async () => {
    if (!negative) return setWrong(t`Choose a plate first.`);
    await keep({ negative, text: "", way: "", because });
  };
  return (
    <Asking title={t`Predict: which plate will be negative?`} above={plates} send={send} wrong={wrong}>
      {negative && <Because value={because} onChange={setBecause} />}
    </Asking>
  );
}

/** Of another level of what the lab changes: what the change will do, once. */
export function OfTheChange({ cell, group, keep, skip, wrong, setWrong }: OfProps) {
  const [way, setWay] = useKept<Way | "">(`choice:${group}:predict:${cell.id}:way`, "");
  const [because, setBecause] = useKept(`${group}:predict:${cell.id}:because`, "");
  const send = async () => {
    if (!way) return setWrong(t`Choose more, less or about the same first.`);
    await keep({ negative: cell.negative, text: "", way, because });
  };
  return (
    <Asking title={t`Predict: ${cell.condition} instead of ${cell.against}`} send={send} skip={skip} wrong={wrong}>
      <MoreOrLess label={t`Will the meter show …`} way={way} choose={setWay} against={cell.against} />
      {way && <Because value={because} onChange={setBecause} />}
    </Asking>
  );
}
