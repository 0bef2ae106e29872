import { t } from "@lingui/core/macro";
import { decimalSign, language, locale } from "./language";

const MINUS = "\u2212";
const THIN = "\u202f";

/** A number as it was typed, in volts; null where it is none yet. */
export function typedVolts(text: string, unit: string): number | null {
  const typed = Number(text.normalize("NFKC").trim().replace(",", ".").replace("\u2212", "-"));
  return text.trim() === "" || Number.isNaN(typed) ? null : unit === "mV" ? typed / 1000 : typed;
}

/** A number with a true minus sign and the reader's decimal sign. */
export function number(value: number, decimals: number, signed = false): string {
  const digits = Math.abs(value).toFixed(decimals);
  const zero = Number(digits) === 0;
  const text = digits.replace(".", decimalSign);
  if (value < 0 && !zero) return MINUS + text;
  return signed && !zero ? `+${text}` : text;
}

/** A number to so many figures, with the reader's decimal sign. */
export const figures = (value: number, many: number): string =>
  String(Number(value.toPrecision(many)))
    .replace("-", MINUS)
    .replace(".", decimalSign);

/** A voltage with a thin space before the unit. */
export function volts(value: number, decimals: number, signed = false): string {
  return `${number(value, decimals, signed)}${THIN}V`;
}

/** A current in mA, or in µA where it is small. */
export function current(ampere: number): string {
  const milli = 1000 * ampere;
  return Math.abs(milli) < 0.1
    ? `${number(1000 * milli, 0)}${THIN}µA`
    : `${number(milli, milli < 10 ? 2 : 1)}${THIN}mA`;
}

/** Typed text as typed, with a true minus sign: "-1.10" stays 1.10. */
export function asTyped(text: string, unit: string): string {
  const bare = text.replace(/\s*m?v(olts?)?\s*$/i, "").replace(/^\s*[-\u2010-\u2014\u2212]\s*/, MINUS);
  return unit ? `${bare}${THIN}${unit}` : bare;
}

/** Decimals worth showing for a standard uncertainty: its first digit, between 2 and 3 for volts. */
export function decimalsFor(u: number | null): number {
  return u !== null && u > 0 && u < 0.005 ? 3 : 2;
}

/** Minutes and seconds since a moment, as 34:20. */
export function clock(seconds: number): string {
  const whole = Math.max(0, Math.floor(seconds));
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
}

/** Writes dates and times; made once each, since to make one takes longer than to write a page of times with it. */
const written = (options: Intl.DateTimeFormatOptions) => {
  let format: Intl.DateTimeFormat | undefined;
  return (iso: string) => (format ??= new Intl.DateTimeFormat(locale, options)).format(new Date(iso));
};

const ofDay = written({ weekday: "short", day: "numeric", month: "short", year: "numeric" });
export const day = (iso: string) => ofDay(`${iso}T12:00:00`);

/** A moment in the reader's own time: 27 Nov, 08:15. */
export const moment = written({ day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });

/** A moment with its year: 27 Nov 2026, 08:15. */
export const full = written({ dateStyle: "medium", timeStyle: "short" });

/** The time of day: 08:15. */
export const time = written({ hour: "2-digit", minute: "2-digit" });

export function today(): string {
  const now = new Date();
  return [now.getFullYear(), now.getMonth() + 1, now.getDate()].map((part) => String(part).padStart(2, "0")).join("-");
}

/** A text as a sentence goes on with it, and as one begins. German nouns keep their capitals wherever they stand. */
export const lower = (text: string) => (language === "de" ? text : text.charAt(0).toLowerCase() + text.slice(1));
export const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

const ORDINALS = [t`First`, t`Second`, t`Third`, t`Fourth`, t`Fifth`, t`Sixth`, t`Seventh`, t`Eighth`, t`Ninth`];

export function ordinal(n: number): string {
  return ORDINALS[n - 1] ?? t`No. ${n}`;
}
