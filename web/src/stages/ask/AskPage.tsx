import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useAsked, useEndQuestion } from "../../api/asking";
import { day } from "../../format";
import { LabFrame } from "../../lab/LabFrame";
import { Button, ButtonLink } from "../../ui/Button";
import { Disclosure } from "../../ui/controls";
import { JoinCode } from "../../ui/JoinCode";
import { Column, Columns, Num, Row, Soft } from "../../ui/layout";
import { type MarginNote, Notes } from "../../ui/Notes";
import { ProblemNote } from "../../ui/ProblemNote";
import { Waiting } from "../../ui/Waiting";
import { AskForm } from "./AskForm";
import { Sums, answered } from "./Sums";

type Asked = Schemas["AskedOut"];

const Code = styled.p`
  font-size: 1.5rem;
  font-weight: 700;
`;

function Running({ id, asked, mayChange }: { id: string; asked: Asked; mayChange: boolean }) {
  const end = useEndQuestion();
  if (!asked.link) return null;
  return (
    <>
      <Code>
        <Num>{asked.code}</Num>
      </Code>
      <p>
        <Trans>
          on any device, at <Num>{asked.link.shown}</Num>
        </Trans>
      </p>
      <JoinCode link={asked.link} size="150px" />
      {asked.link.here_only && (
        <Soft>
          <Trans>Only this computer can open that. For phones, stop Pipette and start it with --in-class.</Trans>
        </Soft>
      )}
      <Row>
        <ButtonLink to={`/labs/${id}/ask/projector`}>
          <Trans>On the wall</Trans>
        </ButtonLink>
        {mayChange && (
          <Button onPress={() => end.mutate(asked.id)}>
            <Trans>End it and show the sums</Trans>
          </Button>
        )}
      </Row>
      <ProblemNote problem={end.error} />
    </>
  );
}

/** What is behind answers comes as something to talk about; then how it is kept. */
function notesOf(asked: Asked | undefined): MarginNote[] {
  return [
    ...(asked?.thoughts ?? []).slice(0, 3).map<MarginNote>((thought) => ({
      code: thought.name,
      tone: "caution",
      title: thought.name,
      text: t`Behind ${plural(thought.answers, { one: "# answer", other: "# answers" })}, as far as words can tell. ${thought.against} Ask back: ${thought.question}`,
    })),
    {
      code: "nobody",
      tone: "plain",
      title: t`No names`,
      text: t`A device makes a number for this question alone; its last answer counts. You see sums and words, never who.`,
    },
    ...(asked
      ? [
          {
            code: "kept",
            tone: "plain" as const,
            title: t`Kept until ${day(asked.removed_at.slice(0, 10))}`,
            text: t`Then it is removed. It is not part of the lab’s records or its package.`,
          },
        ]
      : []),
  ];
}

/** One question to the whole class: a vote, before and after, or on the way out. */
export function AskPage({ id }: { id: string }) {
  const { data: page, error } = useAsked(id);
  if (!page) return <Waiting title={t`Ask the class`} error={error} />;
  const [latest, ...earlier] = page.asked;
  const running = latest?.ended_at === null ? latest : undefined;
  return (
    <LabFrame
      id={id}
      lab={page}
      title={t`Ask the class`}
      links={[{ to: `/labs/${id}/plan`, name: t`Plan` }]}
      margin={<Notes notes={notesOf(latest)} />}
    >
      <Columns $left="minmax(0, 24rem)">
        <Column>
          <h1>
            <Trans>Ask the class</Trans>
          </h1>
          <Soft>
            <Trans>One question on any device: a vote, before and after, or on the way out.</Trans>
          </Soft>
          {running && <Running id={id} asked={running} mayChange={page.may_change} />}
          {page.may_change &&
            (running ? (
              <Disclosure title={t`Ask something else`} detail={t`ends this one`}>
                <AskForm id={id} page={page} />
              </Disclosure>
            ) : (
              <AskForm id={id} page={page} />
            ))}
          {!page.may_change && !running && (
            <Soft>
              <Trans>Nothing is asked now.</Trans>
            </Soft>
          )}
        </Column>
        <Column>
          {latest ? (
            <>
              <h2>{latest.text}</h2>
              <Soft aria-live="polite">{answered(latest)}</Soft>
              <Sums asked={latest} />
            </>
          ) : (
            <Soft>
              <Trans>Ask, and what the class says stands here.</Trans>
            </Soft>
          )}
          {earlier
            .filter((one) => one.devices > 0)
            .map((one) => (
              <Disclosure key={one.id} title={one.text} detail={`${day(one.asked_at.slice(0, 10))}, ${answered(one)}`}>
                <Sums asked={one} />
              </Disclosure>
            ))}
        </Column>
      </Columns>
    </LabFrame>
  );
}
