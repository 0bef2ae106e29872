import { type Messages, i18n } from "@lingui/core";
import { language } from "../language";

type Fetch = () => Promise<{ messages: Messages }>;

const COMMON = import.meta.glob<{ messages: Messages }>("../locale/*.po");
const STAGES = import.meta.glob<{ messages: Messages }>("../stages/*/locale/*.po");

async function load(fetch: Fetch | undefined): Promise<void> {
  if (fetch) i18n.load(language, (await fetch()).messages);
}

/** Fetch what all pages say and speak the page's language; before anything is drawn, so that constants can hold sentences. */
export async function speak(): Promise<void> {
  await load(COMMON[`../locale/${language}.po`]);
  i18n.activate(language);
}

/** Fetch what the pages of a stage say; before they are. */
export const speakOf = (stage: string): Promise<void> => load(STAGES[`../stages/${stage}/locale/${language}.po`]);
