import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useEndHomework, useHomework, useSetHomework } from "../../api/homework";
import { capital, day } from "../../format";
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
      aria-label={t`Set homework`}
      onSubmit={(event) => {
        event.preventDefault();
        const asked = /^\d+$/.test(benches.trim()) ? Number(benches) : NaN;
        const fits = asked >= page.fewest_benches && asked <= page.most_benches;
        setWrong({
          ...(symptoms.length === 0 && { symptoms: t`Choose at least one.` }),
          ...(!fits && { benches: t`A whole number from ${page.fewest_benches} to ${page.most_benches}.` }),
        });
        if (fits && symptoms.length > 0) set.mutate({ symptoms, benches: asked });
      }}
    >
      <div role="group" aria-label={t`Benches that call`}>
        <FieldLabel as="span">
          <Trans>Benches that call</Trans>
        </FieldLabel>
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
        label={t`Benches on each device`}
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
      <MainButton type="submit">
        <Trans>Set homework</Trans>
      </MainButton>
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
        <Trans>
          {homework.benches} benches on each device, at <Num>{link.shown}</Num>
        </Trans>
      </p>
      <JoinCode link={link} size="150px" />
      {link.here_only && (
        <Soft>
          <Trans>Only this computer can open that. For phones, stop Pipette and start it with --in-class.</Trans>
        </Soft>
      )}
      {mayChange && (
        <Row>
          <Button onPress={() => end.mutate(homework.id)}>
            <Trans>End it</Trans>
          </Button>
        </Row>
      )}
      <ProblemNote problem={end.error} />
    </>
  );
}

const howMany = ({ devices, through, tries, benches }: Homework) =>
  t`${plural(tries, { one: "# bench", other: "# benches" })} on ${plural(devices, { one: "# device", other: "# devices" })}; ${through} of them did all ${benches}.`;

function notesOf(homework: Homework | undefined): MarginNote[] {
  const missing = homework?.faults.filter((fault) => fault.verdict === "not_yet") ?? [];
  return [
    ...missing.slice(0, 3).map<MarginNote>((fault) => ({
      code: `${fault.symptom}:${fault.fault}`,
      tone: "caution",
      title: capital(fault.name),
      text: t`${fault.found} of ${plural(fault.devices, { one: "# device", other: "# devices" })} named it at once. Build it on one bench and let the class find it. What mends it: ${fault.mend}`,
    })),
    {
      code: "nobody",
      tone: "plain",
      title: t`No names`,
      text: t`A device makes a number for this homework alone. You see faults, never who. What a class practised is no mark.`,
    },
    {
      code: "home",
      tone: "plain",
      title: t`At home, without network`,
      text: t`Have it opened once in class. Then it works anywhere, and answers come in when the device is back.`,
    },
    ...(homework
      ? [
          {
            code: "kept",
            tone: "plain" as const,
            title: t`Kept until ${day(homework.removed_at.slice(0, 10))}`,
            text: t`Then it is removed. It is not part of the lab’s records or its package.`,
          },
        ]
      : []),
  ];
}

/** Practice set as homework for a lab, and which faults its class cannot find yet. */
export function HomeworkPage({ id }: { id: string }) {
  const { data: page, error } = useHomework(id);
  if (!page) return <Waiting title={t`Homework`} error={error} />;
  const [latest, ...earlier] = page.homework;
  const running = latest?.ended_at === null ? latest : undefined;
  return (
    <LabFrame
      id={id}
      lab={page}
      title={t`Homework`}
      links={[{ to: `/labs/${id}/plan`, name: t`Plan` }]}
      margin={<Notes notes={notesOf(latest)} />}
    >
      <Columns $left="minmax(0, 19rem)">
        <Column>
          <h1>
            <Trans>Practice as homework</Trans>
          </h1>
          <Soft>
            <Trans>
              Benches in trouble to find the cause of, on any device. <Link to="/practise">Try it yourself</Link>.
            </Trans>
          </Soft>
          {running?.link && <Running homework={running} link={running.link} mayChange={page.may_change} />}
          {page.may_change &&
            (running ? (
              <Disclosure title={t`Set other homework`} detail={t`ends this one`}>
                <SetHomework id={id} page={page} />
              </Disclosure>
            ) : (
              <SetHomework id={id} page={page} />
            ))}
          {!page.may_change && !running && (
            <Soft>
              <Trans>No homework is set.</Trans>
            </Soft>
          )}
        </Column>
        <Column>
          <h2>
            <Trans>What the class finds</Trans>
          </h2>
          {!latest || latest.tries === 0 ? (
            <Soft>{latest ? t`Nothing has come in yet.` : t`Set homework, and what comes in stands here.`}</Soft>
          ) : (
            <>
              <p>
                {howMany(latest)}
                {latest.ended_at && t` Ended ${day(latest.ended_at.slice(0, 10))}.`}
              </p>
              <ClassFaults faults={latest.faults} />
            </>
          )}
          {earlier
            .filter((one) => one.tries > 0)
            .map((one) => (
              <Disclosure key={one.id} title={t`Homework of ${day(one.set_at.slice(0, 10))}`} detail={howMany(one)}>
                <ClassFaults faults={one.faults} />
              </Disclosure>
            ))}
        </Column>
      </Columns>
    </LabFrame>
  );
}
