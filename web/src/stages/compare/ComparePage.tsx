import { useState } from "react";
import { Tab, TabList, TabPanel, Tabs } from "react-aria-components";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useCompare } from "../../api/queries";
import { Frame } from "../../app/Frame";
import { StageLine, reached } from "../../app/StageLine";
import { Waiting } from "../../app/Waiting";
import { Dumbbells } from "../../charts/Dumbbells";
import { Stems } from "../../charts/Stems";
import { count, day } from "../../format";
import { ButtonLink } from "../../ui/Button";
import { Column, Columns, Soft } from "../../ui/layout";
import { Notes } from "../../ui/Notes";
import { colour } from "../../ui/theme";
import { Legend } from "../../ui/voices";
import { withoutActions } from "../plan/planNotes";
import { bathName, useNames } from "../plan/useNames";
import { AnchorChoice } from "./AnchorChoice";
import { CellTable, LadderTable } from "./Numbers";

const Liquids = styled(TabList)`
  display: flex;
  flex-wrap: wrap;
  padding: 0 1.25rem;
  border-bottom: 1px solid ${colour.hairline};
`;

const Liquid = styled(Tab)`
  display: grid;
  place-items: center;
  min-height: 44px;
  padding: 0 0.9rem;
  color: ${colour.soft};
  cursor: pointer;
  &[data-selected] {
    box-shadow: inset 0 -4px ${colour.ink};
    color: ${colour.ink};
    font-weight: 700;
  }
`;

type Result = Schemas["ElectrolyteResultOut"];

/** One electrolyte: both stems, the cells, and the numbers behind them. */
function OneLiquid({ result, hold }: { result: Result; hold: (anchor: string) => void }) {
  return (
    <Columns $left="minmax(0, 26rem)">
      <Column>
        <h1>Where each plate sits</h1>
        {result.anchor ? (
          <>
            <Soft>
              Volts against hydrogen, held at{" "}
              <AnchorChoice anchors={result.anchors} anchor={result.anchor} onChange={hold} />
            </Soft>
            <Stems result={result} />
            <LadderTable result={result} />
          </>
        ) : (
          <Soft>No plate of the table is on the ladder yet, so there is no scale to draw it on.</Soft>
        )}
      </Column>
      <Column>
        <h2>Cells, widest gap first</h2>
        <Legend
          items={[
            { mark: "reading", text: "class mean, 95 % interval" },
            { mark: "table", text: "table difference" },
            { mark: "group", text: "one group" },
          ]}
        />
        <Dumbbells result={result} />
        <CellTable result={result} />
      </Column>
    </Columns>
  );
}

/** The class's voltages beside the table, one ladder per electrolyte. */
export function ComparePage({ id }: { id: string }) {
  const [held, setHeld] = useState<Record<string, string>>({});
  const [liquid, setLiquid] = useState<string | null>(null);
  const names = useNames();
  const compare = useCompare(
    id,
    Object.entries(held).map(([electrolyte, electrode]) => `${electrolyte}:${electrode}`),
  );
  if (!compare.data) return <Waiting title="Compare" error={compare.error} />;
  const { title, date, state, simulated, electrolytes, group_count, reading_count, edition } = compare.data;
  const tabOf = (bath: { electrolyte: string; condition: string }) => `${bath.electrolyte}|${bath.condition}`;
  const current = electrolytes.find((one) => tabOf(one) === liquid) ?? electrolytes[0];
  return (
    <Frame
      title={`Compare, ${title}`}
      lab={title}
      about={
        <>
          {day(date)}
          {simulated && " · simulated readings"}
        </>
      }
      line={<StageLine lab={id} stage={reached(state === "closed" ? "compare" : "measure")} here="Compare" />}
      who={
        <>
          <strong>Teacher bench</strong>
          <small>
            {count(group_count, "group")} · {count(reading_count, "reading")} · tables of {edition}
          </small>
        </>
      }
      margin={current ? <Notes notes={withoutActions(current.notes)} /> : <Soft>Nothing to say yet.</Soft>}
    >
      {current ? (
        <Tabs selectedKey={tabOf(current)} onSelectionChange={(key) => setLiquid(String(key))}>
          <Liquids aria-label="Electrolyte">
            {electrolytes.map((one) => (
              <Liquid key={tabOf(one)} id={tabOf(one)}>
                {bathName(names, one)}
              </Liquid>
            ))}
          </Liquids>
          {electrolytes.map((result) => (
            <TabPanel key={tabOf(result)} id={tabOf(result)}>
              <OneLiquid
                result={result}
                hold={(anchor) => setHeld((before) => ({ ...before, [result.electrolyte]: anchor }))}
              />
            </TabPanel>
          ))}
        </Tabs>
      ) : (
        <Column>
          <h1>Nothing to compare yet</h1>
          <Soft>As soon as a group records its first reading, it stands here beside the table.</Soft>
          <p>
            <ButtonLink to={`/labs/${id}/${state === "draft" ? "plan" : "board"}`}>
              {state === "draft" ? "To the plan" : "To the board"}
            </ButtonLink>
          </p>
        </Column>
      )}
    </Frame>
  );
}
