import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useDeferredValue, useMemo, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useCreateLab, useLab, useLabStart, usePreview, useReviseLab } from "../../api/labs";
import { useMaterials } from "../../api/materials";
import { Frame } from "../../ui/Frame";
import { ProblemNote } from "../../ui/ProblemNote";
import { Waiting } from "../../ui/Waiting";
import { ButtonLink, MainButton, TextButton } from "../../ui/Button";
import { Column, Columns, Row, Soft } from "../../ui/layout";
import { Bullets, type MarginNote, Notes, ToneMark } from "../../ui/Notes";
import { colour, narrow } from "../../ui/theme";
import { useKept } from "../../ui/useKept";
import { Lanes } from "./Lanes";
import { withoutActions } from "../../lab/planNotes";
import { Planned } from "./Planned";
import { SetupForm } from "./SetupForm";
import { type Typed, begun, fromLab, isEnough, planOf, withTemplate } from "./setup";
import { useNames } from "../../lab/useNames";

/** Beside the form, with a rule down to its end; what is in it stays in view while the form is scrolled. */
const Beside = styled.div`
  & > section {
    position: sticky;
    top: 0;
    max-height: 100vh;
    overflow-y: auto;
  }
  ${narrow} {
    & > section {
      position: static;
      max-height: none;
    }
  }
`;

/** Whether it fits, and keeping it: at the foot of the screen however long the form is. */
const Foot = styled.div`
  position: sticky;
  z-index: 2;
  bottom: 0;
  padding: 0.6rem 0;
  border-top: 1px solid ${colour.hairline};
  background: ${colour.page};
`;

const Verdict = styled.strong`
  display: inline-flex;
  gap: 0.4em;
  align-items: baseline;
  svg {
    flex: none;
  }
`;

/** What the address asks a new lab to begin with: a ready one, or a group's question and the cell it was asked at. */
function askedFor(search: URLSearchParams, begin: Schemas["StartOut"]) {
  const [question, plates, liquids] = ["question", "plates", "liquids"].map((name) => search.get(name) ?? "");
  const template = begin.templates.find((one) => one.key === search.get("template"));
  return {
    ...(template ? withTemplate(begun(begin), template, begin) : begun(begin)),
    ...(question && { question }),
    ...(plates && { plates: plates.split(",") }),
    ...(liquids && { liquids: liquids.split(",") }),
  };
}

type Props = { lab: Schemas["LabOut"] | null; materials: Schemas["MaterialsOut"]; begin: Schemas["StartOut"] };

