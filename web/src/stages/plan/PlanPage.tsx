import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { Link, useLocation, useNavigate } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useCopyLab, useLab, useOpenLab } from "../../api/labs";
import { ProblemNote } from "../../ui/ProblemNote";
import { Waiting } from "../../ui/Waiting";
import { today } from "../../format";
import { Button, ButtonLink, MainButton, MainLink } from "../../ui/Button";
import { Disclosure, Picks, Progress } from "../../ui/controls";
import { Column, Num, Row, Soft, Spread } from "../../ui/layout";
import { Bullets, type MarginNote, Notes } from "../../ui/Notes";
import { Foreseen } from "./Foreseen";
import { HowItGoes } from "./HowItGoes";
import { Lanes } from "./Lanes";
import { Matrices } from "./Matrices";
import type { Change, Count } from "./Matrix";
import { PlanFrame } from "./PlanFrame";
import { withActions } from "../../lab/planNotes";
import { Rename } from "./Rename";
import { ShareLab } from "./ShareLab";
import { RoomPlan } from "./RoomPlan";
import { Times } from "./Times";
import { useNames } from "../../lab/useNames";
import { usePlanEdits } from "./usePlanEdits";

const Presses = styled.div`
  width: 15rem;
  padding-top: 1.4rem;
`;

const PRESSES = [
  { key: "more", name: t`one group more` },
  { key: "fewer", name: t`one fewer` },
  { key: "ban", name: t`never this cell` },
  { key: "unwish", name: t`as the plan likes` },
];

/** What stands in the margin of a plan: the latest change, what the core says, and what is to do before opening. */
function marginOf(lab: Schemas["LabOut"], edits: ReturnType<typeof usePlanEdits>): MarginNote[] {
  const draft = lab.state === "draft";
  const notes: MarginNote[] = [];
  if (edits.said.length > 0)
    notes.push({
      code: "said",
      tone: "plain",
      title: t`Just changed`,
      text: (
        <div role="status">
          <Bullets items={edits.said} />
        </div>
      ),
    });
  notes.push(
    ...withActions(
      lab.notes,
      draft
        ? ({ kind, cell, times, group }) =>
            edits.change({ kind: kind as Schemas["EditIn"]["kind"], cell, times, group })
        : null,
    ),
  );
  if (draft)
    notes.push({
      code: "sign",
      tone: lab.signed ? "good" : "caution",
      title: lab.signed ? t`Safety sheet signed off` : t`Before you open it`,
      text: lab.signed ? t`A change of material or age asks again.` : <Bullets items={lab.cautions} />,
      action: <Link to={`/labs/${lab.id}/safety`}>{lab.signed ? t`Read it again` : t`Sign off the safety sheet`}</Link>,
    });
  return notes;
}

