import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useCloseLab, useOpenLab } from "../../api/labs";
import { useBoard } from "../../api/room";
import { useJoinLink } from "../../api/sheets";
import { Frame } from "../../ui/Frame";
import { StageLine, reached } from "../../lab/StageLine";
import { TeacherWho } from "../../lab/TeacherWho";
import { struck } from "../../lab/standing";
import { ProblemNote } from "../../ui/ProblemNote";
import { Waiting } from "../../ui/Waiting";
import { asTyped, clock, ordinal, lower } from "../../format";
import { AskOnce } from "../../ui/AskOnce";
import { Button, ButtonLink, MainLink } from "../../ui/Button";
import { Column, Num, Row, Soft, Spread, Table } from "../../ui/layout";
import { Scroll } from "../../ui/Scroll";
import { CellDetail } from "./CellDetail";
import { GroupDetail } from "./GroupDetail";
import { questionNotes } from "./Questions";
import { RoomControls, ShowValues } from "./RoomControls";
import { counted } from "../../lab/standing";
import { AskAgain, Relieve, into } from "./boardParts";
import { type MarginNote, Notes } from "../../ui/Notes";
import { colour } from "../../ui/theme";
import { useInAddress } from "../../ui/useInAddress";
import { bathName, useNames } from "../../lab/useNames";
import { usePacksAtWork } from "./PacksAtWork";
import { RoomLanes } from "./RoomLanes";
import { useGuessed } from "./useGuessed";

type Board = Schemas["BoardOut"];

const Code = styled.p`
  font-size: 1.5rem;
  font-weight: 700;
`;

const Time = styled(Num)`
  color: ${colour.soft};
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

function notesOf(board: Board): MarginNote[] {
  const cells = board.groups.flatMap((group) => group.cells);
  const entries = cells.reduce((sum, cell) => sum + Math.min(board.wanted, counted(cell).length), 0);
  const done = cells.filter((cell) => counted(cell).length >= board.wanted).length;
  const unchecked = board.groups.filter((group) => group.meter === null);
  const notes: MarginNote[] = board.visits.map((visit) => ({
    code: `visit-${visit.code}-${visit.group}`,
    tone: visit.tone,
    title: visit.group,
    text: visit.text,
    action: visit.cell ? (
      <AskAgain cell={visit.cell} asked={cells.some((cell) => cell.id === visit.cell && cell.asked)} />
    ) : visit.relief ? (
      <Relieve relief={visit.relief} />
    ) : undefined,
  }));
  notes.push(...questionNotes(board));
  if (board.state === "open")
    notes.push({ code: "join", tone: "plain", title: t`Join code`, text: <Joining board={board} /> });
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
  if (board.state === "open" && unchecked.length > 0)
    notes.push({
      code: "unchecked",
      tone: "plain",
      title: t`${plural(unchecked.length, { one: "# meter", other: "# meters" })} not checked`,
      text: unchecked.map((group) => group.name).join(", "),
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

function JustIn({ board }: { board: Board }) {
  const names = useNames();
  if (board.just_in.length === 0)
    return (
      <Soft>
        <Trans>Readings appear here as groups record them.</Trans>
      </Soft>
    );
  return (
    <Scroll>
      <Table>
        <caption hidden>
          <Trans>The latest readings, newest first</Trans>
        </caption>
        <tbody>
          {board.just_in.map((one) => (
            <tr key={one.id}>
              <td>
                <Time>{clock(into(board, one.reading.taken_at))}</Time>
              </td>
              <td>
                <strong>{one.group}</strong>
              </td>
              <td>
                {one.cell} · {bathName(names, one)}
              </td>
              <td>
                <Num as={struck(one.reading) ? "s" : "strong"}>{asTyped(one.reading.text, one.reading.unit)}</Num>
              </td>
              <td>
                {one.reading.corrects
                  ? t`correction: ${one.reading.reason}`
                  : one.reading.aside
                    ? t`set aside: ${one.reading.aside}`
                    : t`${lower(ordinal(one.nth))} entry${one.reading.volts_v < 0 ? t`, minus sign kept` : ""}`}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
    </Scroll>
  );
}

/** The room: every group's cells and readings as they come in. */
export function BoardPage({ id }: { id: string }) {
  const board = useBoard(id);
  const close = useCloseLab();
  const open = useOpenLab();
  const packs = usePacksAtWork(id, board.data?.groups ?? []);
  const guessed = useGuessed(board.data);
  const [search, setSearch] = useInAddress();
  if (!board.data) return <Waiting title={t`Board`} error={board.error} />;
  const { title, state, groups, join_code } = board.data;
  const cell = search.get("cell");
  const group = groups.find((one) => one.id === search.get("group"));
  const toGroup = (picked: string) => setSearch({ cell: null, group: picked });
  return (
    <Frame
      title={t`Board, ${title}`}
      lab={title}
      labTo={`/labs/${id}/report`}
      about={plural(groups.length, { one: "# group", other: "# groups" })}
      line={<StageLine lab={id} stage={reached(board.data.stage)} here="Measure" />}
      who={<TeacherWho about={state === "open" ? t`open · code ${join_code ?? ""}` : state} />}
      marginTitle={board.data.visits.length > 0 ? t`Go and see` : t`In the margin`}
      margin={<Notes notes={[...(guessed ? [guessed] : []), ...notesOf(board.data), ...(packs ? [packs] : [])]} />}
    >
      <Column>
        <Spread>
          <h1>
            <Trans>The room, minute by minute</Trans>
          </h1>
          <Row>
            {state === "draft" && (
              <MainLink to={`/labs/${id}/plan`}>
                <Trans>To the plan</Trans>
              </MainLink>
            )}
            {state === "open" && <RoomControls board={board.data} />}
            {state === "open" && (
              <AskOnce
                button={t`Close the bench`}
                question={t`End recording for all groups?`}
                yes={t`Close it`}
                no={t`Keep it open`}
                act={() => close.mutate(id)}
              />
            )}
            {state === "closed" && (
              <Button onPress={() => open.mutate(id)}>
                <Trans>Open the bench again</Trans>
              </Button>
            )}
            {state === "open" && (
              <ButtonLink to={`/labs/${id}/board/projector`} reloadDocument>
                <Trans>Projector</Trans>
              </ButtonLink>
            )}
            {state !== "draft" && (
              <ButtonLink to={`/labs/${id}/compare`}>
                <Trans>Compare</Trans>
              </ButtonLink>
            )}
          </Row>
        </Spread>
        <ProblemNote problem={close.error ?? open.error} />
        {board.isError && (
          <Soft role="status">
            <Trans>The server cannot be reached just now; this is the room as it was.</Trans>
          </Soft>
        )}
        <RoomLanes
          board={board.data}
          picked={cell}
          pick={(picked) => setSearch({ cell: picked, group: null })}
          pickGroup={toGroup}
        />
        {cell && <CellDetail board={board.data} picked={cell} toGroup={toGroup} />}
        {group && <GroupDetail key={group.id} group={group} open={state === "open"} />}
        <h2>
          <Trans>Just in</Trans>
        </h2>
        <JustIn board={board.data} />
      </Column>
    </Frame>
  );
}
