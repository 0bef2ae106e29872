import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "../../api/client";
import { useAddMinutes, usePause, useShowValues } from "../../api/room";
import { Button, TextButton } from "../../ui/Button";
import { ProblemNote } from "../../ui/ProblemNote";

type Props = { board: Schemas["BoardOut"] };
const MORE_MIN = 5;

/** The clock of the room: pause, and five minutes more. */
export function RoomControls({ board }: Props) {
  const pause = usePause();
  const more = useAddMinutes();
  return (
    <>
      <Button aria-pressed={board.paused} onPress={() => pause.mutate({ id: board.id, on: !board.paused })}>
        {board.paused ? t`Go on` : t`Pause`}
      </Button>
      <Button onPress={() => more.mutate({ id: board.id, minutes: MORE_MIN })}>
        <Trans>{MORE_MIN} min more</Trans>
      </Button>
      {more.isSuccess && more.variables.minutes > 0 && (
        <TextButton onPress={() => more.mutate({ id: board.id, minutes: -MORE_MIN })}>
          <Trans>Take the {MORE_MIN} min back</Trans>
        </TextButton>
      )}
      <ProblemNote problem={pause.error ?? more.error} />
    </>
  );
}

/** Whether groups see what the others found. */
export function ShowValues({ board }: Props) {
  const show = useShowValues();
  return (
    <>
      <TextButton onPress={() => show.mutate({ id: board.id, on: !board.show_values })}>
        {board.show_values ? t`Cover them` : t`Show them`}
      </TextButton>
      <ProblemNote problem={show.error} />
    </>
  );
}
