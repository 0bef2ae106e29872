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
import { ReadingDrill } from "./ReadingDrill";
import { SumsDrill } from "./SumsDrill";

const TABS = [
  ["faults", "what is wrong here?"],
  ["sums", "the subtraction"],
  ["meters", "reading a meter"],
  ["bench", "build your own"],
] as const;

const NOTES: MarginNote[] = [
  {
    code: "how",
    tone: "plain",
    title: "How to think",
    text: "Change one thing, look at the meter, then decide. A test that cannot change your mind is not worth the time.",
  },
  {
    code: "simulated",
    tone: "plain",
    title: "Simulated",
    text: "Nothing here is measured: the numbers come from the same model that Explain uses. Nothing is at stake, and nobody keeps a score.",
  },
  {
    code: "offline",
    tone: "plain",
    title: "No kit, no network",
    text: "What you miss comes up more often; that is remembered on this device alone. Once opened, this page works without network.",
  },
];

/** Practice with nothing on the table: faults to find, the subtraction, meters to read. */
export function PractisePage() {
  const practise = usePractise();
  const [search, setSearch] = useInAddress();
  const there = practise.data !== undefined;
  useEffect(() => {
    if (there && !hasLeft()) void keepForOffline();
  }, [there]);
  if (!practise.data) return <Waiting title="Practise" error={practise.error} />;
  const { cases, sums, displays, same_v, bench, names } = practise.data;
  const tab = TABS.some(([key]) => key === search.get("drill")) ? (search.get("drill") ?? "faults") : "faults";
  return (
    <Frame
      title="Practise"
      lab="Practice bench"
      about="simulated cells · nothing is recorded"
      who={<Link to="/">To the start</Link>}
      margin={<Notes notes={NOTES} />}
    >
      <Tabs selectedKey={tab} onSelectionChange={(key) => setSearch({ drill: String(key) })}>
        <TabLine aria-label="What to practise">
          {TABS.map(([key, name]) => (
            <OneTab key={key} id={key}>
              {name}
            </OneTab>
          ))}
        </TabLine>
        <TabPanel id="faults">
          <FaultDrill cases={cases} names={names} />
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
