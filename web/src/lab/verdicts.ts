import { t } from "@lingui/core/macro";

/** What becomes of a claim, as a sentence begins. */
export const VERDICTS = {
  fits: t`The numbers bear it out`,
  part: t`It is a part of it`,
  cancels: t`It is there, and does not make this gap`,
  cannot_tell: t`Your data cannot tell`,
  contradicted: t`The numbers speak against it`,
  held: t`The numbers answer in a moment`,
} as const;

/** The same in a word or two, for lists. */
export const IN_SHORT = {
  fits: t`agree`,
  part: t`agree in part`,
  cancels: t`it cancels`,
  cannot_tell: t`cannot tell`,
  contradicted: t`disagree`,
  held: t`in a moment`,
} as const;
