import { useState } from "react";
import { Link, Navigate, useSearchParams } from "react-router";
import { Problem, type Schemas } from "../../api/client";
import { useAccounts, useBench, useBenchCompare } from "../../api/queries";
import { Frame } from "../../app/Frame";
import { Waiting } from "../../app/Waiting";
import { day } from "../../format";
import { ButtonLink } from "../../ui/Button";
import { Column, Columns, Soft } from "../../ui/layout";
import { Notes } from "../../ui/Notes";
import { CompareView, notesOn } from "../compare/ComparePage";
import { BenchLine } from "../measure/BenchLine";
import { useNames } from "../plan/useNames";
import { AllCells } from "./AllCells";
import { CellChoice } from "./ExplainPage";
import { OneCell } from "./OneCell";
import { WhatIf } from "./WhatIf";

/** What to say while the teacher has not shown it. */
function NotYet() {
  return (
    <Frame title="Class results">
      <Column>
        <h1>Not shown yet</h1>
        <Soft>Your teacher decides when the class’s results are shown. Your own readings stay on your bench.</Soft>
        <p>
          <ButtonLink to="/bench">To the bench</ButtonLink>
        </p>
      </Column>
    </Frame>
  );
}

/** The class's results on a group's own device, once the teacher has released them. */
export function BenchResults() {
  const compare = useBenchCompare();
  const [chosen, setChosen] = useState<string | null>(null);
  if (!compare.data) {
    if (compare.error instanceof Problem && compare.error.status === 401) return <Navigate to="/join" replace />;
    if (compare.error instanceof Problem && compare.error.status === 403) return <NotYet />;
    return <Waiting title="Class results" error={compare.error} />;
  }
  const { data } = compare;
  if (!data.released.includes("compare")) return <NotYet />;
  const first = data.electrolytes[0];
  const tab = chosen ?? (first ? `${first.electrolyte}|${first.condition}` : "groups");
  return (
    <Frame
      title={`Class results, ${data.title}`}
      lab="Class results"
      about={
        <>
          {data.title}, {day(data.date)}
          {data.simulated && " · simulated readings"}
        </>
      }
      who={<Link to="/bench">To the bench</Link>}
      margin={<Notes notes={notesOn(data, tab).map((note) => ({ ...note, action: undefined }))} />}
    >
      {first ? (
        <CompareView data={data} tab={tab} setTab={setChosen} hold={null} before={null} />
      ) : (
        <Column>
          <Soft>Nothing is measured yet.</Soft>
        </Column>
      )}
    </Frame>
  );
}

/** The cells a group has read itself, each once. */
function ownCells(bench: Schemas["BenchOut"]) {
  const found = bench.cells
    .filter((one) => one.readings.length > 0)
    .map(({ negative, electrolyte, positive, condition, short }) => ({
      key: `${negative}|${electrolyte}|${positive}|${condition}`,
      gap: null,
      short,
      bath: { electrolyte, condition },
      cell: { negative, electrolyte, positive, condition },
    }));
  return [...new Map(found.map((one) => [one.key, one])).values()];
}

/** Where the volts went in the group's own cells, on its own device. */
export function BenchExplain() {
  const bench = useBench();
  const released = bench.data?.released.includes("explain") ?? false;
  const accounts = useAccounts(released ? bench.data?.lab_id : undefined);
  const names = useNames();
  const [search, setSearch] = useSearchParams();
  if (!bench.data) {
    if (bench.error instanceof Problem && bench.error.status === 401) return <Navigate to="/join" replace />;
    return <Waiting title="Where the volts went" error={bench.error} />;
  }
  const all = ownCells(bench.data);
  const chosen = all.find((one) => one.key === search.get("cell")) ?? all[0];
  if (!released) return <NotYet />;
  return (
    <Frame
      title={`Where the volts went, ${bench.data.lab}`}
      lab="Where the volts went"
      about={bench.data.lab}
      who={<Link to="/bench">To the bench</Link>}
      notice={<BenchLine bench={bench.data} outbox={null} />}
    >
      <Columns $left="minmax(0, 1.35fr)">
        <Column>
          {chosen ? (
            <>
              <CellChoice cells={all} value={chosen.key} change={(key) => setSearch({ cell: key })} />
              <OneCell key={chosen.key} lab={bench.data.lab_id} cell={chosen.cell} />
              <WhatIf key={`if-${chosen.key}`} cell={chosen.cell} positive={names.plate(chosen.cell.positive)} />
            </>
          ) : (
            <Soft>Measure a cell first; then you see where its volts went.</Soft>
          )}
        </Column>
        <Column>{accounts.data && <AllCells data={accounts.data} />}</Column>
      </Columns>
    </Frame>
  );
}
