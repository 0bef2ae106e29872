import { t } from "@lingui/core/macro";
import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { day } from "../format";
import { StageLine, reached } from "./StageLine";
import { TeacherWho } from "./TeacherWho";
import { Frame } from "../ui/Frame";

type Lab = { title: string; date: string; state: string; simulated: boolean };
const STAGES = { draft: "plan", open: "measure", closed: "compare" } as const;

type Props = {
  id: string;
  lab: Lab;
  title: string;
  links?: { to: string; name: string }[];
  margin?: ReactNode;
  children: ReactNode;
};

/** The frame of what hangs off a lab's name: its notebooks, its data, its homework. */
export function LabFrame({ id, lab, title, links = [], margin, children }: Props) {
  const stage: Schemas["LabOut"]["stage"] = STAGES[lab.state as keyof typeof STAGES] ?? "plan";
  return (
    <Frame
      title={`${title}, ${lab.title}`}
      lab={lab.title}
      labTo={`/labs/${id}/report`}
      about={
        <>
          {day(lab.date)}
          {lab.simulated && t` · simulated readings`}
        </>
      }
      line={<StageLine lab={id} stage={reached(stage)} here={null} />}
      who={<TeacherWho links={links} />}
      margin={margin}
    >
      {children}
    </Frame>
  );
}
