import { t } from "@lingui/core/macro";

export type Way = "more" | "less" | "same";

/** More, less or about the same, in words; than the table, or than with another level (`against`). */
export function waySaid(way: string, against: string): string {
  if (against)
    return (
      {
        more: t`more than with ${against}`,
        less: t`less than with ${against}`,
        same: t`about the same as with ${against}`,
      }[way] ?? ""
    );
  return (
    {
      more: t`The meter will show more than the table.`,
      less: t`The meter will show less than the table.`,
      same: t`The meter will show about the same as the table.`,
    }[way] ?? ""
  );
}

/** Reasons that can be tapped; anything else is typed. Kept by these keys. */
export const reasons = () => ({
  "seen before": t`we saw it at another cell`,
  "the liquid": t`of what is in the liquid`,
  "the plates": t`of what is on the plates`,
  "a guess": t`it is a guess`,
});

/** A reason for reading: what was tapped, or what was typed. */
export const becauseSaid = (because: string): string => (reasons() as Record<string, string>)[because] ?? because;
