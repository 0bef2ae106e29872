import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useEffect } from "react";
import { TabPanel, Tabs } from "react-aria-components";
import { Link } from "react-router";
import { hasLeft } from "../../api/leaving";
import { keepForOffline } from "../../api/offline";
import { usePractise } from "../../api/practise";
import { Frame } from "../../ui/Frame";
import { type MarginNote, Notes } from "../../ui/Notes";
import { OneTab, TabLine } from "../../ui/tabs";
import { useInAddress } from "../../ui/useInAddress";
import { Waiting } from "../../ui/Waiting";
import { FaultDrill } from "./FaultDrill";
import { FreeBench } from "./FreeBench";
import { HomeworkStrip } from "./HomeworkStrip";
import { plainCode } from "./homework";
import { ReadingDrill } from "./ReadingDrill";
import { SumsDrill } from "./SumsDrill";
import { useHomeworkHere } from "./useHomeworkHere";

const TABS = [
  ["faults", t`what is wrong here?`],
  ["sums", t`the subtraction`],
  ["meters", t`reading a meter`],
  ["bench", t`build your own`],
] as const;

const NOTES: MarginNote[] = [
  {
    code: "how",
    tone: "plain",
    title: t`How to think`,
    text: t`Change one thing, look at the meter, then decide. A test that cannot change your mind is not worth the time.`,
  },
  {
    code: "simulated",
    tone: "plain",
    title: t`Simulated`,
    text: t`Nothing here is measured: the numbers come from the same model that Explain uses. Nothing is at stake, and nobody keeps a score of you.`,
  },
  {
    code: "offline",
    tone: "plain",
    title: t`No kit, no network`,
    text: t`What you miss comes up more often; that is remembered on this device alone. Once opened, this page works without network.`,
  },
];

const COUNTED: MarginNote = {
  code: "homework",
  tone: "plain",
  title: t`What your teacher sees`,
  text: t`For each fault: on how many devices it was named at once, what it was taken for, and what was tried before. No names, and nothing else from this device.`,
};

/** Practice with nothing on the table: faults to find, the subtraction, meters to read. */
export function PractisePage() {
  const practise = usePractise();
  const [search, setSearch] = useInAddress();
  const here = useHomeworkHere();
  const { homework } = here;
  const there = practise.data !== undefined;
  useEffect(() => {
    if (there && !hasLeft()) void keepForOffline();
  }, [there]);
  if (!practise.data) return <Waiting title={t`Practise`} error={practise.error} />;
  const { cases, sums, displays, same_v, bench, names } = practise.data;
  const tab = TABS.some(([key]) => key === search.get("drill")) ? (search.get("drill") ?? "faults") : "faults";
  const given = plainCode(search.get("code") ?? "");
  const strip = (
    <HomeworkStrip
      here={here}
      given={given}
      begin={(found) => {
        here.begin(found);
        setSearch({ code: null });
      }}
    />
  );
  return (
    <Frame
      title={t`Practise`}
      lab={t`Practice bench`}
      about={homework ? t`simulated cells · homework` : t`simulated cells · nothing is recorded`}
      who={
        <Link to="/">
          <Trans>To the start</Trans>
        </Link>
      }
      margin={<Notes notes={homework ? [...NOTES, COUNTED] : NOTES} />}
    >
      <Tabs selectedKey={tab} onSelectionChange={(key) => setSearch({ drill: String(key) })}>
        <TabLine aria-label={t`What to practise`}>
          {TABS.map(([key, name]) => (
            <OneTab key={key} id={key}>
              {name}
            </OneTab>
          ))}
        </TabLine>
        <TabPanel id="faults">
          {(homework || given) && strip}
          <FaultDrill
            key={homework?.code ?? ""}
            cases={homework ? cases.filter((one) => homework.symptoms.includes(one.symptom)) : cases}
            names={names}
            first={homework ? (tried) => void here.tried(tried) : undefined}
          />
          {!homework && !given && strip}
        </TabPanel>
        <TabPanel id="sums">
          <SumsDrill sums={sums} same={same_v} names={names} />
        </TabPanel>
        <TabPanel id="meters">
          <ReadingDrill displays={displays} />
        </TabPanel>
        <TabPanel id="bench">
          <FreeBench tables={bench} names={names} />
        </TabPanel>
      </Tabs>
    </Frame>
  );
}
