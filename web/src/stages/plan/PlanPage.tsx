import { Link, useNavigate } from "react-router";
import { useLab, useOpenLab } from "../../api/queries";
import { Frame } from "../../app/Frame";
import { StageLine, reached } from "../../app/StageLine";
import { Waiting } from "../../app/Waiting";
import { count, day } from "../../format";
import { MainButton } from "../../ui/Button";
import { Column, Num, Soft, Spread } from "../../ui/layout";
import { Bullets, type MarginNote, Notes } from "../../ui/Notes";
import { ProblemNote } from "../../ui/ProblemNote";
import { Lanes } from "./Lanes";
import { useNames } from "./useNames";

/** A lab's plan: who measures what, whether it fits, the cautions, and the button that lets groups in. */
export function PlanPage({ id }: { id: string }) {
  const lab = useLab(id);
  const names = useNames();
  const open = useOpenLab();
  const navigate = useNavigate();
  if (!lab.data) return <Waiting title="Plan" error={lab.error} />;
  const { title, date, state, stage, groups, join_code, minutes, notes, cautions, electrolytes, simulated } = lab.data;
  const isOpen = state === "open";
  const caution: MarginNote = {
    code: "cautions",
    tone: "caution",
    title: "Before you open it",
    text: <Bullets items={cautions} />,
  };
  return (
    <Frame
      title={`Plan, ${title}`}
      lab={title}
      about={day(date)}
      line={<StageLine lab={id} stage={reached(stage)} here="Plan" />}
      who={
        <>
          <strong>Teacher bench</strong>
          <small>
            {state === "draft" ? "draft, not open to groups" : isOpen ? `open, code ${join_code}` : "closed"}
          </small>
        </>
      }
      margin={<Notes notes={[caution, ...notes]} />}
    >
      <Column>
        <Spread>
          <h1>Who measures what</h1>
          {isOpen ? (
            <p>
              Open. Groups join with <Num>{join_code}</Num>. <Link to={`/labs/${id}/board`}>To the board</Link>
            </p>
          ) : (
            <MainButton onPress={() => open.mutate(id, { onSuccess: () => navigate(`/labs/${id}/board`) })}>
              {state === "draft" ? "Open the bench" : "Open the bench again"}
            </MainButton>
          )}
        </Spread>
        <ProblemNote problem={open.error} />
        <Soft>
          {count(groups.length, "group")}, {minutes} minutes, in {electrolytes.map(names.liquid).join(" and ")}. The
          bold cell is shared by all groups.{simulated && " This lab belongs to the demo."}
        </Soft>
        <Lanes
          lanes={groups.map(({ name, pin, cells }) => ({ name, detail: `PIN ${pin}`, cells }))}
          liquid={names.liquid}
        />
      </Column>
    </Frame>
  );
}
