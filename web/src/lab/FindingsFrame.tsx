import { plural, t } from "@lingui/core/macro";
import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { Frame } from "../ui/Frame";
import { StageLine, type Stage, reached, STAGE_NAMES } from "./StageLine";
import { TeacherWho } from "./TeacherWho";
import { day } from "../format";

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
      title={`${STAGE_NAMES[here]}, ${title}`}
      lab={title}
      labTo={`/labs/${id}/report`}
      about={
        <>
          {day(date)}
          {simulated && ` · ${t`simulated readings`}`}
        </>
      }
      line={<StageLine lab={id} stage={reached(stage)} here={here} />}
      who={
        <TeacherWho
          about={t`${plural(group_count, { one: "# group", other: "# groups" })} · ${plural(reading_count, { one: "# reading", other: "# readings" })} · tables of ${edition}`}
          links={projector ? [{ to: projector, name: t`Projector`, anew: true }] : []}
        />
      }
      margin={margin}
      marginOnPaper
    >
      {children}
    </Frame>
  );
}
