import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useEffect, useRef, useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useMeter } from "../../api/meter";
import { usePackRun } from "../../api/packs";
import { RunChart, isDrawn } from "../../charts/RunChart";
import { clock } from "../../format";
import { Button } from "../../ui/Button";
import { Disclosure, Picks, Tick } from "../../ui/controls";
import { Column, Row, Soft } from "../../ui/layout";
import { Notes } from "../../ui/Notes";
import { Ring, useSeconds } from "../../ui/Ring";
import { useKept } from "../../ui/useKept";
import type { Outbox } from "../../lab/useOutbox";
import { RunFileForm } from "./RunFileForm";
import { NumberEntry } from "./NumberEntry";
import type { Kind, View } from "./packView";
import { packWord } from "../../ui/packWords";

const Next = styled.div`
  display: grid;
  grid-template-columns: 58px minmax(0, 1fr);
  align-items: center;
  gap: 0.9rem;
`;

const EVERY = [
  { key: "10", name: "10 s" },
  { key: "30", name: "30 s" },
  { key: "60", name: t`1 min` },
  { key: "300", name: t`5 min` },
  { key: "0", name: t`when we look` },
];
const LABELS: Record<string, string> = {
  joined: t`Join the load`,
  "taken off": t`Take it off`,
  shorted: t`Short it, seconds only`,
  stirred: t`Stir`,
  "topped up": t`Top up`,
  left: t`Leave it and come back`,
};

type Props = {
  view: View;
  data: Schemas["BenchPacks"];
  bench: Schemas["BenchOut"];
  open: boolean;
  outbox: Outbox;
  add: (kind: Kind, extra: Partial<Schemas["PackEntryIn"]>) => Promise<string | null>;
};

/** What the group's connected meter shows, typed by itself every so many seconds while `on`. */
function useTypedByMeter(cell: string, on: boolean, every: number, type: (text: string) => void) {
  const meter = useMeter(cell, on);
  const latest = useRef({ meter, type });
  useEffect(() => {
    latest.current = { meter, type };
  });
  useEffect(() => {
    if (!on || every <= 0) return;
    const timer = setInterval(() => {
      const { sample } = latest.current.meter;
      if (sample) latest.current.type(sample.text);
    }, every * 1000);
    return () => clearInterval(timer);
  }, [on, every]);
  return meter;
}

/** A pack over time: volts (or milliamps) every so often, what is done to it, and what that says. */
export function RunBench({ view, data, bench, open, outbox, add }: Props) {
  const slot = `${bench.group_id}:run:${view.id}`;
  const [every, setEvery] = useKept(`choice:${slot}:every`, "30");
  const [unit, setUnit] = useKept(`choice:${slot}:unit`, "V");
  const [entered, setEntered] = useKept<number | null>(`choice:${slot}:at`, null);
  const mine = view.entries.filter((entry) => ["run_v", "run_a", "event", "seen"].includes(entry.kind));
  const waiting = mine.filter((one) => one.waiting).length;
  const run = usePackRun(view.id, mine.some((one) => !one.waiting) || (view.kept?.files.length ?? 0) > 0).data;
  const gone = useSeconds(entered);
  const wait = Number(every);
  const left = Math.max(0, wait - gone);
  const [wrong, setWrong] = useState<string | null>(null);
  const [alone, setAlone] = useState(false);
  const meter = useTypedByMeter(bench.cells[0]?.id ?? "", alone && open && bench.live_meter, wait, (text) => {
    setEntered(Date.now());
    void add("run_v", { text, unit: "V" }).then((refusal) => refusal !== null && setWrong(refusal));
  });
  const done = async (what: string) => setWrong(await add("event", { text: what }));
  return (
    <Column as="div" style={{ padding: 0 }}>
      <Soft>
        <Trans>
          Type what the meter shows every so often, and say when something is done. The clock counts from your first
          entry.
        </Trans>
      </Soft>
      <Row>
        {data.done.map((what) => (
          <Button key={what} isDisabled={!open} onPress={() => void done(what)}>
            {LABELS[what] ?? what}
          </Button>
        ))}
      </Row>
      {wrong && <p role="alert">{wrong}</p>}
      <Picks label={t`How often`} options={EVERY} value={every} onChange={setEvery} />
      <Picks
        label={t`What is read`}
        options={[
          { key: "V", name: t`volts` },
          { key: "mA", name: t`milliamps` },
        ]}
        value={unit}
        onChange={setUnit}
      />
      <Next>
        <Ring
          part={entered === null || wait === 0 ? 0 : gone / wait}
          text={wait === 0 || entered === null ? "–" : clock(left)}
        />
        <NumberEntry
          key={unit}
          slot={`${slot}:${unit}`}
          label={t`Next number`}
          unit={unit === "mA" ? "mA" : "V"}
          how={unit === "mA" ? (data.how["load_a"] ?? "") : ""}
          now={undefined}
          open={open}
          record={(text, _corrects, typed) => {
            setEntered(Date.now()); // the next number is due so long after this one, whenever the server has it
            return add(unit === "mA" ? "run_a" : "run_v", { text, unit: typed ?? unit });
          }}
        />
      </Next>
      {bench.live_meter && (
        <Tick isSelected={alone} onChange={setAlone}>
          {wait > 0
            ? t`Let the connected meter type it, every ${EVERY.find((one) => one.key === every)?.name ?? ""}`
            : t`Let the connected meter type it`}
        </Tick>
      )}
      {alone && (
        <Soft role="status">
          {wait === 0
            ? t`Choose how often first.`
            : (meter.trouble ?? (meter.sample ? t`It shows ${meter.sample.text} V.` : t`Waiting …`))}
        </Soft>
      )}
      {(data.seen[view.load] ?? []).length > 0 && (
        <Picks
          label={t`Hours or days later: what does it do now?`}
          options={(data.seen[view.load] ?? []).map((text) => ({ key: text, name: packWord(text) }))}
          value=""
          onChange={(text) => open && void add("seen", { text }).then(setWrong)}
        />
      )}
      {waiting > 0 && (
        <Soft role="status">
          <Trans>{plural(waiting, { one: "# entry", other: "# entries" })} safe on this device, not sent yet.</Trans>
        </Soft>
      )}
      {run && isDrawn(run) && <RunChart run={run} />}
      <Disclosure title={t`From a logger’s file`} detail={t`hours or days in one piece`}>
        <RunFileForm view={view} outbox={outbox} open={open} />
      </Disclosure>
      {run && <Notes notes={run.notes.map((note) => ({ ...note, action: undefined }))} />}
    </Column>
  );
}
