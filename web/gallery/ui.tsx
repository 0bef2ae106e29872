import { Problem, type ProblemBody, type Schemas } from "../src/api/client";
import { Asked } from "../src/lab/Asked";
import { WhatCounts, WorthHowMany } from "../src/lab/Marks";
import { AskOnce } from "../src/ui/AskOnce";
import { Behind } from "../src/ui/Behind";
import { Button, ButtonLink, Key, MainButton, MainLink, TextButton } from "../src/ui/Button";
import { Choices } from "../src/ui/Choices";
import { DeedTable } from "../src/ui/DeedTable";
import { Heads } from "../src/ui/Heads";
import { Table } from "../src/ui/layout";
import { JoinCode } from "../src/ui/JoinCode";
import { type MarginNote, Notes } from "../src/ui/Notes";
import { Overtaken } from "../src/ui/Overtaken";
import { ProblemNote } from "../src/ui/ProblemNote";
import { Ring } from "../src/ui/Ring";
import { Select } from "../src/ui/Select";
import { Disclosure, Picks, Progress, Tick } from "../src/ui/controls";
import { TextField } from "../src/ui/fields";
import { Legend } from "../src/ui/voices";
import { LONG, state } from "./state";

const nothing = () => undefined;

const note = (tone: MarginNote["tone"], title: string, more: Partial<MarginNote> = {}): MarginNote => ({
  code: title,
  tone,
  title,
  text: "What was seen, and what it may mean, in a sentence or two.",
  ...more,
});

const body: ProblemBody = { code: "broken", message: LONG.title, field: null, passing: false, rows: [] };
const rows = [
  { line: 3, message: "“banana” is no number of volts." },
  { line: 40, message: LONG.title },
];

const option = (key: string, usual: boolean) => ({ key, usual, name: key, symbol: key.slice(0, 2), detail: "strip" });
const options = [option("zinc", true), option("copper", true), option("silver", false), option("tin", false)];

const deed = (what: string, lab: string | null): Schemas["DeedOut"] => ({
  about: LONG.group,
  at: "2026-03-02T09:05:00Z",
  lab,
  title: lab ? LONG.title : "",
  what,
  who: "demo-teacher",
});

const rubric: Schemas["RubricRow"][] = [
  {
    name: "Method",
    most: 3,
    levels: [{ points: 3, text: "everything a stranger needs", example: "plates rubbed first" }],
  },
  { name: "Words", most: 2, levels: [] },
];

const answered = (kind: string | null, text = "") =>
  ({ text: "Does it matter how deep?", answer: kind && { kind, text } }) as Schemas["QuestionOut"];

export const UI_STATES = [
  state(
    "Buttons",
    <>
      <Button>Keep it</Button> <MainButton>Open the bench</MainButton> <MainButton isDisabled>Not yet</MainButton>{" "}
      <ButtonLink to="/">To the plan</ButtonLink> <MainLink to="/">{LONG.title}</MainLink>{" "}
      <TextButton>Correct</TextButton> <Key>Enter</Key>
    </>,
  ),
  state(
    "Notes: one of each tone, with numbers and something to do, three more behind a press",
    <Notes
      most={4}
      notes={[
        note("plain", "A plain one"),
        note("good", "A good one", { evidence: ["0.94 V", "0.95 V"] }),
        note("caution", LONG.title, { action: <Button>Ask for a new reading</Button> }),
        note("wrong", "A wrong one", { evidence: [] }),
        note("plain", "The fifth"),
        note("plain", "The sixth"),
      ]}
    />,
  ),
  state("Notes: as many as are shown", <Notes notes={[note("good", "One"), note("plain", "Two")]} most={2} />),
  state("What went wrong: in a table", <ProblemNote problem={new Problem(400, { ...body, rows })} />),
  state("What went wrong: in a sentence", <ProblemNote problem={new Problem(400, body)} />),
  state("What went wrong: nothing", <ProblemNote problem={null} />),
  state(
    "A question before it is done",
    <AskOnce
      button="Close the bench"
      question="Readings can then not be typed."
      yes="Close it"
      no="Keep it open"
      act={nothing}
    />,
  ),
  state(
    "Numbers behind a press",
    <Behind label="Numbers of both stems">
      <Table>
        <Heads of={["plate", { numbers: "class, V" }]} />
      </Table>
    </Behind>,
  ),
  state(
    "Several of a list: one chosen that is not usual",
    <Choices label="Plates" hint="Two or more." options={options} value={["silver"]} onChange={nothing} />,
  ),
  state(
    "Several of a list: too few",
    <Choices label="Plates" options={options} value={[]} onChange={nothing} error="Choose two." />,
  ),
  state(
    "One of a list",
    <Select
      label="Liquid"
      hint="What is in the cup."
      options={[{ key: "a", name: LONG.liquid }]}
      value="a"
      onChange={nothing}
    />,
  ),
  state(
    "One of a few",
    <Picks
      label="Unit"
      hint="As the meter says."
      options={[
        { key: "V", name: "V" },
        { key: "mV", name: "mV" },
      ]}
      value="V"
      onChange={nothing}
    />,
  ),
  state(
    "Yes or no",
    <>
      <Tick isSelected onChange={nothing}>
        Yes
      </Tick>
      <Tick isSelected={false} onChange={nothing}>
        {LONG.title}
      </Tick>
    </>,
  ),
  state(
    "What most need not see",
    <Disclosure title="What each plate is rubbed with" detail="6 plates">
      Emery paper.
    </Disclosure>,
  ),
  state("How far something has got", <Progress label="Bringing in" value={30} of={120} />),
  state(
    "Fields",
    <>
      <TextField label="Title" hint="As it stands on the cards." defaultValue={LONG.title} />
      <TextField label="Minutes" error="Between 10 and 600." defaultValue="4" />
      <TextField label="Words" rows={3} defaultValue={LONG.liquid} />
    </>,
  ),
  state("Worked out for what was chosen before", <Overtaken by={true}>3 cells are enough.</Overtaken>),
  state("Worked out for what is chosen", <Overtaken by={false}>3 cells are enough.</Overtaken>),
  state(
    "Waiting: just begun, half, done",
    <>
      <Ring part={0} text="30" />
      <Ring part={0.5} text="15" />
      <Ring part={1.2} text="0" />
    </>,
  ),
  state(
    "What was done: in several labs",
    <DeedTable label="Deeds" deeds={[deed("opened the bench", "1"), deed("signed in", null)]} />,
  ),
  state("What was done: nothing", <DeedTable label="Deeds" deeds={[]} />),
  state(
    "What marks mean",
    <Legend
      items={[
        { mark: "table", text: "table" },
        { mark: "reading", text: "class mean" },
        { mark: "group", text: "a group" },
        { mark: "elsewhere", text: "from elsewhere" },
      ]}
    />,
  ),
  state(
    "A square code",
    <JoinCode link={{ address: "http://127.0.0.1/join", qr_path: "M1 1h3v3h-3z", qr_size: 9 }} size="120" />,
  ),
  state("A group's question: not looked at", <Asked question={answered(null)} />),
  state("A group's question: parked, with words", <Asked question={answered("parked", "After Easter.")} />),
  state("A group's question: a cell for it", <Asked question={answered("cell")} />),
  state("A group's question: a lab for it", <Asked question={answered("planned")} />),
  state("What counts", <WhatCounts rubric={rubric} />),
  state("What counts: nothing described", <WhatCounts rubric={rubric.slice(1)} />),
  state("What is worth how many", <WorthHowMany rubric={rubric} give={nothing} />),
];
