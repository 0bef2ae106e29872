import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useCompare } from "../../api/findings";
import { type PackAsk, usePack, usePackAdvice, usePower } from "../../api/power";
import { MeetingCurve } from "../../charts/MeetingCurve";
import { PackStems } from "../../charts/PackStems";
import { number, volts } from "../../format";
import { cellOf } from "../../lab/cellKey";
import { FindingsFrame } from "../../lab/FindingsFrame";
import { OwnFit } from "../../lab/OwnFit";
import { Release } from "../../lab/Release";
import { useNames } from "../../lab/useNames";
import { Behind } from "../../ui/Behind";
import { Button, ButtonLink } from "../../ui/Button";
import { Picks } from "../../ui/controls";
import { TextField } from "../../ui/fields";
import { Heads } from "../../ui/Heads";
import { Column, OnScreen, Soft, Table } from "../../ui/layout";
import { type MarginNote, Notes } from "../../ui/Notes";
import { Overtaken } from "../../ui/Overtaken";
import { ProblemNote } from "../../ui/ProblemNote";
import { Select } from "../../ui/Select";
import { colour, narrow, phone } from "../../ui/theme";
import { useInAddress } from "../../ui/useInAddress";
import { Waiting } from "../../ui/Waiting";
import { ChainPart } from "./ChainPart";
import { GroupPacks } from "./GroupPacks";
import { HowMany } from "./HowMany";
import { Stepper } from "./Stepper";
import { Strongest } from "./Strongest";

const NO_ANCHORS: string[] = [];
const RESISTOR = "resistor";
const USUAL_OHM = "470";
const MOST_CELLS = 12;
const MOST_ROWS = 4;
const MOST_PAIRS = 6;
const AREAS = [1, 2, 4, 5, 8, 12, 20, 40];
const GAPS = [0.1, 0.5, 1, 2, 4, 8];

const Parts = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 18.6rem) minmax(0, 1fr) minmax(0, 1.15fr);
  ${narrow} {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    & > :first-child {
      grid-column: 1 / -1;
    }
  }
  ${phone} {
    grid-template-columns: minmax(0, 1fr);
  }
  & > * + * {
    border-left: 1px solid ${colour.hairline};
  }
