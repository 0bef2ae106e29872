import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { PackDrawing } from "../../charts/PackDrawing";
import { bathName, useNames } from "../../lab/useNames";
import { newId } from "../../api/newId";
import { type Outbox } from "../../lab/useOutbox";
import { Button, MainButton } from "../../ui/Button";
import { Disclosure, Picks } from "../../ui/controls";
import { Column, Columns, Row, Soft } from "../../ui/layout";
import { Bullets } from "../../ui/Notes";
import { Select } from "../../ui/Select";
import { colour } from "../../ui/theme";
import { type Plates, kindKey, kindsOf } from "./kinds";
import { NumberEntry } from "./NumberEntry";
import { PackSays, StepTable } from "./PackSays";
import { RunBench } from "./RunBench";
import { type Kind, type View, latest, rowOf } from "./packView";
import { packWord } from "../../ui/packWords";

const Stop = styled.p`
  padding: 0.5rem 0.8rem;
  border-left: 4px solid ${colour.wrong};
  background: ${colour.bench};
  font-weight: 600;
`;

type Props = { view: View; data: Schemas["BenchPacks"]; bench: Schemas["BenchOut"]; outbox: Outbox };
type Extra = Partial<Schemas["PackEntryIn"]>;

/** One pack: join a cell, measure it alone and all together, see what is off; then try the load. */
export function PackBench({ view, data, bench, outbox }: Props) {
  const names = useNames();
  const open = bench.state === "open";
  const row = rowOf(view);
  const n = row.length;
  const holds = (kinds: Kind[]) => view.entries.some((one) => kinds.includes(one.kind));
  const [trying, setTrying] = useState(() => holds(["seen", "load_v", "load_a", "under"]));
  const add = async (kind: Kind, extra: Extra): Promise<string | null> => {
    const id = newId();
    const body = {
      id,
      pack_id: view.id,
      kind,
      device_at: new Date().toISOString(),
      ...extra,
    } as Schemas["PackEntryIn"];
    const refusal = await outbox.add({ kind: "packEntry", id, cell_id: view.id, body });
    if (refusal !== null) await outbox.remove(id);
    return refusal;
  };
  const entry = (kind: Kind, label: string, unit: "V" | "mA", how: string, position: number | null = null) => (
    <NumberEntry
      key={`${kind}${position ?? ""}`}
      slot={`${bench.group_id}:pack:${view.id}:${kind}:${position ?? ""}`}
      label={label}
      unit={unit}
      how={how}
      now={latest(view, kind, position)}
      open={open}
      record={(text, corrects, repaired) =>
        add(kind, {
          position,
          text,
          unit: repaired ?? unit,
          corrects: corrects?.id ?? null,
          reason: corrects?.reason ?? "",
        })
      }
    />
  );
  const alone = n > 0 && latest(view, "alone", n);
  const sum = n > 0 && latest(view, "sum", n);
  /** Where a bridge is suspected, the two cells across which a measurement tells. */
  const suspect = view.kept?.findings.find((finding) => finding.code === "bridged")?.cell ?? null;
  const bridged = suspect === null || !open ? [] : [suspect, suspect - 1].filter((place) => place > 0);
  const lamp = data.loads.some((load) => load.key === view.load && load.lamp);
  return (
    <Columns $left="minmax(0, 1fr)">
      <Column>
        <h1>
          <Trans>
            {n === 0 ? t`Your first cell` : t`${n} in a row`} for the {view.loadName}
          </Trans>
        </h1>
        <PackDrawing
          cups={row.map((cell) => ({ negative: names.symbol(cell.negative), positive: names.symbol(cell.positive) }))}
          lamp={lamp}
          loadName={view.loadName}
          lit={view.kept?.lit ?? false}
        />
        {view.kept && <StepTable pack={view.kept} />}
        {open && n > 1 && (
          <Disclosure title={t`Measure an earlier step again`} detail={t`each cell alone, each sum`}>
            {Array.from({ length: n - 1 }, (_, index) => index + 1).map((place) => (
              <div key={place}>
                {entry("alone", t`Cell ${place} alone`, "V", "", place)}
                {latest(view, "sum", place) &&
                  entry("sum", place === 1 ? t`Cell 1` : t`Cells 1 to ${place}`, "V", "", place)}
              </div>
            ))}
          </Disclosure>
        )}
      </Column>
      <Column>
        {n > 0 && (
          <>
            <h2>
              <Trans>Cell {n} alone</Trans>
            </h2>
            {entry("alone", t`Cell ${n} alone`, "V", data.how["alone"] ?? "", n)}
            {alone && (
              <>
                <h2>{n === 1 ? t`Now as cell 1 of the row` : t`All together: 1 to ${n}`}</h2>
                {entry(
                  "sum",
                  n === 1 ? t`Cell 1` : t`Cells 1 to ${n}`,
                  "V",
                  data.how[n === 1 ? "alone" : "sum"] ?? "",
                  n,
                )}
              </>
            )}
          </>
        )}
        <PackSays findings={view.kept?.findings ?? []} />
        {bridged.map((place) => (
          <div key={`across ${place}`}>{entry("across", t`Across cell ${place}, all joined`, "V", "", place)}</div>
        ))}
        {open && (n === 0 || sum) && n < data.most && (
          <JoinNext
            kinds={kindsOf(bench, row)}
            first={n === 0}
            join={(cell) => add("cell", { ...cell, position: n + 1 })}
          />
        )}
        {sum && !trying && (
          <p>
            <MainButton onPress={() => setTrying(true)}>
              <Trans>Try the {view.loadName}</Trans>
            </MainButton>
          </p>
        )}
        {sum && trying && (
          <Try view={view} data={data} n={n} open={open} entry={entry} see={(text) => add("seen", { text })} />
        )}
        {n > 0 && (
          <Disclosure
            title={t`Over time`}
            detail={t`how it falls, whether it comes back`}
            open={holds(["run_v", "run_a", "event"])}
          >
            <RunBench view={view} data={data} bench={bench} open={open} outbox={outbox} add={add} />
          </Disclosure>
        )}
      </Column>
    </Columns>
  );
}

