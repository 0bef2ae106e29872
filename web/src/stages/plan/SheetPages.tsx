import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useLab } from "../../api/labs";
import { useCards, useKit, useSafety, useSignOff } from "../../api/sheets";
import { ProblemNote } from "../../ui/ProblemNote";
import { Waiting } from "../../ui/Waiting";
import { Button, ButtonLink, MainButton, MainLink } from "../../ui/Button";
import { Tick } from "../../ui/controls";
import { full } from "../../format";
import { Column, OnScreen, Row, Soft, Spread } from "../../ui/layout";
import { type MarginNote, Notes } from "../../ui/Notes";
import { print } from "../../ui/theme";
import { BenchCards } from "./Cards";
import { KitSheet } from "./KitSheet";
import { Matrices } from "./Matrices";
import { PlanFrame } from "./PlanFrame";
import { RoomPlan } from "./RoomPlan";
import { SafetySheet } from "./SafetySheet";

const Part = styled.section`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0.8rem;
  & + & {
    margin-top: 2rem;
    break-before: page;
    ${print} {
      margin-top: 0;
    }
  }
`;

const Print = () => (
  <OnScreen>
    <Button onPress={() => window.print()}>
      <Trans>Print</Trans>
    </Button>
  </OnScreen>
);

/** What to fetch and to make. */
export function KitPage({ id }: { id: string }) {
  const lab = useLab(id);
  const kit = useKit(id);
  if (!lab.data || !kit.data) return <Waiting title={t`Kit and mixing`} error={lab.error ?? kit.error} />;
  const missing = [...kit.data.plates, ...kit.data.vessels].filter((line) => line.short > 0);
  const notes: MarginNote[] = [
    missing.length > 0
      ? {
          code: "missing",
          tone: "caution",
          title: t`${plural(missing.length, { one: "# thing", other: "# things" })} missing`,
          text: missing.map((line) => `${line.short} × ${line.name}`).join(", ") + ".",
          action: (
            <Link to={`/labs/${id}/plan`}>
              <Trans>Plan around it</Trans>
            </Link>
          ),
        }
      : {
          code: "missing",
          tone: "plain",
          title: t`Nothing known to be missing`,
          text: t`Counts come from your cupboard.`,
        },
    {
      code: "cupboard",
      tone: "plain",
      title: t`Your cupboard`,
      text: t`How many plates you have, what they cost, and materials of your own.`,
      action: (
        <Link to="/materials">
          <Trans>To the cupboard</Trans>
        </Link>
      ),
    },
  ];
  return (
    <PlanFrame lab={lab.data} here="kit" margin={<Notes notes={notes} />}>
      <Column>
        <Spread>
          <h1>
            <Trans>Kit and mixing</Trans>
          </h1>
          <Row>
            <a href={`/api/labs/${id}/kit.csv`} download>
              <Trans>As a table (CSV)</Trans>
            </a>
            <Print />
          </Row>
        </Spread>
        <KitSheet kit={kit.data} />
      </Column>
    </PlanFrame>
  );
}

function historyOf(safety: Schemas["SafetyOut"]): MarginNote {
  return {
    code: "history",
    tone: "plain",
    title: t`Signed off before`,
    text:
      safety.history.length === 0 ? (
        t`Not yet.`
      ) : (
        <ul>
          {safety.history.map((one) => (
            <li key={one.at}>
              {one.teacher}, {full(one.at)}
              {one.current ? t`, this sheet` : t`, an earlier one`}
            </li>
          ))}
        </ul>
      ),
  };
}

/** What on the sheet is not for this class, and because of what. */
const refusedBecause = (safety: Schemas["SafetyOut"]) =>
  safety.entries
    .filter((entry) => entry.refused)
    .map((entry) => `${entry.because.join(", ")}: ${entry.text}`)
    .join(" ");

/** Who signed this sheet, and when. */
function latestOf(safety: Schemas["SafetyOut"]): string {
  const one = safety.history.find((row) => row.current);
  return one ? t`By ${one.teacher}, ${full(one.at)}.` : "";
}

