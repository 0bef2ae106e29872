import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useBeside } from "../../api/bench";
import { useGiveCell } from "../../api/room";
import { TraceLine } from "../../charts/TraceLine";
import { asTyped, clock } from "../../format";
import { TextButton } from "../../ui/Button";
import { ToneMark } from "../../ui/Notes";
import { Heads } from "../../ui/Heads";
import { Num, Row, Soft, Table } from "../../ui/layout";
import { Scroll } from "../../ui/Scroll";
import { ProblemNote } from "../../ui/ProblemNote";
import { Select } from "../../ui/Select";
import { bathName, useNames } from "../../lab/useNames";
import { Photographs } from "./Photographs";
import { DoesItCount, standingOf, struck } from "../../lab/standing";
import { Asked } from "../../lab/Asked";
import { AskAgain, into } from "./boardParts";

type Board = Schemas["BoardOut"];
type Group = Schemas["GroupBoard"];
type Cell = Schemas["BoardCell"];

const Beside = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem 1.2rem;
  align-items: start;
`;

const Flag = styled.p`
  display: flex;
  gap: 0.5em;
  align-items: baseline;
  margin: 0.3rem 0 0.6rem;
  font-weight: 600;
  svg {
    flex: none;
  }
`;

const sameCell = (one: Cell, other: Cell) =>
  one.negative === other.negative &&
  one.electrolyte === other.electrolyte &&
  one.positive === other.positive &&
  one.condition === other.condition;

/** Give a cell that nobody has begun to another group, one that does not have it. */
function Give({ board, group, cell }: { board: Board; group: Group; cell: Cell }) {
  const give = useGiveCell();
  if (cell.begun || cell.shared || board.groups.length < 2) return null;
  const has = (one: Group) => one.cells.some((theirs) => sameCell(theirs, cell));
  const others = board.groups.filter((one) => !has(one));
  const twice = board.groups.filter((one) => one.id !== group.id && has(one)).map((one) => one.name);
  return (
    <>
      {others.length > 0 && (
        <Select
          label={t`Give this cell to`}
          options={others.map(({ id, name }) => ({ key: id, name }))}
          value=""
          onChange={(to) => give.mutate({ cell: cell.id, group: to })}
        />
      )}
      {twice.length > 0 && (
        <Soft>
          <Trans>Who has it already would measure it twice: {twice.join(", ")}</Trans>
        </Soft>
      )}
      <ProblemNote problem={give.error} />
    </>
  );
}

/** What the group keeps of the cell beside its readings. */
function BesideOf({ cell }: { cell: string }) {
  const beside = useBeside(cell);
  if (!beside.data) return <ProblemNote problem={beside.error} />;
  const { under_load, observations, questions, actuals, photos, traces } = beside.data;
  if (under_load.length + observations.length + questions.length + actuals.length + photos.length + traces.length === 0)
    return null;
  return (
    <Beside>
      {under_load.length > 0 && (
        <ul>
          {under_load.map((one) => (
            <li key={one.id}>
              <Num>{asTyped(one.text, one.unit)}</Num>{" "}
              {one.kind === "short" ? t`short-circuit current` : t`across ${one.load_ohm ?? 0} Ω`}. {one.says}
            </li>
          ))}
        </ul>
      )}
      {observations.length > 0 && (
        <ul>
          {observations.map((observation) => (
            <li key={observation.id}>“{observation.text}”</li>
          ))}
        </ul>
      )}
      {questions.length > 0 && (
        <ul>
          {questions.map((question) => (
            <li key={question.id}>
              <Asked question={question} />
            </li>
          ))}
        </ul>
      )}
      {actuals.length > 0 && (
        <ul>
          {actuals.map((actual) => (
            <li key={actual.id}>
              <Trans>
                {actual.name} was <Num>{actual.text}</Num>
              </Trans>
            </li>
          ))}
        </ul>
      )}
      {photos.length > 0 && <Photographs photos={photos} />}
      {traces.map((trace) => (
        <div key={trace.id}>
          <Soft>{trace.name}</Soft>
          <TraceLine
            points={trace.times_s.map((t, index) => [t, trace.volts_v[index] ?? 0] as const)}
            label={t`Trace ${trace.name}`}
          />
        </div>
      ))}
    </Beside>
  );
}

/** What is said of one reading. */
function remark(one: Schemas["ReadingOut"]): string {
  if (one.corrected_by) return t`corrected`;
  if (one.aside) return t`set aside: ${one.aside}`;
  const stands = standingOf(one);
  if (stands) return stands;
  if (one.after_closing) return t`came in after closing`;
  const origin = { meter: t`from the meter`, imported: t`from a file`, simulated: t`simulated` }[one.origin] ?? "";
  return one.corrects ? t`correction: ${one.reason}` : origin;
}

type Props = { board: Board; picked: string; toGroup: (id: string) => void };

/** The cell that was pressed on the board: its readings, what stands beside them, and what can be done about it. */
export function CellDetail({ board, picked, toGroup }: Props) {
  const names = useNames();
  const group = board.groups.find((one) => one.cells.some((cell) => cell.id === picked));
  const cell = group?.cells.find((one) => one.id === picked);
  if (!group || !cell) return null;
  const open = board.state === "open";
  return (
    <section aria-live="polite">
      <h2>
        <Trans>
          {group.name}, {cell.short} in {bathName(names, cell)}
        </Trans>
      </h2>
      {cell.flag && (
        <Flag>
          <ToneMark tone={cell.flag.sure === "likely" ? "wrong" : "caution"} />
          <span>{cell.flag.text}</span>
        </Flag>
      )}
      {open && (
        <Row>
          {cell.readings.length > 0 && <AskAgain cell={cell.id} asked={cell.asked} />}
          <Give board={board} group={group} cell={cell} />
        </Row>
      )}
      {cell.readings.length === 0 ? (
        <Soft>
          <Trans>No reading yet.</Trans>
        </Soft>
      ) : (
        <Scroll>
          <Table>
            <Heads of={[t`at`, t`reading`, t`red on`, t`note`, t`does it count?`]} />
            <tbody>
              {cell.readings.map((reading) => (
                <tr key={reading.id}>
                  <td>
                    <Num>{clock(into(board, reading.taken_at))}</Num>
                  </td>
                  <td>
                    <Num as={struck(reading) ? "s" : "span"}>{asTyped(reading.text, reading.unit)}</Num>
                  </td>
                  <td>{names.symbol(reading.red)}</td>
                  <td>{remark(reading)}</td>
                  <td>
                    <DoesItCount reading={reading} />
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
        </Scroll>
      )}
      <BesideOf cell={cell.id} />
      <p>
        <TextButton onPress={() => toGroup(group.id)}>
          <Trans>PIN and meter of {group.name}</Trans>
        </TextButton>
      </p>
    </section>
  );
}
