import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useOpenLab } from "../../api/labs";
import { useJoinLink } from "../../api/sheets";
import { counted } from "../../lab/standing";
import { TextButton } from "../../ui/Button";
import { Num, Soft } from "../../ui/layout";
import type { MarginNote } from "../../ui/Notes";
import { ProblemNote } from "../../ui/ProblemNote";
import { AskAgain, Relieve } from "./boardParts";
import { earlyNotes } from "./EarlyGroups";
import { questionNotes } from "./Questions";
import { ShowValues } from "./RoomControls";

type Board = Schemas["BoardOut"];

const Code = styled.p`
  font-size: 1.5rem;
  font-weight: 700;
`;

function Joining({ board }: { board: Board }) {
  const link = useJoinLink(board.id).data;
  return (
    <>
      <Code>
        <Num>{board.join_code}</Num>
      </Code>
      <p>
        <Trans>
          Groups go to <Num>{link?.shown ?? `${window.location.host}/join`}</Num> and type this code and their PIN.
        </Trans>
      </p>
      {link?.here_only && (
        <Soft>
          <Trans>Only this computer can open that. For phones, stop Pipette and start it with --in-class.</Trans>
        </Soft>
      )}
    </>
  );
}

/** Closing is taken back here, away from the button that closes: a second press of that one does nothing. */
function OpenAgain({ id }: { id: string }) {
  const open = useOpenLab();
  return (
    <>
      <TextButton onPress={() => open.mutate(id)}>
        <Trans>Open the bench again</Trans>
      </TextButton>
      <ProblemNote problem={open.error} />
    </>
  );
}

/** Why to see a group, the weightiest reason first, each with what can be done about it from here. */
function Reasons({ visit, cells }: { visit: Board["visits"][number]; cells: Schemas["BoardCell"][] }) {
  return (
    <>
      {visit.reasons.map(({ code, cell, text, relief }) => (
        <div key={code + text}>
          <p>{text}</p>
          {cell && <AskAgain cell={cell} asked={cells.some((one) => one.id === cell && one.asked)} />}
          {relief && <Relieve relief={relief} />}
        </div>
      ))}
    </>
  );
}

/** What the board's margin says: whom to see, what is asked, how to join, how far all are. */
export function notesOf(board: Board): MarginNote[] {
  const cells = board.groups.flatMap((group) => group.cells);
  const entries = cells.reduce((sum, cell) => sum + Math.min(board.wanted, counted(cell).length), 0);
  const done = cells.filter((cell) => counted(cell).length >= board.wanted).length;
  const notes: MarginNote[] = board.common.map(({ code, tone, text }) => ({
    code: `common-${code}`,
    tone,
    title: t`The whole class`,
    text,
  }));
  const seen: MarginNote[] = board.visits.map((visit) => ({
    code: `visit-${visit.reasons[0]?.code}-${visit.group}`,
    tone: visit.reasons[0]?.tone ?? "plain",
    title: visit.group,
    text: <Reasons visit={visit} cells={cells} />,
  }));
  notes.push(...seen);
  if (board.more_visits > 0)
    notes.push({
      code: "more-visits",
      tone: "plain",
      title: plural(board.more_visits, { one: "# more group waits", other: "# more groups wait" }),
      text: t`They come up here when those above are seen to.`,
    });
  notes.push(...questionNotes(board), ...earlyNotes(board));
  if (board.state === "open")
    notes.push({ code: "join", tone: "plain", title: t`Join code`, text: <Joining board={board} /> });
  if (board.state === "closed")
    notes.push({
      code: "closed",
      tone: "plain",
      title: t`The bench is closed`,
      text: t`What groups measured while it was open still comes in. Nothing new can be typed.`,
      action: <OpenAgain id={board.id} />,
    });
  if (board.state === "draft")
    notes.push({
      code: "draft",
      tone: "caution",
      title: t`Not open yet`,
      text: t`Groups cannot join until you open the bench.`,
    });
  notes.push({
    code: "coverage",
    tone: "plain",
    title: t`${entries} of ${cells.length * board.wanted} readings`,
    text: t`${done} of ${plural(cells.length, { one: "# cell", other: "# cells" })} have all ${board.wanted}.`,
  });
  if (board.state === "open")
    notes.push({
      code: "values",
      tone: "plain",
      title: board.show_values ? t`Class values are shown` : t`Class values are covered`,
      text: board.show_values
        ? t`A group sees the others’ values of a cell once it has its own.`
        : t`Groups see only their own.`,
      action: <ShowValues board={board} />,
    });
  if (board.simulated)
    notes.push({
      code: "simulated",
      tone: "plain",
      title: t`Simulated`,
      text: t`The demo’s readings come from a simulator with a fixed seed.`,
    });
  return notes;
}
