import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "../../api/client";
import { useDeciding } from "../../api/findings";
import { useAddCell } from "../../api/room";
import { cellKey } from "../../lab/cellKey";
import { cellName, useNames } from "../../lab/useNames";
import { counted } from "../../lab/standing";
import { TextButton } from "../../ui/Button";
import { Soft } from "../../ui/layout";
import type { MarginNote } from "../../ui/Notes";
import { ProblemNote } from "../../ui/ProblemNote";

type Board = Schemas["BoardOut"];
type Group = Board["groups"][number];

/** Groups that have read all their cells while the lab runs. */
export const earlyOn = (board: Board) =>
  board.state === "open"
    ? board.groups.filter(
        (group) => group.cells.length > 0 && group.cells.every((cell) => counted(cell).length >= board.wanted),
      )
    : [];

type Cell = Schemas["CellIO"];

const has = (group: Group, cell: Cell) => group.cells.some((one) => cellKey(one) === cellKey(cell));

/** For each early group a cell that it has not measured: what would tell most between the accounts, else what would sharpen the
 * ladder most. */
function OneMore({ board, early }: { board: Board; early: Group[] }) {
  const found = useDeciding(board.id);
  const add = useAddCell();
  const names = useNames();
  if (!found.data) return found.error ? <ProblemNote problem={found.error} /> : null;
  const tells = found.data.telling.filter((one) => one.here).map(({ cell }) => cell);
  const offersOf = (cells: Cell[]) =>
    early.flatMap((group, at) => {
      const left = cells.filter((cell) => !has(group, cell));
      const cell = left[at % Math.max(1, left.length)];
      return cell ? [{ group, cell }] : [];
    });
  const telling = offersOf(tells);
  const offers = telling.length > 0 ? telling : offersOf(found.data.sharper);
  if (offers.length === 0)
    return (
      <Soft>
        <Trans>No further cell of this lab would tell more.</Trans>
      </Soft>
    );
  return (
    <>
      <p>
        {telling.length > 0
          ? t`What would tell most between the accounts:`
          : t`What would make the order of the plates surest:`}
      </p>
      {offers.map(({ group, cell }) => (
        <p key={group.id}>
          <TextButton onPress={() => add.mutate({ group: group.id, cell })} isDisabled={add.isPending}>
            <Trans>
              Give {cellName(names, cell)} to {group.name}
            </Trans>
          </TextButton>
        </p>
      ))}
      <ProblemNote problem={add.error} />
    </>
  );
}

/** Who is early, with one more cell each at a press. */
export function earlyNotes(board: Board): MarginNote[] {
  const early = earlyOn(board);
  if (early.length === 0) return [];
  return [
    {
      code: "early",
      tone: "plain",
      title:
        early.length === 1
          ? t`${early[0]?.name ?? ""} has read everything`
          : plural(early.length, { one: "# group has read everything", other: "# groups have read everything" }),
      text: <OneMore board={board} early={early} />,
    },
  ];
}
