import { useDeferredValue, useMemo } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { Problem, type Schemas } from "../../api/client";
import { useCreateLab, useLab, useMaterials, usePreview, useReviseLab } from "../../api/queries";
import { Frame } from "../../app/Frame";
import { Waiting } from "../../app/Waiting";
import { ButtonLink, MainButton } from "../../ui/Button";
import { Column, Columns, Row, Soft } from "../../ui/layout";
import { Notes } from "../../ui/Notes";
import { ProblemNote } from "../../ui/ProblemNote";
import { narrow } from "../../ui/theme";
import { useKept } from "../../ui/useKept";
import { Lanes } from "./Lanes";
import { withoutActions } from "./planNotes";
import { SetupForm } from "./SetupForm";
import { type Typed, empty, fromLab, isEnough, planOf } from "./setup";
import { useNames } from "./useNames";

/** Stays in view while the form is scrolled. */
const Beside = styled(Column)`
  position: sticky;
  top: 0;
  align-self: start;
  max-height: 100vh;
  overflow-y: auto;
  ${narrow} {
    position: static;
    max-height: none;
  }
`;

/** Choose question, materials, groups and minutes, and see at once who measures what and whether it fits. */
function Setup({ lab }: { lab: Schemas["LabOut"] | null }) {
  const materials = useMaterials();
  const names = useNames();
  const [typed, setTyped, forget] = useKept<Typed>(lab ? `setup:${lab.id}` : "new-lab", () =>
    lab ? fromLab(lab) : empty(),
  );
  const plan = useMemo(() => planOf(typed), [typed]);
  const complete = isEnough(plan);
  const preview = usePreview(useDeferredValue(complete ? { ...plan, title: "Preview" } : null));
  const create = useCreateLab();
  const revise = useReviseLab();
  const navigate = useNavigate();
  if (!materials.data) return <Waiting title="Plan a lab" error={materials.error} />;
  const refused = preview.error instanceof Problem ? preview.error : null;
  const shown = complete && preview.data && !refused ? preview.data : null;
  const saving = create.isPending || revise.isPending;
  const title = lab ? "Change the lab" : "Plan a lab";
  const done = (kept: Schemas["LabOut"]) => {
    navigate(`/labs/${kept.id}/plan`);
    setTimeout(forget);
  };
  const keep = () => {
    if (!plan) return;
    const body = { ...plan, title: typed.title };
    if (lab) revise.mutate({ id: lab.id, body }, { onSuccess: done });
    else create.mutate(body, { onSuccess: done });
  };
  return (
    <Frame
      title={title}
      lab={lab?.title ?? "New lab"}
      about="draft, not open to groups"
      margin={
        shown ? (
          <Notes notes={withoutActions(shown.notes)} />
        ) : (
          <Soft>Choose two plates and one liquid to see whether it fits.</Soft>
        )
      }
    >
      <Columns $left="minmax(0, 31rem)">
        <Column>
          <h1>{title}</h1>
          <SetupForm
            typed={typed}
            change={(change) => setTyped((before) => ({ ...before, ...change }))}
            materials={materials.data}
            templates={lab === null}
            onSubmit={keep}
          >
            <ProblemNote problem={create.error ?? revise.error ?? refused} />
            <Row>
              <MainButton type="submit" isDisabled={!complete}>
                {saving ? "One moment…" : "Keep this plan"}
              </MainButton>
              {lab && <ButtonLink to={`/labs/${lab.id}/plan`}>Back to the plan</ButtonLink>}
            </Row>
          </SetupForm>
        </Column>
        <Beside tabIndex={0} role="region" aria-label="Who measures what">
          <h2>Who measures what</h2>
          {shown && plan ? (
            <>
              <Soft>The bold cell is shared: every group measures it, so groups can be compared.</Soft>
              <Lanes
                lanes={shown.hands.map((cells, index) => ({
                  name: plan.groups[index]?.trim() ?? `Group ${index + 1}`,
                  cells,
                }))}
                liquid={names.liquid}
              />
            </>
          ) : (
            <Soft>The cells of each group appear here as soon as there are plates, a liquid and a group.</Soft>
          )}
        </Beside>
      </Columns>
    </Frame>
  );
}

export const NewLabPage = () => <Setup lab={null} />;

/** The same for a draft that is kept: its cells are planned anew around what is pinned. */
export function SetupPage({ id }: { id: string }) {
  const lab = useLab(id);
  if (!lab.data) return <Waiting title="Change the lab" error={lab.error} />;
  return <Setup lab={lab.data} />;
}
