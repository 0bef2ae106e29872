import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Link, useSearchParams } from "react-router";
import type { Schemas } from "../../api/client";
import { useClaims } from "../../api/claims";
import { useAccounts, useCompare, useDeciding } from "../../api/findings";
import { ProblemNote } from "../../ui/ProblemNote";
import { Waiting } from "../../ui/Waiting";
import { number } from "../../format";
import { ButtonLink } from "../../ui/Button";
import { Column, Columns, OnScreen, Soft } from "../../ui/layout";
import { type MarginNote, Notes } from "../../ui/Notes";
import { Select } from "../../ui/Select";
import { OwnFit } from "../../lab/OwnFit";
import { EvidenceOf } from "../../lab/EvidenceOf";
import { cellKey } from "../../lab/cellKey";
import { FindingsFrame } from "../../lab/FindingsFrame";
import { Release } from "../../lab/Release";
import { bathName, useNames } from "../../lab/useNames";
import { AllCells } from "./AllCells";
import { Deciding } from "./Deciding";
import { OneCell } from "./OneCell";
import { UnderLoad } from "./UnderLoad";
import { WhatIf } from "./WhatIf";

const NO_ANCHORS: string[] = [];
type Compare = Schemas["CompareOut"];

/** Every measured cell with its key for the address. */
export function cellsOf(data: Compare) {
  return data.electrolytes.flatMap((result) =>
    result.cells.map((cell) => ({
      key: cellKey({ ...cell, electrolyte: result.electrolyte, condition: result.condition }),
      gap: cell.gap_v as number | null,
      short: cell.short,
      bath: { electrolyte: result.electrolyte, condition: result.condition },
      cell: {
        negative: cell.negative,
        electrolyte: result.electrolyte,
        positive: cell.positive,
        condition: result.condition,
      },
    })),
  );
}

type Cells = ReturnType<typeof cellsOf>;

/** Choose a cell; the widest gap of the first liquid to begin with. */
export function CellChoice({ cells, value, change }: { cells: Cells; value: string; change: (key: string) => void }) {
  const names = useNames();
  return (
    <Select
      label={t`Cell`}
      options={cells.map((cell) => ({
        key: cell.key,
        name: `${cell.short}, ${bathName(names, cell.bath)}${cell.gap === null ? "" : `, ${number(cell.gap, 2, true)} V`}`,
      }))}
      value={value}
      onChange={change}
    />
  );
}

/** How many claims are in and wait for an answer, and the way to them. */
function WhatGroupsSay({ lab, data }: { lab: string; data: Schemas["ClaimsOut"] }) {
  const latest = data.claims.filter((claim) => claim.latest);
  const waiting = latest.filter((claim) => claim.answer === null).length;
  if (latest.length === 0)
    return (
      <>
        <h2>
          <Trans>What groups say</Trans>
        </h2>
        <Soft>
          {data.released.includes("claims")
            ? t`No claim is in yet.`
            : t`Tick “a form for their own claims” in the margin; then groups find it on their bench.`}
        </Soft>
      </>
    );
  return (
    <>
      <h2>
        <Trans>What groups say</Trans>
      </h2>
      <p>
        {plural(latest.length, { one: "# claim", other: "# claims" })},{" "}
        {waiting === 0 ? t`all answered` : t`${waiting} not answered yet`}.
      </p>
      <p>
        <ButtonLink to={`/labs/${lab}/claims`}>
          <Trans>Read and answer them</Trans>
        </ButtonLink>
      </p>
    </>
  );
}

/** Where the volts went: one cell, what if, all cells by the accounts, and what groups say. */
export function ExplainPage({ id }: { id: string }) {
  const compare = useCompare(id, NO_ANCHORS);
  const accounts = useAccounts(id);
  const claims = useClaims(id);
  const shares = useDeciding(id);
  const names = useNames();
  const [search, setSearch] = useSearchParams();
  if (!compare.data) return <Waiting title={t`Explain`} error={compare.error} />;
  const { state, released } = compare.data;
  const all = cellsOf(compare.data);
  const chosen = all.find((one) => one.key === search.get("cell")) ?? all[0];
  const shown: MarginNote = {
    code: "release",
    tone: "plain",
    title: t`Groups see on their devices`,
    text: <Release lab={id} released={released} />,
  };
  const notes: MarginNote[] = [
    {
      code: "order",
      tone: "plain",
      title: t`Why this order of causes`,
      text: t`The causes act together, so what one seems to add depends on which were taken before it. The sum does not.`,
    },
    {
      code: "basics",
      tone: "plain",
      title: t`The basics`,
      text: (
        <Link to={`/labs/${id}/basics/projector`}>
          <Trans>Volts, amperes, anode, LED: in one sentence each, for the wall</Trans>
        </Link>
      ),
    },
    {
      code: "test",
      tone: "plain",
      title: t`Try it`,
      text: t`Every cause has a test. A cause nobody can test is a story.`,
    },
  ];
  return (
    <FindingsFrame
      data={compare.data}
      here="Explain"
      projector={chosen ? `/labs/${id}/explain/projector?cell=${encodeURIComponent(chosen.key)}` : null}
      margin={
        <>
          <OnScreen>
            <Notes notes={[shown]} />
          </OnScreen>
          <Notes notes={notes} />
        </>
      }
    >
      {chosen ? (
        <Columns $left="minmax(0, 1.35fr)">
          <Column>
            <OnScreen>
              <CellChoice cells={all} value={chosen.key} change={(key) => setSearch({ cell: key })} />
            </OnScreen>
            <OneCell key={chosen.key} lab={id} cell={chosen.cell} />
            <OnScreen>
              <EvidenceOf lab={id} cell={chosen.cell} />
            </OnScreen>
            {chosen.cell.condition === "" && (
              <OnScreen>
                <OwnFit key={`fit-${chosen.key}`} lab={id} cell={chosen.cell} />
              </OnScreen>
            )}
            <OnScreen>
              <WhatIf key={`if-${chosen.key}`} cell={chosen.cell} positive={names.plate(chosen.cell.positive)} />
            </OnScreen>
          </Column>
          <Column>
            {accounts.data ? (
              <AllCells data={accounts.data} />
            ) : accounts.error ? (
              <ProblemNote problem={accounts.error} />
            ) : (
              <Soft>
                <Trans>Testing the accounts …</Trans>
              </Soft>
            )}
            {shares.data && <Deciding found={shares.data} closed={state === "closed"} />}
            {!claims.data && <ProblemNote problem={claims.error} />}
            {claims.data && (
              <OnScreen>
                <WhatGroupsSay lab={id} data={claims.data} />
              </OnScreen>
            )}
            <UnderLoad lab={id} />
          </Column>
        </Columns>
      ) : (
        <Column>
          <h1>
            <Trans>Nothing to explain yet</Trans>
          </h1>
          <Soft>
            <Trans>As soon as a group records its first reading, its gap can be taken apart here.</Trans>
          </Soft>
          <p>
            <ButtonLink to={`/labs/${id}/${state === "draft" ? "plan" : "board"}`}>
              {state === "draft" ? t`To the plan` : t`To the board`}
            </ButtonLink>
          </p>
        </Column>
      )}
    </FindingsFrame>
  );
}
