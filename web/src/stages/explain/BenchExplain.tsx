import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Link, Navigate, useSearchParams } from "react-router";
import { Problem, type Schemas } from "../../api/client";
import { useBench } from "../../api/bench";
import { useBenchClaims } from "../../api/claims";
import { useAccounts } from "../../api/findings";
import { ButtonLink } from "../../ui/Button";
import { Frame } from "../../ui/Frame";
import { ProblemNote } from "../../ui/ProblemNote";
import { Waiting } from "../../ui/Waiting";
import { Column, Columns, Soft } from "../../ui/layout";
import { cellKey } from "../../lab/cellKey";
import { BenchLine } from "../../lab/BenchLine";
import { NotYet } from "../../lab/NotYet";
import { useNames } from "../../lab/useNames";
import { AllCells } from "./AllCells";
import { CellChoice } from "./ExplainPage";
import { OneCell } from "./OneCell";
import { WhatIf } from "./WhatIf";

/** The cells a group has read itself, each once. */
function ownCells(bench: Schemas["BenchOut"]) {
  const found = bench.cells
    .filter((cell) => cell.readings.length > 0)
    .map(({ negative, electrolyte, positive, condition, short }) => ({
      key: cellKey({ negative, electrolyte, positive, condition }),
      gap: null,
      short,
      bath: { electrolyte, condition },
      cell: { negative, electrolyte, positive, condition },
    }));
  return [...new Map(found.map((one) => [one.key, one])).values()];
}

/** A group thinks first: its claim opens where the volts of that cell went. */
function ClaimFirst() {
  return (
    <Frame title={t`Where the volts went`}>
      <Column>
        <h1>
          <Trans>First your claim</Trans>
        </h1>
        <p>
          <Trans>
            Say what took the volts of a cell, with a reading that shows it and what would speak against it. Then it
            opens here.
          </Trans>
        </p>
        <p>
          <ButtonLink to="/bench/claims">
            <Trans>To your claims</Trans>
          </ButtonLink>
        </p>
      </Column>
    </Frame>
  );
}

/** Where the volts went in the group's own cells, on its own device. */
export function BenchExplain() {
  const bench = useBench();
  const released = bench.data?.released.includes("explain") ?? false;
  const claims = useBenchClaims();
  const accounts = useAccounts(released ? bench.data?.lab_id : undefined);
  const names = useNames();
  const [search, setSearch] = useSearchParams();
  if (!bench.data) {
    if (bench.error instanceof Problem && bench.error.status === 401) return <Navigate to="/join" replace />;
    return <Waiting title={t`Where the volts went`} error={bench.error} />;
  }
  const opened = new Set((claims.data?.opens ?? []).map(cellKey));
  const all = ownCells(bench.data).filter((one) => released || opened.has(one.key));
  const chosen = all.find((one) => one.key === search.get("cell")) ?? all[0];
  if (!released && bench.data.released.includes("claims") && claims.data && all.length === 0) return <ClaimFirst />;
  if (!released && all.length === 0) return <NotYet />;
  return (
    <Frame
      title={t`Where the volts went, ${bench.data.lab}`}
      lab={t`Where the volts went`}
      about={bench.data.lab}
      who={
        <Link to="/bench">
          <Trans>To the bench</Trans>
        </Link>
      }
      notice={<BenchLine bench={bench.data} outbox={null} />}
    >
      <Columns $left="minmax(0, 1.35fr)">
        <Column>
          {chosen ? (
            <>
              <CellChoice cells={all} value={chosen.key} change={(key) => setSearch({ cell: key })} />
              <OneCell key={chosen.key} lab={bench.data.lab_id} cell={chosen.cell} />
              {bench.data.level !== "first" && (
                <WhatIf key={`if-${chosen.key}`} cell={chosen.cell} positive={names.plate(chosen.cell.positive)} />
              )}
            </>
          ) : (
            <Soft>
              <Trans>Measure a cell first; then you see where its volts went.</Trans>
            </Soft>
          )}
        </Column>
        {released && bench.data.level !== "first" && (
          <Column>
            {accounts.data ? <AllCells data={accounts.data} /> : <ProblemNote problem={accounts.error} />}
          </Column>
        )}
      </Columns>
    </Frame>
  );
}
