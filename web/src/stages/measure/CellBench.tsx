import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type ReactNode, type RefObject, useRef, useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useMeter } from "../../api/meter";
import { Tubes } from "../../charts/Tubes";
import { number, ordinal, volts } from "../../format";
import { Button, Key } from "../../ui/Button";
import { Disclosure } from "../../ui/controls";
import { Column, Columns, Row, Soft, Spread } from "../../ui/layout";
import { phone } from "../../ui/theme";
import { counted } from "../../lab/standing";
import { useKept } from "../../ui/useKept";
import { useMovesTo } from "../../ui/useMovesTo";
import { focusOn, hasOwnEnter, useShortcuts } from "../../ui/useShortcuts";
import { usePhone } from "../../ui/usePhone";
import { AsFound, foundSoFar } from "./AsFound";
import { BuildCell } from "./BuildCell";
import { Ask, askedSoFar } from "./Ask";
import { Predict } from "./Predict";
import { CellRecord } from "./CellRecord";
import { EntryForm } from "./EntryForm";
import { FromLogger } from "./FromLogger";
import { OffSheet } from "./OffSheet";
import { SaidOfLast } from "./SaidOfLast";
import { Seen } from "./Seen";
import { SettleByMeter, SettleByTime } from "./Settle";
import { standOf } from "./standOf";
import { UnderLoad } from "./UnderLoad";
import { useEntry } from "./useEntry";
import type { Outbox } from "../../lab/useOutbox";

type Cell = Schemas["BenchCell"];
/** When the plates went in, and whether for the first time at this cell. */
type Dip = { at: number; again: boolean };

/** On a phone the entry comes above the tubes, within reach of a thumb, and what answers it directly under it. */
const Work = styled.div`
  display: flex;
  flex-direction: column;
  gap: 0.9rem;
  ${phone} {
    & > :first-child {
      order: 1;
    }
  }
`;

type Props = {
  cell: Cell;
  bench: Schemas["BenchOut"];
  meterCheck: ReactNode;
  checkFirst: ReactNode;
  outbox: Outbox;
  next: ReactNode;
  onward: ReactNode;
  field: RefObject<HTMLInputElement | null>;
  heading: RefObject<HTMLHeadingElement | null>;
};

/** How the last two readings differ, in words; nothing of one that is remarked on or turned round, which says so itself. */
function trendOf(cell: Cell): string | null {
  const remarked = new Set(cell.findings.map((finding) => finding.reading));
  const [before, last] = counted(cell).slice(-2);
  if (!before || !last || remarked.has(before.id) || remarked.has(last.id) || before.red !== last.red) return null;
  const change = last.signed_v - before.signed_v;
  const shown = Math.abs(change) < 1 ? `${number(1000 * change, 0, true)} mV` : volts(change, 2, true);
  return t`Last reading ${shown} from the one before.`;
}

