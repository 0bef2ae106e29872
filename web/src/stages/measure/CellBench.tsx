import { type ReactNode, useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { CellDrawing } from "../../charts/CellDrawing";
import { type Level, Tubes } from "../../charts/Tubes";
import { ordinal } from "../../format";
import { Button, Key } from "../../ui/Button";
import { Column, Columns, Soft, Spread } from "../../ui/layout";
import { phone } from "../../ui/theme";
import { bathName, useNames } from "../plan/useNames";
import { Predict } from "../predict/Predict";
import { CellRecord } from "./CellRecord";
import { EntryForm } from "./EntryForm";
import type { Outbox } from "./useOutbox";

type Cell = Schemas["BenchCell"];

const Picture = styled.div`
  max-width: 22rem;
  ${phone} {
    width: 15rem;
    margin: 0 auto;
  }
`;

/** On a phone the entry comes above the tubes, within reach of a thumb. */
const Work = styled.div`
  display: flex;
  flex-direction: column;
  gap: 0.9rem;
  ${phone} {
    flex-direction: column-reverse;
  }
`;

const Prepare = styled(Soft)`
  ${phone} {
    font-size: 0.92rem;
  }
`;

type Props = {
  cell: Cell;
  wanted: number;
  open: boolean;
  predict: boolean;
  meter: ReactNode;
  outbox: Outbox;
  next: ReactNode;
};

/** One cell: build it, read it, see and correct what was recorded. */
export function CellBench({ cell, wanted, open, predict, meter, outbox, next }: Props) {
  const names = useNames();
  const [swapped, setSwapped] = useState(false);
  const [correcting, setCorrecting] = useState<string | null>(null);
  const red = swapped ? cell.negative : cell.positive;
  const black = swapped ? cell.positive : cell.negative;
  const mine = outbox.waiting.filter((one) => one.entry.cell_id === cell.id);
  const correctedHere = new Set(mine.filter((one) => one.refusal === null).map((one) => one.entry.corrects));
  const kept = cell.readings.filter((one) => one.corrected_by === null && !correctedHere.has(one.id));
  const levels: Level[] = [
    ...kept.map(({ id, text, unit, volts_v }) => ({ id, text, unit, volts: volts_v })),
    ...mine
      .filter((one) => one.refusal === null && !cell.readings.some((reading) => reading.id === one.entry.id))
      .map(({ entry }) => ({ id: entry.id, text: entry.text, unit: entry.unit, volts: null })),
  ];
  const enough = levels.length >= wanted;
  const target = cell.readings.find((one) => one.id === correcting) ?? null;
  const title = target
    ? `Correct ${target.text} ${target.unit}`
    : enough
      ? `${levels.length} readings are in`
      : `${ordinal(levels.length + 1)} reading of ${wanted}`;
  return (
    <Columns $left="minmax(0, 27rem)">
      <Column>
        <h1>Build this cell</h1>
        <p>
          Black lead on <strong>{names.plate(black)}</strong>, red lead on <strong>{names.plate(red)}</strong>, in{" "}
          {bathName(names, cell)}.
        </p>
        <Picture>
          <CellDrawing
            left={{ key: cell.negative, symbol: names.symbol(cell.negative) }}
            right={{ key: cell.positive, symbol: names.symbol(cell.positive) }}
            liquid={{ key: cell.electrolyte, name: names.liquid(cell.electrolyte) }}
            redOnLeft={swapped}
          />
        </Picture>
        <p>
          <Button onPress={() => setSwapped(!swapped)} aria-pressed={swapped}>
            {swapped ? "Leads are swapped" : "Swap leads"} <Key>S</Key>
          </Button>
        </p>
        <Prepare>
          {names.symbol(cell.negative)}: {names.prepare(cell.negative)} {names.symbol(cell.positive)}:{" "}
          {names.prepare(cell.positive)} The plates must not touch. Clips stay above the liquid.
        </Prepare>
      </Column>
      <Column>
        {meter}
        {predict && <Predict cell={cell} outbox={outbox} open={open && levels.length === 0} />}
        <Spread>
          <h2>{title}</h2>
          <Soft>{!target && levels.length > 0 && !enough && "lift out, rinse, put back first"}</Soft>
        </Spread>
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
            swap={() => setSwapped((before) => !before)}
            finished={() => setCorrecting(null)}
          />
        </Work>
        <CellRecord
          cell={cell}
          waiting={mine}
          correcting={correcting}
          correct={open ? setCorrecting : null}
          remove={outbox.remove}
        />
        {next}
      </Column>
    </Columns>
  );
}