`;

/** The next larger or smaller of a list of usual sizes; null at its end. */
const beside = (sizes: number[], now: number, by: 1 | -1) =>
  (by > 0 ? sizes.find((size) => size > now) : sizes.findLast((size) => size < now)) ?? null;

/** Cells in a row until something lights: what the class's own cells would do, and what holds them back. */
export function PowerPage({ id }: { id: string }) {
  const compare = useCompare(id, NO_ANCHORS);
  const power = usePower(id);
  const names = useNames();
  const [search, set] = useInAddress();
  const kinds = [...(power.data?.kinds ?? [])].sort((one, other) => other.open_v - one.open_v);
  const chosen = search.getAll("cell").filter((key) => kinds.some((kind) => kind.cell === key));
  const first = kinds[0]?.cell;
  const cells = chosen.length > 0 ? chosen : first ? [first, first, first] : [];
  const load = search.get("load") ?? "led-red";
  const ask: PackAsk | null =
    cells.length === 0
      ? null
      : {
          load,
          cell: cells,
          rows: Number(search.get("rows") ?? 1),
          area_cm2: Number(search.get("area") ?? 4),
          gap_cm: Number(search.get("gap") ?? 2),
          pairs: Number(search.get("pairs") ?? 1),
          volume_ml: 40,
        };
  const pack = usePack(id, ask);
  const advice = usePackAdvice(id, ask);
  if (!compare.data || !power.data) return <Waiting title={t`Power`} error={compare.error ?? power.error} />;
  if (!ask)
    return (
      <FindingsFrame data={compare.data} here="Power" projector={null} margin={null}>
        <Column>
          <h1>
            <Trans>Nothing to build with yet</Trans>
          </h1>
          <Soft>
            <Trans>This lab has no two plates that make a cell.</Trans>
          </Soft>
          <p>
            <ButtonLink to={`/labs/${id}/board`}>
              <Trans>To the board</Trans>
            </ButtonLink>
          </p>
        </Column>
      </FindingsFrame>
    );
  const kind = cells[0] ?? "";
  const one = kinds.find((each) => each.cell === kind);
  const joined = power.data.loads.find((each) => each.key === load);
  const setCells = (next: string[]) => set({ cell: next });
  const change: Record<string, () => void> = {
    cell: () => setCells([...cells, kind]),
    row: () => set({ rows: String(Math.min(MOST_ROWS, ask.rows + 1)) }),
    area: () => set({ area: String(2 * ask.area_cm2) }),
    pairs: () => set({ pairs: String(Math.min(MOST_PAIRS, ask.pairs + 1)) }),
    gap: () => set({ gap: String(0.5 * ask.gap_cm) }),
  };
  const withAction = ({ code, tone, title, text, evidence, action }: Schemas["NoteOut"]): MarginNote => {
    const press = action ? change[action.kind] : undefined;
    return { code, tone, title, text, evidence, action: press && <Button onPress={press}>{action?.label}</Button> };
  };
  const shown: MarginNote = {
    code: "release",
    tone: "plain",
    title: t`Groups see on their devices`,
    text: <Release lab={id} released={compare.data.released} />,
  };
  const overtaken = pack.isPlaceholderData || advice.isPlaceholderData;
  const notes = [...(pack.data?.notes ?? []), ...(advice.data?.notes ?? [])].map(withAction);
  return (
    <FindingsFrame
      data={compare.data}
      here="Power"
      projector={null}
      margin={
        <>
          <OnScreen>
            <Notes notes={[shown]} />
          </OnScreen>
          <Overtaken by={overtaken}>
            <Notes notes={notes} />
          </Overtaken>
        </>
      }
    >
      <Parts>
        <Column>
          <h1>
            <Trans>What should it run?</Trans>
          </h1>
          {!kinds.some(({ measured }) => measured) && (
            <Soft>
              <Trans>
                Nothing is measured yet: all of this is the model’s, with plates of the size you set. As soon as the
                class has read a cell, packs are held to that.
              </Trans>
            </Soft>
          )}
          <Picks
            label={t`The load`}
            options={[
              ...power.data.loads.map(({ key, name }) => ({ key, name })),
              { key: RESISTOR, name: t`a resistor` },
            ]}
            value={joined ? load : RESISTOR}
            onChange={(key) => set({ load: key === RESISTOR ? USUAL_OHM : key })}
          />
          {!joined && (
            <TextField
              label={t`Its resistance, Ω`}
              value={load}
              onChange={(text) => set({ load: text })}
              inputMode="decimal"
              maxLength={12}
            />
          )}
          <Select
            label={t`Made of`}
            options={kinds.map((each) => ({
              key: each.cell,
              name: `${each.short}, ${names.liquid(each.electrolyte)}, ${volts(each.open_v, 2)}`,
            }))}
            value={kind}
            onChange={(key) => setCells(cells.map(() => key))}
          />
          <Stepper
            label={t`in a row`}
            shown={String(cells.length)}
            less={cells.length > 1 ? () => setCells(cells.slice(1)) : null}
            more={cells.length < MOST_CELLS ? () => setCells([kind, ...cells]) : null}
          />
          <Stepper
            label={t`such rows, side by side`}
            shown={String(ask.rows)}
            less={ask.rows > 1 ? () => set({ rows: String(ask.rows - 1) }) : null}
            more={ask.rows < MOST_ROWS ? () => set({ rows: String(ask.rows + 1) }) : null}
          />
          <Size
            label={t`plate in the liquid`}
            unit="cm²"
            sizes={AREAS}
            now={ask.area_cm2}
            put={(next) => set({ area: next })}
          />
          <Size
            label={t`between the plates`}
            unit="cm"
            sizes={GAPS}
            now={ask.gap_cm}
            put={(next) => set({ gap: next })}
          />
          <Stepper
            label={t`pairs of plates in a cup`}
            shown={String(ask.pairs)}
            less={ask.pairs > 1 ? () => set({ pairs: String(ask.pairs - 1) }) : null}
            more={ask.pairs < MOST_PAIRS ? () => set({ pairs: String(ask.pairs + 1) }) : null}
          />
        </Column>
        <Column>
          <h2>
            <Trans>The pack</Trans>
          </h2>
          <Soft>
            <Trans>Each cell stands on the one before it.</Trans>
          </Soft>
          <Overtaken by={pack.isPlaceholderData}>
            {pack.data && <PackStems pack={pack.data} perRow={cells.length} />}
            {joined?.lamp && (
              <Soft>
                <Trans>Plus goes to an LED’s long leg, minus to the short one.</Trans>
              </Soft>
            )}
          </Overtaken>
          <ProblemNote problem={pack.error} />
        </Column>
        <Column>
          <h2>
            <Trans>Where they meet</Trans>
          </h2>
          {pack.data && (
            <Overtaken by={pack.isPlaceholderData}>
              <Soft>
                <Trans>What the pack can give (line and band), what the {pack.data.load_name} takes (dashed).</Trans>
              </Soft>
              <MeetingCurve pack={pack.data} />
            </Overtaken>
          )}
          {!pack.error && !advice.data && <ProblemNote problem={advice.error} />}
          {pack.data && !advice.data && !advice.error && (
            <Soft aria-busy>
              <Trans>Working out how many it takes …</Trans>
            </Soft>
          )}
          {advice.data && (
            <Overtaken by={advice.isPlaceholderData}>
              <h2>
                <Trans>How many in a row?</Trans>
              </h2>
              <Soft>
                <Trans>
                  Of {one ? `${one.short}, ${names.liquid(one.electrolyte)}` : t`these cells`}; how likely it runs.
                </Trans>
              </Soft>
              <HowMany
                counts={advice.data.counts}
                here={cells.length}
                choose={(n) => setCells(Array.from({ length: n }, () => kind))}
              />
            </Overtaken>
          )}
          {pack.data && !pack.isPlaceholderData && <Cells pack={pack.data} />}
        </Column>
      </Parts>
      <Column>
        <Strongest kinds={power.data.kinds} choose={(key) => setCells(cells.map(() => key))} />
        {one?.measured && (
          <OwnFit key={kind} lab={id} cell={cellOf(kind)} called={`${one.short}, ${names.liquid(one.electrolyte)}`} />
        )}
        {one && pack.data && !pack.isPlaceholderData && (
          <ChainPart
            id={id}
            load={load}
            loadName={pack.data.load_name}
            cell={kind}
            short={`${one.short}, ${names.liquid(one.electrolyte)}`}
          />
        )}
        <GroupPacks id={id} />
      </Column>
    </FindingsFrame>
  );
}

type SizeProps = { label: string; unit: string; sizes: number[]; now: number; put: (next: string) => void };

function Size({ label, unit, sizes, now, put }: SizeProps) {
  const [less, more] = [beside(sizes, now, -1), beside(sizes, now, 1)];
  return (
    <Stepper
      label={label}
      shown={`${number(now, now < 1 ? 1 : Number.isInteger(now) ? 0 : 1)} ${unit}`}
      less={less === null ? null : () => put(String(less))}
      more={more === null ? null : () => put(String(more))}
    />
  );
}

function Cells({ pack }: { pack: Schemas["PackOut"] }) {
  return (
    <Behind label={t`Cell by cell`}>
      <Table>
        <Heads
          of={[
            t`Cell`,
            { numbers: t`nothing joined, V` },
            { numbers: t`with the load, V` },
            { numbers: t`through it, mA` },
          ]}
        />
        <tbody>
          {pack.cells.map((cell, index) => (
            <tr key={index}>
              <th scope="row">
                {index + 1}: {cell.short}
              </th>
              <td data-number>{number(cell.open_v, 2)}</td>
              <td data-number>{number(cell.volts_v, 2)}</td>
              <td data-number>{number(1e3 * cell.current_a, 3)}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </Behind>
  );
}
