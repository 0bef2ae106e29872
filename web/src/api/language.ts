import { PUT, dataOf } from "./client";
import { useChange } from "./queries";
import type { Language } from "../language";

/** Read Pipette in another language from here on: kept on this device and with the account. */
export const useLanguageChange = () =>
  useChange((language: Language) => dataOf(PUT("/api/language", { body: { language } })));
