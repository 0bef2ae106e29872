import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "../../api/client";
import { useNewCode } from "../../api/room";
import { TextButton } from "../../ui/Button";
import type { MarginNote } from "../../ui/Notes";
import { ProblemNote } from "../../ui/ProblemNote";

/** Where somebody may be guessing PINs: that it is so, and another code at a press; afterwards, which one it is. */
export function useGuessed(board: Schemas["BoardOut"] | undefined): MarginNote | null {
  const renew = useNewCode();
  if (!board) return null;
  if (renew.isSuccess)
    return {
      code: "guessed",
      tone: "good",
      title: t`The new code is ${renew.data.code}`,
      text: t`Groups that are in stay in. Who joins from now on types this one; the old one opens nothing.`,
    };
  if (board.wrong_pins === 0) return null;
  return {
    code: "guessed",
    tone: "caution",
    title: t`${board.wrong_pins} wrong PINs in the last hour`,
    text: t`Somebody may be guessing. Groups that are in go on; new devices have to wait. A new code ends it: who joins after that needs the new one.`,
    action: (
      <>
        <TextButton isDisabled={renew.isPending} onPress={() => renew.mutate(board.id)}>
          <Trans>Give the lab a new code</Trans>
        </TextButton>
        <ProblemNote problem={renew.error} />
      </>
    ),
  };
}
