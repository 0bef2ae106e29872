import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { Frame } from "../ui/Frame";
import { StageLine, type Stage, reached } from "./StageLine";
import { TeacherWho } from "./TeacherWho";
import { count, day } from "../format";

type Props = {
  data: Schemas["CompareOut"];
  here: Extract<Stage, "Compare" | "Explain" | "Power">;
  projector: string | null;
  margin: ReactNode;
  children: ReactNode;
};

/** The frame of what comes after measuring: the lab, its stage, how much stands behind it, and the way to the wall. */
export function FindingsFrame({ data, here, projector, margin, children }: Props) {
  const { id, title, date, stage, simulated, group_count, reading_count, edition } = data;
  return (
    <Frame
      title={`${here}, ${title}`}
      lab={title}
      labTo={`/labs/${id}/report`}
      about={
        <>
          {day(date)}
          {simulated && " · simulated readings"}
        </>
      }
      line={<StageLine lab={id} stage={reached(stage)} here={here} />}
      who={
        <TeacherWho
          about={`${count(group_count, "group")} · ${count(reading_count, "reading")} · tables of ${edition}`}
          links={projector ? [{ to: projector, name: "Projector" }] : []}
        />
      }
      margin={margin}
      marginOnPaper
    >
      {children}
    </Frame>
  );
}
