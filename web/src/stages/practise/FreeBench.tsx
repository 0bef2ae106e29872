import { useEffect, useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { current as inMilliamps, volts } from "../../format";
import { Button, MainButton } from "../../ui/Button";
import { Picks } from "../../ui/controls";
import { TextField } from "../../ui/fields";
import { Column, Columns, Num, Row, Soft, Table } from "../../ui/layout";
import { Select } from "../../ui/Select";
import { colour, font } from "../../ui/theme";
import { type Built, current, deviate, risen, seeded, settled, shown } from "./bench";
import { typedNumber } from "./drill";

type Tables = Schemas["FreeBenchOut"];
const LOADS = [
  { key: "none", name: "nothing" },
  { key: "10000", name: "10 kΩ" },
  { key: "1000", name: "1 kΩ" },
  { key: "100", name: "100 Ω" },
  { key: "0", name: "a wire: shorted" },
];
const TICK_MS = 500;
const SAGS_S = 60;

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

type Read = { what: string; said: string; text: string; model: string; amps: string };

/** Seconds since the plates went in and since a load was joined, going on while they are; null while they are out. */
function useDipped() {
  const [since, setSince] = useState<number | null>(null);
  const [joined, setJoined] = useState(0);
  const [now, setNow] = useState(0);
  useEffect(() => {
    if (since === null) return;
    const timer = setInterval(() => setNow(Date.now()), TICK_MS);
    return () => clearInterval(timer);
  }, [since]);
  return {
    seconds: since === null ? null : Math.max(0, (now - since) / 1000),
    loaded: Math.max(0, (now - joined) / 1000),
    dip: () => {
      setSince(Date.now());
      setJoined(Date.now());
      setNow(Date.now());
    },
    join: () => {
      setJoined(Date.now());
      setNow(Date.now());
    },
    out: () => setSince(null),
  };
}

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
  const [load, setLoad] = useState("none");
  const [guess, setGuess] = useState("");
  const [reads, setReads] = useState<Read[]>([]);
  const [nth, setNth] = useState(1);
  const dipped = useDipped();
  const pair = tables.pairs.find(
    ({ electrolyte, negative, positive }) =>
      electrolyte === liquid && [black, red].includes(negative) && [black, red].includes(positive),
  );
  const meter = tables.meters.find((one) => one.key === meterKey) ?? tables.meters[0];
  const range = meter?.ranges.find((one) => one.name === dial) ?? meter?.ranges[0];
  const name = (key: string) => names[key] ?? key;
  const built: Built = {
    changes,
    cells: Number(cells),
    load: load === "none" ? null : Number(load),
    seconds: dipped.loaded,
    turned: pair ? red !== pair.positive : false,
  };
  const again = (change: () => void) => {
    change();
    dipped.out();
  };
  if (!meter || !range) return null;
  const [first = 0, second = 0] = [black, red].map((plate) => tables.plates.indexOf(plate)).sort();
  const own = tables.plate_v * deviate(seeded(7 + 31 * first + 57 * second)); // the same plates, leads turned or not
  const dip = tables.dip_v * deviate(seeded(1000 + nth));
  const sample =
    pair && dipped.seconds !== null
      ? settled(pair, tables, built, own + dip) * risen(tables, dipped.seconds) +
        tables.noise_v * deviate(seeded(nth * 977 + Math.round(dipped.seconds * 2)))
      : null;
  const amps = pair ? current(pair, tables, built, own + dip) : null;
  const text = sample === null ? "-.---" : shown(sample, meter, range, battery === "flat");
  const predicted = typedNumber(guess);
  const read = () => {
    if (!pair || sample === null) return;
    setReads((now) => [
      {
        what: [
          `${name(black)} (black), ${name(red)} (red), ${name(liquid)}`,
          ...changes,
          ...(built.cells > 1 ? [`${cells} in a row`] : []),
          ...(dipped.seconds !== null && dipped.seconds < 3 * tables.settle_s
            ? [`read after ${Math.round(dipped.seconds)} s`]
            : []),
          ...(load === "none"
            ? []
            : [
                `${LOADS.find((one) => one.key === load)?.name ?? ""}, ${Math.round(dipped.loaded)} s after it was joined`,
              ]),
          ...(battery === "flat" && meter.flat_times !== 1 ? ["the meter’s battery flat"] : []),
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
        <h1>Build your own</h1>
        <Row>
          <Select
            label="Black on"
            options={tables.plates.filter((key) => key !== red).map((key) => ({ key, name: name(key) }))}
            value={black}
            onChange={(key) => again(() => setPlates([key, red]))}
          />
          <Select
            label="Red on"
            options={tables.plates.filter((key) => key !== black).map((key) => ({ key, name: name(key) }))}
            value={red}
            onChange={(key) => again(() => setPlates([black, key]))}
          />
          <Select
            label="In"
            options={tables.liquids.map((key) => ({ key, name: name(key) }))}
            value={liquid}
            onChange={(key) => again(() => setLiquid(key))}
          />
        </Row>
        <Button onPress={() => again(() => setPlates([red, black]))}>Turn the leads</Button>
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
          label="Cells in a row"
          options={["1", "2", "3"].map((key) => ({ key, name: key }))}
          value={cells}
          onChange={(key) => again(() => setCells(key))}
        />
      </Column>
      <Column>
        <TextField
          label="First say what it will read, in volts, with its sign"
          value={guess}
          onChange={setGuess}
          inputMode="text"
          maxLength={12}
        />
        <Row>
          {dipped.seconds === null ? (
            <MainButton isDisabled={!pair || Number.isNaN(predicted)} onPress={dipped.dip}>
              Dip the plates
            </MainButton>
          ) : (
            <>
              <MainButton onPress={read}>Read it off</MainButton>
              <Button onPress={dipped.out}>Take them out</Button>
            </>
          )}
        </Row>
        <Display aria-label="The meter shows" role="img">
          {text}
        </Display>
        <Soft role="status">
          {dipped.seconds === null
            ? Number.isNaN(predicted)
              ? "Simulated. Predict first, then see."
              : "Simulated."
            : dipped.seconds < 3 * tables.settle_s
              ? "It is still settling."
              : built.load === null
                ? "It stands. Join a load now, and see it sag."
                : dipped.loaded < SAGS_S
                  ? `${Math.round(dipped.loaded)} s with the load on it.`
                  : "It hardly sags any more."}
          {amps !== null && dipped.seconds !== null && ` ${inMilliamps(amps)} through it.`}
        </Soft>
        <Row>
          <Select
            label="Between the ends"
            options={LOADS}
            value={load}
            onChange={(key) => {
              setLoad(key);
              if (load === "none") dipped.join();
              else dipped.out();
            }}
          />
          <Select
            label="Meter"
            options={tables.meters.map(({ key, name: called }) => ({ key, name: called }))}
            value={meterKey}
            onChange={setMeter}
          />
          <Picks
            label="Its range"
            options={meter.ranges.map((one) => ({ key: one.name, name: one.name }))}
            value={range.name}
            onChange={setDial}
          />
          {meter.flat_times !== 1 && (
            <Picks
              label="Its battery"
              options={["fresh", "flat"].map((key) => ({ key, name: key }))}
              value={battery}
              onChange={setBattery}
            />
          )}
        </Row>
        {reads.length > 0 && (
          <>
            <h2>What you have read (simulated)</h2>
            <Table>
              <thead>
                <tr>
                  <th scope="col">Cell</th>
                  <th scope="col" data-number>
                    You said
                  </th>
                  <th scope="col" data-number>
                    It read
                  </th>
                  <th scope="col" data-number>
                    The model
                  </th>
                </tr>
              </thead>
              <tbody>
                {reads.map((one, place) => (
                  <tr key={reads.length - place}>
                    <td>
                      {one.what}
                      {one.amps && `; ${one.amps}`}
                    </td>
                    <td data-number>
                      <Num>{one.said}</Num>
                    </td>
                    <td data-number>
                      <Num>{one.text}</Num>
                    </td>
                    <td data-number>
                      <Num>{one.model}</Num>
                    </td>
                  </tr>
                ))}
              </tbody>
            </Table>
            <Soft>
              The model is without the scatter of plates and dips, once settled. Several changes at a time are put
              together from what each does alone.
            </Soft>
          </>
        )}
      </Column>
    </Columns>
  );
}
