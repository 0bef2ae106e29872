import { Trans } from "@lingui/react/macro";
import type { Schemas } from "../../api/client";
import { useAskAgain, useGiveCell } from "../../api/room";
import { TextButton } from "../../ui/Button";
import { Soft } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";

type Board = Schemas["BoardOut"];

/** Seconds into the lab at a moment. */
export const into = (board: Board, at: string) =>
  board.opened_at ? (Date.parse(at) - Date.parse(board.opened_at)) / 1000 : 0;

/** Ask the group for a new reading of a cell; it appears on their bench. */
export function AskAgain({ cell, asked }: { cell: string; asked: boolean }) {
  const ask = useAskAgain();
  if (asked)
    return (
      <Soft>
        <Trans>A new reading is asked for.</Trans>
      </Soft>
    );
  return (
    <>
      <TextButton onPress={() => ask.mutate(cell)}>
        <Trans>Ask for a new reading</Trans>
      </TextButton>
      <ProblemNote problem={ask.error} />
    </>
  );
}

/** Take a cell off a group that is behind. */
export function Relieve({ relief }: { relief: Schemas["ReliefOut"] }) {
  const give = useGiveCell();
  return (
    <>
      <TextButton onPress={() => give.mutate({ cell: relief.cell, group: relief.group })}>
        <Trans>
          Give {relief.short} to {relief.name}
        </Trans>
      </TextButton>
      <ProblemNote problem={give.error} />
    </>
  );
}