/** The safety sheet, and the signature without which no group is let in. */
export function SafetyPage({ id }: { id: string }) {
  const lab = useLab(id);
  const safety = useSafety(id);
  const sign = useSignOff();
  const [read, setRead] = useState(false);
  if (!lab.data || !safety.data) return <Waiting title={t`Safety`} error={lab.error ?? safety.error} />;
  const { refused, signed, fingerprint, entries } = safety.data;
  const first: MarginNote = refused
    ? {
        code: "refused",
        tone: "wrong",
        title: t`This plan is not for students`,
        text: entries
          .filter((entry) => entry.refused)
          .map((entry) => entry.text)
          .join(" "),
      }
    : signed
      ? {
          code: "signed",
          tone: "good",
          title: t`Signed off`,
          text: t`A change of material, age or activity asks again.`,
        }
      : {
          code: "unsigned",
          tone: "caution",
          title: t`Not signed off yet`,
          text: t`Read the sheet, then sign at its end. Until then no group can be let in.`,
        };
  return (
    <PlanFrame lab={lab.data} here="safety" margin={<Notes notes={[first, historyOf(safety.data)]} />}>
      <Column>
        <Spread>
          <h1>
            <Trans>Safety sheet</Trans>
          </h1>
          <Print />
        </Spread>
        <SafetySheet safety={safety.data} />
        <ProblemNote problem={sign.error} />
        {refused ? (
          <OnScreen>
            <p role="status">
              <Trans>
                <strong>This sheet cannot be signed off:</strong> {refusedBecause(safety.data)} No group can be let in
                with this plan.
              </Trans>
            </p>
            <ButtonLink to={`/labs/${id}/setup`}>
              <Trans>Change the materials or the age</Trans>
            </ButtonLink>
          </OnScreen>
        ) : signed ? (
          <OnScreen>
            <p role="status">
              <Trans>
                <strong>✓ Signed off.</strong> {latestOf(safety.data)} A change of material, age or activity asks again.
              </Trans>
            </p>
            <MainLink to={`/labs/${id}/plan`}>
              <Trans>To the plan</Trans>
            </MainLink>
          </OnScreen>
        ) : (
          <OnScreen>
            <Tick isSelected={read} onChange={setRead}>
              <Trans>I have read this sheet, and I follow my school’s own rules.</Trans>
            </Tick>
            <MainButton isDisabled={!read} onPress={() => sign.mutate({ id, fingerprint })}>
              {sign.isPending ? t`One moment…` : t`Sign off the safety sheet`}
            </MainButton>
          </OnScreen>
        )}
      </Column>
    </PlanFrame>
  );
}

/** One card a group. */
export function CardsPage({ id }: { id: string }) {
  const lab = useLab(id);
  const cards = useCards(id);
  if (!lab.data || !cards.data) return <Waiting title={t`Bench cards`} error={lab.error ?? cards.error} />;
  const notes: MarginNote[] = [
    {
      code: "paper",
      tone: "plain",
      title: t`A4 or Letter, black and white`,
      text: t`One card a page. The square code opens the join page on the group’s device.`,
    },
    {
      code: "address",
      tone: "caution",
      title: t`Can the devices reach it?`,
      text: t`The code says ${cards.data.address}. If you print on another machine than the one that serves the class, open this page by the address the students will use.`,
    },
  ];
  return (
    <PlanFrame lab={lab.data} here="cards" margin={<Notes notes={notes} />}>
      <Column>
        <OnScreen>
          <Spread>
            <h1>
              <Trans>Bench cards</Trans>
            </h1>
            <Print />
          </Spread>
        </OnScreen>
        <BenchCards cards={cards.data} />
      </Column>
    </PlanFrame>
  );
}

/** Plan, kit, mixing, safety and cards as one print. */
export function PrintPage({ id }: { id: string }) {
  const lab = useLab(id);
  const kit = useKit(id);
  const safety = useSafety(id);
  const cards = useCards(id);
  if (!lab.data || !kit.data || !safety.data || !cards.data)
    return <Waiting title={t`Print all`} error={lab.error ?? kit.error ?? safety.error ?? cards.error} />;
  const { plan, settings, title } = lab.data;
  return (
    <PlanFrame lab={lab.data} here="print">
      <Column>
        <Spread>
          <h1>{title}</h1>
          <Print />
        </Spread>
        <Part>
          {settings.question && <h2>{settings.question}</h2>}
          {settings.kept && (
            <Soft>
              <Trans>Kept the same: {settings.kept}.</Trans>
            </Soft>
          )}
          {plan && (
            <>
              <Matrices plan={plan} change={null} press="more" />
              <RoomPlan lab={lab.data} plan={plan} edit={null} />
            </>
          )}
        </Part>
        <Part>
          <h1>
            <Trans>Kit and mixing</Trans>
          </h1>
          <KitSheet kit={kit.data} />
        </Part>
        <Part>
          <h1>
            <Trans>Safety sheet</Trans>
          </h1>
          <SafetySheet safety={safety.data} />
        </Part>
        <Part>
          <BenchCards cards={cards.data} />
        </Part>
      </Column>
    </PlanFrame>
  );
}
