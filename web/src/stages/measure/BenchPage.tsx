import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { counted } from "../../lab/standing";
import { useEffect, useRef, useState } from "react";
import { Link, Navigate, useNavigate, useParams } from "react-router";
import { Problem, type Schemas } from "../../api/client";
import { type Pending, only } from "../../api/outbox";
import { useBench } from "../../api/bench";
import { Frame } from "../../ui/Frame";
import { keepForOffline } from "../../api/offline";
import { hasLeft } from "../../api/leaving";
import { Waiting, useLate } from "../../ui/Waiting";
import { volts } from "../../format";
import { Button, ButtonLink, MainButton, TextButton } from "../../ui/Button";
import { Column, Row, Soft } from "../../ui/layout";
import { Bullets, type MarginNote, Notes } from "../../ui/Notes";
import { usePhone } from "../../ui/usePhone";
import { moveTo, useMovesTo } from "../../ui/useMovesTo";
import { focusOn, useShortcuts } from "../../ui/useShortcuts";
import { BenchLine } from "../../lab/BenchLine";
import { CellBench } from "./CellBench";
import { CellLine } from "./CellLine";
import { Leave } from "./Leave";
import { MeterCheck, MeterSays } from "./MeterCheck";
import { TimeLeft } from "./TimeLeft";
import { type Outbox, useOutbox } from "../../lab/useOutbox";

type Bench = Schemas["BenchOut"];
type Cell = Bench["cells"][number];

/** A device's clock this far from the server's is remarked on. */
const SKEW_MS = 120_000;
const NONE: Cell[] = [];

/** What is known of the group's meter, and the way to check it. */
function meterNote(bench: Bench, outbox: Outbox, check: () => void): MarginNote {
  const again = <TextButton onPress={check}>{bench.meter ? t`Check the meter again` : t`Check the meter`}</TextButton>;
  if (only(outbox.waiting, "check").some((one) => one.refusal === null))
    return { code: "meter", tone: "plain", title: t`Meter check not sent yet`, text: t`It is safe on this device.` };
  if (!bench.meter)
    return {
      code: "meter",
      tone: "caution",
      title: t`Meter not checked`,
      text: t`Two numbers show whether it can be trusted. You may measure without.`,
      action: again,
    };
  const { tone, text, do: next } = bench.meter;
  return { code: "meter", tone, title: t`Your meter`, text: `${text} ${next}`, action: again };
}

/** The other groups' values of this cell, covered until this group has its own. */
function othersNote(bench: Bench, cell: Cell): MarginNote {
  const title = t`Other groups’ values`;
  if (!cell.others)
    return {
      code: "others",
      tone: "plain",
      title,
      text: bench.covered
        ? t`stay covered until your teacher shows them.`
        : t`stay covered until your ${bench.wanted} are in, or until another group has this cell.`,
    };
  const { groups, mean_v, low_v, high_v } = cell.others;
  const range = groups > 1 ? t`, from ${volts(low_v, 2)} to ${volts(high_v, 2)}` : "";
  return {
    code: "others",
    tone: "plain",
    title,
    text: t`${volts(mean_v, 2)} on average, ${plural(groups, { one: "# group", other: "# groups" })}${range}.`,
  };
}

/** An entry in a few words: a number as typed, a text, or what kind of thing it is. */
function described(one: Pending): string {
  if (one.kind === "reading" || one.kind === "load" || one.kind === "prediction")
    return `${one.body.text} ${one.body.unit}`;
  if (one.kind === "note" || one.kind === "question") return `“${one.body.text}”`;
  if (one.kind === "actual") return one.body.text;
  if (one.kind === "packEntry") return one.body.text || t`a cell of a pack`;
  if (one.kind === "chain") return one.body.text || t`a vote`;
  return {
    check: t`the meter check`,
    photo: t`a photograph`,
    trace: t`a logger’s file`,
    runFile: t`a logger’s file of a pack`,
    pack: t`a pack`,
    tried: t`a bench of the homework`,
    words: t`words of the notebook`,
    handIn: t`the notebook, handed in`,
  }[one.kind];
}

/** What the bench's margin has to say: where the numbers are, what the checks say, the meter, minus signs, cautions. */
function notesOf(
  bench: Bench,
  cell: Cell | undefined,
  outbox: Outbox,
  late: boolean,
  skewMs: number,
  check: () => void,
): MarginNote[] {
  const notes: MarginNote[] = [];
  const unsent = outbox.waiting.filter((one) => one.refusal === null && !one.sent && !one.held).length;
  const held = outbox.waiting.filter((one) => one.held && !one.sent);
  if (outbox.safety !== "kept")
    notes.push({
      code: "storage",
      tone: "wrong",
      title: outbox.safety === "full" ? t`This device is full` : t`This browser keeps nothing`,
      text: t`Pipette cannot store readings on this device${outbox.safety === "full" ? t`: its storage is full` : t` (a private window?)`}. With the network they are sent at once and are safe. Without it, keep this page open and write each number on your bench card too.`,
    });
  if (Math.abs(skewMs) > SKEW_MS)
    notes.push({
      code: "clock",
      tone: "plain",
      title: t`This device’s clock is off`,
      text: t`By ${plural(Math.round(Math.abs(skewMs) / 60_000), { one: "# minute", other: "# minutes" })}. It does not matter: Pipette goes by the server’s time.`,
    });
  if (unsent > 0 && late)
    notes.push({
      code: "waiting",
      tone: "caution",
      title: `${plural(unsent, { one: "# entry", other: "# entries" })} ${outbox.safety === "kept" ? t`safe on this device` : t`in this page only`}`,
      text: t`Go on measuring. They are sent by themselves when the network is back.`,
    });
  if (held.length > 0)
    notes.push({
      code: "held",
      tone: "caution",
      title: t`${plural(held.length, { one: "# entry", other: "# entries" })} kept here, to be offered again`,
      text: (
        <>
          {[...new Set(held.map((one) => one.held?.message))].join(" ")}
          <ul>
            {held.slice(0, 6).map((one) => (
              <li key={one.id}>{described(one)}</li>
            ))}
          </ul>
        </>
      ),
    });
  if (bench.state === "open") notes.push(meterNote(bench, outbox, check));
  if (cell) notes.push(othersNote(bench, cell));
  notes.push({
    code: "minus",
    tone: "plain",
    title: t`A minus sign?`,
    text: t`It says that red is on the negative plate. Record it as the meter shows it: it is evidence.`,
  });
  notes.push({
    code: "wrong",
    tone: "plain",
    title: t`Typed something wrong?`,
    text: t`Correct it with a new number and say why. The old one stays, struck through.`,
  });
  notes.push({
    code: "cautions",
    tone: "caution",
    title: t`Take care`,
    text: <Bullets items={cell?.cautions ?? []} />,
  });
  return notes;
}

/** A group's bench; nothing of it once the group has left this device. */
export function BenchPage() {
  return hasLeft() ? <Navigate to="/join" replace /> : <JoinedBench />;
}

/** The cells in order, one at a time. */
function JoinedBench() {
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
    if (!joined || hasLeft()) return;
    const timer = setTimeout(() => void keepForOffline(), 800);
    return () => clearTimeout(timer);
  }, [joined]);

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
