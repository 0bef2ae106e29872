import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "../api/client";
import { useSetAside } from "../api/room";
import { TextButton } from "../ui/Button";
import { ProblemNote } from "../ui/ProblemNote";
import { SetAside } from "./SetAside";

type Reading = Pick<Schemas["ReadingOut"], "id" | "aside" | "standing" | "corrected_by">;

/** Whether a reading is left out by its verdict until somebody says so. */
export const leftOut = (reading: Pick<Reading, "standing">) =>
  reading.standing === "impossible" || reading.standing === "turned";

/** Whether a reading does not count, for whatever reason: it is drawn struck through. */
export const struck = (reading: Reading) => reading.corrected_by !== null || Boolean(reading.aside) || leftOut(reading);

/** The readings of a cell that count. */
export const counted = <R extends Reading>({ readings }: { readings: R[] }): R[] =>
  readings.filter((one) => !struck(one));

/** Why a reading does not count yet, or what speaks against it; empty where nothing does. */
export function standingOf(reading: Pick<Schemas["ReadingOut"], "standing" | "why">): string {
  if (reading.standing === "impossible" || reading.standing === "turned") return t`does not count yet: ${reading.why}`;
  return reading.standing === "doubtful" ? t`doubtful: ${reading.why}` : "";
}

/** The teacher has looked at it: a reading that is left out counts from now on. */
export function CountIt({ id, before }: { id: string; before?: () => void }) {
  const set = useSetAside();
  return (
    <>
      <TextButton
        onPress={() => {
          before?.();
          set.mutate({ kind: "readings", id, reason: "" });
        }}
      >
        <Trans>Count it all the same</Trans>
      </TextButton>
      <ProblemNote problem={set.error} />
    </>
  );
}

/** Whether a reading counts, and what can be done about it. */
export function DoesItCount({ reading, before }: { reading: Reading; before?: () => void }) {
  if (reading.corrected_by) return null;
  return (
    <>
      {leftOut(reading) && !reading.aside && <CountIt id={reading.id} before={before} />}
      <SetAside kind="readings" id={reading.id} aside={reading.aside} before={before} />
    </>
  );
}
