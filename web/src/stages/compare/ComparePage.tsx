import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type ReactNode, useState } from "react";
import { TabPanel, Tabs } from "react-aria-components";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { useCompare } from "../../api/findings";
import { Waiting } from "../../ui/Waiting";
import { Dumbbells } from "../../charts/Dumbbells";
import { Outside } from "../../charts/Outside";
import { Stems } from "../../charts/Stems";
import { ButtonLink, TextButton } from "../../ui/Button";
import { Column, Columns, OnScreen, Soft } from "../../ui/layout";
import { type MarginNote, Notes } from "../../ui/Notes";
import { OneTab, TabLine } from "../../ui/tabs";
import { useInAddress } from "../../ui/useInAddress";
import { Overtaken } from "../../ui/Overtaken";
import { withoutActions } from "../../lab/planNotes";
import { PlusMinus } from "../../lab/PlusMinus";
import { bathName, useNames } from "../../lab/useNames";
import { AnchorChoice } from "./AnchorChoice";
import { BesideCells } from "./BesideCells";
import { Changed } from "./Changed";
import { ChangedTab } from "./ChangedTab";
import { FindingsFrame } from "../../lab/FindingsFrame";
import { GroupsTab, LeftOut } from "./GroupsTab";
import { CellsLegend } from "./CellsLegend";
import { LiquidsTab } from "./LiquidsTab";
import { CellTable, LadderTable } from "./Numbers";
import { StrengthTab } from "./StrengthTab";
import { Release } from "../../lab/Release";

/** Notes of the margin that stand there at once. */
const MOST_NOTES = 5;

type Result = Schemas["ElectrolyteResultOut"];
const TABLES: [file: string, name: string][] = [
  ["readings", t`readings`],
  ["cells", t`cells`],
  ["ladders", t`ladders`],
  ["predictions", t`predictions`],
  ["liquids", t`liquids`],
  ["variables", t`what was changed`],
  ["accounts", t`accounts`],
  ["causes", t`causes`],
  ["loads", t`loads`],
  ["notes", t`notes`],
  ["packs", t`packs`],
];

/** One electrolyte: both stems, the cells, and the numbers behind them. */
function OneLiquid({
  result,
  hold,
  lab,
  out,
  toGroups,
}: {
  result: Result;
  hold: ((anchor: string) => void) | null;
  lab: string | null;
  out: number;
  toGroups: () => void;
}) {
  const { plate } = useNames();
  return (
    <Columns $left="minmax(0, 26rem)">
      <Column>
        <h1>
          <Trans>Where each plate sits</Trans>
        </h1>
        {result.anchor ? (
          <>
            <Soft>
              <Trans>Volts against hydrogen, held at</Trans>{" "}
              {hold ? (
                <AnchorChoice anchors={result.anchors} anchor={result.anchor} onChange={hold} />
              ) : (
                plate(result.anchor)
              )}
            </Soft>
            <Stems result={result} />
            <LadderTable result={result} />
          </>
        ) : (
          <Soft>
            <Trans>No plate of the table is on the ladder yet, so there is no scale to draw it on.</Trans>
          </Soft>
        )}
      </Column>
      <Column>
        <h2>
          <Trans>Cells, widest gap first</Trans>
        </h2>
        <CellsLegend results={[result]} elsewhere={t`from elsewhere, see below`} />
        <PlusMinus />
        <Dumbbells result={result} />
        <Outside n={out}>
          <TextButton onPress={toGroups}>
            <Trans>Which, and why</Trans>
          </TextButton>
        </Outside>
        <CellTable result={result} />
        {lab && <BesideCells lab={lab} result={result} />}
      </Column>
    </Columns>
  );
}

type Compare = Schemas["CompareOut"];
const tabOf = (bath: { electrolyte: string; condition: string }) => `${bath.electrolyte}|${bath.condition}`;

/** How many readings of a liquid do not count by their verdict and are not drawn. */
const outOf = (data: Compare, { electrolyte, condition }: Result) =>
  data.left_out.filter((one) => one.electrolyte === electrolyte && one.condition === condition).length;

type ViewProps = {
  data: Compare;
  tab: string;
  setTab: (tab: string) => void;
  hold: ((electrolyte: string, anchor: string) => void) | null;
  before: (() => void) | null;
  /** What was changed on purpose, where anything was and the teacher looks. */
  changed: ReactNode;
  /** The class's cells under load, for the teacher. */
  strength: ReactNode;
};

/** The class's result in tabs: one for each liquid, all liquids, groups. */
export function CompareView({ data, tab, setTab, hold, before, changed, strength }: ViewProps) {
  const names = useNames();
  const { electrolytes } = data;
  return (
    <Tabs selectedKey={tab} onSelectionChange={(key) => setTab(String(key))}>
      <TabLine aria-label={t`What to compare`}>
        {electrolytes.map((electrolyte) => (
          <OneTab key={tabOf(electrolyte)} id={tabOf(electrolyte)}>
            {bathName(names, electrolyte)}
          </OneTab>
        ))}
        {electrolytes.length > 1 && (
          <OneTab id="liquids">
            <Trans>all liquids</Trans>
          </OneTab>
        )}
        {changed && (
          <OneTab id="changed">
            <Trans>what was changed</Trans>
          </OneTab>
        )}
        {strength && (
          <OneTab id="strength">
            <Trans>under load</Trans>
          </OneTab>
        )}
        <OneTab id="groups">
          <Trans>groups</Trans>
        </OneTab>
      </TabLine>
      {electrolytes.map((result) => (
        <TabPanel key={tabOf(result)} id={tabOf(result)}>
          <OneLiquid
            result={result}
            hold={hold ? (anchor) => hold(result.electrolyte, anchor) : null}
            lab={hold ? data.id : null}
            out={outOf(data, result)}
            toGroups={() => setTab("groups")}
          />
        </TabPanel>
      ))}
      {electrolytes.length > 1 && (
        <TabPanel id="liquids">
          <LiquidsTab data={data} />
        </TabPanel>
      )}
      {changed && <TabPanel id="changed">{changed}</TabPanel>}
      {strength && <TabPanel id="strength">{strength}</TabPanel>}
      <TabPanel id="groups">
        <GroupsTab data={data} before={before} />
      </TabPanel>
    </Tabs>
  );
}

