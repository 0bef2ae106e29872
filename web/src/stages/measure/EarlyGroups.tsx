import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "../../api/client";
import { useDeciding } from "../../api/findings";
import { useAddCell } from "../../api/room";
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

const has = (group: Group, { cell }: Schemas["TellingOut"]) =>
  group.cells.some(
    (one) =>
      one.negative === cell.negative &&
      one.positive === cell.positive &&
      one.electrolyte === cell.electrolyte &&
      one.condition === cell.condition,
  );

/** For each early group a cell that would tell most between the accounts and that it has not measured. */
function OneMore({ board, early }: { board: Board; early: Group[] }) {
  const found = useDeciding(board.id);
  const add = useAddCell();
  const names = useNames();
  if (!found.data) return found.error ? <ProblemNote problem={found.error} /> : null;
  const here = found.data.telling.filter((one) => one.here);
  const offers = early.map((group, at) => {
    const left = here.filter((one) => !has(group, one));
    return { group, one: left[at % Math.max(1, left.length)] };
  });
  if (offers.every(({ one }) => one === undefined))
    return (
      <Soft>
        <Trans>No further cell would tell more between the accounts.</Trans>
      </Soft>
    );
  return (
    <>
      <p>
        <Trans>These cells would tell most between the accounts:</Trans>
      </p>
      {offers.map(
        ({ group, one }) =>
          one && (
            <p key={group.id}>
              <TextButton onPress={() => add.mutate({ group: group.id, cell: one.cell })} isDisabled={add.isPending}>
                <Trans>
                  Give {cellName(names, one.cell)} to {group.name}
                </Trans>
              </TextButton>
            </p>
          ),
      )}
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
