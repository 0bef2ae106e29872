import { t } from "@lingui/core/macro";

/** What is seen of a load and done with a pack: the words that are kept, as they are read. */
const WORDS: Record<string, string> = {
  dark: t`dark`,
  "glows in the dark": t`glows in the dark`,
  "glows by day": t`glows by day`,
  bright: t`bright`,
  nothing: t`nothing`,
  sounds: t`sounds`,
  shows: t`shows`,
  turns: t`turns`,
  runs: t`runs`,
  open: t`open`,
  joined: t`joined`,
  "taken off": t`taken off`,
  shorted: t`shorted`,
  stirred: t`stirred`,
  "topped up": t`topped up`,
  left: t`left`,
};

export const packWord = (kept: string): string => WORDS[kept] ?? kept;