/** What the margin says on a tab: of that liquid, or of the class as a whole. */
export function notesOn(data: Compare, tab: string): MarginNote[] {
  const result = data.electrolytes.find((electrolyte) => tabOf(electrolyte) === tab);
  const whole = withoutActions(data.notes);
  if (!result) return whole;
  // What went wrong stands before what the numbers say of plates: until it is put right they may say it wrongly.
  const of = (tone: string) => whole.filter((note) => note.tone === tone);
  const own = withoutActions(result.notes);
  return [...of("wrong"), ...own.slice(0, 3), ...of("caution"), ...own.slice(3)];
}

/** The class's voltages beside the table, one ladder per electrolyte. */
export function ComparePage({ id }: { id: string }) {
  const [search, setSearch] = useInAddress();
  const held = search.getAll("held");
  const setChosen = (tab: string) => setSearch({ tab });
  const [before, setBefore] = useState<Compare | null>(null);
  const compare = useCompare(id, held);
  if (!compare.data) return <Waiting title={t`Compare`} error={compare.error} />;
  const { data } = compare;
  const { state, electrolytes } = data;
  const first = electrolytes[0];
  const varies = electrolytes.some((electrolyte) => electrolyte.condition !== "") || data.added;
  const plain = electrolytes.some((electrolyte) => electrolyte.condition === "");
  const tabs = [
    ...electrolytes.map(tabOf),
    ...(electrolytes.length > 1 ? ["liquids"] : []),
    ...(varies ? ["changed"] : []),
    ...(plain ? ["strength"] : []),
    "groups",
  ];
  const asked = search.get("tab");
  const opens = first && (data.added || !plain ? "changed" : tabOf(first)); // where something was changed, on its answer
  const tab = opens ? (asked && tabs.includes(asked) ? asked : opens) : null;
  const notes: MarginNote[] = tab ? notesOn(data, tab) : [];
  if (before)
    notes.unshift({
      code: "changed",
      tone: "plain",
      title: t`What changed`,
      text: <Changed before={before} now={data} />,
      action: (
        <TextButton onPress={() => setBefore(null)}>
          <Trans>Hide this note</Trans>
        </TextButton>
      ),
    });
  const late = data.after_closing.filter((one) => !one.aside).length;
  if (late > 0)
    notes.unshift({
      code: "after-closing",
      tone: "caution",
      title: t`${plural(late, { one: "# reading", other: "# readings" })} came in after closing`,
      text: t`Typed while the lab was open, sent by devices without network. They count unless you set them aside.`,
      action: (
        <TextButton onPress={() => setChosen("groups")}>
          <Trans>Show the late readings</Trans>
        </TextButton>
      ),
    });
  const fixed: MarginNote[] = [
    {
      code: "release",
      tone: "plain",
      title: t`Groups see on their devices`,
      text: <Release lab={id} released={data.released} />,
    },
    {
      code: "out",
      tone: "plain",
      title: t`Out of here`,
      text: (
        <>
          <p>
            <Link to={`/labs/${id}/compare/handout`}>
              <Trans>A handout for every student, two pages</Trans>
            </Link>
          </p>
          <Trans>
            All tables with units and uncertainty: <a href={`/api/labs/${id}/tables.xlsx`}>XLSX</a>, or as CSV:
          </Trans>{" "}
          {TABLES.map(([file, name], index) => (
            <span key={file}>
              {index > 0 && ", "}
              <a href={`/api/labs/${id}/tables/${file}.csv`}>{name}</a>
            </span>
          ))}
        </>
      ),
    },
  ];
  return (
    <FindingsFrame
      data={data}
      here="Compare"
      projector={first ? `/labs/${id}/compare/projector` : null}
      margin={
        tab ? (
          <>
            <Notes notes={notes} most={MOST_NOTES} />
            <OnScreen>
              <Notes notes={fixed} />
            </OnScreen>
          </>
        ) : data.notes.length > 0 ? (
          <Notes notes={withoutActions(data.notes)} />
        ) : (
          <Soft>
            <Trans>Nothing to say yet.</Trans>
          </Soft>
        )
      }
    >
      {tab ? (
        <Overtaken by={compare.isPlaceholderData}>
          <CompareView
            data={data}
            tab={tab}
            setTab={setChosen}
            hold={(electrolyte, anchor) =>
              setSearch({
                held: [...held.filter((one) => !one.startsWith(`${electrolyte}:`)), `${electrolyte}:${anchor}`],
              })
            }
            before={() => setBefore(data)}
            changed={varies ? <ChangedTab id={id} /> : null}
            strength={plain ? <StrengthTab id={id} /> : null}
          />
        </Overtaken>
      ) : (
        <Column>
          <h1>{data.left_out.length > 0 ? t`Nothing counts yet` : t`Nothing to compare yet`}</h1>
          {data.left_out.length > 0 ? (
            <LeftOut data={data} before={() => setBefore(data)} />
          ) : (
            <Soft>
              <Trans>As soon as a group records its first reading, it stands here beside the table.</Trans>
            </Soft>
          )}
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