/** A lab's plan: which cells and how many groups measure each, who does what when, whether it fits. */
export function PlanPage({ id }: { id: string }) {
  const lab = useLab(id);
  const names = useNames();
  const open = useOpenLab();
  const copy = useCopyLab();
  const came = useLocation().state as { said?: string[] } | null;
  const edits = usePlanEdits(id, came?.said ?? []);
  const navigate = useNavigate();
  const [press, setPress] = useState<Change>("more");
  if (!lab.data) return <Waiting title={t`Plan`} error={lab.error} />;
  const { state, groups, settings, plan, signed, title, simulated } = lab.data;
  const draft = state === "draft";
  const cellOf = ({ negative, electrolyte, positive, condition }: Count) => ({
    negative,
    electrolyte,
    positive,
    condition,
  });
  const shared = groups[0]?.cells.find((cell) => cell.shared)?.short;
  return (
    <PlanFrame lab={lab.data} here="plan" margin={<Notes notes={marginOf(lab.data, edits)} />}>
      <Column>
        <Spread>
          <h1>{draft ? t`Which cells, and how many groups measure each` : t`Who measures what`}</h1>
          {state === "open" ? (
            <p>
              <Trans>
                Open. Groups join with <Num>{lab.data.join_code}</Num>.{" "}
                <Link to={`/labs/${id}/board`}>To the board</Link>
              </Trans>
            </p>
          ) : draft && !signed ? (
            <MainLink to={`/labs/${id}/safety`}>
              <Trans>Sign off the safety sheet</Trans>
            </MainLink>
          ) : (
            <MainButton onPress={() => open.mutate(id, { onSuccess: () => navigate(`/labs/${id}/board`) })}>
              {draft ? t`Open the bench` : t`Open the bench again`}
            </MainButton>
          )}
        </Spread>
        <ProblemNote problem={open.error ?? edits.problem ?? copy.error} />
        {settings.question && (
          <p>
            <strong>{settings.question}</strong>{" "}
            {settings.kept && (
              <>
                <Trans>Kept the same: {settings.kept}.</Trans>
              </>
            )}
          </p>
        )}
        <Soft>
          <Trans>
            {plural(groups.length, { one: "# group", other: "# groups" })}, {settings.minutes} minutes.
          </Trans>
          {shared && t` ${shared} goes to every group, so groups can be compared.`}
          {simulated && t` This lab belongs to the demo.`}
        </Soft>
        {plan && (
          <Matrices
            plan={plan}
            change={draft ? (cell, kind) => edits.change({ kind, cell: cellOf(cell) }) : null}
            press={press}
          >
            {draft && (
              <Presses>
                <Picks
                  label={t`A press on a square means`}
                  hint={t`Or walk with the arrow keys and press + or −. A dashed frame marks a number you asked for.`}
                  options={PRESSES}
                  value={press}
                  onChange={(key) => setPress(key as Change)}
                />
              </Presses>
            )}
          </Matrices>
        )}
        <Spread>
          <h2>
            <Trans>Who does what, when</Trans>
          </h2>
          {draft && (
            <Row>
              <Button onPress={edits.improve} isDisabled={edits.round > 0}>
                <Trans>Look for a better plan</Trans>
              </Button>
              <Button onPress={() => edits.change({ kind: "anew" })}>
                <Trans>Plan anew</Trans>
              </Button>
              {plan?.counts.some((cell) => cell.wished) && (
                <Button onPress={() => edits.change({ kind: "clear" })}>
                  <Trans>Clear my wishes</Trans>
                </Button>
              )}
              {lab.data.last_change && (
                <Button onPress={() => edits.change({ kind: "undo" })}>
                  <Trans>Take back the last change</Trans>
                </Button>
              )}
            </Row>
          )}
        </Spread>
        {edits.round > 0 && <Progress label={t`Looking for a better plan`} value={edits.round} of={edits.rounds} />}
        {plan ? (
          <RoomPlan
            lab={lab.data}
            plan={plan}
            edit={
              draft
                ? ({ kind, cell, group, to }) =>
                    edits.change({
                      kind,
                      group,
                      to,
                      cell: {
                        negative: cell.negative,
                        electrolyte: cell.electrolyte,
                        positive: cell.positive,
                        condition: cell.condition,
                      },
                    })
                : null
            }
          />
        ) : (
          <Lanes
            lanes={groups.map(({ name, pin, cells }) => ({ name, detail: pin && t`PIN ${pin}`, cells }))}
            names={names}
          />
        )}
        {state !== "closed" && <Foreseen lab={id} edits={draft ? edits : null} />}
        {lab.data.lesson && <HowItGoes lesson={lab.data.lesson} />}
        {state !== "closed" && (
          <Disclosure title={t`Minutes`} detail={t`steps, a late start, a break`}>
            <Times id={id} settings={settings} />
          </Disclosure>
        )}
        <Row>
          <ButtonLink to={`/labs/${id}/setup`}>
            {draft ? t`Change question, materials or groups` : t`Change title or question`}
          </ButtonLink>
          {[false, true].map((anew) => (
            <Button
              key={String(anew)}
              onPress={() =>
                copy.mutate(
                  { id, body: { title: t`${title}, copy`.slice(0, 120), date: today(), anew } },
                  { onSuccess: (made) => navigate(`/labs/${made.id}/plan`) },
                )
              }
            >
              {anew ? t`Copy, planned anew` : t`Copy this lab`}
            </Button>
          ))}
          {settings.packs && (
            <ButtonLink to={`/labs/${id}/power`}>
              <Trans>What will packs run?</Trans>
            </ButtonLink>
          )}
          <ButtonLink to={`/labs/${id}/ask`}>
            <Trans>Ask the class</Trans>
          </ButtonLink>
          <ButtonLink to={`/labs/${id}/practise`}>
            <Trans>Practice as homework</Trans>
          </ButtonLink>
          {draft && <Rename id={id} title={title} />}
        </Row>
        <ShareLab lab={id} />
      </Column>
    </PlanFrame>
  );
}
