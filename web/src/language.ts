/** Languages that Pipette speaks, each called as its own speakers call it. */
export const LANGUAGES = { en: "English", de: "Deutsch" } as const;
export type Language = keyof typeof LANGUAGES;

const LOCALES: Record<Language, string> = { en: "en-GB", de: "de-DE" };
const isKnown = (text: string): text is Language => text in LANGUAGES;
const page = globalThis.document as Document | undefined; // none in tests
const asked = (page?.documentElement as HTMLElement | undefined)?.lang ?? "en";

/** The page's language, as the server chose it for the reader; another one comes with another page. */
export const language: Language = isKnown(asked) ? asked : "en";
const own = (page?.documentElement as HTMLElement | undefined)?.dataset?.["own"];
/** Whether this page is in another language than its reader's: sheets and walls speak the lab's. */
export const borrowed = own !== undefined && own !== asked;
/** How dates and numbers are written in it. */
export const locale = LOCALES[language];
export const decimalSign = language === "de" ? "," : ".";
