import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useEndHomework, useHomework, useSetHomework } from "../../api/homework";
import { capital, count, day } from "../../format";
import { LabFrame } from "../../lab/LabFrame";
import { Button, MainButton } from "../../ui/Button";
import { Disclosure, Tick } from "../../ui/controls";
import { FieldLabel, TextField } from "../../ui/fields";
import { JoinCode } from "../../ui/JoinCode";
import { Column, Columns, Form, Num, Row, Soft, WrongText } from "../../ui/layout";
import { type MarginNote, Notes } from "../../ui/Notes";
import { ProblemNote } from "../../ui/ProblemNote";
import { Waiting } from "../../ui/Waiting";
import { ClassFaults } from "./ClassFaults";

type Page = Schemas["HomeworkPage"];
type Homework = Schemas["HomeworkOut"];

const Code = styled.p`
  font-size: 1.5rem;
  font-weight: 700;
`;

const USUAL = "6";

function SetHomework({ id, page }: { id: string; page: Page }) {
  const set = useSetHomework(id);
  const [symptoms, setSymptoms] = useState(() => page.choices.filter((one) => one.usual).map((one) => one.key));
  const [benches, setBenches] = useState(USUAL);
  const [wrong, setWrong] = useState<{ symptoms?: string; benches?: string }>({});
  return (
    <Form
      aria-label="Set homework"
      onSubmit={(event) => {
        event.preventDefault();
        const asked = /^\d+$/.test(benches.trim()) ? Number(benches) : NaN;
        const fits = asked >= page.fewest_benches && asked <= page.most_benches;
        setWrong({
          ...(symptoms.length === 0 && { symptoms: "Choose at least one." }),
          ...(!fits && { benches: `A whole number from ${page.fewest_benches} to ${page.most_benches}.` }),
        });
        if (fits && symptoms.length > 0) set.mutate({ symptoms, benches: asked });
      }}
    >
      <div role="group" aria-label="Benches that call">
        <FieldLabel as="span">Benches that call</FieldLabel>
        {page.choices.map((one) => (
          <Tick
            key={one.key}
            isSelected={symptoms.includes(one.key)}
            onChange={(on) => {
              setSymptoms((now) =>
                page.choices.map(({ key }) => key).filter((key) => (key === one.key ? on : now.includes(key))),
              );
              setWrong({});
            }}
          >
            “{one.seen}”
          </Tick>
        ))}
        {wrong.symptoms && <WrongText role="alert">{wrong.symptoms}</WrongText>}
      </div>
      <TextField
        label="Benches on each device"
        value={benches}
        onChange={(typed) => {
          setBenches(typed);
          setWrong({});
        }}
        inputMode="numeric"
        maxLength={3}
        error={wrong.benches ?? null}
      />
      <ProblemNote problem={set.error} />
      <MainButton type="submit">Set homework</MainButton>
    </Form>
  );
}

type RunningProps = { homework: Homework; link: Schemas["JoinLink"]; mayChange: boolean };

function Running({ homework, link, mayChange }: RunningProps) {
  const end = useEndHomework();
  return (
    <>
      <Code>
        <Num>{homework.code}</Num>
      </Code>
      <p>
        {homework.benches} benches on each device, at <Num>{link.shown}</Num>
      </p>
      <JoinCode link={link} size="150px" />
      {link.here_only && (
        <Soft>Only this computer can open that. For phones, stop Pipette and start it with --in-class.</Soft>
      )}
      {mayChange && (
        <Row>
          <Button onPress={() => end.mutate(homework.id)}>End it</Button>
        </Row>
      )}
      <ProblemNote problem={end.error} />
    </>
  );
}

const howMany = ({ devices, through, tries, benches }: Homework) =>
  `${count(tries, "bench", "benches")} on ${count(devices, "device")}; ${through} of them did all ${benches}.`;

function notesOf(homework: Homework | undefined): MarginNote[] {
  const missing = homework?.faults.filter((fault) => fault.verdict === "not_yet") ?? [];
  return [
    ...missing.slice(0, 3).map<MarginNote>((fault) => ({
      code: `${fault.symptom}:${fault.fault}`,
      tone: "caution",
      title: capital(fault.name),
      text: `${fault.found} of ${count(fault.devices, "device")} named it at once. Build it on one bench and let the class find it. What mends it: ${fault.mend}`,
    })),
    {
      code: "nobody",
      tone: "plain",
      title: "No names",
      text: "A device makes a number for this homework alone. You see faults, never who. What a class practised is no mark.",
    },
    {
      code: "home",
      tone: "plain",
      title: "At home, without network",
      text: "Have it opened once in class. Then it works anywhere, and answers come in when the device is back.",
    },
    ...(homework
      ? [
          {
            code: "kept",
            tone: "plain" as const,
            title: `Kept until ${day(homework.removed_at.slice(0, 10))}`,
            text: "Then it is removed. It is not part of the lab’s records or its package.",
          },
        ]
      : []),
  ];
}

/** Practice set as homework for a lab, and which faults its class cannot find yet. */
export function HomeworkPage({ id }: { id: string }) {
  const { data: page, error } = useHomework(id);
  if (!page) return <Waiting title="Homework" error={error} />;
  const [latest, ...earlier] = page.homework;
  const running = latest?.ended_at === null ? latest : undefined;
  return (
    <LabFrame
      id={id}
      lab={page}
      title="Homework"
      links={[{ to: `/labs/${id}/plan`, name: "Plan" }]}
      margin={<Notes notes={notesOf(latest)} />}
    >
      <Columns $left="minmax(0, 19rem)">
        <Column>
          <h1>Practice as homework</h1>
          <Soft>
            Benches in trouble to find the cause of, on any device. <Link to="/practise">Try it yourself</Link>.
          </Soft>
          {running?.link && <Running homework={running} link={running.link} mayChange={page.may_change} />}
          {page.may_change &&
            (running ? (
              <Disclosure title="Set other homework" detail="ends this one">
                <SetHomework id={id} page={page} />
              </Disclosure>
            ) : (
              <SetHomework id={id} page={page} />
            ))}
          {!page.may_change && !running && <Soft>No homework is set.</Soft>}
        </Column>
        <Column>
          <h2>What the class finds</h2>
          {!latest || latest.tries === 0 ? (
            <Soft>{latest ? "Nothing has come in yet." : "Set homework, and what comes in stands here."}</Soft>
          ) : (
            <>
              <p>
                {howMany(latest)}
                {latest.ended_at && ` Ended ${day(latest.ended_at.slice(0, 10))}.`}
              </p>
              <ClassFaults faults={latest.faults} />
            </>
          )}
          {earlier
            .filter((one) => one.tries > 0)
            .map((one) => (
              <Disclosure key={one.id} title={`Homework of ${day(one.set_at.slice(0, 10))}`} detail={howMany(one)}>
                <ClassFaults faults={one.faults} />
              </Disclosure>
            ))}
        </Column>
      </Columns>
    </LabFrame>
  );
}
