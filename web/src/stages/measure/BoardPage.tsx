import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useCloseLab } from "../../api/labs";
import { useBoard } from "../../api/room";
import { Frame } from "../../ui/Frame";
import { StageLine, reached } from "../../lab/StageLine";
import { TeacherWho } from "../../lab/TeacherWho";
import { struck } from "../../lab/standing";
import { ProblemNote } from "../../ui/ProblemNote";
import { Waiting } from "../../ui/Waiting";
import { asTyped, clock, ordinal, lower } from "../../format";
import { Button, ButtonLink, MainLink } from "../../ui/Button";
import { Column, Num, Row, Soft, Spread, Table } from "../../ui/layout";
import { Scroll } from "../../ui/Scroll";
import { CellDetail } from "./CellDetail";
import { GroupDetail } from "./GroupDetail";
import { RoomControls } from "./RoomControls";
import { notesOf } from "./boardNotes";
import { into } from "./boardParts";
import { Notes } from "../../ui/Notes";
import { colour } from "../../ui/theme";
import { useInAddress } from "../../ui/useInAddress";
import { bathName, useNames } from "../../lab/useNames";
import { usePacksAtWork } from "./PacksAtWork";
import { RoomLanes } from "./RoomLanes";
import { useGuessed } from "./useGuessed";

type Board = Schemas["BoardOut"];

const Time = styled(Num)`
  color: ${colour.soft};
`;

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
      who={
        <TeacherWho
          about={state === "open" ? t`open · code ${join_code ?? ""}` : state === "closed" ? t`closed` : t`draft`}
        />
      }
      marginTitle={board.data.visits.length + board.data.common.length > 0 ? t`Go and see` : t`In the margin`}
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
              <Button onPress={() => close.mutate(id)}>
                <Trans>Close the bench</Trans>
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
        <ProblemNote problem={close.error} />
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
