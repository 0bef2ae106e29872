import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { counted } from "../../lab/standing";
import { useEffect, useRef, useState } from "react";
import { Link, Navigate, useNavigate, useParams } from "react-router";
import { Problem, type Schemas } from "../../api/client";
import { useBench } from "../../api/bench";
import { Frame } from "../../ui/Frame";
import { hasLeft } from "../../api/leaving";
import { Waiting, useLate } from "../../ui/Waiting";
import { Button, ButtonLink, MainButton, TextButton } from "../../ui/Button";
import { Column, Row, Soft } from "../../ui/layout";
import { Notes } from "../../ui/Notes";
import { usePhone } from "../../ui/usePhone";
import { moveTo, useMovesTo } from "../../ui/useMovesTo";
import { focusOn, useShortcuts } from "../../ui/useShortcuts";
import { BenchLine } from "../../lab/BenchLine";
import { notesOf } from "./benchNotes";
import { CellBench } from "./CellBench";
import { CellLine } from "./CellLine";
import { Leave } from "./Leave";
import { MeterCheck, MeterSays } from "./MeterCheck";
import { TimeLeft } from "./TimeLeft";
import { useOutbox } from "../../lab/useOutbox";

type Bench = Schemas["BenchOut"];
type Cell = Bench["cells"][number];

const NONE: Cell[] = [];
const STANDS_MS = 800;
/** `stands`: what is done once the bench has been drawn. */
type Stands = { stands: () => void };

/** A group's bench; nothing of it once the group has left this device. */
export function BenchPage({ stands }: Stands) {
  return hasLeft() ? <Navigate to="/join" replace /> : <JoinedBench stands={stands} />;
}

/** The cells in order, one at a time. */
function JoinedBench({ stands }: Stands) {
  const bench = useBench();
  const { number } = useParams();
  const navigate = useNavigate();
  const cells = bench.data?.cells ?? NONE;
  const outbox = useOutbox(bench.data);
  const here = Number(number ?? "0") - 1;
  const unsent = outbox.waiting.filter((one) => !one.sent).length;
  const sent = unsent === 0;
  const onPhone = usePhone();
  const field = useRef<HTMLInputElement>(null);
  const heading = useRef<HTMLHeadingElement>(null);
  useMovesTo(here < 0 ? null : here, heading);
  const [checking, setChecking] = useState<boolean | null>(null);
  const late = useLate(!sent);

  const joined = bench.data !== undefined;
  useEffect(() => {
    if (joined) setTimeout(stands, STANDS_MS); // also for who goes on to the notebook at once
  }, [joined, stands]);

  useShortcuts((key) => {
    const step = key === "ArrowLeft" ? -1 : key === "ArrowRight" ? 1 : 0;
    const to = here + step;
    if (step === 0 || to < 0 || to >= cells.length) return false;
    navigate(`/bench/${to + 1}`);
    return true;
  });

  if (!bench.data) {
    if (bench.error instanceof Problem && bench.error.status === 401) return <Navigate to="/join" replace />;
    return <Waiting title={t`Bench`} error={bench.error} />;
  }
  const first = cells.findIndex((cell) => counted(cell).length < bench.data.wanted);
  if (number === undefined && cells.length > 0)
    return <Navigate to={`/bench/${(first === -1 ? cells.length - 1 : first) + 1}`} replace />;
  const cell = cells[here];
  const unchecked =
    bench.data.state === "open" && checking === null && !bench.data.meter && here === 0 && cell?.readings.length === 0;
  // A page from the offline store carries an old time; only what the server has just said tells how this clock stands.
  const away = outbox.trouble?.status === 0;
  const skewMs = away ? 0 : Date.parse(bench.data.now) - bench.dataUpdatedAt;
  const alike = new Set(cells.map((one) => one.short)).size === 1;
  return (
    <Frame
      title={t`${bench.data.group}, cell ${here + 1}`}
      lab={t`${bench.data.group} · cell ${here + 1} of ${cells.length}`}
      about={
        <>
          {bench.data.lab}
          {bench.data.simulated && t` · some readings simulated`}
        </>
      }
      line={
        <CellLine
          here={here}
          cells={cells.map((one) => ({
            id: one.id,
            short: one.level && alike ? one.level.text : one.short,
            done: counted(one).length >= bench.data.wanted,
          }))}
        />
      }
      who={
        <>
          {bench.data.state === "open" && <TimeLeft lab={bench.data} fetchedAt={bench.dataUpdatedAt} />}
          <strong role="status">
            {!outbox.looked ? t`Checking what is sent` : sent ? t`All readings sent` : t`${unsent} not sent yet`}
          </strong>
          <small>
            {(!onPhone || bench.data.state !== "open") && (
              <>
                <Link to="/practise">
                  <Trans>Practise</Trans>
                </Link>{" "}
                ·{" "}
              </>
            )}
            <Leave group={bench.data.group} groupId={bench.data.group_id} waiting={outbox.waiting} />
          </small>
        </>
      }
      notice={<BenchLine bench={bench.data} outbox={outbox} />}
      margin={<Notes notes={notesOf(bench.data, cell, outbox, late, skewMs, () => setChecking(true))} />}
    >
      {cell ? (
        <CellBench
          key={cell.id}
          cell={cell}
          bench={bench.data}
          meterCheck={
            checking || (unchecked && !onPhone) ? (
              <MeterCheck
                outbox={outbox}
                pressed={checking === true}
                done={() => {
                  setChecking(false);
                  moveTo(heading.current);
                  focusOn(field.current);
                }}
              />
            ) : checking === false ? (
              <MeterSays meter={bench.data.meter} />
            ) : null
          }
          checkFirst={
            unchecked && onPhone ? (
              <TextButton onPress={() => setChecking(true)}>
                <Trans>Check the meter first</Trans>
              </TextButton>
            ) : null
          }
          outbox={outbox}
          field={field}
          heading={heading}
          onward={
            here + 1 < cells.length ? (
              <MainButton onPress={() => navigate(`/bench/${here + 2}`)}>
                <Trans>On to cell {here + 2}</Trans>
              </MainButton>
            ) : null
          }
          next={
            <Row>
              {here > 0 && (
                <Button onPress={() => navigate(`/bench/${here}`)} aria-label={t`The cell before`}>
                  <Trans>← Cell {here}</Trans>
                </Button>
              )}
              {here + 1 < cells.length && (
                <Button onPress={() => navigate(`/bench/${here + 2}`)} aria-label={t`The next cell`}>
                  <Trans>Cell {here + 2} →</Trans>
                </Button>
              )}
            </Row>
          }
        />
      ) : (
        <Column>
          <h1>
            <Trans>There is no cell {number}</Trans>
          </h1>
          <Soft>
            <Trans>Your group has {plural(cells.length, { one: "# cell", other: "# cells" })}.</Trans>
          </Soft>
          <p>
            <ButtonLink to="/bench">
              <Trans>To your next cell</Trans>
            </ButtonLink>
          </p>
        </Column>
      )}
    </Frame>
  );
}
