import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Link } from "react-router";
import styled from "styled-components";
import { useBoard } from "../../api/room";
import { useJoinLink } from "../../api/sheets";
import { Waiting } from "../../ui/Waiting";
import { JoinCode } from "../../ui/JoinCode";
import { Num, Spread } from "../../ui/layout";
import { onTheWall } from "../../ui/wall";
import { RoomLanes } from "./RoomLanes";
import { TimeLeft } from "./TimeLeft";
import { counted } from "../../lab/standing";

/** A third larger than on the desk, with nothing that is for the teacher alone. */
const Wall = styled.main`
  padding: 0.7rem 1.2rem;
  ${onTheWall(1.32)}
  && :is(small, .small) {
    font-size: 0.93rem;
  }
  h1 {
    font-size: 1.25rem;
  }
`;

const Head = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto;
  align-items: baseline;
  gap: 0.3rem 1.6rem;
`;

const Join = styled.div`
  display: flex;
  align-items: center;
  gap: 0.8rem;
  text-align: right;
`;

const Big = styled(Num)`
  font-size: 1.5rem;
  font-weight: 700;
`;

/** The room for the back row: lanes, time left and the join code; no PINs and no names of who is behind. */
export function BoardProjector({ id }: { id: string }) {
  const board = useBoard(id);
  const join = useJoinLink(id);
  if (!board.data) return <Waiting title={t`Board`} error={board.error} />;
  const { data } = board;
  const link = join.data;
  const cells = data.groups.flatMap((group) => group.cells);
  const entries = cells.reduce((sum, cell) => sum + Math.min(data.wanted, counted(cell).length), 0);
  return (
    <Wall>
      <title>{t`Projector, ${data.title} · Pipette`}</title>
      <Head>
        <h1>{data.title}</h1>
        {data.join_code ? (
          <Join>
            <span>
              {link && !link.here_only && (
                <>
                  <Num>{link.shown}</Num>
                  <br />
                </>
              )}
              <Trans>
                join with <Big>{data.join_code}</Big>
              </Trans>
            </span>
            {link && !link.here_only && <JoinCode link={link} size="5.2rem" />}
          </Join>
        ) : (
          <span />
        )}
        <Big as="div">
          <TimeLeft lab={data} fetchedAt={board.dataUpdatedAt} />
        </Big>
      </Head>
      <RoomLanes board={data} picked={null} pick={() => undefined} wall />
      <Spread>
        <p>
          <Trans>
            <Num>{entries}</Num> of <Num>{cells.length * data.wanted}</Num> readings
          </Trans>
        </p>
        <Link to={`/labs/${id}/board`}>
          <Trans>Back to the board</Trans>
        </Link>
      </Spread>
    </Wall>
  );
}