type JoinProps = { kinds: Plates[]; first: boolean; join: (cell: Plates) => Promise<string | null> };

/** The next cell of the row, from those on the group's list. */
function JoinNext({ kinds, first, join }: JoinProps) {
  const names = useNames();
  const [wrong, setWrong] = useState<string | null>(null);
  const [chosen, setChosen] = useState(kindKey(kinds[0] ?? { negative: "", electrolyte: "", positive: "" }));
  const cell = kinds.find((kind) => kindKey(kind) === chosen) ?? kinds[0];
  if (!cell) return null;
  return (
    <>
      <h2>{first ? t`Which cell first?` : t`One more?`}</h2>
      <Select
        label={t`The cell`}
        options={kinds.map((kind) => ({
          key: kindKey(kind),
          name: `${names.symbol(kind.negative)} | ${names.symbol(kind.positive)}, ${bathName(names, { electrolyte: kind.electrolyte, condition: "" })}`,
        }))}
        value={kindKey(cell)}
        onChange={setChosen}
      />
      <Row>
        <Button onPress={() => void join(cell).then(setWrong)}>
          {first ? t`Begin with this cell` : t`Join the next cell`}
        </Button>
      </Row>
      {wrong && <Stop role="alert">{wrong}</Stop>}
      <Soft>
        <Trans>Each cell in a cup of its own: cells that share a liquid cannot be put in a row.</Trans>
      </Soft>
    </>
  );
}

type TryProps = {
  view: View;
  data: Schemas["BenchPacks"];
  n: number;
  open: boolean;
  entry: (kind: Kind, label: string, unit: "V" | "mA", how: string, position?: number | null) => React.ReactNode;
  see: (text: string) => Promise<string | null>;
};

/** The trial: what is seen, volts across the load, milliamps through it, and each cell under the load. */
function Try({ view, data, n, open, entry, see }: TryProps) {
  const [wrong, setWrong] = useState<string | null>(null);
  const options = data.seen[view.load] ?? [];
  const seen = latest(view, "seen");
  return (
    <section aria-label={t`Try the ${view.loadName}`}>
      <Column as="div" style={{ padding: 0 }}>
        <h2>
          <Trans>Try the {view.loadName}</Trans>
        </h2>
        {view.kept?.harm && (
          <Stop role="alert">
            <Trans>Do not join it: {view.kept.harm} Take a cell out first.</Trans>
          </Stop>
        )}
        <Bullets items={data.cautions} />
        <Soft>{data.how["load"]}</Soft>
        {options.length > 0 && (
          <Picks
            label={t`What do you see?`}
            options={options.map((text) => ({ key: text, name: packWord(text) }))}
            value={seen?.text ?? ""}
            onChange={(text) => open && void see(text).then(setWrong)}
          />
        )}
        {wrong && <Stop role="alert">{wrong}</Stop>}
        {entry("load_v", t`Across the load`, "V", data.how["load_v"] ?? "")}
        {entry("load_a", t`Through the load`, "mA", data.how["load_a"] ?? "")}
        <Disclosure title={t`Each cell under the load`} detail={t`which one gives way`}>
          <Soft>{data.how["under"]}</Soft>
          {Array.from({ length: n }, (_, index) => entry("under", t`Cell ${index + 1} under load`, "V", "", index + 1))}
        </Disclosure>
      </Column>
    </section>
  );
}