/** One cell: build it, wait, read it, see and correct what was recorded. */
export function CellBench(props: Props) {
  const { cell, bench, meterCheck, checkFirst, outbox, next, onward, field, heading } = props;
  const onPhone = usePhone();
  const { wanted } = bench;
  const open = bench.state === "open";
  const [swapped, setSwapped] = useState(false);
  const [correcting, setCorrecting] = useState<string | null>(null);
  const [off, setOff] = useState(false);
  const [dip, setDip] = useKept<Dip | null>(`${bench.group_id}:dip:${cell.id}`, null);
  const [skipped, setSkipped] = useKept(`choice:${bench.group_id}:predict:${cell.id}:skip`, false);
  const toCorrect = useRef<HTMLHeadingElement>(null);
  useMovesTo(correcting ?? "new", toCorrect);
  const entry = useEntry(bench.group_id, cell.id, correcting ?? "new");
  const meter = useMeter(cell.id, bench.live_meter && open);
  const red = swapped ? cell.negative : cell.positive;
  const black = swapped ? cell.positive : cell.negative;
  const { mine, kept, levels, counting, enough, asking, guessing } = standOf(cell, bench, outbox, skipped);
  const putIn = () => {
    setDip({ at: Date.now(), again: counting.length > 0 });
    focusOn(field.current);
  };
  const target = [...cell.readings, ...mine.map((one) => one.body)].find((one) => one.id === correcting) ?? null;
  const title = target
    ? t`Correct ${target.text} ${target.unit}`
    : enough
      ? t`${counting.length} readings are in`
      : t`${ordinal(counting.length + 1)} reading of ${wanted}`;

  const last = kept.at(-1)?.id;
  const saidOfLast = cell.findings.filter((finding) => finding.reading === last);

  const toEntry = () => focusOn(field.current);
  const readMeter = () => {
    if (meter.sample) entry.fill(meter.sample.text, meter.sample.simulated ? "simulated" : "meter");
    toEntry();
  };
  /** Do what a key stands for; whether it stands for anything. */
  const press = (key: string): boolean => {
    if (key === "s" && !guessing) setSwapped((before) => !before);
    else if (key === "?") setOff((before) => !before);
    else if (key === "d") putIn();
    else if (key === "r" && bench.live_meter) readMeter();
    else return false;
    return true;
  };
  useShortcuts((key, target) => {
    const pressed = key.toLowerCase();
    const inField = target instanceof HTMLInputElement && target.inputMode === "decimal";
    if (!inField && pressed === "m") entry.setUnit("mV");
    else if (!inField && pressed === "v") entry.setUnit("V");
    else if (key === "Enter" && !hasOwnEnter(target)) field.current?.form?.requestSubmit();
    else return press(pressed);
    return true;
  });

  const predict = bench.predict && (
    <Predict
      cell={cell}
      cells={bench.cells}
      outbox={outbox}
      open={open && counting.length === 0}
      skipped={skipped}
      setSkipped={setSkipped}
      done={toEntry}
    />
  );
  // On a phone they come after the entry, which stays on its first screen.
  const leadsAndTrouble = (
    <>
      <Row>
        {!guessing && (
          <Button onPress={() => setSwapped(!swapped)}>
            {swapped ? t`Swap leads back` : t`Swap leads`} <Key>S</Key>
          </Button>
        )}
        <Button onPress={() => setOff(!off)} aria-expanded={off}>
          <Trans>
            Something is off <Key>?</Key>
          </Trans>
        </Button>
      </Row>
      {off && <OffSheet close={() => setOff(false)} />}
    </>
  );
  const loads = bench.short_circuit || bench.load_ohm !== null;
  return (
    <Columns $left="minmax(0, 27rem)">
      <Column>
        {onPhone && asking && predict}
        <BuildCell
          cell={cell}
          guessing={guessing}
          swapped={swapped}
          begun={counting.length > 0}
          heading={heading}
          checkFirst={checkFirst}
          beside={leadsAndTrouble}
        />
      </Column>
      <Column>
        {meterCheck}
        {!onPhone && predict}
        <Spread>
          <h2 ref={toCorrect} tabIndex={-1}>
            {title}
          </h2>
          {enough && !target && onward}
          <Soft>{!target && counting.length > 0 && !enough && t`lift out, rinse, put back first`}</Soft>
        </Spread>
        {open &&
          (bench.live_meter ? (
            <SettleByMeter meter={meter} read={readMeter} />
          ) : (
            <SettleByTime
              dipped={dip?.at ?? null}
              dip={putIn}
              again={counting.length > 0}
              settleS={(dip ? dip.again : counting.length > 0) ? bench.settle_again_s : bench.settle_s}
              trend={trendOf(cell)}
            />
          ))}
        <Work>
          <Tubes levels={levels} wanted={wanted} />
          <EntryForm
            key={correcting ?? "new"}
            cellId={cell.id}
            red={red}
            black={black}
            target={target}
            open={open}
            enough={enough}
            outbox={outbox}
            entry={entry}
            field={field}
            finished={() => {
              setCorrecting(null);
              setTimeout(toEntry);
            }}
            recorded={() => setDip(null)}
          />
          <SaidOfLast
            enough={enough}
            findings={saidOfLast}
            reading={cell.readings.find(({ id }) => id === last)}
            outbox={outbox}
            open={open}
          />
        </Work>
        {onPhone && !asking && predict}
        {onPhone && leadsAndTrouble}
        <CellRecord
          cell={cell}
          waiting={mine}
          correcting={correcting}
          correct={open ? setCorrecting : null}
          said={last}
          outbox={outbox}
          remove={outbox.remove}
        />
        {cell.level && (
          <Disclosure title={t`What it really was`} detail={foundSoFar(cell)}>
            <AsFound cell={cell} level={cell.level} open={open} outbox={outbox} />
          </Disclosure>
        )}
        {loads && (
          <Disclosure title={t`Under load`} detail={t`only after the open voltage, only for seconds`}>
            <UnderLoad cell={cell} bench={bench} open={open} outbox={outbox} />
          </Disclosure>
        )}
        <Disclosure title={t`What you see`} detail={seenSoFar(cell)}>
          <Seen cell={cell} open={open} outbox={outbox} />
        </Disclosure>
        <Disclosure title={t`Ask about this cell`} detail={askedSoFar(cell)}>
          <Ask cell={cell} open={open} outbox={outbox} />
        </Disclosure>
        <Disclosure title={t`From a data logger`} detail={t`a CSV file`}>
          <FromLogger cell={cell} open={open} outbox={outbox} take={(text) => entry.fill(text, "imported")} />
        </Disclosure>
        {next}
      </Column>
    </Columns>
  );
}

function seenSoFar({ beside }: Cell): string {
  const n = beside.observations.length + beside.photos.filter((one) => one.removed_at === null).length;
  return n ? t`${n} kept` : t`notes and photographs`;
}
