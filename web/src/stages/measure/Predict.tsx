import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { newId } from "../../api/newId";
import { only } from "../../api/outbox";
import { asTyped } from "../../format";
import { becauseSaid, waySaid } from "../../lab/predicted";
import { struck } from "../../lab/standing";
import { useNames } from "../../lab/useNames";
import { type Outbox } from "../../lab/useOutbox";
import { TextButton } from "../../ui/Button";
import { Num, Soft } from "../../ui/layout";
import { usePhone } from "../../ui/usePhone";
import { type Keep, OfTheCell, OfTheChange, OfTheOrder } from "./PredictForms";
import { Diamond, Panel } from "./PredictParts";
import { type Help, Subtraction } from "./Subtraction";

type Props = {
  cell: Schemas["BenchCell"];
  cells: Schemas["BenchCell"][];
  outbox: Outbox;
  open: boolean;
  skipped: boolean;
  setSkipped: (skipped: boolean) => void;
  done: () => void;
};

/** How many other cells a group has foretold in volts, sent or not: help fades with it. */
const foretold = (cells: Schemas["BenchCell"][], outbox: Outbox, but: string): number => {
  const waiting = only(outbox.waiting, "prediction").filter((one) => one.refusal === null && one.body.text);
  const said = [
    ...cells.filter((one) => one.prediction?.text).map(({ id }) => id),
    ...waiting.map((one) => one.cell_id),
  ];
  return new Set(said.filter((id) => id !== but)).size;
};

const FADES: Help[] = ["lines", "values"];

/** Before a cell is built: which plate, how many volts, more or less than the table, and why. Never in the way. */
export function Predict({ cell, cells, outbox, open, skipped, setSkipped, done }: Props) {
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
  const keep: Keep = async (said) => {
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
  const form = { cell, keep, skip, wrong, setWrong };
  if (cell.asks === "change") return <OfTheChange {...form} group={outbox.group} />;
  if (cell.asks === "order") return <OfTheOrder {...form} group={outbox.group} />;
  const help = FADES[foretold(cells, outbox, cell.id)] ?? "none";
  return <OfTheCell {...form} group={outbox.group} help={help} />;
}

type Kept = Pick<Schemas["PredictionOut"], "negative" | "text" | "unit"> & { way?: string; because?: string };
type KeptProps = { cell: Schemas["BenchCell"]; kept: Kept; remark: string; again: (() => void) | null };

/** What was said stands as it was said until the meter has spoken; then what became of it, and the working. */
function KeptPrediction({ cell, kept, remark, again }: KeptProps) {
  const names = useNames();
  const onPhone = usePhone();
  const read = cell.readings.some((reading) => !struck(reading));
  const working = cell.working.find((one) => one.negative === kept.negative);
  const said = kept.text ? (
    <Trans>
      <Diamond /> You predicted: {names.plate(kept.negative)} negative, <Num>{asTyped(kept.text, kept.unit)}</Num>
    </Trans>
  ) : !kept.way ? (
    <Trans>
      <Diamond /> You predicted: {names.plate(kept.negative)} negative
    </Trans>
  ) : (
    <Trans>
      <Diamond /> You predicted: {waySaid(kept.way, cell.against)}
    </Trans>
  );
  const more = (
    <>
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
    </>
  );
  // Until the meter has spoken it takes one line of a phone: the entry stays on its first screen.
  if (onPhone && !read)
    return (
      <Panel aria-label={t`Your prediction`}>
        <details>
          <summary>
            <b>{said}</b>
          </summary>
          {more}
        </details>
      </Panel>
    );
  return (
    <Panel aria-label={t`Your prediction`}>
      <h2>{said}</h2>
      {more}
    </Panel>
  );
}
