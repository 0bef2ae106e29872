import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { current as inMilliamps, volts } from "../../format";
import { Button, MainButton } from "../../ui/Button";
import { Picks } from "../../ui/controls";
import { TextField } from "../../ui/fields";
import { Column, Columns, Row, Soft } from "../../ui/layout";
import { Select } from "../../ui/Select";
import { colour, font } from "../../ui/theme";
import { type Built, current, deviate, risen, seeded, settled, shown } from "./bench";
import { typedNumber } from "./drill";
import { type Read, ReadOff } from "./ReadOff";
import { useDipped } from "./useDipped";

type Tables = Schemas["FreeBenchOut"];
const NO_LOAD = "none";
const SAGS_S = 10; // so much later the current of what sags is lower by
const SAGS_PART = 0.01;

const Display = styled.p`
  width: fit-content;
  min-width: 9rem;
  padding: 0.3rem 0.9rem;
  border: 2px solid ${colour.ink};
  border-radius: 8px;
  background: ${colour.bench};
  font: 700 2rem ${font.numbers};
  text-align: right;
`;

type Props = { tables: Tables; names: Record<string, string> };

/** Any two plates, any liquid: predict first, dip, wait, read, change one thing, read again. */
export function FreeBench({ tables, names }: Props) {
  const [liquid, setLiquid] = useState(tables.liquids[0] ?? "");
  const [[black, red], setPlates] = useState<[string, string]>(["zinc", "copper"]);
  const [meterKey, setMeter] = useState("fine");
  const [dial, setDial] = useState("");
  const [battery, setBattery] = useState("fresh");
  const [changes, setChanges] = useState<string[]>([]);
  const [cells, setCells] = useState("1");
  const [load, setLoad] = useState(NO_LOAD);
  const [guess, setGuess] = useState("");
  const [reads, setReads] = useState<Read[]>([]);
  const [nth, setNth] = useState(1);
  const dipped = useDipped();
  const pair = tables.pairs.find(
    ({ electrolyte, negative, positive }) =>
      electrolyte === liquid && [black, red].includes(negative) && [black, red].includes(positive),
  );
  const meter = tables.meters.find((one) => one.key === meterKey) ?? tables.meters[0];
  const loads = [
    { key: NO_LOAD, name: t`nothing` },
    ...tables.offered.map(({ ohm, name: called }) => ({ key: String(ohm), name: called })),
  ];
  const range = meter?.ranges.find((one) => one.name === dial) ?? meter?.ranges[0];
  const name = (key: string) => names[key] ?? key;
  const built: Built = {
    changes,
    cells: Number(cells),
    load: load === NO_LOAD ? null : Number(load),
    seconds: dipped.loaded,
    turned: pair ? red !== pair.positive : false,
  };
  const again = (change: () => void) => {
    change();
    dipped.out();
  };
  if (!meter || !range) return null;
  const [first = 0, second = 0] = [black, red].map((plate) => tables.plates.indexOf(plate)).sort((a, b) => a - b);
  const own = tables.plate_v * deviate(seeded(7 + 31 * first + 57 * second)); // the same plates, leads turned or not
  const dip = tables.dip_v * deviate(seeded(1000 + nth));
  const sample =
    pair && dipped.seconds !== null
      ? settled(pair, tables, built, own + dip) * risen(tables, dipped.seconds) +
        tables.noise_v * deviate(seeded(nth * 977 + Math.round(dipped.seconds * 2)))
      : null;
  const amps = pair ? current(pair, tables, built, own + dip) : null;
  const later = pair ? current(pair, tables, { ...built, seconds: built.seconds + SAGS_S }, own + dip) : null;
  const sags = amps !== null && later !== null && Math.abs(amps - later) > SAGS_PART * amps;
  const text = sample === null ? "-.---" : shown(sample, meter, range, battery === "flat");
  const predicted = typedNumber(guess);
  const read = () => {
    if (!pair || sample === null) return;
    setReads((now) => [
      {
        what: [
          t`${name(black)} (black), ${name(red)} (red), ${name(liquid)}`,
          ...changes,
          ...(built.cells > 1 ? [t`${cells} in a row`] : []),
          ...(dipped.seconds !== null && dipped.seconds < 3 * tables.settle_s
            ? [t`read after ${Math.round(dipped.seconds)} s`]
            : []),
          ...(load === NO_LOAD
            ? []
            : [
                t`${loads.find((one) => one.key === load)?.name ?? ""}, ${Math.round(dipped.loaded)} s after it was joined`,
              ]),
          ...(battery === "flat" && meter.flat_times !== 1 ? [t`the meter’s battery flat`] : []),
        ].join(", "),
        said: volts(predicted, 2),
        text: text === meter.beyond ? text : `${text}\u2009V`,
        model: volts(settled(pair, tables, built), 2),
        amps: amps === null ? "" : inMilliamps(amps),
      },
      ...now.slice(0, 11),
    ]);
    setNth((now) => now + 1);
    setGuess("");
    dipped.out();
  };
  return (
    <Columns $left="minmax(0, 27rem)">
      <Column>
        <h1>
          <Trans>Build your own</Trans>
        </h1>
        <Row>
          <Select
            label={t`Black on`}
            options={tables.plates.filter((key) => key !== red).map((key) => ({ key, name: name(key) }))}
            value={black}
            onChange={(key) => again(() => setPlates([key, red]))}
          />
          <Select
            label={t`Red on`}
            options={tables.plates.filter((key) => key !== black).map((key) => ({ key, name: name(key) }))}
            value={red}
            onChange={(key) => again(() => setPlates([black, key]))}
          />
          <Select
            label={t`In`}
            options={tables.liquids.map((key) => ({ key, name: name(key) }))}
            value={liquid}
            onChange={(key) => again(() => setLiquid(key))}
          />
        </Row>
        <Button onPress={() => again(() => setPlates([red, black]))}>
          <Trans>Turn the leads</Trans>
        </Button>
        {tables.choices.map(({ name: what, levels }) => (
          <Picks
            key={what}
            label={what}
            options={Object.entries(levels).map(([word, key]) => ({ key, name: word }))}
            value={changes.find((change) => Object.values(levels).includes(change)) ?? ""}
            onChange={(key) =>
              again(() =>
                setChanges((now) => [
                  ...now.filter((change) => !Object.values(levels).includes(change)),
                  ...(key ? [key] : []),
                ]),
              )
            }
          />
        ))}
        <Picks
          label={t`Cells in a row`}
          options={Array.from({ length: tables.most_cells }, (_, k) => ({ key: String(k + 1), name: String(k + 1) }))}
          value={cells}
          onChange={(key) => again(() => setCells(key))}
        />
      </Column>
      <Column>
        <TextField
          label={t`First say what it will read, in volts, with its sign`}
          value={guess}
          onChange={setGuess}
          inputMode="text"
          maxLength={12}
        />
        <Row>
          {dipped.seconds === null ? (
            <MainButton isDisabled={!pair || Number.isNaN(predicted)} onPress={dipped.dip}>
              <Trans>Dip the plates</Trans>
            </MainButton>
          ) : (
            <>
              <MainButton onPress={read}>
                <Trans>Read it off</Trans>
              </MainButton>
              <Button onPress={dipped.out}>
                <Trans>Take them out</Trans>
              </Button>
            </>
          )}
        </Row>
        <Display aria-label={t`The meter shows ${text}`} role="img">
          {text}
        </Display>
        <Soft role="status">
          {dipped.seconds === null
            ? Number.isNaN(predicted)
              ? t`Simulated. Predict first, then see.`
              : t`Simulated.`
            : dipped.seconds < 3 * tables.settle_s
              ? t`It is still settling.`
              : built.load === null
                ? t`It stands. Join a load now, and see it sag.`
                : sags
                  ? t`It sags.`
                  : t`It stands under the load.`}
        </Soft>
        {amps !== null && dipped.seconds !== null && (
          <Soft>
            <Trans>
              {Math.round(dipped.loaded)} s with the load on it, {inMilliamps(amps)} through it.
            </Trans>
          </Soft>
        )}
        <Row>
          <Select
            label={t`Between the ends`}
            options={loads}
            value={load}
            onChange={(key) => {
              setLoad(key);
              if (load === NO_LOAD) dipped.join();
              else dipped.out();
            }}
          />
          <Select
            label={t`Meter`}
            options={tables.meters.map(({ key, name: called }) => ({ key, name: called }))}
            value={meterKey}
            onChange={setMeter}
          />
          <Picks
            label={t`Its range`}
            options={meter.ranges.map((one) => ({ key: one.name, name: one.name }))}
            value={range.name}
            onChange={setDial}
          />
          {meter.flat_times !== 1 && (
            <Picks
              label={t`Its battery`}
              options={[
                { key: "fresh", name: t`fresh` },
                { key: "flat", name: t`flat` },
              ]}
              value={battery}
              onChange={setBattery}
            />
          )}
        </Row>
        {reads.length > 0 && <ReadOff reads={reads} />}
      </Column>
    </Columns>
  );
}