/** Choose question, materials, groups and minutes, and see at once who measures what and whether it fits. */
function Setup({ lab, materials, begin }: Props) {
  const names = useNames();
  const search = useSearchParams()[0];
  const about = search.get("question") ?? search.get("template") ?? "";
  const [start] = useState(() => (lab ? fromLab(lab) : askedFor(search, begin)));
  const [kept, setTyped, forget] = useKept<Typed>(lab ? `setup:${lab.id}` : `new-lab${about && `:${about}`}`, start);
  const typed = useMemo(() => ({ ...start, ...kept }), [start, kept]);
  const [cameBack, setCameBack] = useState(() => JSON.stringify(typed) !== JSON.stringify(start));
  const plan = useMemo(() => planOf(typed), [typed]);
  const complete = isEnough(plan);
  const asked = useDeferredValue(complete ? { ...plan, title: t`Preview`, question: "", kept: "" } : null);
  const preview = usePreview(asked, lab?.id);
  const create = useCreateLab();
  const revise = useReviseLab();
  const navigate = useNavigate();
  const shown = complete && preview.data && !preview.error ? preview.data : null;
  const instead = !complete ? null : preview.error ? t`No plan can be shown for this.` : t`Planning …`;
  // What was said of an earlier state is not said of this one.
  const stale = preview.isPlaceholderData;
  const verdict = stale ? undefined : (shown?.notes.find((one) => one.tone === "wrong") ?? shown?.notes[0]);
  const saving = create.isPending || revise.isPending;
  const title = lab ? t`Change the lab` : t`Plan a lab`;
  const done = (id: string, said: string[]) => {
    navigate(`/labs/${id}/plan`, { state: { said } });
    setTimeout(forget);
  };
  const keep = () => {
    if (!plan) return;
    const body = { ...plan, title: typed.title, seen: typed.seen ?? "" };
    if (lab)
      revise.mutate(
        { id: lab.id, body },
        {
          onSuccess: (answer) => done(lab.id, answer.said),
          // Once said, the next press keeps what is typed here.
          onError: (error) =>
            error.body.code === "changed_elsewhere" && setTyped((before) => ({ ...start, ...before, seen: "" })),
        },
      );
    else create.mutate(body, { onSuccess: (made) => done(made.id, []) });
  };
  return (
    <Frame
      title={title}
      lab={lab?.title ?? t`New lab`}
      about={t`draft, not open to groups`}
      margin={
        shown ? (
          stale ? (
            <Soft>
              <Trans>Planning …</Trans>
            </Soft>
          ) : (
            <Notes notes={[...moved(shown.said), ...withoutActions(shown.notes)]} />
          )
        ) : (
          <Soft>{instead ?? t`Choose two plates and one liquid to see whether it fits.`}</Soft>
        )
      }
    >
      <Columns $left="minmax(0, 31rem)">
        <Column>
          <h1>{title}</h1>
          {cameBack && (
            <p role="status">
              {lab
                ? t`You began to change this lab; what you typed is here, and not kept yet.`
                : t`You began this lab earlier; what you typed is here, and not kept yet.`}{" "}
              <TextButton
                onPress={() => {
                  setTyped(start);
                  setCameBack(false);
                }}
              >
                {lab ? t`Show it as it is kept` : t`Begin a new one instead`}
              </TextButton>
            </p>
          )}
          <SetupForm
            typed={typed}
            change={(change) => setTyped((before) => ({ ...start, ...before, ...change }))}
            materials={materials}
            start={begin}
            fresh={lab === null}
            safety={shown && !stale ? withoutActions(shown.safety) : []}
            onSubmit={keep}
          >
            <ProblemNote problem={create.error ?? revise.error ?? preview.error} />
            <Foot>
              <Row>
                <MainButton type="submit" isDisabled={!complete}>
                  {saving ? t`One moment…` : t`Keep this plan`}
                </MainButton>
                {lab && (
                  <ButtonLink to={`/labs/${lab.id}/plan`}>
                    <Trans>Back to the plan</Trans>
                  </ButtonLink>
                )}
                {verdict && (
                  <Verdict>
                    <ToneMark tone={verdict.tone} /> {verdict.title}
                  </Verdict>
                )}
              </Row>
            </Foot>
          </SetupForm>
        </Column>
        <Beside>
          <Column tabIndex={0} role="region" aria-label={t`Who measures what`}>
            <h2>
              <Trans>Who measures what</Trans>
            </h2>
            {shown && asked ? (
              <>
                {shown.plan.counts.some((cell) => cell.shared) && (
                  <Soft>
                    <Trans>The bold cell is shared: every group measures it, so groups can be compared.</Trans>
                  </Soft>
                )}
                <Lanes
                  lanes={shown.hands.map((cells, index) => ({
                    name: (stale ? undefined : asked.groups[index]?.trim()) ?? t`Group ${index + 1}`,
                    cells,
                  }))}
                  names={names}
                />
              </>
            ) : (
              <Soft>
                {instead ?? t`The cells of each group appear here as soon as there are plates, a liquid and a group.`}
              </Soft>
            )}
          </Column>
        </Beside>
      </Columns>
    </Frame>
  );
}

const moved = (said: string[]): MarginNote[] =>
  said.length === 0 ? [] : [{ code: "said", tone: "plain", title: t`This would move`, text: <Bullets items={said} /> }];

export function NewLabPage() {
  const materials = useMaterials();
  const begin = useLabStart();
  if (!materials.data || !begin.data) return <Waiting title={t`Plan a lab`} error={materials.error ?? begin.error} />;
  return <Setup lab={null} materials={materials.data} begin={begin.data} />;
}

/** The same for a draft that is kept: its cells are planned anew around what is pinned. */
export function SetupPage({ id }: { id: string }) {
  const lab = useLab(id);
  const materials = useMaterials();
  const begin = useLabStart();
  if (!lab.data || !materials.data || !begin.data)
    return <Waiting title={t`Change the lab`} error={lab.error ?? materials.error ?? begin.error} />;
  if (lab.data.state !== "draft") return <Planned lab={lab.data} />;
  return <Setup lab={lab.data} materials={materials.data} begin={begin.data} />;
}
